using System.Globalization;
using System.Text;
using System.Xml.Linq;
using static Bandeja.Formats.Documents.WordXml;

namespace Bandeja.Formats.Documents;

/// <summary>A level of a list.</summary>
/// <param name="Style">How its number is written, as a letter's list says it; null for a bullet.</param>
/// <param name="Template">What stands beside the item, with <c>%1</c> to <c>%9</c> for the numbers of the levels; or the bullet.</param>
/// <param name="Left">Points from the left margin to the text.</param>
/// <param name="Hang">Points from the label to the text.</param>
sealed record ListLevel(string? Style, string Template, int Start, double Left, double Hang);

/// <summary>The lists of a document, and how far each has counted (ECMA-376 part 1, section 17.9).</summary>
sealed class WordNumbering
{
    const int Levels = 9;
    readonly Dictionary<string, (string Abstract, IReadOnlyList<ListLevel> Levels)> lists = [];
    readonly Dictionary<string, int[]> counts = [];
    readonly HashSet<(string, int)> restarted = [];
    readonly Dictionary<(string, int), int> overrides = [];

    public WordNumbering(XElement? part)
    {
        var kinds = part.Children("abstractNum")
            .Where(a => a.Value("abstractNumId") is not null)
            .GroupBy(a => a.Value("abstractNumId")!)
            .ToDictionary(g => g.Key, g => g.First());
        foreach (var num in part.Children("num"))
        {
            if (num.Value("numId") is not { } id || num.Child("abstractNumId").Value() is not { } kind)
                continue;
            var levels = new ListLevel[Levels];
            for (var i = 0; i < Levels; i++)
            {
                var own = num.Children("lvlOverride").FirstOrDefault(o => o.Value("ilvl") == i.ToString(CultureInfo.InvariantCulture));
                var level =
                    own.Child("lvl")
                    ?? kinds
                        .GetValueOrDefault(kind)
                        .Children("lvl")
                        .FirstOrDefault(l => l.Value("ilvl") == i.ToString(CultureInfo.InvariantCulture));
                levels[i] = Level(level, i);
                if (Whole(own.Child("startOverride").Value()) is { } start)
                    overrides[(id, i)] = start;
            }
            lists[id] = (kind, levels);
        }
    }

    static ListLevel Level(XElement? level, int index)
    {
        var format = level.Child("numFmt").Value() ?? (level is null ? "bullet" : "decimal");
        var text = level.Child("lvlText").Value() ?? (level is null ? "•" : $"%{index + 1}.");
        var indent = level.Child("pPr").Child("ind");
        var left = Points(indent.Value("left") ?? indent.Value("start")) ?? 36 * (index + 1);
        var hang = Points(indent.Value("hanging")) ?? 18;
        var style = format switch
        {
            "bullet" or "none" => null,
            "lowerLetter" => "lower-alpha",
            "upperLetter" => "upper-alpha",
            "lowerRoman" => "lower-roman",
            "upperRoman" => "upper-roman",
            "decimalZero" => "decimal-leading-zero",
            _ => "decimal",
        };
        return new(
            style,
            style is null ? (format == "none" ? "" : Bullet(text)) : text,
            Whole(level.Child("start").Value()) ?? 1,
            left,
            hang
        );
    }

    /// <summary>Bullets are drawn in fonts of signs, whose characters mean something else elsewhere.</summary>
    static string Bullet(string text) =>
        text.Length == 0
            ? "•"
            : text[0] switch
            {
                '\uF0B7' or '\uF06C' or '·' => "•",
                '\uF0A7' or '\uF06E' or '\uF0A8' => "▪",
                '\uF0FC' => "✓",
                '\uF0D8' or '\uF0E0' or '\uF0C4' => "›",
                '\uF076' => "❖",
                'o' => "◦",
                >= '\uE000' and <= '\uF8FF' => "•",
                _ => text.Length > 8 ? text[..8] : text,
            };

    /// <summary>The levels of a list; null where there is none of that id.</summary>
    public IReadOnlyList<ListLevel>? Of(string? id) => id is not null && lists.TryGetValue(id, out var l) ? l.Levels : null;

    /// <summary>Counts one item; answers its number.</summary>
    public int Count(string id, int level)
    {
        var (kind, levels) = lists[id];
        if (!counts.TryGetValue(kind, out var numbers))
            counts[kind] = numbers = [.. levels.Select(l => l.Start - 1)];
        // A list that starts anew does so once, where its level is first met.
        if (overrides.TryGetValue((id, level), out var start) && restarted.Add((id, level)))
            numbers[level] = start - 1;
        numbers[level]++;
        for (var i = level + 1; i < Levels; i++)
            numbers[i] = levels[i].Start - 1;
        return numbers[level];
    }

    /// <summary>A level's number, as it is written now.</summary>
    public string Written(string id, int level) =>
        Bandeja.Core.Composition.ListNumber.Written(Math.Max(1, counts[lists[id].Abstract][level]), lists[id].Levels[level].Style);

    /// <summary>A level's label with all its numbers written out.</summary>
    public string WrittenOut(string id, int level)
    {
        var label = new StringBuilder(lists[id].Levels[level].Template);
        for (var i = 0; i <= level; i++)
            label.Replace($"%{i + 1}", Written(id, i));
        return label.ToString();
    }
}
