using System.IO.Compression;

namespace Bandeja.Core.Tests;

/// <summary>The conformance files of the Unicode Character Database 15.0, compressed, in the folder <c>Unicode</c>.</summary>
static class UnicodeFile
{
    /// <summary>A file's lines that hold a test or tell of the next ones.</summary>
    public static IEnumerable<string> Lines(string file)
    {
        using var stream = typeof(UnicodeFile).Assembly.GetManifestResourceStream(file + ".br")!;
        using var reader = new StreamReader(new BrotliStream(stream, CompressionMode.Decompress));
        while (reader.ReadLine() is { } line)
            if (line.Length > 0 && line[0] != '#')
                yield return line;
    }
}
