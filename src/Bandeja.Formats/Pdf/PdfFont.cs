using System.Globalization;
using System.Text;
using Bandeja.Core.Composition;

namespace Bandeja.Formats.Pdf;

/// <summary>A font as one PDF file uses it: which glyphs, and how each shaped word is written. The font program is cut and written
/// last.</summary>
sealed class PdfFont(PaperFont font, int number, string name)
{
    // Words repeat within a batch of letters; beyond this many the memory is given back.
    const int CacheLimit = 20_000;
    readonly SortedSet<ushort> used = [];

    // Codes are glyph numbers, except where one glyph stands for several texts, for none, or with several widths: then the others get codes
    // of their own.
    readonly Dictionary<(ushort Glyph, string Text, int Width), ushort> codes = [];
    readonly SortedDictionary<ushort, (ushort Glyph, string Text, int Width)> byCode = [];
    int spare = 0xFFFF;
    readonly Dictionary<ShapedWord, (byte[] Bytes, bool Rises)> fragments = [];
    readonly Dictionary<ShapedWord, (byte[] Code, double X, double Y)[]> letters = [];

    /// <summary>Its object number.</summary>
    public int Number => number;

    /// <summary>Its name in the resources.</summary>
    public string Name => name;

    /// <summary>The beginning of a text with this font, up to its size.</summary>
    public byte[] Opening { get; } = Encoding.Latin1.GetBytes($"BT {name} ");

    /// <summary>A word as the inside of a TJ array (9.4.3): glyph numbers in hex, with the kerning between them; and whether RISE stands in
    /// it for a shift in font sizes.</summary>
    public (byte[] Bytes, bool Rises) Fragment(ShapedWord word)
    {
        if (fragments.TryGetValue(word, out var known))
            return known;
        if (fragments.Count > CacheLimit)
            fragments.Clear();
        var text = new StringBuilder("<");
        for (var i = 0; i < word.Glyphs.Length; i++)
            Show(text, word.Glyphs[i], word.ClusterTexts[i]);
        text.Append('>');
        var written = text.Replace("<>", "").ToString();
        return fragments[word] = (Encoding.Latin1.GetBytes(written), written.Contains("RISE"));
    }

    /// <summary>
    /// The letters of a word that runs from right to left, in the order in which they are read: the code of each in hex, and where it
    /// stands
    /// from the word's left end, in font sizes. Each is as wide as up to the letter on its right, so that no reader takes kerning, or a
    /// mark above, for a space.
    /// </summary>
    public (byte[] Code, double X, double Y)[] Letters(ShapedWord word)
    {
        if (letters.TryGetValue(word, out var known))
            return known;
        if (letters.Count > CacheLimit)
            letters.Clear();
        var set = new (byte[], double, double)[word.Glyphs.Length];
        // Marks have no width of their own and come before their letter: they end where it ends.
        var (pen, letter, end) = (word.Advance, word.Advance, word.Advance);
        for (var i = set.Length - 1; i >= 0; i--)
        {
            var glyph = word.Glyphs[i];
            pen -= glyph.Advance;
            var start = pen + glyph.XOffset;
            if (glyph.Advance != 0)
                (end, letter) = (letter, start);
            var code = Encoding.Latin1.GetBytes(
                Code(glyph.Id, word.ClusterTexts[i], Math.Max(0, end - start)).ToString("X4", CultureInfo.InvariantCulture)
            );
            set[^(i + 1)] = (code, start / (double)font.UnitsPerEm, glyph.YOffset / (double)font.UnitsPerEm);
        }
        return letters[word] = set;
    }

    void Show(StringBuilder text, Glyph glyph, string stands)
    {
        if (glyph.YOffset != 0)
            text.Append($">]TJ {PdfObjects.Number(glyph.YOffset / (double)font.UnitsPerEm)} RISE[<");
        if (glyph.XOffset != 0)
            Adjust(text, -glyph.XOffset);
        text.Append(Code(glyph.Id, stands, font.NominalAdvance(glyph.Id)).ToString("X4", CultureInfo.InvariantCulture));
        if (glyph.YOffset != 0)
            text.Append(">]TJ 0 RISE[<");
        var after = font.NominalAdvance(glyph.Id) - glyph.Advance + glyph.XOffset;
        if (after != 0)
            Adjust(text, after);
    }

