using System.Text.RegularExpressions;

namespace Bandeja.Core.Matching;

/// <summary>Tells the names of organizations from those of people: nobody is a member of the family of a library.</summary>
public static partial class OrganizationName
{
    // Legal forms (ISO 20275, Entity Legal Forms, the commonest) and words that nobody is called by.
    [GeneratedRegex(
        @"\b(inc|incorporated|llc|llp|ltd|limited|corp|corporation|plc|gmbh|mbh|kgaa|ohg|e\.? ?v\.?|s\.?a\.?r\.?l|s\.?p\.?a|"
            + @"s\.?r\.?l|b\.?v|n\.?v|oy|a/s|aps|pty|sp\. ?z ?o\.? ?o|s\.? ?r\.? ?o|kft|zrt|company|holdings?|associates|enterprises|"
            + @"industries|international|solutions|systems|technologies|logistics|consulting|"
            + "library|libraries|high school|elementary|middle "
            + "school|schule|grundschule|gymnasium|kindergarten|college|university|"
            + "universität|universidad|università|universit[ée]|academy|"
            + "institute|instituto|institut|museum|museo|mus[ée]e|gallery|theat(er|re)|clinic|parish|synagogue|mosque|cathedral|"
            + "seminary|convent|foundation|stiftung|fundaci[óo]n|fondation|fondazione|funda[çc][ãa]o|"
            + "society|gesellschaft|association|verein|verband|asociaci[óo]n|associazione|associa[çc][ãa]o|council|"
            + "committee|commission|department|dept|ministry|bureau|agency|credit union|hotel|restaurant|caf[ée]|bakery|"
            + "hardware|nursery|winery|brewery|bookstore|pharmacy|apotheke|services?|laborator(y|ies)|realty|"
            + "insurance|dental|orthopedics|pediatrics|plumbing|electric|construction|landscaping|"
            + @"city of|county of|town of|state of|village of|friends of|bank of|church of|sons of|daughters of|knights of|stadt|"
            + @"gemeinde|bibliothek|stadtb[üu]cherei|biblioteca|biblioth[èe]que|biblioteka|kirchengemeinde|bros|brothers|株式会社|有限会社|"
            + @"合同会社|有限公司|大学|図書館|图书馆|协会|협회|주식회사|도서관)\b|(株式会社|有限会社|有限公司|大学|図書館|图书馆|주식회사|도서관)",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Sure();

    // Words that are family names as well.
    [GeneratedRegex(
        @"\b(ag|kg|co|ab|as|s\.? ?a|s\.? ?l|group|partners|church|kirche|temple|school|hospital|trust|club|union|office|bank|"
            + @"garden(s)?|farm(s)?|books|store|shop|market|studio(s)?|chapel|hall|house|center|centre|amt|works|mill(s)?|press|sons|"
            + @"daughters)\b",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Perhaps();

    [GeneratedRegex(
        @"(&|\band\b)\s*(sons?|daughters?|co\b|company|partners?|associates|brothers|cie|söhne|hijos|figli|fils)|"
            + @"\b(the\s+\p{L}+\s+(family\s+)?(foundation|fund|project|league|alliance|trust))\b",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Firm();

    /// <summary>True where a name in one piece reads as that of an organization.</summary>
    public static bool Is(string? name) =>
        !string.IsNullOrWhiteSpace(name) && (IsSurely(name) || Perhaps().IsMatch(name) && !IsSomebody(name));

    /// <summary>True where it can be nobody else's.</summary>
    public static bool IsSurely(string name) => Sure().IsMatch(name) || Firm().IsMatch(name);

    [GeneratedRegex(@",?\s+(jr|sr|ii|iii|iv|phd|md)\.?$", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Generation();

    /// <summary>Frank Church: a given name and one word after it.</summary>
    static bool IsSomebody(string name) =>
        Generation().Replace(name, "").Split(' ', StringSplitOptions.RemoveEmptyEntries) is { Length: 2 or 3 } words
        && Texts.KnownNames.IsGiven(words[0])
        && (words.Length == 2 || words[1].TrimEnd('.').Length == 1 || Texts.KnownNames.IsGiven(words[1]));
}
