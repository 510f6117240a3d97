using System.Buffers.Binary;
using System.IO.Compression;

namespace Bandeja.Demo;

/// <summary>Draws the garden's emblem, a leaf in a ring, as a PNG (ISO/IEC 15948) with transparency.</summary>
static class Emblem
{
    const int Size = 240,
        Samples = 3;

    public static byte[] Png()
    {
        using var pixels = new MemoryStream();
        for (var y = 0; y < Size; y++)
        {
            pixels.WriteByte(0); // no filter
            for (var x = 0; x < Size; x++)
            {
                var covered = 0;
                for (var s = 0; s < Samples * Samples; s++)
                    if (Inked((x + (s % Samples + 0.5) / Samples) / Size * 2 - 1, (y + (s / Samples + 0.5) / Samples) / Size * 2 - 1))
                        covered++;
                pixels.Write([0x1e, 0x5b, 0x4a, (byte)(covered * 255 / (Samples * Samples))]);
            }
        }
        using var packed = new MemoryStream();
        using (var z = new ZLibStream(packed, CompressionLevel.SmallestSize, leaveOpen: true))
            z.Write(pixels.ToArray());
        using var png = new MemoryStream();
        png.Write([0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A]);
        var header = new byte[13];
        BinaryPrimitives.WriteInt32BigEndian(header, Size);
        BinaryPrimitives.WriteInt32BigEndian(header.AsSpan(4), Size);
        (header[8], header[9]) = (8, 6);
        Chunk(png, "IHDR"u8, header);
        Chunk(png, "IDAT"u8, packed.ToArray());
        Chunk(png, "IEND"u8, []);
        return png.ToArray();
    }

    static bool Inked(double x, double y)
    {
        var r = Math.Sqrt(x * x + y * y);
        if (r is > 0.9 and < 0.97)
            return true;
        // A leaf is where two circles overlap; its veins are left white.
        var (u, v) = ((x + y) * 0.7071, (y - x) * 0.7071);
        var leaf = u * u + (v - 0.55) * (v - 0.55) < 0.72 && u * u + (v + 0.55) * (v + 0.55) < 0.72;
        var vein =
            Math.Abs(v) < 0.025
            || Math.Abs(Math.Abs(v) - (u + 0.35) * 0.55) < 0.018 && u > -0.3
            || Math.Abs(Math.Abs(v) - (u - 0.05) * 0.55) < 0.018 && u > 0.05;
        return leaf && !vein;
    }

    static void Chunk(Stream png, ReadOnlySpan<byte> name, byte[] data)
    {
        Span<byte> number = stackalloc byte[4];
        BinaryPrimitives.WriteInt32BigEndian(number, data.Length);
        png.Write(number);
        var body = (byte[])[.. name, .. data];
        png.Write(body);
        BinaryPrimitives.WriteUInt32BigEndian(number, Crc(body));
        png.Write(number);
    }

    /// <summary>The cyclic redundancy code of the PNG standard, annex D.</summary>
    static uint Crc(byte[] data)
    {
        var crc = 0xFFFFFFFFu;
        foreach (var b in data)
        {
            crc ^= b;
            for (var k = 0; k < 8; k++)
                crc = (crc & 1) != 0 ? 0xEDB88320u ^ (crc >> 1) : crc >> 1;
        }
        return ~crc;
    }
}
