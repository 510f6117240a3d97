using System.IO.Compression;
using System.Text;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Formats.Lists;
using FsCheck;
using FsCheck.Xunit;

namespace Bandeja.Formats.Tests;

public sealed class SourceFileTests : IDisposable
{
    readonly Files files = new();

    public void Dispose() => files.Dispose();

    static SourceLook Look(string path, SourceOptions? options = null) =>
        SourceFile.Open(path, Path.GetFileName(path)).Look(options ?? new(), ListCustoms.UnitedStates);

    static List<string?[]> Rows(string path)
    {
        var file = SourceFile.Open(path, Path.GetFileName(path));
        using var reader = file.Rows(file.Complete(new()));
        var rows = new List<string?[]>();
        while (reader.Read())
            rows.Add(reader.Cells());
        return rows;
    }

    static string Refusal(Func<object> act) => Assert.Throws<ListFileException>(act).Message;

    [Theory]
    [InlineData("utf-8", "Müller")]
    [InlineData("utf-16", "Müller")]
    [InlineData("utf-16BE", "Νίκος")]
    [InlineData("windows-1252", "Müller")]
    public void The_encoding_is_recognized(string encoding, string name)
    {
        Encodings.Get("utf-8"); // registers the code pages
        var path = files.Text("a.csv", $"Name,City\r\n{name},Zürich\r\n{name},Malmö\r\n", Encoding.GetEncoding(encoding));
        var look = Look(path);
        Assert.Equal(encoding, look.Encoding);
        Assert.Equal(name, look.FirstRows[1][0]);
    }

    [Fact]
    public void Utf16_without_a_mark_is_recognized_by_its_nul_bytes()
    {
        var path = files.Bytes("a.csv", Encoding.Unicode.GetBytes("Name,City\r\nAna,Cork\r\n"));
        Assert.Equal(("utf-16", "Ana"), (Look(path).Encoding, Look(path).FirstRows[1][0]));
    }

    [Theory]
    [InlineData(",")]
    [InlineData(";")]
    [InlineData("\t")]
    [InlineData("|")]
    public void The_delimiter_is_recognized(string d)
    {
        var look = Look(files.Text("a.csv", $"Name{d}City{d}Note\nAna{d}Cork{d}\"a, b; c\"\nPer{d}Malmö{d}x\n"));
        Assert.Equal(d, look.Delimiter);
        Assert.Equal(3, look.Columns.Count);
        Assert.Equal("a, b; c", look.FirstRows[1][2]);
    }

    [Fact]
    public void Quoted_cells_may_hold_delimiters_quotes_and_line_ends()
    {
        var rows = Rows(files.Text("a.csv", "Name,Note\r\n\"Okafor, Ana\",\"said \"\"yes\"\"\r\nand came\"\r\n"));
        Assert.Equal<string?[]>(["Okafor, Ana", "said \"yes\"\r\nand came"], rows[1]);
    }

    [Fact]
    public void Leading_zeros_stay_and_types_are_guessed()
    {
        var look = Look(
            files.Text(
                "a.csv",
                "No.,ZIP,Amount due,Renewal date,Newsletter\n00012,02139,64.00,3/31/2027,yes\n00013,97412,\"1,250.00\",4/1/2027,no\n"
            )
        );
        Assert.Equal(
            [ColumnType.Text, ColumnType.Text, ColumnType.Number, ColumnType.Date, ColumnType.YesNo],
            look.Columns.Select(c => c.Type)
        );
        Assert.Equal([Role.Key, Role.PostalCode, Role.None, Role.None, Role.None], look.Columns.Select(c => c.Role));
        Assert.Equal("02139", look.FirstRows[1][1]);
    }

