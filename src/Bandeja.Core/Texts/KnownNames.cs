namespace Bandeja.Core.Texts;

/// <summary>Common names of many languages (<c>KnownNames.tsv</c>, which has the sources), for telling which part of a name is
/// which.</summary>
static class KnownNames
{
    static readonly ILookup<(string Kind, string Language), string> All = Read();
    static readonly HashSet<string> GivenNames = [.. All.Where(g => g.Key.Kind == "given").SelectMany(g => g)];

    static ILookup<(string, string), string> Read()
    {
        using var reader = new StreamReader(typeof(KnownNames).Assembly.GetManifestResourceStream("KnownNames.tsv")!);
        return reader
            .ReadToEnd()
            .Split('\n')
            .Where(l => l.Length > 0 && l[0] != '#')
            .Select(l => l.Split('\t'))
            .SelectMany(r =>
                r[2].Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(n => (Key: (r[0], r[1]), Name: FoldedText.Of(n)))
            )
            .ToLookup(x => x.Key, x => x.Name);
    }

    static readonly Dictionary<(string, string), HashSet<string>> Sets = All.ToDictionary(g => g.Key, g => g.ToHashSet());

    /// <summary>True for a common given name of any language.</summary>
    public static bool IsGiven(string word) =>
        GivenNames.Contains(Plain(word)) || word.Split('-') is { Length: 2 } parts && parts.All(p => GivenNames.Contains(Plain(p)));

    /// <summary>True for a common given name of one language.</summary>
    public static bool IsGiven(string word, string language) => Sets[("given", language)].Contains(Plain(word).Replace("-", ""));

    /// <summary>True for a common family name of one language.</summary>
    public static bool IsFamily(string word, string language) => Sets[("family", language)].Contains(Plain(word));

    /// <summary>How many characters of a name without spaces are the family name; 0 where that cannot be told.</summary>
    public static int FamilyCharacters(string name)
    {
        if (name.All(c => c is >= '\uac00' and <= '\ud7a3'))
            return name.Length is < 2 or > 4 ? 0
                : name.Length > 2 && Contains(("hangul2", "ko"), name[..2]) ? 2
                : name.Length == 4 ? 0
                : 1;
        if (name.Length is < 2 or > 4)
            return 0;
        if (name.Length > 2 && Contains(("han2", "zh"), name[..2]))
            return 2;
        return name.Length <= 3 && Contains(("han", "zh"), name[..1]) ? 1 : 0;
    }

    static bool Contains((string, string) key, string text) => Sets[key].Contains(FoldedText.Of(text));

    static string Plain(string word) => FoldedText.Of(word.Trim('.', ',', '\'', '’', '"'));
}
