using System.Globalization;

namespace Bandeja.Core.Language;

/// <summary>How an organization, or a recipient, has numbers, money and dates written.</summary>
public sealed class OrganizationLocale
{
    /// <summary>Dates by Unicode CLDR 46 (long, medium, short) and the words for yes and no, by BCP 47 tag. The first tag of a language is
    /// the one meant where only the language is named.</summary>
    static readonly (string Tag, string Long, string Medium, string Short, string Yes, string No)[] Table =
    [
        ("en-US", "MMMM d, yyyy", "MMM d, yyyy", "M/d/yyyy", "yes", "no"),
        ("en-GB", "d MMMM yyyy", "d MMM yyyy", "dd/MM/yyyy", "yes", "no"),
        ("en-CA", "MMMM d, yyyy", "MMM d, yyyy", "M/d/yyyy", "yes", "no"),
        ("en-AU", "d MMMM yyyy", "d MMM yyyy", "d/M/yyyy", "yes", "no"),
        ("en-NZ", "d MMMM yyyy", "d MMM yyyy", "d/MM/yyyy", "yes", "no"),
        ("en-IE", "d MMMM yyyy", "d MMM yyyy", "dd/MM/yyyy", "yes", "no"),
        ("es-ES", "d 'de' MMMM 'de' yyyy", "d MMM yyyy", "dd/MM/yyyy", "sí", "no"),
        ("es-MX", "d 'de' MMMM 'de' yyyy", "d MMM yyyy", "dd/MM/yyyy", "sí", "no"),
        ("es-US", "d 'de' MMMM 'de' yyyy", "d MMM yyyy", "d/M/yyyy", "sí", "no"),
        ("de-DE", "d. MMMM yyyy", "dd.MM.yyyy", "dd.MM.yy", "ja", "nein"),
        ("de-AT", "d. MMMM yyyy", "dd.MM.yyyy", "dd.MM.yy", "ja", "nein"),
        ("de-CH", "d. MMMM yyyy", "dd.MM.yyyy", "dd.MM.yy", "ja", "nein"),
        ("fr-FR", "d MMMM yyyy", "d MMM yyyy", "dd/MM/yyyy", "oui", "non"),
        ("fr-CA", "d MMMM yyyy", "d MMM yyyy", "yyyy-MM-dd", "oui", "non"),
        ("fr-CH", "d MMMM yyyy", "d MMM yyyy", "dd.MM.yy", "oui", "non"),
        ("it-IT", "d MMMM yyyy", "d MMM yyyy", "dd/MM/yy", "sì", "no"),
        ("nl-NL", "d MMMM yyyy", "d MMM yyyy", "dd-MM-yyyy", "ja", "nee"),
        ("pt-PT", "d 'de' MMMM 'de' yyyy", "dd/MM/yyyy", "dd/MM/yy", "sim", "não"),
        ("pt-BR", "d 'de' MMMM 'de' yyyy", "d 'de' MMM 'de' yyyy", "dd/MM/yyyy", "sim", "não"),
        ("sv-SE", "d MMMM yyyy", "d MMM yyyy", "yyyy-MM-dd", "ja", "nej"),
        ("da-DK", "d. MMMM yyyy", "d. MMM yyyy", "dd.MM.yyyy", "ja", "nej"),
        ("nb-NO", "d. MMMM yyyy", "d. MMM yyyy", "dd.MM.yyyy", "ja", "nei"),
        ("fi-FI", "d. MMMM yyyy", "d.M.yyyy", "d.M.yyyy", "kyllä", "ei"),
        ("pl-PL", "d MMMM yyyy", "d MMM yyyy", "d.MM.yyyy", "tak", "nie"),
        ("cs-CZ", "d. MMMM yyyy", "d. M. yyyy", "dd.MM.yy", "ano", "ne"),
        ("el-GR", "d MMMM yyyy", "d MMM yyyy", "d/M/yy", "ναι", "όχι"),
        ("vi-VN", "d MMMM, yyyy", "d MMM, yyyy", "d/M/yy", "có", "không"),
        ("tr-TR", "d MMMM yyyy", "d MMM yyyy", "d.MM.yyyy", "evet", "hayır"),
    ];

