using System.Text.Json.Nodes;
using System.Xml.Linq;
using Bandeja.Core.Documents;
using static Bandeja.Formats.Documents.WordXml;

namespace Bandeja.Formats.Documents;

/// <summary>Where something that floats stands in the letter: at a place of the page, at a side of the text, or on a line of its own
/// (ECMA-376 part 1, 20.4.2; part 4, 19.1 for the older form; 17.3.1.11 for frames).</summary>
/// <param name="textWidth">The width of the text, points.</param>
sealed class WordFloat(DocumentReport report, double textWidth)
{
    /// <summary>A place along one direction.</summary>
    /// <param name="From">What it is counted from: <c>page</c> or <c>margin</c>, or with <c>Mid</c> or <c>End</c> behind it where the
    /// middle
    /// or the far edge of the thing stands at that of the page.</param>
    readonly record struct At(double Points, string From);

    /// <summary>How a thing floats.</summary>
    /// <param name="X">Null where it is not known from the page.</param>
    /// <param name="Left">From the left edge of the text, points, as well as it is known.</param>
    /// <param name="Down">From the top of its paragraph, points; null where it is counted from the page.</param>
    sealed record Float(At? X, At? Y, double Left, double? Down, bool Free, bool OwnLine, double Gap, string? Align);

    /// <summary>Says where a drawing stands.</summary>
    /// <param name="what">What it is, for the report: <c>picture</c>, <c>text box</c>.</param>
    public void Put(XElement anchor, JsonObject attributes, double width, double height, string what)
    {
        var (h, v) = (anchor.Child("positionH"), anchor.Child("positionV"));
        var x = Along(h, ["page", "leftMargin"], ["margin", "column"], "rightMargin", "right");
        var y = Along(v, ["page", "topMargin"], ["margin"], "bottomMargin", "bottom");
        var (offset, align) = (Number(h.Child("posOffset")?.Value) / EmuPerPoint, h.Child("align")?.Value);
        var left = align switch
        {
            "center" => (textWidth - width) / 2,
            "right" or "outside" => textWidth - width,
            _ => offset ?? 0,
        };
        var down = v.Value("relativeFrom") is "paragraph" or "line"
            ? Number(v.Child("posOffset")?.Value) / EmuPerPoint ?? 0
            : (double?)null;
        var side = Math.Max(Number(anchor.Value("distL")) ?? 0, Number(anchor.Value("distR")) ?? 0) / EmuPerPoint;
        var behind = anchor.Value("behindDoc") is "1" or "true";
        var free = anchor.Child("wrapNone") is not null || behind;
        Stand(new(x, y, left, down, free, anchor.Child("wrapTopAndBottom") is not null, side, align), attributes, width, height, what);
        if (what == "picture" && free && !behind && (string?)attributes["place"] == "page")
            report.Say(Carried.Different, "A picture in front of the text is printed behind the text.");
    }

    /// <summary>Says where a shape of the older form stands.</summary>
    public void Put(IReadOnlyDictionary<string, string> style, JsonObject attributes, double width, double height, string what, bool wraps)
    {
        At? Of(string axis, string first, string end)
        {
            var from =
                style.GetValueOrDefault($"mso-position-{axis}-relative") is { } f && f.StartsWith("page", StringComparison.Ordinal)
                    ? "page"
                    : "margin";
            if (style.GetValueOrDefault($"mso-position-{axis}-relative") is null or "text" or "line" or "char" && axis == "vertical")
                return null;
            var align = style.GetValueOrDefault($"mso-position-{axis}");
            if (align == "center")
                return new(0, from + "Mid");
            if (align == end)
                return new(0, from + "End");
            return new(Points(style.GetValueOrDefault($"margin-{first}"), 1) ?? 0, from);
        }
        var left = style.GetValueOrDefault("mso-position-horizontal") switch
        {
            "center" => (textWidth - width) / 2,
            "right" => textWidth - width,
            _ => Points(style.GetValueOrDefault("margin-left"), 1) ?? 0,
        };
        var y = Of("vertical", "top", "bottom");
        var down = y is null ? Points(style.GetValueOrDefault("margin-top"), 1) ?? 0 : (double?)null;
        Stand(
            new(Of("horizontal", "left", "right"), y, left, down, !wraps, false, 9, style.GetValueOrDefault("mso-position-horizontal")),
            attributes,
            width,
            height,
            what
        );
    }

