using System.IO.Compression;
using System.Text;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Formats.Lists;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Wordprocessing;
using FsCheck.Xunit;
using Microsoft.Data.Sqlite;

namespace Bandeja.Formats.Tests;

/// <summary>Lists from OpenDocument spreadsheets, documents, JSON, vCards and databases: read right, and refused with a sentence.</summary>
public sealed class OtherSourceTests : IDisposable
{
    readonly Files own = new();

    public void Dispose() => own.Dispose();

    static SourceLook Look(string path, SourceOptions? options = null) =>
        SourceFile.Open(path, Path.GetFileName(path)).Look(options ?? new(), ListCustoms.UnitedStates);

    static List<string?[]> Rows(string path, SourceOptions? options = null)
    {
        var file = SourceFile.Open(path, Path.GetFileName(path));
        using var reader = file.Rows(file.Complete(options ?? new()));
        var rows = new List<string?[]>();
        while (reader.Read())
            rows.Add(reader.Cells());
        return rows;
    }

    [Fact]
    public void Json_lines_and_arrays_inside_an_object_are_read()
    {
        var lines = Path.Combine(own.Folder, "members.jsonl");
        File.WriteAllText(lines, "{\"First\": \"Ana\", \"Zip\": \"02139\"}\n\n{\"First\": \"Luis\", \"City\": \"Bend\"}\n");
        Assert.Equal(["First", "Zip", "City"], Look(lines).Columns.Select(c => c.Name));
        Assert.Equal<string?[]>(["Luis", null, "Bend"], Rows(lines)[2]);
        var inside = Path.Combine(own.Folder, "export.json");
        File.WriteAllText(
            inside,
            """{"meta": {"pages": [{"n": 1}]}, "data": {"members": [{"First": "Ana", "Email": "ana@example.org"}, {"First": "Luis", "Email": "luis@example.org"}, {"First": "Per", "Email": "per@example.org"}]}, "version": 2}"""
        );
        var look = Look(inside);
        Assert.Equal(("json", "data.members"), (look.Kind, look.Sheet));
        Assert.Equal(["meta.pages", "data.members"], look.Sheets.Select(s => s.Name));
        Assert.Equal(4, Rows(inside).Count);
        Assert.Equal<string?[]>(["1"], Rows(inside, new(Sheet: "meta.pages"))[1]);
    }

    static string Refused(Action act) => Assert.Throws<ListFileException>(act).Message;

    string Ods(string sheets, string styles = "")
    {
        var path = Path.Combine(own.Folder, "list.ods");
        using var archive = ZipFile.Open(path, ZipArchiveMode.Create);
        using var writer = new StreamWriter(archive.CreateEntry("content.xml").Open());
        writer.Write(
            $"""<?xml version="1.0"?><office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" xmlns:style="urn:oasis:names:tc:opendocument:xmlns:style:1.0"><office:automatic-styles>{styles}</office:automatic-styles><office:body><office:spreadsheet>{sheets}</office:spreadsheet></office:body></office:document-content>"""
        );
        return path;
    }

    static string Cell(string text) => $"<table:table-cell office:value-type=\"string\"><text:p>{text}</text:p></table:table-cell>";

