using System.Globalization;
using System.Text.Json.Nodes;
using Bandeja.Core.Barcodes;
using static Bandeja.Core.Composition.LetterReader;

namespace Bandeja.Core.Composition;

/// <summary>Reads the nodes of a letter's content: paragraphs, lists, tables, pictures, brackets.</summary>
/// <param name="type">The type that a letter starts from.</param>
/// <param name="spacing">Line spacing where a paragraph has none of its own.</param>
/// <param name="after">Space after a paragraph, points, where it has none of its own.</param>
/// <param name="what">What is read, for messages.</param>
sealed class BlockReader(TextStyle type, double spacing, double after, PageSetup page, string what = "letter")
{
    const int MaxDepth = 100,
        MaxColumns = 40,
        LongestLabel = 40,
        LongestName = 80;
    static readonly double[] HeadingSizes = [1, 1.55, 1.25, 1.08];
    int depth;

    /// <summary>How many nodes were read.</summary>
    public int Count { get; private set; }

    /// <summary>Reads nodes that stand one below the other.</summary>
    public IReadOnlyList<Block> Blocks(JsonNode? nodes)
    {
        if (nodes is null)
            return [];
        if (++depth > MaxDepth)
            throw new LetterFormatException($"The {what} is nested more than {MaxDepth} deep.");
        var blocks = nodes.AsArray().Select(n => Read(n!.AsObject())).ToList();
        depth--;
        return blocks;
    }

    Block Read(JsonObject node)
    {
        Count++;
        var attributes = node["attrs"]?.AsObject();
        switch ((string?)node["type"])
        {
            case "paragraph":
                return Paragraph(node, attributes, 0);
            case "heading":
                return Paragraph(node, attributes, (int)Within((int?)attributes?["level"] ?? 1, 1, 3, "level of a heading"));
            case "picture":
                return ReadPicture(attributes);
            case "barcode":
                return ReadBarcode(attributes);
            case "horizontalRule":
                return new Rule(
                    Within((double?)attributes?["thickness"] ?? 0.75, 0.1, 20, "thickness of a rule"),
                    Color((string?)attributes?["color"], "8a8577"),
                    after
                );
            case "pageBreak":
                return new PageBreak(attributes?["page"] is JsonObject setup ? ReadPage(setup) : null);
            case "bulletList" or "orderedList":
                return new ItemList(
                    (string?)node["type"] == "orderedList",
                    (int?)attributes?["start"] ?? 1,
                    [.. (node["content"]?.AsArray() ?? []).Select(i => Blocks(i!["content"]))],
                    type,
                    ReadListLook(attributes)
                );
            case "blockquote":
                return new Quote(Blocks(node["content"]));
            case "when":
                return new WhenBlock(
                    [.. (node["content"]?.AsArray() ?? []).Select(b => ((string?)b!["attrs"]?["test"], Blocks(b["content"])))]
                );
            case "each":
                return new EachBlock((string?)attributes?["rows"] ?? "", Blocks(node["content"]));
            case "table":
                return ReadTable(node, attributes);
            case "box" when what == "letter":
                return ReadBox(node, attributes);
            case "columns" when what == "letter":
                return new Columns(
                    (int)Within((int?)attributes?["count"] ?? 2, 2, 6, "number of columns"),
                    Within((double?)attributes?["gap"] ?? 8, 0, 100, "gap between columns") * PointsPerMillimetre,
                    (bool?)attributes?["line"] ?? false,
                    after,
                    Blocks(node["content"])
                );
            default:
                throw new LetterFormatException(
                    $"{(what == "email" ? "An email" : "A letter")} has no part called “{(string?)node["type"]}”."
                );
        }
    }

    static TextAlign Align(JsonObject? attributes) =>
        ((string?)attributes?["textAlign"] ?? (string?)attributes?["align"]) switch
        {
            "center" => TextAlign.Center,
            "right" => TextAlign.Right,
            "justify" => TextAlign.Justify,
            _ => TextAlign.Left,
        };

