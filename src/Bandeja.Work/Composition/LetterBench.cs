using Bandeja.Core.Composition;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;
using Bandeja.Core.Surfaces;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Work.Composition;

/// <summary>A letter beside the recipient it is looked at with: which one that is, what the fields come to, which names are not known
/// there.</summary>
public sealed class LetterBench(Database database, Letters letters, ListStore lists)
{
    /// <summary>How many of the longest by their values are composed to find the longest letter.</summary>
    const int Candidates = 60;

    /// <summary>A recipient and where on the list they stand.</summary>
    public sealed record Shown(long Id, long Number, string?[] Values, int Offset, int Total);

    /// <summary>The recipient at a place of the list, or the one asked for by id; null where the list has none.</summary>
    public Shown? Recipient(long? listId, int offset, long? recipientId)
    {
        if (listId is not { } list)
            return null;
        if (recipientId is { } wanted)
        {
            using var c = database.Open();
            var place = c.QuerySingleOrDefault<int?>(
                $"SELECT (SELECT count(*) FROM {RowTable.Name(list)} b WHERE b.gone IS NULL AND b.n < a.n) FROM "
                    + $"{RowTable.Name(list)} a WHERE a.id = @wanted AND a.gone IS NULL",
                new { wanted }
            );
            offset = place ?? throw new NotFoundException("This recipient is no longer on the list.");
        }
        var (rows, total) = lists.Page(list, new(), null, Math.Max(0, offset), 1);
        if (rows.Count == 0 && total > 0)
            (rows, total) = lists.Page(list, new(), null, offset = total - 1, 1);
        return rows.Count == 0 ? null : new(rows[0].Id, rows[0].Number, rows[0].Values, offset, total);
    }

    /// <summary>Composes a document for a recipient.</summary>
    public (IBoundDesign Design, ComposedPiece Composed) Compose(string documentJson, long designId, long? listId, Shown? shown)
    {
        using var c = database.Open();
        var letter = letters.Bind(c, documentJson, designId, listId);
        var row = shown is null ? new ArrayRow([]) : Letters.Row(shown.Id, shown.Values, Letters.Details(c, letter));
        return (letter, letter.Composer(letters.Today).Compose(row, (int)(shown?.Number ?? 1)));
    }

    /// <summary>The envelope with a window that a letter goes out in, where a drop has both; null where none does.</summary>
    public SurfaceDesign? WindowEnvelope(long designId, long? listId)
    {
        if (designId == 0)
            return null;
        using var c = database.Open();
        foreach (var envelope in DesignStore.EnvelopesWith(c, designId))
            if (letters.Bind(c, DesignStore.Newest(c, envelope).DocumentJson, envelope, listId).Windowed() is { } windowed)
                return windowed;
        return null;
    }

    /// <summary>The recipient with the longest letter, or one with the most blanks among what the letter reads; null where nobody has a
    /// blank.</summary>
    public long? Find(string documentJson, long designId, long listId, string which)
    {
        using var c = database.Open();
        var letter = letters.Bind(c, documentJson, designId, listId);
        var cells = letter.UsedColumns.Select(i => RowTable.Cell(letter.Setting.Columns[i].Id)).ToList();
        if (which == "blanks")
            return cells.Count == 0
                ? null
                : c.QueryFirstOrDefault<long?>(
                    $"SELECT id FROM (SELECT id, n, {string.Join(" + ", cells.Select(x => $"({x} IS NULL)"))} AS blanks FROM "
                        + $"{RowTable.Name(listId)} WHERE gone IS NULL) WHERE blanks > 0 ORDER BY blanks DESC, n LIMIT 1"
                );
        var length = string.Join(
            " + ",
            cells
                .Select(x => $"coalesce(length({x}), 0)")
                .Concat(
                    (letter.Setting.Details ?? []).Select(d =>
                        $"60 * (SELECT count(*) FROM {DetailStore.Table(d.Id)} d WHERE d.recipient_id = r.id)"
                    )
                )
                .DefaultIfEmpty("0")
        );
        var ids = c.Query<long>($"SELECT id FROM {RowTable.Name(listId)} r WHERE gone IS NULL ORDER BY {length} DESC, n LIMIT {Candidates}")
            .ToList();
        var composer = letter.Composer(letters.Today);
        var details = Letters.Details(c, letter);
        long? best = null;
        (int Pages, double End, int Text) most = default;
        foreach (var id in ids)
        {
            var values = Values(c, letter.Setting.Columns, listId, id);
            var piece = composer.Compose(Letters.Row(id, values, details), 1);
            var pages = piece.Pages;
            var size = piece.Mail is { } mail
                ? (0, 0, mail.Subject.Length + mail.Text.Length)
                : (
                    pages.Count,
                    Math.Round(
                        pages[^1]
                            .Items.Select(i =>
                                i switch
                                {
                                    SharedItem s => s.Y + s.Part.Height,
                                    _ => i.Y,
                                }
                            )
                            .DefaultIfEmpty(0)
                            .Max(),
                        1
                    ),
                    pages.Sum(p => p.Text().Length)
                );
            if (best is null || size.CompareTo(most) > 0)
                (best, most) = (id, size);
        }
        return best;
    }

