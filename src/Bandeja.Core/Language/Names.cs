using Bandeja.Core.Lists;

namespace Bandeja.Core.Language;

/// <summary>A name of a letter that stands for a set of detail rows of the list, though it is called otherwise there.</summary>
/// <param name="Name">The name in the letter.</param>
/// <param name="Set">Position among the list's sets.</param>
/// <param name="Columns">Names within it that stand for a column of the set, with the column's position.</param>
public sealed record RowsMatch(string Name, int Set, IReadOnlyDictionary<string, int> Columns);

/// <summary>The names that an expression can use: the headings of a list and the built-in values.</summary>
public sealed class Names
{
    static readonly (string Name, BuiltIn Which)[] BuiltIns =
    [
        ("Today", BuiltIn.Today),
        ("Piece number", BuiltIn.PieceNumber),
        ("Delivery address", BuiltIn.DeliveryAddress),
        ("Salutation", BuiltIn.Salutation),
        ("Sender", BuiltIn.Sender),
        ("Row number", BuiltIn.RowNumber),
        ("Page number", BuiltIn.PageNumber),
        ("Page count", BuiltIn.PageCount),
        ("Address lines", BuiltIn.AddressLines),
        ("Longest address line", BuiltIn.LongestAddressLine),
        ("Name in full", BuiltIn.NameInFull),
        ("Given and family name", BuiltIn.GivenAndFamilyName),
        ("Title and family name", BuiltIn.TitleAndFamilyName),
        ("Family name first", BuiltIn.FamilyNameFirst),
        ("Household name", BuiltIn.HouseholdName),
    ];
    readonly List<(string Name, Expression Reference)> all = [];
    readonly List<(string Name, int Set, DetailSet Details)> details;
    readonly IReadOnlyList<Column> columns;
    readonly IReadOnlyList<DetailSet> sets;
    readonly IReadOnlyDictionary<string, int> matches;
    readonly IReadOnlyList<RowsMatch> rowsMatches;
    readonly IReadOnlyList<int> inside;
    readonly bool pages;

    /// <summary>Collects the names. A column hides a built-in value of the same name.</summary>
    /// <param name="columns">The list's columns.</param>
    /// <param name="detailSets">The list's sets of detail rows, where expressions may sum them up.</param>
    /// <param name="matches">Names that stand for a column though it is called otherwise, with the column's position: former headings, and
    /// those of another list.</param>
    /// <param name="rows">Names that stand for a set of detail rows though it is called otherwise, and names within it.</param>
    /// <param name="locale">How the organization writes dates; United States English where it is not said.</param>
    public Names(
        IReadOnlyList<Column> columns,
        IReadOnlyList<DetailSet>? detailSets = null,
        IReadOnlyDictionary<string, int>? matches = null,
        OrganizationLocale? locale = null,
        IReadOnlyList<RowsMatch>? rows = null
    )
        : this(
            columns,
            detailSets ?? [],
            matches ?? new Dictionary<string, int>(),
            [],
            false,
            locale ?? OrganizationLocale.UnitedStates,
            rows ?? []
        ) { }

    Names(
        IReadOnlyList<Column> columns,
        IReadOnlyList<DetailSet> sets,
        IReadOnlyDictionary<string, int> matches,
        IReadOnlyList<int> inside,
        bool pages,
        OrganizationLocale locale,
        IReadOnlyList<RowsMatch> rowsMatches
    )
    {
        (this.columns, this.sets, this.matches, this.inside, this.pages, Locale, this.rowsMatches) = (
            columns,
            sets,
            matches,
            inside,
            pages,
            locale,
            rowsMatches
        );
        details =
        [
            .. sets.Select((d, i) => (d.Name, i, d))
                .Concat(rowsMatches.Where(m => m.Set < sets.Count).Select(m => (m.Name, m.Set, sets[m.Set])))
                .DistinctBy(d => d.Item1, StringComparer.OrdinalIgnoreCase)
                .OrderByDescending(d => d.Item1.Length),
        ];
        // What is nearer hides what is farther: the row that each stands at, what was settled by hand, the list, the built-in values.
        foreach (var set in inside)
        foreach (var (name, i) in ColumnsOf(set))
            Add(name, new RowValueReference(set, i, sets[set].Columns[i].Name));
        foreach (var (name, index) in matches)
            Add(name, new ColumnReference(index, columns[index].Name));
        for (var i = 0; i < columns.Count; i++)
            Add(columns[i].Name, new ColumnReference(i, columns[i].Name));
        foreach (var (name, which) in BuiltIns)
            if (
                which switch
                {
                    BuiltIn.RowNumber => inside.Count > 0,
                    BuiltIn.PageNumber or BuiltIn.PageCount => pages,
                    _ => true,
                }
            )
                Add(name, new BuiltInReference(which));
        // Longest first, so that the first match is the longest heading.
        all.Sort((a, b) => b.Name.Length - a.Name.Length);
    }

