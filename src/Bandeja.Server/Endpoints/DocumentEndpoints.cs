using System.Text.Json;
using System.Text.Json.Nodes;
using Bandeja.Acts.Designs;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Documents;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Work.Composition;
using Bandeja.Work.Documents;
using Bandeja.Work.Hosting;
using Bandeja.Work.Jobs;

namespace Bandeja.Server.Endpoints;

/// <summary>How a document is to be looked at.</summary>
/// <param name="DesignId">The letter that it is to replace; what was chosen for that letter's file holds where nothing is chosen
/// here.</param>
public sealed record DocumentQuestion(
    long? ListId = null,
    long? DesignId = null,
    IReadOnlyList<string>? Marks = null,
    IReadOnlyDictionary<string, PlaceholderAnswer>? Answers = null
);

/// <summary>Marks around placeholders.</summary>
/// <param name="Sample">The marks with the word “name” between them.</param>
/// <param name="Count">How many placeholders they mark.</param>
/// <param name="Used">True where what stands between them is taken for a placeholder.</param>
public sealed record MarksView(string Sample, int Count, bool Used);

/// <summary>A document as it would be a letter. Nothing of it is stored.</summary>
/// <param name="Pages">How many pages the program that wrote it counted; 0 where it did not say.</param>
/// <param name="Answers">What was chosen, those of the file before included.</param>
/// <param name="Version">For a letter that is replaced: its newest version, which the differences are shown against.</param>
/// <param name="Differences">For a letter that is replaced: where the texts differ.</param>
public sealed record DocumentLook(
    string Name,
    long Size,
    int Pages,
    JsonNode Letter,
    IReadOnlyList<Placeholder> Placeholders,
    IReadOnlyList<MarksView> Marks,
    IReadOnlyDictionary<string, PlaceholderAnswer> Answers,
    IReadOnlyList<ReportLine> Report,
    long? Version,
    IReadOnlyList<IReadOnlyList<TextDifference>>? Differences
);

/// <summary>A letter to make of a document.</summary>
public sealed record DocumentOrder(
    string Name,
    long? ListId = null,
    IReadOnlyList<string>? Marks = null,
    IReadOnlyDictionary<string, PlaceholderAnswer>? Answers = null
);

/// <summary>A document that replaces a letter's text.</summary>
/// <param name="BasedOn">The version that the differences were shown against.</param>
public sealed record DocumentReplacement(
    long BasedOn,
    IReadOnlyList<string>? Marks = null,
    IReadOnlyDictionary<string, PlaceholderAnswer>? Answers = null
);

/// <summary>The file a letter was imported from.</summary>
/// <param name="Version">The version that was imported from it.</param>
public sealed record DesignFileView(string Name, long Size, long Version, string At, string By);

static class DocumentEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapPost("/documents", Upload)
            .WithSummary("Bring a word processor document to the server; its bytes are the request's body")
            .WithBytesAsBody()
            .Produces<UploadView>();
        api.MapPost("/documents/{id}/look", Look).WithSummary("See a document as it would be a letter, before anything is stored");
        api.MapPost(
                "/documents/{id}/letter",
                (string id, DocumentOrder order, StartFromDocument act, Caller caller) =>
                    caller.Does(act, new(id, order.Name, new(order.ListId, order.Marks, order.Answers)))
            )
            .WithSummary("Create a letter from a document; returns its ID");
        api.MapPost(
                "/documents/{id}/replace/{designId:long}",
                (string id, long designId, DocumentReplacement order, ReplaceByDocument act, Caller caller) =>
                    caller.Does(act, new(id, designId, order.BasedOn, new(null, order.Marks, order.Answers))).Number
            )
            .WithSummary("Make a document the newest version of a letter; returns the version's number");
        api.MapGet(
                "/designs/{id:long}/file",
                (long id, DesignFiles files) =>
                    files.Newest(id) is { } f
                        ? new DesignFileView(f.Name, f.Size, f.Version, f.At, f.By)
                        : throw new NotFoundException("This letter was not imported from a file.")
            )
            .WithSummary("The file a letter was imported from");
        api.MapGet(
                "/designs/{id:long}/file/content",
                (long id, DesignFiles files, DocumentFiles documents) =>
                    files.Newest(id) is { } f
                        ? Results.File(documents.PathOf(f.Digest), "application/octet-stream", f.Name)
                        : throw new NotFoundException("This letter was not imported from a file.")
            )
            .WithSummary("The original bytes of the file a letter was imported from");
        api.MapGet(
                "/designs/{id:long}/document.docx",
                (long id, DesignStore designs, Letters letters) =>
                {
                    var design = designs.Get(id);
                    return Results.File(
                        letters.AsDocument(designs.Newest(id).DocumentJson, design.Name),
                        "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
                        $"{Core.Formulas.FileNames.Safe(design.Name, "letter", Core.Formulas.FileNames.Longest)}.docx"
                    );
                }
            )
            .WithSummary("A letter with its field codes, as a document that can be edited elsewhere and imported again");
    }

    static Task<UploadView> Upload(string name, HttpContext context, Uploads uploads, KeepDocument act, Caller caller) =>
        ArrivingFile.Take(context, uploads, name, file => caller.Does(act, file));

    static DocumentLook Look(
        string id,
        DocumentQuestion question,
        Uploads uploads,
        BroughtLetters letters,
        DocumentLetter chosen,
        DesignStore designs,
        CancellationToken cancel
    )
    {
        var upload = uploads.Get(id);
        var brought = letters.Get(id, cancel);
        var (listId, marks) = (question.ListId, question.Marks);
        var answers = new Dictionary<string, PlaceholderAnswer>();
        DesignVersionRow? newest = null;
        if (question.DesignId is { } designId)
        {
            listId = designs.Get(designId).ListId;
            newest = designs.Newest(designId);
            if (chosen.Chosen(designId) is { } before)
            {
                marks ??= before.Marks;
                foreach (var (key, answer) in before.Answers)
                    answers[key] = answer;
            }
        }
        foreach (var (key, answer) in question.Answers ?? new Dictionary<string, PlaceholderAnswer>())
            answers[key] = answer;
        var placed = letters.Place(brought, listId, marks, answers);
        return new(
            upload.Name,
            upload.Size,
            brought.Document.Pages,
            JsonNode.Parse(placed.Letter, documentOptions: new JsonDocumentOptions { MaxDepth = 512 })!,
            placed.Placeholders,
            Marks(placed, marks),
            answers,
            placed.Report,
            newest?.Number,
            newest is null ? null : LetterText.Compare(DesignReader.AsText(newest.DocumentJson), DesignReader.AsText(placed.Letter))
        );
    }

    static IReadOnlyList<MarksView> Marks(PlacedDocument placed, IReadOnlyList<string>? chosen) =>
        [
            .. placed.Marks.Select(m => new MarksView(m.Marks.Sample, m.Count, chosen?.Contains(m.Marks.Sample) ?? m.Likely)),
            // Marks that somebody typed stay in sight.
            .. (chosen ?? []).Where(s => !placed.Marks.Any(m => m.Marks.Sample == s)).Select(s => new MarksView(s, 0, true)),
        ];
}
