using System.Text;
using System.Text.Json.Nodes;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Core.Texts;
using Bandeja.Formats.Ledger;
using Bandeja.Formats.Lists;
using FsCheck.Xunit;

namespace Bandeja.Formats.Tests;

/// <summary>What goes out comes in again: CSV, XLSX and JSON, read back by our own readers.</summary>
public sealed class ExportTests : IDisposable
{
    readonly Files own = new();

    public void Dispose() => own.Dispose();

    static readonly Column[] Headings =
    [
        new(1, "No.", ColumnType.Text, Role.Key),
        new(2, "Amount", ColumnType.Number, Role.None),
        new(3, "News", ColumnType.YesNo, Role.None),
        new(4, "Note", ColumnType.Text, Role.None),
    ];
    static readonly string?[][] Rows =
    [
        ["007", "12.50", "yes", "=1+1"],
        ["008", "waived", "no", "two\nlines, \"quoted\"; and\ttabs"],
        ["009", null, null, "+49 30 123456"],
        ["010", "-5", "maybe", "Zoë 日本 🌿"],
    ];

    List<string?[]> Read(string path)
    {
        var file = SourceFile.Open(path, Path.GetFileName(path));
        var look = file.Look(new(HeadingRow: 0), ListCustoms.UnitedStates);
        using var reader = file.Rows(file.Complete(new(look.Sheet, 0, look.Encoding, look.Delimiter)));
        var rows = new List<string?[]>();
        while (reader.Read())
            rows.Add(reader.Cells());
        return rows;
    }

    string Written(string name, Action<Stream> write)
    {
        using var target = new MemoryStream();
        write(target);
        return own.Bytes(name, target.ToArray());
    }

    static string Picture(IEnumerable<string?[]> rows) =>
        string.Join('\n', rows.Select(r => string.Join('|', r.Concat(new string?[4]).Take(4))));

    [Fact]
    public void Csv_comes_in_as_it_went_out() =>
        Assert.Equal(
            Picture(Rows),
            Picture(Read(Written("a.csv", s => TableExport.Csv(s, [.. Headings.Select(h => h.Name)], Rows))).Skip(1))
        );

    [Fact]
    public void Json_comes_in_as_it_went_out()
    {
        var path = Written("a.json", s => TableExport.Json(s, Headings, Rows));
        Assert.Equal(Picture(Rows), Picture(Read(path).Skip(1)));
        var first = JsonNode.Parse(File.ReadAllText(path))![0]!;
        Assert.Equal(("12.50", true), (first["Amount"]!.ToJsonString(), (bool)first["News"]!));
        Assert.Equal("waived", (string)JsonNode.Parse(File.ReadAllText(path))![1]!["Amount"]!);
        Assert.False(JsonNode.Parse(File.ReadAllText(path))![2]!.AsObject().ContainsKey("Amount"));
        Assert.Equal("[]", File.ReadAllText(Written("b.json", s => TableExport.Json(s, Headings, []))));
    }

    [Fact]
    public void A_workbook_starts_no_formula()
    {
        var rows = Read(Written("a.xlsx", s => TableExport.Xlsx(s, "List", Headings, Rows)));
        Assert.Equal<string?[]>(["No.", "Amount", "News", "Note"], rows[0]);
        Assert.Equal("007", rows[1][0]);
        Assert.Equal("'=1+1", rows[1][3]);
        Assert.Equal("two\nlines, \"quoted\"; and\ttabs", rows[2][3]);
        Assert.Equal("Zoë 日本 🌿", rows[4][3]);
    }

    [Fact]
    public void Numbers_and_dates_are_numbers_and_dates_in_a_workbook()
    {
        Column[] headings =
        [
            new(1, "No.", ColumnType.Text, Role.Key),
            new(2, "Amount", ColumnType.Number, Role.None),
            new(3, "Joined", ColumnType.Date, Role.None),
            new(4, "News", ColumnType.YesNo, Role.None),
        ];
        string?[][] rows =
        [
            ["007", "1250.50", "2027-03-04", "yes"],
            ["008", "waived", "soon", "maybe"],
            ["009", "1234567890123456", "1899-12-31", null],
            ["010", "-5", "1900-03-01", "no"],
        ];
        var path = Written("typed.xlsx", s => TableExport.Xlsx(s, "List", headings, rows));
        using (var file = File.OpenRead(path))
        using (var reader = ExcelDataReader.ExcelReaderFactory.CreateReader(file))
        {
            reader.Read();
            reader.Read();
            Assert.Equal(
                ("007", 1250.5, new DateTime(2027, 3, 4), true),
                ((string)reader.GetValue(0), (double)reader.GetValue(1), (DateTime)reader.GetValue(2), (bool)reader.GetValue(3))
            );
            reader.Read();
            Assert.Equal(("waived", "soon", "maybe"), ((string)reader.GetValue(1), (string)reader.GetValue(2), (string)reader.GetValue(3)));
            reader.Read();
            Assert.Equal(("1234567890123456", "1899-12-31"), ((string)reader.GetValue(1), (string)reader.GetValue(2)));
            reader.Read();
            Assert.Equal((-5d, new DateTime(1900, 3, 1)), ((double)reader.GetValue(1), (DateTime)reader.GetValue(2)));
        }
        // And it comes in again with its types.
        var look = SourceFile.Open(path, "typed.xlsx").Look(new(HeadingRow: 0), new(DateOrder.DayMonthYear, Countries.Named("DE")!, "EUR"));
        Assert.Equal("2027-03-04", look.FirstRows[1][2]);
    }

    [Property(MaxTest = 100)]
    public void Any_value_survives_json(string?[] values)
    {
        string?[] row =
        [
            .. values
                .Where(v => v is not null && !v.Contains('\0'))
                .Select(v => SoundText.Of(v!))
                .Select(v => v.Length == 0 ? null : v)
                .Take(4),
            "end",
        ];
        Column[] headings = [.. row.Select((_, i) => new Column(i + 1, $"c{i}", ColumnType.Text, Role.None))];
        var read = Read(Written($"{Guid.NewGuid()}.json", s => TableExport.Json(s, headings, [row])));
        var names = read[0].ToList();
        for (var i = 0; i < row.Length; i++)
            if (row[i] is not null)
                Assert.Equal(row[i], read[1][names.IndexOf($"c{i}")]);
    }

    [Fact]
    public void Long_lists_are_written_as_they_come()
    {
        var path = Written(
            "long.json",
            s =>
                TableExport.Json(
                    s,
                    Headings,
                    Enumerable.Range(0, 20_000).Select(i => (IReadOnlyList<string?>)[$"{i:00000}", $"{i}", "no", new string('x', 40)])
                )
        );
        Assert.Equal(20_001, Read(path).Count);
        Assert.StartsWith("[", Encoding.UTF8.GetString(File.ReadAllBytes(path).AsSpan(0, 10)));
    }
}