    void Add(string name, Expression reference)
    {
        if (!all.Any(a => a.Name.Equals(name, StringComparison.OrdinalIgnoreCase)))
            all.Add((name, reference));
    }

    /// <summary>How the organization writes dates.</summary>
    public OrganizationLocale Locale { get; }

    internal Column? ColumnAt(int index) => index >= 0 && index < columns.Count ? columns[index] : null;

    internal Column? DetailColumnAt(int set, int column) =>
        set >= 0 && set < sets.Count && column >= 0 && column < sets[set].Columns.Count ? sets[set].Columns[column] : null;

    /// <summary>The names within <c>each</c> over a set of detail rows: its columns come first.</summary>
    public Names Within(int set) => new(columns, sets, matches, [set, .. inside.Where(s => s != set)], pages, Locale, rowsMatches);

    /// <summary>The names in a header or footer, where the pages are counted.</summary>
    public Names WithPages() => new(columns, sets, matches, inside, true, Locale, rowsMatches);

    /// <summary>The position of a set of detail rows by its name, or null.</summary>
    public int? SetNamed(string name) =>
        details.Where(d => d.Name.Equals(name, StringComparison.OrdinalIgnoreCase)).Select(d => (int?)d.Set).FirstOrDefault();

    /// <summary>The names of a set's columns, those that stand for one though it is called otherwise with them.</summary>
    IEnumerable<(string Name, int Index)> ColumnsOf(int set) =>
        sets[set]
            .Columns.Select((c, i) => (c.Name, i))
            .Concat(
                rowsMatches
                    .Where(m => m.Set == set)
                    .SelectMany(m => m.Columns)
                    .Where(c => c.Value < sets[set].Columns.Count)
                    .Select(c => (c.Key, c.Value))
            );

    /// <summary>The names of the sets of detail rows.</summary>
    public IEnumerable<string> SetNames => sets.Select(s => s.Name);

    /// <summary>How a built-in value is written.</summary>
    public static string Of(BuiltIn which) => BuiltIns.First(b => b.Which == which).Name;

    /// <summary>The longest name that stands at a position of the text and ends there at the end of a word.</summary>
    public (Expression Reference, int Length)? LongestAt(string text, int at)
    {
        foreach (var (name, reference) in all)
        {
            if (string.Compare(text, at, name, 0, name.Length, StringComparison.OrdinalIgnoreCase) != 0)
                continue;
            var end = at + name.Length;
            if (end < text.Length && char.IsLetterOrDigit(text[end]) && char.IsLetterOrDigit(text[end - 1]))
                continue;
            return (reference, name.Length);
        }
        return null;
    }

    /// <summary>The longest name of detail rows that stands at a position, with a column's heading after a full stop where there is
    /// one.</summary>
    public (DetailReference Reference, int Length)? DetailAt(string text, int at, int end)
    {
        var start = at;
        foreach (var (name, set, rows) in details)
        {
            at = start;
            if (!Reads(text, ref at, end, name))
                continue;
            var rowsEnd = at;
            if (at >= end || text[at] != '.')
                return (new(set, -1, name), rowsEnd - start);
            at++;
            foreach (var (column, index) in ColumnsOf(set).OrderByDescending(c => c.Name.Length))
            {
                var to = at;
                if (Reads(text, ref to, end, column))
                    return (new(set, index, $"{rows.Name}\u001f{rows.Columns[index].Name}"), to - start);
            }
            return (new(set, -1, name), rowsEnd - start);
        }
        return null;
    }

