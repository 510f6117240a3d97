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
        var (master, page, width, height) = Page(letter);
        var margins = letter["page"]!["margins"]!;
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

    /// <summary>The sheet; answers its master page, its properties, and its measures in millimeters.</summary>
    (XElement? Master, XElement? Properties, double Width, double Height) Page(JsonObject letter)
    {
        var masters = styleSheet.Child("master-styles").Children("master-page").ToList();
        // The first paragraph may name the page it stands on; else it is the one called Standard.
        var first = content.Child("body").Child("text").Below("p").FirstOrDefault().Value("style-name");
        var wanted = content
            .Child("automatic-styles")
            .Children("style")
            .FirstOrDefault(s => s.Value("name") == first)
            .Value("master-page-name");
        var master =
            masters.FirstOrDefault(m => m.Value("name") == wanted)
            ?? masters.FirstOrDefault(m => m.Value("name") == "Standard")
            ?? masters.FirstOrDefault();
        var layout = styleSheet
            .Child("automatic-styles")
            .Children("page-layout")
            .FirstOrDefault(l => l.Value("name") == master.Value("page-layout-name"));
        var p = layout.Child("page-layout-properties");
        double Measure(string name, double otherwise) => (Points(p.Value(name), 1) ?? otherwise) / PointsPerMillimetre;
        var (w, h) = (Measure("page-width", 612), Measure("page-height", 792));
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
        var edge = Measure("margin-top", 57);
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
            ["top"] = Math.Round(Math.Clamp(edge + Band("header-style"), 0, most), 2),
            ["right"] = Math.Round(Math.Clamp(Measure("margin-right", 57), 0, most), 2),
            ["bottom"] = Math.Round(Math.Clamp(Measure("margin-bottom", 57) + Band("footer-style"), 0, most), 2),
            ["left"] = Math.Round(Math.Clamp(Measure("margin-left", 57), 0, most), 2),
        };
        letter["page"] = page;
        letter["edge"] = Math.Round(Math.Clamp(edge, 3, 60), 2);
        return (master, p, Math.Clamp(w, 50, 1000), Math.Clamp(h, 50, 1000));
    }

    void Heads(JsonObject letter, XElement? master)
    {
        JsonArray Head(string name) => master.Child(name) is { } e && e.Value("display") != "false" ? text.Blocks(e, numbered: false) : [];
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
        if (master.Child("header-first") is not null || master.Child("footer-first") is not null)
        {
            letter["firstDiffers"] = true;
            (letter["firstHeader"], letter["firstFooter"]) = (Head("header-first"), Head("footer-first"));
        }
    }
}