    /// <summary>Says where a frame of an OpenDocument text stands (OpenDocument 1.2, 19.509, 20.290 to 20.309).</summary>
    /// <param name="said">What the frame's style says.</param>
    public void Put(XElement frame, Func<string, string?> said, JsonObject attributes, double width, double height, string what)
    {
        var toPage = frame.Value("anchor-type") == "page";
        At? Of(string axis, string[] page, string[] margin, string middle, string end)
        {
            var from = said(axis == "x" ? "horizontal-rel" : "vertical-rel") ?? (toPage ? "page" : "paragraph");
            var place =
                page.Contains(from) ? "page"
                : margin.Contains(from) ? "margin"
                : null;
            if (place is null)
                return null;
            var to = said(axis == "x" ? "horizontal-pos" : "vertical-pos");
            return to == middle ? new(0, place + "Mid")
                : to == end ? new(0, place + "End")
                : to is "left" or "top" or "inside" ? new(0, place)
                : new(Points(frame.Value(axis), 1) ?? 0, place);
        }
        var align = said("horizontal-pos") is ("center" or "right" or "outside") and var found ? found : null;
        var left = align switch
        {
            "center" => (textWidth - width) / 2,
            not null => textWidth - width,
            null => Points(frame.Value("x"), 1) ?? 0,
        };
        var y = Of("y", ["page"], ["page-content"], "middle", "bottom");
        var x = Of("x", ["page", "page-start-margin"], ["page-content", "paragraph", "paragraph-content"], "center", "right");
        var wrap = said("wrap") ?? "none";
        var gap = Math.Max(Points(said("margin-left"), 1) ?? 0, Points(said("margin-right"), 1) ?? 0);
        var down = y is null ? Points(frame.Value("y"), 1) ?? 0 : (double?)null;
        Stand(
            new(x, y, left, down, wrap == "run-through" || toPage, wrap == "none", gap > 0 ? gap : 9, align),
            attributes,
            width,
            height,
            what
        );
    }

    /// <summary>Says where a frame of paragraphs stands.</summary>
    public void PutFrame(XElement frame, JsonObject attributes, double width, double height)
    {
        At? Of(string axis, string anchor, string end)
        {
            var from = frame.Value(anchor) ?? "text";
            if (from == "text" && axis == "y")
                return null;
            var place = from == "page" ? "page" : "margin";
            return frame.Value($"{axis}Align") switch
            {
                "center" => new(0, place + "Mid"),
                { } to when to == end || to == "outside" => new(0, place + "End"),
                { } => new(0, place),
                null => new(Points(frame.Value(axis)) ?? 0, place),
            };
        }
        var align = frame.Value("xAlign");
        var left = align switch
        {
            "center" => (textWidth - width) / 2,
            "right" or "outside" => textWidth - width,
            _ => Points(frame.Value("x")) ?? 0,
        };
        var y = Of("y", "vAnchor", "bottom");
        var down = y is null ? Points(frame.Value("y")) ?? 0 : (double?)null;
        var own = frame.Value("wrap") is "notBeside" or "none";
        Stand(
            new(Of("x", "hAnchor", "right"), y, left, down, false, own, Points(frame.Value("hSpace")) ?? 9, align),
            attributes,
            width,
            height,
            "frame"
        );
    }

    static At? Along(XElement? position, string[] page, string[] margin, string farMargin, string end)
    {
        var from = position.Value("relativeFrom") ?? "";
        var place =
            page.Contains(from) ? "page"
            : margin.Contains(from) ? "margin"
            : null;
        if (place is null)
            return from == farMargin ? new(0, "pageEnd") : null;
        if (position.Child("align")?.Value is { } align)
            return align switch
            {
                "center" => new(0, place + "Mid"),
                _ when align == end || align == "outside" => new(0, place + "End"),
                _ => new(0, place),
            };
        return Number(position.Child("posOffset")?.Value) is { } offset ? new(offset / EmuPerPoint, place) : null;
    }

