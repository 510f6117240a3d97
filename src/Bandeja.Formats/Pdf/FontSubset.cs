using System.Buffers.Binary;
using System.Runtime.InteropServices;

namespace Bandeja.Formats.Pdf;

/// <summary>
/// Cuts a TrueType font down to the glyphs that are used, keeping glyph numbers. The native library that HarfBuzzSharp ships
/// exports <c>hb_subset_*</c>, for which the package has no managed names.
/// </summary>
static unsafe partial class FontSubset
{
    const string Library = "libHarfBuzzSharp";
    const int RetainGlyphIds = 0x2,
        NotdefOutline = 0x40,
        DropTables = 3;

    [LibraryImport(Library)]
    private static partial nint hb_blob_create(byte* data, uint length, int mode, nint userData, nint destroy);

    [LibraryImport(Library)]
    private static partial void hb_blob_destroy(nint blob);

    [LibraryImport(Library)]
    private static partial byte* hb_blob_get_data(nint blob, out uint length);

    [LibraryImport(Library)]
    private static partial nint hb_face_create(nint blob, uint index);

    [LibraryImport(Library)]
    private static partial void hb_face_destroy(nint face);

    [LibraryImport(Library)]
    private static partial nint hb_face_reference_blob(nint face);

    [LibraryImport(Library)]
    private static partial nint hb_subset_input_create_or_fail();

    [LibraryImport(Library)]
    private static partial void hb_subset_input_destroy(nint input);

    [LibraryImport(Library)]
    private static partial nint hb_subset_input_glyph_set(nint input);

    [LibraryImport(Library)]
    private static partial nint hb_subset_input_set(nint input, int which);

    [LibraryImport(Library)]
    private static partial void hb_subset_input_set_flags(nint input, uint flags);

    [LibraryImport(Library)]
    private static partial void hb_set_add(nint set, uint value);

    [LibraryImport(Library)]
    private static partial nint hb_subset_or_fail(nint face, nint input);

    static uint Tag(string t) => (uint)(t[0] << 24 | t[1] << 16 | t[2] << 8 | t[3]);

    /// <summary>What a PDF embeds of a font: the file with only the given glyphs, or, of one with the outlines of PostScript, these
    /// alone.</summary>
    public static byte[] Program(byte[] font, IEnumerable<ushort> glyphs)
    {
        var cut = Cut(font, glyphs);
        if (!cut.AsSpan().StartsWith("OTTO"u8))
            return cut;
        for (var at = 12; at + 16 <= cut.Length; at += 16)
            if (cut.AsSpan(at, 4).SequenceEqual("CFF "u8))
                return cut.AsSpan(
                        (int)BinaryPrimitives.ReadUInt32BigEndian(cut.AsSpan(at + 8)),
                        (int)BinaryPrimitives.ReadUInt32BigEndian(cut.AsSpan(at + 12))
                    )
                    .ToArray();
        return cut;
    }

    /// <summary>The font file with only the given glyphs; the whole file where it cannot be cut.</summary>
    static byte[] Cut(byte[] font, IEnumerable<ushort> glyphs)
    {
        fixed (byte* data = font)
        {
            var blob = hb_blob_create(data, (uint)font.Length, 1, 0, 0);
            var face = hb_face_create(blob, 0);
            var input = hb_subset_input_create_or_fail();
            nint subset = 0,
                result = 0;
            try
            {
                hb_subset_input_set_flags(input, RetainGlyphIds | NotdefOutline);
                var set = hb_subset_input_glyph_set(input);
                foreach (var glyph in glyphs)
                    hb_set_add(set, glyph);
                // The PDF places glyphs itself and needs neither layout tables nor names.
                var drop = hb_subset_input_set(input, DropTables);
                foreach (var table in (ReadOnlySpan<string>)["GSUB", "GPOS", "GDEF", "kern", "DSIG", "STAT", "meta", "BASE", "name"])
                    hb_set_add(drop, Tag(table));
                subset = hb_subset_or_fail(face, input);
                if (subset == 0)
                    return font;
                result = hb_face_reference_blob(subset);
                var bytes = hb_blob_get_data(result, out var length);
                return new ReadOnlySpan<byte>(bytes, (int)length).ToArray();
            }
            finally
            {
                if (result != 0)
                    hb_blob_destroy(result);
                if (subset != 0)
                    hb_face_destroy(subset);
                hb_subset_input_destroy(input);
                hb_face_destroy(face);
                hb_blob_destroy(blob);
            }
        }
    }
}
