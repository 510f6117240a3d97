using System.Globalization;
using System.Text;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;

namespace Bandeja.Formats.Documents;

/// <summary>The relationships of one part: its id by what it leads to.</summary>
sealed class DocxRelations
{
    readonly Dictionary<string, (string Id, string Xml)> all = [];

    /// <summary>The id of a relationship; the same target has one.</summary>
    public string Id(string type, string target, bool external = false)
    {
        var key = $"{type} {target}";
        if (!all.TryGetValue(key, out var known))
            all[key] = known = (
                $"rId{all.Count + 1}",
                $"<Relationship Id=\"rId{all.Count + 1}\" "
                    + $"Type=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships/{type}\" "
                    + $"Target=\"{DocxText.Escape(target)}\"{(external ? " TargetMode=\"External\"" : "")}/>"
            );
        return known.Id;
    }

    /// <summary>The part of the package that holds them; null where there are none.</summary>
    public string? Xml =>
        all.Count == 0
            ? null
            : "<?xml version=\"1.0\" encoding=\"UTF-8\" standalone=\"yes\"?>\n<Relationships "
                + "xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\">"
                + $"{string.Concat(all.Values.Select(r => r.Xml))}</Relationships>";
}

/// <summary>A style that came with a document.</summary>
/// <param name="Properties">Those of its paragraphs; null while only items of lists had it.</param>
sealed record KeptStyle(string Id, string Name, string? Properties)
{
    /// <summary>Its tab stops, in twentieths of a point.</summary>
    public IReadOnlyList<int> Tabs { get; } =
    [
        .. System
            .Text.RegularExpressions.Regex.Matches(Properties ?? "", "<w:tab [^>]*w:pos=\"(-?[0-9]+)\"")
            .Select(m => int.Parse(m.Groups[1].Value, CultureInfo.InvariantCulture)),
    ];
}

/// <summary>What the letters of a file refer to: pictures, lists, headers, and footers, each once.</summary>
sealed class DocxParts(Func<ContentPicture, DocxPicture?> pictures)
{
    /// <summary>A header or footer on its way.</summary>
    internal sealed record NewPart(string Element, DocxRelations Relations);

    readonly Dictionary<string, (string Name, byte[] Data)?> media = [];
    readonly Dictionary<string, (string Id, string Name, string Xml, DocxRelations Relations)> bands = [];
    readonly List<(ListLook Look, bool Numbered, string Key)> looks = [];
    readonly List<(int Look, int Start)> lists = [];
    readonly Dictionary<string, KeptStyle> styles = new(StringComparer.OrdinalIgnoreCase);
    readonly List<(int Number, string Xml)> notes = [];
    int drawings,
        lastNote;

    /// <summary>The relationships of the text.</summary>
    public DocxRelations Document { get; } = new();

    /// <summary>A number for the next drawing.</summary>
    public int NextDrawing() => ++drawings;

    /// <summary>A style by its name. It is what the first paragraph that has it looks like.</summary>
    public KeptStyle Style(string name, string? properties)
    {
        if (!styles.TryGetValue(name, out var style))
            styles[name] = style = new($"Kept{styles.Count + 1}", name, properties);
        else if (style.Properties is null && properties is not null)
            styles[name] = style = style with { Properties = properties };
        return style;
    }

    /// <summary>The relationships of the footnotes.</summary>
    public DocxRelations NoteRelations { get; } = new();

    /// <summary>A number for the next footnote.</summary>
    public int NextNote() => ++lastNote;

    /// <summary>Keeps what a footnote says.</summary>
    public void KeepNote(int number, string xml) => notes.Add((number, xml));

    /// <summary>The file of a picture; null where it cannot be shown.</summary>
    public string? Media(ContentPicture picture)
    {
        var key = picture.Symbol is null ? picture.Asset! : $"code {picture.Alt} {picture.Width} {picture.Height}";
        if (!media.TryGetValue(key, out var known))
        {
            known = pictures(picture) is { } file
                ? ($"media/image{media.Count + 1}.{(file.MediaType == "image/jpeg" ? "jpeg" : "png")}", file.Data)
                : null;
            media[key] = known;
        }
        return known?.Name;
    }

