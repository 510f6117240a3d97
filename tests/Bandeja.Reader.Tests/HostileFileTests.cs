using System.Text;
using Bandeja.Formats.Lists;
using Microsoft.Data.Sqlite;

namespace Bandeja.Reader.Tests;

/// <summary>Files of a few bytes or a few megabytes that once ended the server, filled its memory, or kept it busy without end: each is
/// refused with a sentence by the format's own limits, so the process that reads them goes on.</summary>
public sealed class HostileFileTests : ReaderTests
{
    string Picture(byte[] data) => Refused(() => Shared.Picture(data, "letterhead", Cancel));

    [Fact]
    public void A_pdf_whose_page_tree_contains_itself()
    {
        foreach (
            var kids in new[]
            {
                "<</Type/Pages/Kids[2 0 R]/Count 1>>",
                "<</Type/Pages/Kids[3 0 R 3 0 R 2 0 R]/Count 9000000/Parent 2 0 R>>",
            }
        )
            Assert.Contains(
                "contains itself",
                Picture(
                    Made.Pdf(
                        Made.Latin("<</Type/Catalog/Pages 2 0 R>>"),
                        Made.Latin(kids),
                        Made.Latin("<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]>>")
                    )
                )
            );
    }

    [Theory]
    [InlineData("[", "]")]
    [InlineData("<</A ", ">>")]
    [InlineData("[<</A[", "]>>]")]
    public void A_pdf_with_arrays_or_dictionaries_nested_fifty_thousand_deep(string open, string close)
    {
        var deep = string.Concat(Enumerable.Repeat(open, 50_000)) + string.Concat(Enumerable.Repeat(close, 50_000));
        var file = Made.Pdf(
            Made.Latin("<</Type/Catalog/Pages 2 0 R/Deep 4 0 R>>"),
            Made.Latin("<</Type/Pages/Kids[3 0 R]/Count 1>>"),
            Made.Latin("<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]>>"),
            Made.Latin(deep)
        );
        Assert.Contains("nested more than", Picture(file));
        // The same behind a stream.
        Assert.Contains(
            "nested more than",
            Picture(
                [.. Made.OnePage(Made.Latin("<</Length 5>>\nstream\n0 0 m\nendstream")), .. Made.Latin("9 0 obj\n" + deep + "\nendobj")]
            )
        );
        // The same packed into a stream of objects (7.5.7).
        var packed = Made.Packed("/Type/ObjStm/N 1/First 4", Made.Of("9 0 " + deep));
        Assert.Contains("nested more than", Picture(Made.OnePage(packed)));
    }

    [Theory]
    [InlineData("trailer\n<</Size 5/Root 1 0 R>>", "trailer\n<")]
    [InlineData("/MediaBox[0 0 200 100]", "/MediaBox[0 0 200 100]/Title (never closed")]
    [InlineData("/MediaBox[0 0 200 100]", "/MediaBox[0 0 200 100]/Title <4142")]
    public void A_pdf_with_a_text_that_never_ends(string sound, string broken)
    {
        var file = Encoding.Latin1.GetString(Made.OnePage(Made.Latin("<</Length 5>>\nstream\n0 0 m\nendstream")));
        Assert.Contains(sound, file);
        // Nothing after it closes it by chance.
        var cut = file.Replace(sound, broken);
        cut = cut[..(cut.IndexOf(broken, StringComparison.Ordinal) + broken.Length)] + "\nstartxref\n271\n%%EOF";
        Assert.Contains("never ends", Picture(Made.Latin(cut)));
    }

    [Fact]
    public void A_pdf_stream_that_unpacks_to_a_gigabyte()
    {
        var file = Made.OnePage(Made.Packed("", Made.Many("", " ", 1L << 30, "")));
        Assert.True(file.Length < 20 << 20);
        Assert.Contains("unpacks to more than 256 MB", Picture(file));
    }

    [Fact]
    public void A_pdf_that_opens_and_cannot_be_drawn_is_refused_when_it_comes_in()
    {
        // A content that is not there, and one whose filter is none.
        foreach (var content in new[] { "<</Length 3/Filter/NoSuchFilter>>\nstream\nabc\nendstream", "null" })
        {
            try
            {
                Shared.Picture(Made.OnePage(Made.Latin(content)), "letterhead", Cancel);
            }
            catch (Formats.Pdf.PictureException e)
            {
                Assert.Contains("PDF", e.Message);
            }
        }
        Assert.Empty(log.Lines);
    }

