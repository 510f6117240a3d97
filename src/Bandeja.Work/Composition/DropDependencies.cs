using System.Text.RegularExpressions;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Store;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Store.People;
using Bandeja.Store.Proofs;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Work.Composition;

/// <summary>Something that reads a column.</summary>
public sealed record ColumnUse(long Id, string Name);

/// <summary>A mistake in a design: a brace that is not closed, an unknown format, a condition without an end.</summary>
/// <param name="Block">Zero-based number of the paragraph.</param>
/// <param name="Source">The text that it stands in.</param>
public sealed record DesignMistake(long DesignId, string Name, int Block, string Source, string Message);

/// <summary>Who reads a column of a list, to be said before it is removed or changed.</summary>
/// <param name="Columns">Computed columns.</param>
/// <param name="Designs">Designs written with the list, or sent to it by a drop.</param>
/// <param name="Segments">Segments whose filter reads it.</param>
/// <param name="Drops">Drops that print it, or choose recipients or their channel by it.</param>
public sealed record ColumnUses(
    IReadOnlyList<ColumnUse> Columns,
    IReadOnlyList<ColumnUse> Designs,
    IReadOnlyList<ColumnUse> Segments,
    IReadOnlyList<ColumnUse> Drops
);

/// <summary>
/// What the pieces of a drop depend on beside its recipients' values: columns and their roles, detail rows, the segment, the designs, the
/// settings, the pictures. This is the one place that knows it. The mark of it all is compared with the one for which the drop was checked;
/// it is read from what is stored, so it is the same after a restart, and nothing is produced while the two differ.
/// </summary>
public sealed partial class DropDependencies(Letters letters)
{
    /// <summary>A mark of everything that a drop's pieces depend on.</summary>
    public string Mark(SqliteConnection c, DropRow drop)
    {
        var columns = RowTable.Columns(c, drop.ListId);
        var sets = DetailStore.Sets(c, drop.ListId);
        var (readColumns, readSets, readsToday, errors) = Reads(c, drop, columns, sets);
        var versions = drop
            .Package.Select(d => (d.DesignId, Version: DesignStore.Newest(c, d.DesignId)))
            .Select(d => $"{d.Version.Id}@{d.Version.Revision}|{DesignMatches.Mark(c, d.DesignId, drop.ListId)}");
        return string.Join(
            '|',
            [
                string.Join('+', versions),
                letters.Rules(c, drop),
                // How issues are worded; no sign-off speaks of that.
                letters.Locale.InInches
                    ? "inches"
                    : "",
                SuppressionStore.Mark(c, letters.Today),
                SegmentStore.Mark(c, drop.SegmentId),
                HouseholdStore.Mark(c, drop.ListId),
                ContactHolds.Mark(c, drop, letters.Today),
                drop.Package.Any(d => NamesFiles().IsMatch(DesignStore.Newest(c, d.DesignId).DocumentJson))
                    ? PersonFileStore.Mark(c, drop.ListId)
                    : "",
                drop is { StepId: { } step, CollectsOn: null } ? CampaignStore.Mark(c, step, letters.Today) : "",
                $"{drop.ChannelBy}{drop.ChannelColumn}",
                $"{drop.Changes}",
                .. readColumns.Select(i => columns[i].ToString()),
                .. readSets.Select(i => $"{sets[i].Id} {sets[i].Name}: {string.Join(',', sets[i].Columns)}"),
                .. errors,
                readsToday ? $"{letters.Today:yyyy-MM-dd}" : "",
            ]
        );
    }

    /// <summary>Found in a stored design that chooses pictures or files by what a recipient has.</summary>
    [GeneratedRegex("""\"(source|own|value)\"\s*:\s*\"[^\"]""", RegexOptions.CultureInvariant)]
    private static partial Regex NamesFiles();

    /// <summary>Positions of the columns and detail sets that a drop reads, and what is wrong with what reads them.</summary>
    (SortedSet<int> Columns, SortedSet<int> Sets, bool Today, List<string> Errors) Reads(
        SqliteConnection c,
        DropRow drop,
        IReadOnlyList<Column> columns,
        IReadOnlyList<DetailSet> sets
    )
    {
        // Names, addresses, languages, suppression and households are read by their roles, whatever the designs print.
        var read = new SortedSet<int>(Enumerable.Range(0, columns.Count).Where(i => columns[i].Role != Role.None));
        var (readSets, today, errors) = (new SortedSet<int>(), false, new List<string>());
        void Add(Expression expression)
        {
            readSets.UnionWith(expression.DetailSets());
            today |= expression.ReadsToday;
        }
        foreach (
            var bound in letters
                .Package(c, drop)
                .Select(p => p.Bound)
                .Concat(
                    OneOffs
                        .Of(c, drop.Id)
                        .SelectMany(o => o)
                        .DistinctBy(o => (o.DesignId, o.DocumentJson))
                        .Take(50)
                        .Select(o => letters.Bind(c, o.DocumentJson, o.DesignId, drop.ListId))
                )
        )
        {
            read.UnionWith(bound.UsedColumns);
            foreach (var expression in bound.Expressions())
                Add(expression);
            // A set that each goes through is read, also where no column of it is printed.
            readSets.UnionWith(bound.Parts.SelectMany(p => p.All()).OfType<EachPart>().Select(e => e.Set));
            errors.AddRange(bound.Errors.Select(e => e.Error.Message));
            errors.AddRange(LooseTags.In(bound).Select(t => $"{t.Written} {t.Field}"));
        }
        if (drop.SegmentId is { } segment && SegmentStore.Get(c, segment).Filter is { Length: > 0 } filter)
        {
            var parsed = FieldParser.ParseCondition(filter, new(columns, sets, null, letters.Locale));
            read.UnionWith(parsed.Expression.Columns());
            Add(parsed.Expression);
            errors.AddRange(parsed.Errors.Select(e => e.Message));
        }
        if (drop.Channels.Position(columns) is >= 0 and var channel)
            read.Add(channel);
        return (read, readSets, today, errors);
    }

