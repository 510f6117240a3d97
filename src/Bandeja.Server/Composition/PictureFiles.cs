using System.Collections.Concurrent;
using System.Security.Cryptography;
using Bandeja.Core.Composition;
using Bandeja.Formats.Pdf;
using Bandeja.Store;

namespace Bandeja.Server.Composition;

/// <summary>The pictures' bytes, named by their digest, so that a design never changes because a file did.</summary>
public sealed class PictureFiles(ServerOptions options, DesignStore designs)
{
    readonly ConcurrentDictionary<string, PictureFile?> kept = [];
    readonly ConcurrentDictionary<string, PictureFacts?> facts = new(StringComparer.OrdinalIgnoreCase);
    int added;

    /// <summary>Changes when a picture is brought in: what was missing may be there now.</summary>
    public string Mark => $"pictures {added}";

    /// <summary>What is known of a picture by its id or its name; null where there is none.</summary>
    public PictureFacts? Facts(string idOrName) => facts.GetOrAdd(idOrName, key =>
    {
        var row = designs.Picture(key) ?? designs.PictureNamed(key);
        return row is null || !File.Exists(PathOf(row.Id)) ? null : new(row.Id, row.Width, row.Height, row.MediaType is "image/svg+xml" or "application/pdf", row.MediaType == "application/pdf");
    });

    string PathOf(string id) => Path.Combine(options.Folder("pictures"), id);

    /// <summary>Keeps a picture.</summary>
    /// <exception cref="PictureException">It cannot be used.</exception>
    public PictureRow Add(string name, byte[] data, Actor actor)
    {
        var picture = PictureFile.Read(data);
        var id = Convert.ToHexStringLower(SHA256.HashData(data))[..24];
        if (!File.Exists(PathOf(id)))
        {
            var part = PathOf(id) + $".{Guid.NewGuid():N}.part";
            File.WriteAllBytes(part, picture.Data);
            File.Move(part, PathOf(id), overwrite: true);
        }
        var row = new PictureRow { Id = id, Name = name, MediaType = picture.MediaType, Width = picture.Width, Height = picture.Height, Size = picture.Data.Length };
        designs.AddPicture(row, actor);
        kept.TryRemove(id, out _);
        facts.Clear();
        added++;
        return row;
    }

    /// <summary>A picture by the name that a design has for it; null where it is not there.</summary>
    public PictureFile? Get(string id)
    {
        if (kept.TryGetValue(id, out var known)) return known;
        if (id.Length != 24 || !id.All(char.IsAsciiHexDigitLower) || !File.Exists(PathOf(id))) return null;
        if (kept.Count > 40) kept.Clear();
        return kept[id] = PictureFile.Read(File.ReadAllBytes(PathOf(id)));
    }
}
