using Bandeja.Core.Lists;

namespace Bandeja.Core.Language;

/// <summary>The names that an expression can use: the headings of a list and the built-in values.</summary>
public sealed class Names
{
    static readonly (string Name, BuiltIn Which)[] BuiltIns = [("Today", BuiltIn.Today), ("Piece number", BuiltIn.PieceNumber)];
    readonly List<(string Name, Expression Reference)> all;
    readonly List<(string Name, int Set, DetailSet Details)> details;

    /// <summary>Collects the names. A column hides a built-in value of the same name.</summary>
    /// <param name="columns">The list's columns.</param>
    /// <param name="detailSets">The list's sets of detail rows, where expressions may sum them up.</param>
    public Names(IReadOnlyList<Column> columns, IReadOnlyList<DetailSet>? detailSets = null)
    {
        details = [.. (detailSets ?? []).Select((d, i) => (d.Name, i, d)).OrderByDescending(d => d.Name.Length)];
        all = [.. columns.Select((c, i) => (c.Name, (Expression)new ColumnReference(i, c.Name)))];
        all.AddRange(BuiltIns.Where(b => !columns.Any(c => c.Name.Equals(b.Name, StringComparison.OrdinalIgnoreCase)))
            .Select(b => (b.Name, (Expression)new BuiltInReference(b.Which))));
        // Longest first, so that the first match is the longest heading.
        all.Sort((a, b) => b.Name.Length - a.Name.Length);
    }

    /// <summary>How a built-in value is written.</summary>
    public static string Of(BuiltIn which) => BuiltIns.First(b => b.Which == which).Name;

    /// <summary>The longest name that stands at a position of the text and ends there at the end of a word.</summary>
    public (Expression Reference, int Length)? LongestAt(string text, int at)
    {
        foreach (var (name, reference) in all)
        {
            if (string.Compare(text, at, name, 0, name.Length, StringComparison.OrdinalIgnoreCase) != 0) continue;
            var end = at + name.Length;
            if (end < text.Length && char.IsLetterOrDigit(text[end]) && char.IsLetterOrDigit(text[end - 1])) continue;
            return (reference, name.Length);
        }
        return null;
    }

    /// <summary>The longest name of detail rows that stands at a position, with a column's heading after a full stop where there is one.</summary>
    public (DetailReference Reference, int Length)? DetailAt(string text, int at, int end)
    {
        var start = at;
        foreach (var (name, set, rows) in details)
        {
            at = start;
            if (!Reads(text, ref at, end, name)) continue;
            var rowsEnd = at;
            if (at >= end || text[at] != '.') return (new(set, -1, name), rowsEnd - start);
            at++;
            foreach (var (column, index) in rows.Columns.Select((c, i) => (c, i)).OrderByDescending(c => c.c.Name.Length))
            {
                var to = at;
                if (Reads(text, ref to, end, column.Name)) return (new(set, index, $"{name}\u001f{column.Name}"), to - start);
            }
            return (new(set, -1, name), rowsEnd - start);
        }
        return null;
    }

    static bool Reads(string text, ref int at, int end, string name)
    {
        var ticked = at < end && text[at] == '`' ? 1 : 0;
        var to = at + ticked + name.Length;
        if (to + ticked > end || string.Compare(text, at + ticked, name, 0, name.Length, StringComparison.OrdinalIgnoreCase) != 0) return false;
        if (ticked == 1 ? text[to] != '`' : to < end && char.IsLetterOrDigit(text[to]) && char.IsLetterOrDigit(text[to - 1])) return false;
        at = to + ticked;
        return true;
    }

    /// <summary>How detail rows are named here, for a message; empty where there are none.</summary>
    public IEnumerable<string> DetailNames => details.SelectMany(d => d.Details.Columns.Select(c => $"{d.Name}.{c.Name}"));

    /// <summary>A name written in full, without regard to case.</summary>
    public Expression? Exactly(string name) => all.FirstOrDefault(n => n.Name.Equals(name, StringComparison.OrdinalIgnoreCase)).Reference;

    /// <summary>The known name nearest to a mistyped one, or null where none is near.</summary>
    public string? Nearest(string name)
    {
        var best = all.Select(n => (n.Name, Distance: Distance(n.Name.ToLowerInvariant(), name.ToLowerInvariant())))
            .OrderBy(n => n.Distance).ThenBy(n => n.Name, StringComparer.Ordinal).FirstOrDefault();
        return best.Name is not null && best.Distance <= Math.Max(1, Math.Min(name.Length, best.Name.Length) / 3) ? best.Name : null;
    }

    /// <summary>Edit distance that counts two swapped neighbours as one slip (optimal string alignment).</summary>
    internal static int Distance(string a, string b)
    {
        if (a.Length > 80 || b.Length > 80) return int.MaxValue;
        var d = new int[a.Length + 1, b.Length + 1];
        for (var i = 0; i <= a.Length; i++) d[i, 0] = i;
        for (var j = 0; j <= b.Length; j++) d[0, j] = j;
        for (var i = 1; i <= a.Length; i++)
        for (var j = 1; j <= b.Length; j++)
        {
            var cost = a[i - 1] == b[j - 1] ? 0 : 1;
            d[i, j] = Math.Min(Math.Min(d[i - 1, j] + 1, d[i, j - 1] + 1), d[i - 1, j - 1] + cost);
            if (i > 1 && j > 1 && a[i - 1] == b[j - 2] && a[i - 2] == b[j - 1]) d[i, j] = Math.Min(d[i, j], d[i - 2, j - 2] + 1);
        }
        return d[a.Length, b.Length];
    }
}