    static bool Reads(string text, ref int at, int end, string name)
    {
        var ticked = at < end && text[at] == '`' ? 1 : 0;
        var to = at + ticked + name.Length;
        if (to + ticked > end || string.Compare(text, at + ticked, name, 0, name.Length, StringComparison.OrdinalIgnoreCase) != 0)
            return false;
        if (ticked == 1 ? text[to] != '`' : to < end && char.IsLetterOrDigit(text[to]) && char.IsLetterOrDigit(text[to - 1]))
            return false;
        at = to + ticked;
        return true;
    }

    /// <summary>How detail rows are named here, for a message; empty where there are none.</summary>
    public IEnumerable<string> DetailNames => details.SelectMany(d => d.Details.Columns.Select(c => $"{d.Name}.{c.Name}"));

    /// <summary>The column of detail rows that a mistyped name, or the column's own name without that of its rows, means; null where none
    /// is near, or several are.</summary>
    /// <param name="rows">True where the rows themselves can be meant.</param>
    public string? NearestRows(string name, bool rows)
    {
        var plain = name.Replace("`", "", StringComparison.Ordinal).ToLowerInvariant();
        if (plain.Length == 0)
            return null;
        var own = details
            .SelectMany(d => d.Details.Columns.Select(c => (Name: $"{d.Name}.{c.Name}", Bare: c.Name)))
            .Where(n => n.Bare.Equals(plain, StringComparison.OrdinalIgnoreCase))
            .ToList();
        if (own.Count > 0)
            return own.Count == 1 ? own[0].Name : null;
        var best = (rows ? SetNames : [])
            .Concat(DetailNames)
            .Select(n => (Name: n, Distance: Distance(n.ToLowerInvariant(), plain)))
            .OrderBy(n => n.Distance)
            .FirstOrDefault();
        return best.Name is not null && best.Distance <= Math.Max(1, Math.Min(plain.Length, best.Name.Length) / 3) ? best.Name : null;
    }

    /// <summary>A name written in full, without regard to case.</summary>
    public Expression? Exactly(string name) => all.FirstOrDefault(n => n.Name.Equals(name, StringComparison.OrdinalIgnoreCase)).Reference;

    /// <summary>The known name nearest to a mistyped one, or null where none is near.</summary>
    public string? Nearest(string name)
    {
        var best = all.Select(n => (n.Name, Distance: Distance(n.Name.ToLowerInvariant(), name.ToLowerInvariant())))
            .OrderBy(n => n.Distance)
            .ThenBy(n => n.Name, StringComparer.Ordinal)
            .FirstOrDefault();
        return best.Name is not null && best.Distance <= Math.Max(1, Math.Min(name.Length, best.Name.Length) / 3) ? best.Name : null;
    }

    /// <summary>Edit distance that counts two swapped neighbors as one slip (optimal string alignment).</summary>
    internal static int Distance(string a, string b)
    {
        if (a.Length > 80 || b.Length > 80)
            return int.MaxValue;
        var d = new int[a.Length + 1, b.Length + 1];
        for (var i = 0; i <= a.Length; i++)
            d[i, 0] = i;
        for (var j = 0; j <= b.Length; j++)
            d[0, j] = j;
        for (var i = 1; i <= a.Length; i++)
        for (var j = 1; j <= b.Length; j++)
        {
            var cost = a[i - 1] == b[j - 1] ? 0 : 1;
            d[i, j] = Math.Min(Math.Min(d[i - 1, j] + 1, d[i, j - 1] + 1), d[i - 1, j - 1] + cost);
            if (i > 1 && j > 1 && a[i - 1] == b[j - 2] && a[i - 2] == b[j - 1])
                d[i, j] = Math.Min(d[i, j], d[i - 2, j - 2] + 1);
        }
        return d[a.Length, b.Length];
    }
}