    /// <summary>Who reads a column.</summary>
    /// <exception cref="NotFoundException">This column is not in the list.</exception>
    public ColumnUses UsesOf(SqliteConnection c, long listId, int columnId)
    {
        var columns = RowTable.Columns(c, listId);
        var sets = DetailStore.Sets(c, listId);
        var at = columns.ToList().FindIndex(x => x.Id == columnId);
        if (at < 0)
            throw new NotFoundException("This column is no longer in the list.");
        var names = new Names(columns, sets, null, letters.Locale);
        bool Reads(string expression) => FieldParser.ParseExpression(expression, names).Expression.Columns().Contains(at);
        var segments = c.Query<(long Id, string Name, string Filter)>(
                "SELECT id, name, filter FROM segment WHERE list_id = @listId ORDER BY name COLLATE NAMES",
                new { listId }
            )
            .Where(s => s.Filter.Length > 0 && Reads(s.Filter))
            .ToList();
        var designs = c.Query<(long Id, string Name)>(
                """
                SELECT DISTINCT d.id, d.name FROM design d LEFT JOIN drop_design p ON p.design_id = d.id LEFT JOIN mail_drop m
                    ON m.id = p.drop_id
                WHERE d.archived = 0 AND (d.list_id = @listId OR m.list_id = @listId) ORDER BY d.name
                """,
                new { listId }
            )
            .Where(d => letters.Bind(c, DesignStore.Newest(c, d.Id).DocumentJson, d.Id, listId).UsedColumns.Contains(at))
            .ToList();
        var drops = c.Query<long>("SELECT id FROM mail_drop WHERE list_id = @listId ORDER BY id", new { listId })
            .ToList()
            .Select(id => DropStore.Drop(c, id))
            .Where(d =>
                d.Package.Any(p => designs.Any(g => g.Id == p.DesignId))
                || segments.Any(s => s.Id == d.SegmentId)
                || d.Channels.Position(columns) == at
            );
        return new(
            [
                .. columns
                    .Where(x => x.Kind == ColumnKind.Computed && x.Id != columnId && Reads(x.Expression!))
                    .Select(x => new ColumnUse(x.Id, x.Name)),
            ],
            [.. designs.Select(d => new ColumnUse(d.Id, d.Name))],
            [.. segments.Select(s => new ColumnUse(s.Id, s.Name))],
            [.. drops.Select(d => new ColumnUse(d.Id, $"{d.CampaignName} · {d.Name}"))]
        );
    }

    /// <summary>Why nothing can be produced from a drop now; null where it can.</summary>
    /// <param name="designs">The designs that are to be produced.</param>
    public string? Objection(SqliteConnection c, DropRow drop, Func<PackageDesign, bool> designs)
    {
        var mark = Mark(c, drop);
        if (drop.CheckedMark == mark)
            return DesignMistakes(c, drop).FirstOrDefault(m => designs(drop.Package.First(p => p.DesignId == m.DesignId))) is { } first
                ? $"“{first.Name}” has a mistake, and nothing is produced until it is fixed: {first.Message}"
                : null;
        return drop.CheckErrorMark == mark
            ? CannotBeChecked(drop)
            : "The pieces are still being checked after a change. Try again in a moment.";
    }

    /// <summary>Mistakes in the designs of a drop: they keep every run from beginning.</summary>
    public IReadOnlyList<DesignMistake> DesignMistakes(SqliteConnection c, DropRow drop) =>
        [
            .. letters
                .Package(c, drop)
                .SelectMany(p =>
                    p.Bound.Errors.Select(e => new DesignMistake(p.Design.DesignId, p.Design.Name, e.Block, e.Source, e.Error.Message))
                ),
        ];

    /// <summary>The sentence for a drop whose check failed.</summary>
    public static string CannotBeChecked(DropRow drop) => $"The pieces cannot be checked, so nothing is produced: {drop.CheckError}";
}
