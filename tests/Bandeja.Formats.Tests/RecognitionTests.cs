using System.Text;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Formats.Lists;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace Bandeja.Formats.Tests;

public sealed class RecognitionTests : IDisposable
{
    readonly Files files = new();

    public void Dispose() => files.Dispose();

    [Theory]
    [InlineData("a,b,c\n1,2,3\n", ',')]
    [InlineData("a;b;c\n1,5;2,5;3,5\n", ';')]
    [InlineData("a\tb\n1,2\t3,4\n", '\t')]
    [InlineData("name|note\nAna|a, b, c, d\n", '|')]
    [InlineData("title only\nAna\n", ',')]
    [InlineData("a;b\n\"x,y,z\";\"1,2\n3,4\"\n", ';')]
    [InlineData("", ',')]
    public void The_delimiter_is_the_one_that_divides_the_lines_alike(string text, char expected) =>
        Assert.Equal(expected, DelimiterGuess.Of(text));

    [Fact]
    public void Utf8_is_recognized_even_where_the_part_that_is_read_ends_within_a_character()
    {
        var bytes = Encoding.UTF8.GetBytes(string.Concat(Enumerable.Repeat("Müller Ελένη 🌿 ", 50)));
        for (var cut = bytes.Length - 6; cut < bytes.Length; cut++)
            Assert.Equal("utf-8", Of(bytes[..cut], false).Encoding);
        Assert.Equal("utf-8", Of(bytes, true).Encoding);
    }

    [Fact]
    public void Western_text_of_windows_keeps_its_quotation_marks()
    {
        Encodings.Get("utf-8");
        var bytes = Encoding.GetEncoding("windows-1252").GetBytes("Name,Note\nJosé,“quoted” – naïve café\nÅsa,Ærø\n");
        Assert.Equal("windows-1252", Of(bytes, true).Encoding);
    }

    (string Encoding, IReadOnlyList<EncodingReading> Readings) Of(byte[] bytes, bool whole) =>
        Encodings.Recognize(files.Bytes("e.csv", bytes), bytes, whole);

    [Theory]
    [InlineData("shift_jis", "氏名,郵便番号,住所\n大野春樹,100-0005,東京都千代田区丸の内\n")]
    [InlineData("shift_jis", "name,city\nヤマダ タロウ,大阪市\n")]
    [InlineData("euc-kr", "이름,주소\n김민준,서울특별시 종로구\n이서연,부산광역시\n")]
    [InlineData("gb18030", "姓名,地址\n王小明,北京市朝阳区建国路八十八号\n李丽,上海市\n")]
    [InlineData("big5", "姓名,地址\n王小明,臺北市中正區\n陳美麗,高雄市\n")]
    [InlineData("macintosh", "Name,City\nJosé Núñez,Málaga\nZoë Müller,Köln\n")]
    [InlineData("ibm850", "Name,City\nJosé Núñez,Málaga\nZoë Müller,Köln\n")]
    [InlineData("ibm852", "Imię,Miasto\nPaweł Wójcik,Łódź\nZofia Król,Gdańsk\nMałgorzata Zając,Poznań\n")]
    [InlineData("ibm866", "Имя,Город\nАнна Петрова,Москва\nИван Сидоров,Казань\n")]
    [InlineData("windows-1252", "Name,City\nJosé Núñez,Málaga\nZoë Müller,Köln\n")]
    [InlineData("windows-1252", "Name,City\nFrançois Lefèvre,Besançon\nAna,Salem\n")]
    [InlineData("windows-1250", "Imię,Miasto\nPaweł Wójcik,Łódź\nZofia Król,Gdańsk\nMałgorzata Zając,Poznań\n")]
    [InlineData("windows-1251", "Имя,Город\nАнна Петрова,Москва\nИван Сидоров,Казань\n")]
    [InlineData("koi8-r", "Имя,Город\nАнна Петрова,Москва\nИван Сидоров,Казань\n")]
    [InlineData("windows-1253", "Όνομα,Πόλη\nΕλένη Βασιλείου,Πάτρα\nΝίκος Παππάς,Αθήνα\n")]
    [InlineData("windows-1254", "Ad,Şehir\nAyşe Yılmaz,İstanbul\nMehmet Çağlar,Eskişehir\n")]
    public void An_encoding_is_recognized_by_how_it_reads_or_asked(string encoding, string text)
    {
        Encodings.Get("utf-8");
        var bytes = Encoding.GetEncoding(encoding).GetBytes(text);
        var (found, readings) = Of(bytes, true);
        var words = text.Split([',', ' ', '\n']).Where(w => w.Any(c => c > 0x7f)).ToList();
        // Another encoding that reads the same is as good; where it is asked, the right reading is among the answers.
        if (readings.Count == 0)
            Assert.Equal(text, Encodings.Get(found).GetString(bytes));
        else
            Assert.Contains(readings, r => words.Take(2).All(r.Sample.Contains));
        // Asked or not, the right one is also the one that is proposed.
        Assert.Equal(text, Encodings.Get(found).GetString(bytes));
    }

