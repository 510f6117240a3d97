namespace Bandeja.Core.Lists;

/// <summary>Finds the row that holds the headings, and makes headings usable: none blank, none twice, none over-long.</summary>
public static class Headings
{
    /// <summary>The longest heading kept; a longer one is cut and told.</summary>
    public const int MaxLength = 80;

    /// <summary>
    /// The zero-based row that most likely holds the headings within the first rows of a sheet, or -1 where every row looks
    /// like data. A heading row is filled across the sheet's width, of short distinct texts without digits' weight, and is
    /// followed by rows that look different.
    /// </summary>
    public static int FindRow(IReadOnlyList<IReadOnlyList<string?>> rows)
    {
        var width = rows.Count == 0 ? 0 : rows.Max(r => r.Count(v => !string.IsNullOrWhiteSpace(v)));
        if (width == 0) return -1;
        var best = (Row: -1, Score: 0.0);
        for (var i = 0; i < Math.Min(rows.Count, 20); i++)
        {
            var score = Score(rows, i, width);
            if (score > best.Score + 0.001) best = (i, score);
        }
        return best.Score >= 0.55 ? best.Row : -1;
    }

    static double Score(IReadOnlyList<IReadOnlyList<string?>> rows, int index, int width)
    {
        var cells = rows[index].Where(v => !string.IsNullOrWhiteSpace(v)).Select(v => v!.Trim()).ToList();
        if (cells.Count == 0) return 0;
        var filled = (double)cells.Count / width;
        var wordy = cells.Count(LooksLikeHeading) / (double)cells.Count;
        var known = cells.Count(c => RoleRecognizer.FromHeading(c) != Role.None) / (double)cells.Count;
        var distinct = cells.Distinct(StringComparer.OrdinalIgnoreCase).Count() / (double)cells.Count;
        if (filled < 0.5 || wordy < 0.6) return 0;
        // Something must follow that is unlike a heading, or the headings be known ones; else all rows are alike and none is special.
        var below = rows.Skip(index + 1).Take(8).Where(r => r.Any(v => !string.IsNullOrWhiteSpace(v))).ToList();
        var unlike = below.Count == 0 ? 0.5 : below.Average(r => Unlike(rows[index], r));
        return 0.3 * filled + 0.2 * wordy + 0.1 * distinct + 0.5 * known + 0.3 * unlike - 0.01 * index;
    }

    static double Unlike(IReadOnlyList<string?> heading, IReadOnlyList<string?> row)
    {
        int compared = 0, unlike = 0;
        for (var c = 0; c < Math.Min(heading.Count, row.Count); c++)
        {
            if (string.IsNullOrWhiteSpace(heading[c]) || string.IsNullOrWhiteSpace(row[c])) continue;
            compared++;
            if (LooksLikeHeading(heading[c]!) && !LooksLikeHeading(row[c]!)) unlike++;
        }
        return compared == 0 ? 0 : (double)unlike / compared;
    }

    /// <summary>True where the row above the headings is their upper half: fewer cells, one over several columns, all of them heading-like.</summary>
    public static bool TakesTwoRows(IReadOnlyList<string?> upper, IReadOnlyList<string?> lower)
    {
        var above = Enumerable.Range(0, upper.Count).Where(i => !string.IsNullOrWhiteSpace(upper[i])).ToList();
        var below = lower.Count(v => !string.IsNullOrWhiteSpace(v));
        // A single cell above is the title of the sheet.
        return above.Count > 1 && above.Count < below && below > 2 && above[^1] < lower.Count && above.All(i => upper[i]!.Length <= 40 && LooksLikeHeading(upper[i]!));
    }

    /// <summary>
    /// Joins two halves of a heading row. Where the upper half has one cell over several columns, it is put before the lower ones
    /// only where those would be alike without it (Mailing: Street, City; Billing: Street, City); where each column has both, they
    /// are one text over two rows (Postal / code).
    /// </summary>
    public static IReadOnlyList<string?> Joined(IReadOnlyList<string?> upper, IReadOnlyList<string?> lower)
    {
        var width = Math.Max(upper.Count, lower.Count);
        string? Upper(int i) => i < upper.Count && !string.IsNullOrWhiteSpace(upper[i]) ? upper[i]!.Trim() : null;
        string? Lower(int i) => i < lower.Count && !string.IsNullOrWhiteSpace(lower[i]) ? lower[i]!.Trim() : null;
        var merged = Enumerable.Range(0, width).Count(i => Upper(i) is not null) < Enumerable.Range(0, width).Count(i => Lower(i) is not null);
        var twice = Enumerable.Range(0, width).Select(Lower).OfType<string>().GroupBy(n => n, StringComparer.OrdinalIgnoreCase).Where(g => g.Count() > 1).Select(g => g.Key).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var joined = new string?[width];
        string? over = null;
        for (var i = 0; i < width; i++)
        {
            over = Upper(i) ?? (merged ? over : null);
            var name = Lower(i);
            joined[i] = name is null ? Upper(i) : over is not null && (!merged || twice.Contains(name)) ? $"{over} {name}" : name;
        }
        return joined;
    }

    static bool LooksLikeHeading(string value)
    {
        if (value.Length > MaxLength || value.Contains('@') || value.Contains('\n')) return false;
        var digits = value.Count(char.IsAsciiDigit);
        var letters = value.Count(char.IsLetter);
        return letters > 0 && (digits <= 2 || letters >= 2 * digits);
    }

    /// <summary>What was done to the headings so that each names one column.</summary>
    /// <param name="Names">Usable, distinct headings, one a column.</param>
    /// <param name="Notes">A sentence for each change.</param>
    public sealed record Cleaned(IReadOnlyList<string> Names, IReadOnlyList<string> Notes);

    /// <summary>Names blank headings after their position, numbers repeated ones, cuts over-long ones, and says so.</summary>
    public static Cleaned Clean(IReadOnlyList<string?> raw)
    {
        var names = new List<string>();
        var notes = new List<string>();
        var taken = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        for (var i = 0; i < raw.Count; i++)
        {
            var name = string.Join(' ', (raw[i] ?? "").Replace('{', '(').Replace('}', ')').Replace('`', '\'')
                .Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
            name = new string([.. name.Where(c => !char.IsControl(c))]).Trim();
            if (name.Length == 0)
            {
                name = $"Column {i + 1}";
                if (raw.Count <= 60) notes.Add($"Column {i + 1} has no heading; it is called “{name}”.");
            }
            if (name.Length > MaxLength)
            {
                notes.Add($"The heading of column {i + 1} has {name.Length} characters; it was cut to {MaxLength}.");
                name = name[..MaxLength].TrimEnd();
            }
            var unique = name;
            for (var n = 2; !taken.Add(unique); n++) unique = $"{name} {n}";
            if (unique != name) notes.Add($"Two columns are called “{name}”; the second one (column {i + 1}) is now “{unique}”.");
            names.Add(unique);
        }
        return new(names, notes);
    }
}
