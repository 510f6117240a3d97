using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Core.Emails;
using Bandeja.Core.Lists;
using Bandeja.Core.Mail;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Store.Proofs;
using Bandeja.Store.Runs;
using Microsoft.Data.Sqlite;

namespace Bandeja.Work.Composition;

/// <summary>A recipient's composed package: what they get, by the way in which they get it.</summary>
/// <param name="Channel">How it goes out.</param>
/// <param name="Bound">The designs as they were bound for this recipient: a letter changed for them alone is another than
/// everybody's.</param>
/// <param name="Pieces">What each came to.</param>
/// <param name="Alone">What was changed for this recipient alone.</param>
/// <param name="Own">What is to be said of the recipient beside their pieces.</param>
public sealed record ComposedPackage(
    Channel Channel,
    IReadOnlyList<(PackageDesign Design, IBoundDesign Bound)> Bound,
    IReadOnlyList<ComposedPiece> Pieces,
    IReadOnlyList<OneOffRow> Alone,
    IReadOnlyList<PieceIssue> Own
)
{
    /// <summary>How many pages its letters have.</summary>
    public int Pages => PackagePieces.Pages(Bound, Pieces);

    /// <summary>The message, where one goes out.</summary>
    public ComposedMail? Mail => Pieces.Select(p => p.Mail).FirstOrDefault(m => m is not null);

    /// <summary>True where a design goes out as an attachment and not on paper.</summary>
    public bool IsAttachedOnly(PackageDesign design) => !Channel.HasFlag(Channel.Paper) && !design.IsEmail;

    /// <summary>What is wrong about it, a change that must be settled with a newer version of the design included.</summary>
    public IReadOnlyList<PieceIssue> Issues =>
        PieceIssue.Joined(
            Own.Concat(PackagePieces.Issues(Bound, Pieces))
                .Concat(
                    Alone
                        .Where(o => o.IsOpen)
                        .Select(o => new PieceIssue(
                            PieceIssueKind.OneOff,
                            o.DesignName,
                            $"{o.NewestVersion}",
                            $"{o.DesignName} was changed for this recipient only in version {o.SettledVersion}; it is now version "
                                + $"{o.NewestVersion}. Choose which one to use."
                        ))
                )
        );
}

/// <summary>Composes recipients' packages in a drop's present versions, each with what was changed for them alone. Serves one
/// thread.</summary>
public sealed class PackageComposer
{
    readonly SqliteConnection connection;
    readonly Letters letters;
    readonly DropRow drop;
    readonly List<IPieceComposer> composers;
    readonly DateOnly day;
    readonly ILookup<long, OneOffRow> alone;
    readonly IReadOnlyDictionary<long, (string Address, string Words)> refusals;
    readonly BoundEmail? email;
    readonly HashSet<long> attached;
    readonly EmailComposer? addresses;
    SuppressionMatcher? optOuts;
    Core.Matching.MatchKeys? keys;

    /// <summary>Begins composing.</summary>
    /// <param name="day">The day for which pieces are composed; null for today.</param>
    public PackageComposer(SqliteConnection connection, Letters letters, DropRow drop, DateOnly? day = null)
    {
        (this.connection, this.letters, this.drop, this.day) = (connection, letters, drop, day ?? letters.Today);
        Package = letters.Package(connection, drop);
        composers = [.. Package.Select(p => p.Bound.Composer(this.day))];
        alone = OneOffs.Of(connection, drop.Id);
        refusals = RunMails.Refusals(connection, drop.Id);
        email = Package.Select(p => p.Bound).OfType<BoundEmail>().FirstOrDefault();
        attached = [.. email?.AttachedDesigns ?? []];
        addresses = email is null ? null : new(email, this.day);
        Details = Letters.Details(connection, Package[0].Bound);
    }

    /// <summary>The designs as everybody gets them.</summary>
    public IReadOnlyList<(PackageDesign Design, IBoundDesign Bound)> Package { get; }

    /// <summary>The recipients' detail rows.</summary>
    public DetailReader Details { get; }

    /// <summary>What was changed for a recipient alone.</summary>
    public IEnumerable<OneOffRow> Alone(long recipientId) => alone[recipientId];

    /// <summary>A recipient as designs see them.</summary>
    public IRow Row(DropRecipient recipient) => Letters.Row(recipient.Id, recipient.Values, Details);

    /// <summary>True where a design of the package reaches who gets it in a way: on paper, as the message, or attached to it.</summary>
    public bool Gets(Channel channel, PackageDesign design) =>
        design.IsEmail ? channel.HasFlag(Channel.Email) : channel.HasFlag(Channel.Paper) || attached.Contains(design.DesignId);

