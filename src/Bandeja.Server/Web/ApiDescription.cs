using System.Text.RegularExpressions;
using Bandeja.Store;
using Microsoft.OpenApi;

namespace Bandeja.Server.Web;

/// <summary>Describes the API (OpenAPI 3.1), from the code and from what the code says of itself.</summary>
static partial class ApiDescription
{
    /// <summary>Has the API described at <c>/api/openapi.json</c>.</summary>
    public static void AddApiDescription(this IServiceCollection services) =>
        services.AddOpenApi(
            "v1",
            o =>
                o.AddDocumentTransformer(
                        (document, _, _) =>
                        {
                            document.Info.Title = "Bandeja";
                            document.Info.Version = "1";
                            document.Servers = [];
                            foreach (var schema in document.Components?.Schemas?.Values ?? [])
                                Straighten(schema);
                            return Task.CompletedTask;
                        }
                    )
                    .AddSchemaTransformer(
                        (schema, context, _) =>
                        {
                            // Rows of the store are only ever answers, and an answer always has all its members.
                            var from = context.JsonTypeInfo.Type.Assembly;
                            if (from == typeof(Database).Assembly && schema.Properties is { } properties)
                                schema.Required = properties.Keys.ToHashSet();
                            return Task.CompletedTask;
                        }
                    )
        );

    /// <summary>What is said in the code is broken into lines as the code is; here it is a sentence.</summary>
    static void Straighten(IOpenApiSchema schema)
    {
        if (schema is { Description: { } said } and not OpenApiSchemaReference)
            schema.Description = Gap().Replace(said, " ");
        if (schema is OpenApiSchema { Properties: { } properties })
            foreach (var property in properties.Values)
                if (property.Description is { } text)
                    property.Description = Gap().Replace(text, " ");
    }

    [GeneratedRegex(@"\s*\n\s*")]
    private static partial Regex Gap();
}
