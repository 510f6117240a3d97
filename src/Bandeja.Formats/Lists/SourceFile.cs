using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Core.Recognition;

namespace Bandeja.Formats.Lists;

/// <summary>A file that a list is brought in from: told by its content, not by its name.</summary>
public sealed class SourceFile : IListFile
{
    /// <summary>The most columns a list can have (SQLite's limit of 2000, less our own).</summary>
    public const int MaxColumns = 1900;
    const int SampleRows = 2000,
        ShownRows = 40,
        HeadBytes = 1 << 20;

    readonly ISource source;
    readonly List<string> openingNotes = [];

    SourceFile(ISource source) => this.source = source;

    /// <summary>Opens a file.</summary>
    /// <param name="path">Where it is.</param>
    /// <param name="name">What the user calls it, for the messages.</param>
    /// <exception cref="ListFileException">It is empty, damaged, or nothing that a list can be read from.</exception>
    public static SourceFile Open(string path, string name)
    {
        using var stream = File.OpenRead(path);
        if (stream.Length == 0)
            throw new ListFileException($"“{name}” is empty.");
        var head = new byte[Math.Min(HeadBytes, stream.Length)];
        stream.ReadExactly(head);
        var whole = head.Length == stream.Length;
        var extension = Path.GetExtension(name).ToLowerInvariant();
        if (head is [0x50, 0x4B, ..])
            return Archive(path, name, extension);
        if (head is [0xD0, 0xCF, 0x11, 0xE0, ..])
            return Noted(new WorkbookSource(path), extension, $"“{name}” is an older workbook and was read that way.", extension == ".xls");
        if (head is [0x53, 0x51, 0x4C, 0x69, 0x74, 0x65, 0x20, 0x66, ..])
            return Noted(new DatabaseSource(path, name), extension, $"“{name}” is an SQLite database and was read that way.");
        var isA = head switch
        {
            [0x25, 0x50, 0x44, 0x46, ..] => "a PDF",
            [0x89, 0x50, 0x4E, 0x47, ..] or [0xFF, 0xD8, 0xFF, ..] or [0x47, 0x49, 0x46, 0x38, ..] => "a picture",
            [0x7B, 0x5C, 0x72, 0x74, 0x66, ..] => "an unsupported type of text document",
            _ => null,
        };
        if (isA is not null)
            throw new ListFileException($"“{name}” is {isA}, not a list. {Known}");
        if (LooksBinary(head, whole))
            throw new ListFileException($"“{name}” is not a text file or a spreadsheet. {Known}");
        var start = System
            .Text.Encoding.Latin1.GetString(head.AsSpan(0, Math.Min(head.Length, 400)))
            .Replace("\0", "")
            .TrimStart('\u00EF', '\u00BB', '\u00BF', '\u00FF', '\u00FE', ' ', '\r', '\n', '\t');
        if (start.StartsWith("BEGIN:VCARD", StringComparison.OrdinalIgnoreCase))
            return Noted(new VCardSource(path, name), extension, $"“{name}” contains vCards and was read that way.");
        if (
            ListFormats.IsNamed("json", extension)
            || start.StartsWith('[') && start.AsSpan(1).TrimStart() is ['{' or '[', ..]
            || start.StartsWith('{') && start.AsSpan(1).TrimStart() is ['"', ..]
        )
            return Noted(new JsonSource(path, name), extension, $"“{name}” holds JSON; it is read as such.");
        return Noted(
            new CsvSource(path, head, whole),
            extension,
            $"“{name}” is plain text despite its file extension, so it was read as CSV.",
            !ListFormats.SaysOtherThanText(extension)
        );
    }

    static readonly string Known = $"A list can come in as {ListFormats.Words}.";

    static SourceFile Archive(string path, string name, string extension)
    {
        var entries = Archives.Check(path, name);
        if (entries.Contains("xl/workbook.xml") || entries.Contains("xl/workbook.bin"))
            return Noted(
                new WorkbookSource(path),
                extension,
                $"“{name}” is a workbook despite its file extension, " + "so it was read that way."
            );
        if (entries.Contains("word/document.xml"))
            return Noted(new WordSource(path, name), extension, $"“{name}” is a text document. A table in it was read.");
        if (entries.Contains("content.xml"))
            return Noted(new OpenDocumentSource(path), extension, $"“{name}” is an OpenDocument spreadsheet and was read that way.");
        throw new ListFileException($"“{name}” is a ZIP archive, not a workbook. Unzip it and import the file inside.");
    }

