using System.Text.Json.Nodes;
using Bandeja.Acts.Designs;
using Bandeja.Core.Forms;
using Bandeja.Formats.Pdf;
using Bandeja.Server.Web;
using Bandeja.Store.Designs;
using Bandeja.Work.Documents;
using Bandeja.Work.Hosting;

namespace Bandeja.Server.Endpoints;

/// <summary>A form's document, and the list that its open fields are matched with.</summary>
public sealed record FormQuestion(JsonObject Document, long ListId);

static class FormEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapPost(
                "/designs/form",
                async (string name, string file, long? listId, HttpContext context, StartForm act, Caller caller) =>
                    caller.Does(act, new(name, file, await Body(context), listId, Password(context)))
            )
            .WithSummary("Start a form from a PDF; the request body is its bytes; returns its ID")
            .WithDescription(Locked)
            .WithBytesAsBody()
            .Produces<long>();
        api.MapPost(
                "/designs/{id:long}/form",
                async (long id, long basedOn, string file, HttpContext context, RenewForm act, Caller caller) =>
                    caller.Does(act, new(id, basedOn, file, await Body(context), Password(context))).Number
            )
            .WithSummary("Replace a form's PDF with a newer one; the request body is its bytes; returns the version")
            .WithDescription(Locked)
            .WithBytesAsBody()
            .Produces<long>();
        api.MapPost(
                "/designs/form/match",
                (FormQuestion question, FormFiles forms) => forms.Matched(FormReader.Read(question.Document).Facts, question.ListId)
            )
            .WithSummary("What of a list belongs into a form's fields, by the fields' names");
    }

    const string PasswordHeader = "Open-Password",
        Locked =
            $"Of a PDF that opens only with a password, this is in the header {PasswordHeader}, percent-encoded as UTF-8; without "
            + "it, or with another, the answer is 423. It is kept encrypted.";

    // Not in the address: addresses are written into logs.
    static string? Password(HttpContext context) =>
        context.Request.Headers[PasswordHeader].ToString() is { Length: > 0 and < 2_000 } given ? Uri.UnescapeDataString(given) : null;

    static Task<byte[]> Body(HttpContext context) => ArrivingBytes.Read(context, TooLarge);

    static PictureException TooLarge() => new($"A form can have {ServerOptions.MaxPicture >> 20} MB.");
}
