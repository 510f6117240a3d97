using PhoneNumbers;

namespace Bandeja.Core.Language;

/// <summary>Telephone numbers as they are written where the organization is: its own country's without the prefix, others with it (ITU-T
/// E.123).</summary>
static class PhoneText
{
    static readonly PhoneNumberUtil Phones = PhoneNumberUtil.GetInstance();

    /// <summary>The number in that form; as it stands where it is none.</summary>
    /// <param name="home">The organization's country, ISO 3166-1.</param>
    public static string Of(string text, string home)
    {
        try
        {
            var number = Phones.Parse(text, home);
            if (!Phones.IsPossibleNumber(number))
                return text;
            return Phones.Format(
                number,
                number.CountryCode == Phones.GetCountryCodeForRegion(home) ? PhoneNumberFormat.NATIONAL : PhoneNumberFormat.INTERNATIONAL
            );
        }
        catch (NumberParseException)
        {
            return text;
        }
    }
}
