using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;
using Bandeja.Formats.Lists;

namespace Bandeja.Work.Jobs;

/// <summary>A value of a file, and in which row it stands.</summary>
public sealed record RowValue(int Row, string Value);

/// <summary>Values that are not of the type chosen for their column.</summary>
/// <param name="Position">The column's zero-based position in the file.</param>
/// <param name="Examples">The first of them.</param>
public sealed record Misfits(int Position, string Name, int Count, IReadOnlyList<RowValue> Examples);

/// <summary>The result of checking a whole file before it is imported.</summary>
/// <param name="Recipients">The number of recipients, excluding totals rows.</param>
/// <param name="Misfits">Values that do not match the type of their column. They are imported as written.</param>
/// <param name="Totals">Rows at the end of the file that are totals or remarks rather than recipients. They are imported unless the order
/// excludes them.</param>
/// <param name="DoNotMail">The number of recipients marked do not mail, excluding totals rows.</param>
public sealed record SurveyView(int Recipients, IReadOnlyList<Misfits> Misfits, IReadOnlyList<RowValue> Totals, int DoNotMail);

/// <summary>Goes through a whole file before it is brought in.</summary>
static class ImportSurvey
{
    const int Examples = 3,
        Last = 3;

    /// <exception cref="ListFileException">The file is broken.</exception>
    public static SurveyView Of(IListFile file, SourceOptions options, IReadOnlyList<ImportColumn> columns, CancellationToken cancel)
    {
        using var reader = file.Rows(options);
        var skip = options.HeadingRow is { } heading ? heading + 1 : 0;
        var (count, cellsFilled, marked) = (0, 0L, 0);
        var readings = columns.ToDictionary(c => c.Position, c => new ColumnReading(c));
        var misfits = columns.ToDictionary(c => c.Position, _ => (Count: 0, Rows: new List<RowValue>()));
        var sums = columns.Where(c => c.Type == ColumnType.Number).ToDictionary(c => c.Position, _ => 0m);
        var last = new Queue<(int Row, string?[] Cells, Dictionary<int, decimal> Sums)>();
        for (var row = 0; reader.Read(); row++)
        {
            if (row < skip)
                continue;
            if ((row & 255) == 0)
                cancel.ThrowIfCancellationRequested();
            var cells = reader.Cells();
            if (cells.All(string.IsNullOrWhiteSpace))
                continue;
            count++;
            cellsFilled += cells.Count(c => !string.IsNullOrWhiteSpace(c));
            last.Enqueue((reader.RowNumber, cells, new(sums)));
            if (last.Count > Last)
                last.Dequeue();
            foreach (var column in columns)
            {
                if (column.Position >= cells.Length || cells[column.Position] is not { } raw || column.Type == ColumnType.Text)
                    continue;
                if (!readings[column.Position].TryRead(raw, out var canonical))
                {
                    var (n, found) = misfits[column.Position];
                    if (found.Count < Examples)
                        found.Add(new(reader.RowNumber, raw.Length > 60 ? raw[..60] + "…" : raw));
                    misfits[column.Position] = (n + 1, found);
                }
                else if (
                    column.Type == ColumnType.Number
                    && decimal.TryParse(canonical, System.Globalization.CultureInfo.InvariantCulture, out var number)
                )
                    sums[column.Position] += number;
            }
            if (IsMarked(cells))
                marked++;
        }
        var totals = TotalsOf([.. last], columns, count == 0 ? 0 : (double)cellsFilled / count, count);
        return new(
            count - totals.Count,
            [
                .. columns
                    .Where(c => misfits[c.Position].Count > 0)
                    .Select(c => new Misfits(c.Position, c.Name, misfits[c.Position].Count, misfits[c.Position].Rows)),
            ],
            totals,
            marked - last.TakeLast(totals.Count).Count(l => IsMarked(l.Cells))
        );

        // A totals row that counts the marks, such as “2”, is not a marked recipient.
        bool IsMarked(string?[] cells) => columns.Any(c => c.Position < cells.Length && MailMark.Says(c.Role, cells[c.Position]));
    }

    /// <summary>The rows at the very end that are none of the list.</summary>
    static List<RowValue> TotalsOf(
        IReadOnlyList<(int Row, string?[] Cells, Dictionary<int, decimal> Sums)> last,
        IReadOnlyList<ImportColumn> columns,
        double usual,
        int count
    )
    {
        var totals = new List<RowValue>();
        if (count < 3)
            return totals;
        foreach (var (row, cells, sums) in last.Reverse())
        {
            var named =
                columns.Count(c =>
                    c.Role is not (Role.None or Role.Key or Role.Country or Role.Region or Role.Language)
                    && c.Position < cells.Length
                    && !string.IsNullOrWhiteSpace(cells[c.Position])
                ) > 1;
            if (!TotalsRow.Is(cells, usual, sums, named))
                break;
            totals.Insert(
                0,
                new(
                    row,
                    string.Join(" · ", cells.Where(c => !string.IsNullOrWhiteSpace(c))) is { Length: > 80 } text
                        ? text[..80] + "…"
                        : string.Join(" · ", cells.Where(c => !string.IsNullOrWhiteSpace(c)))
                )
            );
        }
        return totals;
    }
}
