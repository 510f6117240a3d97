using Bandeja.Core.Lists;
using Bandeja.Core.Matching;

namespace Bandeja.Core.Addressing;

/// <summary>The parts of a person's name, as the columns' roles have them; empty where there is none.</summary>
/// <param name="Whole">The name in one piece, where the list has only that.</param>
/// <param name="FamilyFirst">True where the recipient's language puts the family name first.</param>
public readonly record struct PersonName(
    string Title,
    string Given,
    string Middle,
    string Family,
    string Suffix,
    string Whole,
    bool FamilyFirst
)
{
    // Family name first and no comma: CLDR 46, personNames/nameOrderLocales.
    static readonly HashSet<string> FamilyFirstLanguages = new(StringComparer.OrdinalIgnoreCase)
    {
        "zh",
        "ja",
        "ko",
        "hu",
        "vi",
        "chinese",
        "japanese",
        "korean",
        "hungarian",
        "vietnamese",
        "中文",
        "日本語",
        "한국어",
        "magyar",
        "tiếng việt",
        "chinesisch",
        "japanisch",
        "koreanisch",
        "ungarisch",
        "vietnamesisch",
        "chino",
        "japonés",
        "coreano",
        "húngaro",
        "vietnamita",
        "chinois",
        "japonais",
        "coréen",
        "hongrois",
        "vietnamien",
    };

    /// <summary>True where a language, as a list names it, puts the family name first.</summary>
    public static bool IsFamilyFirst(string language)
    {
        if (language.Length == 0)
            return false;
        if (FamilyFirstLanguages.Contains(language))
            return true;
        return language.Length > 2 && language[2] is '-' or '_' && FamilyFirstLanguages.Contains(language[..2]);
    }

    /// <summary>The recipient's name.</summary>
    public static PersonName Of(RecipientRoles roles, IRow row) =>
        new(
            roles.Of(row, Role.Title),
            roles.Of(row, Role.GivenName),
            roles.Of(row, Role.MiddleName),
            roles.Of(row, Role.FamilyName),
            roles.Of(row, Role.Suffix),
            WholeOf(roles, row),
            IsFamilyFirst(roles.Of(row, Role.Language))
        );

    /// <summary>The name in one piece, without a sign at its end that joins it to the next column.</summary>
    internal static string WholeOf(RecipientRoles roles, IRow row) => roles.Of(row, Role.FullName).TrimEnd(Joining);

    // SMITH JOHN A &, where the second owner stands in the next column.
    static readonly char[] Joining = ['&', '+', ' '];

    /// <summary>The second person's of a household; the parts are empty where there is none. A whole name in a column of its own goes
    /// before parts that may be another's, such as of two people in the first's column. It is divided where that is certain: the first's
    /// family name tells in which order it stands.</summary>
    public static PersonName PartnerOf(RecipientRoles roles, IRow row)
    {
        var familyFirst = IsFamilyFirst(roles.Of(row, Role.Language));
        var partner = new PersonName(
            roles.Of(row, Role.PartnerTitle),
            roles.Of(row, Role.PartnerGivenName),
            "",
            roles.Of(row, Role.PartnerFamilyName),
            "",
            "",
            familyFirst
        );
        if (roles.Of(row, Role.PartnerFullName).Trim(Joining) is not { Length: > 0 } whole)
            return partner;
        partner = partner with { Whole = whole, Title = partner.HasParts ? "" : partner.Title, Given = "", Family = "" };
        var name = NameParts.Of(whole, NameOrder.IsFamilyFirst(whole, roles.Of(row, Role.FamilyName)));
        if (!name.IsCertain || name.Family is not { } family || name.PartnerGiven is not null || name.PartnerTitle is not null)
            return partner;
        partner = partner with { Title = name.Title ?? partner.Title, Suffix = name.Suffix ?? "" };
        // Maria; Maria L.: the family name is the first's.
        if (name.Given is null && name.Title is null)
            return family.Contains(' ') ? partner with { Suffix = "" } : partner with { Given = family };
        if (name.Given is not null && family.TrimEnd('.').Length == 1)
            return partner with { Given = $"{name.Given} {family}" };
        return partner with { Given = name.Given ?? "", Family = family };
    }

    bool HasParts => Given.Length > 0 || Family.Length > 0;

    /// <summary>True where nothing is known of the name.</summary>
    public bool IsEmpty => !HasParts && Whole.Length == 0;

    static string Joined(string a, string b) =>
        a.Length == 0 ? b
        : b.Length == 0 ? a
        : string.Concat(a, " ", b);

    string WithSuffix(string name) =>
        Suffix.Length == 0 || name.Length == 0 ? name
        : Suffix.Length <= 4 && !Suffix.Contains(' ') && !char.IsLower(Suffix[^1]) && Suffix.All(c => c is 'I' or 'V' or 'X')
            ? $"{name} {Suffix}"
        : $"{name}{(Suffix.StartsWith(',') ? "" : NeedsComma(Suffix) ? "," : "")} {Suffix}";

    // Degrees and professions are set off by a comma, Jr. and Sr. are not (The Chicago Manual of Style, 6.43).
    static bool NeedsComma(string suffix) =>
        !(suffix.StartsWith("Jr", StringComparison.OrdinalIgnoreCase) || suffix.StartsWith("Sr", StringComparison.OrdinalIgnoreCase));

    /// <summary>With title, middle name and suffix: <c>Dr. Ana M. Okafor Jr.</c></summary>
    public string Full =>
        !HasParts
            ? Whole
            : WithSuffix(
                FamilyFirst ? Joined(Joined(Title, Family), Joined(Given, Middle)) : Joined(Joined(Title, Given), Joined(Middle, Family))
            );

    /// <summary>Given and family name: <c>Ana Okafor</c>, <c>Ōno Haruki</c>.</summary>
    public string GivenAndFamily =>
        !HasParts ? Whole
        : FamilyFirst ? Joined(Family, Given)
        : Joined(Given, Family);

    /// <summary>Title and family name: <c>Dr. Okafor</c>; empty where one of them is.</summary>
    public string TitleAndFamily => Title.Length > 0 && Family.Length > 0 ? $"{Title} {Family}" : "";

    /// <summary>For sorted lists, the family name first with a comma: <c>Okafor, Ana M.</c>; no comma where the family name comes first
    /// anyway.</summary>
    public string FamilyFirstWithComma =>
        !HasParts ? Whole
        : Family.Length == 0 ? Joined(Given, Middle)
        : Given.Length == 0 ? Family
        : FamilyFirst ? $"{Family} {Joined(Given, Middle)}"
        : $"{Family}, {Joined(Given, Middle)}";

    /// <summary>
    /// Two people as one addressee: <c>Ana and Luis Ortega</c>, <c>Dr. Ana Okafor and Luis Ortega</c>; the one alone where there is no
    /// second.
    /// </summary>
    /// <param name="language">A BCP 47 tag: the word between them.</param>
    public static string Household(PersonName first, PersonName second, string language)
    {
        if (second.IsEmpty)
            return first.Full;
        if (first.IsEmpty)
            return second.Full;
        // Mr. & Mrs. Okafor, with the given name of one of them: the title is of both, and says so already.
        if (IsOfTwo(first.Title) && (first.Given.Length == 0 || second.Given.Length == 0))
            return first.Full;
        // Mr. and Mrs. John Q. Public III: the second has nothing of their own but the title.
        if (
            second.Given.Length == 0
            && first.Title.Length > 0
            && second.Title.Length > 0
            && second.Family.Equals(first.Family, StringComparison.OrdinalIgnoreCase)
        )
            return (
                first with
                {
                    Title = HouseholdName.Of([(first.Title, null), (second.Title, null)], HouseholdForm.GivenNames, language),
                }
            ).Full;
        // What cannot be told apart, or stands beside a whole name, is written as it stands.
        if (!first.HasParts || !second.HasParts)
            return HouseholdName.Of(
                [
                    (first.Full, null),
                    second.Whole.Length > 0 ? (second.Whole, null) : (Joined(second.Title, second.Given), Null(second.Family)),
                ],
                HouseholdForm.GivenNames,
                language
            );
        var titled = first.Title.Length > 0 || second.Title.Length > 0;
        var family = second.Family.Length == 0 ? first.Family : second.Family;
        // A suffix is of the first alone, and a family name that comes first has no place behind both: each is written in full.
        // So is one of whom only the title and the family name are known: Mr. Okafor and Luis Okafor.
        if (
            first.FamilyFirst
            || first.Suffix.Length > 0
            || second.Suffix.Length > 0
            || first.Title.Length > 0 && first.Given.Length == 0 && second.Given.Length > 0
        )
            return HouseholdName.Of(
                [(first.Full, null), ((second with { Family = family }).Full, null)],
                HouseholdForm.GivenNames,
                language
            );
        return HouseholdName.Of(
            [
                (Null(Joined(Joined(titled ? first.Title : "", first.Given), first.Middle)), Null(first.Family)),
                (Null(Joined(titled ? second.Title : "", second.Given)), Null(family)),
            ],
            HouseholdForm.GivenNames,
            language
        );
    }

    static bool IsOfTwo(string title) => title.Contains(' ') && NameParts.And().IsMatch(title);

    static string? Null(string text) => text.Length == 0 ? null : text;
}
