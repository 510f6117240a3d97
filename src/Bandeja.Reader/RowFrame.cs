using System.Text;

namespace Bandeja.Reader;

/// <summary>Rows in a frame: how far the reader is, then for each row its number in the file, how many cells it has, and its cells; a blank
/// one has the length -1.</summary>
public sealed class RowFrame
{
    /// <summary>How many bytes are gathered before they are sent.</summary>
    const int Full = 128 << 10;

    byte[] bytes = new byte[Full * 2];
    int length = sizeof(double);

    /// <summary>True where it should be sent.</summary>
    public bool IsFull => length >= Full;

    /// <summary>Adds a row.</summary>
    public void Add(int number, string?[] cells)
    {
        Room(sizeof(int) * (2 + cells.Length));
        Write(number);
        Write(cells.Length);
        foreach (var cell in cells)
        {
            if (cell is null)
            {
                Room(sizeof(int));
                Write(-1);
                continue;
            }
            Room(sizeof(int) + Encoding.UTF8.GetMaxByteCount(cell.Length));
            var written = Encoding.UTF8.GetBytes(cell, bytes.AsSpan(length + sizeof(int)));
            Write(written);
            length += written;
        }
    }

    void Write(int value)
    {
        BitConverter.TryWriteBytes(bytes.AsSpan(length), value);
        length += sizeof(int);
    }

    void Room(int more)
    {
        if (length + more > bytes.Length)
            Array.Resize(ref bytes, Math.Max(bytes.Length * 2, length + more));
    }

    /// <summary>The content, and an empty frame again. The bytes are overwritten by what is added next.</summary>
    /// <param name="progress">How far the reader is, 0 to 1.</param>
    public ReadOnlySpan<byte> Take(double progress)
    {
        BitConverter.TryWriteBytes(bytes, progress);
        var content = bytes.AsSpan(0, length);
        length = sizeof(double);
        return content;
    }

    /// <summary>The rows of a frame.</summary>
    public static IEnumerable<(int Number, string?[] Cells)> Rows(byte[] content)
    {
        for (var at = sizeof(double); at < content.Length; )
        {
            var number = Number(content, ref at);
            var cells = new string?[Number(content, ref at)];
            for (var i = 0; i < cells.Length; i++)
            {
                var length = Number(content, ref at);
                if (length < 0)
                    continue;
                cells[i] = Encoding.UTF8.GetString(content, at, length);
                at += length;
            }
            yield return (number, cells);
        }
    }

    static int Number(byte[] content, ref int at)
    {
        var number = BitConverter.ToInt32(content, at);
        at += sizeof(int);
        return number;
    }

    /// <summary>How far the reader was.</summary>
    public static double Progress(byte[] content) => BitConverter.ToDouble(content);
}