    [Fact]
    public void An_svg_with_twenty_thousand_stops_for_twenty_thousand_rectangles()
    {
        var svg =
            "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"9\" height=\"9\"><linearGradient id=\"g\">"
            + string.Concat(Enumerable.Repeat("<stop offset=\"0\"/>", 20_000))
            + "</linearGradient>"
            + string.Concat(Enumerable.Repeat("<rect width=\"9\" height=\"9\" fill=\"url(#g)\"/>", 20_000))
            + "</svg>";
        Assert.Contains("too much to draw", Picture(Encoding.UTF8.GetBytes(svg)));
    }

    [Fact]
    public void An_svg_that_uses_one_long_path_any_number_of_times()
    {
        var svg =
            "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"9\" height=\"9\"><path id=\"p\" d=\""
            + string.Concat(Enumerable.Repeat("L 1 1 ", 50_000))
            + "\"/>"
            + string.Concat(Enumerable.Repeat("<use href=\"#p\"/>", 20_000))
            + "</svg>";
        Assert.Contains("too much to draw", Picture(Encoding.UTF8.GetBytes(svg)));
    }

    [Fact]
    public void An_svg_with_two_hundred_thousand_groups_in_one_another()
    {
        var svg =
            "<svg xmlns=\"http://www.w3.org/2000/svg\">"
            + string.Concat(Enumerable.Repeat("<g>", 200_000))
            + string.Concat(Enumerable.Repeat("</g>", 200_000))
            + "</svg>";
        Assert.Contains("nested more than 60 deep", Picture(Encoding.UTF8.GetBytes(svg)));
    }

    [Fact]
    public void A_document_of_three_million_paragraphs_without_a_table_and_one_with_a_table_at_its_end()
    {
        var none = Files.Docx("long.docx", Made.Many("", "<w:p><w:r><w:t>x</w:t></w:r></w:p>", 3_000_000, ""));
        Assert.Contains("has no table", Refused(() => Look(none)));
        var end = Files.Docx(
            "end.docx",
            Made.Many("", "<w:p><w:r><w:t>x</w:t></w:r></w:p>", 300_000, Made.Table(["First", "ZIP"], ["Ana", "02139"]))
        );
        Assert.Equal<string?[]>(["Ana", "02139"], Rows(end)[1]);
    }

    [Fact]
    public void A_document_with_two_hundred_thousand_content_controls_in_one_another()
    {
        var path = Files.Docx(
            "deep.docx",
            s =>
            {
                Made.Many("", "<w:sdt><w:sdtContent>", 200_000, "")(s);
                Made.Many("", "</w:sdtContent></w:sdt>", 200_000, "")(s);
            }
        );
        Assert.Contains("nested more than 256 deep", Refused(() => Look(path)));
    }

    [Fact]
    public void A_workbook_with_one_cell_of_six_hundred_megabytes()
    {
        var path = Files.Xlsx(
            "cell.xlsx",
            Made.Many("<row r=\"1\"><c r=\"A1\" t=\"inlineStr\"><is><t>", "x", 600_000_000, "</t></is></c></row>")
        );
        Assert.Contains("a text of more than 1,000,000 characters", Refused(() => Look(path)));
    }

    [Fact]
    public void A_cell_of_more_than_a_million_characters_is_refused_in_every_format()
    {
        var text = new string('x', 1_000_001);
        foreach (
            var path in new[]
            {
                Files.Xlsx("a.xlsx", Made.Of(Made.Row(1, "First") + Made.Row(2, text))),
                Files.Docx("a.docx", Made.Of(Made.Table(["First"], [text]))),
                Files.Ods("a.ods", Made.Of($"<t:table-row><t:table-cell><x:p>{text}</x:p></t:table-cell></t:table-row>")),
                Files.Text("a.csv", $"First,Last\nAna,{text}\n"),
                Files.Text("a.json", $"[{{\"First\": \"{text}\"}}]"),
                Files.Text("a.jsonl", $"{{\"First\": \"Ana\"}}\n{{\"First\": \"{text}\"}}\n"),
                Files.Text("a.vcf", $"BEGIN:VCARD\nVERSION:4.0\nNOTE:{text}\nEND:VCARD\n"),
                Database("a.sqlite", $"INSERT INTO t VALUES ('{text}')"),
            }
        )
        {
            var said = Refused(() => Look(path));
            Assert.True(
                said.Contains("1,000,000", StringComparison.Ordinal)
                    || path.EndsWith(".csv", StringComparison.Ordinal) && said.Contains("Row 2"),
                $"{path}: {said}"
            );
        }
    }

