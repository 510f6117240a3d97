using System.Buffers.Binary;
using System.Text;

namespace Bandeja.Formats.Tests;

/// <summary>Makes fonts table by table: each printable character of ASCII is a rectangle, as wide as its number says.</summary>
static class MadeFont
{
    const int First = 32,
        Last = 126,
        Units = 1000;

    static int Advance(int glyph) => 300 + glyph * 5;

    sealed class Table
    {
        public List<byte> Bytes { get; } = [];

        public Table U8(params int[] all)
        {
            Bytes.AddRange(all.Select(v => (byte)v));
            return this;
        }

        public Table U16(params int[] all)
        {
            foreach (var v in all)
                Bytes.AddRange([(byte)(v >> 8), (byte)v]);
            return this;
        }

        public Table U32(params uint[] all)
        {
            foreach (var v in all)
                U16((int)(v >> 16), (int)(v & 0xFFFF));
            return this;
        }

        public Table Add(IEnumerable<byte> bytes)
        {
            Bytes.AddRange(bytes);
            return this;
        }
    }

    /// <summary>A font file.</summary>
    /// <param name="postScript">True for the outlines of PostScript, false for those of TrueType.</param>
    /// <param name="rights">What may be done with it (OS/2, fsType).</param>
    /// <param name="byCharacter">True for PostScript outlines that are numbered by a character collection.</param>
    public static byte[] File(
        string family = "Fernquay Blocks",
        bool postScript = false,
        int rights = 0,
        bool bold = false,
        bool byCharacter = false
    )
    {
        var count = Last - First + 2;
        var tables = new SortedDictionary<string, Table>(StringComparer.Ordinal)
        {
            ["head"] = new Table()
                .U32(0x00010000, 0x00010000, 0, 0x5F0F3CF5)
                .U16(0, Units)
                .U32(0, 0, 0, 0)
                .U16(0, -200, 900, 800, bold ? 1 : 0, 8, 2, 1, 0),
            ["hhea"] = new Table().U32(0x00010000).U16(800, -200, 90, 900, 0, 0, 900, 1, 0, 0, 0, 0, 0, 0, 0, count),
            ["hmtx"] = new Table(),
            ["maxp"] = postScript
                ? new Table().U32(0x00005000).U16(count)
                : new Table().U32(0x00010000).U16(count, 4, 1, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0, 0),
            ["post"] = new Table().U32(0x00030000, 0).U16(-100, 50).U32(0, 0, 0, 0, 0),
            ["OS/2"] = new Table()
                .U16(4, 500, bold ? 700 : 400, 5, rights)
                .U16([.. new int[10]])
                .U16(0)
                .U8([.. new int[10]])
                .U32(1, 0, 0, 0)
                .Add("TEST"u8.ToArray())
                .U16(bold ? 0x20 : 0x40, First, Last, 800, -200, 90, 800, 200)
                .U32(1, 0)
                .U16(500, 700, 0, 32, 1),
            ["cmap"] = new Table()
                .U16(0, 1, 3, 1)
                .U32(12)
                .U16(4, 32, 0, 4, 4, 1, 0, Last, 0xFFFF, 0, First, 0xFFFF, (1 - First) & 0xFFFF, 1, 0, 0),
            ["name"] = Names(family, bold ? "Bold" : "Regular"),
        };
        for (var g = 0; g < count; g++)
            tables["hmtx"].U16(Advance(g), 50);
        if (postScript)
            tables["CFF "] = Cff(count, byCharacter);
        else
            Outlines(count, tables);
        return Packed(tables, postScript);
    }

    static Table Names(string family, string style)
    {
        var names = new (int Id, string Text)[] { (1, family), (2, style), (4, $"{family} {style}"), (6, family.Replace(" ", "") + style) };
        var strings = new Table();
        var table = new Table().U16(0, names.Length, 6 + 12 * names.Length);
        foreach (var (id, text) in names)
        {
            table.U16(3, 1, 0x409, id, text.Length * 2, strings.Bytes.Count);
            strings.Add(Encoding.BigEndianUnicode.GetBytes(text));
        }
        return table.Add(strings.Bytes);
    }

