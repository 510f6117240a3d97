using System.Collections.Concurrent;
using System.Text.Json;
using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using Bandeja.Store;
using Bandeja.Store.Lists;
using Bandeja.Work.Composition;
using Bandeja.Work.Jobs;
using Bandeja.Work.Reading;

namespace Bandeja.Work.Documents;

/// <summary>A document that was brought in, as it would be a letter.</summary>
/// <param name="Document">As it was read, its pictures by their ids.</param>
/// <param name="Pictures">Ids, names, and bytes of its pictures.</param>
public sealed record BroughtLetter(BroughtDocument Document, IReadOnlyList<(string Id, string Name, byte[] Data)> Pictures);

/// <summary>Word processor documents that people look at before they become letters. Nothing is kept of them but the upload.</summary>
public sealed class BroughtLetters(
    Database database,
    Uploads uploads,
    FileReader files,
    PictureFiles pictures,
    Letters letters,
    Typefaces typefaces
)
{
    const int Kept = 8;
    const long MostBytes = 128L << 20;
    readonly ConcurrentDictionary<string, BroughtLetter> read = [];
    FaceBook? readWith;

    /// <summary>Reads an upload, or finds it read.</summary>
    /// <exception cref="DocumentException">It cannot be read.</exception>
    public BroughtLetter Get(string id, CancellationToken cancel)
    {
        var upload = uploads.Get(id);
        // What was read with other typefaces is read anew.
        if (!ReferenceEquals(readWith, typefaces.Book))
            read.Clear();
        return read.TryGetValue(id, out var known) ? known : Read(id, upload.Name, cancel);
    }

    /// <summary>Reads a file of the folder of uploads.</summary>
    /// <exception cref="DocumentException">It cannot be read.</exception>
    public BroughtLetter Read(string id, string name, CancellationToken cancel)
    {
        var faces = typefaces.Book;
        var document = files.Document(uploads.PathOf(id), name, faces, cancel);
        readWith = faces;
        var ids = document.Pictures.ToDictionary(p => p.Key, p => pictures.Visit(p.Name, p.Data));
        var letter = JsonNode.Parse(document.Document.Letter, documentOptions: new JsonDocumentOptions { MaxDepth = 512 })!;
        Rename(letter, ids);
        var brought = new BroughtLetter(
            document.Document with
            {
                Letter = letter.ToJsonString(),
            },
            [.. document.Pictures.Select(p => (ids[p.Key], p.Name, p.Data)).DistinctBy(p => p.Item1)]
        );
        // What is too long for a letter is refused at once.
        LetterReader.Read(Placing.Of(brought.Document, PlaceholderSetting.None).Letter);
        if (read.Count >= Kept || read.Values.Sum(Size) + Size(brought) > MostBytes)
            read.Clear();
        return read[id] = brought;
    }

    static long Size(BroughtLetter brought) => brought.Document.Letter.Length * 2L + brought.Pictures.Sum(p => (long)p.Data.Length);

    static void Rename(JsonNode root, Dictionary<string, string> ids)
    {
        var stack = new Stack<JsonNode>([root]);
        while (stack.TryPop(out var node))
        {
            if (node is JsonArray array)
            {
                foreach (var child in array)
                    if (child is not null)
                        stack.Push(child);
                continue;
            }
            if (node is not JsonObject named)
                continue;
            if (named["asset"] is JsonValue asset && ids.TryGetValue((string)asset!, out var id))
                named["asset"] = id;
            foreach (var (_, child) in named)
                if (child is JsonObject or JsonArray)
                    stack.Push(child);
        }
    }

    /// <summary>The letter that a document becomes with a list.</summary>
    /// <param name="marks">The marks around placeholders, each with “name” between them; null for those that are likely meant.</param>
    public PlacedDocument Place(
        BroughtLetter brought,
        long? listId,
        IReadOnlyList<string>? marks,
        IReadOnlyDictionary<string, PlaceholderAnswer>? answers
    ) => Placing.Of(brought.Document, Setting(listId), marks is null ? null : [.. marks.Select(Marks)], answers);

    static TagMarks Marks(string sample) =>
        TagMarks.Of(sample)
        ?? throw new BadInputException($"“{sample}” are no marks of a placeholder. Write the word name between them, as in {{{{name}}}}.");

    PlaceholderSetting Setting(long? listId)
    {
        if (listId is not { } list)
            return PlaceholderSetting.None with { Locale = letters.Locale };
        using var c = database.Open();
        return new(RowTable.Columns(c, list), DetailStore.Sets(c, list), letters.Locale);
    }
}
