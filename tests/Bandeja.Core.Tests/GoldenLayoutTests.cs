using System.Globalization;
using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using static Bandeja.Core.Tests.Doc;

namespace Bandeja.Core.Tests;

/// <summary>
/// The finished positions of a few whole documents, looked at once as pages and kept in golden/: each thing stands within 0.1 pt of
/// where it stood then. Run with BANDEJA_GOLDEN=write after a change that is meant to move things, and look at the difference.
/// </summary>
public sealed class GoldenLayoutTests
{
    static readonly string Folder = Path.Combine(Root(), "tests", "Bandeja.Core.Tests", "golden");

    static string Root()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "bandeja")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    static readonly (string?, string?)[] Gifts =
    [
        ("Handkerchief tree, west lawn", "75"),
        ("Monkey puzzle, quay wall", "1250.5"),
        ("Ginkgo", null),
    ];

    static string Document(string name) =>
        name switch
        {
            "renewal" => Letter(
                [
                    P("{Delivery address}"),
                    P("{Today | date long}"),
                    P("{Salutation}"),
                    P(new { textAlign = "justify" }, T(Sentence + Sentence), F("Amount | money"), T(" renews it. " + Sentence)),
                    Node(
                        "when",
                        null,
                        Node(
                            "branch",
                            new { test = "Amount > 50" },
                            P("{First}, your gift of {Amount | words} dollars kept the fernery dry.")
                        ),
                        Node("branch", new { test = (string?)null }, P("Every dollar helps."))
                    ),
                    P("With warm regards,"),
                ],
                new JsonObject
                {
                    ["header"] = new JsonArray(P("Fernquay Botanic Garden")),
                    ["footer"] = new JsonArray(
                        P(
                            new { tabs = new object[] { new { at = 165.9, kind = "right" } } },
                            T("Piece {Piece number}\tpage {Page number} of {Page count}")
                        )
                    ),
                    ["watermark"] = new JsonObject { ["text"] = "{First}", ["strength"] = 0.1 },
                }
            ),
            "table" => Letter(
                [
                    H(1, "Adopted plants"),
                    Node(
                        "table",
                        new { lines = "all" },
                        Row(Cell("Plant", true), Cell("Gift", true), Cell("Note", true, rowspan: 1)),
                        RowIn("each Gifts", Cell("{Plant}"), Cell("{Gift | money | else \"a tree\"}"), Cell("row {Row number}")),
                        Row(Cell("Together", colspan: 1), Cell("{sum(Gifts.Gift) | money}", colspan: 2, shade: "#f2ede3")),
                        Row(Cell("tall " + Sentence, rowspan: 2), Cell("a"), Cell("b")),
                        Row(Cell("c"), Cell("d"))
                    ),
                    P("After the table."),
                ]
            ),
            "parts" => Letter(
                [
                    H(2, "What is ready"),
                    Node(
                        "bulletList",
                        null,
                        Node("listItem", null, P("Seeds of " + Sentence)),
                        Node(
                            "listItem",
                            null,
                            P("Coffee"),
                            Node("orderedList", null, Node("listItem", null, P("black")), Node("listItem", null, P("white")))
                        )
                    ),
                    Node("blockquote", null, P(Sentence), P("Marisol")),
                    Node("horizontalRule"),
                    P(
                        new
                        {
                            indent = 15,
                            firstLine = -5,
                            lineSpacing = 1.6,
                            spaceAfter = 20,
                        },
                        T(Sentence + Sentence)
                    ),
                    P(new { textAlign = "right" }, T("H"), T("2", "subscript"), T("O "), T("now", "bold", "underline")),
                ]
            ),
            "scripts" => Letter(
                [
                    P(
                        new { textAlign = "justify" },
                        T("Ελένη Παπαδοπούλου, Nguyễn Thị Ánh, Łukasz Żak and مريم الخوري with רות לוי came to the fair. " + Sentence)
                    ),
                    P(new { textAlign = "right" }, T("שלום לכולם, נתראה ב 14:30")),
                ]
            ),
            _ => Letter(
                [
                    .. Enumerable
                        .Range(1, 14)
                        .SelectMany(i =>
                            (JsonNode[])
                                [
                                    H(3, $"Part {i}"),
                                    P($"{i}. {Sentence}{Sentence}{Sentence}"),
                                    P("{First} reads on. " + Sentence + Sentence),
                                ]
                        ),
                ]
            ),
        };

    static IEnumerable<string> Written(ComposedPiece letter)
    {
        static string N(double v) => v.ToString("0.00", CultureInfo.InvariantCulture);
        for (var p = 0; p < letter.Pages.Count; p++)
        {
            yield return $"page {p + 1}";
            foreach (var (item, x, y) in Items(letter.Pages[p]))
            {
                if (item is LineItem line)
                    foreach (var run in line.Line.Runs)
                        yield return $"{N(x + run.X)} {N(y - run.Rise)} {N(run.Width)} {run.Font.PostScriptName} {run.Size} "
                            + $"{string.Concat(run.Words.Select(w => w.Text))}";
                else if (item is RectangleItem box)
                    yield return $"{N(x)} {N(y)} {N(box.Width)} box {N(box.Height)} {box.Color}";
                else if (item is WatermarkItem mark)
                    yield return $"{N(x)} {N(y)} {N(mark.Line.Runs.Sum(r => r.Width))} watermark {mark.Angle} "
                        + $"{string.Concat(mark.Line.Runs.SelectMany(r => r.Words).Select(w => w.Text))}";
            }
        }
    }

    [Theory]
    [InlineData("renewal")]
    [InlineData("table")]
    [InlineData("parts")]
    [InlineData("scripts")]
    [InlineData("long")]
    public void Everything_stands_where_it_stood(string name)
    {
        var lines = Written(Compose(Document(name), Person(gifts: Gifts))).ToList();
        var path = Path.Combine(Folder, name + ".txt");
        if (Environment.GetEnvironmentVariable("BANDEJA_GOLDEN") == "write")
            File.WriteAllLines(path, lines);
        var golden = File.ReadAllLines(path);
        Assert.Equal(golden.Length, lines.Count);
        for (var i = 0; i < lines.Count; i++)
        {
            var (was, now) = (golden[i].Split(' ', 4), lines[i].Split(' ', 4));
            Assert.Equal(was.Length, now.Length);
            if (was.Length < 4)
            {
                Assert.Equal(golden[i], lines[i]);
                continue;
            }
            for (var k = 0; k < 3; k++)
                Assert.InRange(
                    double.Parse(now[k], CultureInfo.InvariantCulture) - double.Parse(was[k], CultureInfo.InvariantCulture),
                    -0.1,
                    0.1
                );
            Assert.Equal(was[3], now[3]);
        }
    }
}
