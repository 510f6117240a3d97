using System.Buffers;
using System.Globalization;
using System.IO.Compression;
using System.Text;

namespace Bandeja.Formats.Pdf;

/// <summary>
/// Writes the objects of a PDF file (ISO 32000-1) one after another to a stream and keeps nothing of them but their places, so
/// that memory does not grow with what was written. Libraries at hand hold the whole document until it is saved.
/// </summary>
sealed class PdfObjects(Stream target, PdfProtection? protection = null)
{
    readonly ObjectPlaces places = new();
    readonly MemoryStream packed = new();
    long position;

    /// <summary>Where objects are kept beside being written, each with its number, its body or its dictionary's entries, and its stream;
    /// null for nowhere.</summary>
    public List<(int Number, string Text, byte[]? Content)>? Recorder { get; init; }

    /// <summary>How many numbers were reserved.</summary>
    public int Count => Math.Max(0, places.Count - 1);

    /// <summary>Reserves an object number to be written later.</summary>
    public int Reserve()
    {
        // Number 0 is the head of the list of free ones (7.5.4).
        if (places.Count == 0)
            places.Add();
        return places.Add();
    }

    void Write(ReadOnlySpan<byte> bytes)
    {
        target.Write(bytes);
        position += bytes.Length;
    }

    void Write(string text)
    {
        var bytes = ArrayPool<byte>.Shared.Rent(text.Length);
        Write(bytes.AsSpan(0, Encoding.Latin1.GetBytes(text, bytes)));
        ArrayPool<byte>.Shared.Return(bytes);
    }

    /// <summary>Writes the file's head. The four high bytes tell transfer programs that the file is binary (7.5.2).</summary>
    public void Begin() => Write(protection is null ? "%PDF-1.7\n%\u00e2\u00e3\u00cf\u00d3\n" : "%PDF-2.0\n%\u00e2\u00e3\u00cf\u00d3\n");

    /// <summary>Writes an object whose body is the given text.</summary>
    public void Object(int number, string body)
    {
        Recorder?.Add((number, body, null));
        places[number] = position;
        Write($"{number} 0 obj\n{(protection is null ? body : protection.Strings(body))}\nendobj\n");
    }

    /// <summary>Writes a stream object. <paramref name="entries"/> are further entries of its dictionary.</summary>
    public void Stream(int number, string entries, ReadOnlySpan<byte> content, bool deflate = true)
    {
        if (deflate)
        {
            packed.SetLength(0);
            using (var z = new ZLibStream(packed, CompressionLevel.Fastest, leaveOpen: true))
                z.Write(content);
            content = packed.GetBuffer().AsSpan(0, (int)packed.Length);
            entries += "/Filter/FlateDecode";
        }
        Recorder?.Add((number, entries, content.ToArray()));
        places[number] = position;
        if (protection is not null)
        {
            content = protection.Encrypt(content);
            entries = protection.Strings(entries);
        }
        Write($"{number} 0 obj\n<<{entries}/Length {content.Length}>>\nstream\n");
        Write(content);
        Write("\nendstream\nendobj\n");
    }

    /// <summary>Writes the cross-reference table and the trailer (7.5.4, 7.5.5). Every reserved object must have been written.</summary>
    public void End(int catalog, int info)
    {
        var encryption = 0;
        if (protection is not null)
        {
            // Its own strings are not encrypted, so it goes around that.
            places[encryption = Reserve()] = position;
            Write($"{encryption} 0 obj\n{protection.Dictionary}\nendobj\n");
        }
        var start = position;
        Write($"xref\n0 {places.Count}\n0000000000 65535 f \n");
        // A table of a million lines is not held whole: it would be most of the memory.
        var lines = new StringBuilder();
        for (var i = 1; i < places.Count; i++)
        {
            lines.Append(CultureInfo.InvariantCulture, $"{places[i]:D10} 00000 n \n");
            if (lines.Length < 60_000 && i + 1 < places.Count)
                continue;
            Write(lines.ToString());
            lines.Clear();
        }
        Write(
            $"trailer\n<</Size {places.Count}/Root {catalog} 0 R/Info {info} 0 "
                + $"R{(protection is null ? "" : $"/Encrypt {encryption} 0 R/ID[{protection.Id}{protection.Id}]")}>>\nstartxref\n"
                + $"{start}\n%%EOF\n"
        );
        target.Flush();
    }

    /// <summary>A text string (7.9.2.2): UTF-16BE with a byte order mark, in hex.</summary>
    public static string TextString(string text) => "<FEFF" + Convert.ToHexString(Encoding.BigEndianUnicode.GetBytes(text)) + ">";

    /// <summary>The inside of a literal string (7.3.4.2).</summary>
    public static string Escape(string text) => text.Replace("\\", "\\\\").Replace("(", "\\(").Replace(")", "\\)");

    /// <summary>A number with at most three decimals.</summary>
    public static string Number(double value)
    {
        var thousandths = Math.Round(value * 1000);
        // Whole numbers and their parts are written apart: patterns cost many times as much, and fields and boxes are mostly numbers.
        if (Math.Abs(thousandths) > 1e15)
            return Math.Round(value, 3).ToString("0.###", CultureInfo.InvariantCulture);
        var (whole, part) = Math.DivRem((long)Math.Abs(thousandths), 1000);
        var sign = thousandths < 0 ? "-" : "";
        if (part == 0)
            return string.Create(CultureInfo.InvariantCulture, $"{sign}{whole}");
        return string.Create(CultureInfo.InvariantCulture, $"{sign}{whole}.{part:D3}").TrimEnd('0');
    }
}
