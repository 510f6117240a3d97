using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Bandeja.Store;

namespace Bandeja.Server.Web;

/// <summary>
/// Records that two people can edit: reading one answers an entity tag, and a change says by <c>If-Match</c> which state it is based on
/// (RFC 9110, sections 8.8.3 and 13.1.1). A change that is based on a former state is refused, and nothing of it is done.
/// </summary>
static class Basis
{
    // Comparing and writing belong together; changes of settings and names are few.
    static readonly SemaphoreSlim Gate = new(1);
    static readonly JsonSerializerOptions Form = new(JsonSerializerDefaults.Web);

    /// <summary>Says of an endpoint which record it reads or changes.</summary>
    /// <param name="current">The record's state that a change is compared with.</param>
    public static RouteHandlerBuilder OfRecord(this RouteHandlerBuilder endpoint, Func<HttpContext, object?> current) =>
        endpoint.AddEndpointFilter(
            async (invocation, next) =>
            {
                var context = invocation.HttpContext;
                if (HttpMethods.IsGet(context.Request.Method))
                {
                    // The mark is taken first: what changes while the answer is made only makes the next save be asked about.
                    context.Response.Headers.ETag = Mark(current(context));
                    return await next(invocation);
                }
                await Gate.WaitAsync(context.RequestAborted);
                try
                {
                    if (context.Request.Headers.IfMatch is { Count: > 0 } basis && !basis.Contains(Mark(current(context))))
                        throw new StaleException(
                            "Someone else changed this since you opened it, so nothing was saved. Open it again to see their "
                                + "change, then make yours."
                        );
                    var result = await next(invocation);
                    if (!context.Response.HasStarted)
                        context.Response.Headers.ETag = Mark(current(context));
                    return result;
                }
                finally
                {
                    Gate.Release();
                }
            }
        );

    static string Mark(object? state) =>
        $"\"{Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(JsonSerializer.Serialize(state, Form))))[..20]}\"";

    /// <summary>A number of the route.</summary>
    public static long Number(this HttpContext context, string name) =>
        long.Parse((string)context.Request.RouteValues[name]!, System.Globalization.CultureInfo.InvariantCulture);

    /// <summary>A part of the server.</summary>
    public static T Part<T>(this HttpContext context)
        where T : notnull => context.RequestServices.GetRequiredService<T>();
}
