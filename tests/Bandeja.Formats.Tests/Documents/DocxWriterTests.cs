using System.IO.Compression;
using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Formats.Documents;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Validation;
using W = DocumentFormat.OpenXml.Wordprocessing;

namespace Bandeja.Formats.Tests.Documents;

public class DocxWriterTests
{
    static readonly DateTimeOffset Moment = new(2027, 3, 12, 9, 0, 0, TimeSpan.Zero);

    const string Letter = """
        { "page": { "sheet": "letter", "margins": { "top": 25, "right": 25, "bottom": 25, "left": 25 } },
          "type": { "family": "Carlito", "size": 11, "lineSpacing": 1.3, "spaceAfter": 8 },
          "header": [ { "type": "paragraph", "content": [ { "type": "text", "text": "For {First name}" } ] } ],
          "evenDiffers": true, "evenHeader": [ { "type": "paragraph", "content": [ { "type": "text", "text": "Even page of {First name}" } ] } ],
          "footer": [ { "type": "paragraph", "attrs": { "textAlign": "center" }, "content": [ { "type": "text", "text": "Page {Page number} of {Page count}" } ] } ],
          "watermark": { "text": "Copy {Piece number}", "angle": 45, "size": 80, "strength": 0.1, "color": "#336655" },
          "content": [
            { "type": "heading", "attrs": { "level": 1 }, "content": [ { "type": "text", "text": "Renewal" } ] },
            { "type": "paragraph", "content": [ { "type": "text", "text": "Dear {First name}, of {City} , " }, { "type": "text", "text": "bold", "marks": [ { "type": "bold" }, { "type": "textStyle", "attrs": { "color": "#aa0000", "fontSize": "14pt", "fontFamily": "Gelasio" } } ] }, { "type": "text", "text": " and a " }, { "type": "text", "text": "link", "marks": [ { "type": "link", "attrs": { "href": "https://example.org/?a=1&b=2" } } ] } ] },
            { "type": "paragraph", "content": [ { "type": "field", "attrs": { "source": "Level | else \"\"" } } ] },
            { "type": "when", "content": [ { "type": "branch", "attrs": { "test": "Amount due > 100" }, "content": [ { "type": "paragraph", "content": [ { "type": "text", "text": "You owe {Amount due | money}." } ] } ] }, { "type": "branch", "attrs": { "test": null }, "content": [ { "type": "paragraph", "content": [ { "type": "text", "text": "Nothing is due." } ] } ] } ] },
            { "type": "orderedList", "attrs": { "style": "lower-alpha", "label": "%1)", "indent": 12, "hang": 6 }, "content": [ { "type": "listItem", "content": [ { "type": "paragraph", "content": [ { "type": "text", "text": "first" } ] }, { "type": "bulletList", "content": [ { "type": "listItem", "content": [ { "type": "paragraph", "content": [ { "type": "text", "text": "inner" } ] } ] } ] } ] }, { "type": "listItem", "content": [ { "type": "paragraph", "content": [ { "type": "text", "text": "second" } ] } ] } ] },
            { "type": "table", "attrs": { "lines": "all" }, "content": [ { "type": "tableRow", "content": [ { "type": "tableHeader", "attrs": { "colspan": 2, "colwidth": [200, 200] }, "content": [ { "type": "paragraph", "content": [ { "type": "text", "text": "Visits" } ] } ] } ] }, { "type": "tableRow", "attrs": { "bracket": "each Visits" }, "content": [ { "type": "tableCell", "attrs": { "shade": "#eeffee", "colwidth": [200] }, "content": [ { "type": "paragraph", "content": [ { "type": "text", "text": "{Visit date | date short}" } ] } ] }, { "type": "tableCell", "attrs": { "colwidth": [200] }, "content": [ { "type": "paragraph", "content": [ { "type": "text", "text": "{Guests}" } ] } ] } ] } ] },
            { "type": "picture", "attrs": { "asset": "emblem", "width": 20, "aspect": 1, "align": "right", "alt": "Emblem" } },
            { "type": "horizontalRule" }, { "type": "pageBreak" },
            { "type": "paragraph", "attrs": { "indent": 10, "firstLine": -5, "tabs": [ { "at": 60, "kind": "right", "leader": "dots" } ], "shade": "#f0f0f0", "border": { "sides": "top bottom", "width": 1, "color": "#112233" } }, "content": [ { "type": "text", "text": "Sum\t12.50 \\{as it is\\}" } ] }
          ] }
        """;