    [Fact]
    public void An_opendocument_spreadsheet_is_read_as_it_shows_itself()
    {
        var path = Ods(
            $"""
            <table:table table:name="Secret" table:style-name="ta1"><table:table-row>{Cell("x")}</table:table-row></table:table>
            <table:table table:name="Members"><table:table-row>{Cell("Name")}{Cell("Zip")}{Cell("Joined")}{Cell("Share")}{Cell(
                "Paid"
            )}{Cell("Note")}</table:table-row>
            <table:table-row><table:table-cell office:value-type="string"><text:p>Ana<text:s text:c="2"/>Okafor</text:p><text:p>second</text:p><office:annotation><text:p>a remark</text:p></office:annotation></table:table-cell>
            <table:table-cell office:value-type="float" office:value="2139"><text:p>02139</text:p></table:table-cell><table:table-cell office:value-type="date" office:date-value="2027-03-01"><text:p>01.03.27</text:p></table:table-cell>
            <table:table-cell office:value-type="percentage" office:value="0.15"><text:p>15 %</text:p></table:table-cell><table:table-cell office:value-type="boolean" office:boolean-value="true"><text:p>WAHR</text:p></table:table-cell><table:table-cell table:number-columns-repeated="1020"/></table:table-row>
            <table:table-row table:number-rows-repeated="2">{Cell(
                "Per"
            )}<table:table-cell/><table:table-cell/><table:table-cell office:value-type="currency" office:value="1250.50"><text:p>1.250,50 €</text:p></table:table-cell><table:table-cell table:number-columns-spanned="2" table:number-rows-spanned="1" office:value-type="string"><text:p>merged</text:p></table:table-cell><table:covered-table-cell/></table:table-row>
            <table:table-row table:number-rows-repeated="1048570"><table:table-cell table:number-columns-repeated="1024"/></table:table-row></table:table>
            """,
            """<style:style style:name="ta1" style:family="table"><style:table-properties table:display="false"/></style:style>"""
        );
        var look = Look(path);
        Assert.Equal(("opendocument", "Members", 0), (look.Kind, look.Sheet, look.HeadingRow));
        Assert.Equal([new("Secret", true), new("Members", false)], look.Sheets);
        Assert.Contains(look.Notes, n => n.Contains("hidden sheets: Secret"));
        Assert.Contains(look.Notes, n => n.Contains("Merged cells"));
        var rows = Rows(path).Where(r => r.Length > 0).ToList();
        Assert.Equal<string?[]>(["Ana  Okafor\nsecond", "02139", "2027-03-01", "0.15", "yes"], rows[1]);
        Assert.Equal<string?[]>(["Per", null, null, "1250.5", "merged"], rows[2]);
        Assert.Equal(4, rows.Count);
    }

    [Fact]
    public void An_opendocument_spreadsheet_says_how_its_numbers_are_shown()
    {
        static string Amount(string value, string shown) =>
            $"<table:table-cell office:value-type=\"currency\" office:value=\"{value}\"><text:p>{shown}</text:p></table:table-cell>";
        var path = Ods(
            $"""
            <table:table table:name="Gifts"><table:table-row>{Cell("Name")}{Cell("Gift")}{Cell("Hours")}</table:table-row>
            <table:table-row>{Cell("Ana")}{Amount("1250.5", "1.250,50 €")}{Amount("1250.5", "1.250,500")}</table:table-row>
            <table:table-row>{Cell("Bo")}{Amount("40", "40,00 €")}{Amount("3", "3,000")}</table:table-row></table:table>
            """
        );
        var german = SourceFile.Open(path, "list.ods").Look(new(), new(DateOrder.DayMonthYear, Countries.Named("DE")!, "EUR"));
        Assert.Equal([null, "money", "number 3"], german.Columns.Select(c => c.Format));
        Assert.Equal(["Ana", "1250.5", "1250.5"], german.FirstRows[1]);
    }

    [Fact]
    public void A_damaged_opendocument_spreadsheet_is_refused()
    {
        Assert.Contains("is damaged", Refused(() => Look(Ods("<table:table table:name=\"A\"><table:table-row>"))));
        var empty = Path.Combine(own.Folder, "empty.ods");
        using (var archive = ZipFile.Open(empty, ZipArchiveMode.Create))
            archive.CreateEntry("content.xml").Open().Dispose();
        Assert.Contains("is damaged", Refused(() => Look(empty)));
        var zip = Path.Combine(own.Folder, "some.zip");
        using (var archive = ZipFile.Open(zip, ZipArchiveMode.Create))
            archive.CreateEntry("readme.txt").Open().Dispose();
        Assert.Contains("ZIP archive", Refused(() => Look(zip)));
    }

