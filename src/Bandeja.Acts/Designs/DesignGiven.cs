using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Store;

namespace Bandeja.Acts.Designs;

static class DesignGiven
{
    const int LongestDocument = 2_000_000,
        MostTags = 20,
        LongestTag = 40;

    /// <summary>A design's name.</summary>
    public static string Name(string? name) => Given.Name(name, "letter");

    /// <summary>A document that can be read, with its kind.</summary>
    public static PieceKind Kind(string document) =>
        document.Length > LongestDocument
            ? throw new BadInputException("A letter can have up to 2 million characters, including formatting.")
            : DesignReader.Validate(document);

    /// <summary>Tags, each once.</summary>
    public static IReadOnlyList<string>? Tags(IReadOnlyList<string>? tags)
    {
        var own = tags?.Select(t => t.Trim()).Where(t => t.Length > 0).Distinct(StringComparer.OrdinalIgnoreCase).ToList();
        return own?.Count > MostTags || own?.Any(t => t.Length > LongestTag) == true
            ? throw new BadInputException($"A design can have {MostTags} tags of {LongestTag} characters.")
            : own;
    }
}