    /// <summary>How a recipient's pieces go out: as somebody chose, as what is made of them already went, or as the drop's rule
    /// says.</summary>
    public (Channel Channel, string? Unknown) ChannelOf(DropRecipient r, IRow row) =>
        r.IsBegun || r.ChannelByHand && (r.Channel & drop.Ways) == r.Channel
            ? (r.IsBegun ? r.Channel : WithoutEmail(r.Channel, row), null)
            : ChannelOf(row);

    /// <summary>The address to which a recipient's message goes; null where there is not exactly one.</summary>
    public string? AddressOf(DropRecipient r) => addresses?.Address(Row(r));

    /// <summary>How many copies of a recipient's message go out.</summary>
    public int CopiesOf(DropRecipient r) => addresses?.Copies(Row(r)) ?? 0;

    /// <summary>How the drop's rule lets a recipient's pieces go out.</summary>
    public (Channel Channel, string? Unknown) ChannelOf(IRow row)
    {
        var (channel, unknown) = drop.Channels.Of(
            drop.Ways,
            Package[0].Bound.Setting.Columns,
            row,
            addresses?.Cell(row) ?? CellVerdict.Blank
        );
        return (
            drop.Ways == Channel.Both && channel == Channel.Email && OptedOut(row) ? Channel.Paper : WithoutEmail(channel, row),
            unknown
        );
    }

    /// <summary>Who asked for no more email and would have both gets the letter alone.</summary>
    Channel WithoutEmail(Channel channel, IRow row) => channel == Channel.Both && OptedOut(row) ? Channel.Paper : channel;

    bool OptedOut(IRow row)
    {
        if (drop.Ways != Channel.Both)
            return false;
        optOuts ??= new(connection, letters.Today);
        var columns = Package[0].Bound.Setting.Columns;
        keys ??= new(columns);
        return optOuts.FindEmail(keys.Of(0, [.. Enumerable.Range(0, columns.Count).Select(i => row[i])])) is not null;
    }

    /// <summary>Composes a recipient's package.</summary>
    public ComposedPackage Compose(DropRecipient recipient)
    {
        var row = Row(recipient);
        var (channel, unknown) = ChannelOf(recipient, row);
        var own = new List<PieceIssue>();
        if (unknown is not null)
        {
            var column = Package[0].Bound.Setting.Columns[drop.Channels.Position(Package[0].Bound.Setting.Columns)].Name;
            own.Add(
                new(PieceIssueKind.Channel, column, unknown, $"{column} is “{unknown}”, which is not a channel. Enter {ChannelRule.Words}.")
            );
        }
        var composed = Compose(row, recipient.PieceNumber, channel, [.. alone[recipient.Id]]);
        if (
            composed.Mail is { } mail
            && refusals.TryGetValue(recipient.Id, out var refused)
            && recipient.EmailedOn is null
            && (refused.Address.Length == 0 || refused.Address.Equals(mail.To?.Address, StringComparison.OrdinalIgnoreCase))
        )
            own.Add(
                new(
                    PieceIssueKind.Refused,
                    email!.AddressName,
                    refused.Address,
                    $"The mail server rejected {(refused.Address.Length == 0 ? "the message" : refused.Address)}: {refused.Words}"
                )
            );
        return composed with { Own = [.. own, .. composed.Own] };
    }

    /// <summary>Composes a package for any row.</summary>
    public ComposedPackage Compose(IRow row, int pieceNumber, Channel? channel = null, IReadOnlyList<OneOffRow>? changes = null)
    {
        var way = channel ?? drop.Ways;
        var own = new List<PieceIssue>();
        if (way.HasFlag(Channel.Email) && attached.FirstOrDefault(a => !Package.Any(p => p.Design.DesignId == a)) is var missing and > 0)
            own.Add(
                new(
                    PieceIssueKind.Attachment,
                    "package",
                    $"{missing}",
                    $"The email attaches “{DesignStore.NameOf(connection, missing) ?? "a deleted design"}”, which is not in "
                        + "this drop's package. Add it to the package, or remove the attachment."
                )
            );
        var bound = new List<(PackageDesign, IBoundDesign)>();
        var pieces = new List<ComposedPiece>();
        for (var i = 0; i < Package.Count; i++)
        {
            var design = Package[i];
            if (!Gets(way, design.Design))
                continue;
            var one = changes?.FirstOrDefault(o => o.DesignId == design.Design.DesignId) is { } change
                ? letters.Bind(connection, change.DocumentJson, design.Design.DesignId, drop.ListId)
                : null;
            bound.Add((design.Design, one ?? design.Bound));
            pieces.Add((one?.Composer(day) ?? composers[i]).Compose(row, pieceNumber));
        }
        return new(way, bound, pieces, changes ?? [], own);
    }
}
