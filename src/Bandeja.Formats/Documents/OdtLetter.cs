using System.Text.Json.Nodes;
using System.Xml.Linq;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using static Bandeja.Formats.Documents.WordXml;

namespace Bandeja.Formats.Documents;

/// <summary>Reads an OpenDocument text (OASIS OpenDocument 1.2 and later) as a letter: the sheet, headers and footers, and the
/// text.</summary>
sealed class OdtLetter
{
    const double PointsPerMillimetre = 72 / 25.4;
    readonly OfficeArchive archive;
    readonly string name;
    readonly XElement content;
    readonly XElement? styleSheet;
    readonly DocumentReport report = new();
    readonly OdtStyles styles;
    readonly LetterBuilder builder;
    readonly OdtText text;
    readonly DocumentPictures pictures;

    public OdtLetter(OfficeArchive archive, string name, FaceBook faces)
    {
        (this.archive, this.name) = (archive, name);
        if (archive.Xml("META-INF/manifest.xml").Below("encryption-data").Any())
            throw DocumentFile.Locked(name);
        content = archive.Xml("content.xml") ?? throw new DocumentException($"“{name}” has no text.");
        styleSheet = archive.Xml("styles.xml");
        styles = new(styleSheet, content);
        builder = new(styles.ParagraphText("Standard"), styles.Paragraph("Standard"), faces);
        pictures = new(report);
        text = new(archive, styles, builder, report, pictures);
    }

    /// <summary>Reads the document.</summary>
    public DocumentRead Read()
    {
        var body =
            content.Child("body").Child("text") ?? throw new DocumentException(
                content.Child("body").Child("spreadsheet") is null
                    ? $"“{name}” is an OpenDocument file, but not a text. Import a DOCX or ODT file."
                    : $"“{name}” is a spreadsheet. Import it as a list."
            );
        var letter = new JsonObject { ["type"] = builder.Type, ["maxPages"] = null };
        var master = FirstMaster();
        var sheet = Page(master);
        letter["page"] = sheet;
        var page = Layout(master).Child("page-layout-properties");
        letter["edge"] = Math.Round(Math.Clamp(Measure(page, "margin-top", 57), 3, 60), 2);
        var (width, height) = WordLetter.Sheet(sheet);
        var margins = sheet["margins"]!;
        text.Turn = Turns(master);
        text.TextWidth = Math.Max(20, (width - (double)margins["left"]! - (double)margins["right"]!) * PointsPerMillimetre);
        var blocks = text.Blocks(body, numbered: true);
        if (page.Child("columns") is { } columns && Whole(columns.Value("column-count")) is > 1 && blocks.Count > 0)
        {
            blocks = [OdtText.ColumnsNode(columns, blocks)];
            report.Fold(0);
        }
        report.Block = null;
        if (blocks.Count == 0)
            blocks.Add(new JsonObject { ["type"] = "paragraph" });
        letter["content"] = blocks;
        Heads(letter, master);
        WordFloat.Settle(letter, width, height);
        if (archive.Paths.Any(p => p.StartsWith("Basic/", StringComparison.Ordinal) || p.StartsWith("Scripts/", StringComparison.Ordinal)))
            report.Say(Carried.Left, "The file contains macros. They were ignored and cannot run.", null);
        if (body.Child("tracked-changes") is not null)
            report.Say(Carried.Different, "Tracked changes: the final text is used.", null);
        report.Say(Carried.Whole, "Paper size and margins", null);
        if (DocumentContents.Of(letter) is { Length: > 0 } parts)
            report.Say(Carried.Whole, parts, null);
        WordLetter.SayFaces(builder, report);
        var pages =
            Whole(archive.Has("meta.xml") ? archive.Xml("meta.xml").Below("document-statistic").FirstOrDefault().Value("page-count") : null)
            ?? 0;
        return new(new(letter.ToJsonString(), report.Lines, builder.Faces, pages), pictures.All);
    }

    /// <summary>The page on which the text begins.</summary>
    XElement? FirstMaster()
    {
        // The first paragraph may name the page it stands on; else it is the one called Standard.
        var first = content.Child("body").Child("text").Below("p").FirstOrDefault().Value("style-name");
        return Master(styles.MasterPage("paragraph", first)) ?? Master("Standard") ?? Masters.FirstOrDefault();
    }

    IEnumerable<XElement> Masters => styleSheet.Child("master-styles").Children("master-page");

    XElement? Master(string? wanted) => wanted is null ? null : Masters.FirstOrDefault(m => m.Value("name") == wanted);

    XElement? Layout(XElement? master) =>
        styleSheet
            .Child("automatic-styles")
            .Children("page-layout")
            .FirstOrDefault(l => l.Value("name") == master.Value("page-layout-name"));

