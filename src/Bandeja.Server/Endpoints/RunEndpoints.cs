using Bandeja.Core.Drops;
using Bandeja.Core.Surfaces;
using Bandeja.Formats.Ledger;
using Bandeja.Server.Composition;
using Bandeja.Server.Jobs;
using Bandeja.Server.Web;
using Bandeja.Store;

namespace Bandeja.Server.Endpoints;

/// <summary>Who is to be made: everyone Ready, a range of piece numbers, or the selected. Exactly one of the last two may be given.</summary>
/// <param name="Pieces">Ranges such as <c>1-200, 350</c>.</param>
/// <param name="Recipients">The selected recipients.</param>
/// <param name="Expected">For beginning a run: how many pieces the plan said; another number is refused.</param>
/// <param name="Sheets">For label sheets: where on a partly used sheet each design begins.</param>
/// <param name="PrinterId">The printer whose feed and offsets hold; null for none.</param>
public sealed record RunOrder(string? Pieces = null, IReadOnlyList<long>? Recipients = null, int? Expected = null, IReadOnlyList<SheetOrder>? Sheets = null, long? PrinterId = null);

/// <summary>Where the labels of a design begin on a partly used sheet.</summary>
/// <param name="Start">The first place, from 1, row by row.</param>
/// <param name="Spoiled">Places of the first sheet that are passed over.</param>
public sealed record SheetOrder(long DesignId, int Start = 1, IReadOnlyList<int>? Spoiled = null);

/// <summary>What one design of the package comes to.</summary>
/// <param name="Pages">Pages, envelopes, or sheets of labels.</param>
/// <param name="Labels">How many labels, copies counted; null for what is no label sheet.</param>
public sealed record PlanDesign(long DesignId, string Name, string Kind, int Pages, int? Labels, StockView? Stock, bool ByColumns = false);

/// <summary>What would be made, and who is left out. Pieces and left out add up to the list.</summary>
public sealed record PlanView(int Pieces, int Pages, int? FirstPiece, int? LastPiece, IReadOnlyList<LeftOut> LeftOut, int OnTheList, IReadOnlyList<PlanDesign> Designs);

/// <summary>When it left the building, and which pieces; without pieces all that are waiting.</summary>
public sealed record Mailing(DateOnly Date, string? Pieces = null);

