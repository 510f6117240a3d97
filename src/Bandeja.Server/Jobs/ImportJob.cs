using System.Text.Json;
using Bandeja.Core.Lists;
using Bandeja.Formats.Lists;
using Bandeja.Store;

namespace Bandeja.Server.Jobs;

/// <summary>A column as the coordinator wants it brought in; columns of the file that are not named are left out.</summary>
/// <param name="Position">Zero-based position in the file.</param>
public sealed record ImportColumn(int Position, string Name, ColumnType Type, DateOrder DateOrder, Role Role);

/// <summary>What is to be brought in, and how.</summary>
/// <param name="Width">How many columns the file has, the ones left out included.</param>
public sealed record ImportOrder(string UploadId, string FileName, string ListName, SourceOptions Options, int Width, IReadOnlyList<ImportColumn> Columns);

/// <summary>Brings a list in: reads the file row by row, brings values to their canonical form, and says what it found.</summary>
public sealed class ImportJob(Database database, ServerOptions server, EventHub hub, TimeProvider time) : IJobKind
{
    /// <summary>The kind's name.</summary>
    public const string Name = "import";

    /// <inheritdoc/>
    public string Kind => Name;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        var order = JsonSerializer.Deserialize<ImportOrder>(job.PayloadJson)!;
        var file = SourceFile.Open(Path.Combine(server.Folder("uploads"), order.UploadId), order.FileName);
        var listId = BringIn(database, file, order, new(job.CreatedBy, time.GetUtcNow()), progress, cancel);
        hub.Tell("list", new { Id = listId });
        return JsonSerializer.Serialize(new { listId });
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, string state, string? message) { }

    /// <summary>Reads a file into a new list.</summary>
    /// <returns>The list's id.</returns>
    /// <exception cref="ListFileException">The file is broken; nothing of it is kept.</exception>
    public static long BringIn(Database database, SourceFile file, ImportOrder order, Actor actor, JobProgress progress, CancellationToken cancel)
    {
        var columns = order.Columns.Select((c, i) => new Column(i + 1, c.Name, c.Type, c.Role)).ToList();
        var writer = new RowWriter(database, order.ListName, order.FileName, order.UploadId, columns, actor);
        try
        {
            var notes = new SourceNotes();
            using var reader = file.Rows(order.Options);
            Read(reader, order, writer, notes, progress, cancel);
            if (writer.Rows == 0) throw new ListFileException("There are headings, but no recipients under them.");
            writer.Finish([.. reader.Notes.Sentences(), .. notes.Sentences()]);
            return writer.ListId;
        }
        catch
        {
            writer.Abandon();
            throw;
        }
    }

    static void Read(IRowReader reader, ImportOrder order, RowWriter writer, SourceNotes notes, JobProgress progress, CancellationToken cancel)
    {
        var skip = order.Options.HeadingRow is { } heading ? heading + 1 : 0;
        var columns = order.Columns;
        var ofFile = order.Width; // grows with rows that are longer than the headings
        for (var row = 0; reader.Read(); row++)
        {
            if (row < skip) continue;
            if ((row & 255) == 0)
            {
                cancel.ThrowIfCancellationRequested();
                progress(writer.Rows, Math.Max(writer.Rows, (long)(writer.Rows / Math.Max(0.01, reader.Progress))));
            }
            var cells = reader.Cells();
            if (cells.All(string.IsNullOrWhiteSpace)) { notes.Add("Blank rows were passed over", $"row {reader.RowNumber:N0}"); continue; }
            if (cells.Length > ofFile) Widen(writer, notes, reader.RowNumber, ref ofFile, cells);
            else if (skip > 0 && IsShort(cells, order)) notes.Add("Rows are shorter than the headings; what is missing is blank", $"row {reader.RowNumber:N0}");
            writer.Add(Typed(cells, columns, ofFile, writer, notes, reader.RowNumber));
        }
    }

    /// <summary>Spreadsheets end a row at its last filled cell, so only delimited text can have a row that is too short.</summary>
    static bool IsShort(string?[] cells, ImportOrder order) => order.Options.Delimiter is not null && cells.Length < order.Width;

    /// <summary>A row longer than the headings gets columns of its own: nothing that stands in the file is lost.</summary>
    static void Widen(RowWriter writer, SourceNotes notes, int rowNumber, ref int ofFile, string?[] cells)
    {
        if (cells.Length > SourceFile.MaxColumns) throw new ListFileException($"Row {rowNumber:N0} has {cells.Length:N0} cells; a list can have {SourceFile.MaxColumns:N0} columns. A delimiter or a quotation mark in that row may be wrong.");
        for (; ofFile < cells.Length; ofFile++)
        {
            var name = $"Column {ofFile + 1}";
            while (writer.Columns.Any(c => c.Name.Equals(name, StringComparison.OrdinalIgnoreCase))) name += " more";
            writer.Widen(new(writer.Columns.Max(c => c.Id) + 1, name, ColumnType.Text, Role.None));
            notes.Add($"Rows are longer than the headings; what is beyond them is in “{name}”", $"row {rowNumber:N0}");
        }
    }

    static string?[] Typed(string?[] cells, IReadOnlyList<ImportColumn> columns, int ofFile, RowWriter writer, SourceNotes notes, int rowNumber)
    {
        var values = new string?[writer.Columns.Count];
        for (var i = 0; i < columns.Count; i++)
        {
            var column = columns[i];
            var raw = column.Position < cells.Length ? cells[column.Position] : null;
            if (raw is null) continue;
            if (!TypeGuesser.TryCanonical(raw, column.Type, column.DateOrder, out values[i]))
                notes.Add($"“{column.Name}” has values that are not {(column.Type switch { ColumnType.Number => "numbers", ColumnType.Date => "dates", _ => "yes or no" })}; they are kept as written", $"row {rowNumber:N0}");
        }
        // Columns that came on the way stand after the chosen ones, in the order of the file.
        var added = writer.Columns.Count - columns.Count;
        for (var i = 0; i < added; i++)
        {
            var position = ofFile - added + i;
            if (position < cells.Length) values[columns.Count + i] = string.IsNullOrWhiteSpace(cells[position]) ? null : cells[position];
        }
        return values;
    }
}
