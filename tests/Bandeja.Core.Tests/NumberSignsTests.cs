using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;

namespace Bandeja.Core.Tests;

/// <summary>Currency and percent signs that stand with the numbers of a column.</summary>
public sealed class NumberSignsTests
{
    [Theory]
    [InlineData(NumberSign.Currency, "$1,240.00", "(60.00 EUR)", "", "-£3", "($12)")]
    [InlineData(NumberSign.Currency, "1.250,00 €", "80,00 €", "12")]
    [InlineData(NumberSign.Percent, "12.5%", "(3 %)", "40")]
    [InlineData(NumberSign.None, "1240", "50 USD", "12.5%", "7", "8")]
    [InlineData(NumberSign.None, "", " ")]
    [InlineData(NumberSign.None)]
    public void Most_of_the_filled_values_decide(NumberSign sign, params string[] values)
    {
        var signs = new NumberSigns();
        foreach (var value in (string?[])[.. values, null])
            signs.Add(value);
        Assert.Equal(sign, signs.Usual);
    }

    [Theory]
    [InlineData("$")]
    [InlineData("%")]
    [InlineData("12")]
    [InlineData("( )")]
    [InlineData("Kraków 5")]
    public void A_sign_stands_with_something(string value) => Assert.False(WrittenValue.HasCurrency(value));

    [Fact]
    public void Whatever_is_read_as_a_number_with_a_currency_has_one()
    {
        foreach (var form in (string[])["$12.50", "12.50 USD", "US$ 12.50", "-$12.50", "$-12.50", "(€12.50)", "12.50 kr.", "CHF 12.50"])
        {
            Assert.True(WrittenValue.TryNumber(form, out var number), form);
            Assert.Equal(12.5m, Math.Abs(number));
            Assert.True(WrittenValue.HasCurrency(form), form);
        }
    }

    [Fact]
    public void A_note_names_three_columns_and_counts_the_rest()
    {
        Assert.Empty(NumberSigns.Notes([("Name", NumberSign.None)]));
        Assert.Equal(
            [
                "“Due” and “Paid” have currency signs, which are not stored with the numbers. "
                    + "To print them, choose the format money for the fields.",
                "“Share” has percent signs, which are not stored with the numbers. To print them, choose the format percent for the field.",
            ],
            NumberSigns.Notes(
                [("Share", NumberSign.Percent), ("Due", NumberSign.Currency), ("Age", NumberSign.None), ("Paid", NumberSign.Currency)]
            )
        );
        Assert.StartsWith("“A”, “B”, and “C” have ", NumberSigns.Notes([.. "ABC".Select(c => ($"{c}", NumberSign.Currency))]).Single());
        Assert.StartsWith(
            "“A”, “B”, “C”, and 2 more have ",
            NumberSigns.Notes([.. "ABCDE".Select(c => ($"{c}", NumberSign.Currency))]).Single()
        );
    }
}