    static ListLook ReadListLook(JsonObject? a)
    {
        var style = (string?)a?["style"] ?? "decimal";
        if (!ListNumber.Styles.Contains(style))
            throw new LetterFormatException($"A list cannot be numbered in the style “{style}”.");
        string? Short(string name) =>
            (string?)a?[name] is { } text
                ? text.Length is > 0 and <= LongestLabel
                    ? text
                    : throw new LetterFormatException($"A list item’s label can have up to {LongestLabel} characters.")
                : null;
        return new(
            style,
            Short("label"),
            Short("bullet") ?? ListLook.Usual.Bullet,
            a?["indent"] is { } indent ? Within((double)indent, 0, 200, "indent of a list") * PointsPerMillimetre : ListLook.Usual.Indent,
            a?["hang"] is { } hang ? Within((double)hang, 0, 200, "hang of a list") * PointsPerMillimetre : null
        );
    }

    static ParagraphBorder? ReadBorder(JsonObject? a)
    {
        if (a is null)
            return null;
        var sides = Sides.None;
        foreach (var side in ((string?)a["sides"] ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries))
            sides |= side switch
            {
                "top" => Sides.Top,
                "right" => Sides.Right,
                "bottom" => Sides.Bottom,
                "left" => Sides.Left,
                _ => throw new LetterFormatException($"A paragraph has no side called “{side}”."),
            };
        return sides == Sides.None
            ? null
            : new(
                sides,
                Within((double?)a["width"] ?? 0.75, 0.1, 6, "width of a paragraph's border"),
                Color((string?)a["color"], "000000")
            );
    }

    Paragraph Paragraph(JsonObject node, JsonObject? a, int heading)
    {
        // A heading that came with a document looks as its text says.
        var baseStyle =
            heading == 0 || (bool?)a?["plain"] == true
                ? type
                : type with
                {
                    Size = Math.Round(type.Size * HeadingSizes[heading] * 2) / 2,
                    Bold = true,
                };
        double Points(string name, double low, double high, double otherwise, double unit = 1) =>
            a?[name] is { } v ? Within((double)v, low, high, name) * unit : otherwise;
        var tabs = (a?["tabs"]?.AsArray() ?? [])
            .Select(t => new TabStop(
                Within((double)t!["at"]!, 0, 1000, "place of a tab stop") * PointsPerMillimetre,
                (string?)t["kind"] switch
                {
                    "right" => TabKind.Right,
                    "center" => TabKind.Center,
                    "decimal" => TabKind.Decimal,
                    _ => TabKind.Left,
                },
                (string?)t["leader"] switch
                {
                    "dots" => TabLeader.Dots,
                    "dashes" => TabLeader.Dashes,
                    "line" => TabLeader.Line,
                    _ => TabLeader.None,
                }
            ))
            .OrderBy(t => t.At)
            .ToList();
        var style = new ParagraphStyle(
            Align(a),
            Points("lineSpacing", 0.8, 4, heading > 0 ? Math.Min(spacing, 1.2) : spacing),
            Points("spaceAfter", 0, 200, heading > 0 ? after / 2 : after),
            Points("spaceBefore", 0, 200, heading > 0 ? after / 2 : 0),
            Points("indent", 0, 150, 0, PointsPerMillimetre),
            Points("indentRight", 0, 150, 0, PointsPerMillimetre),
            Points("firstLine", -100, 100, 0, PointsPerMillimetre),
            tabs.Count > 0 ? tabs : null,
            heading,
            (bool?)a?["keep"] ?? heading > 0,
            (string?)a?["shade"] is { Length: > 0 } shade ? Color(shade, "") : null,
            ReadBorder(a?["border"]?.AsObject()),
            (string?)a?["named"] is { Length: > 0 and <= LongestName } named ? named : null,
            what == "email" && (string?)a?["button"] is { Length: > 0 } button ? Color(button, "") : null
        );
        return new(style, [.. (node["content"]?.AsArray() ?? []).Select(n => ReadInline(n!.AsObject(), baseStyle))], baseStyle);
    }

