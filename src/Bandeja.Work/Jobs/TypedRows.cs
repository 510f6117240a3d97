using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Core.Recognition;
using Bandeja.Formats.Lists;
using Bandeja.Work.Hosting;

namespace Bandeja.Work.Jobs;

/// <summary>A column as the coordinator wants it brought in; columns of the file that are not named are left out.</summary>
/// <param name="Position">Zero-based position in the file.</param>
/// <param name="Divide">True to divide a whole name or a whole address into columns of their own.</param>
/// <param name="Confidence">As the look at the file answered it, so that its columns can be sent back as they are; it decides nothing here.
/// So are the three after it.</param>
/// <param name="Time">A time that the look found; nor does this decide anything here, but with <paramref name="KeepTimes"/> it tells later
/// that somebody did not want the times.</param>
/// <param name="FamilyFirst">For whole names that are divided: true where the family name stands first without a comma.</param>
/// <param name="PartsTurned">As the look answered it.</param>
/// <param name="Split">As the look answered it.</param>
/// <param name="KeepTimes">For dates: true to keep the times of day that stand with them in a column of their own.</param>
/// <param name="Format">For numbers: how they print where a field names no format, see <see cref="Core.Lists.UsualFormat"/>.</param>
public sealed record ImportColumn(
    int Position,
    string Name,
    ColumnType Type,
    DateOrder DateOrder,
    Role Role,
    bool Divide = false,
    NumberForm NumberForm = NumberForm.Point,
    int? Confidence = null,
    string? Why = null,
    IReadOnlyList<string?[]>? Parts = null,
    bool? Ambiguous = null,
    string? Format = null,
    string? Time = null,
    bool KeepTimes = false,
    bool FamilyFirst = false,
    IReadOnlyList<string?[]>? PartsTurned = null,
    bool? Split = null
)
{
    /// <summary>Whether the column has one of times beside it.</summary>
    internal bool HasTimes => KeepTimes && Type == ColumnType.Date;

    /// <summary>The format that the column can have: numbers only have one.</summary>
    internal string? UsualFormat => Type == ColumnType.Number ? Format : null;
}

/// <summary>What is to be brought in, and how.</summary>
/// <param name="Width">How many columns the file has, the ones left out included.</param>
/// <param name="LeaveOut">Numbers of rows that are none of the list: totals at its end.</param>
public sealed record ImportOrder(
    string UploadId,
    string FileName,
    string ListName,
    SourceOptions Options,
    int Width,
    IReadOnlyList<ImportColumn> Columns,
    IReadOnlyList<int>? LeaveOut = null
);

/// <summary>A column that is made of another of the file.</summary>
/// <param name="At">Its place among all columns.</param>
/// <param name="Of">Which of the chosen columns it is made of.</param>
/// <param name="Part">The part of a whole that it holds; null for times of day.</param>
sealed record MadeColumn(int At, int Of, Role? Part);

/// <summary>Reads a file row by row and brings the values to the canonical form of their columns' types.</summary>
sealed class TypedRows
{
    readonly IRowReader reader;
    readonly ImportOrder order;
    readonly Country home;
    readonly Action<Column>? widened;
    readonly List<Column> columns = [];
    readonly List<(int Chosen, Role Whole, int First, int[] Parts)> divided = [];
    readonly List<(int Chosen, int Column)> times = [];
    readonly List<MadeColumn> made = [];
    readonly List<(int Chosen, int Column, string Other, int? WhereFilled)> unaddressed = [];
    readonly ColumnReading[] readings;
    readonly int ofFirst;
    int ofFile;

