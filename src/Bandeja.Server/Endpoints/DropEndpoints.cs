using Bandeja.Acts.Drops;
using Bandeja.Core.Composition;
using Bandeja.Core.Contact;
using Bandeja.Core.Drops;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Store.Runs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;
using Bandeja.Work.Production;

namespace Bandeja.Server.Endpoints;

/// <summary>How many recipients are in each tray. They add up to <paramref name="OnTheList"/>.</summary>
/// <param name="InDoubt">How many of them may have been sent a piece already, and nobody knows.</param>
/// <param name="Noted">How many produced pieces a rule would hold now: they stay produced, and it is reported.</param>
public sealed record TrayCounts(
    int NeedsReview,
    int Ready,
    int Held,
    int Produced,
    int Mailed,
    int Returned,
    int OnTheList,
    int InDoubt,
    int Noted
)
{
    internal static TrayCounts Of(TrayTally? tally)
    {
        var t = tally ?? TrayTally.Empty;
        return new(
            t[Tray.NeedsReview],
            t[Tray.Ready],
            t[Tray.Held],
            t[Tray.Produced],
            t[Tray.Mailed],
            t[Tray.Returned],
            t.Trays.Values.Sum(),
            t.InDoubt,
            t.Noted
        );
    }
}

/// <summary>A piece of which nobody knows whether it went out.</summary>
/// <param name="Batch">The batch, for paper; null for a message.</param>
public sealed record DoubtView(long RunId, long RunNumber, bool Email, long? Batch, string? Words);

/// <summary>A drop with its trays.</summary>
/// <param name="Checking">True while the pieces are being checked against the newest version of the letter.</param>
/// <param name="CheckError">Why the pieces cannot be checked, so that nothing can be produced; null where they can.</param>
/// <param name="Mistakes">Mistakes in the designs; nothing is produced until they are fixed.</param>
/// <param name="Undo">What would be taken back next, or null.</param>
public sealed record DropView(
    long Id,
    long CampaignId,
    string CampaignName,
    long Number,
    string Name,
    long ListId,
    string ListName,
    string DesignName,
    IReadOnlyList<PackageView> Package,
    DateOnly? MailDate,
    TrayCounts Trays,
    bool Checking,
    string? CheckError,
    IReadOnlyList<DesignMistake> Mistakes,
    string? Undo,
    IReadOnlyList<PieceIssueGroupView> Issues,
    int Runs,
    DateOnly? LastMailed,
    string? SegmentName,
    SignOffView SignOff,
    ChannelView Channels,
    MailPriority Priority
);

/// <summary>Who of a drop gets their pieces in which way.</summary>
/// <param name="By">Package, Address or Column.</param>
/// <param name="Ways">What the package has: Paper, Email or Both.</param>
public sealed record ChannelView(string By, long? ColumnId, string Ways, IReadOnlyList<ChannelCount> Counts);

/// <summary>What decides who gets their pieces in which way.</summary>
public sealed record ChannelOrder(Core.Mail.ChannelBy By, int? ColumnId = null);

/// <summary>Whose pieces are to go out in which way; without a channel as the drop's rule says.</summary>
public sealed record GoByOrder(IReadOnlyList<long> Recipients, Core.Mail.Channel? Channel = null);

/// <summary>Issues alike.</summary>
/// <param name="Title">What they are called.</param>
/// <param name="Open">How many recipients have this issue, neither fixed nor accepted.</param>
/// <param name="Message">The sentence of one of them.</param>
/// <param name="ColumnId">The column to fix; null if the issue is not about a column.</param>
public sealed record PieceIssueGroupView(
    string Alike,
    string Kind,
    string Subject,
    string Title,
    long Recipients,
    long Open,
    string Message,
    int? ColumnId
);

/// <summary>A design of a drop's package.</summary>
/// <param name="Kind">letter, envelope or labels.</param>
public sealed record PackageView(long DesignId, string Name, PieceKind Kind, long Version);

/// <summary>What a drop is to send from now on.</summary>
public sealed record PackageOrder(IReadOnlyList<long> DesignIds);

