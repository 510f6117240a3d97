using Bandeja.Core.Lists;

namespace Bandeja.Core.Recognition;

/// <summary>Looks at how the numbers of a column are written, so that they print the same way: the signs that stand with them, their
/// decimals, and what divides their thousands are not kept with the numbers.</summary>
public sealed class WrittenNumbers
{
    int numbers,
        currencies,
        percents,
        grouped,
        ungrouped,
        fewest = int.MaxValue,
        most;
    bool onlyZeros = true;
    IReadOnlyList<string>? codes;
    string example = "";

    /// <summary>Looks at a value as it is written; what is no number is passed over.</summary>
    /// <param name="shown">How a spreadsheet shows the value, where it does so otherwise.</param>
    public void Add(string? value, NumberForm form, string? shown = null)
    {
        if (string.IsNullOrWhiteSpace(value) || !WrittenValue.TryNumber(value, form, out var number))
            return;
        if (shown is not null && FormOf(shown, number) is { } other)
            (value, form) = (shown, other);
        numbers++;
        if (WrittenValue.CurrenciesOf(value) is { Count: > 0 } found)
        {
            currencies++;
            example = value.Trim();
            codes = codes is null ? found : [.. codes.Intersect(found)];
        }
        else if (value.AsSpan().TrimEnd(" )").EndsWith('%'))
            percents++;
        Digits(value, form == NumberForm.Point ? '.' : ',');
    }

    /// <summary>With which decimal sign a spreadsheet's text says a number, be it rounded; null where it is no number.</summary>
    static NumberForm? FormOf(string shown, decimal number)
    {
        var point = WrittenValue.TryNumber(shown, NumberForm.Point, out var asPoint);
        var comma = WrittenValue.TryNumber(shown, NumberForm.Comma, out var asComma);
        return point && (!comma || Math.Abs(asPoint - number) <= Math.Abs(asComma - number)) ? NumberForm.Point
            : comma ? NumberForm.Comma
            : null;
    }

    void Digits(ReadOnlySpan<char> value, char mark)
    {
        var (whole, decimals, inDecimals, divided) = (0, 0, false, false);
        for (var i = 0; i < value.Length; i++)
        {
            var c = value[i];
            if (char.IsAsciiDigit(c))
            {
                if (inDecimals)
                {
                    decimals++;
                    onlyZeros &= c == '0';
                }
                else
                    whole++;
            }
            else if (whole > 0 && i + 1 < value.Length && char.IsAsciiDigit(value[i + 1]))
            {
                inDecimals |= c == mark;
                divided |= c != mark;
            }
        }
        if (divided)
            grouped++;
        else if (whole > 3)
            ungrouped++;
        (fewest, most) = (Math.Min(fewest, decimals), Math.Max(most, decimals));
    }

    /// <summary>The sign that at least half of the numbers have. A few amounts such as “50 USD” among plain numbers do not make a column of
    /// money.</summary>
    NumberLook Look =>
        numbers == 0 ? NumberLook.Number
        : currencies >= numbers - currencies ? NumberLook.Money
        : percents >= numbers - percents ? NumberLook.Percent
        : NumberLook.Number;

    /// <summary>How the numbers print in the way they are written; null where that is as they are stored, or where no format of an
    /// organization says it.</summary>
    /// <param name="currency">The organization's currency, ISO 4217.</param>
    /// <param name="ofMoney">True where the heading speaks of money: spreadsheets drop the last zero of 125.50.</param>
    public UsualFormat? Usual(string currency, bool ofMoney = false)
    {
        if (numbers == 0 || most > UsualFormat.MostDecimals)
            return null;
        var all = fewest == most ? most : 0;
        return Look switch
        {
            NumberLook.Money when codes!.Contains(currency) => new(NumberLook.Money, most == 0 ? 0 : Math.Max(2, all)),
            // Without its sign it is an amount all the same.
            NumberLook.Money when most > 0 => new(NumberLook.Number, Math.Max(2, all)),
            NumberLook.Percent => new(NumberLook.Percent, all),
            _ when ofMoney && most is 1 or 2 && !(most == 1 && onlyZeros) => new(NumberLook.Number, 2),
            // Whole numbers that a program wrote as 2019.0 have no decimals.
            _ when all > 1 || all == 1 && !onlyZeros => new(NumberLook.Number, all),
            // Where thousands are not divided they may be years.
            _ when grouped > 0 && ungrouped == 0 => new(NumberLook.Number, 0),
            _ => null,
        };
    }

    /// <summary>What has to be said of a column's currency, because its numbers print without it.</summary>
    public string? Note(string column, string currency) =>
        Look != NumberLook.Money || codes is null || codes.Contains(currency)
            ? null
            : $"“{column}” has amounts such as “{example}”, but your organization’s currency is {currency}. The signs are not stored with "
                + "the numbers. Type the currency beside the field, or import the column as text.";
}