    PictureBox PictureOf(JsonObject? a)
    {
        var source = (string?)a?["source"];
        var asset = (string?)a?["asset"] ?? (source is null ? throw new LetterFormatException("A picture has no file.") : "");
        var width = Within((double?)a?["width"] ?? 40, 1, 2000, "width of a picture") * PointsPerMillimetre;
        var aspect = Within((double?)a?["aspect"] ?? 1, 0.01, 100, "shape of a picture");
        return new(asset, string.IsNullOrWhiteSpace(source) ? null : source, width, width / aspect, (string?)a?["alt"] ?? "");
    }

    Picture ReadPicture(JsonObject? a)
    {
        var box = PictureOf(a);
        if (Place(a, "picture") is { } place)
            return new(TextAlign.Left, box, 0, place);
        var width = Math.Min(box.Width, page.TextWidth);
        return new(
            Align(a),
            box with
            {
                Width = width,
                Height = box.Height * width / box.Width,
            },
            after,
            Beside: Beside(a),
            Gap: Gap(a),
            Link: what == "email" ? Target((string?)a?["href"]) : null
        );
    }

    /// <summary>A place of the page in points; null for what stands in the text.</summary>
    static (double X, double Y)? Place(JsonObject? a, string what) =>
        (string?)a?["place"] == "page"
            ? (
                Within((double?)a["x"] ?? 0, -500, 2000, $"place of a {what}") * PointsPerMillimetre,
                Within((double?)a["y"] ?? 0, -500, 2000, $"place of a {what}") * PointsPerMillimetre
            )
            : null;

    static Side? Beside(JsonObject? a) =>
        (string?)a?["place"] switch
        {
            "left" => Side.Left,
            "right" => Side.Right,
            _ => null,
        };

    static double Gap(JsonObject? a) =>
        a?["gap"] is { } gap ? Within((double)gap, 0, 50, "gap beside the text") * PointsPerMillimetre : Picture.UsualGap;

    Box ReadBox(JsonObject node, JsonObject? a)
    {
        double Measure(string name, double otherwise, double low) =>
            Within((double?)a?[name] ?? otherwise, low, 2000, $"{name} of a box") * PointsPerMillimetre;
        var shade = (string?)a?["shade"];
        return new(
            Align(a),
            Measure("width", 60, 1),
            Measure("height", 0, 0),
            Math.Min(Measure("padding", 2, 0), 50 * PointsPerMillimetre),
            Gap(a),
            string.IsNullOrEmpty(shade) ? null : Color(shade, ""),
            a?["border"] is JsonObject line
                ? (Within((double?)line["width"] ?? 0.75, 0.1, 20, "width of a box's line"), Color((string?)line["color"], "000000"))
                : null,
            Place(a, "box"),
            Beside(a),
            after,
            Blocks(node["content"])
        );
    }

    Barcode ReadBarcode(JsonObject? a)
    {
        var symbology = (string?)a?["symbology"] switch
        {
            "qr" or null => Symbology.Qr,
            "code128" => Symbology.Code128,
            "datamatrix" => Symbology.DataMatrix,
            "imb" => Symbology.IntelligentMail,
            var other => throw new LetterFormatException($"“{other}” is not a known barcode type."),
        };
        var mail =
            symbology == Symbology.IntelligentMail
                ? new MailerCode((string?)a?["barcodeId"] ?? "00", (string?)a?["service"] ?? "", (string?)a?["mailer"] ?? "")
                : null;
        // An Intelligent Mail barcode has its measures from the standard, its clear zone included.
        var (width, height) = mail is null
            ? (
                Within((double?)a?["width"] ?? 25, 3, 400, "width of a barcode") * PointsPerMillimetre,
                Within(
                    (double?)a?["height"] ?? (symbology == Symbology.Code128 ? 12 : (double?)a?["width"] ?? 25),
                    2,
                    400,
                    "height of a barcode"
                ) * PointsPerMillimetre
            )
            : (IntelligentMail.Width + 2 * IntelligentMail.ClearX, IntelligentMail.FullHeight + 2 * IntelligentMail.ClearY);
        return new(symbology, (string?)a?["source"] ?? "", mail, width, height, Align(a), after, Place(a, "barcode"));
    }

