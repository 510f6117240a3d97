using System.Buffers.Binary;
using System.Text;

namespace Bandeja.Core.Composition;

/// <summary>A font file that cannot be used. The message is for the user.</summary>
public sealed class FontFileException(string message) : Exception(message);

/// <summary>What a font file says of itself.</summary>
/// <param name="Family">The family's name (OpenType, table <c>name</c>: 16, else 1).</param>
/// <param name="Bold">True for weights from 600 on.</param>
/// <param name="Style">What the cut is called, for people: <c>Regular</c>, <c>Semibold Italic</c>.</param>
/// <param name="LineHeight">Height of a single line as a multiple of the type size.</param>
/// <param name="IsVariable">True for a font of which only the ordinary instance is used.</param>
public sealed record FontFacts(string Family, bool Bold, bool Italic, string Style, double LineHeight, bool IsVariable);

/// <summary>
/// Reads the directory and a few tables of a TrueType or OpenType font (ISO/IEC 14496-22), and refuses what is damaged or must not be
/// embedded.
/// </summary>
public static class FontFile
{
    /// <summary>More than this no font file has, bytes.</summary>
    public const int MostBytes = 40 << 20;
    const int MostTables = 100;

    /// <summary>Tables without which a font cannot be used.</summary>
    static readonly string[] Needed = ["head", "hhea", "hmtx", "maxp", "cmap", "name", "OS/2"];

    /// <summary>Reads a font.</summary>
    /// <param name="name">What the file is called, for messages.</param>
    /// <exception cref="FontFileException">It cannot be used; the sentence says why.</exception>
    public static FontFacts Read(byte[] data, string name)
    {
        if (data.Length > MostBytes)
            throw new FontFileException($"“{name}” is {data.Length >> 20} MB. The limit for a font is {MostBytes >> 20} MB.");
        var kind = data.Length < 12 ? "" : Encoding.Latin1.GetString(data, 0, 4);
        if (kind is "wOFF" or "wOF2")
            throw new FontFileException($"“{name}” is a web font. Add the TTF or OTF file.");
        if (kind == "ttcf")
            throw new FontFileException($"“{name}” is a font collection. Add each font as its own TTF or OTF file.");
        if (kind is not ("\0\u0001\0\0" or "true" or "OTTO"))
            throw new FontFileException($"“{name}” is not a font. Add a TTF or OTF file.");
        try
        {
            return Read(data, name, Tables(data, name));
        }
        catch (Exception e) when (e is ArgumentException or IndexOutOfRangeException or InvalidOperationException)
        {
            throw Damaged(name);
        }
    }

    static FontFileException Damaged(string name) => new($"“{name}” is damaged. Get the font file again from its source.");

    static int U16(ReadOnlySpan<byte> data, int at) => BinaryPrimitives.ReadUInt16BigEndian(data[at..]);

    static uint U32(ReadOnlySpan<byte> data, int at) => BinaryPrimitives.ReadUInt32BigEndian(data[at..]);

    /// <summary>The tables by their names, each within the file and as its checksum says.</summary>
    static Dictionary<string, Range> Tables(byte[] data, string name)
    {
        var count = U16(data, 4);
        if (count is 0 or > MostTables || 12 + 16 * count > data.Length)
            throw Damaged(name);
        var tables = new Dictionary<string, Range>();
        for (var i = 0; i < count; i++)
        {
            var at = 12 + 16 * i;
            var tag = Encoding.Latin1.GetString(data, at, 4);
            var (sum, offset, length) = (U32(data, at + 4), U32(data, at + 8), U32(data, at + 12));
            if (offset > data.Length || length > data.Length - offset)
                throw Damaged(name);
            var range = new Range((int)offset, (int)(offset + length));
            if (Sum(data.AsSpan(range), tag == "head") != sum)
                throw Damaged(name);
            tables[tag] = range;
        }
        if (!Needed.All(tables.ContainsKey) || !tables.ContainsKey("CFF ") && !(tables.ContainsKey("glyf") && tables.ContainsKey("loca")))
            throw tables.ContainsKey("CFF2") || tables.ContainsKey("CBDT") || tables.ContainsKey("sbix")
                ? new FontFileException($"“{name}” has no outlines that can be printed. Add another file of the font.")
                : Damaged(name);
        return tables;
    }

    /// <summary>The sum of a table's words (OpenType, “Calculating checksums”); that of the whole file, which stands in <c>head</c>, counts
    /// as nothing.</summary>
    static uint Sum(ReadOnlySpan<byte> table, bool isHead)
    {
        uint sum = 0;
        Span<byte> last = stackalloc byte[4];
        for (var at = 0; at < table.Length; at += 4)
        {
            if (isHead && at == 8)
                continue;
            if (at + 4 <= table.Length)
                sum += U32(table, at);
            else
            {
                last.Clear();
                table[at..].CopyTo(last);
                sum += U32(last, 0);
            }
        }
        return sum;
    }