    [Fact]
    public void The_heading_row_can_be_changed_and_done_without()
    {
        var path = files.Text("a.csv", "First,Last\nAna,Okafor\nPer,Lindqvist\n");
        Assert.Equal(0, Look(path).HeadingRow);
        Assert.Equal(["Ana", "Okafor"], Look(path, new(HeadingRow: 1)).Columns.Select(c => c.Name));
        Assert.Equal(["Column 1", "Column 2"], Look(path, new(HeadingRow: -1)).Columns.Select(c => c.Name));
    }

    [Fact]
    public void A_workbook_gives_codes_dates_and_formulas_as_the_sheet_shows_them()
    {
        var path = files.Workbook(
            "a.xlsx",
            (
                "List",
                false,
                [
                    ["Town hall"],
                    [null],
                    ["printed in November"],
                    ["Name", "Zip Code", "Built", "Total", "Parcel", "Share"],
                    ["Ana", "2139|00000", "46112|yyyy-mm-dd", "=1+1|2", "123456789|000-00-0000", "0.15|0.00"],
                    ["Per", "97412|00000", "46113|yyyy-mm-dd", "=2*2|4.5", "987654321|000-00-0000", "0.30000000000000004|0.00"],
                ]
            )
        );
        var look = Look(path);
        Assert.Equal((3, "workbook"), (look.HeadingRow, look.Kind));
        Assert.Equal<string?[]>(["Ana", "02139", "2026-03-31", "2", "123-45-6789", "0.15"], look.FirstRows[4]);
        Assert.Equal("0.3", look.FirstRows[5][5]);
        Assert.Equal(
            [ColumnType.Text, ColumnType.Text, ColumnType.Date, ColumnType.Number, ColumnType.Text, ColumnType.Number],
            look.Columns.Select(c => c.Type)
        );
    }

    [Fact]
    public void Error_cells_are_blank_and_told_with_their_place()
    {
        var look = Look(
            files.Workbook(
                "a.xlsx",
                (
                    "List",
                    false,
                    [
                        ["Name", "Amount"],
                        ["Ana", "#REF!"],
                        ["Per", "12|0"],
                    ]
                )
            )
        );
        Assert.Single(look.FirstRows[1]);
        Assert.Contains(look.Notes, n => n.Contains("B2 #REF!"));
    }

    [Fact]
    public void Hidden_sheets_are_offered_but_not_taken_by_themselves()
    {
        var path = files.Workbook(
            "a.xlsx",
            (
                "Lookup",
                true,
                [
                    ["Code"],
                    ["1"],
                ]
            ),
            ("Empty", false, []),
            (
                "People",
                false,
                [
                    ["Name"],
                    ["Ana"],
                ]
            )
        );
        var look = Look(path);
        Assert.Equal("People", look.Sheet);
        Assert.Equal([("Lookup", true), ("Empty", false), ("People", false)], look.Sheets.Select(s => (s.Name, s.Hidden)));
        Assert.Equal("1", Look(path, new("Lookup")).FirstRows[1][0]);
        Assert.Contains("is empty", Look(path, new("Empty")).Problem);
        Assert.Contains("no sheet called", Refusal(() => Look(path, new("Nowhere"))));
    }

    [Fact]
    public void The_sheet_that_looks_most_like_a_list_is_taken()
    {
        var notes = (
            "Notes",
            false,
            (string?[][])
                [
                    ["Printed for the board"],
                    ["Do not share"],
                    ["See Members"],
                ]
        );
        var lookup = (
            "Codes",
            false,
            (string?[][])
                [
                    ["Code", "Meaning"],
                    ["A", "Active"],
                    ["B", "Former"],
                    ["C", "Friend"],
                ]
        );
        var members = (
            "Members",
            false,
            (string?[][])
                [
                    ["First", "Last", "City", "Zip"],
                    ["Ana", "Okafor", "Fernquay", "97412"],
                    ["Luis", "Ortega", "Bend", "97701"],
                    ["Per", "Ek", "Salem", "97301"],
                ]
        );
        var hidden = (
            "Old",
            true,
            (string?[][])
                [
                    ["First", "Last", "Street", "City", "Zip", "Email"],
                    .. Enumerable
                        .Range(0, 30)
                        .Select(i => (string?[])["Ana", "Okafor", "12 Quay Road", "Fernquay", "97412", $"a{i}@example.org"]),
                ]
        );
        Assert.Equal("Members", Look(files.Workbook("book.xlsx", notes, lookup, hidden, members)).Sheet);
        Assert.Equal("Codes", Look(files.Workbook("book2.xlsx", notes, lookup)).Sheet);
        // A choice wins.
        Assert.Equal("Codes", Look(files.Workbook("book3.xlsx", notes, lookup, members), new(Sheet: "Codes")).Sheet);
    }