    // Readers that find no text for a code take the code itself for a character; of these, format characters (Cf), none shows any.
    static readonly ushort[] Silent =
    [
        .. Enumerable.Range(1, 0xFFFF).Where(c => CharUnicodeInfo.GetUnicodeCategory(c) == UnicodeCategory.Format).Select(c => (ushort)c),
    ];

    ushort Code(ushort glyph, string text, int width)
    {
        if (codes.TryGetValue((glyph, text, width), out var known))
            return known;
        used.Add(glyph);
        var code =
            text.Length == 0 ? Silent.Cast<ushort?>().FirstOrDefault(c => !byCode.ContainsKey(c!.Value)) ?? Free(glyph) : Free(glyph);
        byCode[code] = (glyph, text, width);
        return codes[(glyph, text, width)] = code;
    }

    ushort Free(ushort glyph)
    {
        if (!byCode.ContainsKey(glyph))
            return glyph;
        while (byCode.ContainsKey((ushort)spare))
            spare--;
        return (ushort)spare;
    }

    void Adjust(StringBuilder text, int units) => text.Append('>').Append(PdfObjects.Number(units * 1000.0 / font.UnitsPerEm)).Append('<');

    /// <summary>Writes the font: a composite font with glyph numbers as codes (9.7), its widths, its Unicode map (9.10.3) and its cut
    /// program.</summary>
    public void Write(PdfObjects objects, FontPrograms? programs)
    {
        int descendant = objects.Reserve(),
            descriptor = objects.Reserve(),
            file = objects.Reserve(),
            unicode = objects.Reserve();
        var baseName = $"{SubsetTag()}+{font.PostScriptName}";
        double Milli(int units) => units * 1000.0 / font.UnitsPerEm;
        var encoding = "/Identity-H";
        var widths = string.Join(' ', byCode.Select(c => $"{c.Key}[{Width(c.Value)}]"));
        string Width((ushort Glyph, string Text, int Width) code) => PdfObjects.Number(Milli(code.Width));
        var postScript = font.HasPostScriptOutlines;
        var map = "/Identity";
        var isMapped = byCode.Any(c => c.Key != c.Value.Glyph);
        // The outlines of PostScript have no map of their own: there the encoding leads from codes to glyphs (9.7.5).
        if (isMapped && postScript)
        {
            var stream = objects.Reserve();
            objects.Stream(
                stream,
                "/Type/CMap/CMapName/Glyphs/CIDSystemInfo<</Registry(Adobe)/Ordering(Identity)/Supplement 0>>",
                Encoding.Latin1.GetBytes(GlyphMap())
            );
            encoding = $" {stream} 0 R";
        }
        else if (isMapped)
        {
            // Two bytes for each code up to the last (9.7.4.2).
            var glyphs = new byte[(byCode.Keys.Last() + 1) * 2];
            foreach (var (code, (glyph, _, _)) in byCode)
                System.Buffers.Binary.BinaryPrimitives.WriteUInt16BigEndian(glyphs.AsSpan(code * 2), glyph);
            var stream = objects.Reserve();
            objects.Stream(stream, "", glyphs);
            map = $" {stream} 0 R";
        }
        objects.Object(
            number,
            $"<</Type/Font/Subtype/Type0/BaseFont/{baseName}/Encoding{encoding}/DescendantFonts[{descendant} 0 R]/ToUnicode "
                + $"{unicode} 0 R>>"
        );
        // Widths are those of glyphs where the encoding has led to them.
        if (postScript && isMapped)
            widths = string.Join(' ', byCode.Values.GroupBy(v => v.Glyph).OrderBy(g => g.Key).Select(g => $"{g.Key}[{Width(g.First())}]"));
        objects.Object(
            descendant,
            $"<</Type/Font/Subtype/CIDFontType{(postScript ? 0 : 2)}/BaseFont/{baseName}/CIDSystemInfo<</Registry(Adobe)/Ordering(Identity)"
                + $"/Supplement 0>>/FontDescriptor {descriptor} 0 R/DW 1000/W[{widths}]{(postScript ? "" : $"/CIDToGIDMap{map}")}>>"
        );
        var flags = 4 | (font.Italic ? 64 : 0);
        objects.Object(
            descriptor,
            $"<</Type/FontDescriptor/FontName/{baseName}/Flags {flags}/FontBBox[-500 {-(int)Milli(font.Descender) - 100} 2000 "
                + $"{(int)Milli(font.Ascender) + 100}]/ItalicAngle {(font.Italic ? -11 : 0)}/Ascent "
                + $"{(int)Milli(font.Ascender)}/Descent {-(int)Milli(font.Descender)}/CapHeight "
                + $"{(int)Milli(font.CapHeight)}/StemV {(font.Bold ? 130 : 80)}/FontFile{(postScript ? 3 : 2)} {file} 0 R>>"
        );
        if (programs is null)
        {
            var program = Program();
            objects.Stream(file, postScript ? "/Subtype/CIDFontType0C" : $"/Length1 {program.Length}", program);
        }
        else
        {
            var (deflated, length) = programs.Of(font, used);
            objects.Stream(
                file,
                (postScript ? "/Subtype/CIDFontType0C" : $"/Length1 {length}") + "/Filter/FlateDecode",
                deflated,
                deflate: false
            );
        }
        objects.Stream(unicode, "", Encoding.Latin1.GetBytes(UnicodeMap()));
    }

