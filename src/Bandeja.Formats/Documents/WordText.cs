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
    Action<JsonObject> watermark,
    WordTheme theme,
    double textWidth
)
{
    const string PageBreakMark = "pageBreakHere",
        InLine = "inLine";
    readonly WordCodeStack codes = new(builder, report);
    readonly WordFloat floats = new(report, textWidth);
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

    /// <summary>The blocks of a header or footer.</summary>
    public JsonArray Body(XElement root)
    {
        var list = new WordLists(numbering);
        Blocks(root.Elements(), list, Surroundings.None, true);
        Finish(list);
        return list.Result();
    }

    /// <summary>The blocks of the body. Sections with columns become columns; others that begin on a new page, a page break.</summary>
    /// <param name="sections">Their properties, in order (17.6.17).</param>
    /// <param name="page">The sheet of a section, in the letter's form.</param>
    public JsonArray Body(XElement body, IReadOnlyList<XElement> sections, Func<XElement, JsonObject> page)
    {
        var list = new WordLists(numbering);
        var (from, at) = (0, 0);
        var sheet = sections.Count > 1 ? page(sections[0]) : null;
        void Turn(XElement section)
        {
            var next = page(section);
            var same = JsonNode.DeepEquals(next, sheet);
            if (section.Child("type").Value() == "continuous")
            {
                if (same)
                    return;
                // Another sheet begins a page whatever the section says; other margins alone do not.
                var (bare, bareBefore) = (next.DeepClone().AsObject(), sheet!.DeepClone().AsObject());
                if (bare.Remove("margins") & bareBefore.Remove("margins") && JsonNode.DeepEquals(bare, bareBefore))
                {
                    report.Say(Carried.Different, "The margins change here in the middle of a page. The earlier margins are used.");
                    return;
                }
            }
            var turn = new JsonObject { ["type"] = "pageBreak" };
            if (!same)
                turn["attrs"] = new JsonObject { ["page"] = next };
            sheet = next;
            list.Add(turn);
        }
        void End()
        {
            Finish(list);
            var columns = at < sections.Count ? sections[at].Child("cols") : null;
            if (Whole(columns.Value("num")) is > 1 and var count && list.Count > from)
            {
                list.Wrap(from, inner => Columns(columns!, count, inner));
                report.Fold(from);
                foreach (var (id, block) in comments.ToList())
                    if (block > from)
                        comments[id] = from;
            }
            at++;
            if (at < sections.Count)
                Turn(sections[at]);
            from = list.Count;
        }
        foreach (var e in body.Elements())
        {
            Blocks([e], list, Surroundings.None, true);
            if (e.Name.LocalName == "p" && e.Child("pPr").Child("sectPr") is not null)
                End();
        }
        End();
        return list.Result();
    }

    static JsonObject Columns(XElement columns, int count, JsonArray content) =>
        new()
        {
            ["type"] = "columns",
            ["attrs"] = new JsonObject
            {
                ["count"] = Math.Min(count, 6),
                ["gap"] = Math.Clamp(LetterBuilder.Millimetres(Points(columns.Value("space")) ?? 36), 0, 100),
                ["line"] = columns.Value("sep") is "1" or "true" or "on",
            },
            ["content"] = content,
        };

    /// <summary>What a footnote says; its number is printed before it.</summary>
    public JsonArray Note(XElement note)
    {
        var blocks = Body(note);
        // A space or a tab stood between the number and the text.
        if (blocks.FirstOrDefault()?["content"] is JsonArray { Count: > 0 } line && (string?)line[0]!["type"] == "text")
        {
            var text = ((string?)line[0]!["text"] ?? "").TrimStart(' ', '\t', '\u00A0');
            if (text.Length > 0)
                line[0]!["text"] = text;
            else
                line.RemoveAt(0);
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
                case "p" when Frame(e) is { } frame:
                    Framed(e, frame, list, around);
                    break;
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
            look = WordStyles.Paragraph(properties).Over(styles.ParagraphOf(style, around.Paragraph)) with { Named = styles.NameOf(style) };
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
            {
                block.Remove(InLine);
                list.Add(block);
            }
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
        // What has a place of the page, or text beside it, is met before that text; a box in the line is the line where it stands alone.
        foreach (var block in after.Where(Floats))
            list.Add(block);
        after.RemoveAll(Floats);
        var inLine = after.Where(b => b.Remove(InLine)).ToList();
        if (line.Count > 0 || inLine.Count == 0)
            Flush(line, look, text, list);
        foreach (var block in after)
        {
            if (inLine.Contains(block) && look.Align is "center" or "right")
                block["attrs"]!["align"] = look.Align;
            list.Add(block);
        }
        if (line.Count > 0 && inLine.Count > 0)
            report.Say(Carried.Different, "A text box within a line is now below that line.");
    }

    static bool Floats(JsonObject block) => (string?)block["attrs"]?["place"] is "left" or "right" or "page";

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
        // A line of a fixed height with nothing in it, right below a table, only keeps a distance, as the table does here by itself; one
        // that is hardly there carries a drawing or ends a section.
        if (content.Count == 0 && look.Line is { InPoints: true, AtLeast: false } exact && (list.EndsWithTable || exact.Value <= 2))
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
        if (notes.Of(kind, e.Value("id")) is not { } blocks)
            return;
        if (kind == "endnote")
            report.Say(Carried.Different, "An endnote is printed as a footnote.");
        var node = new JsonObject
        {
            ["type"] = "footnote",
            ["attrs"] = new JsonObject { ["content"] = blocks },
        };
        // The number is raised by itself.
        if (builder.Marks(look with { Script = null }) is { } marks)
            node["marks"] = marks;
        codes.Node(line, node);
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
        return choice is not null && (choice.Below("blip").Any() || choice.Below("wsp").Any() || choice.Below("txbxContent").Any())
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
        Shapes(frame, after);
        if (frame.Below("chart").Any())
            report.Say(Carried.Left, "A chart was not imported. Save it as a picture and insert the picture instead.");
        else if (frame.Below("relIds").Any())
            report.Say(Carried.Left, "A diagram was not imported. Save it as a picture and insert the picture instead.");
        var blips = frame.Below("blip").ToList();
        if (blips.Count == 0)
            return;
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
                Placed(frame, node, w, h, line, after);
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
    void Placed(XElement frame, JsonObject node, double width, double height, JsonArray line, List<JsonObject> after)
    {
        if (frame.Name.LocalName == "inline")
        {
            codes.Node(line, node);
            return;
        }
        node["type"] = "picture";
        floats.Put(frame, node["attrs"]!.AsObject(), width, height, "picture");
        after.Insert(0, node);
    }

    void Vector(XElement pict, JsonArray line, RunLook paragraph, List<JsonObject> after)
    {
        foreach (var path in pict.Below("textpath"))
            if (path.Value("string") is { Length: > 0 } words)
                Watermark(path, words);
        OlderShapes(pict, after);
        foreach (var image in pict.Below("imagedata"))
        {
            if (image.Value("id") is not { } id || !parts.TryGetValue(id, out var part))
                continue;
            if (part.External)
            {
                report.Say(Carried.Left, "A linked picture is not stored in the file and was not downloaded. Insert it into the document.");
                continue;
            }
            var style = WordShape.Style(image.Parent);
            var (w, h) = (Points(style.GetValueOrDefault("width"), 1) ?? 100, Points(style.GetValueOrDefault("height"), 1) ?? 100);
            if (Taken(part, default, 0, w, h, image.Value("title") ?? "") is not { } node)
                continue;
            if (style.GetValueOrDefault("position") == "absolute")
            {
                node["type"] = "picture";
                floats.Put(style, node["attrs"]!.AsObject(), w, h, "picture", pict.Below("wrap").Any());
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

    /// <summary>The content of a text box.</summary>
    JsonArray Boxed(IEnumerable<XElement> elements, Surroundings around)
    {
        var (own, open) = (new WordLists(numbering), pending);
        pending = null;
        codes.Aside(() =>
        {
            Blocks(elements, own, around);
            Finish(own);
        });
        pending = open;
        return own.Result();
    }

    static bool IsBlank(JsonArray blocks) => blocks.All(b => (string?)b!["type"] == "paragraph" && b["content"] is null);

    /// <summary>Text boxes and simple shapes.</summary>
    void Shapes(XElement frame, List<JsonObject> after)
    {
        // A shape within another's text is met with that text.
        var all = frame
            .Below("wsp")
            .Where(s => s.Ancestors().TakeWhile(a => a != frame).All(a => a.Name.LocalName != "txbxContent"))
            .ToList();
        var grouped = all.Count > 1 || frame.Below("wgp").Any();
        foreach (var shape in all)
        {
            var box = shape.Child("txbx").Child("txbxContent");
            var content = box is null ? [] : Boxed(box.Elements(), Surroundings.None);
            if (IsBlank(content))
                content = [];
            var size = grouped ? shape.Child("spPr").Child("xfrm").Child("ext") : frame.Child("extent");
            var (w, h) = ((Number(size.Value("cx")) ?? 0) / EmuPerPoint, (Number(size.Value("cy")) ?? 0) / EmuPerPoint);
            if (w <= 0 && content.Count > 0)
                w = textWidth / 3;
            var look = WordShape.Of(shape, theme);
            if (content.Count == 0 && WordShape.IsLine(shape, w, h) && look.Line is { } line)
                (look, w, h) = (new(line.Color, null, 0), Math.Max(w, line.Width), Math.Max(h, line.Width));
            else if (content.Count == 0 && (!WordShape.IsBox(shape) || look is { Shade: null or "ffffff", Line: null }))
            {
                if (look.Shade is not null || look.Line is not null)
                    report.Say(Carried.Left, "A shape was not imported.");
                continue;
            }
            else if (!WordShape.IsBox(shape) && content.Count > 0)
                report.Say(Carried.Different, "A shape with text became a box.");
            var node = look.Box(w, h, content);
            if (frame.Name.LocalName == "anchor" && !grouped)
                floats.Put(frame, node["attrs"]!.AsObject(), w, h, content.Count > 0 ? "text box" : "shape");
            else if (frame.Name.LocalName == "inline")
                node[InLine] = true;
            after.Add(node);
        }
        if (grouped && all.Count > 0)
            report.Say(Carried.Different, "The parts of a group of shapes are placed one after another.");
    }

    /// <summary>Text boxes and simple shapes of the older form (ECMA-376 part 4, 19.1).</summary>
    void OlderShapes(XElement pict, List<JsonObject> after)
    {
        foreach (var shape in pict.Descendants().Where(e => e.Name.LocalName is "shape" or "rect" or "roundrect").ToList())
        {
            // The same box in an older form, for programs that do not know the newer one.
            if (
                shape.Ancestors().Any(a => a.Name.LocalName == "Fallback" && a.Parent.Child("Choice").Below("wsp").Any())
                || shape.Ancestors().TakeWhile(a => a != pict).Any(a => a.Name.LocalName == "txbxContent")
                || shape.Below("textpath").Any()
                || shape.Child("imagedata") is not null
            )
                continue;
            var box = shape.Below("txbxContent").FirstOrDefault();
            var content = box is null ? [] : Boxed(box.Elements(), Surroundings.None);
            if (IsBlank(content))
                content = [];
            var style = WordShape.Style(shape);
            var (w, h) = (Points(style.GetValueOrDefault("width"), 1) ?? 0, Points(style.GetValueOrDefault("height"), 1) ?? 0);
            var look = WordShape.OfOlder(shape);
            if (content.Count == 0 && (shape.Name.LocalName == "shape" || w <= 0 || h <= 0))
            {
                if (box is null)
                    report.Say(Carried.Left, "A shape was not imported.");
                continue;
            }
            var node = look.Box(w > 0 ? w : textWidth / 3, h, content);
            if (style.GetValueOrDefault("position") == "absolute")
                floats.Put(style, node["attrs"]!.AsObject(), w, h, content.Count > 0 ? "text box" : "shape", shape.Below("wrap").Any());
            else
                node[InLine] = true;
            after.Add(node);
        }
    }

    /// <summary>The frame that a paragraph stands in (17.3.1.11); a letter set large at a paragraph's beginning is none.</summary>
    static XElement? Frame(XElement p) =>
        p.Name.LocalName == "p" && p.Child("pPr").Child("framePr") is { } frame && frame.Value("dropCap") is null or "none" ? frame : null;

    /// <summary>Neighboring paragraphs of one frame become a box. Those after the first are taken out, so that they are met once.</summary>
    void Framed(XElement first, XElement frame, WordLists list, Surroundings around)
    {
        string Key(XElement f) => string.Join(' ', f.Attributes().Select(a => $"{a.Name.LocalName}={a.Value}"));
        var key = Key(frame);
        var all = new List<XElement> { first };
        all.AddRange(first.ElementsAfterSelf().TakeWhile(e => Frame(e) is { } f && Key(f) == key));
        foreach (var p in all)
            p.Child("pPr").Child("framePr")!.Remove();
        var content = Boxed(all, around);
        var (w, h) = (Points(frame.Value("w")) ?? textWidth / 3, Points(frame.Value("h")) ?? 0);
        if (!IsBlank(content))
        {
            var node = new WordShape(null, null, 0).Box(w, h, content);
            floats.PutFrame(frame, node["attrs"]!.AsObject(), w, h);
            list.Add(node);
        }
        foreach (var p in all.Skip(1))
            p.Remove();
    }

    // ---- tables ----

    JsonObject Table(XElement table)
    {
        var look = new WordTableLook(styles, table);
        var reader = new WordTable(table, look);
        if (look.HasFancyLines(table))
            report.Say(Carried.Different, "Double, dashed, and dotted lines of a table are now single, solid lines.");
        var edges = reader.Edges();
        if (reader.IsFloating)
            report.Say(Carried.Different, "A floating table was moved into the text.");
        var node = new JsonObject
        {
            ["type"] = "table",
            ["attrs"] = new JsonObject { ["lines"] = edges.Pattern, ["lineColor"] = $"#{edges.Color}" },
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
                if (edges.Own(cell.Place.Row, cell.Place.Column) is { } lines)
                    a["lines"] = lines;
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
