using System.Text.Json.Nodes;
using Bandeja.Acts.Settings;
using Bandeja.Core.Composition;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Surfaces;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Store.Devices;
using Bandeja.Store.Lists;
using Bandeja.Work.Composition;

namespace Bandeja.Server.Endpoints;

/// <summary>A stock to look at.</summary>
public sealed record StockOrder(JsonNode Stock);

/// <summary>A size of envelope, landscape, millimetres.</summary>
public sealed record EnvelopeView(string Id, string Name, double Width, double Height);

/// <summary>A sheet of labels to be seen with real recipients.</summary>
/// <param name="Sheet">Which sheet, from 1.</param>
public sealed record SheetPreviewOrder(
    JsonNode Document,
    long? ListId = null,
    long DesignId = 0,
    int Sheet = 1,
    int Start = 1,
    IReadOnlyList<int>? Spoiled = null
);

/// <summary>Whose label stands at a place of a sheet.</summary>
public sealed record SheetLabel(int Position, long RecipientId, int Number, string Name);

/// <summary>A whole sheet.</summary>
/// <param name="Pdf">The PDF, in Base64.</param>
/// <param name="Sheets">How many sheets the list comes to.</param>
public sealed record SheetPreview(string Pdf, string Mark, int Sheet, int Sheets, StockView Stock, IReadOnlyList<SheetLabel> Labels);

static class SurfaceEndpoints
{
    const int MostSheets = 200;

    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/stocks", () => LabelStock.Ready.Select(StockView.Of).ToList()).WithSummary("Standard label stocks");
        api.MapPost("/stocks/check", (StockOrder order) => StockView.Of(SurfaceReader.Stock(order.Stock)))
            .WithSummary("A custom label stock’s name and errors");
        api.MapGet("/envelopes", () => EnvelopeFormat.All.Select(f => new EnvelopeView(f.Id, f.Name, f.Width, f.Height)).ToList())
            .WithSummary("The standard sizes of envelopes");

        api.MapPost("/designs/sheet", Sheet)
            .WithSummary("Compose a whole sheet of labels, which need not be saved, with the list's recipients");
        api.MapGet(
                "/designs/{id:long}/outline.pdf",
                (long id, DesignStore designs, Letters letters, PrinterStore printers, Database database, long? printerId = null) =>
                {
                    using var c = database.Open();
                    var design = designs.Get(id);
                    var labels = Labels(letters.Bind(c, designs.Newest(id).DocumentJson, id, design.ListId)).Design.Labels!;
                    var page = Fed(LabelSheets.Outline(labels.Stock), printerId, printers);
                    return Pdf(letters, [page], $"Outline of {labels.Stock.Name}");
                }
            )
            .WithSummary("A sheet of nothing but the labels' outlines, to hold against the light behind a real one")
            .Produces(200, contentType: "application/pdf");
        api.MapGet(
                "/designs/{id:long}/sheets.pdf",
                (
                    long id,
                    DesignStore designs,
                    Letters letters,
                    PrinterStore printers,
                    Database database,
                    int sheets = 1,
                    int start = 1,
                    long? printerId = null
                ) =>
                {
                    if (sheets is < 1 or > MostSheets)
                        throw new BadInputException($"1 to {MostSheets} sheets at once.");
                    using var c = database.Open();
                    var surface = Labels(letters.Bind(c, designs.Newest(id).DocumentJson, id, null));
                    if (surface.Errors.Count > 0 || !surface.Expressions().All(SameForAll))
                        throw new ConflictException(
                            "These labels have fields, so each label differs. Full sheets without a list need labels " + "without fields."
                        );
                    var labels = surface.Design.Labels!;
                    if (new SheetStart(start).Objection(labels.Stock) is { } objection)
                        throw new BadInputException(objection);
                    var one = surface.Composer(letters.Today).Compose(new ArrayRow([]), 0);
                    var laid = new LabelSheets(labels with { GroupSource = null }, new(start));
                    var pages = new List<LaidOutPage>();
                    laid.Add(one with { Copies = sheets * labels.Stock.Count - start + 1, Group = null }, pages);
                    if (laid.Finish() is { } last)
                        pages.Add(last);
                    return Pdf(letters, [.. pages.Select(p => Fed(p, printerId, printers))], designs.Get(id).Name);
                }
            )
            .WithSummary("Sheets with one text throughout, such as return addresses")
            .Produces(200, contentType: "application/pdf");