    // A letter that is being written has the same glyphs from one key to the next.
    const int ProgramsKept = 64;
    static readonly System.Collections.Concurrent.ConcurrentDictionary<string, byte[]> Programs = new();

    byte[] Program()
    {
        var key =
            $"{font.PostScriptName} {font.Data.Length} "
            + $"{Convert.ToBase64String(System.Runtime.InteropServices.MemoryMarshal.AsBytes<ushort>(used.ToArray()))}";
        if (Programs.TryGetValue(key, out var known))
            return known;
        if (Programs.Count >= ProgramsKept)
            Programs.Clear();
        return Programs[key] = FontSubset.Program(font.Data, used);
    }

    /// <summary>Six capitals before the name of a font that was cut (9.6.4), made from the glyphs so that a file is reproducible.</summary>
    string SubsetTag()
    {
        var hash = used.Aggregate(17u, (h, g) => h * 31 + g);
        return string.Concat(
            Enumerable
                .Range(0, 6)
                .Select(i =>
                {
                    var c = (char)('A' + hash % 26);
                    hash = hash / 26 + (uint)i * 7919;
                    return c;
                })
        );
    }

    /// <summary>From codes to glyphs (9.7.5).</summary>
    string GlyphMap() => Map("Identity", "Glyphs", 1, "cid", c => $"{c.Glyph}");

    /// <summary>From codes to the characters that they stand for (9.10.3).</summary>
    string UnicodeMap() =>
        Map("UCS", "Adobe-Identity-UCS", 2, "bf", c => $"<{Convert.ToHexString(Encoding.BigEndianUnicode.GetBytes(c.Text))}>");

    string Map(string ordering, string called, int type, string entries, Func<(ushort Glyph, string Text, int Width), string> to)
    {
        var map = new StringBuilder(
            "/CIDInit /ProcSet findresource begin 12 dict begin begincmap /CIDSystemInfo "
                + $"<</Registry(Adobe)/Ordering({ordering})/Supplement 0>> def /CMapName /{called} def /CMapType {type} def 1 "
                + "begincodespacerange <0000> <FFFF> endcodespacerange\n"
        );
        foreach (var chunk in byCode.Chunk(100))
        {
            map.Append(chunk.Length).Append($" begin{entries}char\n");
            foreach (var (code, stands) in chunk)
                map.Append($"<{code:X4}> {to(stands)}\n");
            map.Append($"end{entries}char\n");
        }
        return map.Append("endcmap CMapName currentdict /CMap defineresource pop end end").ToString();
    }
}