/// <summary>A campaign with its drops.</summary>
public sealed record CampaignView(
    long Id,
    string Name,
    string CreatedAt,
    Core.Campaigns.CampaignMode Mode,
    long? ListId,
    IReadOnlyList<DropSummary> Drops
);

/// <summary>A drop within its campaign.</summary>
/// <param name="PausedRuns">The numbers of its runs that are paused.</param>
public sealed record DropSummary(
    long Id,
    long Number,
    string Name,
    string ListName,
    string DesignName,
    DateOnly? MailDate,
    TrayCounts Trays,
    IReadOnlyList<long> PausedRuns
);

/// <summary>A recipient at the bench.</summary>
/// <param name="Why">Why they are in their tray, where there is something to say.</param>
/// <param name="Channel">Paper, Email or Both.</param>
/// <param name="InDoubt">True while a piece may have gone out, and nobody knows.</param>
public sealed record BenchRow(
    long Id,
    int Piece,
    string Name,
    string Place,
    string Tray,
    int Pages,
    string? Why,
    string Channel,
    bool InDoubt
);

/// <summary>A part of the recipients at the bench.</summary>
public sealed record BenchPage(int Total, IReadOnlyList<BenchRow> Rows);

/// <summary>A value that the letter prints for a recipient.</summary>
/// <param name="ListIssue">What the list's checks say of it; null where they found nothing, or that was accepted.</param>
public sealed record UsedValue(int ColumnId, string Name, string Type, string? Value, string? ListIssue = null);

/// <summary>Everything the right-hand side of the bench shows.</summary>
/// <param name="ChangedSince">Values and detail rows that the piece prints and that changed after it was produced.</param>
/// <param name="ShownAsOfRun">The number of the run whose pages are shown, because the piece was produced; null where it is shown as it
/// would be now.</param>
/// <param name="Channel">Paper, Email or Both.</param>
/// <param name="ChannelByHand">True where somebody chose that.</param>
/// <param name="InDoubt">Pieces that may have gone out, and nobody knows.</param>
/// <param name="RuleNote">What the rules would hold them for, where the piece was produced before.</param>
public sealed record BenchPerson(
    long Id,
    int Piece,
    string Name,
    string Place,
    string Tray,
    int Pages,
    string? HoldReason,
    string? ReturnReason,
    DateOnly? MailedOn,
    IReadOnlyList<PieceIssueRow> Issues,
    IReadOnlyList<UsedValue> InThisLetter,
    IReadOnlyList<UsedValue> Others,
    IReadOnlyList<MailSoFar> Mail,
    IReadOnlyList<EventRow> Events,
    IReadOnlyList<ChangedValue> ChangedSince,
    long? ShownAsOfRun,
    IReadOnlyList<ProofPiece> Pieces,
    string Channel,
    bool ChannelByHand,
    IReadOnlyList<DoubtView> InDoubt,
    string? RuleNote
);

/// <summary>Whom to do something to, and why.</summary>
public sealed record BenchAct(IReadOnlyList<long> Recipients, string? Reason = null, DateOnly? Date = null);

/// <summary>Which issue to accept: of one recipient, or of everybody alike.</summary>
public sealed record Acceptance(string Alike, long? Recipient = null);

/// <summary>Which accepted issue to open again.</summary>
public sealed record Reopening(long Recipient, string Key);

static class DropEndpoints
{
    static object Record(HttpContext context) =>
        context.Part<DropStore>().Drop(context.Number("id")) is var d
            ? new
            {
                d.Name,
                d.MailDate,
                d.NeedsSignOff,
                Package = d.Package.Select(p => p.DesignId),
                d.ChannelBy,
                d.ChannelColumn,
            }
            : d;

    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet(
                "/campaigns",
                (DropStore drops, CampaignStore campaigns) =>
                {
                    var byCampaign = drops.Drops().ToLookup(d => d.CampaignId);
                    var paused = drops.PausedRuns();
                    var tallies = drops.Tallies();
                    return campaigns
                        .All()
                        .Select(k => new CampaignView(
                            k.Id,
                            k.Name,
                            k.CreatedAt,
                            k.Goes,
                            k.ListId,
                            [
                                .. byCampaign[k.Id]
                                    .Select(d => new DropSummary(
                                        d.Id,
                                        d.Number,
                                        d.Name,
                                        d.ListName,
                                        d.DesignName,
                                        d.MailDate,
                                        TrayCounts.Of(tallies.GetValueOrDefault(d.Id)),
                                        [.. paused[d.Id]]
                                    )),
                            ]
                        ))
                        .ToList();
                }
            )
            .WithSummary("All campaigns with their drops and trays");

