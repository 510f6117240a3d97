using Bandeja.Acts.Settings;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using Bandeja.Server.Web;
using Bandeja.Store.Designs;
using Bandeja.Work.Composition;

namespace Bandeja.Server.Endpoints;

/// <summary>A typeface that documents name, and what prints it.</summary>
/// <param name="SameWidths">True where every letter is as wide, so that lines break where they did.</param>
/// <param name="IsChosen">True where somebody chose it; false where the table that ships says so.</param>
public sealed record FaceReplacement(string Named, string Printed, bool SameWidths, bool IsChosen);

/// <summary>The typefaces that there are.</summary>
/// <param name="Families">All that can be chosen, those of the organization included.</param>
public sealed record TypefacesView(
    IReadOnlyList<string> Families,
    IReadOnlyList<TypefaceRow> Own,
    IReadOnlyList<FaceReplacement> Replacements
);

static class TypefaceEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/typefaces", View).WithSummary("The fonts, and the replacements for fonts named in documents");
        api.MapPost(
                "/typefaces",
                async (string name, HttpContext context, AddTypeface act, Caller caller) =>
                {
                    if (context.Request.ContentLength > FontFile.MostBytes)
                        throw TooLarge();
                    using var data = new MemoryStream();
                    await context.Request.Body.CopyToAsync(data, context.RequestAborted);
                    return data.Length > FontFile.MostBytes ? throw TooLarge() : caller.Does(act, new(name, data.ToArray()));
                }
            )
            .WithSummary("Add a TTF or OTF file; its bytes are the request's body")
            .WithBytesAsBody()
            .Produces<TypefaceRow>();
        api.MapDelete("/typefaces/{id:long}", (long id, RemoveTypeface act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Remove a font that no design uses");
        api.MapGet(
                "/typefaces/{id:long}/file",
                (long id, Typefaces typefaces, HttpContext context, string? digest = null) =>
                {
                    // The id of a removed typeface may come again; its digest does not.
                    context.Response.Headers.CacheControl = digest is null ? "no-store" : "private, max-age=31536000, immutable";
                    return Results.Bytes(typefaces.Bytes(id, digest), "font/ttf");
                }
            )
            .WithSummary("A font's bytes");
        api.MapPut("/typefaces/replacements", (TypefaceReplacements order, SetReplacements act, Caller caller) => caller.Does(act, order))
            .WithSummary("Set the replacements for fonts named in documents");
    }

    static TypefacesView View(Letters letters, TypefaceStore store)
    {
        var chosen = store.Replacements();
        return new(
            letters.Fonts.Families,
            store.All(),
            [
                .. chosen.Select(r => new FaceReplacement(r.Named, r.Printed, false, true)),
                .. FaceTable
                    .All.Where(f => !chosen.Any(r => r.Named.Equals(f.Named, StringComparison.OrdinalIgnoreCase)))
                    .Select(f => new FaceReplacement(f.Named, f.Printed, f.SameWidths, false)),
            ]
        );
    }

    static FontFileException TooLarge() => new($"The size limit for a font is {FontFile.MostBytes >> 20} MB.");
}
