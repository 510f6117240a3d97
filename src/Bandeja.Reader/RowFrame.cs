using System.Text;

namespace Bandeja.Reader;

/// <summary>Rows in a frame: how far the reader is, then for each row its number in the file, how many cells it has, and its cells; a blank
/// one has the length -1.</summary>
public sealed class RowFrame
{
    /// <summary>How many bytes are gathered before they are sent.</summary>
    const int Full = 128 << 10;

    readonly MemoryStream bytes = new();
    readonly BinaryWriter writer;

    /// <summary>An empty frame.</summary>
    public RowFrame()
    {
        writer = new(bytes, Encoding.UTF8);
        Clear();
    }

    /// <summary>True where it should be sent.</summary>
    public bool IsFull => bytes.Length >= Full;

    /// <summary>Adds a row.</summary>
    public void Add(int number, string?[] cells)
    {
        writer.Write(number);
        writer.Write(cells.Length);
        foreach (var cell in cells)
            if (cell is null)
                writer.Write(-1);
            else
            {
                var utf8 = Encoding.UTF8.GetBytes(cell);
                writer.Write(utf8.Length);
                writer.Write(utf8);
            }
    }

    /// <summary>The content, and an empty frame again.</summary>
    /// <param name="progress">How far the reader is, 0 to 1.</param>
    public byte[] Take(double progress)
    {
        bytes.Position = 0;
        writer.Write(progress);
        writer.Flush();
        var content = bytes.ToArray();
        Clear();
        return content;
    }

    void Clear()
    {
        bytes.SetLength(sizeof(double));
        bytes.Position = sizeof(double);
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