        api.MapPost("/campaigns", (NewCampaign order, StartCampaign act, Caller caller) => caller.Does(act, order))
            .WithSummary("Create a campaign; returns its ID");

        api.MapPost("/drops", (NewDrop order, StartDrop act, Caller caller) => caller.Does(act, order))
            .WithSummary("Start a drop with a list or segment, a package of designs, and a mail date; returns its ID");

        api.MapPost(
                "/lists/{id:long}/recipients/{recipientId:long}/write",
                (long id, long recipientId, SingleLetter order, WriteToOne act, Caller caller) =>
                    caller.Does(act, order with { ListId = id, RecipientId = recipientId })
            )
            .WithSummary("Write to one recipient only: a drop of one piece under “Single letters”");

        api.MapGet("/drops/{id:long}/removal", (long id, Removals removals) => removals.OfDrop(id))
            .WithSummary("What removing a drop would do");
        api.MapDelete("/drops/{id:long}", (long id, RemoveDrop act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Remove a drop of which nothing was produced");
        api.MapPost("/drops/{id:long}/check", (long id, RecheckDrop act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Check the pieces again where that failed");
        api.MapGet("/drops/{id:long}", View).WithSummary("A drop with its trays and issues").OfRecord(Record);
        api.MapPatch("/drops/{id:long}", (long id, DropChange change, ChangeDrop act, Caller caller) => caller.Does(act, new(id, change)))
            .WithSummary("Change a drop's name, its mail date, or whether it must be signed off")
            .OfRecord(Record);

        api.MapPut(
                "/drops/{id:long}/package",
                (long id, PackageOrder order, SetPackage act, Caller caller) => caller.Does(act, new(id, order.DesignIds))
            )
            .WithSummary("Set the designs in a drop’s package")
            .OfRecord(Record);

        api.MapGet(
                "/drops/{id:long}/recipients",
                (
                    long id,
                    DropStore drops,
                    BenchRows bench,
                    ListStore lists,
                    SettingStore settings,
                    Tray? tray = null,
                    string? search = null,
                    string? alike = null,
                    string sort = "piece",
                    bool descending = false,
                    bool inDoubt = false,
                    bool noted = false,
                    int offset = 0,
                    int limit = 100
                ) =>
                {
                    if (offset < 0 || limit is < 1 or > 1000)
                        throw new BadInputException("The offset must be 0 or more, and the limit 1 to 1,000.");
                    var columns = lists.Columns(drops.Drop(id).ListId);
                    var (rows, issues, total) = bench.Page(id, new(tray, search, alike, sort, descending, inDoubt, noted), offset, limit);
                    var days = settings.Organization().ToLocale().Days;
                    var open = issues.Where(f => !f.Accepted).ToLookup(f => f.RecipientId);
                    return new BenchPage(total, [.. rows.Select(r => Row(r, columns, [.. open[r.Id]], days))]);
                }
            )
            .WithSummary("A part of a drop's recipients, by tray, search and issue");

        api.MapGet(
                "/drops/{id:long}/recipient-ids",
                (
                    long id,
                    BenchRows bench,
                    Tray? tray = null,
                    string? search = null,
                    string? alike = null,
                    string sort = "piece",
                    bool descending = false,
                    bool inDoubt = false,
                    bool noted = false
                ) => bench.Ids(id, new(tray, search, alike, sort, descending, inDoubt, noted))
            )
            .WithSummary("The ids of all recipients that a search finds");

        api.MapGet("/drops/{id:long}/list-issues", (long id, PrintedIssues issues) => issues.Of(id))
            .WithSummary("Open issues of the list in values that the drop’s ready pieces print");

        api.MapGet("/drops/{id:long}/held", (long id, HoldGroups held) => held.Of(id))
            .WithSummary("How many recipients are held, by reason");

        api.MapGet("/drops/{id:long}/held/recipients", (long id, string reason, HoldGroups held) => held.Recipients(id, reason))
            .WithSummary("The ids of the recipients held for a reason");

        api.MapGet("/drops/{id:long}/recipients/place", (long id, long piece, BenchRows bench) => bench.PlaceOf(id, piece))
            .WithSummary("The place of a piece among all of a drop in the order of their numbers, from 0");

        api.MapGet("/drops/{id:long}/recipients/{recipientId:long}", Person)
            .WithSummary("A recipient at the bench: issues, values, history");
        api.MapGet("/drops/{id:long}/recipients/{recipientId:long}/proof.pdf", Proof)
            .WithSummary("A recipient's finished pages, by the composition that prints")
            .Produces(200, contentType: "application/pdf");
        api.MapGet("/drops/{id:long}/recipients/{recipientId:long}/letters/{designId:long}/document.docx", Document)
            .WithSummary("A recipient's letter as a DOCX that can be edited")
            .Produces(200, contentType: "application/vnd.openxmlformats-officedocument.wordprocessingml.document");
        api.MapGet("/drops/{id:long}/events", (long id, DropHistory history) => history.Last(id, 500))
            .WithSummary("What happened in a drop, the newest first");

        MapActs(api);
    }

    static void MapActs(RouteGroupBuilder api)
    {
        api.MapPost(
                "/drops/{id:long}/hold",
                (long id, BenchAct order, HoldRecipients act, Caller caller) => caller.Does(act, new(id, order.Recipients, order.Reason))
            )
            .WithSummary("Keep recipients out of this drop");
        api.MapPost("/drops/{id:long}/pull", (long id, PullPieces act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Record that the pieces were pulled that were produced before a rule would have held them");
        api.MapPost(
                "/drops/{id:long}/release",
                (long id, BenchAct order, ReleaseRecipients act, Caller caller) => caller.Does(act, new(id, order.Recipients, order.Reason))
            )
            .WithSummary("Release held recipients");
        api.MapPost(
                "/drops/{id:long}/take-back",
                (long id, BenchAct order, MoveBackToReady act, Caller caller) => caller.Does(act, new(id, order.Recipients, order.Reason))
            )
            .WithSummary("Move produced pieces back to Ready; the ledger keeps the reason");
        api.MapPost(
                "/drops/{id:long}/returned",
                (long id, BenchAct order, RecordReturns act, Caller caller) =>
                    caller.Does(act, new(id, order.Recipients, order.Reason, order.Date))
            )
            .WithSummary("Record returned pieces");

        api.MapPut(
                "/drops/{id:long}/channels",
                (long id, ChannelOrder order, SetChannels act, Caller caller) => caller.Does(act, new(id, order.By, order.ColumnId))
            )
            .WithSummary("Set which recipients get paper, email, or both")
            .OfRecord(Record);
        api.MapPost(
                "/drops/{id:long}/go-by",
                (long id, GoByOrder order, ChooseChannel act, Caller caller) => caller.Does(act, new(id, order.Recipients, order.Channel))
            )
            .WithSummary("Set the channel for some recipients");

        api.MapPost(
                "/drops/{id:long}/accept",
                (long id, Acceptance order, AcceptIssue act, Caller caller) => caller.Does(act, new(id, order.Alike, order.Recipient))
            )
            .WithSummary("Accept an issue as is, for one recipient or for all like it");
        api.MapPost(
                "/drops/{id:long}/reopen",
                (long id, Reopening order, ReopenIssue act, Caller caller) => caller.Does(act, new(id, order.Recipient, order.Key))
            )
            .WithSummary("Open an accepted issue again");
        api.MapPost("/drops/{id:long}/undo", (long id, UndoInDrop act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Undo the last act");
        api.MapPut(
                "/drops/{id:long}/recipients/{recipientId:long}/values/{columnId:int}",
                (long id, long recipientId, int columnId, ValueChange change, CorrectValue act, Caller caller) =>
                    caller.Does(act, new(null, id, recipientId, columnId, change.Value, change.Was))
            )
            .WithSummary("Correct a value from the bench");
    }

    static DropView View(
        long id,
        DropStore drops,
        DropIssues issues,
        DesignStore designs,
        BenchStore bench,
        RunStore runs,
        CheckRequests checks,
        Database database,
        ListStore lists,
        Letters letters,
        DropDependencies dependencies
    )
    {
        var d = drops.Drop(id);
        var freshness = checks.Freshness(id);
        var ofDrop = runs.OfDrop(id);
        var columns = lists.Columns(d.ListId);
        using var c = database.Open();
        return new(
            d.Id,
            d.CampaignId,
            d.CampaignName,
            d.Number,
            d.Name,
            d.ListId,
            d.ListName,
            d.DesignName,
            [.. d.Package.Select(p => new PackageView(p.DesignId, p.Name, p.Kind, designs.Newest(p.DesignId).Number))],
            d.MailDate,
            TrayCounts.Of(drops.Tallies(id).GetValueOrDefault(id)),
            freshness is { Fresh: false, Error: null },
            freshness.Error,
            dependencies.DesignMistakes(c, d),
            bench.NextUndo(id)?.Label,
            [
                .. issues
                    .Groups(id)
                    .Select(g => new PieceIssueGroupView(
                        g.Alike,
                        g.Kind,
                        g.Subject,
                        PieceIssue.Title(Enum.Parse<PieceIssueKind>(g.Kind), g.Subject),
                        g.Recipients,
                        g.Open,
                        g.Message,
                        columns.FirstOrDefault(x => x.Name == g.Subject && x.Kind != ColumnKind.Computed)?.Id
                    )),
            ],
            ofDrop.Count(r => r.State == RunState.Done),
            drops.LastMailedOn(id),
            d.SegmentName,
            SignOffView.Of(c, d, letters.Rules(c, d)),
            new(d.ChannelBy, d.ChannelColumn, d.Ways.ToString(), drops.Channels(id)),
            d.Goes
        );
    }

    static BenchRow Row(DropRecipient r, IReadOnlyList<Column> columns, IReadOnlyList<PieceIssueRow> open, DayWords days)
    {
        var label = RecipientLabel.Of(columns, i => r.Values[i]);
        var why = r.InDoubt is [var doubt, ..]
            ? $"In doubt: may have been {(doubt.Email ? "sent" : "printed")} in run {doubt.RunNumber}"
            : r.Tray switch
            {
                Tray.Produced when r.RuleNote is not null => $"Since it was produced: {r.RuleNote}",
                Tray.NeedsReview => open.Count > 1 ? $"{open[0].Message} Plus {open.Count - 1} more." : open.FirstOrDefault()?.Message,
                Tray.Held => $"Held: {r.HoldReason}",
                Tray.Mailed => (r.MailedOn is null ? "Emailed" : "Mailed")
                    + ((r.MailedOn ?? r.EmailedOn) is { } on ? $" {days.Of(on)}" : ""),
                Tray.Ready when r.IsBegun => r.RunId is null ? "Email produced, paper not yet" : "Paper produced, email not sent yet",
                Tray.Returned => $"Returned: {r.ReturnReason}",
                _ => null,
            };
        return new(
            r.Id,
            r.PieceNumber,
            label.Name,
            label.Place,
            r.Tray.ToString(),
            r.Pages,
            why,
            r.Channel.ToString(),
            r.InDoubt.Count > 0
        );
    }

    static BenchPerson Person(
        long id,
        long recipientId,
        Database database,
        DropHistory history,
        RunStore runs,
        Letters letters,
        Reprints reprints
    )
    {
        using var c = database.Open();
        var drop = DropStore.Drop(c, id);
        var columns = RowTable.Columns(c, drop.ListId);
        var r =
            DropStore.Recipients(c, drop, columns, [recipientId]).FirstOrDefault() ?? throw new NotFoundException(
                "This recipient is not in the drop."
            );
        var composer = new PackageComposer(c, letters, drop);
        var current = composer.Compose(r);
        var composed = r.RunId is null && r.EmailRunId is null ? current : reprints.AsProduced(c, drop, r, current);
        // What was produced may have been bound to other columns than there are now.
        var usedIds = composed.Bound.SelectMany(p => p.Bound.UsedColumns.Select(i => p.Bound.Setting.Columns[i].Id)).ToHashSet();
        var used = Enumerable.Range(0, columns.Count).Where(i => usedIds.Contains(columns[i].Id)).ToList();
        var pieces = ProofPiece.Of(composed, PackagePieces.WindowOnLetter(composed.Bound));
        var found = CheckIssues.Messages(c, drop.ListId, recipientId);
        UsedValue Value(int i) =>
            new(columns[i].Id, columns[i].Name, columns[i].Type.ToString(), r.Values[i], found.GetValueOrDefault(columns[i].Id));
        var label = RecipientLabel.Of(columns, i => r.Values[i]);
        // What is on paper may have been reprinted since with corrections: the last run that produced it counts.
        var shown = r.RunId is { } paper ? RunStore.Producing(c, id, recipientId, false).Append(paper).First() : r.EmailRunId;
        var run = shown is { } number ? runs.Get(number) : null;
        var changedSince = run is not null && r.ReturnReason is null ? reprints.Changes(c, run, recipientId) : [];
        return new(
            r.Id,
            r.PieceNumber,
            label.Name,
            label.Place,
            r.Tray.ToString(),
            r.Pages,
            r.HoldReason,
            r.ReturnReason,
            r.MailedOn ?? r.EmailedOn,
            DropIssues.Of(c, id, [recipientId]),
            [.. used.Select(Value)],
            [.. Enumerable.Range(0, columns.Count).Except(used).Select(Value)],
            history.OfRecipient(recipientId),
            [.. history.Events(recipientId).Take(40)],
            changedSince,
            run?.Number,
            pieces,
            composed.Channel.ToString(),
            r.ChannelByHand,
            [.. r.InDoubt.Select(d => new DoubtView(d.RunId, d.RunNumber, d.Email, d.Batch, d.Words))],
            r.RuleNote
        );
    }

    static IResult Document(
        long id,
        long recipientId,
        long designId,
        Database database,
        Letters letters,
        Reprints reprints,
        TimeProvider time,
        HttpContext context
    )
    {
        using var c = database.Open();
        var (drop, r, package) = reprints.ToBeSeen(c, id, recipientId);
        var at = package.Bound.ToList().FindIndex(b => b.Design.DesignId == designId);
        if (at < 0 || package.Pieces[at].Content is not { } content)
            throw new NotFoundException("This recipient has no letter of this design.");
        context.Response.Headers.CacheControl = "no-store";
        return Results.Bytes(
            letters.ToDocument(content(), $"{drop.CampaignName}, piece {r.PieceNumber:0000}", time.GetLocalNow()),
            "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
            $"{r.PieceNumber:0000} {Core.Formulas.FileNames.Safe(package.Bound[at].Design.Name, "letter")}.docx"
        );
    }

    static IResult Proof(long id, long recipientId, Database database, Letters letters, Reprints reprints, HttpContext context)
    {
        using var c = database.Open();
        var (drop, r, package) = reprints.ToBeSeen(c, id, recipientId);
        context.Response.Headers.CacheControl = "no-store";
        var pieces = package.Pieces;
        // Who gets a message with nothing attached has no pages.
        return pieces.All(p => p.Pages.Count == 0)
            ? Results.NoContent()
            : Results.Bytes(letters.ToPdf(pieces, $"{drop.CampaignName}, piece {r.PieceNumber:0000}"), "application/pdf");
    }
}
