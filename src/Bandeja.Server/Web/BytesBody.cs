using Microsoft.OpenApi;

namespace Bandeja.Server.Web;

static class BytesBody
{
    /// <summary>Describes a body of plain bytes. Whatever content type a client says is taken: the bytes tell what they are.</summary>
    public static RouteHandlerBuilder WithBytesAsBody(this RouteHandlerBuilder endpoint) =>
        endpoint.AddOpenApiOperationTransformer(
            (operation, _, _) =>
            {
                operation.RequestBody = new OpenApiRequestBody
                {
                    Required = true,
                    Content = new Dictionary<string, OpenApiMediaType>
                    {
                        ["application/octet-stream"] = new()
                        {
                            Schema = new OpenApiSchema { Type = JsonSchemaType.String, Format = "binary" },
                        },
                    },
                };
                return Task.CompletedTask;
            }
        );
}
