namespace Bandeja.Formats.Lists;

/// <summary>A format that a list can come in.</summary>
/// <param name="Kind">What <see cref="ISource.Kind"/> calls it.</param>
/// <param name="Name">In a sentence that lists them.</param>
/// <param name="Word">What one file of it is, beside its size.</param>
/// <param name="Part">What there is to choose in it; null where it is one whole.</param>
/// <param name="Extensions">Endings of names that say this format, with their dot.</param>
public sealed record ListFormat(string Kind, string Name, string Word, string? Part, IReadOnlyList<string> Extensions);

/// <summary>
/// The formats that lists come in. This is the one place that names them: what a file dialog offers, what a refusal recommends, and what a
/// name promises all come from here. A test holds that every <see cref="ISource"/> is among them.
/// </summary>
public static class ListFormats
{
    /// <summary>All of them, in the order in which people are told of them.</summary>
    public static readonly IReadOnlyList<ListFormat> All =
    [
        new("csv", "CSV", "text", null, [".csv", ".tsv", ".txt"]),
        new("workbook", "XLSX", "workbook", "Sheet", [".xlsx", ".xlsm", ".xls"]),
        new("opendocument", "ODS", "spreadsheet", "Sheet", [".ods"]),
        new("document", "a table in a DOCX", "document", "Table", [".docx"]),
        new("json", "JSON or JSON Lines", "JSON", null, [".json", ".jsonl", ".ndjson"]),
        new("vcard", "vCards", "vCards", null, [".vcf", ".vcard"]),
        new("database", "an SQLite database", "database", "Table or view", [".sqlite", ".sqlite3", ".db", ".db3"]),
    ];

    /// <summary>All of them in words, for a sentence.</summary>
    public static string Words { get; } = $"{string.Join(", ", All.SkipLast(1).Select(f => f.Name))}, or {All[^1].Name}";

    /// <summary>True where an ending says a format.</summary>
    internal static bool IsNamed(string kind, string extension) => All.First(f => f.Kind == kind).Extensions.Contains(extension);

    /// <summary>True where an ending says some format other than text.</summary>
    internal static bool SaysOtherThanText(string extension) => All.Any(f => f.Kind != "csv" && f.Extensions.Contains(extension));
}