    static FontFacts Read(byte[] data, string name, Dictionary<string, Range> tables)
    {
        ReadOnlySpan<byte> Table(string tag) => data.AsSpan(tables[tag]);
        var os2 = Table("OS/2");
        Allow(U16(os2, 8), name);
        if (U16(Table("maxp"), 4) == 0 || U16(Table("head"), 18) is < 16 or > 16384)
            throw Damaged(name);
        if (tables.ContainsKey("CFF ") && IsKeyedByCharacter(Table("CFF ")))
            throw new FontFileException(
                $"“{name}” numbers its characters in a way that cannot be printed yet. Add the font as a TTF file."
            );
        var selection = U16(os2, 62);
        var weight = U16(os2, 4);
        var units = (double)U16(Table("head"), 18);
        var hhea = Table("hhea");
        short Signed(ReadOnlySpan<byte> table, int at) => BinaryPrimitives.ReadInt16BigEndian(table[at..]);
        // Which of the two counts is said by bit 7 of fsSelection.
        var height =
            (selection & 0x80) != 0 && os2.Length >= 74
                ? Signed(os2, 68) - Signed(os2, 70) + Signed(os2, 72)
                : Signed(hhea, 4) - Signed(hhea, 6) + Signed(hhea, 8);
        var names = Table("name");
        var family = Name(names, 16) ?? Name(names, 1);
        var style = Name(names, 17) ?? Name(names, 2) ?? "Regular";
        if (string.IsNullOrWhiteSpace(family))
            throw new FontFileException($"“{name}” does not contain the font’s name.");
        var italic = (selection & 1) != 0 || (U16(Table("head"), 44) & 2) != 0;
        return new(
            family.Trim(),
            weight >= 600 || (selection & 0x20) != 0,
            italic,
            style.Trim(),
            Math.Clamp(height / units, 0.8, 4),
            tables.ContainsKey("fvar")
        );
    }

    /// <summary>What the maker allows (OpenType, table OS/2, <c>fsType</c>): letters are files with the typeface in them, cut down to the
    /// characters that are used.</summary>
    static void Allow(int type, string name)
    {
        // Restricted, where neither of the weaker rights is given beside it.
        if ((type & 0x0002) != 0 && (type & 0x000C) == 0)
            throw new FontFileException(
                $"The maker of “{name}” does not allow it to be embedded in files, so letters cannot be printed with it. Ask the "
                    + "maker for a "
                    + "license that allows embedding."
            );
        if ((type & 0x0100) != 0)
            throw new FontFileException(
                $"The maker of “{name}” allows it to be embedded only as a whole, which would make every letter as large as the font. "
                    + "Ask the maker for a license that allows subsetting."
            );
        if ((type & 0x0200) != 0)
            throw new FontFileException($"The maker of “{name}” allows only its bitmaps to be embedded, which cannot be printed.");
    }

    /// <summary>True for a CFF whose glyphs are numbered by character collections (Adobe Technical Note 5176: the operator ROS).</summary>
    static bool IsKeyedByCharacter(ReadOnlySpan<byte> cff)
    {
        // Header, the index of names, then the index of the top dictionaries.
        var at = End(cff, cff[2]);
        var (count, size) = (U16(cff, at), cff[at + 2]);
        if (count == 0)
            return false;
        var first = at + 3 + (count + 1) * size - 1;
        var (from, to) = (first + Offset(cff, at + 3, size), first + Offset(cff, at + 3 + size, size));
        // ROS is the first operator of its dictionary, after three numbers.
        for (var i = from; i < Math.Min(to, from + 24); i++)
        {
            var b = cff[i];
            if (b == 12)
                return cff[i + 1] == 30;
            if (b <= 21)
                return false;
            i += b switch
            {
                28 => 2,
                29 => 4,
                >= 247 and <= 254 => 1,
                _ => 0,
            };
        }
        return false;
    }

    static int Offset(ReadOnlySpan<byte> data, int at, int size)
    {
        var value = 0;
        for (var i = 0; i < size; i++)
            value = value << 8 | data[at + i];
        return value;
    }

    /// <summary>Where an index of a CFF ends.</summary>
    static int End(ReadOnlySpan<byte> data, int at)
    {
        var count = U16(data, at);
        if (count == 0)
            return at + 2;
        var size = data[at + 2];
        return at + 3 + (count + 1) * size - 1 + Offset(data, at + 3 + count * size, size);
    }

    /// <summary>A name in English, else in any language, of the platforms that write UTF-16, else of the oldest.</summary>
    static string? Name(ReadOnlySpan<byte> table, int id)
    {
        var (count, strings) = (U16(table, 2), U16(table, 4));
        string? best = null;
        var rank = 0;
        for (var i = 0; i < Math.Min(count, 2000); i++)
        {
            var at = 6 + 12 * i;
            var (platform, language, which) = (U16(table, at), U16(table, at + 4), U16(table, at + 6));
            if (which != id || platform is not (0 or 1 or 3))
                continue;
            var own =
                platform == 3 ? (language == 0x409 ? 4 : 3)
                : platform == 0 ? 2
                : 1;
            if (own <= rank)
                continue;
            var text = table.Slice(strings + U16(table, at + 10), U16(table, at + 8));
            (best, rank) = (platform == 1 ? Encoding.Latin1.GetString(text) : Encoding.BigEndianUnicode.GetString(text), own);
        }
        return best is null ? null
            : string.Concat(best.Where(c => !char.IsControl(c) && c is not ('"' or '<' or '>'))).Trim() is { Length: > 0 and <= 80 } name
                ? name
            : null;
    }
}
