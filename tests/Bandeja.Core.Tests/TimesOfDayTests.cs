using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Core.Recognition;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>The times that stand with dates are read in every way that dates are, and written in the country's clock.</summary>
public sealed class TimesOfDayTests
{
    static Country Named(string code) => Countries.Named(code)!;

    [Theory]
    [InlineData("1/14/2027 9:30 AM", "9:30 AM")]
    [InlineData("1/14/2027 12:05 p.m.", "12:05 PM")]
    [InlineData("1/14/2027 12:05am", "12:05 AM")]
    [InlineData("1/14/2027, 2:00 PM", "2:00 PM")]
    [InlineData("Jan 14, 2027 14:00", "2:00 PM")]
    [InlineData("2027-01-14T09:30:00", "9:30 AM")]
    [InlineData("2027-01-14 09:30:15.250", "9:30:15 AM")]
    [InlineData("2027-01-14T09:30:00-05:00", "9:30 AM")]
    [InlineData("2027-01-14T09:30:00Z", null)]
    [InlineData("2027-01-14 09:30:00+00", null)]
    [InlineData("2027-01-14 00:00:00", null)]
    [InlineData("1/14/2027 12:00 AM", null)]
    [InlineData("1/14/2027", null)]
    [InlineData("1/14/2027 13:30 PM", null)]
    [InlineData("1/14/2027 25:10", null)]
    [InlineData("9:30 AM", null)]
    [InlineData("", null)]
    [InlineData(null, null)]
    public void A_time_behind_a_date_is_found(string? value, string? time) => Assert.Equal(time, TimesOfDay.Of(value, Named("US")));

    [Fact]
    public void It_is_written_in_the_countrys_clock()
    {
        Assert.Equal("14:05", TimesOfDay.Of("14.1.2027 14:05", Named("DE")));
        Assert.Equal("09:05", TimesOfDay.Of("14/1/2027 9:05 am", Named("GB")));
    }

    [Theory]
    [InlineData("Appt", "Appt time")]
    [InlineData("Visit Date", "Visit time")]
    [InlineData("Date", "Time")]
    [InlineData("Start date/time", "Start time")]
    [InlineData("Update", "Update time")]
    public void Its_column_is_called_after_the_dates(string heading, string name) => Assert.Equal(name, TimesOfDay.NameOf(heading));

    [Theory]
    [InlineData(true, "9:30 AM", "1/14/2027 9:30 AM", "1/15/2027 2:00 PM", "N/A", null)]
    [InlineData(true, "2:00 PM", "1/14/2027", "1/15/2027 2:00 PM")]
    [InlineData(false, "9:30 AM", "2027-01-14T09:30:00", "2027-01-14T11:02:41")]
    [InlineData(false, null, "1/14/2027", "1/15/2027 12:00 AM")]
    [InlineData(false, null, "call at 9:30 AM", "14 Elm St 9:30 AM")]
    public void Times_that_people_set_are_told_from_those_that_programs_note(bool set, string? example, params string?[] values) =>
        Assert.Equal(
            (example, set),
            TimesOfDay.Among(values, values[0]!.Contains('-') ? DateOrder.YearMonthDay : DateOrder.MonthDayYear, Named("US"))
        );

    [Property(MaxTest = 500)]
    public void Whatever_the_value_it_is_read_or_not(string? value) =>
        Assert.True(TimesOfDay.Of(value, Named("US")) is null or { Length: > 6 });
}
