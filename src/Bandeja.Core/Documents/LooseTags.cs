using System.Runtime.CompilerServices;
using System.Text.RegularExpressions;
using Bandeja.Core.Composition;

namespace Bandeja.Core.Documents;

/// <summary>Text of a design that looks like a field and is none: it prints as it is, for everybody.</summary>
/// <param name="Written">As it stands in the text.</param>
/// <param name="Field">The field that is meant, as the field language writes it; null where that is not known.</param>
public sealed record LooseTag(string Written, string? Field)
{
    /// <summary>What to do about it.</summary>
    public string Advice =>
        Written == LooseTags.Brace ? "It directly follows a field. Remove it."
        : Field is null ? "Replace it with your own words, or with a field."
        : $"Make it the field {{{Field}}}.";
}

/// <summary>
/// Finds what was meant as a field in the text of a design: [First name] that was typed by hand or pasted, [insert date here]. What is
/// between braces is a field or a mistake, and is told elsewhere.
/// </summary>
public static partial class LooseTags
{
    /// <summary>A recipient may be shown this many; a design with more of them has been brought in wrong as a whole.</summary>
    const int Most = 20;

    internal const string Brace = "}";

    static readonly IReadOnlyList<TagMarks> Marks =
    [
        .. TagMarks.Known.Where(m => m.Close.Length > 0 && !m.Open.Contains('{')),
        new("<", ">"),
    ];

    // A design is bound once and composed for thousands.
    static readonly ConditionalWeakTable<IBoundDesign, IReadOnlyList<LooseTag>> Known = [];

    /// <summary>What stands in a design, each once, in its order.</summary>
    public static IReadOnlyList<LooseTag> In(IBoundDesign design) =>
        Known.GetValue(design, d => Find(d.WholeText(), new(d.Setting.Columns, d.Setting.Details ?? [], d.Setting.Locale)));

    /// <summary>What stands in a text.</summary>
    /// <param name="setting">The list whose names are known.</param>
    public static IReadOnlyList<LooseTag> Find(string text, PlaceholderSetting setting)
    {
        var matching = new PlaceholderMatching(setting);
        // What says to fill it in is no name, though “your name” would be one.
        var found = Asks().Matches(text).Select(m => (At: m.Index, Tag: new LooseTag(m.Value, null))).ToList();
        foreach (var (marks, from, to, tag) in TagScan.Find(text, Marks, ours: false))
        {
            var written = text[from..to];
            var inner = written[marks.Open.Length..^marks.Close.Length].Trim();
            // An email address in angle brackets is one, though it ends in a word that a heading may have.
            if (
                found.Any(f => f.At == from)
                || inner.Contains('@')
                || marks.Open is not ("<<" or "[[") && tag.Kind == TagKind.Value && inner != tag.Name
            )
                continue;
            // Conditions and repeats of other programs.
            if (tag.Kind != TagKind.Value && marks.Open is "<<" or "[[")
                found.Add((from, new(written, null)));
            if (tag.Kind != TagKind.Value || tag.Name.Length == 0 || !char.IsLetter(tag.Name[0]))
                continue;
            var meant = matching.IsKnown(tag.Name) ? matching.Match(tag.Name, null).Answer?.Value : null;
            // Angle quotes are quotation marks in many languages, and single brackets hold notes: there only a known name is a field. Marks
            // that nothing else has are told with any name.
            if (meant is not null || marks.Open is "<<" or "[[" && tag.Name.Count(c => c == ' ') <= 4)
                found.Add((from, new(written, meant)));
        }
        // A brace too many, as in {Name}}.
        if (text.IndexOf("\uFFFC}", StringComparison.Ordinal) is >= 0 and var brace)
            found.Add((brace, new(Brace, null)));
        return [.. found.OrderBy(f => f.At).Select(f => f.Tag).DistinctBy(t => t.Written).Take(Most)];
    }

    /// <summary>What asks its writer to fill something in: [insert date], &lt;enter amount here&gt;.</summary>
    [GeneratedRegex(
        @"[\[<](?:please\s+)?(?:insert|enter|type|add|fill in|your)\s[^\[\]<>\n\uFFFC]{1,60}[\]>]",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Asks();
}
