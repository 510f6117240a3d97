using System.Text.RegularExpressions;

namespace Bandeja.Core.Matching;

/// <summary>Tells the names of organizations from those of people: nobody is a member of the family of a library.</summary>
public static partial class OrganizationName
{
    // Legal forms (ISO 20275, Entity Legal Forms, the commonest) and the words by which institutions call themselves.
    [GeneratedRegex(@"\b(inc|incorporated|llc|llp|ltd|limited|corp|corporation|plc|gmbh|ag|kg|ohg|e\.? ?v|s\.?a\.?r\.?l|s\.? ?a|s\.? ?l|s\.?p\.?a|srl|b\.?v|n\.?v|oy|ab|a/s|aps|pty|company|co|group|holdings?|partners|associates|enterprises|"
        + "library|school|schule|college|university|universität|universidad|universit[ée]|academy|institute|instituto|museum|museo|gallery|theat(er|re)|hospital|clinic|church|kirche|parish|temple|synagogue|mosque|foundation|stiftung|fundaci[óo]n|fondation|trust|"
        + "society|association|verein|asociaci[óo]n|club|council|committee|commission|union|department|ministry|office|bureau|agency|bank|credit union|hotel|restaurant|caf[ée]|bakery|hardware|nursery|garden(s)?|farm(s)?|winery|bookstore|books|store|shop|market|services?|studio(s)?|"
        + @"city of|county of|town of|state of|friends of|bibliothek|biblioteca|biblioth[èe]que|amt)\b", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Words();

    /// <summary>True where a name in one piece reads as that of an organization.</summary>
    public static bool Is(string? name) => !string.IsNullOrWhiteSpace(name) && Words().IsMatch(name);
}
