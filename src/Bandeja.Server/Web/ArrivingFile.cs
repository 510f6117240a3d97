using Bandeja.Acts.Lists;
using Bandeja.Work.Hosting;
using Bandeja.Work.Jobs;

namespace Bandeja.Server.Web;

/// <summary>A file that arrives as the body of a request.</summary>
static class ArrivingFile
{
    /// <summary>Writes it into the folder of uploads and has it kept; what is not kept leaves nothing behind.</summary>
    /// <param name="keep">Keeps it, or throws.</param>
    public static async Task<UploadView> Take(HttpContext context, Uploads uploads, string name, Func<ArrivedFile, UploadView> keep)
    {
        if (context.Request.ContentLength > ServerOptions.MaxUpload)
            throw new BadHttpRequestException("", 413);
        var id = Guid.NewGuid().ToString("N");
        var path = uploads.PathOf(id);
        try
        {
            await using (var file = File.Create(path))
                await context.Request.Body.CopyToAsync(file, context.RequestAborted);
            return keep(new(id, name));
        }
        catch
        {
            File.Delete(path);
            throw;
        }
    }
}