    static string?[] Values(SqliteConnection c, IReadOnlyList<Column> columns, long listId, long id)
    {
        using var command = c.CreateCommand();
        command.CommandText = $"SELECT {RowTable.CellList(columns)} FROM {RowTable.Name(listId)} r WHERE id = {id}";
        using var reader = command.ExecuteReader();
        reader.Read();
        return RowTable.Cells(reader, 0, columns.Count);
    }

    /// <summary>A recipient’s field values; where a field has a mistake or a problem, that is told instead.</summary>
    /// <param name="sources">Fields between their braces, each with the detail rows that <c>each</c> around it goes over, or null.</param>
    public IReadOnlyList<(string Text, string? Wrong)> Print(
        long designId,
        long? listId,
        Shown? shown,
        IReadOnlyList<(string Source, string? Within)> sources
    )
    {
        using var c = database.Open();
        var bound = letters.Bind(c, """{"content":[]}""", designId, listId);
        var setting = bound.Setting;
        var details = Letters.Details(c, bound);
        var names = setting.Names;
        var context = new EvaluationContext(
            setting.Columns,
            setting.Locale,
            letters.Today,
            setting.Details,
            setting.Sender,
            setting.Addressing
        );
        return
        [
            .. sources.Select(s =>
            {
                var set = s.Within is null ? null : names.SetNamed(s.Within);
                var template = Template.Parse(
                    set is null ? $"{{{s.Source}}}" : $"{{each {s.Within}}}{{when Row number = 1}}{{{s.Source}}}{{end}}{{end}}",
                    names.WithPages()
                );
                if (template.Errors.Count > 0)
                    return ("", template.Errors[0].Message);
                context.For(shown is null ? new ArrayRow([]) : Letters.Row(shown.Id, shown.Values, details), (int)(shown?.Number ?? 1));
                context.Page = (1, 1);
                var text = template.Print(context);
                return (text, context.Problems.FirstOrDefault()?.Message);
            }),
        ];
    }

    /// <summary>A name of a letter that the list does not have, or has under another heading.</summary>
    /// <param name="ColumnId">The column it stands for; null where that is not settled.</param>
    /// <param name="How">hand, role or renamed; null where it is not settled.</param>
    /// <param name="Suggestion">A column that it may well mean.</param>
    public sealed record NameMatch(string Name, long? ColumnId, string? How, long? Suggestion);

    /// <summary>The names of a letter that are not headings of the list, with what they stand for.</summary>
    public IReadOnlyList<NameMatch> Matches(string documentJson, long designId, long listId)
    {
        using var c = database.Open();
        var letter = letters.Bind(c, documentJson, designId, listId);
        var columns = letter.Setting.Columns;
        // What stands within detail rows is matched with their columns, not with the list's.
        var withinRows = letter
            .Parts.SelectMany(p => p.All())
            .OfType<EachPart>()
            .SelectMany(e => e.Parts)
            .SelectMany(DesignReading.Within)
            .SelectMany(Unknown)
            .ToHashSet(StringComparer.OrdinalIgnoreCase);
        var unknown = letter
            .Expressions()
            .SelectMany(Unknown)
            .Where(n => n.Length > 0 && !withinRows.Contains(n))
            .Distinct(StringComparer.OrdinalIgnoreCase);
        var remembered = DesignMatches
            .Of(c, designId, listId)
            .Where(m => columns.Any(x => x.Id == m.ColumnId))
            .Select(m => new NameMatch(m.Name, m.ColumnId, m.How, null));
        return
        [
            .. remembered,
            .. unknown
                .Select(n => new NameMatch(n, null, null, Suggested(n, columns)?.Id))
                .OrderBy(m => m.Name, StringComparer.OrdinalIgnoreCase),
        ];
    }

    /// <summary>Detail rows of a letter that the list does not have, or has under another name, or a field within them.</summary>
    /// <param name="Field">The field within the rows; null for the rows themselves.</param>
    /// <param name="Target">What it stands for; null where that is not settled.</param>
    /// <param name="Choices">The list's sets of detail rows, or the columns of the set.</param>
    public sealed record RowsNameMatch(string Name, string? Field, string? Target, IReadOnlyList<string> Choices);

