using System.Globalization;
using System.Text.Json.Nodes;
using System.Xml.Linq;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using static Bandeja.Formats.Documents.WordXml;

namespace Bandeja.Formats.Documents;

/// <summary>
/// Reads a WordprocessingML document (ECMA-376 part 1, ISO/IEC 29500) as a letter: the sheet, headers and footers, and the text, which
/// <see cref="WordText"/> reads.
/// </summary>
sealed class WordLetter
{
    const double PointsPerMillimetre = 72 / 25.4;
    readonly OfficeArchive archive;
    readonly string main;
    readonly XElement root;
    readonly DocumentReport report = new();
    readonly DocumentPictures pictures;
    readonly WordStyles styles;
    readonly WordTheme theme;
    readonly LetterBuilder builder;
    readonly WordNumbering numbering;
    readonly IReadOnlyDictionary<string, Relationship> parts;
    readonly bool isOurs;
    JsonObject? watermark;

    public WordLetter(OfficeArchive archive, string main, XElement root, FaceBook faces)
    {
        (this.archive, this.main, this.root) = (archive, main, root);
        pictures = new(report);
        parts = archive.Relationships(main);
        var themePart = Part("theme");
        (styles, theme) = (new(Part("styles"), themePart), new(themePart));
        numbering = new(Part("numbering"));
        isOurs =
            archive.Has("docProps/custom.xml")
            && archive.Xml("docProps/custom.xml").Children("property").Any(p => p.Value("name") == DocumentMark.Name);
        builder = new(styles.RunOf(null), styles.ParagraphOf(null), faces) { IsOurs = isOurs };
    }

    XElement? Part(string type) => PathOf(type) is { } path ? archive.Xml(path) : null;

    string? PathOf(string type) => parts.Values.FirstOrDefault(r => r.Type == type && !r.External)?.Target;

    /// <summary>Reads the document.</summary>
    public DocumentRead Read()
    {
        var body = root.Child("body") ?? throw new DocumentException("The document has no text.");
        var sections = body.Children("p")
            .Select(p => p.Child("pPr").Child("sectPr"))
            .Append(body.Child("sectPr"))
            .OfType<XElement>()
            .ToList();
        var first = sections.FirstOrDefault();
        var letter = new JsonObject
        {
            ["page"] = Page(first),
            ["type"] = builder.Type,
            ["maxPages"] = null,
        };
        var page = letter["page"]!.AsObject();
        var (width, height) = Sheet(page);
        textWidth = Math.Max(20, (width - (double)page["margins"]!["left"]! - (double)page["margins"]!["right"]!) * PointsPerMillimetre);
        var text = Text(main, new WordNotes(archive, PathOf("footnotes"), PathOf("endnotes"), (path, note) => Text(path, null).Note(note)));
        letter["content"] = text.Body(body, sections, Page);
        report.Block = null;
        Heads(letter, first);
        WordFloat.Settle(letter, width, height);
        if (watermark is not null)
            letter["watermark"] = watermark;
        if (letter["content"]!.AsArray().Count == 0)
            letter["content"]!.AsArray().Add(new JsonObject { ["type"] = "paragraph" });
        Sections(sections);
        Rest(text);
        if (isOurs)
            letter["ours"] = true;
        Say(letter, sections.Count);
        var document = new BroughtDocument(letter.ToJsonString(), report.Lines, builder.Faces, Pages());
        return new(document, pictures.All);
    }

    WordText Text(string path, WordNotes? notes) =>
        new(
            styles,
            numbering,
            builder,
            report,
            pictures,
            archive,
            path == main ? parts : archive.Relationships(path),
            notes,
            t => watermark ??= t,
            theme,
            textWidth
        );

    double textWidth = 468;

    /// <summary>Width and height of the sheet, millimeters.</summary>
    public static (double Width, double Height) Sheet(JsonObject page)
    {
        var (w, h) =
            (string?)page["sheet"] is { } name && LetterReader.Sheets.TryGetValue(name, out var known)
                ? known
                : ((double)page["width"]!, (double)page["height"]!);
        return (string?)page["orientation"] == "landscape" ? (h, w) : (w, h);
    }

    int Pages() => Part("extended-properties") is { } app ? Whole(app.Child("Pages")?.Value) ?? 0 : AppPages();

    int AppPages() => archive.Has("docProps/app.xml") ? Whole(archive.Xml("docProps/app.xml").Child("Pages")?.Value) ?? 0 : 0;

    static double Millimetres(XElement? e, string name, double otherwise) =>
        Math.Round((Points(e.Value(name)) ?? otherwise) / PointsPerMillimetre, 2);

