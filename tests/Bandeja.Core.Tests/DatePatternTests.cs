using System.Globalization;
using Bandeja.Core.Language;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

public sealed class DatePatternTests
{
    static readonly CultureInfo English = CultureInfo.GetCultureInfo("en-US");
    static readonly DateOnly Day = new(2027, 3, 5);

    [Theory]
    [InlineData("y", "2027")]
    [InlineData("yy", "27")]
    [InlineData("yyyy-MM-dd", "2027-03-05")]
    [InlineData("M/d", "3/5")]
    [InlineData("MMM d", "Mar 5")]
    [InlineData("MMMM", "March")]
    [InlineData("LLLL", "March")]
    [InlineData("E", "Fri")]
    [InlineData("EEEE", "Friday")]
    [InlineData("D", "64")]
    [InlineData("'Q'Q", "Q1")]
    [InlineData("h 'o''clock'", null)]
    [InlineData("d 'of' MMMM", "5 of March")]
    [InlineData("d''M", "5'3")]
    [InlineData("'open", null)]
    [InlineData("", null)]
    [InlineData("dd.MM.YYYY", null)]
    public void Patterns_are_those_of_cldr(string pattern, string? expected)
    {
        if (expected is null)
            Assert.NotNull(DatePattern.Mistake(pattern));
        else
        {
            Assert.Null(DatePattern.Mistake(pattern));
            Assert.Equal(expected, DatePattern.Format(Day, pattern, English));
        }
    }

    [Fact]
    public void Months_take_the_form_that_their_language_wants_beside_a_day()
    {
        Assert.Equal("5 марта", DatePattern.Format(Day, "d MMMM", CultureInfo.GetCultureInfo("ru-RU")));
        Assert.Equal("март", DatePattern.Format(Day, "LLLL", CultureInfo.GetCultureInfo("ru-RU")).ToLowerInvariant());
        Assert.Equal(
            "5 de marzo de 2027",
            DatePattern.Format(Day, new OrganizationLocale("es-MX", "MXN").DateLong, CultureInfo.GetCultureInfo("es-MX"))
        );
    }

    [Property(MaxTest = 500)]
    public void A_pattern_without_a_mistake_always_formats(string? pattern, int days)
    {
        if (DatePattern.Mistake(pattern ?? "") is not null)
            return;
        DatePattern.Format(DateOnly.FromDayNumber(Math.Abs(days % 3_600_000)), pattern!, English);
    }

    [Property]
    public void The_iso_pattern_reads_back(int days)
    {
        var date = DateOnly.FromDayNumber(Math.Abs(days % 3_600_000));
        Assert.Equal(
            date,
            DateOnly.ParseExact(DatePattern.Format(date, "yyyy-MM-dd", English), "yyyy-MM-dd", CultureInfo.InvariantCulture)
        );
    }

    [Theory]
    [InlineData("en-US", "USD", "$1,250.50")]
    [InlineData("en-GB", "GBP", "£1,250.50")]
    [InlineData("fr-FR", "EUR", "1 250,50 €")]
    [InlineData("en-US", "CHF", "CHF1,250.50")]
    [InlineData("xx-XX", "USD", "$1,250.50")]
    public void Money_is_written_as_the_locale_has_it(string tag, string currency, string expected) =>
        Assert.Equal(
            expected,
            string.Concat(1250.5m.ToString("C2", new OrganizationLocale(tag, currency).Culture).Select(c => char.IsWhiteSpace(c) ? ' ' : c))
                .Replace("CHF ", "CHF")
        );
}
