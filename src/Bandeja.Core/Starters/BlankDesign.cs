using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using static Bandeja.Core.Starters.Nodes;

namespace Bandeja.Core.Starters;

/// <summary>What a new design begins with where no starter was chosen: an empty page of the organization's paper, or an envelope, labels,
/// or an email with nothing but what each of them has.</summary>
public static class BlankDesign
{
    static readonly IReadOnlyDictionary<PieceKind, Func<StarterWords, JsonObject>> All = new Dictionary<
        PieceKind,
        Func<StarterWords, JsonObject>
    >
    {
        [PieceKind.Letter] = Letter,
        [PieceKind.Envelope] = w => SurfaceStarters.Envelope(w, P(F("Sender", 9))),
        [PieceKind.Labels] = SurfaceStarters.NumberedLabels,
        [PieceKind.Email] = Email,
    };

    /// <summary>The document; null for a kind that begins with a file.</summary>
    public static JsonObject? Of(PieceKind kind, StarterWords words) => All.GetValueOrDefault(kind)?.Invoke(words);

    /// <summary>Margins of an inch, or of 25 mm.</summary>
    static JsonObject Letter(StarterWords w)
    {
        var margin = w.IsAmerican ? 25.4 : 25;
        return new()
        {
            ["page"] = new JsonObject
            {
                ["sheet"] = w.Sheet,
                ["margins"] = new JsonObject
                {
                    ["top"] = margin,
                    ["right"] = margin,
                    ["bottom"] = margin,
                    ["left"] = margin,
                },
            },
            ["type"] = new JsonObject
            {
                ["family"] = "Source Serif 4",
                ["size"] = 11,
                ["lineSpacing"] = 1.35,
                ["spaceAfter"] = 8,
            },
            ["maxPages"] = 1,
            ["content"] = new JsonArray(new JsonObject { ["type"] = "paragraph" }),
        };
    }

    /// <summary>A letter to one recipient alone: the address, the day, and the greeting. What is to be said is written for them.</summary>
    public static JsonObject Single(StarterWords words)
    {
        var letter = Letter(words);
        letter.Remove("maxPages");
        letter["content"] = new JsonArray(
            P(F("Delivery address")),
            P(F("Today | date long")),
            P(F("Salutation")),
            new JsonObject { ["type"] = "paragraph" }
        );
        return letter;
    }

    static JsonObject Email(StarterWords w) =>
        new()
        {
            ["kind"] = "email",
            ["fromName"] = w.Name,
            ["fromAddress"] = w.Email,
            ["content"] = new JsonArray(P(F("Salutation")), new JsonObject { ["type"] = "paragraph" }),
        };
}