    /// <summary>The BCP 47 tags that can be chosen.</summary>
    public static readonly IReadOnlyList<string> Known = [.. Table.Select(t => t.Tag)];

    /// <summary>United States English and dollars.</summary>
    public static readonly OrganizationLocale UnitedStates = new("en-US", "USD");

    /// <summary>Whether lengths are said in inches, otherwise in millimeters.</summary>
    public bool InInches { get; init; }

    /// <summary>A length as it is said, such as 0.13 in or 3.2 mm.</summary>
    /// <param name="points">Points of 1/72 inch.</param>
    public string Length(double points) =>
        InInches
            ? (points / 72).ToString("0.###", CultureInfo.InvariantCulture) + " in"
            : (points * 25.4 / 72).ToString("0.##", CultureInfo.InvariantCulture) + " mm";

    /// <summary>Makes a locale.</summary>
    /// <param name="tag">A BCP 47 tag, one of <see cref="Known"/>; another falls back to en-US.</param>
    /// <param name="currency">An ISO 4217 code; prints as its symbol where one is known.</param>
    public OrganizationLocale(string tag, string currency)
        : this(tag, currency, null) { }

    OrganizationLocale(string tag, string currency, string? country)
    {
        (Tag, DateLong, DateMedium, DateShort, Yes, No) = Table.FirstOrDefault(t => t.Tag == tag) is { Tag: not null } found
            ? found
            : Table[0];
        Currency = currency;
        Country = country ?? Tag[3..];
        var culture = (CultureInfo)CultureInfo.GetCultureInfo(Tag).Clone();
        culture.NumberFormat.CurrencySymbol = currency switch
        {
            "USD" or "MXN" or "CAD" or "AUD" or "NZD" => "$",
            "EUR" => "€",
            "GBP" => "£",
            "CHF" => "CHF",
            _ => currency,
        };
        Culture = CultureInfo.ReadOnly(culture);
    }

    /// <summary>The locale of a language as a list names it: a tag (<c>es</c>, <c>es-MX</c>), or its name in English or in itself. The
    /// currency and the country stay the organization's; null where the language is not known.</summary>
    public static OrganizationLocale? ForLanguage(string language, OrganizationLocale organization)
    {
        var name = language.Trim().Replace('_', '-');
        bool Is(string other) => other.Equals(name, StringComparison.OrdinalIgnoreCase);
        // A bare language means the organization's own way of it where that is its language.
        var tags = Known
            .OrderBy(t =>
                t == organization.Tag ? 0
                : t[3..] == organization.Country ? 1
                : 2
            )
            .ToList();
        var tag =
            tags.FirstOrDefault(Is)
            ?? tags.FirstOrDefault(t => Is(t[..2]))
            ?? tags.FirstOrDefault(t =>
            {
                var culture = CultureInfo.GetCultureInfo(t[..2]);
                return Is(culture.EnglishName) || Is(culture.NativeName);
            })
            ?? (
                name.Length > 3 && name[2] == '-'
                    ? tags.FirstOrDefault(t => t[..2].Equals(name[..2], StringComparison.OrdinalIgnoreCase))
                    : null
            );
        return tag is null ? null
            : tag == organization.Tag ? organization
            : new(tag, organization.Currency, organization.Country) { InInches = organization.InInches };
    }

    /// <summary>The organization's country, ISO 3166-1.</summary>
    public string Country { get; }

    /// <summary>The BCP 47 tag.</summary>
    public string Tag { get; }

    /// <summary>The ISO 4217 currency code.</summary>
    public string Currency { get; }

    /// <summary>How the program says days to the people who work with it.</summary>
    public DayWords Days => DayWords.For(Tag);

    /// <summary>Names and number formats.</summary>
    public CultureInfo Culture { get; }

    /// <summary>CLDR pattern of a long date.</summary>
    public string DateLong { get; }

    /// <summary>CLDR pattern of a date of middle length.</summary>
    public string DateMedium { get; }

    /// <summary>CLDR pattern of a short date.</summary>
    public string DateShort { get; }

    /// <summary>The word for yes.</summary>
    public string Yes { get; }

    /// <summary>The word for no.</summary>
    public string No { get; }
}