        api.MapGet("/printers", (PrinterStore printers) => printers.All())
            .WithSummary("The printers, how they take envelopes, and their offsets");
        api.MapPost("/printers", (PrinterOrder order, SavePrinter act, Caller caller) => caller.Does(act, new(null, order)))
            .WithSummary("Add a printer; returns its ID");
        api.MapPut(
                "/printers/{id:long}",
                (long id, PrinterOrder order, SavePrinter act, Caller caller) =>
                {
                    caller.Does(act, new(id, order));
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Change a printer's name, feed or offsets");
        api.MapDelete("/printers/{id:long}", (long id, RemovePrinter act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Remove a printer");
        api.MapGet(
                "/printers/{id:long}/trial.pdf",
                (long id, string format, PrinterStore printers, Letters letters) =>
                {
                    var envelope =
                        EnvelopeFormat.All.FirstOrDefault(f => f.Id == format)
                        ?? throw new BadInputException($"“{format}” is not a known envelope size.");
                    const double unit = 72 / 25.4;
                    return Pdf(
                        letters,
                        [
                            new FeedOrder(printers.Get(id)).Envelope(
                                TrialPage.Of(envelope.Width * unit, envelope.Height * unit, letters.Fonts, letters.Locale.InInches)
                            ),
                        ],
                        "Trial print"
                    );
                }
            )
            .WithSummary("An envelope with rulers at its edges: what they show is the printer's offset")
            .Produces(200, contentType: "application/pdf");
    }

    static bool SameForAll(Expression e) =>
        e is Literal or BuiltInReference { Which: BuiltIn.Today or BuiltIn.Sender } || e.Parts().Any() && e.Parts().All(SameForAll);

    static BoundSurface Labels(IBoundDesign design) =>
        design as BoundSurface is { Design.Labels: not null } labels
            ? labels
            : throw new ConflictException("This design is not a label sheet.");

    static LaidOutPage Fed(LaidOutPage page, long? printerId, PrinterStore printers) =>
        printerId is { } id ? new FeedOrder(printers.Get(id)).Sheet(page) : page;

    static IResult Pdf(Letters letters, IReadOnlyList<LaidOutPage> pages, string title) =>
        Results.Bytes(letters.ToPdf(new ComposedPiece(pages, [], new()), title), "application/pdf", $"{title}.pdf");

    static SheetPreview Sheet(SheetPreviewOrder order, Database database, Letters letters, ListStore lists)
    {
        using var c = database.Open();
        var surface = Labels(letters.Bind(c, order.Document.ToJsonString(), order.DesignId, order.ListId));
        var labels = surface.Design.Labels!;
        var start = new SheetStart(order.Start, order.Spoiled);
        if (start.Objection(labels.Stock) is { } objection)
            throw new BadInputException(objection);
        if (order.Sheet < 1)
            throw new BadInputException("The sheet number must be 1 or more.");
        var composer = surface.Composer(letters.Today);
        var details = Letters.Details(c, surface);
        var places = new List<SheetLabel>();
        var full = new List<LaidOutPage>();
        // Where every recipient has the same number of labels, one knows whose come first on the sheet; else all before it are composed.
        var steady = labels.CopiesSource is null && labels.GroupSource is null;
        var free = start.FreeOn(labels);
        var before = order.Sheet == 1 ? 0 : free + (order.Sheet - 2) * labels.Stock.Count;
        var (from, skipped) = steady ? (before / labels.Copies, before % labels.Copies) : (0, 0);
        var laid = new LabelSheets(labels, steady && order.Sheet > 1 ? null : start);
        var wanted = steady ? 1 : order.Sheet;
        LaidOutPage? page = null;
        int done = 0,
            total = 0;
        const int batch = 500;
        for (var offset = from; order.ListId is { } list; offset += batch)
        {
            var (rows, all) = lists.Page(list, new(), null, offset, batch);
            total = all;
            foreach (var row in rows)
            {
                var composed = composer.Compose(Letters.Row(row.Id, row.Values, details), (int)row.Number);
                if (skipped > 0)
                    (composed, skipped) = (composed with { Copies = composed.Copies - skipped }, 0);
                foreach (var place in laid.Add(composed, full).Where(p => p.Sheet == wanted))
                    places.Add(
                        new(place.Position, row.Id, (int)row.Number, RecipientLabel.Of(surface.Setting.Columns, i => row.Values[i]).Name)
                    );
                foreach (var sheet in full)
                    if (++done == wanted)
                        page = sheet;
                full.Clear();
                if (steady && page is not null)
                    break;
            }
            if (rows.Count == 0 || offset + rows.Count >= all || steady && page is not null)
                break;
        }
        if (page is null && laid.Sheets == wanted)
            page = laid.Finish();
        page ??= new LaidOutPage(labels.Stock.SheetWidth * 72 / 25.4, labels.Stock.SheetHeight * 72 / 25.4, []);
        var count = total * labels.Copies;
        var sheets =
            !steady ? laid.Sheets
            : count <= free ? 1
            : 1 + (count - free + labels.Stock.Count - 1) / labels.Stock.Count;
        var pdf = letters.ToPdf([new ComposedPiece([page], [], new())], "Labels", out var marks);
        return new(Convert.ToBase64String(pdf), marks[0], order.Sheet, Math.Max(1, sheets), StockView.Of(labels.Stock), places);
    }
}
