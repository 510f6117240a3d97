using System.Globalization;

namespace Bandeja.Core.Language;

/// <summary>How an organisation writes numbers, money and dates.</summary>
public sealed class OrganisationLocale
{
    /// <summary>The BCP 47 tags that can be chosen.</summary>
    public static readonly IReadOnlyList<string> Known = ["en-US", "en-GB", "en-CA", "es-ES", "es-MX", "de-DE", "fr-FR"];

    /// <summary>United States English and dollars.</summary>
    public static readonly OrganisationLocale UnitedStates = new("en-US", "USD");

    /// <summary>Makes a locale.</summary>
    /// <param name="tag">A BCP 47 tag, one of <see cref="Known"/>; another falls back to en-US.</param>
    /// <param name="currency">An ISO 4217 code; prints as its symbol where one is known.</param>
    public OrganisationLocale(string tag, string currency)
    {
        Tag = Known.Contains(tag) ? tag : "en-US";
        Currency = currency;
        var culture = (CultureInfo)CultureInfo.GetCultureInfo(Tag).Clone();
        culture.NumberFormat.CurrencySymbol = currency switch { "USD" or "MXN" or "CAD" => "$", "EUR" => "€", "GBP" => "£", "CHF" => "CHF", _ => currency };
        Culture = CultureInfo.ReadOnly(culture);
        (DateLong, DateMedium, DateShort) = Tag switch
        {
            "en-US" or "en-CA" => ("MMMM d, yyyy", "MMM d, yyyy", "M/d/yyyy"),
            "en-GB" => ("d MMMM yyyy", "d MMM yyyy", "dd/MM/yyyy"),
            "es-ES" or "es-MX" => ("d 'de' MMMM 'de' yyyy", "d MMM yyyy", "dd/MM/yyyy"),
            "de-DE" => ("d. MMMM yyyy", "dd.MM.yyyy", "dd.MM.yy"),
            _ => ("d MMMM yyyy", "d MMM yyyy", "dd/MM/yyyy"),
        };
        (Yes, No) = Tag[..2] switch { "es" => ("sí", "no"), "de" => ("ja", "nein"), "fr" => ("oui", "non"), _ => ("yes", "no") };
    }

    /// <summary>The BCP 47 tag.</summary>
    public string Tag { get; }
    /// <summary>The ISO 4217 currency code.</summary>
    public string Currency { get; }
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
