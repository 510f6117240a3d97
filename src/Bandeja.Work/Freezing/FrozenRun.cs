using System.Globalization;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Lists;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Store.Runs;
using Bandeja.Work.Composition;
using Microsoft.Data.Sqlite;

namespace Bandeja.Work.Freezing;

/// <summary>A run as it was frozen: its designs bound to what they met then, and each piece composed as it is to be. Serves one thread and
/// one connection.</summary>
public sealed class FrozenRun
{
    readonly Letters letters;
    readonly SqliteConnection connection;
    readonly IReadOnlyDictionary<(long, long), string> own;
    readonly IReadOnlyDictionary<string, (long First, long All)> serials;
    readonly List<IPieceComposer> composers;

    // For a run of an earlier version, which froze no detail rows.
    readonly DetailReader? details;
    (long Recipient, IReadOnlyDictionary<int, IReadOnlyList<IRow>> Rows) last = (-1, new Dictionary<int, IReadOnlyList<IRow>>());

    /// <summary>Opens a run.</summary>
    /// <param name="liveDetails">True for a run that is only planned: its detail rows are those of now.</param>
    public FrozenRun(SqliteConnection connection, Letters letters, RunRow run, bool liveDetails = false)
    {
        (this.connection, this.letters, Run) = (connection, letters, run);
        Drop = DropStore.Drop(connection, run.DropId);
        Setting = FrozenSetting.Read(run.FrozenJson) ?? letters.Freeze(connection, Drop) with { Details = null };
        Bound = [.. run.Designs.Select(d => Bind(DesignStore.Version(connection, d.DesignVersionId).DocumentJson, d.DesignId))];
        composers = [.. Bound.Select(b => b.Composer(run.Today))];
        own = RunStore.OwnLetters(connection, run.Id);
        serials = MailerSerials.Of(connection, run.Id);
        details = liveDetails || Setting.Details is null ? Letters.Details(connection, Bound[0]) : null;
        Created = DateTimeOffset.Parse(run.CreatedAt, CultureInfo.InvariantCulture);
        Feed = FeedOrder.Read(run.PrinterJson);
    }

    /// <summary>The run.</summary>
    public RunRow Run { get; }

    /// <summary>Its drop.</summary>
    public DropRow Drop { get; }

    /// <summary>What the designs met.</summary>
    public FrozenSetting Setting { get; }

    /// <summary>The designs in the run's order.</summary>
    public IReadOnlyList<IBoundDesign> Bound { get; }

    /// <summary>The run's own moment, so that files are made again with the same bytes.</summary>
    public DateTimeOffset Created { get; }

    /// <summary>How the printer takes envelopes and sheets; null where none was chosen.</summary>
    public FeedOrder? Feed { get; }

    /// <summary>The organization's language then.</summary>
    public string Language => Setting.Organization.ToLocale().Tag;

    /// <summary>The barcodes of the pieces composed so far, by piece number.</summary>
    public Dictionary<int, IReadOnlyList<string>> Barcodes { get; } = [];

    /// <summary>What the files are called within.</summary>
    public string Title => $"{Drop.CampaignName}, {Drop.Name}, run {Run.Number}";

    IBoundDesign Bind(string document, long designId) =>
        letters.Bind(connection, document, designId, Drop.ListId, Setting, RunSettings.Read(Run.SettingsJson).Fields);

    /// <summary>A piece's recipient as designs see them.</summary>
    public IRow Row(RunPiece piece) =>
        details is not null
            ? Letters.Row(piece.RecipientId, piece.Values, details)
            : new ArrayRow(piece.Values, set => DetailRows(piece.RecipientId).GetValueOrDefault(set, []), piece.RecipientId);

    IReadOnlyDictionary<int, IReadOnlyList<IRow>> DetailRows(long recipientId)
    {
        if (last.Recipient != recipientId)
            last = (
                recipientId,
                RunFreezing
                    .FrozenDetails(connection, Run.Id, recipientId)
                    .ToDictionary(d => d.Key, d => (IReadOnlyList<IRow>)[.. d.Value.Select(r => new ArrayRow(r))])
            );
        return last.Rows;
    }

    /// <summary>A recipient's name, family name first.</summary>
    public string NameOf(RunPiece piece) => RecipientLabel.Of(Setting.Columns, i => piece.Values[i]).Name;

    /// <summary>Fills a letter for a piece without laying it out, with what was changed for its recipient alone; null for another
    /// design.</summary>
    /// <param name="design">Position among the designs, from 0.</param>
    public LetterContent? Spell(RunPiece piece, int design)
    {
        if (Speller(design) is not { } usual)
            return null;
        var speller =
            own.Count > 0 && own.TryGetValue((piece.RecipientId, Run.Designs[design].DesignId), out var document)
                ? Bind(document, Run.Designs[design].DesignId).Speller(Run.Today)
                : usual;
        return speller?.Spell(Row(piece), piece.PieceNumber);
    }

    /// <summary>Fills a design without laying it out; null for one that becomes no document.</summary>
    public LetterSpeller? Speller(int design) =>
        spellers.TryGetValue(design, out var known) ? known : spellers[design] = Bound[design].Speller(Run.Today);

    readonly Dictionary<int, LetterSpeller?> spellers = [];

    /// <summary>Composes a piece of one design, with what was changed for its recipient alone.</summary>
    /// <param name="design">Position among the designs, from 0.</param>
    public ComposedPiece Compose(RunPiece piece, int design)
    {
        long Serial(string mailer) => serials.TryGetValue(mailer, out var s) ? (s.First + piece.Serial) % s.All : piece.PieceNumber;
        var composer =
            own.Count > 0 && own.TryGetValue((piece.RecipientId, Run.Designs[design].DesignId), out var document)
                ? Bind(document, Run.Designs[design].DesignId).Composer(Run.Today)
                : composers[design];
        var composed = composer.Compose(Row(piece), piece.PieceNumber, Serial);
        if (composed.Barcodes is { Count: > 0 } codes)
            lock (Barcodes)
                Barcodes[piece.PieceNumber] = Barcodes.TryGetValue(piece.PieceNumber, out var before) ? [.. before.Union(codes)] : codes;
        return composed;
    }

    /// <summary>An envelope's pages as its printer takes them; other pages as they are.</summary>
    public IReadOnlyList<LaidOutPage> Fed(ComposedPiece piece, int design) =>
        Feed is not null && Bound[design].Kind.Rules().HasFeed ? [.. piece.Pages.Select(Feed.Envelope)] : piece.Pages;
}
