using Bandeja.Core.Lists;

namespace Bandeja.Core.Recognition;

/// <summary>Finds the row that holds the headings, and makes headings usable: none blank, none twice, none over-long.</summary>
public static class Headings
{
    /// <summary>The longest heading kept; a longer one is cut and told.</summary>
    public const int MaxLength = 80;

    /// <summary>
    /// The zero-based row that holds the headings within the first rows of a sheet, or -1 where every row may be data: nobody is taken for
    /// a
    /// heading because of a guess. A heading row is filled across the sheet's width, has no data above it, and either most of its cells are
    /// known headings, or the rows under it look otherwise.
    /// </summary>
    public static int FindRow(IReadOnlyList<IReadOnlyList<string?>> rows)
    {
        var width = rows.Count == 0 ? 0 : rows.Max(r => r.Count(v => !string.IsNullOrWhiteSpace(v)));
        if (width == 0)
            return -1;
        var best = (Row: -1, Score: 0.0);
        for (var i = 0; i < Math.Min(rows.Count, 20); i++)
        {
            var score = Score(rows, i, width);
            if (score > best.Score + 0.001)
                best = (i, score);
        }
        return best.Row;
    }

    static double Score(IReadOnlyList<IReadOnlyList<string?>> rows, int index, int width)
    {
        var cells = rows[index].Where(v => !string.IsNullOrWhiteSpace(v)).Select(v => v!.Trim()).ToList();
        if (cells.Count == 0)
            return 0;
        var filled = (double)cells.Count / width;
        var wordy = cells.Count(LooksLikeHeading) / (double)cells.Count;
        var known = cells.Count(c => RoleRecognizer.FromHeading(c) != Role.None || IsWrittenAsName(c)) / (double)cells.Count;
        var distinct = cells.Distinct(StringComparer.OrdinalIgnoreCase).Count() / (double)cells.Count;
        if (filled < 0.5 || wordy < 0.6)
            return 0;
        // What stands above headings is a title, a date, or their upper half; never somebody.
        for (var above = 0; above < index; above++)
            if (
                rows[above].Count(v => !string.IsNullOrWhiteSpace(v)) >= Math.Max(2, 0.6 * width)
                && !(above == index - 1 && TakesTwoRows(rows[above], rows[index]))
            )
                return 0;
        var below = rows.Skip(index + 1).Take(40).Where(r => r.Any(v => !string.IsNullOrWhiteSpace(v))).ToList();
        var repeated = Enumerable
            .Range(0, rows[index].Count)
            .Count(c =>
                rows[index][c] is { } cell
                && !string.IsNullOrWhiteSpace(cell)
                && below.Any(r => c < r.Count && string.Equals(r[c]?.Trim(), cell.Trim(), StringComparison.OrdinalIgnoreCase))
            );
        var unlike = below.Count == 0 ? 0 : Unlike(rows[index], below);
        var sure = known >= 0.5 && repeated * 2 < cells.Count;
        // One in five columns that plainly differs from what stands under it is enough, unless the row says what others say too.
        if (!sure && (below.Count == 0 || repeated > 0 || unlike < 0.2))
            return 0;
        return 0.3 * filled + 0.2 * wordy + 0.1 * distinct + 0.5 * known + 0.3 * unlike - 0.01 * index;
    }

    /// <summary>The way in which programs write names: <c>first_name</c>, <c>lastName</c>.</summary>
    static bool IsWrittenAsName(string cell) =>
        !cell.Contains(' ')
        && (
            cell.Contains('_') && !cell.Any(char.IsAsciiDigit)
            || cell.Length > 3 && char.IsLower(cell[0]) && cell.Skip(1).Any(char.IsUpper) && cell.All(char.IsLetter)
        );

