using System.Text.Json;
using System.Text.Json.Nodes;
using Bandeja.Core.Documents;
using Bandeja.Core.Forms;
using Bandeja.Store;
using Bandeja.Store.Lists;
using Bandeja.Work.Composition;
using Bandeja.Work.Reading;

namespace Bandeja.Work.Documents;

/// <summary>PDFs that become forms.</summary>
public sealed class FormFiles(Database database, FileReader files, PictureFiles pictures, Letters letters)
{
    /// <summary>Looks at a PDF and keeps it unchanged; answers the form's document, its fields matched with a list.</summary>
    /// <param name="before">The document of the form that it is a newer version of: answers, boxes, and settings are taken over.</param>
    /// <param name="password">What opens a locked PDF; null where nobody said it, which is enough where it was said before.</param>
    /// <exception cref="Formats.Pdf.LockedPdfException">It opens only with a password, or with another.</exception>
    /// <exception cref="Formats.Pdf.PictureException">It cannot be used; the sentence says why.</exception>
    public string Document(
        string name,
        byte[] data,
        string? password,
        long? listId,
        JsonObject? before,
        Actor actor,
        CancellationToken cancel
    )
    {
        password ??= pictures.PasswordOf(data);
        var facts = files.Form(data, name, cancel, password);
        var kept = pictures.Add(name, data, actor, cancel, password);
        var answers = new JsonObject();
        foreach (var (field, answer) in Matched(facts, listId))
            answers[field] = answer;
        foreach (var field in facts.Fields)
            if (before?["answers"]?[field.Name] is { } chosen)
                answers[field.Name] = chosen.DeepClone();
        var boxes = new JsonArray();
        foreach (var box in before?["boxes"]?.AsArray() ?? [])
            if (((int?)box?["page"] ?? 1) <= facts.Pages.Count)
                boxes.Add(box!.DeepClone());
        return new JsonObject
        {
            ["kind"] = "form",
            ["asset"] = kept.Id,
            ["file"] = name,
            ["facts"] = JsonSerializer.SerializeToNode(facts, FormReader.FactsForm),
            ["answers"] = answers,
            ["boxes"] = boxes,
            ["output"] = before?["output"]?.DeepClone() ?? "printed",
            ["when"] = before?["when"]?.DeepClone(),
        }.ToJsonString();
    }

    /// <summary>What of a list belongs into a form's fields.</summary>
    public IReadOnlyDictionary<string, string> Matched(FormFacts facts, long? listId)
    {
        if (listId is not { } list)
            return new Dictionary<string, string>();
        using var c = database.Open();
        return FieldMatching.Of(facts, new(RowTable.Columns(c, list), DetailStore.Sets(c, list), letters.Locale));
    }
}
