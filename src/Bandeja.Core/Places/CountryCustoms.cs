namespace Bandeja.Core.Places;

/// <summary>How lengths, and weights of paper, are shown.</summary>
public enum Units
{
    /// <summary>As the organization's country measures.</summary>
    ByCountry,

    /// <summary>Inches, and paper by its basis weight.</summary>
    Inches,

    /// <summary>Millimeters, and paper by grams of a square meter.</summary>
    Millimeters,
}

/// <summary>What is usual in a country, and can be changed afterward.</summary>
/// <param name="Locale">How numbers and dates are written, a tag of <c>OrganizationLocale.Known</c>.</param>
/// <param name="Currency">ISO 4217.</param>
/// <param name="Sheet">The paper of letters: <c>letter</c> or <c>a4</c>.</param>
/// <param name="InInches">Whether lengths are measured in inches, and paper is weighed by its basis weight.</param>
public sealed record CountryCustoms(string Locale, string Currency, string Sheet, bool InInches)
{
    // Unicode CLDR, supplemental data, measurementData: territories with the measurement system US, and those of the United States.
    static readonly HashSet<string> OnInches = [.. "US PR GU VI AS MP UM LR MM".Split(' ')];

    // Unicode CLDR, supplemental data, measurementData: territories with the paper size US-Letter.
    static readonly HashSet<string> OnLetter = [.. "BZ CA CL CO CR GT MX NI PA PH PR SV US VE GU VI AS MP".Split(' ')];

    // ISO 4217: where the euro is the currency.
    static readonly HashSet<string> WithEuro =
    [
        .. "AD AT BE BG CY DE EE ES FI FR GR HR IE IT LT LU LV MC ME MT NL PT SI SK SM VA XK".Split(' '),
    ];

    static readonly HashSet<string> WithDollar = [.. "US PR GU VI AS MP EC SV PA PW FM MH TL".Split(' ')];

    static readonly Dictionary<string, string> Currencies = new()
    {
        ["GB"] = "GBP",
        ["CA"] = "CAD",
        ["MX"] = "MXN",
        ["AU"] = "AUD",
        ["NZ"] = "NZD",
        ["CH"] = "CHF",
        ["LI"] = "CHF",
        ["SE"] = "SEK",
        ["NO"] = "NOK",
        ["DK"] = "DKK",
        ["PL"] = "PLN",
        ["CZ"] = "CZK",
        ["HU"] = "HUF",
        ["RO"] = "RON",
        ["JP"] = "JPY",
        ["CN"] = "CNY",
        ["KR"] = "KRW",
        ["IN"] = "INR",
        ["BR"] = "BRL",
        ["AR"] = "ARS",
        ["CL"] = "CLP",
        ["CO"] = "COP",
        ["PE"] = "PEN",
        ["ZA"] = "ZAR",
        ["PH"] = "PHP",
        ["SG"] = "SGD",
        ["HK"] = "HKD",
        ["TR"] = "TRY",
        ["IL"] = "ILS",
    };

    static readonly Dictionary<string, string> Locales = new()
    {
        ["US"] = "en-US",
        ["GB"] = "en-GB",
        ["CA"] = "en-CA",
        ["ES"] = "es-ES",
        ["MX"] = "es-MX",
        ["DE"] = "de-DE",
        ["AT"] = "de-DE",
        ["CH"] = "de-DE",
        ["LI"] = "de-DE",
        ["FR"] = "fr-FR",
        ["BE"] = "fr-FR",
        ["LU"] = "fr-FR",
        ["MC"] = "fr-FR",
        ["PR"] = "en-US",
        ["GU"] = "en-US",
        ["VI"] = "en-US",
        ["AS"] = "en-US",
        ["MP"] = "en-US",
        ["PH"] = "en-US",
    };

    static readonly HashSet<string> Spanish = [.. "AR BO CL CO CR CU DO EC GT HN NI PA PE PY SV UY VE".Split(' ')];

    /// <summary>What is usual in a country; where it is not known here, British English, dollars, and A4.</summary>
    /// <param name="country">ISO 3166-1 alpha-2.</param>
    public static CountryCustoms Of(string country) =>
        new(
            Locales.GetValueOrDefault(country, Spanish.Contains(country) ? "es-MX" : "en-GB"),
            WithEuro.Contains(country) ? "EUR"
                : WithDollar.Contains(country) ? "USD"
                : Currencies.GetValueOrDefault(country, "USD"),
            OnLetter.Contains(country) ? "letter" : "a4",
            OnInches.Contains(country)
        );
}