    string Database(string name, string sql)
    {
        var path = Path.Combine(Files.Folder, name);
        using var connection = new SqliteConnection($"Data Source={path};Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = "CREATE TABLE t (First TEXT); " + sql;
        command.ExecuteNonQuery();
        return path;
    }

    [Theory]
    [InlineData("SELECT replace(hex(zeroblob(1000000)), '0', hex(zeroblob(1000000)))")]
    [InlineData("SELECT zeroblob(1000000000)")]
    [InlineData(
        "SELECT group_concat(a, '') FROM (WITH RECURSIVE r(a) AS (SELECT hex(zeroblob(100000)) UNION ALL SELECT a FROM r) SELECT a "
            + "FROM r LIMIT 100000)"
    )]
    public void A_select_that_makes_half_a_gigabyte_of_one_row(string select)
    {
        var path = Database("a.sqlite", "INSERT INTO t VALUES ('Ana')");
        Assert.Contains("1,000,000 characters", Refused(() => Look(path, new(Query: select))));
    }

    [Fact]
    public void Half_a_gigabyte_from_a_function_that_gives_up_quietly()
    {
        var path = Database("a.sqlite", "INSERT INTO t VALUES ('Ana')");
        Assert.Equal<string?[]>(
            [null, "x"],
            Rows(path, new(Query: "SELECT printf('%.*c', 500000000, 'x') AS a, 'x' AS b", HeadingRow: 0))[1]
        );
    }

    [Fact]
    public void A_select_that_keeps_more_than_there_may_be_in_memory()
    {
        var path = Database("a.sqlite", "INSERT INTO t VALUES ('Ana')");
        Assert.Contains(
            "more memory",
            Refused(() =>
                Look(
                    path,
                    new(
                        Query: "WITH RECURSIVE r(n, a) AS (SELECT 1, hex(randomblob(100000)) UNION ALL SELECT n + 1, "
                            + "hex(randomblob(100000)) FROM r LIMIT 20000) SELECT n, a FROM r ORDER BY a"
                    )
                )
            )
        );
        Assert.Empty(Directory.GetFiles(Path.GetTempPath(), "etilqs_*"));
    }

    [Fact]
    public void A_spreadsheet_of_five_hundred_bytes_that_stands_for_billions_of_cells()
    {
        var row = Made.Of(
            "<t:table-row t:number-rows-repeated=\"1000000\"><t:table-cell "
                + "t:number-columns-repeated=\"1800\"><x:p>x</x:p></t:table-cell></t:table-row>"
        );
        var path = Files.Ods("a.ods", row);
        Assert.True(new FileInfo(path).Length < 700);
        Assert.Contains("more than 100,000,000 cells", Refused(() => Look(path)));
    }

    [Fact]
    public void Rows_that_stand_two_billion_rows_down()
    {
        var sheet = Files.Xlsx("a.xlsx", Made.Of(Made.Row(1, "First", "ZIP") + Made.Row(2, "Ana", "02139") + Made.Row(2_147_483_646, "x")));
        Assert.Contains("blank rows", Refused(() => Rows(sheet, new(Sheet: "Members", HeadingRow: 0))));
        var ods = Files.Ods(
            "a.ods",
            Made.Of(
                "<t:table-row><t:table-cell><x:p>First</x:p></t:table-cell></t:table-row>"
                    + string.Concat(Enumerable.Repeat("<t:table-row t:number-rows-repeated=\"2000000000\"/>", 3))
                    + "<t:table-row><t:table-cell><x:p>Ana</x:p></t:table-cell></t:table-row>"
            )
        );
        Assert.Contains("blank rows", Refused(() => Rows(ods, new(Sheet: "A", HeadingRow: 0))));
    }

    [Fact]
    public void Cells_of_several_lines_are_no_blank_rows()
    {
        // Two and a half million lines, half a million rows: an honest list, in which nothing is blank.
        var path = Files.Text(
            "a.csv",
            "First,Address\n" + string.Concat(Enumerable.Repeat("Ana,\"1 Elm\nBend\nOR\n97701\nUSA\"\n", 530_000))
        );
        Assert.Equal(530_001, Rows(path, new(HeadingRow: 0, Encoding: "utf-8", Delimiter: ",")).Count);
    }

    [Fact]
    public void Json_in_another_encoding_is_read_and_said()
    {
        const string json = "[{\"First\": \"Zoë\", \"City\": \"Málaga\"}, {\"First\": \"Jürgen\", \"City\": \"Köln\"}]";
        foreach (
            var (name, encoding) in new[]
            {
                ("latin.json", Encoding.Latin1),
                ("utf16.json", Encoding.Unicode),
                ("utf16be.json", Encoding.BigEndianUnicode),
                ("marked.json", new UnicodeEncoding(false, true)),
            }
        )
        {
            var path = Files.Bytes(name, [.. encoding.GetPreamble(), .. encoding.GetBytes(json)]);
            var look = Look(path);
            Assert.Contains("JSON should be in UTF-8", string.Join(' ', look.Notes));
            Assert.Equal<string?[]>(["Zoë", "Málaga"], Rows(path)[1]);
        }
    }

    [Theory]
    [InlineData("[{\"First\": \"A\\ud800na\"}]")]
    [InlineData("[{\"First\": \"A\\udc00na\"}]")]
    [InlineData("{\"First\": \"A\\uD800na\"}\n{\"First\": \"x\"}\n")]
    [InlineData("{\"people\": [{\"First\": \"A\\ud800na\"}]}")]
    [InlineData("{\"x\\ud800\": 1, \"people\": [{\"First\": \"A\\ud800na\"}]}")]
    public void Half_a_character_in_json_costs_one_character(string json)
    {
        var path = Files.Text("a.json", json);
        Assert.Contains("Unpaired surrogate characters", string.Join(' ', Look(path).Notes));
        Assert.Equal("A\uFFFDna", Rows(path)[1][0]);
    }

    [Fact]
    public void Whole_characters_in_json_stay_and_so_does_an_escaped_backslash()
    {
        var path = Files.Text("a.json", "[{\"A\\ud83d\\ude00\": \"\\ud83d\\ude00 \\\\ud800 \\ud800\"}]");
        Assert.Equal(["A😀"], Rows(path)[0]);
        Assert.Equal(["😀 \\ud800 \uFFFD"], Rows(path)[1]);
    }

    [Fact]
    public void A_sheet_without_a_name_is_called_by_its_place()
    {
        foreach (var named in new[] { "", "name=\"\"" })
        {
            var path = Files.Xlsx($"a{named.Length}.xlsx", Made.Of(Made.Row(1, "First", "ZIP") + Made.Row(2, "Ana", "02139")), named);
            Assert.Equal("Sheet 1", Look(path).Sheet);
            Assert.Equal<string?[]>(["Ana", "02139"], Rows(path)[1]);
        }
    }

    [Fact]
    public void What_is_wrapped_in_a_document_is_read_once()
    {
        var path = Files.Docx(
            "a.docx",
            Made.Of(
                "<w:sdt><w:sdtContent>"
                    + Made.Table(["First", "Note"], ["Ana", "one</w:t><w:tab/><w:t>two</w:t><w:br/><w:t>three"])
                        .Replace("<w:tr><w:tc><w:p><w:r><w:t>Ana", "<w:sdt><w:sdtContent><w:tr><w:tc><w:p><w:r><w:t>Ana")
                        .Replace("three</w:t></w:r></w:p></w:tc></w:tr>", "three</w:t></w:r></w:p></w:tc></w:tr></w:sdtContent></w:sdt>")
                    + "</w:sdtContent></w:sdt>"
            )
        );
        Assert.Equal<string?[]>(["Ana", "one\ttwo\nthree"], Rows(path)[1]);
    }
}