    string Docx(params Table[] tables)
    {
        var path = Path.Combine(own.Folder, "list.docx");
        using var document = WordprocessingDocument.Create(path, WordprocessingDocumentType.Document);
        document.AddMainDocumentPart().Document = new Document(new Body([new Paragraph(new Run(new Text("Our members"))), .. tables]));
        return path;
    }

    static TableRow Line(params string[] cells) =>
        new(cells.Select(c => new TableCell(c.Split('\n').Select(p => new Paragraph(new Run(new Text(p)))))));

    [Fact]
    public void A_table_of_a_document_is_chosen_and_read()
    {
        var spanned = Line("Per", "Malmö");
        spanned.Elements<TableCell>().First().TableCellProperties = new(new GridSpan { Val = 2 });
        var covered = Line("ignored", "Zoë", "Cork");
        covered.Elements<TableCell>().First().TableCellProperties = new(new VerticalMerge());
        var path = Docx(
            new Table(Line("Date", "Speaker"), Line("Monday", "Ana")),
            new Table(Line("First", "Last", "City"), Line("Ana\nMaría", "Okafor", "Fernquay"), spanned, covered)
        );
        var look = Look(path);
        Assert.Equal(["Table 1: Date, Speaker", "Table 2: First, Last, City"], look.Sheets.Select(s => s.Name));
        var rows = Rows(path, new("Table 2: First, Last, City"));
        Assert.Equal<string?[]>(["Ana\nMaría", "Okafor", "Fernquay"], rows[1]);
        Assert.Equal<string?[]>(["Per", null, "Malmö"], rows[2]);
        Assert.Equal<string?[]>([null, "Zoë", "Cork"], rows[3]);
    }

    [Fact]
    public void A_document_without_a_table_is_refused()
    {
        Assert.Contains("has no table", Refused(() => Look(Docx())));
        var path = Docx(new Table(Line("A", "B")));
        using (var archive = ZipFile.Open(path, ZipArchiveMode.Update))
        {
            archive.GetEntry("word/document.xml")!.Delete();
            using var w = new StreamWriter(archive.CreateEntry("word/document.xml").Open());
            w.Write("<broken");
        }
        Assert.Contains("is damaged", Refused(() => Look(path)));
    }

    [Fact]
    public void A_json_array_of_unlike_objects_gets_all_their_columns()
    {
        var path = own.Text(
            "list.json",
            """[{"First":"Ana","zip":"02139","address":{"city":"Cork","geo":{"lat":1.5}},"paid":true,"tags":["a","b"]}, {"Last":"Nowak","amount":12.50,"paid":false,"gifts":[{"n":1}],"First":null}, {}]"""
        );
        var look = Look(path);
        Assert.Equal(("json", 0), (look.Kind, look.HeadingRow));
        Assert.Equal(
            ["First", "zip", "address city", "address geo lat", "paid", "tags", "Last", "amount"],
            look.Columns.Select(c => c.Name)
        );
        Assert.Equal((ColumnType.Text, ColumnType.YesNo), (look.Columns[1].Type, look.Columns[4].Type));
        Assert.Contains(look.Notes, n => n.Contains("“gifts” contains nested rows"));
        var rows = Rows(path);
        Assert.Equal<string?[]>(["Ana", "02139", "Cork", "1.5", "yes", "a, b"], rows[1]);
        Assert.Equal<string?[]>([null, null, null, null, "no", null, "Nowak", "12.50"], rows[2]);
        Assert.Equal<string?[]>(["a", "b"], Rows(own.Text("arrays.json", """[["a","b"],["1"]]"""))[1]);
    }