    [Fact]
    public void What_cannot_be_told_is_asked_and_a_choice_ends_the_question()
    {
        var bytes = new byte[] { (byte)'N', (byte)'\n', (byte)'a', 0xE1, (byte)'\n' };
        Assert.NotEmpty(Of([(byte)'N', (byte)'\n', 0xC7, 0xD1, (byte)'\n'], true).Readings);
        var path = files.Bytes(
            "late.csv",
            [
                .. Encoding.ASCII.GetBytes("Name,City\n" + string.Concat(Enumerable.Repeat("Ana,Salem\n", 200_000))),
                .. Encoding.GetEncoding("shift_jis").GetBytes("大野春樹,東京都\n"),
            ]
        );
        // Far down in the file, beyond what is looked at first.
        Assert.Equal("shift_jis", SourceFile.Open(path, "late.csv").Look(new(), ListCustoms.UnitedStates).Encoding);
    }

    [Theory]
    [InlineData("utf-7")]
    [InlineData("nonsense")]
    public void Only_known_encodings_can_be_chosen(string name) =>
        Assert.Contains(name, Assert.Throws<ListFileException>(() => Encodings.Get(name)).Message);

    [Fact]
    public void A_chosen_encoding_and_delimiter_win()
    {
        var path = files.Bytes("a.csv", Encoding.Latin1.GetBytes("Name;City\nJos\u00e9;C,ork\n"));
        var look = SourceFile.Open(path, "a.csv").Look(new(Encoding: "iso-8859-1", Delimiter: ","), ListCustoms.UnitedStates);
        Assert.Equal<string?[]>(["Name;City"], look.FirstRows[0]);
        Assert.Equal<string?[]>(["José;C", "ork"], look.FirstRows[1]);
    }

    [Fact]
    public void Text_that_is_not_of_the_chosen_encoding_is_told()
    {
        var path = files.Bytes("a.csv", Encoding.Latin1.GetBytes("Name,City\nJos\u00e9,Cork\n"));
        Assert.Contains(
            SourceFile.Open(path, "a.csv").Look(new(Encoding: "utf-8"), ListCustoms.UnitedStates).Notes,
            n => n.Contains("do not match the chosen encoding") && n.Contains("row 2")
        );
    }

    [Fact]
    public void Numbers_print_as_the_file_has_them()
    {
        var path = files.Bytes(
            "a.csv",
            Encoding.UTF8.GetBytes("Name,Due,Share,Code\nAna,\"$1,240.00\",5%,$A\nBo,$3.50,12.5%,$B\nCy,,7%,$C\n")
        );
        var look = SourceFile.Open(path, "a.csv").Look(new(), ListCustoms.UnitedStates);
        Assert.Equal(["Due", "Share"], look.Columns.Where(c => c.Type == ColumnType.Number).Select(c => c.Name));
        Assert.Equal([null, "money", "percent", null], look.Columns.Select(c => c.Format));
        Assert.Empty(look.Notes);
        var abroad = SourceFile.Open(path, "a.csv").Look(new(), ListCustoms.UnitedStates with { Currency = "GBP" });
        Assert.Equal("number 2", abroad.Columns[1].Format);
        Assert.StartsWith("“Due” has amounts such as “$3.50”", Assert.Single(abroad.Notes), StringComparison.Ordinal);
    }

