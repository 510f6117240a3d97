using System.Text.Json;
using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using static Bandeja.Core.Composition.LetterReader;

namespace Bandeja.Core.Surfaces;

/// <summary>Reads the stored form of envelopes and label sheets: JSON, measures in millimetres. <c>docs/letter-format.md</c> describes
/// it.</summary>
public static class SurfaceReader
{
    const int MaxBoxes = 60;

    /// <summary>Reads an envelope or a label sheet.</summary>
    /// <exception cref="LetterFormatException">It is not one, or a measure is out of range.</exception>
    public static SurfaceDesign Read(JsonObject root)
    {
        try
        {
            return (string?)root["kind"] == "labels" ? Labels(root) : Envelope(root);
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
            throw new LetterFormatException(
                "The design could not be read because its format is not " + "valid for an envelope or a label sheet."
            );
        }
    }

    static double Points(JsonNode? value, double otherwise, double low, double high, string what) =>
        Within((double?)value ?? otherwise, low, high, what) * PointsPerMillimetre;

    static SurfaceDesign Envelope(JsonObject root)
    {
        var id = (string?)root["format"] ?? "no10";
        (double Width, double Height) size =
            id == "custom"
                ? (
                    Within((double?)root["width"] ?? 0, 60, 600, "width of the envelope"),
                    Within((double?)root["height"] ?? 0, 60, 600, "height of the envelope")
                )
            : EnvelopeFormat.All.FirstOrDefault(f => f.Id == id) is { } format ? (format.Width, format.Height)
            : throw new LetterFormatException($"“{id}” is not a known envelope size.");
        if ((string?)root["orientation"] == "portrait")
            size = (Math.Min(size.Width, size.Height), Math.Max(size.Width, size.Height));
        double width = size.Width * PointsPerMillimetre,
            height = size.Height * PointsPerMillimetre;
        EnvelopeWindow? window = null;
        if (root["window"]?.AsObject() is { } w)
        {
            var place = Place(w, "window");
            if (place.X < 0 || place.Y < 0 || place.Right > width + 0.1 || place.Bottom > height + 0.1)
                throw new LetterFormatException("The window extends past the edge of the envelope.");
            window = new(
                place,
                (string?)w["fold"] switch
                {
                    "flat" => LetterFold.Flat,
                    "half" => LetterFold.Half,
                    _ => LetterFold.Thirds,
                },
                Points(w["shift"], 3, 0, 20, "shift of the letter")
            );
        }
        var zones = root.ContainsKey("zones") ? (string?)root["zones"] : "US";
        return new(PieceKind.Envelope, width, height, Boxes(root, width, height), string.IsNullOrEmpty(zones) ? null : zones, window, null);
    }

    static Area Place(JsonObject node, string what) =>
        new(
            Points(node["x"], 0, -50, 1000, $"place of the {what}"),
            Points(node["y"], 0, -50, 1000, $"place of the {what}"),
            Points(node["width"], 40, 1, 1000, $"width of the {what}"),
            Points(node["height"], 15, 1, 1000, $"height of the {what}")
        );

    static SurfaceDesign Labels(JsonObject root)
    {
        var stock = Stock(root["stock"]);
        if (stock.Mistakes() is [var wrong, ..])
            throw new LetterFormatException(wrong);
        var place = stock.PlaceOf(1);
        var copies = (int)Within((int?)root["copies"] ?? 1, 1, 500, "number of copies");
        string? Source(string name) => string.IsNullOrWhiteSpace((string?)root[name]) ? null : (string?)root[name];
        return new(
            PieceKind.Labels,
            place.Width,
            place.Height,
            Boxes(root, place.Width, place.Height),
            null,
            null,
            new(stock, (string?)root["fill"] == "columns", copies, Source("copiesBy"), Source("blankBetween"))
        );
    }

    /// <summary>Reads a stock: the name of a ready one, or the measures of an own one.</summary>
    public static LabelStock Stock(JsonNode? node)
    {
        if (node is JsonValue)
            return LabelStock.Ready.FirstOrDefault(s => s.Id == (string?)node)
                ?? throw new LetterFormatException($"There is no label stock called “{(string?)node}”.");
        var s = node?.AsObject() ?? throw new LetterFormatException("The design has no label stock.");
        double Of(string name) => (double?)s[name] ?? 0;
        var corner = (string?)s["corner"] switch
        {
            "rounded" => LabelCorner.Rounded,
            "round" => LabelCorner.Round,
            _ => LabelCorner.Square,
        };
        return new(
            "own",
            Of("sheetWidth"),
            Of("sheetHeight"),
            (int)Of("columns"),
            (int)Of("rows"),
            Of("labelWidth"),
            Of("labelHeight"),
            Of("left"),
            Of("top"),
            Of("pitchX"),
            Of("pitchY"),
            corner,
            corner == LabelCorner.Rounded ? Of("radius") : 0,
            (bool?)s["inches"] ?? false
        );
    }

    static List<SurfaceBox> Boxes(JsonObject root, double width, double height)
    {
        var type = root["type"]?.AsObject();
        var style = new TextStyle((string?)type?["family"] ?? "Source Sans 3", Within((double?)type?["size"] ?? 10, 4, 144, "type size"));
        var spacing = Within((double?)type?["lineSpacing"] ?? 1.2, 0.8, 4, "line spacing");
        var nodes = root["boxes"]?.AsArray() ?? [];
        if (nodes.Count > MaxBoxes)
            throw new LetterFormatException($"A design can have up to {MaxBoxes} boxes; this one has {nodes.Count}.");
        var boxes = new List<SurfaceBox>();
        foreach (var node in nodes)
        {
            var b = node!.AsObject();
            var place = Place(b, "box");
            var padding = Points(b["padding"], 0, 0, 50, "padding of a box");
            var inner = new BlockReader(
                style,
                spacing,
                0,
                new(Math.Max(20, place.Width - 2 * padding), Math.Max(20, place.Height), 0, 0, 0, 0)
            );
            var smallest = (double?)b["smallest"] is { } points
                ? Math.Min(1, Within(points, 3, 144, "smallest type size") / style.Size)
                : 1;
            var shade = (string?)b["shade"];
            var frame = b["border"]?.AsObject() is { } f
                ? new BoxFrame(
                    Within((double?)f["width"] ?? 0.5, 0, 20, "thickness of a border"),
                    Color((string?)f["color"], "000000"),
                    Points(f["radius"], 0, 0, 100, "radius of a border")
                )
                : null;
            boxes.Add(
                new(
                    (string?)b["id"] ?? $"box {boxes.Count + 1}",
                    Enum.TryParse<BoxUse>((string?)b["use"], true, out var use) ? use : BoxUse.Text,
                    place,
                    inner.Blocks(b["content"]),
                    (string?)b["valign"] switch
                    {
                        "middle" => CellAlign.Middle,
                        "bottom" => CellAlign.Bottom,
                        _ => CellAlign.Top,
                    },
                    padding,
                    smallest,
                    frame,
                    string.IsNullOrEmpty(shade) ? null : Color(shade, "")
                )
            );
        }
        return boxes;
    }
}