    static void Outlines(int count, SortedDictionary<string, Table> tables)
    {
        var (glyf, loca) = (new Table(), new Table());
        for (var g = 0; g < count; g++)
        {
            loca.U32((uint)glyf.Bytes.Count);
            if (g == 1)
                continue; // the space
            var right = Advance(g) - 50;
            glyf.U16(1, 50, 0, right, 700, 3, 0).U8(1, 1, 1, 1).U16(50, right - 50, 0, 50 - right).U16(0, 0, 700, 0);
        }
        loca.U32((uint)glyf.Bytes.Count);
        (tables["glyf"], tables["loca"]) = (glyf, loca);
    }

    /// <summary>The outlines of PostScript (Adobe Technical Notes 5176 and 5177).</summary>
    static Table Cff(int count, bool byCharacter)
    {
        static byte[] Number(int v) => [29, (byte)(v >> 24), (byte)(v >> 16), (byte)(v >> 8), (byte)v];
        static byte[] Short(int v) => [28, (byte)(v >> 8), (byte)v];
        static byte[] Index(IReadOnlyList<byte[]> all)
        {
            var table = new Table().U16(all.Count);
            if (all.Count == 0)
                return [.. table.Bytes];
            table.U8(2);
            var at = 1;
            foreach (var one in all.Prepend([]))
                table.U16(at += one.Length);
            return [.. table.Add(all.SelectMany(a => a)).Bytes];
        }
        var glyphs = Enumerable
            .Range(0, count)
            .Select(g =>
            {
                var width = Advance(g) - 100;
                byte[] outline = [.. Short(50), 22, .. Short(width), 6, .. Short(700), 7, .. Short(-width), 6, 14];
                return g == 1 ? [14] : outline;
            })
            .ToList();
        byte[] head = [1, 0, 4, 2],
            names = Index([Encoding.Latin1.GetBytes("FernquayBlocks")]),
            strings = Index(byCharacter ? ["Adobe"u8.ToArray(), "Identity"u8.ToArray()] : []),
            subroutines = Index([]),
            charset = [2, 0, 1, (byte)((count - 2) >> 8), (byte)(count - 2)],
            charStrings = Index(glyphs);
        byte[] ros = byCharacter ? [.. Number(391), .. Number(392), .. Number(0), 12, 30] : [];
        byte[] Top(int charsetAt, int glyphsAt, int privateAt) =>
            Index(
                [
                    [.. ros, .. Number(charsetAt), 15, .. Number(glyphsAt), 17, .. Number(0), .. Number(privateAt), 18],
                ]
            );
        var start = head.Length + names.Length + Top(0, 0, 0).Length + strings.Length + subroutines.Length;
        var top = Top(start, start + charset.Length, start + charset.Length + charStrings.Length);
        return new Table().Add(head).Add(names).Add(top).Add(strings).Add(subroutines).Add(charset).Add(charStrings);
    }

    static byte[] Packed(SortedDictionary<string, Table> tables, bool postScript)
    {
        var directory = new Table().U32(postScript ? 0x4F54544Fu : 0x00010000u).U16(tables.Count, 128, 3, 32);
        var body = new Table();
        foreach (var (tag, table) in tables)
        {
            uint sum = 0;
            var padded = table.Bytes.Concat(new byte[(4 - table.Bytes.Count % 4) % 4]).ToArray();
            for (var i = 0; i < padded.Length; i += 4)
                sum += BinaryPrimitives.ReadUInt32BigEndian(padded.AsSpan(i));
            directory
                .Add(Encoding.Latin1.GetBytes(tag))
                .U32(sum, (uint)(12 + 16 * tables.Count + body.Bytes.Count), (uint)table.Bytes.Count);
            body.Add(padded);
        }
        return [.. directory.Add(body.Bytes).Bytes];
    }
}
