using System.Collections.Concurrent;
using System.Security.Cryptography;
using Bandeja.Core.Composition;
using Bandeja.Formats.Pdf;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Work.Hosting;
using Bandeja.Work.People;
using Bandeja.Work.Reading;

namespace Bandeja.Work.Composition;

/// <summary>The pictures' bytes, named by their digest, so that a design never changes because a file did.</summary>
public sealed class PictureFiles(ServerOptions options, DesignStore designs, FileReader files, PdfPasswords passwords, PeopleFolder people)
{
    readonly ConcurrentDictionary<string, PictureFile?> kept = [];
    readonly ConcurrentDictionary<(string Name, long AsOf), PictureFacts?> facts = [];

    /// <summary>Pictures of documents that are being looked at, and may never be kept.</summary>
    readonly ConcurrentDictionary<string, (PictureFile File, string Name)> visiting = [];

    const long MostVisiting = 128L << 20;

    /// <summary>Lets a picture be seen without keeping it; answers the id by which a letter names it.</summary>
    /// <param name="data">A picture that was taken in by the reader.</param>
    public string Visit(string name, byte[] data)
    {
        var id = IdOf(data);
        if (visiting.Values.Sum(v => (long)v.File.Data.Length) > MostVisiting)
            visiting.Clear();
        visiting[id] = (PictureFile.Read(data), name);
        facts.Clear();
        return id;
    }

    static string IdOf(byte[] data) => Convert.ToHexStringLower(SHA256.HashData(data))[..24];

    /// <summary>Changes when a picture is added: what was missing may be there now. It is read from what is stored, so it is the same after
    /// a restart.</summary>
    public string Mark => designs.PicturesMark();

    /// <summary>What is known of a picture by its id or its name; null where there is none.</summary>
    /// <param name="asOf">The newest naming that counts: a name means what it meant then, whatever is added later.</param>
    public PictureFacts? Facts(string idOrName, long asOf) =>
        facts.GetOrAdd(
            (idOrName.ToUpperInvariant(), asOf),
            _ =>
            {
                var row = designs.Picture(idOrName) ?? designs.PictureNamed(idOrName, asOf);
                if (row is null || !File.Exists(PathOf(row.Id)))
                    return visiting.TryGetValue(idOrName, out var guest) ? Facts(idOrName, guest.File, 0) : null;
                // What was added before this was looked at is looked at now.
                if (row.Written == 0 && Get(row.Id) is { } file)
                    designs.MeasuredPicture(row = row with { Pages = file.Pages, Written = file.WrittenSize() });
                return new(
                    row.Id,
                    row.Width,
                    row.Height,
                    row.MediaType is "image/svg+xml" or "application/pdf",
                    row.MediaType == "application/pdf",
                    (int)Math.Max(1, row.Pages),
                    row.Written
                );
            }
        );

    static PictureFacts Facts(string id, PictureFile file, long written) =>
        new(id, file.Width, file.Height, file.IsDrawing, file.MediaType == "application/pdf", Math.Max(1, file.Pages), written);

    string PathOf(string id) => Path.Combine(options.Folder("pictures"), id);

    /// <summary>The password of a PDF that was kept before; null where there is none.</summary>
    public string? PasswordOf(byte[] data) => passwords.Open(designs.Picture(IdOf(data)));

    /// <summary>Keeps a picture.</summary>
    /// <param name="password">What opens a locked PDF, which is kept with it; null for none.</param>
    /// <exception cref="PictureException">It cannot be used.</exception>
    public PictureRow Add(string name, byte[] data, Actor actor, CancellationToken cancel = default, string? password = null)
    {
        var (picture, written) = files.Picture(data, name, cancel, password);
        // A drawing is named by what came, so that the same one is known again. A photograph that was turned is another picture than the
        // one that may have been added before, when that note was not read.
        var id = IdOf(picture.IsDrawing ? data : picture.Data);
        if (!File.Exists(PathOf(id)))
        {
            var part = PathOf(id) + $".{Guid.NewGuid():N}.part";
            File.WriteAllBytes(part, picture.Data);
            File.Move(part, PathOf(id), overwrite: true);
        }
        var row = new PictureRow
        {
            Id = id,
            Name = name,
            MediaType = picture.MediaType,
            Width = picture.Width,
            Height = picture.Height,
            Size = picture.Data.Length,
            Pages = picture.Pages,
            Written = written,
            Secret = passwords.Seal(picture.MediaType == "application/pdf" ? password : null),
        };
        designs.AddPicture(row, actor);
        kept.TryRemove(id, out _);
        facts.Clear();
        return row;
    }

    /// <summary>A picture by the name that a design has for it; null where it is not there.</summary>
    public PictureFile? Get(string id)
    {
        if (kept.TryGetValue(id, out var known))
            return known;
        // A page of a PDF after the first has its number behind the name.
        if (id.IndexOf('#') is > 0 and var sign)
            return int.TryParse(id[(sign + 1)..], out var page) && Get(id[..sign]) is { } whole
                ? kept[id] = whole with { Page = page }
                : null;
        if (id.Length != 24 || !id.All(char.IsAsciiHexDigitLower))
            return null;
        // What is kept with a recipient is not held here: it is gone when they are.
        if (!File.Exists(PathOf(id)))
            return people.PathOf(id) is var own && File.Exists(own) ? PictureFile.Read(File.ReadAllBytes(own))
                : visiting.TryGetValue(id, out var guest) ? guest.File
                : null;
        if (kept.Count > 40)
            kept.Clear();
        return kept[id] = PictureFile.Read(File.ReadAllBytes(PathOf(id)), passwords.Open(designs.Picture(id)));
    }
}