static class RunEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapPost("/drops/{id:long}/plan", (long id, RunOrder order, RunStore runs, PackagePlan packages) =>
        {
            var (chosen, notChosen, _) = Choice(order);
            var plan = runs.Plan(id, chosen, notChosen);
            var designs = packages.Of(id, plan, order.Sheets ?? []);
            return new PlanView(plan.Pieces.Count, designs.Sum(d => d.Pages), plan.Pieces.FirstOrDefault()?.PieceNumber, plan.Pieces.LastOrDefault()?.PieceNumber, plan.LeftOut, plan.OnTheList, designs);
        }).WithSummary("What a run would make, and who is left out and why");

        api.MapPost("/drops/{id:long}/runs", (long id, RunOrder order, RunStore runs, DropChecker checker, JobRunner runner, Letters letters, PackagePlan packages, PrinterStore printers, EventHub hub, HttpContext context) =>
        {
            if (checker.IsStale(id)) throw new ConflictException("The pieces are still being checked against the newest version of the letter. Try again in a moment.");
            var (chosen, notChosen, text) = Choice(order);
            var designs = packages.Of(id, runs.Plan(id, chosen, notChosen), order.Sheets ?? []);
            var ask = new RunAsk((order.Sheets ?? []).ToDictionary(s => s.DesignId, s => System.Text.Json.JsonSerializer.Serialize(new SheetStart(s.Start, s.Spoiled))), order.PrinterId is { } printer ? new FeedOrder(printers.Get(printer)).ToJson() : null,
                packages.Mailers(id), designs.ToDictionary(d => d.DesignId, d => d.Pages));
            var run = runs.Begin(id, chosen, notChosen, text, order.Expected, letters.Today, context.Actor(), ask);
            runner.Ring(RunJob.Name);
            hub.Tell("drop", new { Id = id });
            return run;
        }).WithSummary("Begin a run");

        api.MapGet("/drops/{id:long}/runs", (long id, RunStore runs) => runs.OfDrop(id)).WithSummary("A drop's runs, the newest first");
        api.MapGet("/runs/{id:long}", (long id, RunStore runs) => runs.Get(id)).WithSummary("One run");
        api.MapGet("/runs/{id:long}/files/{position:long}", (long id, long position, RunStore runs, ServerOptions server) =>
        {
            var run = runs.Get(id);
            var path = RunJob.FileOf(server, id, position);
            if (run.State != "done" || run.Designs.FirstOrDefault(d => d.Position == position) is not { } design || !File.Exists(path)) throw new NotFoundException("This run has no such file to download.");
            return Results.File(path, "application/pdf", design.FileName, enableRangeProcessing: true);
        }).WithSummary("One of a run's PDFs, by its design's position in the package, from 1").Produces(200, contentType: "application/pdf");

        api.MapPost("/runs/{id:long}/mailed", (long id, Mailing order, BenchStore bench, RunStore runs, EventHub hub, Letters letters, HttpContext context) =>
        {
            if (order.Date > letters.Today.AddDays(1)) throw new BadInputException("The mail date is in the future. Record a mailing on the day it has left the building.");
            var outcome = bench.MarkMailed(id, order.Date, Range(order.Pieces), context.Actor());
            hub.Tell("drop", new { Id = runs.Get(id).DropId });
            return outcome;
        }).WithSummary("Record that a run's pieces were mailed, all or some");

        api.MapPost("/runs/{id:long}/take-back", (long id, BenchStore bench, RunStore runs, EventHub hub, HttpContext context) =>
        {
            var outcome = bench.TakeRunBack(id, context.Actor());
            hub.Tell("drop", new { Id = runs.Get(id).DropId });
            return outcome;
        }).WithSummary("Set a run's pieces aside, to be made again");

        api.MapGet("/ledger.csv", (RunStore runs, HttpContext context, long? dropId = null) => Export(context, "ledger.csv", "text/csv; charset=utf-8", s => TableExport.Csv(s, RunStore.LedgerHeadings, runs.Ledger(dropId)))).WithSummary("The ledger as CSV").Produces(200, contentType: "text/csv");
        api.MapGet("/ledger.xlsx", (RunStore runs, HttpContext context, long? dropId = null) => Export(context, "ledger.xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", s => TableExport.Xlsx(s, "Ledger", RunStore.LedgerHeadings, runs.Ledger(dropId)))).WithSummary("The ledger as a workbook").Produces(200, contentType: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet");
    }

    static IResult Export(HttpContext context, string name, string type, Action<Stream> write)
    {
        // A workbook is a ZIP archive that must be sought in, so it is made in a file that goes away by itself.
        var file = new FileStream(Path.GetTempFileName(), FileMode.Create, FileAccess.ReadWrite, FileShare.None, 1 << 16, FileOptions.DeleteOnClose);
        context.Response.RegisterForDispose(file);
        write(file);
        file.Position = 0;
        return Results.Stream(file, type, name);
    }

    static PieceRange? Range(string? text)
    {
        if (text is null) return null;
        return PieceRange.Parse(text, out var error) ?? throw new BadInputException(error!);
    }

    static (Func<PlanCandidate, bool> Chosen, string NotChosen, string Text) Choice(RunOrder order)
    {
        if (order.Pieces is not null && order.Recipients is not null) throw new BadInputException("Choose either a range of pieces or the selected recipients.");
        if (Range(order.Pieces) is { } range) return (c => range.Contains(c.PieceNumber), "Not in this range", $"pieces {order.Pieces!.Trim()}");
        if (order.Recipients is not { } recipients) return (_ => true, "", "everyone Ready");
        var selected = recipients.ToHashSet();
        return (c => selected.Contains(c.RecipientId), "Not selected", $"{selected.Count:N0} selected");
    }
}