    static readonly string?[][] People =
    [
        ["Ana", "Okafor", "2291 Lantern Row", "Alder Point", "OR", "97412", "250.5", null, "2027-03-03", "no"],
        ["Luis <&>", "Ortega", "14 Quay Road", null, "OR", "97412", "64", "Patron", "2027-03-31", "no"],
    ];

    static ArrayRow Row(int i) => new(People[i], _ => i == 0 ? [new ArrayRow(["2027-01-02", "3"]), new ArrayRow(["2027-02-03", "1"])] : []);

    static LetterSpeller Speller(out LetterDesign design)
    {
        design = LetterReader.Read(Letter);
        var bound = new BoundLetter(
            design,
            new LetterSetting(Brought.Members.Columns, OrganizationLocale.UnitedStates, Made.Fonts, Brought.Members.Details)
        );
        Assert.Empty(bound.Errors);
        return new(bound, new DateOnly(2027, 3, 12));
    }

    static byte[] File(LetterDesign design, IEnumerable<LetterContent> letters, bool many = false, bool asTyped = false)
    {
        using var memory = new MemoryStream();
        using (var writer = new DocxWriter(memory, design, "Letters", Moment, _ => new(Made.Png(20, 20), "image/png"), many, asTyped))
        {
            foreach (var letter in letters)
                writer.Add(letter);
            writer.Finish();
        }
        return memory.ToArray();
    }

    static void Valid(byte[] file)
    {
        using var document = WordprocessingDocument.Open(new MemoryStream(file), false);
        var errors = new OpenXmlValidator(DocumentFormat.OpenXml.FileFormatVersions.Office2019).Validate(document).ToList();
        Assert.True(errors.Count == 0, string.Join("\n", errors.Take(10).Select(e => $"{e.Part?.Uri} {e.Path?.XPath}: {e.Description}")));
    }

    static List<string> Paragraphs(byte[] file)
    {
        using var document = WordprocessingDocument.Open(new MemoryStream(file), false);
        return [.. document.MainDocumentPart!.Document!.Body!.Descendants<W.Paragraph>().Select(p => p.InnerText).Where(t => t.Length > 0)];
    }

