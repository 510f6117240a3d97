using Bandeja.Core.Addressing;
using Bandeja.Core.Composition;
using Bandeja.Core.Lists;
using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Store.Runs;
using Bandeja.Work.Composition;
using Bandeja.Work.Freezing;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Work.Production;

/// <summary>A value that is another than the one a piece was produced with.</summary>
/// <param name="Name">The column's heading, or the name of a set of detail rows.</param>
public sealed record ChangedValue(string Name, string? Then, string? Now);

/// <summary>What changed since pieces were produced, and what a reprint of them would print.</summary>
public sealed class Reprints(RunStore runs, Letters letters)
{
    /// <summary>Which of some recipients have, in what a run's designs print, other values or detail rows now than when it produced their
    /// pieces.</summary>
    public IReadOnlyList<long> CorrectedSince(SqliteConnection c, RunRow run, IReadOnlyList<long> recipients)
    {
        var frozen = new FrozenRun(c, letters, run);
        // Most lists have few corrections; only who has any is looked at value by value, and everybody where detail rows are printed.
        var edited = c.Query<long>(
                "SELECT DISTINCT recipient_id FROM cell_change WHERE list_id = @ListId AND id > @AsOfChange AND column_id > 0",
                new { frozen.Drop.ListId, run.AsOfChange }
            )
            .ToHashSet();
        var details = frozen.Setting.Details is not null && SetsOf(frozen.Bound).Count > 0;
        return [.. recipients.Where(r => (details || edited.Contains(r)) && Changes(c, frozen, r).Count > 0)];
    }

    /// <summary>What a recipient's piece of a run printed that is another value now.</summary>
    public IReadOnlyList<ChangedValue> Changes(SqliteConnection c, RunRow run, long recipientId) =>
        Changes(c, new FrozenRun(c, letters, run), recipientId);

    static IReadOnlyList<ChangedValue> Changes(SqliteConnection c, FrozenRun frozen, long recipientId)
    {
        var columns = frozen.Setting.Columns;
        var used = frozen.Bound.SelectMany(b => b.UsedColumns).ToHashSet();
        var found = new List<ChangedValue>();
        foreach (
            var (column, old) in c.Query<(long Column, string? Old)>(
                    "SELECT column_id, old FROM cell_change WHERE list_id = @ListId AND recipient_id = @recipientId AND id > "
                        + "@AsOfChange AND column_id > 0 ORDER BY id",
                    new
                    {
                        frozen.Drop.ListId,
                        recipientId,
                        frozen.Run.AsOfChange,
                    }
                )
                .DistinctBy(x => x.Column)
                .ToList()
        )
        {
            var at = columns.ToList().FindIndex(x => x.Id == column);
            if (at < 0 || !used.Contains(at))
                continue;
            var now = c.QuerySingle<string?>(
                $"SELECT {RowTable.Cell((int)column)} FROM {RowTable.Name(frozen.Drop.ListId)} WHERE id = @recipientId",
                new { recipientId }
            );
            if (now != old)
                found.Add(new(columns[at].Name, old, now));
        }
        if (frozen.Setting.Details is not { } sets)
            return found;
        var live = DetailStore.Sets(c, frozen.Drop.ListId);
        foreach (var position in SetsOf(frozen.Bound))
        {
            // A newer file replaces a set of the same name; what is compared is what the recipient's rows say.
            var then = RunFreezing.FrozenDetails(c, frozen.Run.Id, recipientId).GetValueOrDefault(position, []);
            var set = live.ToList().FindIndex(s => s.Name.Equals(sets[position].Name, StringComparison.OrdinalIgnoreCase));
            var now =
                set < 0
                    ? []
                    : c.Query(
                            $"SELECT {string.Join(", ", live[set].Columns.Select(x => RowTable.Cell(x.Id)))} FROM "
                                + $"{DetailStore.Table(live[set].Id)} WHERE recipient_id = @recipientId ORDER BY n",
                            new { recipientId }
                        )
                        .Select(r => ((IDictionary<string, object?>)r).Values.Select(v => (string?)v).ToArray())
                        .ToList();
            if (then.Count != now.Count || !then.Zip(now).All(p => p.First.SequenceEqual(p.Second)))
                found.Add(new(sets[position].Name, Rows(then.Count), set < 0 ? null : Rows(now.Count)));
        }
        return found;
        static string Rows(int count) => count == 1 ? "1 row" : $"{count:N0} rows";
    }

    /// <summary>Positions of the sets of detail rows that designs read.</summary>
    internal static IReadOnlyList<int> SetsOf(IEnumerable<IBoundDesign> designs) =>
        [
            .. designs
                .SelectMany(b =>
                    b.Expressions()
                        .SelectMany(e => e.DetailSets())
                        .Concat(b.Parts.SelectMany(p => p.All()).OfType<Core.Language.EachPart>().Select(e => e.Set))
                )
                .Distinct()
                .Order(),
        ];

