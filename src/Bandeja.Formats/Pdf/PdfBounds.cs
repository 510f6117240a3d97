using System.IO.Compression;

namespace Bandeja.Formats.Pdf;

/// <summary>
/// Looks through the bytes of a PDF (ISO 32000-2, 7.2 and 7.3) before a parser gets them. Parsers call themselves for an array within an
/// array, and unpack a stream whole: how deep things are nested, and what streams unpack to, is therefore held to limits here. It reads
/// tokens, not objects, and judges nothing else.
/// </summary>
static class PdfBounds
{
    /// <summary>How deep arrays and dictionaries may be nested; files that programs write stay below twenty.</summary>
    public const int Depth = 100;

    /// <summary>What all streams of a file together may unpack to, bytes.</summary>
    public const long Unpacked = 256L << 20;

    /// <exception cref="PictureException">Something is too much.</exception>
    public static void Check(byte[] data)
    {
        var unpacked = 0L;
        Walk(data, ref unpacked, within: false);
    }

    static void Walk(ReadOnlySpan<byte> data, ref long unpacked, bool within)
    {
        var depth = 0;
        for (var i = 0; i < data.Length; i++)
        {
            switch (data[i])
            {
                case (byte)'%' when !within:
                    var end = data[i..].IndexOfAny((byte)'\r', (byte)'\n');
                    i = end < 0 ? data.Length : i + end;
                    break;
                case (byte)'(':
                    i = AfterString(data, i);
                    break;
                case (byte)'<' when i + 1 < data.Length && data[i + 1] == '<':
                    i++;
                    Deeper(ref depth);
                    break;
                case (byte)'<' when !within:
                    // A parser looks for the end of a hexadecimal string (7.3.4.3) without end.
                    var close = data[i..].IndexOf((byte)'>');
                    if (close < 0)
                        throw Unclosed();
                    i += close;
                    break;
                case (byte)'>' when i + 1 < data.Length && data[i + 1] == '>':
                    i++;
                    depth = Math.Max(0, depth - 1);
                    break;
                case (byte)'[':
                    Deeper(ref depth);
                    break;
                case (byte)']':
                    depth = Math.Max(0, depth - 1);
                    break;
                // Every object begins anew: what a damaged one left open is not counted on.
                case (byte)'e' when data[i..].StartsWith("endobj"u8):
                    depth = 0;
                    i += 5;
                    break;
                case (byte)'s' when !within && data[i..].StartsWith("stream"u8):
                    i = AfterStream(data, i + 6, ref unpacked) - 1;
                    break;
            }
        }
    }

    static void Deeper(ref int depth)
    {
        if (++depth > Depth)
            throw new PictureException($"This PDF has parts nested more than {Depth} deep. It was not read.");
    }

    static PictureException Unclosed() => new("This PDF is damaged: it has a text that never ends.");

    /// <summary>The place of a string's last parenthesis (7.3.4.2).</summary>
    /// <exception cref="PictureException">It is never closed.</exception>
    static int AfterString(ReadOnlySpan<byte> data, int start)
    {
        var open = 0;
        for (var i = start; i < data.Length; i++)
            switch (data[i])
            {
                case (byte)'\\':
                    i++;
                    break;
                case (byte)'(':
                    open++;
                    break;
                case (byte)')' when --open == 0:
                    return i;
            }
        throw Unclosed();
    }

    /// <summary>Unpacks a stream to count it; objects that are packed in it are walked as well. Answers where it ends.</summary>
    static int AfterStream(ReadOnlySpan<byte> data, int start, ref long unpacked)
    {
        if (start < data.Length && data[start] == '\r')
            start++;
        if (start < data.Length && data[start] == '\n')
            start++;
        var end = data[start..].IndexOf("endstream"u8);
        end = end < 0 ? data.Length : start + end;
        // zlib's own mark (RFC 1950, section 2.2): method 8, and a header that is a multiple of 31.
        if (end - start > 2 && (data[start] & 0x0F) == 8 && ((data[start] << 8) | data[start + 1]) % 31 == 0)
        {
            var before = data[..start];
            var packsObjects = before[Math.Max(0, before.Length - 1000)..].IndexOf("/ObjStm"u8) >= 0;
            Inflate(data[start..], packsObjects, ref unpacked);
        }
        // Behind the word that ends it: the end of that word begins none.
        return Math.Min(data.Length, end + "endstream".Length);
    }

    static unsafe void Inflate(ReadOnlySpan<byte> packed, bool packsObjects, ref long unpacked)
    {
        var buffer = new byte[1 << 16];
        using var objects = packsObjects ? new MemoryStream() : null;
        fixed (byte* first = packed)
        {
            using var source = new UnmanagedMemoryStream(first, packed.Length);
            using var inflated = new ZLibStream(source, CompressionMode.Decompress);
            try
            {
                for (int read; (read = inflated.Read(buffer)) > 0; )
                {
                    if ((unpacked += read) > Unpacked)
                        throw new PictureException(
                            $"This PDF unpacks to more than {Unpacked >> 20} MB. Save the page with smaller pictures and add it again."
                        );
                    objects?.Write(buffer, 0, read);
                }
            }
            catch (InvalidDataException)
            {
                // Damaged from here on, or encrypted: the parser says so.
            }
        }
        if (objects is not null)
            Walk(objects.GetBuffer().AsSpan(0, (int)objects.Length), ref unpacked, within: true);
    }
}
