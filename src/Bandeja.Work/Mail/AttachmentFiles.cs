using System.Collections.Concurrent;
using System.IO.Compression;
using System.Security.Cryptography;
using Bandeja.Store;
using Bandeja.Store.Mail;
using Bandeja.Work.Hosting;
using Bandeja.Work.People;

namespace Bandeja.Work.Mail;

/// <summary>A file that was brought in to be attached.</summary>
/// <param name="File">Its digest.</param>
public sealed record BroughtFile(string File, string Name, long Size);

/// <summary>The bytes of files to attach, named by their digest: what a run froze is never another file.</summary>
public sealed class AttachmentFiles(ServerOptions options, MailFiles files, PeopleFolder people)
{
    /// <summary>The largest file, bytes: a message larger than that goes through no server.</summary>
    public const long Largest = 40_000_000;
    const long MostInZip = 2_000_000_000,
        KeptBytes = 64_000_000;
    const int MostFilesInZip = 100_000;
    readonly ConcurrentDictionary<string, byte[]> kept = [];
    long keptBytes;

    string PathOf(string sha) => Path.Combine(options.Folder("attachments"), sha[..2], sha);

    /// <summary>Keeps a file.</summary>
    /// <param name="folderId">The folder; null for one that is attached for everybody.</param>
    /// <param name="name">As it came; only what stands behind the last slash counts.</param>
    public BroughtFile Add(long? folderId, string name, byte[] data, Actor actor)
    {
        if (data.Length == 0)
            throw new BadInputException($"“{Leaf(name)}” is empty.");
        if (data.Length > Largest)
            throw new BadInputException(
                $"“{Leaf(name)}” is {data.Length / 1e6:0.0} MB. The limit for " + $"an attachment is {Largest / 1e6:0} MB."
            );
        var leaf = Core.Formulas.FileNames.Safe(Leaf(name), "file");
        var sha = Convert.ToHexStringLower(SHA256.HashData(data));
        var path = PathOf(sha);
        if (!File.Exists(path))
        {
            Directory.CreateDirectory(Path.GetDirectoryName(path)!);
            var part = $"{path}.{Guid.NewGuid():N}.part";
            File.WriteAllBytes(part, data);
            File.Move(part, path, overwrite: true);
        }
        files.Add(folderId, leaf, sha, data.Length, actor);
        return new(sha, leaf, data.Length);
    }

    /// <summary>Keeps the files of a ZIP archive; where they lay within it does not count.</summary>
    /// <exception cref="BadInputException">It is no archive, or holds too much.</exception>
    public IReadOnlyList<BroughtFile> AddZip(long folderId, Stream archive, Actor actor)
    {
        try
        {
            using var zip = new ZipArchive(archive, ZipArchiveMode.Read);
            var entries = zip
                .Entries.Where(e => e.Name.Length > 0 && !e.FullName.StartsWith("__MACOSX/", StringComparison.Ordinal))
                .ToList();
            if (entries.Count == 0)
                throw new BadInputException("This ZIP file is empty.");
            if (entries.Count > MostFilesInZip || entries.Sum(e => e.Length) > MostInZip)
                throw new BadInputException("This ZIP file is too large. The limit is 100,000 files or 2 GB. Split it into smaller files.");
            if (entries.GroupBy(e => e.Name, StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } twice)
                throw new BadInputException(
                    $"“{twice.Key}” is in this archive {twice.Count()} times, in different folders. Each recipient's file needs a "
                        + "name of its own."
                );
            return [.. entries.Select(e => Add(folderId, e.Name, Read(e), actor))];
        }
        catch (InvalidDataException)
        {
            throw new BadInputException("This file is damaged or is not a ZIP file.");
        }
    }

    static byte[] Read(ZipArchiveEntry entry)
    {
        // What an archive says of a size may be wrong: no more is read than a file may have.
        using var stream = entry.Open();
        using var target = new MemoryStream();
        var buffer = new byte[81920];
        for (int read; (read = stream.Read(buffer)) > 0; )
        {
            target.Write(buffer, 0, read);
            if (target.Length > Largest)
                throw new BadInputException($"“{entry.Name}” has more than {Largest / 1e6:0} MB.");
        }
        return target.ToArray();
    }

    static string Leaf(string name) => name[(name.LastIndexOfAny(['/', '\\']) + 1)..];

    /// <summary>A file's bytes; null where it is gone from the disk.</summary>
    public byte[]? Get(string sha)
    {
        if (kept.TryGetValue(sha, out var known))
            return known;
        if (sha.Length != 64 || !sha.All(char.IsAsciiHexDigitLower))
            return null;
        // What is kept with a recipient is not held here: it is gone when they are.
        if (!File.Exists(PathOf(sha)))
            return people.PathOf(sha) is var own && File.Exists(own) ? File.ReadAllBytes(own) : null;
        var data = File.ReadAllBytes(PathOf(sha));
        if (data.Length > KeptBytes / 8)
            return data;
        if (Interlocked.Add(ref keptBytes, data.Length) > KeptBytes)
        {
            kept.Clear();
            Interlocked.Exchange(ref keptBytes, data.Length);
        }
        return kept[sha] = data;
    }
}
