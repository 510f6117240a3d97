using System.Text.RegularExpressions;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Addressing;

/// <summary>
/// Whole names that stand with the family name first and no comma, as rolls of owners and taxpayers have them: <c>OKAFOR ANA M</c>. One
/// such name can often be read both ways; a column of them cannot.
/// </summary>
static partial class NameOrder
{
    const int FewestNames = 3;

    /// <summary>Whether the names of a column stand so: at least three that tell, and four for each that tells otherwise. Names with a
    /// comma bear out what others tell, and tell nothing alone.</summary>
    public static bool IsFamilyFirst(IEnumerable<string?> names)
    {
        var (first, last, commas) = (0, 0, 0);
        foreach (var name in names)
        {
            if (name is not { Length: > 2 and <= 80 } || NameParts.Of(name) is not { Organization: null, Household: null } parts)
                continue;
            if (name.Contains(','))
                commas += parts.Given is null ? 0 : 1;
            else if (Told(name) is { } familyFirst)
                (first, last) = familyFirst ? (first + 1, last) : (first, last + 1);
        }
        return first > 0 && first + commas >= FewestNames && first >= last * 4;
    }

    /// <summary>Whether the whole name of somebody's partner stands so: where it begins with the family name of both, or tells by
    /// itself.</summary>
    /// <param name="familyName">The family name of the first; empty where it is not known.</param>
    public static bool IsFamilyFirst(string name, string familyName) =>
        familyName.Length > 0
            && name.Length > familyName.Length
            && name[familyName.Length] == ' '
            && name.StartsWith(familyName, StringComparison.OrdinalIgnoreCase)
            && !name.EndsWith(" " + familyName, StringComparison.OrdinalIgnoreCase)
        || Told(name) == true;

    /// <summary>What one name tells: true for the family name first; null where it can be read both ways, or is none.</summary>
    static bool? Told(string name)
    {
        if (name.IndexOf('(') is > 0 and var bracket)
            name = name[..bracket];
        // Of two people the first tells; the second may have a given name only.
        var words = NameParts.WithoutLegalEnd(NameParts.And().Split(name)[0]).Split(' ', StringSplitOptions.RemoveEmptyEntries).ToList();
        while (words.Count > 2 && NameParts.IsGenerational(words[^1]))
            words.RemoveAt(words.Count - 1);
        if (words.Count is < 2 or > 6 || NameParts.IsTitle(words[0]) || !words.TrueForAll(w => Word().IsMatch(w)))
            return null;
        // De la Cruz Maria.
        var particles = words.TakeWhile(NameParts.IsParticle).Count();
        if (particles > 0)
            return words.Count > particles + 1 && KnownNames.IsGiven(words[particles + 1]) ? true : null;
        if (words.Count > 4)
            return null;
        var (givenFirst, givenSecond) = (KnownNames.IsGiven(words[0]), KnownNames.IsGiven(words[1]));
        // Nobody's family name is a letter.
        if (words.Count == 3 && IsLetter(words[2]) && !IsLetter(words[1]))
            return givenSecond || !givenFirst;
        if (words.Count == 3 && IsLetter(words[1]))
            return false;
        return givenFirst == givenSecond ? null : givenSecond;
    }

    static bool IsLetter(string word) => word.TrimEnd('.').Length == 1;

    /// <summary>The name with a comma behind its family name, as sorted lists have it; unchanged where it plainly stands
    /// otherwise.</summary>
    public static string WithComma(string name)
    {
        var words = name.Split(' ');
        if (name.Contains(',') || words.Length < 2 || NameParts.IsTitle(words[0]))
            return name;
        if (words.Length == 3 && IsLetter(words[1]) && !IsLetter(words[2]))
            return name;
        var end = 0;
        while (end < words.Length - 2 && NameParts.IsParticle(words[end]))
            end++;
        if (NameParts.And().IsMatch($" {words[end + 1]} "))
            return name;
        var suffix = end + 2 < words.Length && NameParts.IsGenerational(words[end + 1]) ? "," : "";
        return $"{string.Join(' ', words[..(end + 1)])}, {words[end + 1]}{suffix} {string.Join(' ', words[(end + 2)..])}".TrimEnd();
    }

    [GeneratedRegex(@"^[\p{L}\p{M}.'’-]+$", RegexOptions.CultureInvariant)]
    private static partial Regex Word();
}
