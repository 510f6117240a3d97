using System.Buffers.Binary;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace Bandeja.Reader;

/// <summary>What a frame holds.</summary>
public enum Frame : byte
{
    /// <summary>The order, or the answer, as JSON.</summary>
    Json = 1,

    /// <summary>Bytes that belong to the one before.</summary>
    Bytes = 2,

    /// <summary>Some rows, see <see cref="RowFrame"/>.</summary>
    Rows = 3,

    /// <summary>A <see cref="Reader.Refusal"/> instead of an answer.</summary>
    Refusal = 4,

    /// <summary>Ready for orders.</summary>
    Ready = 5,
}

/// <summary>The frames between the two processes: one byte for the kind, four for the length (little-endian), and the content.</summary>
public static class Wire
{
    /// <summary>The longest content, bytes: the largest upload as one.</summary>
    const int Longest = 1 << 30;

    static readonly JsonSerializerOptions Json = new() { Converters = { new JsonStringEnumConverter() }, MaxDepth = 64 };

    /// <summary>Writes one frame.</summary>
    public static void Write(Stream stream, Frame kind, ReadOnlySpan<byte> content)
    {
        Span<byte> head = stackalloc byte[5];
        head[0] = (byte)kind;
        BinaryPrimitives.WriteInt32LittleEndian(head[1..], content.Length);
        stream.Write(head);
        stream.Write(content);
        stream.Flush();
    }

    /// <summary>Writes a value as JSON.</summary>
    public static void WriteValue<T>(Stream stream, Frame kind, T value) =>
        Write(stream, kind, JsonSerializer.SerializeToUtf8Bytes(value, Json));

    /// <summary>Reads one frame; null where the other side has ended.</summary>
    /// <exception cref="InvalidDataException">What came is no frame.</exception>
    public static (Frame Kind, byte[] Content)? Read(Stream stream)
    {
        Span<byte> head = stackalloc byte[5];
        if (stream.ReadAtLeast(head, head.Length, throwOnEndOfStream: false) < head.Length)
            return null;
        var length = BinaryPrimitives.ReadInt32LittleEndian(head[1..]);
        if (length is < 0 or > Longest || head[0] is < (byte)Frame.Json or > (byte)Frame.Ready)
            throw new InvalidDataException("What came from the other process is no frame.");
        var content = new byte[length];
        return stream.ReadAtLeast(content, length, throwOnEndOfStream: false) < length ? null : ((Frame)head[0], content);
    }

    /// <summary>The value that a frame holds.</summary>
    public static T Value<T>(byte[] content) =>
        JsonSerializer.Deserialize<T>(content, Json) ?? throw new InvalidDataException("The other process sent nothing.");
}