    /// <param name="widened">Called for a row that is longer than the headings, for each column it brings; null where such cells are left
    /// out.</param>
    /// <param name="occurring">The parts of divided columns that some row has, see <see cref="Occurring"/>; null for all.</param>
    public TypedRows(IRowReader reader, ImportOrder order, Country home, Action<Column>? widened, IReadOnlySet<Role>? occurring = null)
    {
        (this.reader, this.order, this.home, this.widened, ofFile) = (reader, order, home, widened, order.Width);
        readings = [.. order.Columns.Select(c => new ColumnReading(c))];
        columns.AddRange(
            order.Columns.Select((c, i) => new Column(i + 1, c.Name, c.Type, c.Divide ? Role.None : c.Role, Format: c.UsualFormat))
        );
        var taken = columns.Select(c => c.Name).ToHashSet(StringComparer.OrdinalIgnoreCase);
        for (var i = 0; i < order.Columns.Count; i++)
        {
            if (!order.Columns[i].Divide)
                continue;
            var roles = CellParts.RolesOf(order.Columns[i].Role);
            var parts = Enumerable
                .Range(0, roles.Count)
                .Where(p => occurring is null || CellParts.IsAlways(roles[p]) || occurring.Contains(roles[p]))
                .ToArray();
            divided.Add((i, order.Columns[i].Role, columns.Count, parts));
            // Two people's parts are not mixed: where other columns have the second person's, all of this one's stay without a role. A
            // column with the whole name has a role of its own, and goes before the parts where it is filled.
            var second = columns.FirstOrDefault(c => CellParts.IsOfPartner(c.Role))?.Name;
            var whole = columns.FindIndex(c => c.Role == Role.PartnerFullName);
            foreach (var role in parts.Select(p => roles[p]))
            {
                var name = Free(CellParts.NameOf(role));
                made.Add(new(columns.Count, i, role));
                if (second is not null && role == Role.PartnerGivenName)
                    unaddressed.Add((i, columns.Count, second, null));
                else if (whole >= 0 && role == Role.PartnerGivenName)
                    unaddressed.Add((i, columns.Count, columns[whole].Name, whole));
                // A role that another column has already is not taken from it.
                var isTaken = second is not null && CellParts.IsOfPartner(role) || columns.Any(c => c.Role == role);
                columns.Add(new(columns.Count + 1, name, ColumnType.Text, isTaken ? Role.None : role));
            }
        }
        for (var i = 0; i < order.Columns.Count; i++)
            if (order.Columns[i].HasTimes)
            {
                times.Add((i, columns.Count));
                made.Add(new(columns.Count, i, null));
                columns.Add(new(columns.Count + 1, Free(TimesOfDay.NameOf(order.Columns[i].Name)), ColumnType.Text, Role.None));
            }
        ofFirst = columns.Count;
        string Free(string wanted)
        {
            var name = wanted;
            for (var n = 2; !taken.Add(name); n++)
                name = $"{wanted} {n}";
            return name;
        }
    }

    /// <summary>Which parts the values of divided columns have: a pass over the file of its own, where a column is divided; null where none
    /// is.</summary>
    public static IReadOnlySet<Role>? Occurring(IListFile file, ImportOrder order, Country home, CancellationToken cancel)
    {
        var wholes = order.Columns.Where(c => c.Divide).ToList();
        if (wholes.Count == 0)
            return null;
        var found = new HashSet<Role>();
        using var reader = file.Rows(order.Options);
        for (var row = 0; reader.Read(); row++)
        {
            if (order.Options.HeadingRow is { } heading && row <= heading)
                continue;
            if ((row & 255) == 0)
                cancel.ThrowIfCancellationRequested();
            var cells = reader.Cells();
            foreach (var column in wholes)
            {
                if (column.Position >= cells.Length || cells[column.Position] is not { } value)
                    continue;
                var (roles, parts) = (CellParts.RolesOf(column.Role), CellParts.Divide(value, column.Role, home, column.FamilyFirst));
                for (var i = 0; i < parts.Length; i++)
                    if (parts[i] is not null)
                        found.Add(roles[i]);
            }
        }
        return found;
    }

    /// <summary>The columns: those chosen, then the parts of divided ones, times of day, then those that came on the way.</summary>
    public IReadOnlyList<Column> Columns => columns;

    /// <summary>Which of the columns are made of others: parts of divided ones, and times of day.</summary>
    public IReadOnlyList<MadeColumn> Made => made;

    /// <summary>What was found on the way.</summary>
    public SourceNotes Notes { get; } = new();

    /// <summary>Everything that was found, by the reader and here.</summary>
    public IReadOnlyList<string> Report => [.. reader.Notes.Sentences(), .. Notes.Sentences()];