    [Theory]
    [InlineData("{\"a\": 1}", "without an array of objects")]
    [InlineData("{\"a\": [1, 2]}", "without an array of objects")]
    [InlineData("{\"a\": [{\"b\": 1}", "is broken in line 1")]
    [InlineData("{\"a\": 1}\n{\"a\": 2\n", "Line 2 of")]
    [InlineData("[1, 2]", "not an object or an array")]
    [InlineData("[{\"a\": 1}, {\"a\": ", "is broken after entry")]
    [InlineData("nonsense", "is not a JSON array")]
    public void Json_that_is_no_list_is_refused(string text, string why) =>
        Assert.Contains(why, Refused(() => Look(own.Text("list.json", text))));

    [Fact]
    public void Cards_of_all_versions_in_one_file_are_read()
    {
        var text = """
            BEGIN:VCARD
            VERSION:2.1
            N;CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE:Mu=C3=B1oz;Jos=C3=A9;;Dr.
            ADR;HOME;QUOTED-PRINTABLE:;;12 Quay=0D=0A;Cork;;T12;Ireland
            NOTE;ENCODING=QUOTED-PRINTABLE:a long =
            note
            END:VCARD
            BEGIN:VCARD
            VERSION:3.0
            FN:Ana Okafor
            N:Okafor;Ana;María;;
            item1.EMAIL;TYPE=INTERNET,HOME:home@example.org
            EMAIL;TYPE=INTERNET,PREF:ana@example.org
            ADR:;Apt 4;9 Tide St\, rear;Fernquay;OR;97412;USA
            ORG:Rotary;Kitchen
            BDAY:19800229
            NOTE:folded
              on\nlines
            END:VCARD
            BEGIN:VCARD
            VERSION:4.0
            FN:Zoë Weiß
            N:Weiß;Zoë;;;
            TEL;VALUE=uri:tel:+1-541-555-0142
            LANG:de
            rubbish line
            END:VCARD
            BEGIN:VCARD
            FN:Half
            N:Half;;;;

            """.ReplaceLineEndings("\r\n");
        var path = own.Text("people.vcf", text);
        var look = Look(path);
        Assert.Equal("vcard", look.Kind);
        Assert.Contains(look.Notes, n => n.Contains("not part of a vCard"));
        Assert.Contains(look.Notes, n => n.Contains("Incomplete vCards"));
        Assert.Equal(Role.GivenName, look.Columns.Single(c => c.Name == "Given name").Role);
        var rows = Rows(path);
        string? Of(int row, string heading) => Array.IndexOf(rows[0], heading) is >= 0 and var at ? rows[row][at] : null;
        Assert.Equal(
            ("Dr.", "José", "Muñoz", "12 Quay", "Cork", "T12"),
            (Of(1, "Title"), Of(1, "Given name"), Of(1, "Family name"), Of(1, "Street"), Of(1, "City"), Of(1, "Postal code"))
        );
        Assert.Equal("a long note", Of(1, "Note"));
        Assert.Equal(
            ("ana@example.org", "9 Tide St, rear", "Apt 4", "Rotary, Kitchen", "1980-02-29", "folded on\nlines"),
            (Of(2, "Email"), Of(2, "Street"), Of(2, "Address line 2"), Of(2, "Organization"), Of(2, "Birthday"), Of(2, "Note"))
        );
        Assert.Equal(
            ("Zoë", "Weiß", "+1-541-555-0142", "de"),
            (Of(3, "Given name"), Of(3, "Family name"), Of(3, "Phone"), Of(3, "Language"))
        );
        Assert.Equal("Half", Of(4, "Family name"));
        Assert.DoesNotContain("Full name", rows[0]);
    }

    string Db(string sql)
    {
        var path = Path.Combine(own.Folder, "members.sqlite");
        using var c = new SqliteConnection($"Data Source={path};Pooling=False");
        c.Open();
        using var command = c.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
        return path;
    }

    const string World =
        "CREATE TABLE member(no TEXT, first TEXT, amount REAL, photo BLOB); INSERT INTO member VALUES ('007', 'Ana', 12.5, x'00'), "
        + "('008', NULL, NULL, NULL); CREATE VIEW few AS SELECT no FROM member WHERE amount > 1; CREATE TABLE other(x)";