    /// <summary>The names of detail rows in a letter that the list does not have, and the names within rows that the rows do not
    /// have.</summary>
    public IReadOnlyList<RowsNameMatch> RowsMatches(string documentJson, long designId, long listId)
    {
        using var c = database.Open();
        var letter = letters.Bind(c, documentJson, designId, listId);
        var sets = letter.Setting.Details ?? [];
        var names = sets.Select(s => s.Name).ToList();
        var remembered = c.Query<(string Name, string Field, string Target)>(
                "SELECT name, field, target FROM design_rows_match WHERE design_id = @designId AND list_id = @listId ORDER BY name, field",
                new { designId, listId }
            )
            .ToList();
        IReadOnlyList<string> ColumnsOf(string rows) =>
            sets.FirstOrDefault(s =>
                    s.Name.Equals(
                        remembered
                            .Where(m => m.Field.Length == 0 && m.Name.Equals(rows, StringComparison.OrdinalIgnoreCase))
                            .Select(m => m.Target)
                            .FirstOrDefault()
                        ?? rows,
                        StringComparison.OrdinalIgnoreCase
                    )
                )
                ?.Columns.Select(x => x.Name)
                .ToList() ?? [];
        var parts = letter
            .Parts.SelectMany(p => p.All())
            .Concat(
                letter.Parts.SelectMany(p => p.All()).OfType<PlainPart>().SelectMany(p => DesignReading.Inner(p)).SelectMany(p => p.All())
            )
            .ToList();
        var open = parts
            .OfType<UnmatchedEach>()
            .Select(e => e.Name)
            .Concat(letter.Expressions().SelectMany(UnknownRowsOf))
            .Where(n => n.Length > 0)
            .Distinct(StringComparer.OrdinalIgnoreCase)
            .Select(n => new RowsNameMatch(n, null, null, names));
        var within = parts
            .OfType<EachPart>()
            .SelectMany(e =>
                e.Parts.SelectMany(DesignReading.Within)
                    .SelectMany(Unknown)
                    .Where(n => n.Length > 0)
                    .Select(n => (Set: sets[e.Set].Name, Field: n))
            )
            .Distinct()
            .Select(f =>
                (
                    Rows: remembered
                        .Where(m => m.Field.Length == 0 && m.Target.Equals(f.Set, StringComparison.OrdinalIgnoreCase))
                        .Select(m => m.Name)
                        .FirstOrDefault()
                    ?? f.Set,
                    f.Field
                )
            )
            .Select(f => new RowsNameMatch(f.Rows, f.Field, null, ColumnsOf(f.Rows)));
        return
        [
            .. remembered.Select(m => new RowsNameMatch(
                m.Name,
                m.Field.Length == 0 ? null : m.Field,
                m.Target,
                m.Field.Length == 0 ? names : ColumnsOf(m.Name)
            )),
            .. open,
            .. within,
        ];
    }

    static IEnumerable<string> UnknownRowsOf(Expression e) => e is UnknownRows u ? [u.Name] : e.Parts().SelectMany(UnknownRowsOf);

    static IEnumerable<string> Unknown(Expression e) => e is UnknownName u ? [u.Name] : e.Parts().SelectMany(Unknown);

    /// <summary>The column that a name may well mean: the only one of the role that such a heading has, else one spelled nearly
    /// so.</summary>
    static Column? Suggested(string name, IReadOnlyList<Column> columns)
    {
        var role = RoleRecognizer.FromHeading(name);
        if (role != Role.None && columns.Where(x => x.Role == role).ToList() is [var only])
            return only;
        var near = new Names(columns).Nearest(name);
        return near is null ? null : columns.FirstOrDefault(x => x.Name == near);
    }

    /// <summary>Matches by role what a letter brings from the list it was written with to another; answers how many names stay
    /// open.</summary>
    public int MatchByRole(string documentJson, long designId, long? fromListId, long toListId, DesignStore designs)
    {
        IReadOnlyList<Column> before,
            after;
        using (var c = database.Open())
        {
            before = fromListId is { } from ? RowTable.Columns(c, from) : [];
            after = RowTable.Columns(c, toListId);
        }
        var open = Matches(documentJson, designId, toListId).Where(m => m.ColumnId is null).ToList();
        foreach (var match in open.ToList())
        {
            var role =
                before.FirstOrDefault(x => x.Name.Equals(match.Name, StringComparison.OrdinalIgnoreCase))?.Role
                ?? RoleRecognizer.FromHeading(match.Name);
            if (role == Role.None || after.Where(x => x.Role == role).ToList() is not [var column])
                continue;
            designs.Match(designId, toListId, match.Name, column.Id, "role");
            open.Remove(match);
        }
        return open.Count;
    }
}
