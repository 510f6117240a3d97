using System.Text.Json;
using System.Text.Json.Nodes;

namespace Bandeja.Core.Composition;

/// <summary>A document that cannot be read as a letter. The message is for the user.</summary>
public sealed class LetterFormatException(string message) : Exception(message);

/// <summary>
/// Reads the stored form of a letter: JSON with the page (millimetres), the type it starts from (points) and the content as
/// nested nodes, the same ones the editor works with. <c>docs/letter-format.md</c> describes it.
/// </summary>
public static class LetterReader
{
    internal const double PointsPerMillimetre = 72 / 25.4;
    const int MaxNodes = 20_000,
        MaxPages = 2000;

    /// <summary>The sheets by name, in millimetres, portrait (ANSI Y14.1 and ISO 216).</summary>
    public static readonly IReadOnlyDictionary<string, (double Width, double Height)> Sheets = new Dictionary<string, (double, double)>
    {
        ["letter"] = (215.9, 279.4),
        ["legal"] = (215.9, 355.6),
        ["a4"] = (210, 297),
        ["a5"] = (148, 210),
    };

    /// <summary>Reads a letter.</summary>
    /// <exception cref="LetterFormatException">It is not one, or a measure is out of range.</exception>
    public static LetterDesign Read(string json)
    {
        try
        {
            var root =
                JsonNode.Parse(json, documentOptions: new JsonDocumentOptions { MaxDepth = 512 })?.AsObject()
                ?? throw new LetterFormatException("The letter is empty.");
            var page = ReadPage(root["page"]?.AsObject());
            var type = root["type"]?.AsObject();
            var reader = new BlockReader(
                new TextStyle((string?)type?["family"] ?? "Source Serif 4", Within((double?)type?["size"] ?? 11, 4, 144, "type size")),
                Within((double?)type?["lineSpacing"] ?? 1.35, 0.8, 4, "line spacing"),
                Within((double?)type?["spaceAfter"] ?? 8, 0, 200, "space after a paragraph"),
                page
            );
            var blocks = reader.Blocks(root["content"]);
            if (reader.Count > MaxNodes)
                throw new LetterFormatException($"The letter has more than {MaxNodes:N0} parts.");
            var maxPages = (int?)root["maxPages"];
            if (maxPages is < 1 or > MaxPages)
                throw new LetterFormatException($"The page limit must be 1 to {MaxPages:N0}.");
            return new(page, blocks, maxPages, ReadHead(root, reader), (bool?)root["omitWhenEmpty"] ?? false);
        }
        catch (Exception e)
            when (e is JsonException or InvalidOperationException or NullReferenceException or FormatException or OverflowException)
        {
            throw new LetterFormatException("The letter could not be read because its format is not valid.");
        }
    }

    internal static double Within(double value, double low, double high, string what) =>
        value >= low && value <= high
            ? value
            : throw new LetterFormatException($"The {what} must be between {low} and {high}; it is {value}.");

    internal static string Color(string? value, string otherwise)
    {
        var hex = (value ?? otherwise).TrimStart('#').ToLowerInvariant();
        if (hex.Length == 3)
            hex = string.Concat(hex.Select(c => $"{c}{c}"));
        return hex.Length == 6 && hex.All(char.IsAsciiHexDigit)
            ? hex
            : throw new LetterFormatException($"“{value}” is not a color; write it as #000000.");
    }

    internal static PageSetup ReadPage(JsonObject? page)
    {
        var sheet = (string?)page?["sheet"] ?? "letter";
        (double Width, double Height) size =
            sheet == "custom"
                ? (
                    Within((double?)page?["width"] ?? 0, 50, 1000, "width of the sheet"),
                    Within((double?)page?["height"] ?? 0, 50, 1000, "height of the sheet")
                )
            : Sheets.TryGetValue(sheet, out var known) ? known
            : throw new LetterFormatException($"There is no paper size called “{sheet}”.");
        if ((string?)page?["orientation"] == "landscape")
            size = (size.Height, size.Width);
        double Margin(string side) =>
            Within((double?)page?["margins"]?[side] ?? 25, 0, Math.Min(size.Width, size.Height) / 2 - 10, $"{side} margin")
            * PointsPerMillimetre;
        return new(
            size.Width * PointsPerMillimetre,
            size.Height * PointsPerMillimetre,
            Margin("top"),
            Margin("right"),
            Margin("bottom"),
            Margin("left")
        );
    }

    static Letterhead ReadHead(JsonObject root, BlockReader reader)
    {
        var differs = (bool?)root["firstDiffers"] ?? false;
        var evenDiffers = (bool?)root["evenDiffers"] ?? false;
        var background =
            root["background"]?.AsObject() is { } b && (string?)b["asset"] is { Length: > 0 } asset
                ? new Background(asset, (string?)b["pages"] == "first", (string?)b["pages"] == "follow")
                : null;
        Watermark? mark = null;
        if (root["watermark"]?.AsObject() is { } w && !string.IsNullOrWhiteSpace((string?)w["text"]))
            mark = new(
                (string)w["text"]!,
                Within((double?)w["angle"] ?? 45, -90, 90, "angle of the watermark"),
                Within((double?)w["size"] ?? 90, 8, 400, "size of the watermark"),
                Within((double?)w["strength"] ?? 0.12, 0.02, 1, "strength of the watermark"),
                Color((string?)w["color"], "000000"),
                (string?)w["family"] ?? "Source Sans 3"
            );
        return new(
            reader.Blocks(root["header"]),
            reader.Blocks(root["footer"]),
            differs ? reader.Blocks(root["firstHeader"]) : null,
            differs ? reader.Blocks(root["firstFooter"]) : null,
            Within((double?)root["edge"] ?? 12, 3, 60, "distance of header and footer from the edge") * PointsPerMillimetre,
            background,
            mark
        )
        {
            EvenHeader = evenDiffers ? reader.Blocks(root["evenHeader"]) : null,
            EvenFooter = evenDiffers ? reader.Blocks(root["evenFooter"]) : null,
        };
    }
}