    [Fact]
    public void A_letter_has_its_values_real_structure_and_passes_the_validator()
    {
        var speller = Speller(out var design);
        var file = File(design, [speller.Spell(Row(0), 7)]);
        Valid(file);
        Assert.Equal(
            [
                "Renewal",
                "Dear Ana, of Alder Point , bold and a link",
                "You owe $250.50.",
                "first",
                "inner",
                "second",
                "Visits",
                "1/2/2027",
                "3",
                "2/3/2027",
                "1",
                "Sum12.50 {as it is}",
            ],
            Paragraphs(file)
        );
        using var document = WordprocessingDocument.Open(new MemoryStream(file), false);
        var main = document.MainDocumentPart!;
        Assert.Equal("Heading1", main.Document!.Body!.Elements<W.Paragraph>().First().ParagraphProperties!.ParagraphStyleId!.Val);
        Assert.Single(main.Document.Body.Elements<W.Table>());
        Assert.Equal(3, main.Document.Body.Descendants<W.NumberingProperties>().Count());
        Assert.Equal("https://example.org/?a=1&b=2", main.HyperlinkRelationships.Single().Uri.OriginalString);
        Assert.Single(main.ImageParts);
        Assert.Contains(main.HeaderParts, h => h.Header!.InnerText.Contains("For Ana"));
        Assert.Contains(main.HeaderParts, h => h.Header!.InnerText.Contains("Even page of Ana"));
        Assert.All(main.HeaderParts, h => Assert.Contains("Copy 0007", h.Header!.OuterXml));
        Assert.Equal(
            "Page PAGE 1 of NUMPAGES 1",
            string.Join(' ', main.FooterParts.Single().Footer!.InnerText.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        );
    }

    [Fact]
    public void What_is_blank_closes_up_as_it_does_on_paper()
    {
        var speller = Speller(out var design);
        var lines = Paragraphs(File(design, [speller.Spell(Row(1), 8)]));
        Assert.Equal(
            [
                "Renewal",
                "Dear Luis <&>, of , bold and a link",
                "Patron",
                "Nothing is due.",
                "first",
                "inner",
                "second",
                "Visits",
                "Sum12.50 {as it is}",
            ],
            lines
        );
    }

    [Fact]
    public void Several_letters_in_one_file_begin_on_pages_of_their_own_and_count_from_one()
    {
        var speller = Speller(out var design);
        var file = File(design, Enumerable.Range(0, 5).Select(i => speller.Spell(Row(i % 2), i + 1)), many: true);
        Valid(file);
        using var document = WordprocessingDocument.Open(new MemoryStream(file), false);
        var sections = document.MainDocumentPart!.Document!.Body!.Descendants<W.SectionProperties>().ToList();
        Assert.Equal(5, sections.Count);
        Assert.All(
            sections,
            s =>
                Assert.Equal(
                    (W.SectionMarkValues.NextPage, 1),
                    (s.GetFirstChild<W.SectionType>()!.Val!.Value, s.GetFirstChild<W.PageNumberType>()!.Start!.Value)
                )
        );
        // What is the same stands in the file once.
        Assert.Single(document.MainDocumentPart.ImageParts);
        Assert.Single(document.MainDocumentPart.FooterParts);
        Assert.Contains("SECTIONPAGES", document.MainDocumentPart.FooterParts.Single().Footer!.InnerText);
    }

    [Fact]
    public void The_same_letters_are_the_same_bytes()
    {
        var speller = Speller(out var design);
        Assert.Equal(File(design, [speller.Spell(Row(0), 7)]), File(design, [speller.Spell(Row(0), 7)]));
    }

    static string Again(string letter)
    {
        var design = LetterReader.Read(letter);
        var file = File(design, [LetterAsTyped.Of(design)], asTyped: true);
        Valid(file);
        return Placing.Of(Brought.Read(file).Document, Brought.Members).Letter;
    }

    [Fact]
    public void A_letter_that_leaves_with_its_fields_comes_back_as_it_was()
    {
        var (before, after) = (LetterReader.Read(Letter), LetterReader.Read(Again(Letter)));
        Assert.Equal(LetterText.Lines(before), LetterText.Lines(after));
        Assert.Equal(Shape(before.Blocks), Shape(after.Blocks));
        Assert.Equal(Shape(before.Head.Footer), Shape(after.Head.Footer));
        Assert.Equal(Shape(before.Head.EvenHeader!), Shape(after.Head.EvenHeader!));
        Assert.Equal(before.Page.Width, after.Page.Width, 0.1);
        Assert.Equal(before.Page.Left, after.Page.Left, 0.1);
    }

    /// <summary>What the model has of blocks, measures rounded as files round them.</summary>
    static string Shape(IReadOnlyList<Block> blocks) =>
        string.Join(
            "\n",
            blocks.Select(b =>
                b switch
                {
                    Paragraph p => $"P {p.Style.Align} {p.Style.Named} {p.Style.Heading} {N(p.Style.SpaceAfter)} {N(p.Style.SpaceBefore)} "
                        + $"{N(p.Style.Indent)} "
                        + $"{N(p.Style.FirstLine)} {p.Style.LineSpacing:0.0} {p.Style.KeepWithNext} {p.Style.Shade} "
                        + $"{p.Style.Border} "
                        + $"{string.Join(',', p.Style.Tabs?.Select(t => $"{N(t.At)}{t.Kind}{t.Leader}") ?? [])}: "
                        + $"{string.Join('|', Runs(p))}",
                    Picture p => $"I {p.Align} {N(p.Box.Width)} {N(p.Box.Height)} {p.Box.Alt} {Place(p.Place)} {p.Beside}",
                    Box x => $"B {x.Align} {N(x.Width)} {N(x.Height)} {N(x.Padding)} {x.Shade} {x.Line} {Place(x.Place)} {x.Beside} "
                        + $"{Shape(x.Blocks)}",
                    Columns c => $"C {c.Count} {N(c.Gap)} {c.Line} {Shape(c.Blocks)}",
                    ItemList l => $"L {l.Numbered} {l.Start} {l.Look.Style} {l.Look.Label} {l.Look.Bullet} "
                        + $"{N(l.Look.Indent)}\n{string.Join("\n", l.Items.Select(i => "- " + Shape(i)))}",
                    WhenBlock w => $"W {string.Join("\n", w.Branches.Select(x => $"{x.Test}: {Shape(x.Blocks)}"))}",
                    EachBlock e => $"E {e.Rows} {Shape(e.Blocks)}",
                    Table t => $"T {Drawn(t)} "
                        + $"{string.Join(',', t.Columns.Select(c => $"{N(c)}"))}\n{string.Join("\n", t.Rows.Select(Shape))}",
                    PageBreak { Page: { } p } => $"S {N(p.Width)} {N(p.Height)} {N(p.Top)} {N(p.Right)} {N(p.Bottom)} {N(p.Left)}",
                    _ => b.GetType().Name,
                }
            )
        );

    /// <summary>The lines that are drawn, whoever draws them: those Across, row by row, then those down.</summary>
    static string Drawn(Table table)
    {
        var columns = table.Rows.Max(r => r.Cells.Sum(c => c.ColumnSpan));
        var (across, down) = (new CellLine?[table.Rows.Count + 1, columns], new CellLine?[table.Rows.Count, columns + 1]);
        static void Draw(ref CellLine? at, CellLine? line)
        {
            if (line is { } l && !(at?.Width >= l.Width))
                at = l with { Width = Math.Round(l.Width * 4) / 4 };
        }
        for (var r = 0; r < table.Rows.Count; r++)
        {
            var at = 0;
            foreach (var cell in table.Rows[r].Cells)
            {
                var (first, last) = (r == 0, r == table.Rows.Count - 1);
                CellLine? Usual(bool drawn) => drawn ? new CellLine(0.5, table.LineColor) : null;
                var own =
                    cell.Lines
                    ?? table.Lines switch
                    {
                        TableLines.All => new(Usual(true), Usual(true), Usual(true), Usual(true)),
                        TableLines.Rows => new(null, null, Usual(true), null),
                        TableLines.Outside => new(Usual(first), Usual(at + cell.ColumnSpan == columns), Usual(last), Usual(at == 0)),
                        _ => new(null, null, null, null),
                    };
                for (var i = 0; i < cell.ColumnSpan; i++)
                {
                    Draw(ref across[r, at + i], own.Top);
                    Draw(ref across[r + 1, at + i], own.Bottom);
                }
                Draw(ref down[r, at], own.Left);
                Draw(ref down[r, at + cell.ColumnSpan], own.Right);
                at += cell.ColumnSpan;
            }
        }
        return string.Join(
            ' ',
            across.Cast<CellLine?>().Concat(down.Cast<CellLine?>()).Select(l => l is { } x ? $"{x.Width}{x.Color}" : "-")
        );
    }

    static string Place((double X, double Y)? place) => place is { } at ? $"{N(at.X)};{N(at.Y)}" : "";

    static string Shape(TableRow row) =>
        $"{row.Bracket} {row.IsHeading} "
        + string.Join(" / ", row.Cells.Select(c => $"{c.ColumnSpan}x{c.RowSpan} {c.Shade} {c.Align} {Shape(c.Blocks)}"));

    /// <summary>A measure in points, as whole millimetres: files round to less than that.</summary>
    static double N(double value) => Math.Round(value * 25.4 / 72);

    /// <summary>Text and looks, neighbors of one look joined.</summary>
    static IEnumerable<string> Runs(Paragraph p)
    {
        var text = "";
        var look = "";
        foreach (var i in p.Inlines)
        {
            var own =
                $"{i.Style.Family} {i.Style.Size} {i.Style.Bold} {i.Style.Italic} {i.Style.Underline} {i.Style.Strike} "
                + $"{i.Style.Script} {i.Style.Color} {i.Style.Link}";
            var part = i switch
            {
                TextInline t => t.Text,
                FieldInline f => $"{{{f.Source}}}",
                LineBreakInline => "⏎",
                NoteInline n => $"<{Shape(n.Blocks)}>",
                _ => "▣",
            };
            if (own != look && text.Length > 0)
            {
                yield return $"{text}[{look}]";
                text = "";
            }
            look = own;
            text += part;
        }
        if (text.Length > 0)
            yield return $"{text}[{look}]";
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    [InlineData(5)]
    [InlineData(6)]
    [InlineData(7)]
    [InlineData(8)]
    public void Random_letters_survive_the_way_out_and_in(int seed)
    {
        var random = new Random(seed);
        for (var n = 0; n < 12; n++)
        {
            var letter = RandomLetter.Of(random).ToJsonString();
            // Once through the file, measures have the grain of files; then nothing changes any more.
            var once = Again(letter);
            var (before, after) = (LetterReader.Read(letter), LetterReader.Read(once));
            Assert.Equal(LetterText.Lines(before), LetterText.Lines(after));
            Assert.Equal(Shape(before.Blocks), Shape(after.Blocks));
            Assert.Equal(Shape(after.Blocks), Shape(LetterReader.Read(Again(once)).Blocks));
        }
    }

    [Fact]
    public void Styles_that_came_with_a_document_leave_with_it()
    {
        var made = new MadeDocx()
            .Part(
                "styles",
                "styles.xml",
                "<w:styles><w:style w:type=\"paragraph\" w:default=\"1\" w:styleId=\"N\"><w:name w:val=\"Normal\"/></w:style>"
                    + "<w:style w:type=\"paragraph\" w:styleId=\"Q\"><w:name w:val=\"Block Text\"/><w:basedOn w:val=\"N\"/><w:pPr><w:ind "
                    + "w:left=\"720\"/><w:jc w:val=\"both\"/></w:pPr></w:style></w:styles>"
            )
            .Body(MadeDocx.P(MadeDocx.R("plain")))
            .Body(MadeDocx.P(MadeDocx.R("as its style says"), "<w:pStyle w:val=\"Q\"/>"))
            .Body(MadeDocx.P(MadeDocx.R("centered"), "<w:pStyle w:val=\"Q\"/><w:jc w:val=\"center\"/>"));
        var design = LetterReader.Read(Placing.Of(Brought.Read(made.File()).Document, Brought.Members).Letter);
        var file = File(design, [LetterAsTyped.Of(design)], asTyped: true);
        Valid(file);
        using var document = WordprocessingDocument.Open(new MemoryStream(file), false);
        var style = Assert.Single(
            document.MainDocumentPart!.StyleDefinitionsPart!.Styles!.Elements<W.Style>(),
            s => s.StyleName?.Val?.Value == "Block Text"
        );
        Assert.Equal("720", style.StyleParagraphProperties!.Indentation!.Left!.Value);
        var paragraphs = document.MainDocumentPart.Document!.Body!.Elements<W.Paragraph>().ToList();
        Assert.Null(paragraphs[0].ParagraphProperties!.ParagraphStyleId);
        Assert.All(
            paragraphs.Skip(1).Take(2),
            p => Assert.Equal(style.StyleId!.Value, p.ParagraphProperties!.ParagraphStyleId!.Val!.Value)
        );
        // Only what differs is said beside the style.
        Assert.Null(paragraphs[1].ParagraphProperties!.Justification);
        Assert.Equal(W.JustificationValues.Center, paragraphs[2].ParagraphProperties!.Justification!.Val!.Value);
    }
}
