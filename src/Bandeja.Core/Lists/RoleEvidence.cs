using System.Text.RegularExpressions;
using Bandeja.Core.Checks;
using Bandeja.Core.Places;

namespace Bandeja.Core.Lists;

/// <summary>A role that a column seems to have.</summary>
/// <param name="Role">The role.</param>
/// <param name="Confidence">How sure that is, in percent.</param>
/// <param name="Why">What it was taken from.</param>
public sealed record RoleGuess(Role Role, int Confidence, string Why)
{
    /// <summary>Nothing is known.</summary>
    public static readonly RoleGuess None = new(Role.None, 0, "");
}

/// <summary>Recognises roles from headings and from the values themselves.</summary>
public static partial class RoleEvidence
{
    static readonly HashSet<string> Titles = new("mr mrs ms miss mx dr prof rev herr frau sr sra srta mme m mlle".Split(' '));
    static readonly HashSet<string> Languages = new("en es de fr it pt nl sv da no nb fi pl ja zh ko en-us en-gb es-mx english spanish german french espanol deutsch francais".Split(' '));

    /// <summary>The roles of all columns; each role is given once, to the column that is surest of it.</summary>
    public static IReadOnlyList<RoleGuess> Of(IReadOnlyList<string> headings, Func<int, IEnumerable<string?>> values, Country home)
    {
        var guesses = headings.Select((heading, i) =>
        {
            var filled = values(i).Where(v => !string.IsNullOrWhiteSpace(v)).Take(400).Select(v => v!.Trim()).ToList();
            var byHeading = RoleRecognizer.FromHeading(heading);
            return byHeading == Role.None ? FromValues(filled, home) : Confirmed(byHeading, filled, home);
        }).ToList();
        foreach (var rivals in guesses.Select((g, i) => (g, i)).Where(x => x.g.Role != Role.None).GroupBy(x => x.g.Role).Where(g => g.Count() > 1).ToList())
            foreach (var (_, i) in rivals.OrderByDescending(x => x.g.Confidence).ThenBy(x => x.i).Skip(1)) guesses[i] = RoleGuess.None;
        return guesses;
    }

    static RoleGuess Confirmed(Role role, List<string> values, Country home)
    {
        if (values.Count == 0) return new(role, 80, "the heading");
        // A column called Address may hold the whole of it, one called Name an organisation's desk.
        if (role is Role.Street or Role.City && Share(values, v => AddressParts.Of(v, home) is { PostalCode: not null, City: not null }) > 0.7) return new(Role.WholeAddress, 85, "the values: street, city and postal code together");
        var fits = role switch
        {
            Role.Email => Share(values, EmailAddress.IsValid),
            Role.PostalCode => Share(values, v => v.Any(char.IsAsciiDigit) && v.Length <= 10),
            Role.Phone => Share(values, v => Phone().IsMatch(v)),
            Role.Country => Share(values, v => Countries.Named(v) is not null),
            _ => 1,
        };
        return fits >= 0.5 ? new(role, 97, "the heading") : new(role, 60, "the heading; the values look otherwise");
    }

    static RoleGuess FromValues(List<string> values, Country home)
    {
        if (values.Count < 3) return RoleGuess.None;
        foreach (var (role, confidence, test) in Tests(home))
        {
            var share = Share(values, test);
            if (share >= 0.8) return new(role, (int)(confidence * share), "the values");
        }
        // Given names repeat, and enough of them are well known.
        if (Share(values, v => v.Length <= 20 && v.All(c => char.IsLetter(c) || c is '-' or ' ' or '.') && PersonChecks.IsGivenName(v.Split(' ')[0])) > 0.3) return Share(values, v => v.Contains(' ')) > 0.7 ? new(Role.FullName, 60, "the values") : new(Role.GivenName, 65, "the values");
        if (values.Distinct(StringComparer.OrdinalIgnoreCase).Count() == values.Count && values.Count > 20 && Share(values, v => Code().IsMatch(v)) > 0.98) return new(Role.Key, 60, "the values: each is there once");
        return RoleGuess.None;
    }

    static IEnumerable<(Role, int, Func<string, bool>)> Tests(Country home)
    {
        yield return (Role.Email, 95, EmailAddress.IsValid);
        yield return (Role.WholeAddress, 85, v => AddressParts.Of(v, home) is { PostalCode: not null, City: not null });
        yield return (Role.Title, 90, v => Titles.Contains(FoldedText.Of(v.TrimEnd('.'))));
        yield return (Role.Country, 90, v => v.Length > 1 && !(v.Length == 2 && home.RegionOf(v) is not null) && Countries.Named(v) is not null);
        yield return (Role.Region, 85, v => home.RegionOf(v) is not null);
        yield return (Role.Language, 80, v => Languages.Contains(FoldedText.Of(v)));
        // Nine digits and more: a date has eight.
        yield return (Role.Phone, 80, v => Phone().IsMatch(v) && (v.Count(char.IsAsciiDigit) >= 9 || v[0] is '+' or '('));
        // A code that lost its zero looks like a year; values alone do not make it a postal code.
        yield return (Role.PostalCode, 70, v => PostalCode.Judge(home, v).State is PostalCodeState.Right or PostalCodeState.OtherForm);
        yield return (Role.Street, 80, v => Street().IsMatch(v));
    }

    static double Share(List<string> values, Func<string, bool> test) => (double)values.Count(test) / values.Count;

    [GeneratedRegex(@"^\+?[\d\s().\-/]{7,20}(\s*(x|ext\.?)\s*\d+)?$", RegexOptions.CultureInvariant | RegexOptions.IgnoreCase)]
    private static partial Regex Phone();

    [GeneratedRegex(@"^(\d+[\w-]*\s+\p{L}.{2,}|p\.?\s?o\.?\s+box\s+\d+.*|\p{L}[\p{L}.\- ]{3,}\s\d+\w?)$", RegexOptions.CultureInvariant | RegexOptions.IgnoreCase)]
    private static partial Regex Street();

    [GeneratedRegex(@"^[A-Za-z]{0,4}[-_ ]?\d{2,12}$", RegexOptions.CultureInvariant)]
    private static partial Regex Code();
}
