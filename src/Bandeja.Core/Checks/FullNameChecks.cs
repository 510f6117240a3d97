using Bandeja.Core.Addressing;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Checks;

/// <summary>A whole name in one cell that stands as a sorted list has it: “Okafor, Ana” is printed so, on the envelope and after
/// “Dear”.</summary>
static class FullNameChecks
{
    const int LongestName = 120;

    /// <summary>Tells such a name where it is printed: not where its parts have columns of their own.</summary>
    public static void Check(CheckedRow row)
    {
        if (row[Role.GivenName] is null && row[Role.FamilyName] is null)
        {
            Check(row, Role.FullName);
            Check(row, Role.PartnerFullName);
        }
        // A second owner's whole name may stand in the column of given names, too.
        if (row[Role.PartnerFamilyName] is null)
            Check(row, Role.PartnerGivenName);
        Check(row, Role.AddressedTo);
    }

    static void Check(CheckedRow row, Role role)
    {
        if (row[role] is not { Length: <= LongestName } name || !name.Contains(','))
            return;
        var parts = NameParts.Of(name);
        if (!parts.IsCertain || parts.Family is not { } family || !IsBeforeComma(family, parts.Given ?? parts.PartnerGiven, name))
            return;
        var message = $"{row.Heading(role)} is “{name}”, with the family name first, and it prints that way.";
        var turned = Turned(name, parts, PersonName.IsFamilyFirst(row[Role.Language] ?? ""));
        // Whatever else stands there, such as a nickname, is not for a rule to leave out.
        if (turned is not null && Words(turned).SequenceEqual(Words(name)))
            row.Add(CheckKind.FamilyNameFirst, role, message, turned);
        else
            row.Add(CheckKind.FamilyNameFirst, role, message);
    }

    /// <summary>Whether a comma divides the family name from a given name that follows; the one in “Ana Okafor, MD” does not.</summary>
    static bool IsBeforeComma(string family, string? given, string name)
    {
        var at = name.IndexOf(family, StringComparison.Ordinal);
        if (given is null || at < 0)
            return false;
        var end = at + family.Length;
        var other = name.IndexOf(given, end, StringComparison.Ordinal);
        return other > end && name.AsSpan(end, other - end).Contains(',');
    }

    static string? Turned(string name, NameParts parts, bool familyFirst)
    {
        if (parts.PartnerTitle is null && parts.PartnerGiven is null)
            return new PersonName(parts.Title ?? "", parts.Given!, "", parts.Family!, parts.Suffix ?? "", "", familyFirst).Full;
        // Two people keep the word or sign between them; whose suffix it is cannot be told.
        if (parts.Suffix is not null)
            return null;
        var comma = name.IndexOf(',');
        return $"{name[(comma + 1)..].Trim()} {name[..comma].Trim()}";
    }

    static IEnumerable<string> Words(string name) =>
        name.Split([' ', ','], StringSplitOptions.RemoveEmptyEntries).Order(StringComparer.Ordinal);
}