    /// <summary>The number of a list that begins at a number; lists of one look share how they are written.</summary>
    public int List(ItemList list, int level)
    {
        var key = $"{list.Numbered} {list.Look} {level}";
        var look = looks.FindIndex(l => l.Key == key);
        if (look < 0)
        {
            look = looks.Count;
            looks.Add((list.Look, list.Numbered, key));
        }
        lists.Add((look, list.Start));
        return lists.Count;
    }

    public NewPart NewBand(string element) => new(element, new());

    /// <summary>Keeps a header or footer; answers its id in the text. The same one is kept once.</summary>
    public string Keep(NewPart part, string xml)
    {
        if (!bands.TryGetValue(xml, out var known))
        {
            var name = $"{(part.Element == "hdr" ? "header" : "footer")}{bands.Count + 1}.xml";
            bands[xml] = known = (Document.Id(part.Element == "hdr" ? "header" : "footer", name), name, xml, part.Relations);
        }
        return known.Id;
    }

    /// <summary>Writes all of it.</summary>
    /// <param name="notesHead">How the part of the footnotes begins.</param>
    public void Write(Action<string, string> part, Action<string, byte[]> bytes, LetterDesign design, string notesHead)
    {
        if (notes.Count > 0)
        {
            Document.Id("footnotes", "footnotes.xml");
            var xml = new StringBuilder(notesHead)
                .Append("<w:footnote w:type=\"separator\" w:id=\"-1\"><w:p><w:r><w:separator/></w:r></w:p></w:footnote>")
                .Append(
                    "<w:footnote w:type=\"continuationSeparator\" w:id=\"0\"><w:p><w:r><w:continuationSeparator/></w:r></w:p></w:footnote>"
                );
            foreach (var (number, note) in notes)
                xml.Append($"<w:footnote w:id=\"{number}\">{note}</w:footnote>");
            part("word/footnotes.xml", xml.Append("</w:footnotes>").ToString());
            if (NoteRelations.Xml is { } relations)
                part("word/_rels/footnotes.xml.rels", relations);
        }
        part("word/styles.xml", DocxStyles.Of(design, styles.Values));
        Document.Id("styles", "styles.xml");
        part(
            "word/settings.xml",
            "<?xml version=\"1.0\" encoding=\"UTF-8\" standalone=\"yes\"?>\n<w:settings "
                + "xmlns:w=\"http://schemas.openxmlformats.org/wordprocessingml/2006/main\"><w:defaultTabStop "
                + $"w:val=\"720\"/>{(design.Head is { EvenHeader: null, EvenFooter: null } ? "" : "<w:evenAndOddHeaders/>")}"
                + "<w:compat><w:compatSetting w:name=\"compatibilityMode\" "
                + "w:uri=\"http://schemas.microsoft.com/office/word\" w:val=\"15\"/></w:compat></w:settings>"
        );
        Document.Id("settings", "settings.xml");
        if (lists.Count > 0)
        {
            part("word/numbering.xml", Numbering());
            Document.Id("numbering", "numbering.xml");
        }
        foreach (var (_, name, xml, relations) in bands.Values)
        {
            part($"word/{name}", xml);
            if (relations.Xml is { } own)
                part($"word/_rels/{name}.rels", own);
        }
        foreach (var file in media.Values.OfType<(string Name, byte[] Data)>())
            bytes($"word/{file.Name}", file.Data);
        part("word/_rels/document.xml.rels", Document.Xml!);
    }

