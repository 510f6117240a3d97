using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using System.Xml.Linq;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using static Bandeja.Formats.Documents.WordXml;

namespace Bandeja.Formats.Documents;

/// <summary>Reads the text of an OpenDocument text: paragraphs, lists, tables, pictures, fields (OpenDocument 1.2 part 1, sections 4 to
/// 10).</summary>
sealed partial class OdtText(
    OfficeArchive archive,
    OdtStyles styles,
    LetterBuilder builder,
    DocumentReport report,
    DocumentPictures pictures
)
{
    const int MostSpaces = 500,
        MostColumns = 40;
    int nesting;
    bool inNote;

    /// <summary>The width of the text, points.</summary>
    public double TextWidth { get; set; } = 468;

    /// <summary>Answers the page break before something that begins on a page of a name; null where there is none.</summary>
    public Func<string, JsonObject?>? Turn { get; set; }

    /// <summary>What begins on a page of its own, by its style.</summary>
    void Turned(string family, string? style, JsonArray target, bool numbered)
    {
        if (numbered && target.Count > 0 && styles.MasterPage(family, style) is { } page && Turn?.Invoke(page) is { } turn)
            target.Add(turn);
    }

    /// <summary>The blocks of the text, of a header, of a cell.</summary>
    /// <param name="numbered">True for the letter's text, whose blocks the report names.</param>
    public JsonArray Blocks(XElement root, bool numbered = false)
    {
        var target = new JsonArray();
        Into(root.Elements(), target, numbered);
        return target;
    }

    void Into(IEnumerable<XElement> elements, JsonArray target, bool numbered)
    {
        if (++nesting > DocumentLimits.Nesting)
        {
            report.Say(Carried.Left, $"Content nested more than {DocumentLimits.Nesting} levels deep was not imported.");
            nesting--;
            return;
        }
        foreach (var e in elements)
        {
            if (numbered)
                report.Block = target.Count;
            switch (e.Name.LocalName)
            {
                case "p" or "h":
                    Turned("paragraph", e.Value("style-name"), target, numbered);
                    Paragraph(e, target);
                    break;
                case "list":
                    if (List(e, 0, null, 0) is { } list)
                        target.Add(list);
                    break;
                case "table":
                    Turned("table", e.Value("style-name"), target, numbered);
                    target.Add(Table(e));
                    break;
                case "section" when e.Value("display") is not "none" && Columns(e) is { } columns:
                    var inner = new JsonArray();
                    Into(e.Elements(), inner, false);
                    if (inner.Count > 0)
                        target.Add(ColumnsNode(columns, inner));
                    break;
                case "section" or "index-body" or "numbered-paragraph":
                    if (e.Value("display") is not "none")
                        Into(e.Elements(), target, numbered);
                    break;
                case "table-of-content" or "illustration-index" or "alphabetical-index" or "user-index" or "bibliography":
                    Into(e.Child("index-body")?.Elements() ?? [], target, numbered);
                    break;
                case "frame":
                    var after = new List<JsonObject>();
                    var alone = new JsonArray();
                    Frame(e, alone, after);
                    foreach (var node in alone.Select(n => n!.DeepClone().AsObject()).Concat(after))
                    {
                        node.Remove(InLine);
                        node["type"] = (string?)node["type"] == "inlinePicture" ? "picture" : node["type"]?.DeepClone();
                        target.Add(node);
                    }
                    break;
            }
        }
        nesting--;
    }

    void Paragraph(XElement p, JsonArray target)
    {
        var style = p.Value("style-name");
        var look = styles.Paragraph(style);
        var text = styles.ParagraphText(style);
        if (p.Name.LocalName == "h")
            look = look with { Outline = (Whole(p.Value("outline-level")) ?? 1) - 1 };
        else if (styles.OutlineOf(style) is { } outline)
            look = look with { Outline = outline };
        if (look.BreakBefore == true && target.Count > 0 && (string?)target[^1]!["type"] != "pageBreak")
            target.Add(new JsonObject { ["type"] = "pageBreak" });
        var line = new JsonArray();
        var after = new List<JsonObject>();
        Inlines(p.Nodes(), line, text, after);
        TrimEnd(p, line);
        if (line is [JsonObject only] && (string?)only["type"] == "inlinePicture")
        {
            var picture = only.DeepClone().AsObject();
            picture["type"] = "picture";
            if (look.Align is "center" or "right")
                picture["attrs"]!["align"] = look.Align;
            target.Add(picture);
        }
        // What has a place of the page, or text beside it, is met before that text.
        foreach (var block in after.Where(Floats))
            target.Add(block);
        var boxes = after.Where(b => !Floats(b)).ToList();
        var inLine = boxes.Where(b => b.Remove(InLine)).ToList();
        // A paragraph that only holds a frame is no line of its own.
        if (line is not [JsonObject lone] || (string?)lone["type"] != "inlinePicture")
            if (line.Count > 0 || boxes.Count == 0)
                target.Add(builder.Paragraph(look, text, line));
        foreach (var block in boxes)
        {
            if (inLine.Contains(block) && look.Align is "center" or "right")
                block["attrs"]!["align"] = look.Align;
            target.Add(block);
        }
    }

    /// <summary>White space at a paragraph's end is nothing (6.1.2), unless it is an element that stands for spaces.</summary>
    static void TrimEnd(XElement p, JsonArray line)
    {
        if (
            p.DescendantNodes().LastOrDefault() is not XText
            || line.Count == 0
            || (string?)line[^1]!["type"] != "text"
            || (string?)line[^1]!["text"] is not { } text
            || !text.EndsWith(' ')
        )
            return;
        if (text.Length > 1)
            line[^1]!["text"] = text[..^1];
        else
            line.RemoveAt(line.Count - 1);
    }

    const string InLine = "inLine";

    static bool Floats(JsonObject block) => (string?)block["attrs"]?["place"] is "left" or "right" or "page";

    /// <summary>The columns of a section, by its style; null for one.</summary>
    XElement? Columns(XElement section) =>
        styles
            .Properties("section", section.Value("style-name"), "section-properties")
            .Select(p => p.Child("columns"))
            .FirstOrDefault(c => c is not null)
            is { } columns
        && Whole(columns.Value("column-count")) is > 1
            ? columns
            : null;

    /// <summary>Text in columns.</summary>
    public static JsonObject ColumnsNode(XElement columns, JsonArray content) =>
        new()
        {
            ["type"] = "columns",
            ["attrs"] = new JsonObject
            {
                ["count"] = Math.Clamp(Whole(columns.Value("column-count")) ?? 2, 2, 6),
                ["gap"] = Math.Clamp(LetterBuilder.Millimetres(Points(columns.Value("column-gap"), 1) ?? 14), 0, 100),
                ["line"] = columns.Child("column-sep") is not null,
            },
            ["content"] = content,
        };

    void Inlines(IEnumerable<XNode> nodes, JsonArray line, RunLook look, List<JsonObject> after)
    {
        if (++nesting > DocumentLimits.Nesting)
        {
            report.Say(Carried.Left, $"Content nested more than {DocumentLimits.Nesting} levels deep was not imported.");
            nesting--;
            return;
        }
        foreach (var node in nodes)
        {
            if (node is XText words)
            {
                // Spaces and line ends of the file are one space (6.1.2).
                var one = Blank().Replace(words.Value, " ");
                builder.Text(line, line.Count == 0 || EndsWithSpace(line) ? one.TrimStart(' ') : one, look);
                continue;
            }
            if (node is XElement e)
                Inline(e, line, look, after);
        }
        nesting--;
    }

    static bool EndsWithSpace(JsonArray line) =>
        (string?)line[^1]!["text"] is { } t && t.EndsWith(' ') || (string?)line[^1]!["type"] == "hardBreak";

    [GeneratedRegex(@"[ \t\r\n]+")]
    private static partial Regex Blank();

    void Inline(XElement e, JsonArray line, RunLook look, List<JsonObject> after)
    {
        switch (e.Name.LocalName)
        {
            case "span":
                Inlines(e.Nodes(), line, styles.Text(e.Value("style-name"), look), after);
                break;
            case "s":
                builder.Text(line, new string(' ', Math.Clamp(Whole(e.Value("c")) ?? 1, 1, MostSpaces)), look);
                break;
            case "tab":
                builder.Text(line, "\t", look);
                break;
            case "line-break":
                line.Add(new JsonObject { ["type"] = "hardBreak" });
                break;
            case "a":
                var target = e.Value("href") ?? "";
                var web =
                    target.StartsWith("https://", StringComparison.OrdinalIgnoreCase)
                    || target.StartsWith("http://", StringComparison.OrdinalIgnoreCase)
                    || target.StartsWith("mailto:", StringComparison.OrdinalIgnoreCase);
                if (!web && target.Length > 0 && target[0] != '#')
                    report.Say(
                        Carried.Different,
                        $"A link to “{(target.Length > 60 ? target[..59] + "…" : target)}” became plain text. Only web and email "
                            + "addresses can be links."
                    );
                Inlines(e.Nodes(), line, web ? look with { Link = target } : look, after);
                break;
            case "database-display":
                Add(line, FieldCodes.Value(e.Value("column-name") ?? "", $"database field: {e.Value("column-name")}"), look);
                break;
            case "user-field-get" or "variable-get" or "user-defined" when e.Value("name") is { Length: > 0 } name:
                Add(line, FieldCodes.Value(name, $"field: {name}"), look);
                break;
            case "placeholder":
                Add(line, FieldCodes.Value(e.Value.Trim('<', '>', ' '), $"placeholder: {e.Value}"), look);
                break;
            case "conditional-text" or "hidden-text":
                Condition(e, line, look);
                break;
            case "date" or "time":
                if (e.Value("fixed") is "true")
                    builder.Text(line, e.Value, look);
                else
                    Add(line, FieldCodes.BuiltIn("Today | date long", "date"), look);
                break;
            case "page-number":
                Add(line, FieldCodes.BuiltIn("Page number", "page number"), look);
                break;
            case "page-count":
                Add(line, FieldCodes.BuiltIn("Page count", "page count"), look);
                break;
            case "database-row-number":
                Add(line, FieldCodes.BuiltIn("Piece number", "row number"), look);
                break;
            case "database-next" or "database-row-select":
                report.Say(
                    Carried.Left,
                    "A “next record” field was ignored: each recipient gets a separate letter. For labels, create a label sheet."
                );
                break;
            case "note":
                Note(e, line, look);
                break;
            case "annotation":
                var words = string.Concat(e.Children("p").Select(p => p.Value)).Trim();
                var who = e.Child("creator")?.Value;
                report.Say(
                    Carried.Left,
                    $"Comment{(string.IsNullOrWhiteSpace(who) ? "" : $" by {who}")}: "
                        + $"“{(words.Length > 160 ? words[..159] + "…" : words)}” It is not printed."
                );
                break;
            case "frame":
                Frame(e, line, after);
                break;
            case "custom-shape" or "rect" or "line" or "ellipse" or "polygon" or "path" or "connector" or "g":
                report.Say(Carried.Left, "A shape was not imported.");
                break;
            case "soft-page-break"
            or "bookmark"
            or "bookmark-start"
            or "bookmark-end"
            or "change-start"
            or "change-end"
            or "change"
            or "annotation-end"
            or "reference-mark-start"
            or "reference-mark-end":
                break;
            default:
                // What a field last showed is its text.
                Inlines(e.Nodes(), line, look, after);
                break;
        }
    }

    void Add(JsonArray line, JsonObject node, RunLook look)
    {
        if (builder.Marks(look) is { } marks)
            node["marks"] = marks;
        line.Add(node);
    }

    /// <summary>A footnote (6.3.2); its number is printed by itself.</summary>
    void Note(XElement note, JsonArray line, RunLook look)
    {
        if (inNote || note.Child("note-body") is not { } body)
            return;
        inNote = true;
        var blocks = Blocks(body);
        inNote = false;
        if (note.Value("note-class") == "endnote")
            report.Say(Carried.Different, "An endnote is printed as a footnote.");
        Add(
            line,
            new JsonObject
            {
                ["type"] = "footnote",
                ["attrs"] = new JsonObject { ["content"] = blocks },
            },
            look with
            {
                Script = null,
            }
        );
    }

    /// <summary>A text that depends on a condition (7.7.3 to 7.7.5), such as <c>ooow:Level == "Patron"</c>.</summary>
    void Condition(XElement e, JsonArray line, RunLook look)
    {
        var written = (e.Value("condition") ?? "").Trim();
        var test = Comparison().Match(written);
        if (!test.Success)
        {
            report.Say(Carried.Different, $"The condition “{written}” could not be read. Its last result is kept as text.");
            builder.Text(line, e.Value, look);
            return;
        }
        var name = test.Groups["name"].Value.Trim().Trim('[', ']', '"');
        name = name[(name.LastIndexOf('.') + 1)..];
        JsonArray Words(string? text)
        {
            var words = new JsonArray();
            builder.Text(words, text ?? "", look);
            return words;
        }
        // A hidden text is shown where its condition does not hold.
        var hidden = e.Name.LocalName == "hidden-text";
        line.Add(
            FieldCodes.Choice(
                FieldCodes.Value(name, written),
                test.Groups["op"].Value.ToUpperInvariant() switch
                {
                    "==" or "EQ" or "=" => "=",
                    "!=" or "NEQ" or "<>" => "<>",
                    "L" => "<",
                    "G" => ">",
                    "LEQ" => "<=",
                    "GEQ" => ">=",
                    var op => op,
                },
                test.Groups["right"].Value.Trim().Trim('"'),
                written,
                hidden ? new JsonArray() : Words(e.Value("string-value-if-true")),
                Words(hidden ? e.Value("string-value") ?? e.Value : e.Value("string-value-if-false"))
            )
        );
    }

    [GeneratedRegex(
        @"^(?:\w+:)?\s*(?<name>\[[^\]]+\]|""[^""]+""|[^=<>!\s""]+)\s*"
            + @"(?<op>==|!=|<>|<=|>=|=|<|>|\bN?EQ\b|\bLEQ\b|\bGEQ\b|\bL\b|\bG\b)\s*(?<right>""[^""]*""|\S+)$",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex Comparison();

    void Frame(XElement frame, JsonArray line, List<JsonObject> after)
    {
        string? Said(string attribute) => styles.Of("graphic", frame.Value("style-name"), "graphic-properties", attribute);
        var (w, h) = (Points(frame.Value("width"), 1) ?? 72, Points(frame.Value("height"), 1) ?? 72);
        var floats = frame.Value("anchor-type") is not ("as-char" or null);
        if (frame.Child("text-box") is { } box)
        {
            var blocks = Blocks(box);
            if (blocks.All(b => (string?)b!["type"] == "paragraph" && b["content"] is null))
                blocks = [];
            h = Points(box.Value("min-height"), 1) ?? (frame.Value("height") is null ? 0 : h);
            var shape = OdtFloat.Shape(Said);
            if (blocks.Count == 0 && shape is { Shade: null, Line: null })
                return;
            var node = shape.Box(w, h, blocks);
            if (floats)
                new WordFloat(report, TextWidth).Put(frame, Said, node["attrs"]!.AsObject(), w, h, "text box");
            else
                node[InLine] = true;
            after.Add(node);
            return;
        }
        if (frame.Child("object") is not null || frame.Child("object-ole") is not null)
            report.Say(Carried.Different, "An embedded object is printed as its picture, if it has one.");
        if (frame.Child("image") is not { } image || image.Value("href") is not { Length: > 0 } href)
            return;
        if (href.Contains("://", StringComparison.Ordinal) || href.StartsWith('/'))
        {
            report.Say(Carried.Left, "A linked picture is not stored in the file and was not downloaded. Insert it into the document.");
            return;
        }
        var path = href.StartsWith("./", StringComparison.Ordinal) ? href[2..] : href;
        var (cut, turn) = (OdtFloat.Cut(Said("clip"), w, h), OdtFloat.Turn(frame.Value("transform")));
        var key = cut == default && turn == 0 ? path : $"{path}|{cut}|{turn}";
        if (pictures.Take(key, Path.GetFileName(path), archive.Bytes(path, DocumentLimits.PictureSize), cut, turn) is not { } picture)
            return;
        if (turn != 0)
        {
            var angle = turn * Math.PI / 180;
            (w, h) = (
                w * Math.Abs(Math.Cos(angle)) + h * Math.Abs(Math.Sin(angle)),
                w * Math.Abs(Math.Sin(angle)) + h * Math.Abs(Math.Cos(angle))
            );
        }
        var alt = frame.Child("desc")?.Value ?? frame.Child("title")?.Value ?? "";
        var attributes = new JsonObject
        {
            ["asset"] = picture.Key,
            ["width"] = Math.Clamp(LetterBuilder.Millimetres(w), 1, 2000),
            ["aspect"] = Math.Clamp(h > 0 ? Math.Round(w / h, 5) : 1, 0.01, 100),
            ["alt"] = alt.Length > 300 ? alt[..300] : alt,
        };
        var whole = new JsonObject { ["type"] = floats ? "picture" : "inlinePicture", ["attrs"] = attributes };
        if (!floats)
        {
            line.Add(whole);
            return;
        }
        new WordFloat(report, TextWidth).Put(frame, Said, attributes, w, h, "picture");
        after.Insert(0, whole);
    }

    JsonObject? List(XElement list, int level, string? around, double left)
    {
        if (level >= 9 || nesting >= DocumentLimits.Nesting)
        {
            report.Say(Carried.Left, $"Content nested more than {DocumentLimits.Nesting} levels deep was not imported.");
            return null;
        }
        nesting++;
        var name = list.Value("style-name") ?? around ?? styles.ListOf(list.Below("p").FirstOrDefault().Value("style-name"));
        var look = styles.Level(name, level);
        var items = new JsonArray();
        foreach (var item in list.Elements().Where(e => e.Name.LocalName is "list-item" or "list-header"))
        {
            var content = new JsonArray();
            foreach (var e in item.Elements())
            {
                if (e.Name.LocalName == "list")
                {
                    if (List(e, level + 1, name, look.Left) is { } inner)
                        content.Add(inner);
                    continue;
                }
                var own = new JsonArray();
                Into([e], own, false);
                foreach (var block in own)
                {
                    var node = block!.DeepClone().AsObject();
                    if (node["attrs"] is JsonObject a)
                        foreach (var measure in (string[])["indent", "firstLine"])
                            a.Remove(measure);
                    content.Add(node);
                }
            }
            if (content.Count == 0)
                continue;
            if ((string?)content[0]!["type"] is not ("paragraph" or "heading"))
                content.Insert(0, new JsonObject { ["type"] = "paragraph" });
            items.Add(new JsonObject { ["type"] = "listItem", ["content"] = content });
        }
        nesting--;
        if (items.Count == 0)
            return null;
        var attributes = new JsonObject
        {
            ["indent"] = LetterBuilder.Millimetres(Math.Clamp(look.Left - left, 0, 200)),
            ["hang"] = LetterBuilder.Millimetres(Math.Clamp(look.Hang, 0, 200)),
        };
        if (look.Style is null)
        {
            if (look.Label != "•")
                attributes["bullet"] = look.Label.Length > 8 ? look.Label[..8] : look.Label;
        }
        else
        {
            attributes["start"] = Whole(list.Children("list-item").FirstOrDefault().Value("start-value")) ?? look.Start;
            if (look.Style != "decimal")
                attributes["style"] = look.Style;
            if (look.Label != $"%{level + 1}." && look.Label.Length is > 0 and <= 40)
                attributes["label"] = look.Label;
        }
        return new JsonObject
        {
            ["type"] = look.Style is null ? "bulletList" : "orderedList",
            ["attrs"] = attributes,
            ["content"] = items,
        };
    }

    JsonObject Table(XElement table)
    {
        var widths = new List<double>();
        foreach (var column in table.Below("table-column").Where(c => Nearest(c, table)))
        {
            var width = Points(styles.Of("table-column", column.Value("style-name"), "table-column-properties", "column-width"), 1) ?? 0;
            for (
                var i = Math.Clamp(Whole(column.Value("number-columns-repeated")) ?? 1, 1, MostColumns);
                i > 0 && widths.Count < MostColumns;
                i--
            )
                widths.Add(width);
        }
        var rows = new JsonArray();
        var edged = new List<(EdgedCell Cell, JsonObject Attributes)>();
        foreach (var row in table.Below("table-row").Where(r => Nearest(r, table)).Take(2_000))
        {
            var heading = row.Parent?.Name.LocalName == "table-header-rows";
            var cells = new JsonArray();
            var at = 0;
            foreach (var cell in row.Elements())
            {
                if (cell.Name.LocalName == "covered-table-cell")
                {
                    at++;
                    continue;
                }
                if (cell.Name.LocalName != "table-cell" || at >= MostColumns)
                    continue;
                var span = Math.Clamp(Whole(cell.Value("number-columns-spanned")) ?? 1, 1, MostColumns - Math.Min(at, MostColumns - 1));
                var a = new JsonObject
                {
                    ["colspan"] = span,
                    ["rowspan"] = Math.Clamp(Whole(cell.Value("number-rows-spanned")) ?? 1, 1, 500),
                };
                var own = widths.Skip(at).Take(span).ToList();
                if (own.Count == span && own.TrueForAll(x => x > 1))
                    a["colwidth"] = new JsonArray([.. own.Select(x => (JsonNode)Math.Round(x / 0.75))]);
                string? Said(string attribute) => styles.Of("table-cell", cell.Value("style-name"), "table-cell-properties", attribute);
                if (Color(Said("background-color")?.TrimStart('#')) is { } shade and not "ffffff")
                    a["shade"] = $"#{shade}";
                if (Said("vertical-align") is ("middle" or "bottom") and var valign)
                    a["valign"] = valign;
                CellLine? Line(string side) => OdtStyles.Line(Said($"border-{side}") ?? Said("border"));
                edged.Add((new(rows.Count, at, (int)a["rowspan"]!, span, Line("top"), Line("right"), Line("bottom"), Line("left")), a));
                var blocks = Blocks(cell);
                if (blocks.Count == 0)
                    blocks.Add(new JsonObject { ["type"] = "paragraph" });
                cells.Add(
                    new JsonObject
                    {
                        ["type"] = heading ? "tableHeader" : "tableCell",
                        ["attrs"] = a,
                        ["content"] = blocks,
                    }
                );
                at++;
            }
            if (cells.Count > 0)
                rows.Add(new JsonObject { ["type"] = "tableRow", ["content"] = cells });
        }
        if (rows.Count == 0)
            return new JsonObject { ["type"] = "paragraph" };
        var edges = new TableEdges([.. edged.Select(e => e.Cell)]);
        foreach (var (cell, attributes) in edged)
            if (edges.Own(cell.Row, cell.Column) is { } lines)
                attributes["lines"] = lines;
        return new JsonObject
        {
            ["type"] = "table",
            ["attrs"] = new JsonObject { ["lines"] = edges.Pattern, ["lineColor"] = $"#{edges.Color}" },
            ["content"] = rows,
        };
    }

    /// <summary>True for a part of the table itself, not of one within it.</summary>
    static bool Nearest(XElement part, XElement table) => part.Ancestors().First(a => a.Name.LocalName == "table") == table;
}