    [Fact]
    public void A_database_gives_a_table_a_view_or_what_a_select_finds()
    {
        var path = Db(World);
        var look = Look(path, new("member"));
        Assert.Equal(["member", "other", "few"], look.Sheets.Select(s => s.Name));
        Assert.Contains(look.Notes, n => n.Contains("“photo” contains binary data"));
        Assert.Equal<string?[]>(["007", "Ana", "12.5", null], Rows(path, new("member"))[1]);
        Assert.Equal<string?[]>(["007"], Rows(path, new("few"))[1]);
        Assert.Equal<string?[]>(["ANA"], Rows(path, new(Query: "SELECT upper(first) AS name FROM member WHERE first IS NOT NULL"))[1]);
        Assert.Equal("Ana", Rows(path, new(Query: "WITH x AS (SELECT * FROM member) SELECT first FROM x"))[1][0]);
    }

    [Theory]
    [InlineData("DELETE FROM member", "starts with “DELETE”")]
    [InlineData("SELECT * FROM member; DROP TABLE member", "one SELECT")]
    [InlineData("WITH x AS (SELECT 1) INSERT INTO member SELECT '9', 'x', 1, NULL FROM x", "only read")]
    [InlineData("ATTACH 'x.sqlite' AS x", "starts with “ATTACH”")]
    [InlineData("SELECT load_extension('x')", "")]
    [InlineData("SELECT frist FROM member", "no such column: frist")]
    [InlineData("SELECT * FRM member", "syntax error")]
    public void A_select_that_does_more_or_has_a_mistake_is_refused(string select, string why)
    {
        var path = Db(World);
        Assert.Contains(why, Refused(() => Rows(path, new(Query: select))));
        Assert.Equal(3, Rows(path, new("member")).Count);
    }

    [Fact]
    public void A_database_that_is_none_is_refused()
    {
        Assert.Contains(
            "encrypted or is not a valid database",
            Refused(() => Look(own.Bytes("x.sqlite", [.. Encoding.ASCII.GetBytes("SQLite format 3\0"), .. new byte[2000]])))
        );
        Assert.Contains("with no tables", Refused(() => Look(Db("CREATE TABLE a(x); DROP TABLE a"))));
    }

    [Fact]
    public void Headings_over_two_rows_and_parts_of_whole_names_are_offered()
    {
        var path = own.Text(
            "a.csv",
            "Member,,Mailing,,Billing,\r\nName,Age,Street,City,Street,City\r\nAna Okafor,30,9 Tide St,Cork,1 A St,Cork\r\nPer de la "
                + "Cruz,40,2 B St,Cork,3 C St,Cork\r\n"
        );
        var look = Look(path);
        Assert.Equal((1, 2), (look.HeadingRow, look.HeadingSpan));
        Assert.Equal(["Name", "Age", "Mailing Street", "Mailing City", "Billing Street", "Billing City"], look.Columns.Select(c => c.Name));
        Assert.Equal<string?[]>(["Per de la Cruz", null, "Per", "de la Cruz"], look.Columns[0].Parts[2]);
        Assert.Equal(1, Look(path, new(HeadingRow: 1, HeadingSpan: 1)).HeadingSpan);
    }

    [Property(MaxTest = 100)]
    public void Any_bytes_under_any_name_are_read_or_refused(byte[] bytes)
    {
        foreach (
            var (start, name) in new (string, string)[]
            {
                ("[", "a.json"),
                ("BEGIN:VCARD\n", "a.vcf"),
                ("SQLite format 3\0", "a.db"),
                ("PK\u0003\u0004", "a.ods"),
            }
        )
            try
            {
                Look(own.Bytes(Guid.NewGuid() + name, [.. Encoding.Latin1.GetBytes(start), .. bytes]));
            }
            catch (ListFileException e)
            {
                Assert.NotEmpty(e.Message);
            }
    }
}
