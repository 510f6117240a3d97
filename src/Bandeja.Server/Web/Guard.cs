using System.Net;
using Bandeja.Work.Hosting;

namespace Bandeja.Server.Web;

/// <summary>
/// Refuses requests from other sites and to other names: a page elsewhere must not be able to read or change anything through
/// the visitor's browser (cross-site requests, DNS rebinding), and sets the headers that keep our own pages to our own files.
/// </summary>
sealed class Guard(RequestDelegate next, ServerOptions options)
{
    const string Policy =
        "default-src 'self'; img-src 'self' blob: data:; style-src 'self' 'unsafe-inline'; font-src 'self'; connect-src 'self'; "
        + "worker-src 'self' blob:; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

    public Task Invoke(HttpContext context, Work.Mail.PublicAddress address)
    {
        var headers = context.Response.Headers;
        headers.ContentSecurityPolicy = Policy;
        headers.XContentTypeOptions = "nosniff";
        headers["Referrer-Policy"] = "no-referrer";
        headers["Cross-Origin-Opener-Policy"] = "same-origin";
        headers["Cross-Origin-Resource-Policy"] = "same-origin";
        // What is answered here is about people, and stays in no cache; what may be kept says so itself.
        if (!context.Request.Path.StartsWithSegments("/assets") && !context.Request.Path.StartsWithSegments("/paper-fonts"))
            headers.CacheControl = "no-store";
        // Under the public name recipients find the one page that is for them, and nothing else.
        var isPublic =
            context.Request.Path.StartsWithSegments("/unsubscribe")
            && address.Host is { } host
            && context.Request.Host.Host.Equals(host, StringComparison.OrdinalIgnoreCase);
        if (!isPublic && !IsOurName(context.Request.Host.Host))
            return Problems.Write(context, 403, "This server does not accept that host name.");
        if (context.Request.Path.StartsWithSegments("/api") && IsFromElsewhere(context.Request))
            return Problems.Write(context, 403, "Requests from other sites are refused.");
        return next(context);
    }

    bool IsOurName(string host) =>
        host.Equals("localhost", StringComparison.OrdinalIgnoreCase)
        || options.Names.Contains(host, StringComparer.OrdinalIgnoreCase)
        || IPAddress.TryParse(host.Trim('[', ']'), out var address) && IPAddress.IsLoopback(address);

    static bool IsFromElsewhere(HttpRequest request)
    {
        // Fetch Metadata (W3C): browsers say where a request comes from; tools such as curl say nothing and are not browsers.
        if (request.Headers["Sec-Fetch-Site"].ToString() is "cross-site" or "same-site")
            return true;
        var origin = request.Headers.Origin.ToString();
        return origin.Length > 0
            && !(
                Uri.TryCreate(origin, UriKind.Absolute, out var uri)
                && uri.Authority.Equals(request.Host.Value, StringComparison.OrdinalIgnoreCase)
            );
    }
}
