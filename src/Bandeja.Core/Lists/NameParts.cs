namespace Bandeja.Core.Lists;

/// <summary>The parts of a whole name that stands in one cell.</summary>
public sealed record NameParts(string? Title, string? Given, string? Family)
{
    static readonly HashSet<string> Titles = new(StringComparer.OrdinalIgnoreCase) { "mr", "mrs", "ms", "miss", "mx", "dr", "prof", "rev", "sir", "lady", "herr", "frau", "sr", "sra", "srta", "señor", "señora", "mme", "mlle", "monsieur", "madame", "hon" };
    static readonly HashSet<string> Suffixes = new(StringComparer.OrdinalIgnoreCase) { "jr", "sr", "ii", "iii", "iv", "phd", "md", "esq" };
    static readonly HashSet<string> Particles = new(StringComparer.OrdinalIgnoreCase) { "van", "von", "de", "del", "della", "di", "da", "dos", "das", "du", "la", "le", "el", "al", "bin", "ibn", "ter", "ten", "den", "der", "zu" };

    /// <summary>Divides <c>Dr. Ana de la Cruz</c>, <c>Okafor, Ana</c>, <c>Luis Ortega Jr.</c> A single word is a family name.</summary>
    public static NameParts Of(string name)
    {
        var words = name.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).ToList();
        var titles = new List<string>();
        while (words.Count > 1 && Titles.Contains(words[0].TrimEnd('.', ','))) { titles.Add(words[0].TrimEnd(',')); words.RemoveAt(0); }
        var title = titles.Count == 0 ? null : string.Join(' ', titles);
        var comma = words.FindIndex(w => w.EndsWith(','));
        if (comma >= 0 && comma < words.Count - 1 && !Suffixes.Contains(words[comma + 1].TrimEnd('.')))
            return new(title, string.Join(' ', words.Skip(comma + 1)), string.Join(' ', words.Take(comma + 1)).TrimEnd(','));
        if (words.Count < 2) return new(title, null, words.Count == 0 ? null : words[0]);
        var end = words.Count - 1;
        if (end > 1 && Suffixes.Contains(words[end].TrimEnd('.'))) end--;
        var start = end;
        while (start > 1 && Particles.Contains(words[start - 1])) start--;
        return new(title, string.Join(' ', words.Take(start)), string.Join(' ', words.Skip(start)));
    }
}
