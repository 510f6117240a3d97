using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Formats.Pdf;
using Bandeja.Server.Composition;
using Bandeja.Server.Jobs;
using Bandeja.Server.Web;
using Bandeja.Store;

namespace Bandeja.Server.Endpoints;

/// <summary>A design as it is listed.</summary>
public sealed record DesignView(long Id, string Name, string Kind, long? ListId, long Version, string UpdatedAt, string By, IReadOnlyList<string> UsedIn);

/// <summary>A design with the text of its newest version.</summary>
public sealed record DesignDetail(long Id, string Name, long? ListId, long Version, string UpdatedAt, string By, bool Produced, IReadOnlyList<string> UsedIn, JsonNode Document);

/// <summary>A version in the list of versions.</summary>
public sealed record VersionView(long Number, string CreatedAt, string UpdatedAt, string By, bool Produced, long? RestoredFrom);

/// <summary>A design to begin. Without a document it begins as an empty page.</summary>
public sealed record NewDesign(string Name, long? ListId = null, JsonNode? Document = null);

/// <summary>What to change about a design.</summary>
public sealed record DesignChange(string? Name = null, long? ListId = null);

/// <summary>What was written, and on which version.</summary>
public sealed record DocumentChange(long BasedOn, JsonNode Document);

/// <summary>Which version to bring back.</summary>
public sealed record Restoring(long Number);

/// <summary>A document to be seen with a recipient.</summary>
/// <param name="Offset">Which recipient of the list, counted from 0.</param>
public sealed record PreviewOrder(JsonNode Document, long? ListId = null, int Offset = 0);

/// <summary>A mistake in a field.</summary>
/// <param name="Block">Zero-based paragraph.</param>
public sealed record FieldMistake(int Block, string Source, int Position, int Length, string Message, string? Suggestion);

/// <summary>A recipient's finished letter.</summary>
/// <param name="Pdf">The PDF, in Base64.</param>
public sealed record Preview(string Pdf, int Pages, string? Recipient, int Offset, int Recipients, IReadOnlyList<FieldMistake> Mistakes, IReadOnlyList<string> Findings);

