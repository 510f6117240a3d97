using System.Security.Cryptography;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Work.Hosting;
using Bandeja.Work.Reading;

namespace Bandeja.Work.Composition;

/// <summary>The organization's own typefaces: their files, and the fonts that letters are set with.</summary>
public sealed class Typefaces(ServerOptions server, Database database, TypefaceStore store, FontLibrary fonts, FileReader files)
{
    const int Most = 60;
    FaceBook? book;

    string Folder => server.Folder("typefaces");

    static string PathOf(string folder, string digest) => Path.Combine(folder, digest);

    /// <summary>Adds the typefaces that were added before to the fonts that ship, as the server begins.</summary>
    public static void Load(FontLibrary fonts, TypefaceStore store, string folder)
    {
        foreach (var face in store.All())
            try
            {
                fonts.Add(Font(face, File.ReadAllBytes(PathOf(folder, face.Digest))));
            }
            catch (Exception e) when (e is IOException or UnauthorizedAccessException or ArgumentException)
            {
                // The server begins without it: it is not among the families, and Settings say that its file is gone.
            }
    }

    static PaperFont Font(TypefaceRow face, byte[] data) => new(face.Family, face.Bold, face.Italic, data);

    /// <summary>Which faces print those that documents name.</summary>
    public FaceBook Book =>
        book ??= new(
            [.. store.All().GroupBy(f => f.Family).Select(g => new OwnFace(g.Key, g.First().LineHeight))],
            store.Replacements().ToDictionary(r => r.Named, r => r.Printed, StringComparer.OrdinalIgnoreCase)
        );

    /// <summary>The bytes of a typeface.</summary>
    /// <exception cref="NotFoundException">It is not there.</exception>
    /// <param name="digest">Which bytes are meant; null for those that it has.</param>
    public byte[] Bytes(long id, string? digest) =>
        store.Get(id) is var face && (digest ?? face.Digest) == face.Digest && PathOf(Folder, face.Digest) is var path && File.Exists(path)
            ? File.ReadAllBytes(path)
            : throw new NotFoundException("This font’s file no longer exists.");

    /// <summary>Adds a typeface.</summary>
    /// <exception cref="FontFileException">It cannot be used; the sentence says why.</exception>
    /// <exception cref="BadInputException">There is one of its name.</exception>
    public TypefaceRow Add(string name, byte[] data, string at, string by, CancellationToken cancel)
    {
        var facts = files.Typeface(data, name, cancel);
        // Looking at it took a while: what is there is asked, and the file noted, in one transaction.
        return database.Write(_ => Keep(facts, name, data, at, by));
    }

    TypefaceRow Keep(FontFacts facts, string name, byte[] data, string at, string by)
    {
        var all = store.All();
        if (all.Count >= Most)
            throw new BadInputException($"You can add up to {Most} fonts. Remove one that is not used.");
        if (fonts.Ships(facts.Family))
            throw new BadInputException($"{facts.Family} is already included with Bandeja.");
        var digest = Convert.ToHexStringLower(SHA256.HashData(data));
        var known = all.FirstOrDefault(f =>
            f.Family.Equals(facts.Family, StringComparison.OrdinalIgnoreCase) && f.Bold == facts.Bold && f.Italic == facts.Italic
        );
        // The same file again puts back one that is gone from the disk.
        if (known is not null && known.Digest != digest)
            throw new BadInputException(
                $"{known.Family} {known.Style} is there already, from the file {known.FileName}. Of each family there is one regular, one "
                    + "italic, one bold, and one bold italic font."
            );
        var path = PathOf(Folder, digest);
        var part = $"{path}.{Guid.NewGuid():N}.part";
        File.WriteAllBytes(part, data);
        File.Move(part, path, overwrite: true);
        if (known is not null)
        {
            database.AfterCommit(() => fonts.Add(Font(known, data)));
            return known;
        }
        var row = new TypefaceRow
        {
            Digest = digest,
            Family = facts.Family,
            Bold = facts.Bold,
            Italic = facts.Italic,
            Style = facts.Style,
            FileName = name,
            Size = data.Length,
            LineHeight = facts.LineHeight,
            At = at,
            By = by,
        };
        row = row with { Id = store.Add(row) };
        database.AfterCommit(() =>
        {
            fonts.Add(Font(row, data));
            book = null;
        });
        return row;
    }

    /// <summary>Removes a typeface that no design names.</summary>
    /// <exception cref="BadInputException">A design names it; the sentence says which.</exception>
    public TypefaceRow Remove(long id)
    {
        var face = store.Get(id);
        // The other cuts of a family would be thickened or left upright where this one was.
        if (store.UsedIn(face.Family) is { Count: > 0 } used)
            throw new BadInputException(
                $"{face.Family} is used in {string.Join(", ", used.Take(3).Select(u => $"“{u}”"))}"
                    + $"{(used.Count > 3 ? $" and {used.Count - 3} more" : "")}. Earlier versions count, because they can be printed again."
            );
        store.Remove(id);
        database.AfterCommit(() =>
        {
            fonts.Remove(face.Family, face.Bold, face.Italic);
            book = null;
            File.Delete(PathOf(Folder, face.Digest));
        });
        return face;
    }

    /// <summary>Sets what prints typefaces that documents name.</summary>
    /// <exception cref="BadInputException">A name is missing or twice there, or nothing prints as chosen.</exception>
    public void SetReplacements(IReadOnlyList<TypefaceReplacement> all)
    {
        const int most = 500,
            longest = 80;
        if (all.Count > most)
            throw new BadInputException($"There can be {most} replacements.");
        foreach (var one in all)
        {
            if (string.IsNullOrWhiteSpace(one.Named) || one.Named.Length > longest)
                throw new BadInputException("Enter the font’s name as it appears in documents.");
            if (!fonts.Families.Contains(one.Printed))
                throw new BadInputException($"There is no font named “{one.Printed}” to replace {one.Named}.");
        }
        if (all.GroupBy(r => r.Named.Trim(), StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } twice)
            throw new BadInputException($"{twice.Key} is in the table twice.");
        store.SetReplacements(all.Select(r => r with { Named = r.Named.Trim() }));
        database.AfterCommit(() => book = null);
    }
}
