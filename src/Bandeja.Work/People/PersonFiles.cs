using System.Security.Cryptography;
using Bandeja.Core.Formulas;
using Bandeja.Formats.Pdf;
using Bandeja.Store;
using Bandeja.Store.People;
using Bandeja.Work.Hosting;
using Bandeja.Work.Reading;

namespace Bandeja.Work.People;

/// <summary>Documents that are kept with recipients: a signed form, a scan, a photo. They are looked through before they are
/// kept.</summary>
public sealed class PersonFiles(PersonFileStore store, PeopleFolder folder, FileReader reader)
{
    /// <summary>Keeps a document.</summary>
    /// <param name="name">As it came; only what stands behind the last slash counts.</param>
    /// <exception cref="PictureException">It is no PDF or picture, or cannot be read.</exception>
    public long Add(long listId, long recipientId, string name, byte[] data, Actor actor, CancellationToken cancel)
    {
        var leaf = FileNames.Safe(name[(name.LastIndexOfAny(['/', '\\']) + 1)..], "document");
        if (data.Length == 0)
            throw new BadInputException($"“{leaf}” is empty.");
        var (picture, written) = reader.Picture(data, leaf, cancel);
        var sha = Convert.ToHexStringLower(SHA256.HashData(data));
        var drawn = (picture.IsDrawing ? sha : Convert.ToHexStringLower(SHA256.HashData(picture.Data)))[..24];
        return folder.Keep(
            new Dictionary<string, byte[]> { [sha] = data, [drawn] = picture.Data },
            () =>
                store.Add(
                    listId,
                    recipientId,
                    new(
                        leaf,
                        sha,
                        picture.MediaType,
                        data.Length,
                        new(
                            drawn,
                            picture.Width,
                            picture.Height,
                            picture.IsDrawing,
                            picture.MediaType == "application/pdf",
                            Math.Max(1, picture.Pages),
                            written
                        )
                    ),
                    actor
                )
        );
    }

    /// <summary>A document's bytes as they came; null where they are gone from the disk.</summary>
    public byte[]? Read(string sha) => folder.PathOf(sha) is var path && File.Exists(path) ? File.ReadAllBytes(path) : null;

    /// <summary>Removes a document for good.</summary>
    public void Remove(long fileId)
    {
        store.Remove(fileId);
        Sweep();
    }

    /// <summary>Removes the bytes of documents whose people are gone.</summary>
    public void Sweep() => folder.Sweep(store.Wanted);
}
