namespace Bandeja.Formats.Lists;

/// <summary>One way in which a list can stand in a file.</summary>
interface ISource
{
    /// <summary>Its kind among <see cref="ListFormats.All"/>.</summary>
    string Kind { get; }

    /// <summary>The sheets, tables or views to choose from; empty where there is nothing to choose.</summary>
    IReadOnlyList<SheetInfo> Parts();

    /// <summary>Options with everything recognized that was left open.</summary>
    SourceOptions Complete(SourceOptions options);

    /// <summary>Opens the rows. The options must be complete.</summary>
    IRowReader Rows(SourceOptions complete);

    /// <summary>Opens the rows to look at the first of them only.</summary>
    IRowReader FirstRows(SourceOptions complete, int rows) => Rows(complete);

    /// <summary>True where the first row always holds the headings, because the format names its columns.</summary>
    bool NamesItsColumns => false;

    /// <summary>How the text would read in other encodings, where its own cannot be told; empty else, or where one was chosen.</summary>
    IReadOnlyList<EncodingReading> Readings(SourceOptions asked) => [];

    /// <summary>What is said of a part without rows.</summary>
    string EmptyPart(string? part) => part is null ? "The file has no rows." : $"“{part}” is empty. Choose another sheet or table.";
}

/// <summary>A format whose rows stand in parts of which one is chosen: the one that looks most like a list and is not hidden, where nobody
/// says otherwise.</summary>
abstract class PartedSource : ISource
{
    public abstract string Kind { get; }
    public abstract IReadOnlyList<SheetInfo> Parts();
    public abstract IRowReader Rows(SourceOptions complete);

    /// <summary>Opens the rows to look at the first of them only.</summary>
    public virtual IRowReader FirstRows(SourceOptions complete, int rows) => Rows(complete);

    public virtual SourceOptions Complete(SourceOptions options)
    {
        options = options with { Encoding = null, Delimiter = null, Query = null };
        if (options.Sheet is not null)
            return options;
        var parts = Parts();
        if (parts.Where(s => !s.Hidden).ToList() is [var only])
            return options with { Sheet = only.Name };
        var seen = parts.Where(s => !s.Hidden).Take(MostLookedAt).Select(s => (s.Name, Likeness: Likeness(s.Name))).ToList();
        // Of two alike the first one.
        return options with
        {
            Sheet = seen.Count == 0 ? parts[0].Name : seen.OrderByDescending(s => Math.Round(s.Likeness, 3)).First().Name,
        };
    }

    const int MostLookedAt = 20;

    double Likeness(string part)
    {
        try
        {
            using var reader = new BoundedRows(FirstRows(new(part), 0));
            var rows = new List<string?[]>();
            while (rows.Count < ListLikeness.Rows && reader.Read())
                rows.Add(reader.Cells());
            return ListLikeness.Of(rows);
        }
        catch (ListFileException)
        {
            return -1;
        }
    }
}

/// <summary>Rows that are in memory already.</summary>
sealed class MemoryRowReader(IReadOnlyList<string?[]> rows, SourceNotes notes) : IRowReader
{
    int at = -1;

    public SourceNotes Notes => notes;
    public int RowNumber => at + 1;
    public double Progress => rows.Count == 0 ? 1 : (double)(at + 1) / rows.Count;

    public bool Read() => ++at < rows.Count;

    public string?[] Cells() => rows[at];

    public void Dispose() { }
}
