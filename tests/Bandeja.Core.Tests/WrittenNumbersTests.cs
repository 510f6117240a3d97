using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;

namespace Bandeja.Core.Tests;

/// <summary>How the numbers of a column are written in a file, and so print.</summary>
public sealed class WrittenNumbersTests
{
    static WrittenNumbers Of(NumberForm form, params string?[] values)
    {
        var written = new WrittenNumbers();
        foreach (var value in values)
            written.Add(value, form);
        return written;
    }

    [Theory]
    [InlineData("money", "$1,240.00", "($60.00)", "", "-$3.00", "$12.50")]
    [InlineData("money 0", "$1,240", "$60", "waived")]
    [InlineData("money", "$50", "$12.50")]
    [InlineData("money", "$12.5", "$12.0")]
    [InlineData("money 3", "$0.125", "$0.250")]
    [InlineData("money", "1240.00 USD", "80", "USD 15.00")]
    [InlineData("percent", "12%", "(3 %)", "40")]
    [InlineData("percent", "12.5%", "3%")]
    [InlineData("percent 2", "12.50%", "3.25%")]
    [InlineData("number 2", "12.50", "7.00", "1250.75")]
    [InlineData("number 1", "2.5", "3.0")]
    [InlineData("number", "1,240", "60")]
    [InlineData("number", "1,240.5", "60")]
    [InlineData(null, "1,240", "1240")]
    [InlineData(null, "2019.0", "2020.0", "")]
    [InlineData(null, "1240", "50 USD", "12.5%", "7", "8")]
    [InlineData(null, "2019", "2020")]
    [InlineData(null, "0.12345678", "0.23456789")]
    [InlineData(null, "", " ")]
    [InlineData(null, "n/a")]
    [InlineData(null)]
    public void Numbers_print_as_most_of_them_are_written(string? format, params string[] values) =>
        Assert.Equal(format, Of(NumberForm.Point, [.. values, null]).Usual("USD")?.ToString());

    [Theory]
    [InlineData("money", "1.250,00 €", "80,00 €")]
    [InlineData("money 0", "EUR 50,-", "1.250 €")]
    [InlineData("number 2", "1.250,50", "3,00")]
    [InlineData("number", "1.250", "3")]
    public void A_decimal_comma_divides_decimals(string format, params string[] values) =>
        Assert.Equal(format, Of(NumberForm.Comma, values).Usual("EUR")?.ToString());

    [Theory]
    [InlineData("CAD", "money", "$50.00")]
    [InlineData("EUR", "number 2", "$50.00")]
    [InlineData("EUR", "number", "$50", "$1,250")]
    [InlineData("EUR", null, "$50")]
    [InlineData("USD", "number 2", "€50.00")]
    [InlineData("USD", "number 2", "CAD 50.00", "$20.00")]
    [InlineData("SEK", "money", "50,00 kr")]
    [InlineData("NOK", "money", "50,00 kr", "50,00 NOK")]
    [InlineData("SEK", "number 2", "50,00 kr", "50,00 NOK")]
    public void Only_the_organizations_own_currency_prints(string currency, string? format, params string[] values)
    {
        var written = Of(values[0].Contains(',') ? NumberForm.Comma : NumberForm.Point, values);
        Assert.Equal(format, written.Usual(currency)?.ToString());
        Assert.Equal(format != "money", written.Note("Gift", currency) is not null);
    }

    [Fact]
    public void A_note_says_which_currency_is_not_printed()
    {
        Assert.Null(Of(NumberForm.Point, "12", "13").Note("Gift", "USD"));
        Assert.Equal(
            "“Gift” has amounts such as “€12”, but your organization’s currency is USD. The signs are not stored with the numbers. "
                + "Type the currency beside the field, or import the column as text.",
            Of(NumberForm.Point, "€11", "€12").Note("Gift", "USD")
        );
    }

    [Theory]
    [InlineData("money", "1250.5", "$1,250.50")]
    [InlineData("money 0", "1250.5", "$1,251 ")]
    [InlineData("percent 1", "0.125", "12.5%")]
    [InlineData("number 2", "1250.5", "1.250,50")]
    [InlineData("number 2", "12.5", "12,50")]
    [InlineData(null, "1250", "1.2E+03")]
    [InlineData(null, "12", "12 pcs")]
    public void What_a_spreadsheet_shows_counts(string? format, string value, string shown)
    {
        var written = new WrittenNumbers();
        written.Add(value, NumberForm.Point, shown);
        Assert.Equal(format, written.Usual("USD")?.ToString());
    }

    [Fact]
    public void Amounts_in_several_currencies_stay_text()
    {
        var guess = TypeGuesser.Guess("Gift", ["$50", "€40", "$20"]);
        Assert.Equal((ColumnType.Text, true), (guess.Type, guess.SeveralCurrencies));
        Assert.False(TypeGuesser.Guess("Gift", ["$50 each", "€40", "twenty"]).SeveralCurrencies);
        Assert.Equal(ColumnType.Text, TypeGuesser.Guess("Gift", ["50 USD", "40 CAD"]).Type);
        Assert.Equal(ColumnType.Number, TypeGuesser.Guess("Gift", ["$50", "40", "US$20", "15 USD"]).Type);
        Assert.Equal(ColumnType.Number, TypeGuesser.Guess("Gift", ["CAD 50", "$40"]).Type);
    }

    [Fact]
    public void Nothing_divides_thousands_after_a_zero()
    {
        Assert.False(WrittenValue.TryNumber("0,125", NumberForm.Point, out _));
        Assert.True(WrittenValue.TryNumber("0,125", NumberForm.Comma, out var number));
        Assert.Equal(0.125m, number);
        Assert.Equal(NumberForm.Point, TypeGuesser.Guess("Rate", ["0.125", "0.250"], DateOrder.DayMonthYear).NumberForm);
        Assert.False(TypeGuesser.Guess("Rate", ["0.125", "0.250"], DateOrder.DayMonthYear).Ambiguous);
    }

    [Theory]
    [InlineData("$")]
    [InlineData("%")]
    [InlineData("12")]
    [InlineData("( )")]
    [InlineData("Kraków 5")]
    public void A_sign_stands_with_something(string value) => Assert.Empty(WrittenValue.CurrenciesOf(value));

    [Fact]
    public void Whatever_is_read_as_a_number_with_a_currency_has_one()
    {
        foreach (var form in (string[])["$12.50", "12.50 USD", "US$ 12.50", "-$12.50", "$-12.50", "(€12.50)", "12.50 kr.", "CHF 12.50"])
        {
            Assert.True(WrittenValue.TryNumber(form, out var number), form);
            Assert.Equal(12.5m, Math.Abs(number));
            Assert.NotEmpty(WrittenValue.CurrenciesOf(form));
        }
    }
}
