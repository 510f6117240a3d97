using Bandeja.Core.Language;

namespace Bandeja.Core.Tests;

public sealed class DayWordsTests
{
    static readonly DateOnly Day = new(2027, 3, 2);
    static readonly DateTimeOffset Noon = new(2027, 3, 2, 14, 5, 9, TimeSpan.Zero);

    [Theory]
    [InlineData("en-US", "Mar 2, 2027", "March 2, 2027", "Mar 2", "March 2", "2:05:09 PM")]
    [InlineData("es-MX", "Mar 2, 2027", "March 2, 2027", "Mar 2", "March 2", "2:05:09 PM")]
    [InlineData("fr-CA", "Mar 2, 2027", "March 2, 2027", "Mar 2", "March 2", "2:05:09 PM")]
    [InlineData("en-GB", "2 Mar 2027", "2 March 2027", "2 Mar", "2 March", "14:05:09")]
    [InlineData("de-CH", "2 Mar 2027", "2 March 2027", "2 Mar", "2 March", "14:05:09")]
    public void Order_and_clock_follow_the_country(string tag, string day, string whole, string brief, string named, string clock)
    {
        var days = DayWords.For(tag);
        Assert.Equal((day, whole, brief, named), (days.Of(Day), days.Long(Day), days.Short(Day), days.LongShort(Day)));
        Assert.Equal(clock, days.Clock(Noon));
        Assert.Equal(days, new OrganizationLocale(tag, "USD").Days);
    }
}
