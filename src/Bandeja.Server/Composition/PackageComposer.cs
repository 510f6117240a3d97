using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Store;
using Microsoft.Data.Sqlite;

namespace Bandeja.Server.Composition;

/// <summary>A recipient's composed package.</summary>
/// <param name="Bound">The designs as they were bound for this recipient: a letter changed for them alone is another than everybody's.</param>
/// <param name="Pieces">What each came to.</param>
/// <param name="Alone">What was changed for this recipient alone.</param>
public sealed record ComposedPackage(IReadOnlyList<(PackageDesign Design, IBoundDesign Bound)> Bound, IReadOnlyList<ComposedPiece> Pieces, IReadOnlyList<OneOffRow> Alone)
{
    /// <summary>How many pages its letters have.</summary>
    public int Pages => PackagePieces.Pages(Bound, Pieces);

    /// <summary>What is doubtful about it, a change that must be settled with a newer version of the design included.</summary>
    public IReadOnlyList<Finding> Findings => Finding.Joined(PackagePieces.Findings(Bound, Pieces).Concat(Alone.Where(o => o.IsOpen).Select(o => new Finding(FindingKind.OneOff, o.DesignName, $"{o.NewestVersion}",
        $"{o.DesignName} was changed for this one alone in version {o.SettledVersion}; it is version {o.NewestVersion} now. Say which holds."))));
}

/// <summary>Composes recipients' packages in a drop's present versions, each with what was changed for them alone. Serves one thread and one connection.</summary>
public sealed class PackageComposer
{
    readonly SqliteConnection connection;
    readonly Letters letters;
    readonly DropRow drop;
    readonly List<IPieceComposer> composers;
    readonly DateOnly day;
    readonly ILookup<long, OneOffRow> alone;

    /// <summary>Begins composing.</summary>
    /// <param name="day">The day for which pieces are composed; null for today.</param>
    public PackageComposer(SqliteConnection connection, Letters letters, DropRow drop, DateOnly? day = null)
    {
        (this.connection, this.letters, this.drop, this.day) = (connection, letters, drop, day ?? letters.Today);
        Package = letters.Package(connection, drop);
        composers = [.. Package.Select(p => p.Bound.Composer(this.day))];
        alone = OneOffs.Of(connection, drop.Id);
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

    /// <summary>Composes a recipient's package.</summary>
    public ComposedPackage Compose(DropRecipient recipient) => Compose(Row(recipient), recipient.PieceNumber, [.. alone[recipient.Id]]);

    /// <summary>Composes a package for any row.</summary>
    public ComposedPackage Compose(IRow row, int pieceNumber, IReadOnlyList<OneOffRow>? changes = null)
    {
        if (changes is not { Count: > 0 }) return new(Package, [.. composers.Select(x => x.Compose(row, pieceNumber))], []);
        var bound = Package.Select(p => changes.FirstOrDefault(o => o.DesignId == p.Design.DesignId) is { } own ? (p.Design, letters.Bind(connection, own.DocumentJson, p.Design.DesignId, drop.ListId)) : p).ToList();
        return new(bound, [.. bound.Select((p, i) => ReferenceEquals(p.Item2, Package[i].Bound) ? composers[i].Compose(row, pieceNumber) : p.Item2.Composer(day).Compose(row, pieceNumber))], changes);
    }
}