    string Numbering()
    {
        var xml = new StringBuilder(
            "<?xml version=\"1.0\" encoding=\"UTF-8\" standalone=\"yes\"?>\n<w:numbering "
                + "xmlns:w=\"http://schemas.openxmlformats.org/wordprocessingml/2006/main\">"
        );
        for (var i = 0; i < looks.Count; i++)
        {
            var (look, numbered, key) = looks[i];
            var level = int.Parse(key[(key.LastIndexOf(' ') + 1)..], CultureInfo.InvariantCulture);
            xml.Append($"<w:abstractNum w:abstractNumId=\"{i}\"><w:multiLevelType w:val=\"multilevel\"/>");
            for (var l = 0; l < 9; l++)
            {
                var format =
                    !numbered ? "bullet"
                    : l != level ? "decimal"
                    : look.Style switch
                    {
                        "lower-alpha" => "lowerLetter",
                        "upper-alpha" => "upperLetter",
                        "lower-roman" => "lowerRoman",
                        "upper-roman" => "upperRoman",
                        "decimal-leading-zero" => "decimalZero",
                        _ => "decimal",
                    };
                var label =
                    !numbered ? look.Bullet
                    : l == level ? look.Label ?? $"%{l + 1}."
                    : $"%{l + 1}.";
                var left = DocxWriter.Twips(look.Indent) * (l == level ? 1 : l + 1);
                var hang = DocxWriter.Twips(look.Hang ?? Math.Min(look.Indent, 18));
                xml.Append(
                    $"<w:lvl w:ilvl=\"{l}\"><w:start w:val=\"1\"/><w:numFmt w:val=\"{format}\"/><w:lvlText "
                        + $"w:val=\"{DocxText.Escape(label)}\"/><w:lvlJc w:val=\"left\"/><w:pPr><w:ind w:left=\"{left}\" "
                        + $"w:hanging=\"{hang}\"/></w:pPr></w:lvl>"
                );
            }
            xml.Append("</w:abstractNum>");
        }
        for (var i = 0; i < lists.Count; i++)
        {
            var (look, start) = lists[i];
            var key = looks[look].Key;
            xml.Append(
                $"<w:num w:numId=\"{i + 1}\"><w:abstractNumId w:val=\"{look}\"/><w:lvlOverride "
                    + $"w:ilvl=\"{key[(key.LastIndexOf(' ') + 1)..]}\"><w:startOverride w:val=\"{start}\"/></w:lvlOverride></w:num>"
            );
        }
        return xml.Append("</w:numbering>").ToString();
    }

    /// <summary>The types of all parts (ECMA-376 part 2, section 10.1.2).</summary>
    public string ContentTypes(bool custom)
    {
        const string word = "application/vnd.openxmlformats-officedocument.wordprocessingml";
        var xml = new StringBuilder(
            "<Types xmlns=\"http://schemas.openxmlformats.org/package/2006/content-types\"><Default Extension=\"rels\" "
                + "ContentType=\"application/vnd.openxmlformats-package.relationships+xml\"/><Default Extension=\"xml\" "
                + "ContentType=\"application/xml\"/><Default Extension=\"png\" ContentType=\"image/png\"/><Default "
                + "Extension=\"jpeg\" ContentType=\"image/jpeg\"/>"
        );
        void Override(string path, string type) => xml.Append($"<Override PartName=\"/{path}\" ContentType=\"{type}\"/>");
        Override("word/document.xml", $"{word}.document.main+xml");
        Override("word/styles.xml", $"{word}.styles+xml");
        Override("word/settings.xml", $"{word}.settings+xml");
        if (lists.Count > 0)
            Override("word/numbering.xml", $"{word}.numbering+xml");
        if (notes.Count > 0)
            Override("word/footnotes.xml", $"{word}.footnotes+xml");
        foreach (var band in bands.Values)
            Override($"word/{band.Name}", $"{word}.{(band.Name.StartsWith('h') ? "header" : "footer")}+xml");
        Override("docProps/core.xml", "application/vnd.openxmlformats-package.core-properties+xml");
        if (custom)
            Override("docProps/custom.xml", "application/vnd.openxmlformats-officedocument.custom-properties+xml");
        return xml.Append("</Types>").ToString();
    }
}