    [Fact]
    public void Rows_have_the_numbers_of_their_lines_also_after_blank_lines()
    {
        var path = files.Text("gaps.csv", "\n\nName,Note\n\nAna,\"two\nlines\"\n\n\nLuis,x\n");
        var look = Look(path);
        Assert.Equal([3, 5, 9], look.FirstRowNumbers);
        Assert.Equal(0, look.HeadingRow);
    }

    [Fact]
    public void A_file_is_what_it_is_and_not_what_its_name_says()
    {
        Assert.Contains("plain text", Assert.Single(Look(files.Text("a.xlsx", "Name,City\nAna,Cork\n")).Notes));
        var workbook = files.Workbook(
            "real.xlsx",
            (
                "L",
                false,
                [
                    ["Name"],
                    ["Ana"],
                ]
            )
        );
        Assert.Contains("is a workbook", Assert.Single(Look(files.Bytes("a.csv", File.ReadAllBytes(workbook))).Notes));
        Assert.Contains("is a PDF", Refusal(() => Look(files.Text("a.csv", "%PDF-1.7 ..."))));
        Assert.Contains("is a picture", Refusal(() => Look(files.Bytes("a.csv", [0x89, 0x50, 0x4E, 0x47, 0, 0, 0, 0]))));
        Assert.Contains(
            "not a text file or a spreadsheet",
            Refusal(() => Look(files.Bytes("a.csv", [.. Enumerable.Range(0, 2000).Select(i => (byte)(i * 7 % 31))])))
        );
    }

    [Fact]
    public void An_archive_that_is_no_workbook_and_a_damaged_one_are_told()
    {
        var zip = new MemoryStream();
        using (var archive = new ZipArchive(zip, ZipArchiveMode.Create, true))
            archive.CreateEntry("list.csv");
        Assert.Contains("ZIP archive", Refusal(() => Look(files.Bytes("a.xlsx", zip.ToArray()))));
        Assert.Contains("damaged", Refusal(() => Look(files.Bytes("b.xlsx", [0x50, 0x4B, 3, 4, .. new byte[300]]))));
        var real = File.ReadAllBytes(
            files.Workbook(
                "real.xlsx",
                (
                    "L",
                    false,
                    [
                        ["Name"],
                        ["Ana"],
                    ]
                )
            )
        );
        Assert.Contains("damaged", Refusal(() => Look(files.Bytes("c.xlsx", real[..(real.Length / 2)]))));
    }

    [Fact]
    public void A_small_workbook_that_unpacks_to_a_huge_one_is_stopped()
    {
        var path = Path.Combine(Path.GetDirectoryName(files.Text("x", "x"))!, "bomb.xlsx");
        using (var archive = ZipFile.Open(path, ZipArchiveMode.Create))
        {
            archive.CreateEntry("xl/workbook.xml");
            using var stream = archive.CreateEntry("xl/media/picture.emf", CompressionLevel.Optimal).Open();
            var zeros = new byte[1 << 20];
            for (var i = 0; i < 2100; i++)
                stream.Write(zeros);
        }
        Assert.True(new FileInfo(path).Length < 10 << 20);
        Assert.Contains("unzips to more than 2 GB", Refusal(() => Look(path)));
    }

