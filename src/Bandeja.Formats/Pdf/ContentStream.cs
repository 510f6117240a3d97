using System.Buffers.Text;

namespace Bandeja.Formats.Pdf;

/// <summary>Bytes of a content stream, written without going through strings.</summary>
sealed class ContentStream
{
    byte[] buffer = new byte[8192];
    int length;

    /// <summary>What was written.</summary>
    public ReadOnlySpan<byte> Written => buffer.AsSpan(0, length);

    /// <summary>Starts anew.</summary>
    public void Clear() => length = 0;

    void Need(int more)
    {
        if (length + more > buffer.Length)
            Array.Resize(ref buffer, Math.Max(buffer.Length * 2, length + more));
    }

    /// <summary>Adds bytes as they are.</summary>
    public ContentStream Raw(ReadOnlySpan<byte> bytes)
    {
        Need(bytes.Length);
        bytes.CopyTo(buffer.AsSpan(length));
        length += bytes.Length;
        return this;
    }

    /// <summary>Adds a number with at most two decimals (a two-hundredth of a point is finer than any printer) and a space.</summary>
    public ContentStream Num(double value)
    {
        Need(24);
        var hundredths = (long)Math.Round(value * 100);
        if (hundredths < 0)
        {
            buffer[length++] = (byte)'-';
            hundredths = -hundredths;
        }
        Utf8Formatter.TryFormat(hundredths / 100, buffer.AsSpan(length), out var written);
        length += written;
        if (hundredths % 100 is var rest and not 0)
        {
            buffer[length++] = (byte)'.';
            buffer[length++] = (byte)('0' + rest / 10);
            if (rest % 10 != 0)
                buffer[length++] = (byte)('0' + rest % 10);
        }
        buffer[length++] = (byte)' ';
        return this;
    }
}