    /// <summary>A recipient, and their package as it was produced, or as it would be now.</summary>
    /// <exception cref="NotFoundException">The recipient is not in the drop.</exception>
    public (DropRow Drop, DropRecipient Recipient, ComposedPackage Package) ToBeSeen(SqliteConnection c, long dropId, long recipientId)
    {
        var drop = DropStore.Drop(c, dropId);
        var r =
            DropStore.Recipients(c, drop, RowTable.Columns(c, drop.ListId), [recipientId]).FirstOrDefault() ?? throw new NotFoundException(
                "This recipient is not in the drop."
            );
        var current = new PackageComposer(c, letters, drop).Compose(r);
        return (drop, r, r.RunId is null && r.EmailRunId is null ? current : AsProduced(c, drop, r, current));
    }

    /// <summary>A recipient's package as it is to be seen: what was produced as it was printed or sent, by the last run that did; what is
    /// not produced yet as it would be now.</summary>
    public ComposedPackage AsProduced(SqliteConnection c, DropRow drop, DropRecipient r, ComposedPackage now)
    {
        var bound = new List<(PackageDesign Design, IBoundDesign Bound)>();
        var pieces = new List<ComposedPiece>();
        foreach (var email in (bool[])[false, true])
        {
            if ((email ? r.EmailRunId : r.RunId) is not { } original)
            {
                for (var i = 0; i < now.Bound.Count; i++)
                    if (now.Bound[i].Design.IsEmail == email && !bound.Any(b => b.Design.DesignId == now.Bound[i].Design.DesignId))
                    {
                        bound.Add(now.Bound[i]);
                        pieces.Add(now.Pieces[i]);
                    }
                continue;
            }
            var opened = new Dictionary<long, FrozenRun>();
            FrozenRun Open(long run) => opened.TryGetValue(run, out var known) ? known : opened[run] = new(c, letters, runs.Get(run));
            var producing = RunStore.Producing(c, drop.Id, r.Id, email).Append(original).ToList();
            foreach (var design in Open(original).Run.Designs)
            {
                var run = Open(producing.First(p => Open(p).Run.Designs.Any(d => d.DesignId == design.DesignId)));
                if (runs.Pieces(run.Run, drop.ListId, run.Setting.Columns, recipientId: r.Id).FirstOrDefault() is not { } piece)
                    continue;
                var at = run.Run.Designs.ToList().FindIndex(d => d.DesignId == design.DesignId);
                if (bound.Any(b => b.Design.DesignId == design.DesignId))
                    continue;
                bound.Add((new(design.DesignId, design.Name, design.Kind), run.Bound[at]));
                pieces.Add(run.Compose(piece, at));
            }
        }
        return now with { Bound = bound, Pieces = pieces };
    }

    /// <summary>The name and address that stand on the pieces of a list's recipients.</summary>
    public static Func<string?[], (string Name, string Address)> Addressees(LetterSetting setting, bool email)
    {
        var addresses = new DeliveryAddress(
            setting.Columns,
            setting.Locale.Country,
            setting.Addressing?.CountryLine ?? CountryLine.Abroad,
            setting.Locale.Tag
        );
        var roles = new RecipientRoles(setting.Columns);
        return values =>
        {
            var row = new ArrayRow(values);
            var label = RecipientLabel.Of(setting.Columns, i => values[i]);
            var name = roles.Of(row, Role.AddressedTo) is { Length: > 0 } household ? household : label.Name;
            if (email)
                return (name, roles.Of(row, Role.Email));
            var lines = addresses.Write(row).Where(l => l.Kind != AddressLineKind.Name).Select(l => l.Text).ToList();
            return (name, lines.Count == 0 ? label.Place : string.Join(", ", lines));
        };
    }

    /// <summary>What a reprint would print: the designs of the run that produced the pieces, with the values of then or of now.</summary>
    /// <param name="only">Only these designs; null for all.</param>
    public ReprintPieces? Pieces(SqliteConnection c, RunRow? source, bool corrected, IReadOnlyCollection<long>? only)
    {
        if (source is null)
            return null;
        var chosen = source.Designs.Where(d => only is null || only.Contains(d.DesignId)).ToList();
        var drop = DropStore.Drop(c, source.DropId);
        var run = corrected
            ? source with
            {
                Designs = chosen,
                FrozenJson = letters.Freeze(c, drop).ToJson(),
                AsOfChange = ListStore.LastChange(c, drop.ListId),
            }
            : source with
            {
                Designs = chosen,
            };
        var frozen = new FrozenRun(c, letters, run, liveDetails: corrected);
        return new(
            [.. chosen.Select((d, i) => (new PackageDesign(d.DesignId, d.Name, d.Kind), frozen.Bound[i]))],
            (recipient, design) =>
                frozen.Compose(runs.Pieces(run, drop.ListId, frozen.Setting.Columns, recipientId: recipient).First(), design)
        );
    }
}