/// <summary>The styles of a file: ordinary text as the letter starts from, three headings, and links.</summary>
static class DocxStyles
{
    /// <param name="kept">Styles that came with a document.</param>
    public static string Of(LetterDesign design, IEnumerable<KeptStyle> kept)
    {
        var text = Base(design);
        var xml = new StringBuilder(
            "<?xml version=\"1.0\" encoding=\"UTF-8\" standalone=\"yes\"?>\n<w:styles "
                + "xmlns:w=\"http://schemas.openxmlformats.org/wordprocessingml/2006/main\"><w:docDefaults><w:rPrDefault><w:rPr>"
        );
        var face = DocxText.Escape(FaceTable.Elsewhere(text.Family));
        var size = (int)Math.Round(text.Size * 2);
        xml.Append(
            $"<w:rFonts w:ascii=\"{face}\" w:hAnsi=\"{face}\" w:cs=\"{face}\"/><w:sz w:val=\"{size}\"/><w:szCs "
                + $"w:val=\"{size}\"/></w:rPr></w:rPrDefault><w:pPrDefault><w:pPr><w:spacing w:after=\"0\" w:line=\"240\" "
                + "w:lineRule=\"auto\"/></w:pPr></w:pPrDefault></w:docDefaults>"
        );
        xml.Append("<w:style w:type=\"paragraph\" w:default=\"1\" w:styleId=\"Normal\"><w:name w:val=\"Normal\"/><w:qFormat/></w:style>");
        for (var level = 1; level <= 3; level++)
            xml.Append(
                $"<w:style w:type=\"paragraph\" w:styleId=\"Heading{level}\"><w:name w:val=\"heading {level}\"/><w:basedOn "
                    + "w:val=\"Normal\"/><w:next w:val=\"Normal\"/><w:qFormat/><w:pPr><w:outlineLvl "
                    + $"w:val=\"{level - 1}\"/></w:pPr></w:style>"
            );
        foreach (var style in kept)
            xml.Append(
                $"<w:style w:type=\"paragraph\" w:styleId=\"{style.Id}\"><w:name w:val=\"{DocxText.Escape(style.Name)}\"/><w:basedOn "
                    + $"w:val=\"Normal\"/><w:qFormat/>{(style.Properties is { Length: > 0 } p ? $"<w:pPr>{p}</w:pPr>" : "")}</w:style>"
            );
        xml.Append(
            "<w:style w:type=\"table\" w:default=\"1\" w:styleId=\"TableNormal\"><w:name w:val=\"Normal Table\"/><w:tblPr><w:tblInd "
                + "w:w=\"0\" w:type=\"dxa\"/></w:tblPr></w:style>"
        );
        return xml.Append("</w:styles>").ToString();
    }

    /// <summary>The type that ordinary text has.</summary>
    public static TextStyle Base(LetterDesign design) =>
        First(design.Blocks.Concat(design.Head.Header).Concat(design.Head.Footer)) ?? new TextStyle("Source Serif 4", 11);

    /// <summary>The type of the first ordinary paragraph, wherever it stands.</summary>
    static TextStyle? First(IEnumerable<Block> blocks) =>
        blocks
            .Select(b =>
                b switch
                {
                    Paragraph { Style.Heading: 0 } p => p.BaseStyle,
                    ItemList l => l.LabelStyle,
                    Quote q => First(q.Blocks),
                    Box x => First(x.Blocks),
                    Columns c => First(c.Blocks),
                    WhenBlock w => First(w.Branches.SelectMany(x => x.Blocks)),
                    EachBlock e => First(e.Blocks),
                    Table t => First(t.Rows.SelectMany(r => r.Cells).SelectMany(c => c.Blocks)),
                    _ => null,
                }
            )
            .FirstOrDefault(s => s is not null);
}