    /// <summary>The rows; blank ones are passed over.</summary>
    public IEnumerable<string?[]> Read(JobProgress progress, CancellationToken cancel)
    {
        var skip = order.Options.HeadingRow is { } heading ? heading + 1 : 0;
        var given = 0L;
        for (var row = 0; reader.Read(); row++)
        {
            if (row < skip)
                continue;
            if ((row & 255) == 0)
            {
                cancel.ThrowIfCancellationRequested();
                progress(given, Math.Max(given, (long)(given / Math.Max(0.01, reader.Progress))));
            }
            var cells = reader.Cells();
            if (cells.All(string.IsNullOrWhiteSpace))
            {
                Notes.Add("Blank rows were skipped", $"row {reader.RowNumber:N0}");
                continue;
            }
            if (order.LeaveOut?.Contains(reader.RowNumber) == true)
            {
                Notes.Add("Rows with totals or notes were not imported", $"row {reader.RowNumber:N0}");
                continue;
            }
            if (cells.Length > ofFile)
                Widen(cells);
            // Spreadsheets end a row at its last filled cell, so only delimited text can have a row that is too short.
            else if (skip > 0 && order.Options.Delimiter is not null && cells.Length < order.Width)
                Notes.Add("Some rows have fewer cells than headings; the missing values are blank", $"row {reader.RowNumber:N0}");
            given++;
            yield return Typed(cells);
        }
    }

    /// <summary>A row longer than the headings gets columns of its own: nothing that stands in the file is lost.</summary>
    void Widen(string?[] cells)
    {
        if (cells.Length > SourceFile.MaxColumns)
            throw new ListFileException(
                $"Row {reader.RowNumber:N0} has {cells.Length:N0} cells; a list can have {SourceFile.MaxColumns:N0} columns. A "
                    + "delimiter or a quotation mark in that row may be wrong."
            );
        if (widened is null)
        {
            if (cells.Skip(order.Width).Any(c => c is not null))
                Notes.Add("Some rows have more cells than headings; the extra cells were skipped", $"row {reader.RowNumber:N0}");
            return;
        }
        for (; ofFile < cells.Length; ofFile++)
        {
            var name = $"Column {ofFile + 1}";
            while (columns.Any(c => c.Name.Equals(name, StringComparison.OrdinalIgnoreCase)))
                name += " more";
            var column = new Column(columns.Max(c => c.Id) + 1, name, ColumnType.Text, Role.None);
            columns.Add(column);
            widened(column);
            Notes.Add($"Some rows have more cells than headings; the extra cells are in “{name}”", $"row {reader.RowNumber:N0}");
        }
    }

    string?[] Typed(string?[] cells)
    {
        var values = new string?[columns.Count];
        for (var i = 0; i < order.Columns.Count; i++)
        {
            var column = order.Columns[i];
            var raw = column.Position < cells.Length ? cells[column.Position] : null;
            if (raw is null)
                continue;
            if (!readings[i].TryRead(raw, out values[i]))
                Notes.Add(
                    $"“{column.Name}” has values that are not "
                        + $"{(column.Type switch { ColumnType.Number => "numbers", ColumnType.Date => "dates", _ => "yes or no" })}; "
                        + "they were kept as is",
                    $"row {reader.RowNumber:N0}"
                );
        }
        foreach (var (chosen, whole, first, which) in divided)
        {
            var parts = CellParts.Divide(values[chosen], whole, home, order.Columns[chosen].FamilyFirst);
            for (var i = 0; i < which.Length; i++)
                values[first + i] = parts[which[i]];
        }
        foreach (var (chosen, column, other, whereFilled) in unaddressed)
            if (values[column] is not null && (whereFilled is not { } filled || values[filled] is not null))
                Notes.Add(
                    $"“{order.Columns[chosen].Name}” names a partner who will not be addressed, because partners come from “{other}”",
                    $"row {reader.RowNumber:N0}"
                );
        foreach (var (chosen, column) in times)
            if (order.Columns[chosen].Position is var at && at < cells.Length && values[chosen] != cells[at])
                values[column] = TimesOfDay.Of(cells[at], home);
        // Columns that came on the way stand after the others, in the order of the file.
        var added = columns.Count - ofFirst;
        for (var i = 0; i < added; i++)
        {
            var position = ofFile - added + i;
            if (position < cells.Length)
                values[ofFirst + i] = string.IsNullOrWhiteSpace(cells[position]) ? null : cells[position];
        }
        return values;
    }
}