    /// <summary>The file, with a note where its name says something else than it is.</summary>
    static SourceFile Noted(ISource source, string extension, string note, bool? asNamed = null)
    {
        var file = new SourceFile(source);
        if (!(asNamed ?? ListFormats.IsNamed(source.Kind, extension)))
            file.openingNotes.Add(note);
        return file;
    }

    static bool LooksBinary(byte[] head, bool whole)
    {
        if (Encodings.Unicode(head) is "utf-16" or "utf-16BE")
            return false;
        var odd = head.Take(8192).Count(b => b < 0x20 && b is not (9 or 10 or 13 or 12 or 0x1a) && b != 0);
        var nul = head.Take(8192).Count(b => b == 0);
        return odd > Math.Min(head.Length, 8192) / 50 || nul > Math.Min(head.Length, 8192) / 10;
    }

    /// <summary>Options with everything recognized that was left open.</summary>
    public SourceOptions Complete(SourceOptions options) => source.Complete(options);

    /// <inheritdoc/>
    public IRowReader Rows(SourceOptions complete) => new BoundedRows(source.Rows(complete));

    /// <summary>Looks at the first rows and recognizes sheet, headings, types and roles.</summary>
    /// <param name="options">What is known already.</param>
    /// <param name="customs">What the organization is used to.</param>
    /// <exception cref="ListFileException">The first rows cannot be read.</exception>
    public SourceLook Look(SourceOptions options, ListCustoms customs)
    {
        var home = customs.Home;
        var readings = source.Readings(options);
        options = Complete(options);
        var rows = new List<string?[]>();
        var shown = new List<string?[]>();
        var numbers = new List<int>();
        SourceNotes readNotes;
        using (var reader = new BoundedRows(source.FirstRows(options, SampleRows)))
        {
            while (rows.Count < SampleRows && reader.Read())
            {
                rows.Add(reader.Cells());
                shown.Add([.. rows[^1].Select((cell, i) => cell is null ? null : reader.Shown(i))]);
                numbers.Add(reader.RowNumber);
            }
            reader.Stop();
            readNotes = reader.Notes;
        }
        var headingRow =
            source.NamesItsColumns ? 0
            : options.HeadingRow is { } chosen ? Math.Clamp(chosen, -1, Math.Max(-1, rows.Count - 1))
            : Headings.FindRow(rows.Take(ShownRows).ToList());
        var span =
            headingRow < 1 ? 1
            : options.HeadingSpan is { } asked ? Math.Clamp(asked, 1, 2)
            : Headings.TakesTwoRows(rows[headingRow - 1], rows[headingRow]) ? 2
            : 1;
        var body = rows.Skip(headingRow + 1).Where(r => r.Any(c => c is not null)).ToList();
        var signs = new List<string>();
        var raw =
            headingRow < 0 ? []
            : span == 2 ? Headings.Joined(rows[headingRow - 1], rows[headingRow])
            : rows[headingRow];
        var width = Math.Max(raw.Count, body.Count == 0 ? 0 : body.Max(r => r.Length));
        var problem =
            width > MaxColumns ? $"The file has {width:N0} columns; the limit is {MaxColumns:N0}."
            : rows.Count == 0 || rows.All(r => r.All(c => c is null)) ? source.EmptyPart(options.Sheet)
            : body.Count == 0 ? $"Row {numbers[headingRow]} has headings, but there are no recipients below it."
            : null;
        width = Math.Min(width, MaxColumns);
        var cleaned = Headings.Clean([.. Enumerable.Range(0, width).Select(c => c < raw.Count ? raw[c] : null)]);
        var roles = RoleEvidence.Of(cleaned.Names, c => body.Select(r => c < r.Length ? r[c] : null), home);
        IEnumerable<string?> Values(int column) => body.Select(r => column < r.Length ? r[column] : null);
        var guesses = cleaned
            .Names.Select(
                (name, c) =>
                    roles[c].Role
                        is Role.Key
                            or Role.PostalCode
                            or Role.Phone
                            or Role.HouseNumber
                            or Role.Unit
                            or Role.Street
                            or Role.Street2
                            or Role.Street3
                        ? TypeGuesser.Guess(name, Values(c), customs.Dates) with
                        {
                            Type = ColumnType.Text,
                            Ambiguous = false,
                            SeveralCurrencies = false,
                        }
                        : TypeGuesser.Guess(name, Values(c), customs.Dates)
            )
            .ToList();
        var form = FormOf(guesses);
        var columns = cleaned
            .Names.Select(
                (name, c) =>
                {
                    var guess = guesses[c];
                    // What a column leaves open, the others of the file may say.
                    if (guess.Type == ColumnType.Number && guess.Ambiguous && form is { } known)
                        guess = guess with { NumberForm = known, Ambiguous = false };
                    if (guess is { Type: ColumnType.Date, DateOrder: DateOrder.DayNumber })
                        signs.Add(
                            $"“{name}” has day numbers, as spreadsheets keep dates, and was read as dates. If they are amounts, choose the "
                                + "type number."
                        );
                    // Of text, too: somebody may say that it is dates, or the list that a newer file is of.
                    var (time, keep) = guess.Type is ColumnType.Date or ColumnType.Text
                        ? TimesOfDay.Among(Values(c), guess.DateOrder, home)
                        : default;
                    if (time is not null && guess.Type == ColumnType.Date)
                        signs.Add(
                            $"“{name}” has times of day, such as {time}. With “Keep times,” they are imported into a column of their own, "
                                + $"“{TimesOfDay.NameOf(name)}.”"
                        );
                    if (guess.SeveralCurrencies)
                        signs.Add(
                            $"“{name}” has amounts in several currencies and was read as text, because a number is stored without one."
                        );
                    var familyFirst = CellParts.IsFamilyFirst(roles[c].Role, Values(c));
                    if (familyFirst)
                        signs.Add(
                            $"“{name}” has the family name first, without a comma. When it is split, letters and addresses have the "
                                + "given name first."
                        );
                    var example = familyFirst ? null : CellParts.Example(roles[c].Role, Values(c), home);
                    if (example is not null)
                        signs.Add(
                            roles[c].Role == Role.FullName
                                ? $"“{name}” has names such as “{example}”. When it is split, letters and addresses have the given name "
                                    + "first."
                                : $"“{name}” has several parts of an address, such as “{example}”. When it is split, each part is "
                                    + "checked and can be used on its own."
                        );
                    return new SourceColumn(
                        name,
                        guess.Type,
                        guess.DateOrder,
                        roles[c].Role,
                        roles[c].Confidence,
                        roles[c].Why,
                        CellParts.Preview(name, roles[c].Role, Values(c), home, familyFirst),
                        guess.NumberForm,
                        guess.Ambiguous,
                        guess.Type == ColumnType.Number ? Format(name, c, guess.NumberForm) : null,
                        time,
                        keep,
                        familyFirst,
                        roles[c].Role == Role.FullName ? CellParts.Preview(name, roles[c].Role, Values(c), home, !familyFirst) : [],
                        familyFirst || example is not null
                    );
                }
            )
            .ToList();
        var notes = openingNotes
            .Concat(
                headingRow >= 0
                    ? cleaned.Notes
                    : ["No heading row was found, so columns are numbered. If a row holds the headings, click it."]
            )
            .Concat(readNotes.Sentences())
            .ToList();
        notes.AddRange(signs);
        if (span == 2)
            notes.Add($"The headings span rows {numbers[headingRow - 1]} and {numbers[headingRow]} and were combined.");
        var parts = source.Parts();
        if (parts.Any(s => s.Hidden))
            notes.Add($"The workbook has hidden sheets: {string.Join(", ", parts.Where(s => s.Hidden).Select(s => s.Name))}.");
        return new(
            source.Kind,
            parts,
            options.Sheet,
            options.Encoding,
            options.Delimiter,
            headingRow,
            span,
            options.Query,
            [.. rows.Take(ShownRows)],
            [.. numbers.Take(ShownRows)],
            columns,
            notes,
            readings,
            problem,
            source.NamesItsColumns
        );

        string? Format(string name, int column, NumberForm form)
        {
            var written = new WrittenNumbers();
            for (var i = headingRow + 1; i < rows.Count; i++)
                if (column < rows[i].Length)
                    written.Add(rows[i][column], form, shown[i][column]);
            if (written.Note(name, customs.Currency) is { } note)
                signs.Add(note);
            return written.Usual(customs.Currency, RoleRecognizer.SpeaksOfMoney(name))?.ToString();
        }
    }

    /// <summary>The decimal sign of a file's numbers; null where no column shows it, or two show another each.</summary>
    static NumberForm? FormOf(IReadOnlyList<GuessedType> columns) =>
        columns.Where(c => c.Type == ColumnType.Number && c.ShowsForm).Select(c => c.NumberForm).Distinct().ToList() is [var only]
            ? only
            : null;
}
