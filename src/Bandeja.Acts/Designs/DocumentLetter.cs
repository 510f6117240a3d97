using System.Text.Json;
using Bandeja.Core.Documents;
using Bandeja.Store.Designs;
using Bandeja.Work.Composition;
using Bandeja.Work.Documents;
using Bandeja.Work.Hosting;
using Bandeja.Work.Jobs;

namespace Bandeja.Acts.Designs;

/// <summary>What was chosen for a document.</summary>
/// <param name="Marks">The marks around its placeholders, each with “name” between them; null for those that are likely meant.</param>
/// <param name="Answers">What its placeholders become, by their keys.</param>
public sealed record DocumentChoices(
    long? ListId = null,
    IReadOnlyList<string>? Marks = null,
    IReadOnlyDictionary<string, PlaceholderAnswer>? Answers = null
);

/// <summary>Makes letters of documents: keeps their pictures and the file, and notes what was chosen.</summary>
public sealed class DocumentLetter(
    BroughtLetters letters,
    PictureFiles pictures,
    DocumentFiles documents,
    DesignFiles files,
    Uploads uploads,
    OldUploads used
)
{
    /// <summary>What is ready to become a letter.</summary>
    public sealed record Ready(UploadView Upload, string Letter, string Digest);

    /// <summary>Places a document's fields and keeps what belongs to it.</summary>
    public Ready Make(string uploadId, DocumentChoices choices, Deed deed)
    {
        var upload = uploads.Get(uploadId);
        var brought = letters.Get(uploadId, deed.Cancel);
        var placed = letters.Place(brought, choices.ListId, choices.Marks, choices.Answers);
        foreach (var (_, name, data) in brought.Pictures)
            pictures.Add(name, data, deed.Actor, deed.Cancel);
        return new(upload, placed.Letter, documents.Keep(uploads.PathOf(uploadId)));
    }

    /// <summary>The upload is not needed any more.</summary>
    public void Done(Ready ready) => used.Used(ready.Upload.Id);

    /// <summary>Notes which file a version was imported from, and what was chosen for it.</summary>
    public void Note(Ready ready, long designId, long version, DocumentChoices choices, Deed deed) =>
        files.Add(
            new()
            {
                DesignId = designId,
                Version = version,
                Digest = ready.Digest,
                Name = ready.Upload.Name,
                Size = ready.Upload.Size,
                MarksJson = JsonSerializer.Serialize(choices.Marks, Json),
                AnswersJson = JsonSerializer.Serialize(choices.Answers ?? new Dictionary<string, PlaceholderAnswer>(), Json),
                At = deed.Actor.Stamp,
                By = deed.Actor.Name,
            }
        );

    /// <summary>How choices are kept.</summary>
    static readonly JsonSerializerOptions Json = new() { Converters = { new System.Text.Json.Serialization.JsonStringEnumConverter() } };

    /// <summary>What was chosen for the file that a letter was imported from last; null for a letter that was written here.</summary>
    public (IReadOnlyList<string>? Marks, IReadOnlyDictionary<string, PlaceholderAnswer> Answers)? Chosen(long designId) =>
        files.Newest(designId) is { } file
            ? (
                JsonSerializer.Deserialize<List<string>?>(file.MarksJson, Json),
                JsonSerializer.Deserialize<Dictionary<string, PlaceholderAnswer>>(file.AnswersJson, Json)!
            )
            : null;
}
