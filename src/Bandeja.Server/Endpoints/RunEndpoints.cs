using Bandeja.Acts.Runs;
using Bandeja.Core.Designs;
using Bandeja.Core.Drops;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Formats.Ledger;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.Devices;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Store.Mail;
using Bandeja.Store.Runs;
using Bandeja.Work.Freezing;
using Bandeja.Work.Hosting;
using Bandeja.Work.Production;

namespace Bandeja.Server.Endpoints;

/// <summary>Whether a message in doubt was sent.</summary>
public sealed record MailSettling(long RecipientId, bool Sent);

/// <summary>When it left the building, and which pieces; without pieces all that are waiting.</summary>
/// <param name="Pieces">Only these.</param>
/// <param name="UpTo">Only those up to and with this piece, in the order of the run.</param>
/// <param name="Without">All but these: they were pulled out.</param>
public sealed record Mailing(DateOnly Date, string? Pieces = null, int? UpTo = null, string? Without = null);

/// <summary>Why a recorded mailing is taken back, and for which pieces; without pieces for all of the run.</summary>
public sealed record MailingMistake(string Reason, string? Pieces = null);

/// <summary>From which piece a paused run goes on; without one, from where it was.</summary>
public sealed record GoingOn(int? From = null);

/// <summary>Whether a batch in doubt was printed.</summary>
public sealed record Settling(long Batch, bool Printed);

/// <summary>Everything that a run's page shows beside its pieces.</summary>
public sealed record RunDetail(
    RunRow Run,
    RunSettings Settings,
    string DropName,
    string CampaignName,
    string? DeviceName,
    IReadOnlyList<RunBatch> Batches,
    IReadOnlyList<RunLogLine> Log,
    IReadOnlyList<string> OrderedBy,
    IReadOnlyList<long> Reprints,
    MailCounts? Mails,
    string? AccountName
);

/// <summary>A piece of a run.</summary>
/// <param name="State">What became of it, in a word or two.</param>
/// <param name="Address">Where a message went or goes.</param>
/// <param name="Words">The mail server's last words.</param>
public sealed record RunPieceView(
    long RecipientId,
    long Piece,
    string Name,
    string? FileName,
    string State,
    string Tray,
    string? Why,
    MailState? MailState,
    string? Address,
    string? Words,
    string? Barcodes
);

/// <summary>A part of a run's pieces, in its order.</summary>
public sealed record RunPieces(int Total, IReadOnlyList<RunPieceView> Rows);

/// <summary>Why pieces are set aside to be made again.</summary>
public sealed record TakeBackOrder(string? Reason = null);

