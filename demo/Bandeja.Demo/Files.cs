using System.Globalization;
using System.Text;
using CsvHelper;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;

namespace Bandeja.Demo;

/// <summary>Makes the demo's files from a seed: the same seed, the same files. They are as untidy as real lists are.</summary>
static class Files
{
    const int Members = 1250;
    static readonly DateOnly Season = new(2027, 1, 1);

    public static readonly string[] MemberHeadings =
    [
        "No.",
        "Title",
        "First",
        "Last",
        "Organization",
        "Street",
        "Street 2",
        "City",
        "State",
        "ZIP",
        "Country",
        "Email",
        "Phone",
        "Level",
        "Member since",
        "Renewal date",
        "Amount due",
        "Last gift",
        "Newsletter",
        "Note",
    ];

    public static void Write(string folder)
    {
        Directory.CreateDirectory(folder);
        var random = new Random(412);
        var members = Enumerable.Range(1, Members).Select(i => Member(random, i)).ToList();
        Untidy(random, members);
        Csv(Path.Combine(folder, "members.csv"), MemberHeadings, members);
        Csv(Path.Combine(folder, "adopted-plants.csv"), ["No.", "Plant", "Since", "Gift"], Plants(random, members));
        Neighbors(Path.Combine(folder, "neighbors.xlsx"), random);
        File.WriteAllBytes(Path.Combine(folder, "emblem.png"), Emblem.Png());
        OfficeLetter.Write(Path.Combine(folder, "welcome-back.docx"));
    }

    static string?[] Member(Random random, int i)
    {
        var culture = Names.Cultures[random.Next(100) < 55 ? 0 : random.Next(Names.Cultures.Length)];
        var (given, family) = (Pick(random, culture.Given), Pick(random, culture.Family));
        var level = Names.Levels[
            random.Next(100) switch
            {
                < 52 => 0,
                < 78 => 1,
                < 88 => 2,
                < 97 => 3,
                _ => 4,
            }
        ];
        var since = 2026 - (int)(Math.Pow(random.NextDouble(), 2) * 34);
        var gift = random.Next(3) == 0 ? (random.Next(1, 30) * 5m).ToString(CultureInfo.InvariantCulture) : "";
        var mail =
            $"{Plain(given)}.{Plain(family)}{(random.Next(4) == 0 ? random.Next(2, 99) : 0) + i}@"
            + $"{Pick(random, ["example.org", "example.com", "example.net"])}";
        string street,
            city,
            region,
            code,
            country = "";
        if (random.Next(100) < 5)
            (street, city, region, code, country) = Pick(random, Names.Abroad);
        else
        {
            var town = Weighted(random);
            (street, city, region, code) = ($"{random.Next(1, 2400)} {Pick(random, Names.Streets)}", town.City, town.Region, town.Code);
        }
        return
        [
            $"F-{i:00000}",
            random.Next(100) < 30 ? Pick(random, ["Ms", "Mr", "Mrs", "Dr", "Mx", "Prof."]) : "",
            given,
            family,
            random.Next(100) < 6 ? Pick(random, Names.Organizations) : "",
            street,
            random.Next(100) < 9 ? $"Apt {random.Next(1, 40)}" : "",
            city,
            region,
            code,
            country,
            random.Next(100) < 82 ? mail : "",
            country.Length == 0 && random.Next(100) < 70 ? $"(541) 555-01{random.Next(100):00}" : "",
            level.Name,
            since.ToString(CultureInfo.InvariantCulture),
            Season.AddDays(random.Next(0, 100)).ToString("MM/dd/yyyy", CultureInfo.InvariantCulture),
            level.Fee.ToString("0.00", CultureInfo.InvariantCulture),
            gift,
            random.Next(10) < 6 ? "yes" : "no",
            "",
        ];
    }

    static T Pick<T>(Random random, T[] from) => from[random.Next(from.Length)];

    static (string City, string Region, string Code, int Weight) Weighted(Random random)
    {
        var at = random.Next(Names.Towns.Sum(t => t.Weight));
        foreach (var town in Names.Towns)
            if ((at -= town.Weight) < 0)
                return town;
        return Names.Towns[0];
    }

    static string Plain(string name)
    {
        var plain = new string([.. Bandeja.Core.Texts.FoldedText.Of(name).Where(c => c is >= 'a' and <= 'z')]);
        return plain.Length > 0 ? plain : "member";
    }

