using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using static Bandeja.Core.Starters.Nodes;

namespace Bandeja.Core.Starters;

/// <summary>An envelope and a label sheet to start from, in the sizes of the paper that letters are on.</summary>
static class SurfaceStarters
{
    internal static readonly IReadOnlyList<Starter> All =
    [
        new(
            "envelope",
            PieceKind.Envelope,
            "Envelope with return address",
            "Return address, delivery address, and piece number, clear of the postal zones.",
            w => Envelope(w, P(T(w.NameShown, 9.5, "#1e5b4a", bold: true)))
        ),
        new("labels", PieceKind.Labels, "Address labels", "The delivery address, centered on each label, shrunk where it is long.", Labels),
    ];

    /// <summary>No. 10 (trade size, 4⅛ by 9½ inches) or DL (ISO 269, 110 by 220 mm).</summary>
    /// <param name="sender">Whom it comes from, above the address.</param>
    internal static JsonObject Envelope(StarterWords w, JsonObject sender)
    {
        var american = w.IsAmerican;
        return new()
        {
            ["kind"] = "envelope",
            ["format"] = american ? "no10" : "dl",
            ["orientation"] = "landscape",
            ["zones"] = american ? "US" : "UPU",
            ["type"] = BoxType(11),
            ["boxes"] = new JsonArray(
                Box("return", "return", 10, 9, 80, 18, sender, Lines(null, 9, w.AddressShown)),
                With(Box("delivery", "delivery", american ? 108 : 96, 48, 105, 28, P(F("Delivery address", 11))), ("smallest", 8)),
                Box("number", "number", 10, american ? 96 : 100, 24, 4, P(F("Piece number", 6.5)))
            ),
        };
    }

    static JsonObject Labels(StarterWords w)
    {
        var american = w.IsAmerican;
        var (width, height) = LabelSize(w);
        return new()
        {
            ["kind"] = "labels",
            ["stock"] = american ? "letter-3x10" : "a4-3x7",
            ["fill"] = "rows",
            ["copies"] = 1,
            ["type"] = BoxType(10),
            ["boxes"] = new JsonArray(
                With(
                    Box("delivery", "delivery", 0, 0, width, height, P(F("Delivery address", 10))),
                    ("padding", 3),
                    ("smallest", 7),
                    ("valign", "middle")
                )
            ),
        };
    }

    /// <summary>The same with the piece number in the corner.</summary>
    internal static JsonObject NumberedLabels(StarterWords w)
    {
        var labels = Labels(w);
        var (width, height) = LabelSize(w);
        var number = Aligned("right", F("Piece number", 5.5));
        labels["boxes"]!.AsArray().Add(Box("number", "number", width - 13, Math.Round(height - 4.5, 1), 11, 3, number));
        return labels;
    }

    static (double Width, double Height) LabelSize(StarterWords w) => w.IsAmerican ? (66.6, 25.4) : (63.5, 38.1);

    static JsonObject BoxType(double size) =>
        new()
        {
            ["family"] = "Source Sans 3",
            ["size"] = size,
            ["lineSpacing"] = 1.2,
        };

    static JsonObject Box(string id, string use, double x, double y, double width, double height, params JsonNode[] content) =>
        new()
        {
            ["id"] = id,
            ["use"] = use,
            ["x"] = x,
            ["y"] = y,
            ["width"] = width,
            ["height"] = height,
            ["content"] = new JsonArray([.. content]),
        };

    static JsonObject With(JsonObject box, params (string Name, JsonNode Value)[] more)
    {
        foreach (var (name, value) in more)
            box[name] = value;
        return box;
    }
}