    JsonObject Page(XElement? section)
    {
        var (size, margins) = (section.Child("pgSz"), section.Child("pgMar"));
        var (width, height) = (Millimetres(size, "w", 612), Millimetres(size, "h", 792));
        var page = new JsonObject();
        var landscape = width > height;
        var (w, h) = landscape ? (height, width) : (width, height);
        var sheet = LetterReader.Sheets.FirstOrDefault(s => Math.Abs(s.Value.Width - w) < 1.5 && Math.Abs(s.Value.Height - h) < 1.5).Key;
        page["sheet"] = sheet ?? "custom";
        if (sheet is null)
        {
            var (cw, ch) = (Math.Clamp(w, 50, 1000), Math.Clamp(h, 50, 1000));
            if (Math.Abs(cw - w) > 0.5 || Math.Abs(ch - h) > 0.5)
                report.Say(
                    Carried.Different,
                    $"The sheet was {Measured(width, height)}. A sheet can be 2 to 39 in (50 to 1,000 mm) wide and long.",
                    null
                );
            (page["width"], page["height"]) = (cw, ch);
            (w, h) = (cw, ch);
        }
        if (landscape)
            page["orientation"] = "landscape";
        var most = Math.Min(w, h) / 2 - 10;
        double Margin(string side) => Math.Clamp(Math.Abs(Millimetres(margins, side, 72)), 0, Math.Floor(most));
        page["margins"] = new JsonObject
        {
            ["top"] = Margin("top"),
            ["right"] = Margin("right"),
            ["bottom"] = Margin("bottom"),
            ["left"] = Margin("left"),
        };
        return page;
    }

    void Heads(JsonObject letter, XElement? section)
    {
        JsonArray? Of(string kind, string type)
        {
            var id = section
                .Children(kind)
                .FirstOrDefault(r => r.Value("type") == type || type == "default" && r.Value("type") is null)
                .Value("id");
            if (id is null || !parts.TryGetValue(id, out var part) || part.External || archive.Xml(part.Target) is not { } xml)
                return null;
            var blocks = Text(part.Target, null).Body(xml);
            // A header that holds nothing takes no room.
            return blocks.All(b => (string?)b!["type"] == "paragraph" && b["content"] is null) ? [] : blocks;
        }
        var (header, footer) = (Of("headerReference", "default"), Of("footerReference", "default"));
        letter["header"] = header ?? [];
        letter["footer"] = footer ?? [];
        if (section.On("titlePg") == true)
        {
            letter["firstDiffers"] = true;
            letter["firstHeader"] = Of("headerReference", "first") ?? [];
            letter["firstFooter"] = Of("footerReference", "first") ?? [];
        }
        if (Part("settings").On("evenAndOddHeaders") == true)
        {
            var (evenHeader, evenFooter) = (Of("headerReference", "even"), Of("footerReference", "even"));
            if (!JsonNode.DeepEquals(evenHeader ?? [], letter["header"]) || !JsonNode.DeepEquals(evenFooter ?? [], letter["footer"]))
            {
                letter["evenDiffers"] = true;
                (letter["evenHeader"], letter["evenFooter"]) = (evenHeader ?? [], evenFooter ?? []);
            }
        }
        var margins = section.Child("pgMar");
        var edge = Math.Min(Points(margins.Value("header")) ?? 36, Points(margins.Value("footer")) ?? 36) / PointsPerMillimetre;
        letter["edge"] = Math.Round(Math.Clamp(edge, 3, 60), 2);
    }

    void Sections(List<XElement> sections)
    {
        if (sections.Any(s => Whole(s.Child("cols").Value("num")) is > 1 && s.Child("cols").Value("equalWidth") is "0" or "false"))
            report.Say(Carried.Different, "Columns of different widths now have equal widths.", null);
        var layouts = sections.Select(s => Page(s).ToJsonString()).Distinct().Count();
        if (layouts > 1)
            report.Say(Carried.Whole, $"{layouts} page layouts: sheets, orientation, and margins", null);
        if (
            sections.Count > 1
            && sections.Skip(1).Any(s => s.Child("headerReference") is not null || s.Child("footerReference") is not null)
        )
            report.Say(Carried.Different, "The document has several headers or footers. All pages use those of the first section.", null);
        if (sections.Any(s => s.Child("pgBorders")?.Elements().Any() == true))
            report.Say(Carried.Left, "The page border was not imported.", null);
    }

    void Rest(WordText text)
    {
        if (archive.Paths.Any(p => p.EndsWith("vbaProject.bin", StringComparison.OrdinalIgnoreCase)))
            report.Say(Carried.Left, "The file contains macros. They were ignored and cannot run.", null);
        if (text.Tracked > 0)
            report.Say(
                Carried.Different,
                $"{text.Tracked:N0} tracked {(text.Tracked == 1 ? "change" : "changes")}: the final text is used.",
                null
            );
        var comments = Part("comments").Children("comment").ToList();
        foreach (var comment in comments)
        {
            var words = string.Concat(comment.Below("t").Select(t => t.Value)).Trim();
            var who = comment.Value("author");
            report.Say(
                Carried.Left,
                $"Comment{(string.IsNullOrWhiteSpace(who) ? "" : $" by {who}")}: "
                    + $"“{(words.Length > 160 ? words[..159] + "…" : words)}” It is not printed.",
                text.CommentAt(comment.Value("id"))
            );
        }
    }