    [Fact]
    public void A_number_format_that_cannot_show_a_number_or_fills_the_memory_leaves_the_value()
    {
        string?[][] rows =
        [
            ["Name", "Hours", "Long"],
            ["Ana", "1E+300|# ?/?", $"12|{new string('0', 300)}"],
            ["Bo", "3E+299|# ?/?", $"13|{new string('0', 300)}"],
        ];
        var path = files.Workbook("a.xlsx", ("Gifts", false, rows));
        var look = SourceFile.Open(path, "a.xlsx").Look(new(), ListCustoms.UnitedStates);
        Assert.Equal("12", look.FirstRows[1][2]);
        Assert.Equal([null, null, null], look.Columns.Select(c => c.Format));
    }

    [Fact]
    public void Amounts_in_several_currencies_are_told()
    {
        var path = files.Bytes("a.csv", Encoding.UTF8.GetBytes("Name,Gift\nAna,$50\nBo,€40\n"));
        var look = SourceFile.Open(path, "a.csv").Look(new(), ListCustoms.UnitedStates);
        Assert.Equal(ColumnType.Text, look.Columns[1].Type);
        Assert.StartsWith("“Gift” has amounts in several currencies", Assert.Single(look.Notes), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("Usage,Balance\n\"1,240\",\"1,204.50\"\n980,88.10\n", NumberForm.Point, false)]
    [InlineData("Usage;Balance\n1.240;1.204,50\n980;88,10\n", NumberForm.Comma, false)]
    [InlineData("Usage;Balance;Other\n1.240;1.204,50;1.5\n980;88,10;2.5\n", NumberForm.Point, true)]
    [InlineData("Usage,Members\n\"1,240\",12\n980,13\n", NumberForm.Point, true)]
    public void A_column_that_leaves_its_decimal_sign_open_follows_the_others(string text, NumberForm form, bool ambiguous)
    {
        var path = files.Bytes("a.csv", Encoding.UTF8.GetBytes(text));
        var usage = SourceFile.Open(path, "a.csv").Look(new(), ListCustoms.UnitedStates).Columns[0];
        Assert.Equal((ColumnType.Number, form, ambiguous), (usage.Type, usage.NumberForm, usage.Ambiguous));
    }

    [Fact]
    public void Times_of_day_are_kept_where_people_set_them_and_told_where_not()
    {
        var text = "Name,Visit date,Noted\nAna,1/14/2027 9:30 AM,2026-11-03T09:31:12\nBo,1/15/2027 2:00 PM,2026-11-04T10:00:59\n";
        var path = files.Bytes("a.csv", Encoding.UTF8.GetBytes(text));
        var look = SourceFile.Open(path, "a.csv").Look(new(), ListCustoms.UnitedStates);
        Assert.Equal(
            [(ColumnType.Text, null, false), (ColumnType.Date, "9:30 AM", true), (ColumnType.Date, "9:31:12 AM", false)],
            look.Columns.Select(c => (c.Type, c.Time, c.KeepTimes))
        );
        Assert.Equal(
            [
                "“Visit date” has times of day, such as 9:30 AM. With “Keep times,” they are imported into a column of their "
                    + "own, “Visit time.”",
                "“Noted” has times of day, such as 9:31:12 AM. With “Keep times,” they are imported into a column of their "
                    + "own, “Noted time.”",
            ],
            look.Notes
        );
    }

    [Fact]
    public void A_workbook_says_how_its_numbers_are_shown()
    {
        string?[][] rows =
        [
            ["Name", "Gift", "Paid", "Rate", "Hours", "Year", "Euro", "Plain"],
            ["Ana", "1250.5|\"$\"#,##0.00", "40|_($* #,##0.00_)", "0.125|0.0%", "3.5|0.00", "2027|0", "12|[$€-407] #,##0.00", "1250.5"],
            ["Bo", "40|\"$\"#,##0.00", "12.5|_($* #,##0.00_)", "0.05|0.0%", "12|0.00", "2026|0", "15|[$€-407] #,##0.00", "7"],
        ];
        var path = files.Workbook("a.xlsx", ("Gifts", false, rows));
        var look = SourceFile.Open(path, "a.xlsx").Look(new(), ListCustoms.UnitedStates);
        Assert.Equal([null, "money", "money", "percent 1", "number 2", null, "number 2", null], look.Columns.Select(c => c.Format));
        Assert.StartsWith("“Euro” has amounts such as “€ 15.00”", Assert.Single(look.Notes), StringComparison.Ordinal);
        // What is stored is the value, and not what the sheet shows of it.
        Assert.Equal(["Ana", "1250.5", "40", "0.125", "3.5", "2027", "12", "1250.5"], look.FirstRows[1]);
    }

    [Fact]
    public void Merged_cells_are_told()
    {
        var path = files.Workbook(
            "a.xlsx",
            (
                "List",
                false,
                [
                    ["Title"],
                    ["Name", "City"],
                    ["Ana", "Cork"],
                ]
            )
        );
        using (var document = DocumentFormat.OpenXml.Packaging.SpreadsheetDocument.Open(path, true))
        {
            var sheet = document.WorkbookPart!.WorksheetParts.Single().Worksheet!;
            sheet.InsertAfter(
                new DocumentFormat.OpenXml.Spreadsheet.MergeCells(new DocumentFormat.OpenXml.Spreadsheet.MergeCell { Reference = "A1:B1" }),
                sheet.GetFirstChild<DocumentFormat.OpenXml.Spreadsheet.SheetData>()
            );
        }
        var look = SourceFile.Open(path, "a.xlsx").Look(new(), ListCustoms.UnitedStates);
        Assert.Contains(look.Notes, n => n.StartsWith("Merged cells", StringComparison.Ordinal) && n.Contains("A1:B1"));
        Assert.Equal(1, look.HeadingRow);
    }

    [Fact]
    public void Rows_of_a_workbook_know_their_number_and_blank_rows_between_them()
    {
        var path = files.Workbook(
            "a.xlsx",
            (
                "List",
                false,
                [
                    ["Name"],
                    [null],
                    ["Ana"],
                ]
            )
        );
        using var reader = SourceFile.Open(path, "a.xlsx").Rows(new("List"));
        var seen = new List<(int, string?)>();
        while (reader.Read())
            seen.Add((reader.RowNumber, reader.Cells().FirstOrDefault()));
        Assert.Equal([(1, "Name"), (2, null), (3, "Ana")], seen);
        Assert.Equal(1, reader.Progress);
    }

    [Fact]
    public void Notes_count_and_name_the_first_places()
    {
        var notes = new SourceNotes();
        for (var i = 1; i <= 5; i++)
            notes.Add("Odd things", $"row {i}");
        notes.Add("Another", "B2");
        Assert.Equal(["Odd things (5: row 1, row 2, row 3 …).", "Another (1: B2)."], notes.Sentences());
    }

    [Property(MaxTest = 100)]
    public Property Any_table_written_with_any_delimiter_is_read_back() =>
        Prop.ForAll(
            Gen.Elements(',', ';', '\t', '|')
                .SelectMany(d =>
                    Gen.Elements("Ana", "O'Neill", "a, b", "x;y", "tab\there", "bar|bar", "say \"hi\"", "two\nlines", "", "02139", "Ελένη")
                        .ArrayOf(4)
                        .Where(r => r.Any(c => c.Length > 0))
                        .NonEmptyListOf()
                        .Select(rows => (d, rows))
                )
                .ToArbitrary(),
            table =>
            {
                using var own = new Files();
                var text = string.Concat(
                    table.rows.Select(r => string.Join(table.d, r.Select(c => $"\"{c.Replace("\"", "\"\"")}\"")) + "\r\n")
                );
                using var reader = SourceFile
                    .Open(own.Text("a.csv", text), "a.csv")
                    .Rows(new(Encoding: "utf-8", Delimiter: table.d.ToString()));
                foreach (var row in table.rows)
                {
                    Assert.True(reader.Read());
                    Assert.Equal(row.Select(c => c.Length == 0 ? null : c), reader.Cells());
                }
                Assert.False(reader.Read());
            }
        );
}