    /// <summary>The share of columns whose heading is plainly of another kind than all that stands under it.</summary>
    static double Unlike(IReadOnlyList<string?> heading, IReadOnlyList<IReadOnlyList<string?>> below)
    {
        int compared = 0;
        double unlike = 0;
        for (var c = 0; c < heading.Count; c++)
        {
            if (string.IsNullOrWhiteSpace(heading[c]))
                continue;
            var values = below
                .Select(r => c < r.Count ? r[c] : null)
                .Where(v => !string.IsNullOrWhiteSpace(v))
                .Select(v => v!.Trim())
                .ToList();
            if (values.Count == 0)
                continue;
            compared++;
            if (!LooksLikeHeading(heading[c]!))
                continue;
            var data = values.Count(v => !LooksLikeHeading(v)) / (double)values.Count;
            if (data > 0.5)
                unlike += data;
            else if (!heading[c]!.Any(char.IsDigit) && values.All(v => v.Any(char.IsDigit)))
                unlike++;
            // All codes of two letters, all in capitals, all of several words: and this one is not.
            else if (
                values.Count >= 4
                && values.Select(Shape).Distinct().ToList() is [var shape]
                && shape != Shape(heading[c]!.Trim())
                && shape.Words == 1
                && shape.Case != 'A'
            )
                unlike++;
        }
        return compared == 0 ? 0 : unlike / compared;
    }

    static (int Words, char Case, bool Short) Shape(string value) =>
        (
            value.Contains(' ') ? 2 : 1,
            value.Any(char.IsLower)
                ? char.IsUpper(value[0])
                    ? 'A'
                    : 'a'
                : 'X',
            value.Length <= 3
        );

    /// <summary>True where the row above the headings is their upper half: fewer cells, one over several columns, all of them
    /// heading-like.</summary>
    public static bool TakesTwoRows(IReadOnlyList<string?> upper, IReadOnlyList<string?> lower)
    {
        var above = Enumerable.Range(0, upper.Count).Where(i => !string.IsNullOrWhiteSpace(upper[i])).ToList();
        var below = lower.Count(v => !string.IsNullOrWhiteSpace(v));
        // A single cell above is the title of the sheet.
        return above.Count > 1
            && above.Count < below
            && below > 2
            && above[^1] < lower.Count
            && above.All(i => upper[i]!.Length <= 40 && LooksLikeHeading(upper[i]!));
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
        var merged =
            Enumerable.Range(0, width).Count(i => Upper(i) is not null) < Enumerable.Range(0, width).Count(i => Lower(i) is not null);
        var twice = Enumerable
            .Range(0, width)
            .Select(Lower)
            .OfType<string>()
            .GroupBy(n => n, StringComparer.OrdinalIgnoreCase)
            .Where(g => g.Count() > 1)
            .Select(g => g.Key)
            .ToHashSet(StringComparer.OrdinalIgnoreCase);
        var joined = new string?[width];
        string? over = null;
        for (var i = 0; i < width; i++)
        {
            over = Upper(i) ?? (merged ? over : null);
            var name = Lower(i);
            joined[i] =
                name is null ? Upper(i)
                : over is not null && (!merged || twice.Contains(name)) ? $"{over} {name}"
                : name;
        }
        return joined;
    }

    static bool LooksLikeHeading(string value)
    {
        if (value.Length > MaxLength || value.Contains('@') || value.Contains('\n'))
            return false;
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
            var name = string.Join(
                ' ',
                (raw[i] ?? "")
                    .Replace('{', '(')
                    .Replace('}', ')')
                    .Replace('`', '\'')
                    .Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)
            );
            name = new string([.. name.Where(c => !char.IsControl(c))]).Trim();
            if (name.Length == 0)
            {
                name = $"Column {i + 1}";
                if (raw.Count <= 60)
                    notes.Add($"Column {i + 1} has no heading, so it was named “{name}”.");
            }
            if (name.Length > MaxLength)
            {
                notes.Add($"The heading of column {i + 1} has {name.Length} characters; it was cut to {MaxLength}.");
                name = name[..MaxLength].TrimEnd();
            }
            var unique = name;
            for (var n = 2; !taken.Add(unique); n++)
                unique = $"{name} {n}";
            if (unique != name)
                notes.Add($"Two columns are named “{name}”. The second one (column {i + 1}) was renamed “{unique}”.");
            names.Add(unique);
        }
        return new(names, notes);
    }
}