static class DesignEndpoints
{
    const string EmptyLetter = """{"page":{"sheet":"letter","margins":{"top":25,"right":25,"bottom":25,"left":25}},"type":{"family":"Source Serif 4","size":11,"lineSpacing":1.35,"spaceAfter":8},"maxPages":1,"content":[{"type":"paragraph"}]}""";

    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/designs", (DesignStore designs) =>
        {
            var uses = designs.Uses().ToLookup(u => u.DesignId, u => u.Use);
            return designs.All().Select(d => new DesignView(d.Id, d.Name, d.Kind, d.ListId, d.Version, d.UpdatedAt, d.By, [.. uses[d.Id]])).ToList();
        }).WithSummary("All designs");

        api.MapPost("/designs", (NewDesign order, DesignStore designs, HttpContext context) =>
        {
            var document = order.Document?.ToJsonString() ?? EmptyLetter;
            LetterReader.Read(document);
            return designs.Create(Named(order.Name), order.ListId, document, context.Actor());
        }).WithSummary("Begin a letter; answers its id");

        api.MapGet("/designs/{id:long}", (long id, DesignStore designs) =>
        {
            var design = designs.Get(id);
            var newest = designs.Newest(id);
            return new DesignDetail(id, design.Name, design.ListId, newest.Number, newest.UpdatedAt, newest.By, newest.Produced, [.. designs.Uses().Where(u => u.DesignId == id).Select(u => u.Use)], JsonNode.Parse(newest.DocumentJson)!);
        }).WithSummary("A design and its newest text");

        api.MapPatch("/designs/{id:long}", (long id, DesignChange change, DesignStore designs) =>
        {
            designs.Change(id, change.Name is null ? null : Named(change.Name), change.ListId);
            return TypedResults.NoContent();
        }).WithSummary("Give a design another name or list");

        api.MapPut("/designs/{id:long}/document", (long id, DocumentChange change, DesignStore designs, CheckRequests checks, EventHub hub, HttpContext context) =>
        {
            var document = change.Document.ToJsonString();
            if (document.Length > 2_000_000) throw new BadInputException("A letter can have 2 million characters, formatting included.");
            LetterReader.Read(document);
            return Saved(designs.Save(id, change.BasedOn, document, context.Actor()), checks, hub);
        }).WithSummary("Save a letter's text");

        api.MapGet("/designs/{id:long}/versions", (long id, DesignStore designs) => designs.Versions(id).Select(View).ToList()).WithSummary("A design's versions, the newest first");
        api.MapGet("/designs/{id:long}/versions/{number:long}", (long id, long number, DesignStore designs) =>
            JsonNode.Parse((designs.Versions(id).FirstOrDefault(v => v.Number == number) ?? throw new NotFoundException($"This letter has no version {number}.")).DocumentJson)!).WithSummary("The text of a version");
        api.MapPost("/designs/{id:long}/restore", (long id, Restoring order, DesignStore designs, CheckRequests checks, EventHub hub, HttpContext context) =>
            Saved(designs.Restore(id, order.Number, context.Actor()), checks, hub)).WithSummary("Bring an old version back as the newest one");

        api.MapPost("/designs/preview", Show).WithSummary("Compose a letter that need not be saved, for one recipient");

        api.MapPost("/pictures", async (string name, HttpContext context, PictureFiles pictures) =>
        {
            if (context.Request.ContentLength > ServerOptions.MaxPicture) throw TooLarge();
            using var data = new MemoryStream();
            await context.Request.Body.CopyToAsync(data, context.RequestAborted);
            return data.Length > ServerOptions.MaxPicture ? throw TooLarge() : pictures.Add(Path.GetFileName(name), data.ToArray(), context.Actor());
        }).WithSummary("Bring a picture in; its bytes are the request's body").WithBytesAsBody().Produces<PictureRow>();

        api.MapGet("/pictures/{id}", (string id, PictureFiles pictures, HttpContext context) =>
        {
            var picture = pictures.Get(id) ?? throw new NotFoundException("This picture is not there.");
            context.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
            return Results.Bytes(picture.Data, picture.MediaType);
        }).WithSummary("A picture's bytes");
    }

    static string Named(string name) => string.IsNullOrWhiteSpace(name) ? throw new BadInputException("Give the letter a name.") : name.Trim()[..Math.Min(name.Trim().Length, 120)];

    static VersionView View(DesignVersionRow v) => new(v.Number, v.CreatedAt, v.UpdatedAt, v.By, v.Produced, v.RestoredFrom);

    static VersionView Saved(DesignVersionRow version, CheckRequests checks, EventHub hub)
    {
        checks.Design(version.DesignId);
        hub.Tell("design", new { Id = version.DesignId });
        return View(version);
    }

    static Preview Show(PreviewOrder order, Letters letters, ListStore lists)
    {
        var columns = order.ListId is { } id ? lists.Columns(id) : [];
        var letter = letters.Bind(order.Document.ToJsonString(), columns);
        var (rows, total) = order.ListId is { } listId ? lists.Page(listId, new(), null, Math.Max(0, order.Offset), 1) : ([], 0);
        var row = rows.FirstOrDefault();
        IRow values = new ArrayRow(row?.Values ?? []);
        var composed = new LetterComposer(letter, letters.Today).Compose(values, (int)(row?.Number ?? 1));
        var name = row is null ? null : RecipientLabel.Of(columns, i => row.Values[i]).Name;
        return new(Convert.ToBase64String(letters.ToPdf(composed, name ?? "Letter")), composed.Pages.Count, name, order.Offset, total,
            [.. letter.Errors.Select(e => new FieldMistake(e.Block, e.Source, e.Error.Position, e.Error.Length, e.Error.Message, e.Error.Suggestion))],
            [.. Finding.Of(composed, letter.Design.MaxPages).Select(f => f.Message)]);
    }

    static PictureException TooLarge() => new($"A picture can have {ServerOptions.MaxPicture >> 20} MB.");
}