    /// <summary>The untidiness of real lists, at fixed places.</summary>
    static void Untidy(Random random, List<string?[]> rows)
    {
        string?[] Row(int number) => rows[number - 1];
        void Each(int count, Action<string?[]> spoil)
        {
            for (var i = 0; i < count; i++)
                spoil(rows[random.Next(60, rows.Count)]);
        }
        Each(11, r => r[2] = ""); // no given name
        Each(6, r => r[16] = ""); // nothing in Amount due
        Each(4, r => r[16] = Pick(random, ["waived", "see note", "comp", "n/a"])); // words where a number belongs
        Each(
            40,
            r =>
            {
                foreach (var c in (ReadOnlySpan<int>)[2, 3, 5, 7])
                    r[c] = r[c]?.ToUpperInvariant();
            }
        );
        Each(
            25,
            r =>
            {
                if (r[9]!.StartsWith('0'))
                    r[9] = r[9]!.TrimStart('0');
            }
        ); // leading zeros lost
        Each(
            20,
            r =>
            {
                if (r[8] == "OR")
                    r[8] = "Oregon";
            }
        );
        Each(30, r => r[5] = r[5]!.Replace(" ", "  "));
        Each(8, r => r[4] = Pick(random, ["N/A", "-", "none"]));
        Each(6, r => r[2] = $"{r[2]} & {Pick(random, ["Luis", "Ruth", "Omar"])}"); // two people in one cell
        Each(4, r => r[3] = "Mu\u00C3\u00B1oz"); // garbled on the way
        Each(
            9,
            r =>
            {
                var copy = Row(random.Next(60, rows.Count));
                for (var c = 1; c < 13; c++)
                    r[c] = copy[c];
            }
        ); // the same person twice
        Each(5, r => r[11] = r[11]?.Replace("example", "exmaple"));
        Row(402)[3] = "Mu\u00C3\u00B1oz";
        (Row(412)[2], Row(412)[3], Row(412)[4], Row(412)[5], Row(412)[7], Row(412)[8], Row(412)[9]) = (
            "Ana",
            "Okafor",
            "Okafor Ceramics",
            "2291 Lantern Row",
            "Alder Point",
            "OR",
            "98412"
        );
        (Row(414)[2], Row(414)[3]) = ("", "Beatriz");
        (Row(415)[2], Row(415)[3]) = ("Persephone Wilhelmina", "Abernathy-Fairweather of Upper Saltmarsh");
        (Row(77)[2], Row(77)[3]) = ("ليلى", "حداد"); // written from right to left
        Row(203)[2] = "Robin 𓇬";
        Row(640)[19] = "Asked in May not to be mailed about bequests; renewals are fine. Prefers large print.";
        Row(871)[4] = Names.Organizations[^1];
    }

    static IEnumerable<string?[]> Plants(Random random, List<string?[]> members)
    {
        foreach (var member in members.Where(_ => random.Next(100) < 22).ToList())
            for (var n = random.Next(1, 4); n > 0; n--)
                yield return
                [
                    member[0],
                    Pick(random, Names.Plants),
                    $"{random.Next(1, 13):00}/{random.Next(1, 28):00}/{random.Next(2012, 2027)}",
                    (random.Next(2, 40) * 5).ToString(CultureInfo.InvariantCulture),
                ];
    }

    static void Csv(string path, string[] headings, IEnumerable<string?[]> rows)
    {
        using var csv = new CsvWriter(
            new StreamWriter(path, false, new UTF8Encoding(true)) { NewLine = "\r\n" },
            CultureInfo.InvariantCulture
        );
        foreach (var row in rows.Prepend(headings))
        {
            foreach (var cell in row)
                csv.WriteField(cell);
            csv.NextRecord();
        }
    }

    /// <summary>A town hall's workbook: a title and two notes above the headings, postal codes as numbers with the format 00000, a hidden
    /// sheet.</summary>
    static void Neighbors(string path, Random random)
    {
        using var document = SpreadsheetDocument.Create(path, SpreadsheetDocumentType.Workbook);
        var workbook = document.AddWorkbookPart();
        var styles = workbook.AddNewPart<WorkbookStylesPart>();
        styles.Stylesheet = new Stylesheet(
            new NumberingFormats(new NumberingFormat { NumberFormatId = 164, FormatCode = "00000" }) { Count = 1 },
            new Fonts(new Font()),
            new Fills(new Fill()),
            new Borders(new Border()),
            new CellStyleFormats(new CellFormat()),
            new CellFormats(
                new CellFormat(),
                new CellFormat { NumberFormatId = 164, ApplyNumberFormat = true },
                new CellFormat { NumberFormatId = 14, ApplyNumberFormat = true }
            )
        );
        var sheets = new Sheets();
        var rows = new List<Row>
        {
            Texts("Households within 300 yards of the glasshouse"),
            Texts("Fernquay town hall, exported November 2026"),
            new(),
            Texts("Parcel", "Name", "Address", "City", "State", "Zip Code", "Built", "Tenant"),
        };
        for (var i = 1; i <= 148; i++)
        {
            var culture = Names.Cultures[random.Next(Names.Cultures.Length - 3)];
            var name = i % 9 == 0 ? "" : $"{Pick(random, culture.Given)} {Pick(random, culture.Family)}";
            var row = Texts(
                $"{i * 37 % 1000:0000}-{i:000}",
                name,
                $"{random.Next(1, 120)} {Pick(random, ["Glasshouse Road", "Lantern Row", "Quay Road"])}",
                "Fernquay",
                "OR"
            );
            row.Append(new Cell { CellValue = new CellValue(i % 30 == 0 ? 2139 : 97412), StyleIndex = 1 });
            row.Append(new Cell { CellValue = new CellValue(new DateTime(1900 + random.Next(100), 1, 1).ToOADate()), StyleIndex = 2 });
            row.Append(Text(random.Next(3) == 0 ? "yes" : "no"));
            rows.Add(row);
        }
        Sheet(workbook, sheets, "Households", 1, rows, hidden: false);
        Sheet(workbook, sheets, "Lookup", 2, [Texts("Code", "Meaning"), Texts("1", "owner"), Texts("2", "tenant")], hidden: true);
        workbook.Workbook = new Workbook(sheets);
    }

    static void Sheet(WorkbookPart workbook, Sheets sheets, string name, uint id, IEnumerable<Row> rows, bool hidden)
    {
        var part = workbook.AddNewPart<WorksheetPart>();
        part.Worksheet = new Worksheet(new SheetData(rows));
        sheets.Append(
            new Sheet
            {
                Id = workbook.GetIdOfPart(part),
                SheetId = id,
                Name = name,
                State = hidden ? SheetStateValues.Hidden : SheetStateValues.Visible,
            }
        );
    }

    static Row Texts(params string[] cells) => new(cells.Select(Text));

    static Cell Text(string value) => new(new InlineString(new Text(value))) { DataType = CellValues.InlineString };
}