    void Stand(Float f, JsonObject attributes, double width, double height, string what)
    {
        // In the margins no text runs around it: what stands there has its place of the page.
        var outside =
            f.X is { From: "margin" } x && (x.Points + width <= 1 || x.Points >= textWidth - 1)
            || f.Y is { From: "page" } y && y.Points + height <= 54
            || f.Y is { From: "margin" } m && m.Points + height <= 1;
        if (f.X is { } across && f.Y is { } along && (f.Free || outside))
        {
            attributes["place"] = "page";
            // Places are counted from the corner of the sheet; what depends on its size is added where the letter is put together.
            (attributes["x"], attributes["y"]) = (across.Points, along.Points);
            (attributes["xFrom"], attributes["yFrom"]) = (across.From, along.From);
            return;
        }
        if (f.OwnLine || width > textWidth - 60)
        {
            if (f.Align is "center" or "right" || f.Left > 200)
                attributes["align"] = f.Align is "center" ? "center" : "right";
            if (!f.OwnLine)
                report.Say(Carried.Different, $"A floating {what} is now on its own line.");
            return;
        }
        var right = f.Left + width / 2 > textWidth / 2;
        attributes["place"] = right ? "right" : "left";
        attributes["gap"] = Math.Clamp(LetterBuilder.Millimetres(f.Gap), 0, 50);
        // Text runs around it at the side that it was nearer to, from the top of its paragraph on.
        var moved = right ? textWidth - width - f.Left : f.Left;
        if (f.Free || f.Down is null or > 14 or < -14 || Math.Abs(moved) > 20)
            report.Say(
                Carried.Different,
                $"A {what} is now at the {(right ? "right" : "left")}, next to its paragraph. Text wraps around it."
            );
    }

    /// <summary>Works out the places of a letter: from the corner of the sheet, in millimetres. What stands in a cell or in a box has no
    /// place of the page.</summary>
    public static void Settle(JsonObject letter, double width, double height)
    {
        var margins = letter["page"]!["margins"]!;
        var stack = new Stack<(JsonNode? Node, bool Free)>(BroughtDocument.Bands.Select(b => (letter[b], true)));
        while (stack.TryPop(out var next))
        {
            var (node, free) = next;
            if (node is JsonArray all)
            {
                foreach (var child in all)
                    stack.Push((child, free));
                continue;
            }
            if (node is not JsonObject o)
                continue;
            if (o["attrs"] is JsonObject a && (string?)a["place"] == "page" && a["xFrom"] is not null)
            {
                var wide = (double?)a["width"] ?? 0;
                var tall = (double?)a["height"] ?? (a["aspect"] is { } aspect ? wide / (double)aspect : 0);
                double At(string axis, double own, double sheet, string near, string far)
                {
                    var from = (string)a[$"{axis}From"]!;
                    var (low, high) = from.StartsWith("page", StringComparison.Ordinal)
                        ? (0, sheet)
                        : ((double)margins[near]!, sheet - (double)margins[far]!);
                    var at = LetterBuilder.Millimetres((double)a[axis]!);
                    at +=
                        from.EndsWith("Mid", StringComparison.Ordinal) ? (low + high - own) / 2
                        : from.EndsWith("End", StringComparison.Ordinal) ? high - own
                        : low;
                    return Math.Round(Math.Clamp(at, -500, 2000), 2);
                }
                var (x, y) = (At("x", wide, width, "left", "right"), At("y", tall, height, "top", "bottom"));
                a.Remove("xFrom");
                a.Remove("yFrom");
                (a["x"], a["y"]) = (x, y);
                if (!free)
                    foreach (var name in (string[])["place", "x", "y"])
                        a.Remove(name);
            }
            stack.Push((o["content"], free && (string?)o["type"] is not ("table" or "box")));
        }
    }
}
