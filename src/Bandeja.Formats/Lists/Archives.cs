using System.IO.Compression;

namespace Bandeja.Formats.Lists;

/// <summary>Archives are unpacked once with a counter before anybody reads them, so that a small file that unpacks to a huge one is
/// stopped.</summary>
static class Archives
{
    /// <summary>What an archive may unpack to.</summary>
    public const long MaxUnpacked = 2L << 30;

    const int MaxEntries = 20_000;

    static bool IsXml(string entry) =>
        entry.EndsWith(".xml", StringComparison.OrdinalIgnoreCase) || entry.EndsWith(".rels", StringComparison.OrdinalIgnoreCase);

    /// <summary>The names of what is in the archive.</summary>
    /// <exception cref="ListFileException">It is damaged, or unpacks to more than <see cref="MaxUnpacked"/>.</exception>
    public static HashSet<string> Check(string path, string name)
    {
        try
        {
            using var archive = ZipFile.OpenRead(path);
            var left = MaxUnpacked;
            var buffer = new byte[1 << 16];
            if (archive.Entries.Count > MaxEntries)
                throw new ListFileException($"“{name}” holds more than {MaxEntries:N0} files. It was not read.");
            foreach (var entry in archive.Entries)
            {
                using var part = entry.Open();
                var bounds = IsXml(entry.FullName) ? new XmlBounds() : null;
                for (int read; (read = part.Read(buffer)) > 0; )
                {
                    if ((left -= read) < 0)
                        throw new ListFileException($"“{name}” unzips to more than {MaxUnpacked >> 30} GB, so it was not read.");
                    if (bounds?.Add(buffer.AsSpan(0, read)) is { } objection)
                        throw new ListFileException($"“{name}” has {objection} in its part {entry.FullName}. It was not read.");
                }
            }
            return [.. archive.Entries.Select(e => e.FullName)];
        }
        catch (InvalidDataException)
        {
            throw new ListFileException($"“{name}” is damaged and cannot be opened. Save it again and import the new file.");
        }
    }
}
