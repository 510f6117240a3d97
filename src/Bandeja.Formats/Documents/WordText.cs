using System.Text;
using System.Text.Json.Nodes;
using System.Xml.Linq;
using Bandeja.Core.Documents;
using static Bandeja.Formats.Documents.WordXml;

namespace Bandeja.Formats.Documents;

/// <summary>Reads the text of one part of a document: paragraphs, lists, tables, pictures, codes (ECMA-376 part 1, section 17).</summary>
sealed class WordText(
    WordStyles styles,
    WordNumbering numbering,
    LetterBuilder builder,
    DocumentReport report,
    DocumentPictures pictures,
    OfficeArchive archive,
    IReadOnlyDictionary<string, Relationship> parts,
    WordNotes? notes,
    Action<JsonObject> watermark
)
{
    const string PageBreakMark = "pageBreakHere";
    readonly WordCodeStack codes = new(builder, report);
    readonly Dictionary<string, int?> comments = [];
    int nesting;

    /// <summary>A paragraph that goes on in the next one, because a code is open at its end.</summary>
    (JsonArray Line, ParagraphLook Look, RunLook Text)? pending;

    /// <summary>True where the watermark was met in the paragraph that is read.</summary>
    bool marked;

    /// <summary>How many tracked changes were met.</summary>
    public int Tracked { get; private set; }

    /// <summary>The block at which a comment stands; null where that is not known.</summary>
    public int? CommentAt(string? id) => id is not null && comments.TryGetValue(id, out var at) ? at : null;

    /// <summary>What text in a table gets from the table's style.</summary>
    sealed record Surroundings(RunLook? Run, ParagraphLook? Paragraph)
    {
        public static readonly Surroundings None = new(null, null);
    }

    /// <summary>The blocks of the body, of a header, or of a footer.</summary>
    public JsonArray Body(XElement root)
    {
        var list = new WordLists(numbering);
        Blocks(root.Elements(), list, Surroundings.None, true);
        Finish(list);
        return list.Result();
    }

    /// <summary>A note with its number, in small type.</summary>
    public JsonArray Note(XElement note, int number)
    {
        var blocks = Body(note);
        if (blocks.FirstOrDefault() is JsonObject first)
        {
            var label = new JsonObject
            {
                ["type"] = "text",
                ["text"] = number.ToString(System.Globalization.CultureInfo.InvariantCulture) + " ",
                ["marks"] = new JsonArray(new JsonObject { ["type"] = "superscript" }),
            };
            if (first["content"] is JsonArray content)
                content.Insert(0, label);
            else
                first["content"] = new JsonArray(label);
        }
        return blocks;
    }

    void Finish(WordLists list)
    {
        codes.Abandon();
        if (pending is { } open)
            Flush(open.Line, open.Look, open.Text, list);
        pending = null;
    }

    void Blocks(IEnumerable<XElement> elements, WordLists list, Surroundings around, bool outermost = false)
    {
        if (++nesting > DocumentLimits.Nesting)
        {
            report.Say(Carried.Left, $"Content nested more than {DocumentLimits.Nesting} levels deep was not imported.");
            nesting--;
            return;
        }
        foreach (var e in elements)
        {
            if (outermost && notes is not null)
                report.Block = list.Count;
            switch (e.Name.LocalName)
            {
                case "p":
                    Paragraph(e, list, around);
                    break;
                case "tbl":
                    list.Add(Table(e));
                    break;
                case "sdt":
                    Control(e, list, around, outermost);
                    break;
                case "ins" or "moveTo":
                    Tracked++;
                    Blocks(e.Elements(), list, around, outermost);
                    break;
                case "del" or "moveFrom":
                    Tracked++;
                    break;
                case "customXml" or "smartTag":
                    Blocks(e.Elements(), list, around, outermost);
                    break;
                case "AlternateContent":
                    Blocks((Chosen(e)?.Elements() ?? []), list, around, outermost);
                    break;
                case "altChunk":
                    report.Say(Carried.Left, "An embedded file in another format was not imported.");
                    break;
            }
        }
        nesting--;
    }

    void Paragraph(XElement p, WordLists list, Surroundings around)
    {
        var properties = p.Child("pPr");
        var style = properties.Child("pStyle").Value();
        JsonArray line;
        ParagraphLook look;
        RunLook text;
        if (pending is { } open)
        {
            // A code that runs over the end of a paragraph: what it holds is one paragraph here, with line ends in it.
            (line, look, text) = (open.Line, open.Look, open.Text);
            codes.EndOfLine(line);
            pending = null;
        }
        else
        {
            look = WordStyles.Paragraph(properties).Over(styles.ParagraphOf(style, around.Paragraph));
            text = styles.RunOf(style, around.Run);
            line = [];
            if (look.BreakBefore == true)
                list.Add(new JsonObject { ["type"] = "pageBreak" });
        }
        var after = new List<JsonObject>();
        if (properties.Child("rPr").Child("ins") is not null || properties.Child("pPrChange") is not null)
            Tracked++;
        Inlines(p.Elements(), line, text, after, null);
        if (codes.IsOpen)
        {
            pending = (line, look, text);
            foreach (var block in after)
                list.Add(block);
            return;
        }
        // A paragraph that only held the watermark is no line.
        if (line.Count == 0 && after.Count == 0 && marked)
        {
            marked = false;
            return;
        }
        marked = false;
        if (look.RightToLeft == true && look.Align is null or "left")
            look = look with { Align = "right" };
        Flush(line, look, text, list);
        foreach (var block in after)
            list.Add(block);
    }

    /// <summary>Ends a paragraph; page breaks within it divide it.</summary>
    void Flush(JsonArray line, ParagraphLook look, RunLook text, WordLists list)
    {
        var nodes = line.Select(n => n!.DeepClone().AsObject()).ToList();
        var from = 0;
        for (var i = 0; i <= nodes.Count; i++)
        {
            if (i < nodes.Count && (string?)nodes[i]["type"] != PageBreakMark)
                continue;
            var content = new JsonArray([.. nodes.Skip(from).Take(i - from)]);
            var ends = i == nodes.Count;
            // A paragraph of nothing but a page break is no line of its own.
            if (content.Count > 0 || ends && (from == 0 || nodes.Count == 0))
                One(content, look, text, list);
            if (!ends)
                list.Add(new JsonObject { ["type"] = "pageBreak" });
            from = i + 1;
        }
    }

    void One(JsonArray content, ParagraphLook look, RunLook text, WordLists list)
    {
        // A picture alone in its paragraph is a block.
        if (content is [JsonObject only] && (string?)only["type"] == "inlinePicture" && numbering.Of(look.List) is null)
        {
            var picture = only.DeepClone().AsObject();
            picture["type"] = "picture";
            if (look.Align is "center" or "right")
                picture["attrs"]!["align"] = look.Align;
            list.Add(picture);
            return;
        }
        // A line drawn along a paragraph without text is a rule.
        if (content.Count == 0 && look.Border is { Sides: ["top"] or ["bottom"] } rule && numbering.Of(look.List) is null)
        {
            list.Add(
                new JsonObject
                {
                    ["type"] = "horizontalRule",
                    ["attrs"] = new JsonObject { ["thickness"] = Math.Clamp(rule.Width, 0.25, 20), ["color"] = $"#{rule.Color}" },
                }
            );
            return;
        }
        // A line of a fixed height with nothing in it, right below a table, only keeps a distance, as the table does here by itself.
        if (content.Count == 0 && look.Line is { InPoints: true, AtLeast: false } && list.EndsWithTable)
            return;
        list.Add(builder.Paragraph(look, text, content), look);
    }

    void Inlines(IEnumerable<XElement> elements, JsonArray line, RunLook paragraph, List<JsonObject> after, string? link)
    {
        if (++nesting > DocumentLimits.Nesting)
        {
            report.Say(Carried.Left, $"Content nested more than {DocumentLimits.Nesting} levels deep was not imported.");
            nesting--;
            return;
        }
        foreach (var e in elements)
        {
            switch (e.Name.LocalName)
            {
                case "r":
                    Run(e, line, paragraph, after, link);
                    break;
                case "hyperlink":
                    Inlines(e.Elements(), line, paragraph, after, Target(e) ?? link);
                    break;
                case "fldSimple":
                    codes.Begin();
                    codes.Instruction(e.Value("instr") ?? "", null);
                    codes.Separate();
                    Inlines(e.Elements(), line, paragraph, after, link);
                    codes.End(line);
                    break;
                case "sdt":
                    InlineControl(e, line, paragraph, after, link);
                    break;
                case "ins" or "moveTo":
                    Tracked++;
                    Inlines(e.Elements(), line, paragraph, after, link);
                    break;
                case "del" or "moveFrom":
                    Tracked++;
                    break;
                case "smartTag" or "customXml" or "dir" or "bdo":
                    Inlines(e.Elements(), line, paragraph, after, link);
                    break;
                case "AlternateContent":
                    Inlines((Chosen(e)?.Elements() ?? []), line, paragraph, after, link);
                    break;
                case "oMath" or "oMathPara":
                    var formula = string.Concat(e.Below("t").Select(t => t.Value));
                    builder.Text(line, formula, paragraph);
                    report.Say(Carried.Different, $"The equation “{formula}” is printed as plain text.");
                    break;
                case "commentRangeStart" when e.Value("id") is { } id:
                    comments.TryAdd(id, report.Block);
                    break;
            }
        }
        nesting--;
    }

    string? Target(XElement link)
    {
        if (link.Value("id") is not { } id)
            return null; // a place within the document
        return parts.TryGetValue(id, out var r) && r.External ? WebAddress(r.Target) : null;
    }

    /// <summary>An address that a letter may hold; of others the text alone stays.</summary>
    string? WebAddress(string target)
    {
        if (
            target.StartsWith("https://", StringComparison.OrdinalIgnoreCase)
            || target.StartsWith("http://", StringComparison.OrdinalIgnoreCase)
            || target.StartsWith("mailto:", StringComparison.OrdinalIgnoreCase)
        )
            return target;
        report.Say(
            Carried.Different,
            $"A link to “{(target.Length > 60 ? target[..59] + "…" : target)}” became plain text. Only web and email "
                + "addresses can be links."
        );
        return null;
    }

    void Run(XElement run, JsonArray line, RunLook paragraph, List<JsonObject> after, string? link)
    {
        var properties = run.Child("rPr");
        var look = styles.Run(properties, paragraph);
        if (link is not null)
            look = look with { Link = link };
        if (properties.Child("highlight") is { } h && h.Value() is not ("none" or null))
            report.Say(Carried.Different, "Text highlighting was not imported.");
        if (Points(properties.Child("spacing").Value()) is > 0.5 or < -0.5)
            report.Say(Carried.Different, "Expanded or condensed text has normal spacing.");
        foreach (var e in run.Elements())
        {
            switch (e.Name.LocalName)
            {
                case "t":
                    codes.Text(line, e.Value, look);
                    break;
                case "tab" or "ptab":
                    codes.Text(line, "\t", look);
                    break;
                case "noBreakHyphen":
                    codes.Text(line, "\u2011", look);
                    break;
                case "softHyphen":
                    codes.Text(line, "\u00AD", look);
                    break;
                case "br" when e.Value("type") is "page" or "column":
                    if (e.Value("type") == "column")
                        report.Say(Carried.Different, "A column break became a page break.");
                    codes.Node(line, new JsonObject { ["type"] = PageBreakMark });
                    break;
                case "br" or "cr":
                    codes.Break(line);
                    break;
                case "sym":
                    codes.Text(line, Sign(e), look);
                    break;
                case "fldChar":
                    switch (e.Value("fldCharType"))
                    {
                        case "begin":
                            codes.Begin();
                            break;
                        case "separate":
                            codes.Separate();
                            break;
                        case "end":
                            codes.End(line);
                            break;
                    }
                    break;
                case "instrText":
                    codes.Instruction(e.Value, builder.Marks(look));
                    break;
                case "footnoteReference" or "endnoteReference":
                    Reference(e, line, look);
                    break;
                case "pgNum":
                    codes.Node(line, FieldCodes.BuiltIn("Page number", "page number"));
                    break;
                case "commentReference" when e.Value("id") is { } id:
                    comments.TryAdd(id, report.Block);
                    break;
                case "drawing":
                    Drawing(e, line, paragraph, after);
                    break;
                case "pict":
                    Vector(e, line, paragraph, after);
                    break;
                case "object":
                    report.Say(Carried.Different, "An embedded object is printed as its picture, if it has one.");
                    Vector(e, line, paragraph, after);
                    break;
                case "AlternateContent":
                    foreach (var inner in (Chosen(e)?.Elements() ?? []))
                        if (inner.Name.LocalName == "drawing")
                            Drawing(inner, line, paragraph, after);
                        else if (inner.Name.LocalName == "pict")
                            Vector(inner, line, paragraph, after);
                    break;
            }
        }
    }

    void Reference(XElement e, JsonArray line, RunLook look)
    {
        if (notes is null || e.Value("customMarkFollows") is "1" or "true")
            return;
        var kind = e.Name.LocalName[..^"Reference".Length];
        if (notes.Number(kind, e.Value("id")) is { } number)
            codes.Text(line, number.ToString(System.Globalization.CultureInfo.InvariantCulture), look with { Script = "superscript" });
    }

    /// <summary>A sign of a font of signs (17.3.3.30), as the character that means the same.</summary>
    string Sign(XElement e)
    {
        var code = int.TryParse(e.Value("char"), System.Globalization.NumberStyles.HexNumber, null, out var c) ? c & 0xFF : 0;
        var font = e.Value("font") ?? "";
        var sign = SignFonts.Character(font, code);
        if (sign is null)
            report.Say(Carried.Left, $"A symbol of the font {font} (number {code}) was not imported.");
        return sign ?? "";
    }

    static XElement? Chosen(XElement alternate)
    {
        // Of drawings the newer form says more; what it needs is understood where it holds a picture or a text box.
        var choice = alternate.Child("Choice");
        return choice is not null && (choice.Below("blip").Any() || choice.Below("txbxContent").Any())
            ? choice
            : alternate.Child("Fallback") ?? choice;
    }

    // ---- content controls ----

    static string? ControlName(XElement? p) =>
        p.Child("tag").Value() is { Length: > 0 } tag ? tag
        : p.Child("alias").Value() is { Length: > 0 } alias ? alias
        : null;

    /// <summary>A control that stands for a value, not for a stretch of the document (17.5.2).</summary>
    static bool IsValue(XElement? p) =>
        ControlName(p) is not null
        && p.Child("docPartObj") is null
        && p.Child("docPartList") is null
        && p.Child("picture") is null
        && (
            p.Child("text") is not null
            || p.Child("dropDownList") is not null
            || p.Child("comboBox") is not null
            || p.Child("date") is not null
            || p.Child("dataBinding") is not null
            || p.Child("showingPlcHdr") is not null
        );

    static JsonObject ControlNode(XElement p)
    {
        var name = ControlName(p)!;
        var format = p.Child("date").Child("dateFormat").Value() is { } picture ? CodeFormats.Date(picture) : CarriedFormat.None;
        return FieldCodes.Value(name, $"control: {name}", format);
    }

    void InlineControl(XElement control, JsonArray line, RunLook paragraph, List<JsonObject> after, string? link)
    {
        var (p, content) = (control.Child("sdtPr"), control.Child("sdtContent"));
        if (!IsValue(p))
        {
            Inlines(content?.Elements() ?? [], line, paragraph, after, link);
            return;
        }
        var look = styles.Run(content.Below("r").FirstOrDefault().Child("rPr"), paragraph);
        // The gray of a prompt is the control's, not the value's.
        if (p.Child("showingPlcHdr") is not null)
            look = styles.Run(p.Child("rPr"), paragraph);
        var node = ControlNode(p!);
        if (builder.Marks(look) is { } marks)
            node["marks"] = marks;
        codes.Node(line, node);
    }

    void Control(XElement control, WordLists list, Surroundings around, bool outermost)
    {
        var (p, content) = (control.Child("sdtPr"), control.Child("sdtContent"));
        if (p.Child("repeatingSection") is not null)
            report.Say(Carried.Different, "A repeating section appears once. Add “each” around the part to repeat.");
        if (!IsValue(p) || content.Child("p") is not { } first)
        {
            Blocks(content?.Elements() ?? [], list, around, outermost);
            return;
        }
        var style = first.Child("pPr").Child("pStyle").Value();
        var look = WordStyles.Paragraph(first.Child("pPr")).Over(styles.ParagraphOf(style, around.Paragraph));
        var text = styles.RunOf(style, around.Run);
        var node = ControlNode(p!);
        var run = p.Child("showingPlcHdr") is null ? first.Below("r").FirstOrDefault().Child("rPr") : p.Child("rPr");
        if (builder.Marks(styles.Run(run, text)) is { } marks)
            node["marks"] = marks;
        Flush([node], look, text, list);
    }

    // ---- pictures ----

    void Drawing(XElement drawing, JsonArray line, RunLook paragraph, List<JsonObject> after)
    {
        var frame = drawing.Child("inline") ?? drawing.Child("anchor");
        if (frame is null)
            return;
        foreach (var box in frame.Below("txbxContent").ToList())
            TextBox(box, after);
        if (frame.Below("chart").Any())
            report.Say(Carried.Left, "A chart was not imported. Save it as a picture and insert the picture instead.");
        else if (frame.Below("relIds").Any())
            report.Say(Carried.Left, "A diagram was not imported. Save it as a picture and insert the picture instead.");
        var blips = frame.Below("blip").ToList();
        if (blips.Count == 0)
        {
            if (frame.Below("wsp").Any() && !frame.Below("txbxContent").Any())
                report.Say(Carried.Left, "A shape was not imported.");
            return;
        }
        if (blips.Count > 1)
            report.Say(Carried.Different, "Grouped pictures are placed one after another.");
        foreach (var blip in blips)
        {
            var pic = blip.Ancestors().FirstOrDefault(a => a.Name.LocalName == "pic");
            var extent = frame.Child("extent");
            var own = pic.Child("spPr").Child("xfrm");
            var turn = (Number(own.Value("rot")) ?? 0) / 60000;
            var size = blips.Count > 1 ? own.Child("ext") : extent ?? own.Child("ext");
            var (w, h) = ((Number(size.Value("cx")) ?? 0) / EmuPerPoint, (Number(size.Value("cy")) ?? 0) / EmuPerPoint);
            if (own.Value("flipH") is "1" or "true" || own.Value("flipV") is "1" or "true")
                report.Say(Carried.Different, "A flipped picture is not flipped.");
            if (pic.Child("spPr").Child("effectLst") is { HasElements: true })
                report.Say(Carried.Different, "The shadow or glow of a picture was not imported.");
            var crop = pic.Below("srcRect").FirstOrDefault();
            double Cut(string side) =>
                Math.Clamp((Points(crop.Value(side)?.TrimEnd('%'), crop.Value(side)?.EndsWith('%') == true ? 100 : 100_000) ?? 0), 0, 0.98);
            var cut = (Cut("l"), Cut("t"), Cut("r"), Cut("b"));
            if (blip.Value("embed") is not { } id || !parts.TryGetValue(id, out var part) || part.External)
            {
                report.Say(Carried.Left, "A linked picture is not stored in the file and was not downloaded. Insert it into the document.");
                continue;
            }
            var alt = frame.Child("docPr").Value("descr") ?? "";
            if (Math.Abs(turn) > 0.01 && w > 0 && h > 0)
            {
                var angle = turn * Math.PI / 180;
                (w, h) = (
                    w * Math.Abs(Math.Cos(angle)) + h * Math.Abs(Math.Sin(angle)),
                    w * Math.Abs(Math.Sin(angle)) + h * Math.Abs(Math.Cos(angle))
                );
            }
            if (Taken(part, cut, turn, w, h, alt) is { } node)
                Placed(frame, node, w, line, after);
        }
    }

    JsonObject? Taken(Relationship part, (double, double, double, double) cut, double turn, double width, double height, string alt)
    {
        var key = cut == default && turn == 0 ? part.Target : $"{part.Target}|{cut}|{turn}";
        var picture = pictures.Take(key, Path.GetFileName(part.Target), archive.Bytes(part.Target, DocumentLimits.PictureSize), cut, turn);
        if (picture is null)
            return null;
        return new JsonObject
        {
            ["type"] = "inlinePicture",
            ["attrs"] = new JsonObject
            {
                ["asset"] = picture.Key,
                ["width"] = Math.Clamp(LetterBuilder.Millimetres(width), 1, 2000),
                ["aspect"] = Math.Clamp(width > 0 && height > 0 ? Math.Round(width / height, 5) : 1, 0.01, 100),
                ["alt"] = alt.Length > 300 ? alt[..300] : alt,
            },
        };
    }

    /// <summary>A picture in the line stays there; one that floats is put where it was on the page, or beside the text it belongs
    /// to.</summary>
    void Placed(XElement frame, JsonObject node, double width, JsonArray line, List<JsonObject> after)
    {
        if (frame.Name.LocalName == "inline")
        {
            codes.Node(line, node);
            return;
        }
        var (h, v) = (frame.Child("positionH"), frame.Child("positionV"));
        var free = frame.Child("wrapNone") is not null || frame.Value("behindDoc") is "1" or "true";
        var a = node["attrs"]!;
        if (free && OnPage(h, "page", "leftMargin", "margin", "column") is { } x && OnPage(v, "page", "topMargin", "margin") is { } y)
        {
            (node["type"], a["place"]) = ("picture", "page");
            // Places are counted from the corner of the sheet; margins are added where the letter is put together.
            (a["x"], a["y"]) = (x.Points, y.Points);
            (a["xFrom"], a["yFrom"]) = (x.From, y.From);
            if (frame.Value("behindDoc") is not ("1" or "true"))
                report.Say(Carried.Different, "A picture in front of the text is printed behind the text.");
            after.Insert(0, node);
            return;
        }
        node["type"] = "picture";
        var align =
            h.Child("align")?.Value ?? (Number(h.Child("posOffset")?.Value) is { } offset && offset / EmuPerPoint > 200 ? "right" : "left");
        if (align is "center" or "right")
            a["align"] = align;
        report.Say(Carried.Different, "Text no longer wraps around a picture.");
        after.Insert(0, node);
    }

    static (double Points, string From)? OnPage(XElement? position, params string[] known)
    {
        var from = position.Value("relativeFrom") ?? "";
        if (!known.Contains(from) || Number(position.Child("posOffset")?.Value) is not { } offset)
            return null;
        return (offset / EmuPerPoint, from is "page" or "leftMargin" or "topMargin" ? "page" : "margin");
    }

    void Vector(XElement pict, JsonArray line, RunLook paragraph, List<JsonObject> after)
    {
        foreach (var path in pict.Below("textpath"))
            if (path.Value("string") is { Length: > 0 } words)
                Watermark(path, words);
        foreach (var box in pict.Below("txbxContent").ToList())
            TextBox(box, after);
        foreach (var image in pict.Below("imagedata"))
        {
            if (image.Value("id") is not { } id || !parts.TryGetValue(id, out var part))
                continue;
            if (part.External)
            {
                report.Say(Carried.Left, "A linked picture is not stored in the file and was not downloaded. Insert it into the document.");
                continue;
            }
            var style = (image.Parent.Value("style") ?? "")
                .Split(';')
                .Select(s => s.Split(':', 2))
                .Where(s => s.Length == 2)
                .GroupBy(s => s[0].Trim())
                .ToDictionary(g => g.Key, g => g.First()[1].Trim());
            var (w, h) = (Points(style.GetValueOrDefault("width"), 1) ?? 100, Points(style.GetValueOrDefault("height"), 1) ?? 100);
            if (Taken(part, default, 0, w, h, image.Value("title") ?? "") is not { } node)
                continue;
            if (style.GetValueOrDefault("position") == "absolute")
            {
                node["type"] = "picture";
                report.Say(Carried.Different, "A picture with a fixed place on the page was moved into the text.");
                after.Insert(0, node);
            }
            else
                codes.Node(line, node);
        }
    }

    void Watermark(XElement path, string words)
    {
        marked = true;
        var shape = path.Parent;
        var turn = (shape.Value("style") ?? "").Split(';').FirstOrDefault(s => s.Trim().StartsWith("rotation:", StringComparison.Ordinal));
        var degrees = Number(turn?.Split(':')[1].Trim()) ?? 0;
        if (degrees > 180)
            degrees -= 360;
        watermark(
            new JsonObject
            {
                ["text"] = words.Length > 200 ? words[..200] : words,
                ["angle"] = Math.Clamp(-degrees, -90, 90),
                ["size"] = Math.Clamp(Math.Round(900.0 / Math.Max(4, words.Length)), 30, 150),
                ["strength"] = 0.15,
                ["color"] = $"#{Color(shape.Value("fillcolor")?.TrimStart('#')) ?? "808080"}",
            }
        );
    }

    /// <summary>A text box stands below the paragraph it belongs to, with a line around it.</summary>
    void TextBox(XElement box, List<JsonObject> after)
    {
        // The same box in an older form, for programs that do not know the newer one.
        if (box.Ancestors().Any(a => a.Name.LocalName == "Fallback") || box.Ancestors().Skip(1).Any(a => a.Name.LocalName == "txbxContent"))
            return;
        var (own, block) = (new WordLists(numbering), pending);
        pending = null;
        codes.Aside(() =>
        {
            Blocks(box.Elements(), own, Surroundings.None);
            Finish(own);
        });
        pending = block;
        var content = own.Result();
        if (content.All(b => (string?)b!["type"] == "paragraph" && b["content"] is null))
            return;
        report.Say(Carried.Different, "A text box was moved into the text, below its paragraph.");
        var shape = box.Ancestors().FirstOrDefault(a => a.Name.LocalName is "wsp" or "shape" or "rect" or "roundrect");
        var isBare =
            shape is not null && (shape.Child("spPr").Child("ln").Child("noFill") is not null || shape.Value("stroked") is "f" or "false");
        after.Add(
            new JsonObject
            {
                ["type"] = "table",
                ["attrs"] = new JsonObject { ["lines"] = isBare ? "none" : "outside" },
                ["content"] = new JsonArray(
                    new JsonObject
                    {
                        ["type"] = "tableRow",
                        ["content"] = new JsonArray(new JsonObject { ["type"] = "tableCell", ["content"] = content }),
                    }
                ),
            }
        );
    }

    // ---- tables ----

    JsonObject Table(XElement table)
    {
        var look = new WordTableLook(styles, table);
        var reader = new WordTable(table, look);
        if (reader.HasOwnBorders)
            report.Say(Carried.Different, "Borders of single table cells follow the borders of the table.");
        if (reader.IsFloating)
            report.Say(Carried.Different, "A floating table was moved into the text.");
        var node = new JsonObject
        {
            ["type"] = "table",
            ["attrs"] = new JsonObject { ["lines"] = look.Lines(reader.CellBorders), ["lineColor"] = $"#{look.Color ?? "000000"}" },
        };
        var rows = new JsonArray();
        foreach (var row in reader.Rows())
        {
            if (row.Tracked)
                Tracked++;
            var cells = new JsonArray();
            foreach (var cell in row.Cells)
            {
                var a = new JsonObject { ["colspan"] = cell.ColumnSpan, ["rowspan"] = cell.RowSpan };
                if (cell.Widths.Count > 0)
                    a["colwidth"] = new JsonArray([.. cell.Widths.Select(w => (JsonNode)Math.Round(w / 0.75))]);
                if (cell.Shade is { } shade)
                    a["shade"] = $"#{shade}";
                if (cell.VerticalAlign is { } valign)
                    a["valign"] = valign;
                var list = new WordLists(numbering);
                var open = pending;
                pending = null;
                codes.Aside(() =>
                {
                    Blocks(cell.Element?.Elements() ?? [], list, new(cell.Run, cell.Paragraph));
                    Finish(list);
                });
                pending = open;
                var content = list.Result();
                if (content.Count == 0)
                    content.Add(new JsonObject { ["type"] = "paragraph" });
                cells.Add(
                    new JsonObject
                    {
                        ["type"] = row.IsHeading ? "tableHeader" : "tableCell",
                        ["attrs"] = a,
                        ["content"] = content,
                    }
                );
            }
            if (cells.Count > 0)
                rows.Add(new JsonObject { ["type"] = "tableRow", ["content"] = cells });
        }
        if (rows.Count == 0)
            return new JsonObject { ["type"] = "paragraph" };
        node["content"] = rows;
        return node;
    }
}
