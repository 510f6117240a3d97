using Bandeja.Work.Hosting;

namespace Bandeja.Server.Web;

/// <summary>Bytes that arrive as the body of a request: a picture, a form, a document.</summary>
static class ArrivingBytes
{
    /// <summary>Reads them.</summary>
    /// <param name="tooLarge">What is thrown where there are more than <see cref="ServerOptions.MaxPicture"/>.</param>
    public static async Task<byte[]> Read(HttpContext context, Func<Exception> tooLarge)
    {
        if (context.Request.ContentLength > ServerOptions.MaxPicture)
            throw tooLarge();
        using var data = new MemoryStream();
        await context.Request.Body.CopyToAsync(data, context.RequestAborted);
        return data.Length > ServerOptions.MaxPicture ? throw tooLarge() : data.ToArray();
    }
}