static class RunEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapPost("/drops/{id:long}/plan", (long id, RunOrder order, RunPlanner planner) => planner.Plan(id, order))
            .WithSummary("What a run would produce and cost, and who is excluded and why");

        api.MapPost("/drops/{id:long}/runs", (long id, RunOrder order, StartRun act, Caller caller) => caller.Does(act, new(id, order)))
            .WithSummary("Start a run");

        api.MapGet("/drops/{id:long}/runs", (long id, RunStore runs, LedgerExport ledger, RunLog log) => runs.OfDrop(id))
            .WithSummary("A drop's runs, the newest first");
        api.MapGet("/runs/{id:long}", (long id, RunStore runs, LedgerExport ledger, RunLog log) => runs.Get(id)).WithSummary("One run");
        api.MapGet("/runs/{id:long}/detail", Detail).WithSummary("A run with its settings, batches and log");
        api.MapGet("/runs/{id:long}/pieces", Pieces).WithSummary("A part of a run's pieces, in its order, each with its state");
        MapFiles(api);
        MapActs(api);

        api.MapGet(
                "/ledger.csv",
                (RunStore runs, LedgerExport ledger, RunLog log, HttpContext context, long? dropId = null) =>
                    Export(
                        context,
                        "ledger.csv",
                        "text/csv; charset=utf-8",
                        s => TableExport.Csv(s, [.. LedgerExport.Headings.Select(h => h.Name)], ledger.Rows(dropId))
                    )
            )
            .WithSummary("The ledger as CSV")
            .Produces(200, contentType: "text/csv");
        api.MapGet(
                "/ledger.xlsx",
                (RunStore runs, LedgerExport ledger, RunLog log, HttpContext context, long? dropId = null) =>
                    Export(
                        context,
                        "ledger.xlsx",
                        "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
                        s => TableExport.Xlsx(s, "Ledger", LedgerExport.Headings, ledger.Rows(dropId))
                    )
            )
            .WithSummary("The ledger as a workbook")
            .Produces(200, contentType: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet");
    }

    static void MapFiles(RouteGroupBuilder api)
    {
        api.MapGet(
                "/runs/{id:long}/files/{number:long}",
                (
                    long id,
                    long number,
                    RunStore runs,
                    LedgerExport ledger,
                    RunLog log,
                    RunFiles files,
                    ServerOptions server,
                    HttpContext context
                ) =>
                {
                    var run = runs.Get(id);
                    if (run.Files.FirstOrDefault(f => f.Number == number) is { } file)
                    {
                        var path = RunFolder.FileOf(server, file);
                        if (!File.Exists(path))
                            throw new NotFoundException("This file was deleted. Re-create it; the new file will be identical.");
                        return Results.File(
                            path,
                            Path.GetExtension(file.Name) switch
                            {
                                ".zip" => "application/zip",
                                ".mbox" => "application/mbox",
                                _ => "application/pdf",
                            },
                            file.Name,
                            enableRangeProcessing: true
                        );
                    }
                    if (!run.State.IsUnderWay() || run.Output != RunOutput.Each || number != 1)
                        throw new NotFoundException("This run does not have that file.");
                    return Results.Stream(
                        target => ReadAlong.Copy(files.PartOf(new() { RunId = id, Number = 1 }), target, () => runs.State(id), context),
                        "application/zip",
                        $"run-{run.Number}.zip"
                    );
                }
            )
            .WithSummary("One of a run's files; a ZIP with a file per recipient can be read while it is produced")
            .Produces(200, contentType: "application/pdf");

        api.MapGet(
                "/runs/{id:long}/files.zip",
                (
                    long id,
                    RunStore runs,
                    LedgerExport ledger,
                    RunLog log,
                    DropStore drops,
                    ServerOptions server,
                    TimeProvider time,
                    HttpContext context
                ) =>
                {
                    var run = runs.Get(id);
                    if (run.Files.Count == 0 || run.Files.Any(f => !File.Exists(RunFolder.FileOf(server, f))))
                        throw new NotFoundException("This run’s files were deleted. Re-create them.");
                    var folder = RunFolder.Dated(drops.Drop(run.DropId), run, time.LocalTimeZone);
                    // The archive is written straight to who asks for it, however large.
                    context.Features.Get<Microsoft.AspNetCore.Http.Features.IHttpBodyControlFeature>()!.AllowSynchronousIO = true;
                    return Results.Stream(
                        target =>
                        {
                            using var zip = new System.IO.Compression.ZipArchive(
                                target,
                                System.IO.Compression.ZipArchiveMode.Create,
                                leaveOpen: true
                            );
                            foreach (var file in run.Files)
                            {
                                using var from = File.OpenRead(RunFolder.FileOf(server, file));
                                using var entry = zip.CreateEntry(
                                        $"{folder}/{file.Name}",
                                        System.IO.Compression.CompressionLevel.NoCompression
                                    )
                                    .Open();
                                from.CopyTo(entry);
                            }
                            return Task.CompletedTask;
                        },
                        "application/zip",
                        $"{folder}.zip"
                    );
                }
            )
            .WithSummary("All of a run's files in a ZIP")
            .Produces(200, contentType: "application/zip");

        api.MapGet(
                "/runs/{id:long}/messages/{form}",
                (
                    long id,
                    string form,
                    RunStore runs,
                    LedgerExport ledger,
                    RunLog log,
                    RunMailFiles mails,
                    DropStore drops,
                    HttpContext context
                ) =>
                {
                    var run = runs.Get(id);
                    if (form is not ("eml" or "mbox"))
                        throw new BadInputException("Messages can be downloaded only as eml or mbox.");
                    if (run.Output != RunOutput.Email)
                        throw new ConflictException("Only a run that was sent has messages to download.");
                    // The archive is written straight to who asks for it, however large.
                    context.Features.Get<Microsoft.AspNetCore.Http.Features.IHttpBodyControlFeature>()!.AllowSynchronousIO = true;
                    return Results.Stream(
                        target =>
                        {
                            mails.Write(
                                run,
                                form == "eml" ? RunOutput.Eml : RunOutput.Mbox,
                                target,
                                true,
                                context.RequestAborted.ThrowIfCancellationRequested
                            );
                            return Task.CompletedTask;
                        },
                        form == "eml" ? "application/zip" : "application/mbox",
                        $"{RunFolder.Stem(drops.Drop(run.DropId), run)}-sent{(form == "eml" ? ".zip" : ".mbox")}"
                    );
                }
            )
            .WithSummary("The messages of a run that a mail server took, as .eml in a ZIP or as mbox")
            .Produces(200, contentType: "application/zip");

        api.MapPost("/runs/{id:long}/remake", (long id, RecreateFiles act, Caller caller) => new JobBegun(caller.Does(act, new(id))))
            .WithSummary("Re-create a run’s files from its saved data");
    }

    static void MapActs(RouteGroupBuilder api)
    {
        api.MapPost("/runs/{id:long}/pause", (long id, PauseRun act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Pause a run; its pieces stay with it");

        api.MapPost(
                "/runs/{id:long}/resume",
                (long id, GoingOn order, ResumeRun act, Caller caller) => caller.Does(act, new(id, order.From))
            )
            .WithSummary("Resume a paused run; a print run can resume from a piece");

        api.MapPost("/runs/{id:long}/cancel", (long id, CancelRun act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Cancel a run; pieces already printed stay produced");

        api.MapPost(
                "/runs/{id:long}/settle",
                (long id, Settling order, SettleBatch act, Caller caller) => caller.Does(act, new(id, order.Batch, order.Printed))
            )
            .WithSummary("Mark a batch in doubt as printed or not printed");

        api.MapPost(
                "/runs/{id:long}/settle-mail",
                (long id, MailSettling order, SettleMessage act, Caller caller) => caller.Does(act, new(id, order.RecipientId, order.Sent))
            )
            .WithSummary("Mark a message in doubt as sent or not sent");

        api.MapPost(
                "/runs/{id:long}/mailed",
                (long id, Mailing order, MarkMailed act, Caller caller) =>
                    caller.Does(act, new(id, order.Date, order.Pieces, order.UpTo, order.Without))
            )
            .WithSummary("Record that a run's pieces were mailed: all, up to a piece, some, or all but some");

        api.MapPost(
                "/runs/{id:long}/mailed/undo",
                (long id, MailingMistake order, UndoMailing act, Caller caller) => caller.Does(act, new(id, order.Reason, order.Pieces))
            )
            .WithSummary("Undo marking pieces as mailed, with a reason");

        api.MapPost(
                "/runs/{id:long}/take-back",
                (long id, TakeBackOrder? order, MoveRunBackToReady act, Caller caller) => caller.Does(act, new(id, order?.Reason))
            )
            .WithSummary("Move a run’s pieces back to Ready");
    }

    static RunDetail Detail(
        long id,
        RunStore runs,
        LedgerExport ledger,
        RunLog log,
        RunBatches batches,
        DropStore drops,
        ListStore lists,
        PrinterStore printers,
        RunMails mails,
        MailAccounts accounts
    )
    {
        var run = runs.Get(id);
        var drop = drops.Drop(run.DropId);
        var columns = lists.Columns(drop.ListId);
        IReadOnlyList<string> sorted = run.Sort switch
        {
            "piece" => ["piece number"],
            "postal" => ["country", "postal code"],
            _ =>
            [
                .. run
                    .Sort.Split(',')
                    .Select(s =>
                        columns
                            .FirstOrDefault(x => x.Id.ToString(System.Globalization.CultureInfo.InvariantCulture) == s.TrimStart('-'))
                            ?.Name ?? "a removed column"
                    ),
            ],
        };
        return new(
            run,
            RunSettings.Read(run.SettingsJson),
            drop.Name,
            drop.CampaignName,
            run.DeviceId is { } device ? printers.All().FirstOrDefault(p => p.Id == device)?.Name : null,
            batches.Of(id),
            log.Of(id),
            sorted,
            [.. runs.OfDrop(run.DropId).Where(r => r.ReprintOf == id).Select(r => r.Number)],
            run.IsEmail ? mails.Counts(id) : null,
            run.AccountId is { } account ? accounts.All().FirstOrDefault(a => a.Id == account)?.Name : null
        );
    }

    static RunPieces Pieces(
        long id,
        RunStore runs,
        LedgerExport ledger,
        RunLog log,
        DropStore drops,
        Database database,
        int offset = 0,
        int limit = 100,
        int? piece = null,
        string? mail = null,
        string? code = null
    )
    {
        if (offset < 0 || limit is < 1 or > 1000)
            throw new BadInputException("The offset must be 0 or more, the limit 1 to 1000.");
        var state =
            mail is null ? (MailState?)null
            : Enum.TryParse<MailState>(mail, true, out var named) && Enum.IsDefined(named) ? named
            : throw new BadInputException("The state of messages must be waiting, handing, later, doubt, sent, refused, or excluded.");
        var run = runs.Get(id);
        var (rows, total) = runs.PiecesOf(id, offset, limit, piece, state, string.IsNullOrWhiteSpace(code) ? null : code.Replace(" ", ""));
        using var c = database.Open();
        var drop = DropStore.Drop(c, run.DropId);
        var (columns, days) = (RowTable.Columns(c, drop.ListId), SettingStore.Days(c));
        var names = DropStore
            .Recipients(c, drop, columns, [.. rows.Select(r => r.RecipientId)])
            .ToDictionary(r => r.Id, r => RecipientLabel.Of(columns, i => r.Values[i]).Name);
        return new(
            total,
            [
                .. rows.Select(r => new RunPieceView(
                    r.RecipientId,
                    r.PieceNumber,
                    names.GetValueOrDefault(r.RecipientId, ""),
                    r.FileName,
                    State(run, r, days),
                    r.Tray,
                    r.HoldReason,
                    run.Output == RunOutput.Email ? r.MailState : null,
                    r.Address,
                    run.Output == RunOutput.Email ? r.Words : null,
                    r.Barcodes
                )),
            ]
        );
    }

    static string State(RunRow run, RunPieceRow p, DayWords days) =>
        run.Output == RunOutput.Email ? Sending(run, p)
        : p.PrintedAt is null
            ? run.State.IsBrokenOff() ? Out(run, p, "not produced")
                : run.Output == RunOutput.Print ? Out(run, p, "waiting for the printer")
                : "producing"
        : run.ReprintOf is not null ? "reprinted"
        : p.RunId != run.Id ? "moved back to Ready"
        : p.MailedOn is { } on ? $"mailed {days.Of(on)}"
        : p.HoldReason is not null ? "pulled out"
        : run.Output == RunOutput.Print ? "printed"
        : "produced";

    static string Sending(RunRow run, RunPieceRow p) =>
        p.MailState switch
        {
            MailState.Sent => p.Tray == "Returned" ? "sent, then returned" : "sent",
            MailState.Refused => "rejected",
            MailState.Doubt => "in doubt",
            MailState.Excluded => "excluded",
            MailState.Later when !run.State.IsOver() => "deferred",
            MailState.Handing => "sending",
            _ => run.State.IsBrokenOff() ? "not sent" : "waiting",
        };

    /// <summary>What of a piece's package is out of the printer already, where that is not all of it.</summary>
    static string Out(RunRow run, RunPieceRow p, string otherwise)
    {
        var kinds = run.Designs.Where(d => (p.OutMask >> (int)(d.Position - 1) & 1) == 1).Select(d => d.Kind.Rules().Word).ToList();
        return kinds.Count == 0 ? otherwise : $"only the {string.Join(" and ", kinds)} printed";
    }

    static IResult Export(HttpContext context, string name, string type, Action<Stream> write)
    {
        // A workbook is a ZIP archive that must be sought in, so it is made in a file that goes away by itself.
        var file = new FileStream(
            Path.GetTempFileName(),
            FileMode.Create,
            FileAccess.ReadWrite,
            FileShare.None,
            1 << 16,
            FileOptions.DeleteOnClose
        );
        context.Response.RegisterForDispose(file);
        write(file);
        file.Position = 0;
        return Results.Stream(file, type, name);
    }
}
