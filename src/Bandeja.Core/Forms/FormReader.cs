using System.Text.Json;
using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using static Bandeja.Core.Composition.LetterReader;

namespace Bandeja.Core.Forms;

/// <summary>Reads the stored form of forms: JSON, boxes in millimetres, what is known of the PDF in points. <c>docs/forms.md</c> describes
/// it.</summary>
public static class FormReader
{
    /// <summary>How many pages, fields, and boxes a form may have.</summary>
    public const int MostPages = 2_000,
        MostFields = 5_000,
        MostBoxes = 500;
    const int LongestText = 10_000;

    /// <summary>How what is known of a PDF is written.</summary>
    public static JsonSerializerOptions FactsForm { get; } =
        new(JsonSerializerDefaults.Web) { DefaultIgnoreCondition = System.Text.Json.Serialization.JsonIgnoreCondition.WhenWritingDefault };

    /// <summary>Reads a form.</summary>
    /// <exception cref="LetterFormatException">It is not one, or a measure is out of range.</exception>
    public static FormDesign Read(JsonObject root)
    {
        try
        {
            return Form(root);
        }
        catch (Exception e)
            when (e
                    is JsonException
                        or InvalidOperationException
                        or NullReferenceException
                        or FormatException
                        or OverflowException
                        or ArgumentException
            )
        {
            throw new LetterFormatException("The design could not be read: it does not have the structure of a form.");
        }
    }

    static FormDesign Form(JsonObject root)
    {
        var asset = (string?)root["asset"] ?? throw new LetterFormatException("The form names no PDF.");
        var facts = root["facts"].Deserialize<FormFacts>(FactsForm) ?? throw new LetterFormatException("The form says nothing of its PDF.");
        if (facts.Pages is not { Count: > 0 and <= MostPages } || facts.Fields is not { Count: <= MostFields })
            throw new LetterFormatException($"A form can have 1 to {MostPages:N0} pages and up to {MostFields:N0} fields.");
        foreach (var page in facts.Pages)
            _ = (Within(page.Width, 1, 15_000, "width of a page"), Within(page.Height, 1, 15_000, "height of a page"));
        foreach (var widget in facts.Fields.SelectMany(f => f.Widgets))
            Within(widget.Page, 1, facts.Pages.Count, "page of a field");
        var answers = new Dictionary<string, string>();
        foreach (var (name, value) in root["answers"]?.AsObject() ?? [])
            if (value is not null)
                answers[name] = Short((string)value!);
        var boxes = (root["boxes"]?.AsArray() ?? []).Select((b, i) => Box(b!.AsObject(), i, facts.Pages.Count)).ToList();
        if (boxes.Count > MostBoxes)
            throw new LetterFormatException($"There can be {MostBoxes} boxes; there are {boxes.Count}.");
        return new(
            asset,
            (string?)root["file"] ?? "form.pdf",
            facts with
            {
                Notes = facts.Notes ?? [],
            },
            answers,
            boxes,
            Named((string?)root["output"], FormOutput.Printed),
            string.IsNullOrWhiteSpace((string?)root["when"]) ? null : Short((string)root["when"]!),
            string.IsNullOrWhiteSpace((string?)root["own"]) ? null : Short((string)root["own"]!)
        );
    }

    static T Named<T>(string? name, T otherwise)
        where T : struct, Enum =>
        name is null ? otherwise
        : Enum.TryParse<T>(name, true, out var known) && Enum.IsDefined(known) ? known
        : throw new LetterFormatException($"“{name}” is not known in a form.");

    static string Short(string text) =>
        text.Length <= LongestText
            ? text
            : throw new LetterFormatException($"A text in a form can have {LongestText:N0} characters; one has {text.Length:N0}.");

    static FormBox Box(JsonObject b, int index, int pages)
    {
        double Points(string name, double otherwise, double low, double high) =>
            Within((double?)b[name] ?? otherwise, low, high, $"{name} of a box") * PointsPerMillimetre;
        var size = Within((double?)b["size"] ?? 10, 0, 144, "type size");
        return new(
            (string?)b["id"] ?? $"box {index + 1}",
            (int)Within((int?)b["page"] ?? 1, 0, pages, "page of a box"),
            Named((string?)b["use"], FormBoxUse.Text),
            new(Points("x", 0, -100, 6000), Points("y", 0, -100, 6000), Points("width", 40, 1, 6000), Points("height", 8, 1, 6000)),
            Short((string?)b["value"] ?? ""),
            new(
                (string?)b["family"] ?? "Arimo",
                size,
                (bool?)b["bold"] ?? false,
                (bool?)b["italic"] ?? false,
                Color((string?)b["color"], "000000"),
                (string?)b["align"] switch
                {
                    "center" => 1,
                    "right" => 2,
                    _ => 0,
                }
            ),
            Named((string?)b["valign"], CellAlign.Middle),
            (bool?)b["wraps"] ?? false,
            Within((double?)b["smallest"] ?? Math.Max(4, size), 3, 144, "smallest type size"),
            (int)Within((int?)b["cells"] ?? 5, 1, 100, "number of cells"),
            Named((string?)b["mark"], MarkShape.Check),
            Named((string?)b["symbology"], Barcodes.Symbology.Qr),
            string.IsNullOrEmpty((string?)b["picture"]) ? null : (string?)b["picture"]
        );
    }
}