    static double Measure(XElement? properties, string name, double otherwise) =>
        (Points(properties.Value(name), 1) ?? otherwise) / PointsPerMillimetre;

    /// <summary>The sheet of a page, in the letter's form.</summary>
    JsonObject Page(XElement? master)
    {
        var layout = Layout(master);
        var p = layout.Child("page-layout-properties");
        var (w, h) = (Measure(p, "page-width", 612), Measure(p, "page-height", 792));
        var landscape = w > h;
        var (narrow, tall) = landscape ? (h, w) : (w, h);
        var sheet = LetterReader
            .Sheets.FirstOrDefault(s => Math.Abs(s.Value.Width - narrow) < 1.5 && Math.Abs(s.Value.Height - tall) < 1.5)
            .Key;
        var page = new JsonObject { ["sheet"] = sheet ?? "custom" };
        if (sheet is null)
            (page["width"], page["height"]) = (Math.Round(Math.Clamp(narrow, 50, 1000), 2), Math.Round(Math.Clamp(tall, 50, 1000), 2));
        if (landscape)
            page["orientation"] = "landscape";
        var most = Math.Floor(Math.Clamp(narrow, 50, 1000) / 2 - 10);
        // Headers stand within the margins here, and between margin and text there.
        double Band(string name) =>
            layout.Child(name).Child("header-footer-properties") is { } band && master.Child(name[..^6]) is not null
                ? (
                    (Points(band.Value("min-height"), 1) ?? 14)
                    + (Points(band.Value(name == "header-style" ? "margin-bottom" : "margin-top"), 1) ?? 0)
                ) / PointsPerMillimetre
                : 0;
        page["margins"] = new JsonObject
        {
            ["top"] = Math.Round(Math.Clamp(Measure(p, "margin-top", 57) + Band("header-style"), 0, most), 2),
            ["right"] = Math.Round(Math.Clamp(Measure(p, "margin-right", 57), 0, most), 2),
            ["bottom"] = Math.Round(Math.Clamp(Measure(p, "margin-bottom", 57) + Band("footer-style"), 0, most), 2),
            ["left"] = Math.Round(Math.Clamp(Measure(p, "margin-left", 57), 0, most), 2),
        };
        return page;
    }

    /// <summary>The page break before what begins on a page of a name: with its sheet where that is another than before.</summary>
    Func<string, JsonObject?> Turns(XElement? first)
    {
        var (at, sheet) = (first, Page(first));
        return name =>
        {
            if (Master(name) is not { } master)
                return null;
            var next = Page(master);
            var turn = new JsonObject { ["type"] = "pageBreak" };
            if (!JsonNode.DeepEquals(next, sheet))
                turn["attrs"] = new JsonObject { ["page"] = next.DeepClone() };
            if (!JsonNode.DeepEquals(Heading(master), Heading(at)))
                report.Say(Carried.Different, "The headers or footers change here. Those of the first pages are used.");
            (at, sheet) = (master, next);
            return turn;
        };
        static JsonArray Heading(XElement? master) => [master.Child("header")?.Value, master.Child("footer")?.Value];
    }

    void Heads(JsonObject letter, XElement? first)
    {
        // A page may name the one that follows it: then it is the first page, with its own headers, and the other gives those of the rest.
        var master = Master(first.Value("next-style-name")) ?? first;
        if (master != first && !JsonNode.DeepEquals(Page(master), Page(first)))
            report.Say(Carried.Different, "The first page has its own paper size or margins. All pages use them.");
        JsonArray HeadOf(XElement? of, string name) =>
            of.Child(name) is { } e && e.Value("display") != "false" ? text.Blocks(e, numbered: false) : [];
        JsonArray Head(string name) => HeadOf(master, name);
        (letter["header"], letter["footer"]) = (Head("header"), Head("footer"));
        if (Left("header-left") || Left("footer-left"))
        {
            letter["evenDiffers"] = true;
            (letter["evenHeader"], letter["evenFooter"]) = (
                Left("header-left") ? Head("header-left") : Head("header"),
                Left("footer-left") ? Head("footer-left") : Head("footer")
            );
        }
        bool Left(string name) => master.Child(name) is { } e && e.Value("display") != "false";
        if (master != first)
        {
            letter["firstDiffers"] = true;
            (letter["firstHeader"], letter["firstFooter"]) = (HeadOf(first, "header"), HeadOf(first, "footer"));
        }
        else if (master.Child("header-first") is not null || master.Child("footer-first") is not null)
        {
            letter["firstDiffers"] = true;
            (letter["firstHeader"], letter["firstFooter"]) = (Head("header-first"), Head("footer-first"));
        }
    }
}