    Table ReadTable(JsonObject node, JsonObject? a)
    {
        var rows = (node["content"]?.AsArray() ?? [])
            .Select(r =>
            {
                Count++;
                var cells = (r!["content"]?.AsArray() ?? []).Select(c => Cell(c!.AsObject())).ToList();
                var bracket = (string?)r["attrs"]?["bracket"];
                if (string.IsNullOrWhiteSpace(bracket))
                    (cells, bracket) = Lifted(cells);
                return new TableRow(cells, bracket);
            })
            .ToList();
        if (rows.Count == 0)
            throw new LetterFormatException("A table has no rows.");
        var count = Math.Max(1, rows.Select(r => r.Cells.Sum(c => c.ColumnSpan)).DefaultIfEmpty(1).Max());
        if (count > MaxColumns)
            throw new LetterFormatException($"A table can have {MaxColumns} columns; this one has {count}.");
        return new(
            Widths(node, count),
            rows,
            (string?)a?["lines"] switch
            {
                "none" => TableLines.None,
                "outside" => TableLines.Outside,
                "all" => TableLines.All,
                _ => TableLines.Rows,
            },
            Color((string?)a?["lineColor"], "b9b3a4"),
            after,
            (bool?)a?["vanishes"] ?? false
        );
    }

    /// <summary>
    /// A bracket typed at the start of a row's first cell that closes at the end of its last cell holds for the whole row, as documents
    /// brought from elsewhere have it.
    /// </summary>
    static (List<TableCell> Cells, string? Bracket) Lifted(List<TableCell> cells)
    {
        if (cells.Count == 0 || cells[0].Blocks is not [Paragraph first, ..] || cells[^1].Blocks is not [.., Paragraph last])
            return (cells, null);
        if (first.Inlines is not [TextInline open, ..] || last.Inlines is not [.., TextInline close])
            return (cells, null);
        var head = open.Text.TrimStart();
        var tail = close.Text.TrimEnd();
        var brace = head.IndexOf('}');
        if (
            brace < 0
            || !(
                head.StartsWith("{each ", StringComparison.OrdinalIgnoreCase)
                || head.StartsWith("{when ", StringComparison.OrdinalIgnoreCase)
            )
            || !tail.EndsWith("{end}", StringComparison.OrdinalIgnoreCase)
        )
            return (cells, null);
        var rest = ReferenceEquals(open, close) ? tail.TrimStart()[(brace + 1)..^5] : head[(brace + 1)..];
        // Only where the bracket is the row's: an end of its own within the cell closes it before.
        if (cells.Count > 1 && rest.Contains("{end}", StringComparison.OrdinalIgnoreCase))
            return (cells, null);
        var result = cells.ToList();
        result[0] = With(result[0], 0, first with { Inlines = [new TextInline(rest, open.Style), .. first.Inlines.Skip(1)] });
        if (!ReferenceEquals(open, close))
        {
            last = (Paragraph)result[^1].Blocks[^1];
            result[^1] = With(
                result[^1],
                result[^1].Blocks.Count - 1,
                last with
                {
                    Inlines = [.. last.Inlines.SkipLast(1), new TextInline(tail[..^5], close.Style)],
                }
            );
        }
        return (result, head[1..brace]);
    }

    static TableCell With(TableCell cell, int index, Block block) =>
        cell with
        {
            Blocks = [.. cell.Blocks.Select((b, i) => i == index ? block : b)],
        };

    static IReadOnlyList<double> Widths(JsonObject node, int count)
    {
        var widths = new double[count];
        foreach (var row in node["content"]?.AsArray() ?? [])
        {
            var at = 0;
            foreach (var cell in row!["content"]?.AsArray() ?? [])
            {
                var a = cell!["attrs"];
                var span = (int?)a?["colspan"] ?? 1;
                // The editor counts widths in CSS pixels, 96 to the inch.
                if (a?["colwidth"] is JsonArray given)
                    for (var i = 0; i < given.Count && at + i < count; i++)
                        if (given[i] is { } w && widths[at + i] == 0)
                            widths[at + i] = Within((double)w, 0, 5000, "width of a column") * 0.75;
                at += span;
            }
        }
        return widths;
    }

