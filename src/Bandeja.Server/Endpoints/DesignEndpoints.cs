using System.Text.Json;
using System.Text.Json.Nodes;
using Bandeja.Acts.Designs;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Core.Surfaces;
using Bandeja.Formats.Pdf;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Store.Editing;
using Bandeja.Work.Composition;
using Bandeja.Work.Hosting;

namespace Bandeja.Server.Endpoints;

/// <summary>A design as it is listed.</summary>
public sealed record DesignView(
    long Id,
    string Name,
    PieceKind Kind,
    long? ListId,
    long Version,
    string UpdatedAt,
    string By,
    IReadOnlyList<string> UsedIn,
    string Description,
    IReadOnlyList<string> Tags,
    bool Archived
);

/// <summary>A design with the text of its newest version.</summary>
public sealed record DesignDetail(
    long Id,
    string Name,
    PieceKind Kind,
    long? ListId,
    long Version,
    long Revision,
    string UpdatedAt,
    string By,
    bool Produced,
    IReadOnlyList<string> UsedIn,
    JsonNode Document,
    string Description,
    IReadOnlyList<string> Tags,
    bool Archived
);

/// <summary>A version in the list of versions.</summary>
public sealed record VersionView(
    long Number,
    long Revision,
    string CreatedAt,
    string UpdatedAt,
    string By,
    bool Produced,
    long? RestoredFrom
);

/// <summary>A design to begin.</summary>
/// <param name="Document">What it begins with, which also says what it is.</param>
/// <param name="Kind">Without a document: what it is, begun blank, in the sizes of the organization's country.</param>
public sealed record NewDesign(string Name, long? ListId = null, JsonNode? Document = null, PieceKind Kind = PieceKind.Letter);

/// <summary>What a change of list left open.</summary>
public sealed record DesignChanged(int OpenNames);

/// <summary>A copy to make.</summary>
public sealed record DesignCopy(string Name);

/// <summary>What was written, and what it is based on.</summary>
/// <param name="BasedOn">The number of the version.</param>
/// <param name="Revision">Which save of that version.</param>
/// <param name="Beside">True to save it after what somebody else saved meanwhile: both stay among the versions.</param>
public sealed record DocumentChange(long BasedOn, long Revision, JsonNode Document, bool Beside = false);

/// <summary>Two texts that came from the same one.</summary>
/// <param name="Base">What both began from.</param>
/// <param name="Mine">What could not be saved.</param>
public sealed record MergeOrder(JsonNode Base, JsonNode Mine);

/// <summary>Somebody else's text, and both in one.</summary>
/// <param name="Merged">Their text with the changes of mine in it; null where both changed the same place.</param>
public sealed record MergeView(long Version, long Revision, string By, string At, JsonNode Theirs, JsonNode? Merged);

/// <summary>Which version to bring back.</summary>
public sealed record Restoring(long Number);

/// <summary>A document to be seen with a recipient.</summary>
/// <param name="Offset">Which recipient of the list, counted from 0.</param>
/// <param name="DesignId">The design it is a version of; what is remembered for it and the list holds.</param>
/// <param name="RecipientId">The recipient, instead of an offset.</param>
public sealed record PreviewOrder(JsonNode Document, long? ListId = null, int Offset = 0, long DesignId = 0, long? RecipientId = null);

/// <summary>A mistake in a field.</summary>
/// <param name="Block">Zero-based paragraph.</param>
/// <param name="Offer">The field with what was probably meant in the mistake’s place; null where that is not known.</param>
public sealed record FieldMistake(int Block, string Source, int Position, int Length, string Message, string? Suggestion, string? Offer);

/// <summary>A recipient's finished letter.</summary>
/// <param name="Pdf">The PDF, in Base64.</param>
/// <param name="Zones">For an envelope: what the post wants clear.</param>
/// <param name="Window">For a letter that a drop sends in a window envelope: where the window stands on its first page.</param>
/// <param name="PageMarks">A mark of what is drawn on each page; the same mark, the same page.</param>
/// <param name="Values">The recipient's values, in the order of the columns.</param>
/// <param name="Mail">For an email: the message.</param>
public sealed record Preview(
    string Pdf,
    int Pages,
    IReadOnlyList<MarkedArea> Zones,
    WindowArea? Window,
    IReadOnlyList<string> PageMarks,
    long? RecipientId,
    string? Recipient,
    int Offset,
    int Recipients,
    IReadOnlyList<FieldMistake> Mistakes,
    IReadOnlyList<string> Issues,
    IReadOnlyList<string?> Values,
    MailLook? Mail
);

/// <summary>Which recipient to look for: <c>longest</c> or <c>blanks</c>.</summary>
public sealed record FindOrder(JsonNode Document, long ListId, string Which, long DesignId = 0);

