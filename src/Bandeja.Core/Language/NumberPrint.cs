using System.Globalization;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Language;

/// <summary>Writes numbers as a locale has them. Halves go away from zero.</summary>
static class NumberPrint
{
    /// <summary>As many decimals as a stored value is shown with at most; a spreadsheet keeps 15 digits in all.</summary>
    const int Most = 10;

    /// <summary>A number in the format that is usual for its column.</summary>
    /// <param name="isStored">True for a value as the list has it, which prints with all its decimals; a computed amount has two at most,
    /// or as many as the format asks for.</param>
    /// <param name="withSign">False where the sign stands beside the field already.</param>
    public static string Of(decimal number, UsualFormat format, bool isStored, bool withSign, OrganizationLocale locale)
    {
        if (format.Look == NumberLook.Percent && Math.Abs(number) > decimal.MaxValue / 1000)
            return Percent(number, "0", locale.Culture);
        var shown = format.Look == NumberLook.Percent ? number * 100 : number;
        var most = isStored || format.Look == NumberLook.Number ? Most : Math.Max(2, format.Decimals);
        var has = Scale(decimal.Round(shown, most, MidpointRounding.AwayFromZero));
        var decimals = Math.Max(format.Decimals, format.Look == NumberLook.Money && has > 0 ? Math.Max(2, has) : has);
        return format.Look == NumberLook.Money && withSign
            ? number.ToString("C" + decimals, locale.Culture)
            : shown.ToString("N" + decimals, locale.Culture) + (format.Look == NumberLook.Percent && withSign ? "%" : "");
    }

    /// <summary>The format <c>money</c>.</summary>
    /// <param name="argument">How many decimals, two where nothing is said, and <c>code</c> for the currency's code behind the
    /// number.</param>
    public static string Money(decimal number, string? argument, OrganizationLocale locale)
    {
        var digits = FieldParser.MoneyDigits(argument) ?? 2;
        return argument?.EndsWith("code", StringComparison.Ordinal) == true
            ? number.ToString("N" + digits, locale.Culture) + "\u00a0" + locale.Currency
            : number.ToString("C" + digits, locale.Culture);
    }

    /// <summary>The format <c>percent</c>.</summary>
    public static string Percent(decimal number, string digits, CultureInfo culture) =>
        Math.Abs(number) > decimal.MaxValue / 1000 ? number.ToString(culture) : (number * 100).ToString("N" + digits, culture) + "%";

    /// <summary>The format <c>number</c>: with what divides thousands, and with the decimals it has where nothing is said.</summary>
    public static string Grouped(decimal number, string? digits, CultureInfo culture) =>
        number.ToString(digits is null ? "#,##0.##########" : "N" + digits, culture);

    /// <summary>How many decimals a number has, without zeros at its end: dividing by a one with as many decimals as there can be leaves
    /// none there.</summary>
    static int Scale(decimal number) => (number / 1.0000000000000000000000000000m).Scale;
}