    TableCell Cell(JsonObject node)
    {
        Count++;
        var a = node["attrs"]?.AsObject();
        var shade = (string?)a?["shade"];
        return new(
            Blocks(node["content"]),
            (int)Within((int?)a?["colspan"] ?? 1, 1, MaxColumns, "width of a merged cell"),
            (int)Within((int?)a?["rowspan"] ?? 1, 1, 500, "height of a merged cell"),
            (string?)node["type"] == "tableHeader",
            string.IsNullOrEmpty(shade) ? null : Color(shade, ""),
            (string?)a?["valign"] switch
            {
                "middle" => CellAlign.Middle,
                "bottom" => CellAlign.Bottom,
                _ => CellAlign.Top,
            }
        )
        {
            Lines = a?["lines"] is JsonObject lines
                ? new(Line(lines, "top"), Line(lines, "right"), Line(lines, "bottom"), Line(lines, "left"))
                : null,
        };
    }

    static CellLine? Line(JsonObject lines, string side) =>
        lines[side] is JsonObject line
            ? new(Within((double?)line["width"] ?? 0.5, 0.1, 12, "width of a line"), Color((string?)line["color"], "000000"))
            : null;

    Inline ReadInline(JsonObject node, TextStyle baseStyle)
    {
        Count++;
        var style = baseStyle;
        foreach (var mark in node["marks"]?.AsArray() ?? [])
        {
            var a = mark?["attrs"];
            style = (string?)mark?["type"] switch
            {
                "bold" => style with { Bold = true },
                "italic" => style with { Italic = true },
                "underline" => style with { Underline = true },
                "strike" => style with { Strike = true },
                "superscript" => style with { Script = Script.Superscript },
                "subscript" => style with { Script = Script.Subscript },
                "link" => Linked(style, (string?)a?["href"]),
                "textStyle" => style with
                {
                    Family = (string?)a?["fontFamily"] ?? style.Family,
                    Size = Within(Points((string?)a?["fontSize"]) ?? style.Size, 4, 144, "type size"),
                    Color = (string?)a?["color"] is { Length: > 0 } c ? Color(c, "") : style.Color,
                },
                var other => throw new LetterFormatException($"A letter has no formatting called “{other}”."),
            };
        }
        return (string?)node["type"] switch
        {
            "text" => new TextInline((string?)node["text"] ?? "", style),
            "field" or "marker" => new FieldInline((string?)node["attrs"]?["source"] ?? "", style),
            "hardBreak" => new LineBreakInline(style),
            "inlinePicture" => new PictureInline(PictureOf(node["attrs"]?.AsObject()), style),
            "footnote" when what == "letter" => new NoteInline(Note(node["attrs"]?["content"]), style),
            var other => throw new LetterFormatException($"A paragraph has no part called “{other}”."),
        };
    }

    IReadOnlyList<Block> Note(JsonNode? content)
    {
        if (inNote)
            throw new LetterFormatException("A footnote has no footnotes of its own.");
        inNote = true;
        var blocks = Blocks(content);
        inNote = false;
        return blocks;
    }

    bool inNote;

    static TextStyle Linked(TextStyle style, string? target) => Target(target) is { } link ? style with { Link = link } : style;

    static string? Target(string? target)
    {
        if (string.IsNullOrWhiteSpace(target))
            return null;
        // Nothing but addresses of pages and mail: no script and no file of the reader's machine.
        if (
            !(
                target.StartsWith("https://", StringComparison.OrdinalIgnoreCase)
                || target.StartsWith("http://", StringComparison.OrdinalIgnoreCase)
                || target.StartsWith("mailto:", StringComparison.OrdinalIgnoreCase)
                // The whole address stands in a column; what comes of it is looked at for each recipient (LinkAddress).
                || target.StartsWith('{')
            )
        )
            throw new LetterFormatException(
                $"“{(target.Length > 60 ? target[..59] + "…" : target)}” is not a valid link. "
                    + "Links must start with https://, http://, mailto:, or a field."
            );
        return target;
    }

    static double? Points(string? size) =>
        size is null ? null : double.Parse(size.EndsWith("pt", StringComparison.Ordinal) ? size[..^2] : size, CultureInfo.InvariantCulture);
}