/// <summary>A recipient that was found, or nobody.</summary>
public sealed record Found(long? RecipientId);

/// <summary>A field to print.</summary>
/// <param name="Within">The detail rows that <c>each</c> around it goes over; then the first of them is taken.</param>
public sealed record FieldToPrint(string Source, string? Within = null);

/// <summary>Fields to print for a recipient.</summary>
public sealed record PrintOrder(IReadOnlyList<FieldToPrint> Fields, long? ListId = null, int Offset = 0, long DesignId = 0);

/// <summary>What a field comes to.</summary>
/// <param name="Wrong">Why it comes to nothing, where something is wrong.</param>
public sealed record PrintedField(string Text, string? Wrong);

/// <summary>What a name of a letter stands for; null for nothing.</summary>
public sealed record MatchOrder(long ListId, string Name, long? ColumnId);

/// <summary>What a name of detail rows in a letter stands for in a list.</summary>
/// <param name="Field">A field within the rows; null for the rows themselves.</param>
/// <param name="Target">The list's detail rows, or a column of them; null to forget it.</param>
public sealed record RowsMatchOrder(long ListId, string Name, string? Field = null, string? Target = null);

static class DesignEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet(
                "/designs",
                (DesignStore designs) =>
                {
                    var uses = designs.Uses().ToLookup(u => u.DesignId, u => u.Use);
                    return designs
                        .All()
                        .Select(d => new DesignView(
                            d.Id,
                            d.Name,
                            d.Kind,
                            d.ListId,
                            d.Version,
                            d.UpdatedAt,
                            d.By,
                            [.. uses[d.Id]],
                            d.Description,
                            Tags(d),
                            d.Archived
                        ))
                        .ToList();
                }
            )
            .WithSummary("All designs");

        api.MapPost(
                "/designs",
                (NewDesign order, StartDesign act, Caller caller) =>
                    caller.Does(act, new(order.Name, order.ListId, order.Document?.ToJsonString(), order.Kind))
            )
            .WithSummary("Create a letter, an envelope, a label sheet, or an email, as its document says or blank; returns its ID");

        api.MapGet(
                "/designs/{id:long}",
                (long id, DesignStore designs) =>
                {
                    var design = designs.Get(id);
                    var newest = designs.Newest(id);
                    return new DesignDetail(
                        id,
                        design.Name,
                        design.Kind,
                        design.ListId,
                        newest.Number,
                        newest.Revision,
                        newest.UpdatedAt,
                        newest.By,
                        newest.Produced,
                        [.. designs.Uses().Where(u => u.DesignId == id).Select(u => u.Use)],
                        JsonNode.Parse(newest.DocumentJson, documentOptions: Deep)!,
                        design.Description,
                        Tags(design),
                        design.Archived
                    );
                }
            )
            .WithSummary("A design and its newest text")
            .OfRecord(Record);

        api.MapPatch(
                "/designs/{id:long}",
                (long id, DesignChange change, ChangeDesign act, Caller caller) => new DesignChanged(caller.Does(act, new(id, change)))
            )
            .WithSummary(
                "Change a design's name, list, description, tags, or archive it; with another list its fields are matched by "
                    + "heading and role"
            )
            .OfRecord(Record);

        api.MapPost(
                "/designs/{id:long}/duplicate",
                (long id, DesignCopy copy, CopyDesign act, Caller caller) => caller.Does(act, new(id, copy.Name))
            )
            .WithSummary("Duplicate a design; returns its ID");

        api.MapGet(
                "/designs/{id:long}/matches",
                (long id, long listId, DesignStore designs, LetterBench bench) => bench.Matches(designs.Newest(id).DocumentJson, id, listId)
            )
            .WithSummary("The field names of a letter that are not headings of a list, and their matches");
        api.MapPut(
                "/designs/{id:long}/matches",
                (long id, MatchOrder order, MatchField act, Caller caller) =>
                    caller.Does(act, new(id, order.ListId, order.Name, (int?)order.ColumnId))
            )
            .WithSummary("Match a field name to a column; remembered for this letter and list");

        api.MapGet(
                "/designs/{id:long}/row-matches",
                (long id, long listId, DesignStore designs, LetterBench bench) =>
                    bench.RowsMatches(designs.Newest(id).DocumentJson, id, listId)
            )
            .WithSummary("Detail rows of a letter that a list does not have, and their matches");
        api.MapPut(
                "/designs/{id:long}/row-matches",
                (long id, RowsMatchOrder order, MatchRows act, Caller caller) =>
                    caller.Does(act, new(id, order.ListId, order.Name, order.Field, order.Target))
            )
            .WithSummary("Match a detail-row name to rows or columns of a list; remembered for this letter and list");

        api.MapPut(
                "/designs/{id:long}/document",
                (long id, DocumentChange change, SaveDesign act, Caller caller) =>
                    View(caller.Does(act, new(id, change.BasedOn, change.Revision, change.Document.ToJsonString(), change.Beside)))
            )
            .WithSummary("Save a design's document");

        api.MapPost(
                "/designs/{id:long}/merge",
                (long id, MergeOrder order, DesignStore designs) =>
                {
                    var newest = designs.Newest(id);
                    var merged = DocumentMerge.Of(order.Base.ToJsonString(), order.Mine.ToJsonString(), newest.DocumentJson);
                    return new MergeView(
                        newest.Number,
                        newest.Revision,
                        newest.By,
                        newest.UpdatedAt,
                        JsonNode.Parse(newest.DocumentJson, documentOptions: Deep)!,
                        merged is null ? null : JsonNode.Parse(merged, documentOptions: Deep)
                    );
                }
            )
            .WithSummary("What someone else has since saved, and both texts merged block by block where they do not overlap");

        api.MapGet("/designs/{id:long}/removal", (long id, Removals removals) => removals.OfDesign(id))
            .WithSummary("What removing a design would do");
        api.MapDelete("/designs/{id:long}", (long id, RemoveDesign act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Remove a design that nothing uses");
        api.MapGet("/designs/{id:long}/versions", (long id, DesignStore designs) => designs.Versions(id).Select(View).ToList())
            .WithSummary("A design's versions, the newest first");
        api.MapGet(
                "/designs/{id:long}/versions/{number:long}",
                (long id, long number, DesignStore designs) =>
                    JsonNode.Parse(
                        (
                            designs.Versions(id).FirstOrDefault(v => v.Number == number) ?? throw new NotFoundException(
                                $"This design has no version {number}."
                            )
                        ).DocumentJson,
                        documentOptions: Deep
                    )!
            )
            .WithSummary("The text of a version");
        api.MapGet(
                "/designs/{id:long}/compare",
                (long id, long from, long to, DesignStore designs) =>
                {
                    var versions = designs.Versions(id);
                    LetterDesign Version(long number) =>
                        DesignReader.AsText(
                            (
                                versions.FirstOrDefault(v => v.Number == number)
                                ?? throw new NotFoundException($"This design has no version {number}.")
                            ).DocumentJson
                        );
                    return LetterText.Compare(Version(from), Version(to));
                }
            )
            .WithSummary("Where the texts of two versions differ");
        api.MapGet(
                "/designs/{id:long}/first-page",
                (long id, DesignStore designs, LetterBench bench, Letters letters, HttpContext context) =>
                {
                    var design = designs.Get(id);
                    var shown = bench.Recipient(design.ListId, 0, null);
                    var (_, composed) = bench.Compose(designs.Newest(id).DocumentJson, id, design.ListId, shown);
                    context.Response.Headers.CacheControl = "no-cache";
                    var first = composed.Mail is { } mail ? new MailSheet(letters).Of(mail) : composed;
                    if (first.Pages.Count == 0)
                        return Results.NoContent();
                    return Results.Bytes(letters.ToPdf(first with { Pages = [first.Pages[0]] }, design.Name), "application/pdf");
                }
            )
            .WithSummary("The first page of a design as a PDF, with the first recipient of its list");
        api.MapPost(
                "/designs/{id:long}/restore",
                (long id, Restoring order, RestoreDesignVersion act, Caller caller) => View(caller.Does(act, new(id, order.Number)))
            )
            .WithSummary("Bring an old version back as the newest one");

        api.MapPost("/designs/preview", Show).WithSummary("Compose a letter that need not be saved, for one recipient");

        api.MapPost(
                "/designs/find",
                (FindOrder order, LetterBench bench) =>
                    order.Which is "longest" or "blanks"
                        ? new Found(bench.Find(order.Document.ToJsonString(), order.DesignId, order.ListId, order.Which))
                        : throw new BadInputException("The search must be “longest” or “blanks”.")
            )
            .WithSummary("The recipient with the longest letter, or one with blanks");
        api.MapPost(
                "/designs/print",
                (PrintOrder order, LetterBench bench) =>
                {
                    if (order.Fields.Count > 500)
                        throw new BadInputException("You can request up to 500 fields at a time.");
                    return bench
                        .Print(
                            order.DesignId,
                            order.ListId,
                            bench.Recipient(order.ListId, order.Offset, null),
                            [.. order.Fields.Select(f => (f.Source, f.Within))]
                        )
                        .Select(p => new PrintedField(p.Text, p.Wrong))
                        .ToList();
                }
            )
            .WithSummary("A recipient’s field values");

        api.MapGet("/pictures", (DesignStore designs) => designs.Pictures()).WithSummary("The added pictures, newest first");
        api.MapPost(
                "/pictures",
                async (string name, HttpContext context, AddPicture act, Caller caller) =>
                    caller.Does(act, new(name, await ArrivingBytes.Read(context, TooLarge)))
            )
            .WithSummary("Bring a picture in; its bytes are the request's body")
            .WithBytesAsBody()
            .Produces<PictureRow>();

        api.MapGet(
                "/pictures/{id}",
                (string id, PictureFiles pictures, HttpContext context) =>
                {
                    var picture = pictures.Get(id) ?? throw new NotFoundException("This picture no longer exists.");
                    context.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
                    // A drawing that is opened by itself must not be a page of ours.
                    context.Response.Headers.ContentSecurityPolicy = "default-src 'none'; style-src 'unsafe-inline'; sandbox";
                    return Results.Bytes(picture.Data, picture.MediaType);
                }
            )
            .WithSummary("A picture's bytes");
    }

    static object Record(HttpContext context) =>
        context.Part<DesignStore>().Get(context.Number("id")) is var d
            ? new
            {
                d.Name,
                d.ListId,
                d.Description,
                d.TagsJson,
                d.Archived,
            }
            : d;

    static VersionView View(DesignVersionRow v) => new(v.Number, v.Revision, v.CreatedAt, v.UpdatedAt, v.By, v.Produced, v.RestoredFrom);

    static readonly JsonDocumentOptions Deep = new() { MaxDepth = 512 };

    static IReadOnlyList<string> Tags(DesignRow design) => JsonSerializer.Deserialize<string[]>(design.TagsJson)!;

    static Preview Show(PreviewOrder order, Letters letters, LetterBench bench, Work.Mail.Messages messages)
    {
        var shown = bench.Recipient(order.ListId, order.Offset, order.RecipientId);
        var (letter, composed) = bench.Compose(order.Document.ToJsonString(), order.DesignId, order.ListId, shown);
        var name = shown is null ? null : RecipientLabel.Of(letter.Setting.Columns, i => shown.Values[i]).Name;
        if (composed.Mail is { } mail)
            return new(
                "",
                0,
                [],
                null,
                [],
                shown?.Id,
                name,
                shown?.Offset ?? 0,
                shown?.Total ?? 0,
                Mistakes(letter),
                [.. PieceIssue.Of(composed, null, letter.Kind).Concat(LooseFields(letter)).Select(f => f.Message)],
                shown?.Values ?? [],
                MailLook.Of(mail, messages, null)
            );
        if (composed.Omitted && letter.Size is var (width, height))
            composed = composed with { Pages = [new(width, height, [])] };
        var pdf = letters.ToPdf([composed], name ?? "Piece", out var marks);
        var behind = letter.Kind.Rules().HasPages ? bench.WindowEnvelope(order.DesignId, order.ListId) : null;
        var window = behind is null
            ? null
            : WindowCheck.OnLetter(behind.Window!, behind.Width, behind.Height, composed.Pages[0].Width, composed.Pages[0].Height);
        var issues = PieceIssue
            .Of(composed, letter.MaxPages, letter.Kind)
            .Concat(
                behind is null
                    ? []
                    : PieceIssue.OfWindow(WindowCheck.Of(composed.Pages[0], behind.Window!, behind.Width, behind.Height, letters.Locale))
            );
        return new(
            Convert.ToBase64String(pdf),
            composed.Pages.Count,
            [.. letter.Zones().Select(z => MarkedArea.Of(z.Name, z.Place))],
            window is { } w ? WindowArea.Of(w, composed.Pages[0].Width, composed.Pages[0].Height) : null,
            marks,
            shown?.Id,
            name,
            shown?.Offset ?? 0,
            shown?.Total ?? 0,
            Mistakes(letter),
            composed.Omitted
                ? [$"This recipient’s package does not include the {letter.Kind.Rules().Word}, because it would print nothing."]
                : [.. issues.Concat(LooseFields(letter)).Select(f => f.Message)],
            shown?.Values ?? [],
            null
        );
    }

    static IEnumerable<PieceIssue> LooseFields(IBoundDesign design) => PackagePieces.LooseFields($"The {design.Kind.Rules().Word}", design);

    static IReadOnlyList<FieldMistake> Mistakes(IBoundDesign design) =>
        [
            .. design.Errors.Select(e => new FieldMistake(
                e.Block,
                e.Source,
                e.Error.Position,
                e.Error.Length,
                e.Error.Message,
                e.Error.Suggestion,
                e.Offer
            )),
        ];

    static PictureException TooLarge() => new($"The size limit for a picture is {ServerOptions.MaxPicture >> 20} MB.");
}