    [Fact]
    public void Empty_files_and_headings_alone_are_told()
    {
        Assert.Contains("is empty", Refusal(() => Look(files.Bytes("a.csv", []))));
        Assert.Contains("no rows", Look(files.Text("b.csv", "\r\n\r\n")).Problem);
        Assert.Contains("no recipients below it", Look(files.Text("c.csv", "First name,Last name,ZIP\r\n")).Problem);
    }

    [Theory]
    [InlineData("Name,Note\nAna,ok\n\"Per,never closed\nInês,x\n", 3)]
    [InlineData("Name,Note\nAna,ok\nPer,\"never closed", 3)]
    [InlineData("Name,Note\nAna,ok\nPer,x\nInês,\"open\nmore,\"lines\"\nlast,x\n", 4)]
    public void Broken_quoting_names_the_row(string text, int row) =>
        Assert.StartsWith($"Row {row}:", Refusal(() => Rows(files.Text("a.csv", text))));

    [Fact]
    public void An_endless_cell_names_the_row() =>
        Assert.StartsWith("Row 2:", Refusal(() => Rows(files.Text("a.csv", "Name\n\"" + new string('x', 3_000_000)))));

    [Fact]
    public void Stray_quotes_and_nul_characters_are_kept_or_taken_out_and_told()
    {
        var look = Look(files.Text("a.csv", "Name,Note\nAna \"Annie\" Okafor,x\nPer,nul\0here\n"));
        Assert.Equal("Ana \"Annie\" Okafor", look.FirstRows[1][0]);
        Assert.Equal("nulhere", look.FirstRows[2][1]);
        Assert.Contains(look.Notes, n => n.StartsWith("Stray quotation marks", StringComparison.Ordinal) && n.Contains("row 2"));
        Assert.Contains(look.Notes, n => n.StartsWith("Null characters", StringComparison.Ordinal) && n.Contains("row 3"));
    }

    [Fact]
    public void Six_hundred_columns_are_read_and_too_many_are_told()
    {
        string Wide(int n) =>
            string.Join(',', Enumerable.Range(0, n).Select(i => $"Heading {i}")) + "\n" + string.Join(',', Enumerable.Range(0, n)) + "\n";
        Assert.Equal(600, Look(files.Text("a.csv", Wide(600))).Columns.Count);
        Assert.Contains("2,500 columns", Look(files.Text("b.csv", Wide(2500))).Problem);
    }

    [Property(MaxTest = 200)]
    public void Cells_written_by_the_rules_are_read_back(NonEmptyArray<NonNull<string>> cells)
    {
        var values = cells
            .Get.Select(c => new string([.. c.Get.Where(x => (x >= ' ' || x is '\n' or '\t') && !char.IsSurrogate(x) && x != '\uFFFD')]))
            .ToArray();
        if (values.All(v => v.Length == 0))
            return;
        var line = string.Join(',', values.Select(v => $"\"{v.Replace("\"", "\"\"")}\""));
        using var own = new Files();
        var file = SourceFile.Open(own.Text("a.csv", $"{line}\n{line}\n"), "a.csv");
        using var reader = file.Rows(new(Encoding: "utf-8", Delimiter: ","));
        Assert.True(reader.Read());
        // An apostrophe before what would start a formula is there for spreadsheets, and goes again.
        Assert.Equal(
            values.Select(v =>
                v.Length == 0 ? null
                : v is ['\'', '=' or '+' or '-' or '@', ..] ? v[1..]
                : v
            ),
            reader.Cells()
        );
    }

    [Property(MaxTest = 200)]
    public void Any_bytes_are_read_or_refused_with_a_sentence(byte[] bytes)
    {
        using var own = new Files();
        try
        {
            Look(own.Bytes("a.csv", bytes));
        }
        catch (ListFileException e)
        {
            Assert.NotEmpty(e.Message);
        }
    }
}