    /// <summary>A size in both units: a document says nothing of those in which its reader measures.</summary>
    static string Measured(double width, double height) =>
        string.Create(CultureInfo.InvariantCulture, $"{width / 25.4:0.##} × {height / 25.4:0.##} in ({width:0.#} × {height:0.#} mm)");

    /// <summary>Imported parts whole, in a few lines.</summary>
    void Say(JsonObject letter, int sections)
    {
        var page = letter["page"]!;
        var sheet = (string)page["sheet"]!;
        report.Say(
            Carried.Whole,
            sheet == "custom"
                ? $"A sheet of {Measured((double)page["width"]!, (double)page["height"]!)}, margins as they were"
                : $"{char.ToUpperInvariant(sheet[0])}{sheet[1..]} "
                    + $"sheet{((string?)page["orientation"] == "landscape" ? ", landscape" : "")}, margins as they were",
            null
        );
        var lines = DocumentContents.Of(letter);
        if (lines.Length > 0)
            report.Say(Carried.Whole, lines, null);
        SayFaces(builder, report);
    }

    /// <summary>Which faces print those that the document names.</summary>
    public static void SayFaces(LetterBuilder builder, DocumentReport report)
    {
        foreach (var face in builder.Faces.Where(f => !f.Named.Equals(f.Printed, StringComparison.OrdinalIgnoreCase)))
            report.Say(
                Carried.Different,
                face.SameWidths
                    ? $"{face.Named} is replaced with {face.Printed}. Its letters have the same widths, so lines break in the same places."
                    : $"{face.Named} is replaced with {face.Printed}. Lines may break in other places.",
                null
            );
    }
}

/// <summary>The mark of documents that are our own letters, whose fields are written in the field language.</summary>
static class DocumentMark
{
    public const string Name = "FieldLanguage";
}

/// <summary>What a letter holds, in words.</summary>
static class DocumentContents
{
    public static string Of(JsonObject letter)
    {
        var count = new Dictionary<string, int>();
        var stack = new Stack<JsonNode?>([letter]);
        while (stack.TryPop(out var node))
        {
            if (node is JsonObject o)
            {
                if (o["type"] is JsonValue named && (string?)named is { } type)
                    count[type] = count.GetValueOrDefault(type) + 1;
                foreach (var (_, child) in o.Where(p => p.Value is JsonArray && p.Key != "marks"))
                    stack.Push(child);
            }
            else if (node is JsonArray a)
                foreach (var child in a)
                    stack.Push(child);
        }
        string? Some(string one, string many, params string[] types) =>
            types.Sum(t => count.GetValueOrDefault(t)) is > 0 and var n
                ? n == 1
                    ? $"1 {one}"
                    : $"{n:N0} {many}"
                : null;
        string?[] parts =
        [
            Some("paragraph", "paragraphs", "paragraph"),
            Some("heading", "headings", "heading"),
            Some("list", "lists", "bulletList", "orderedList"),
            Some("table", "tables", "table"),
            Some("picture", "pictures", "picture", "inlinePicture"),
            Some("text box", "text boxes", "box"),
            Some("footnote", "footnotes", "footnote"),
            count.ContainsKey("columns") ? "text in columns" : null,
            letter["header"] is JsonArray { Count: > 0 } || letter["firstHeader"] is JsonArray { Count: > 0 } ? "a header" : null,
            letter["footer"] is JsonArray { Count: > 0 } || letter["firstFooter"] is JsonArray { Count: > 0 } ? "a footer" : null,
            letter["watermark"] is not null ? "a watermark" : null,
        ];
        return string.Join(", ", parts.OfType<string>());
    }
}

/// <summary>Footnotes and endnotes, in the order in which the text refers to them.</summary>
/// <param name="reader">Reads a note of a part.</param>
sealed class WordNotes(OfficeArchive archive, string? footnotes, string? endnotes, Func<string, XElement, JsonArray> reader)
{
    readonly Dictionary<string, XElement?> read = [];
    readonly HashSet<(string, string?)> used = [];

    /// <summary>What a note says; null where the file has none of that id, or its one reference was met before.</summary>
    public JsonArray? Of(string kind, string? id)
    {
        if ((kind == "footnote" ? footnotes : endnotes) is not { } path)
            return null;
        if (!read.TryGetValue(path, out var part))
            read[path] = part = archive.Xml(path);
        if (part.Children(kind).FirstOrDefault(n => n.Value("id") == id) is not { } note)
            return null;
        return used.Add((kind, id)) ? reader(path, note) : null;
    }
}
