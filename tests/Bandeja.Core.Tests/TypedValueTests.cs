using Bandeja.Core.Formulas;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using FsCheck;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>Values that are typed into cells follow the organization's way, and what can be read in two ways is asked about.</summary>
public sealed class TypedValueTests
{
    static string? Read(string tag, ColumnType type, string? typed, out string? problem)
    {
        problem = TypedValue.Read(new(1, "Amount due", type, Role.None), typed, new(tag, "EUR"), out var canonical);
        return canonical;
    }

    [Theory]
    [InlineData("en-US", "03/04/2027", "2027-03-04")]
    [InlineData("de-DE", "03/04/2027", "2027-04-03")]
    [InlineData("de-DE", "3.4.2027", "2027-04-03")]
    [InlineData("en-GB", "03/04/2027", "2027-04-03")]
    [InlineData("es-US", "3/4/2027", "2027-04-03")]
    [InlineData("en-CA", "3/4/2027", "2027-03-04")]
    [InlineData("fr-CA", "2027-04-03", "2027-04-03")]
    [InlineData("sv-SE", "2027-04-03", "2027-04-03")]
    [InlineData("sv-SE", "3/4/2027", "2027-04-03")]
    [InlineData("en-US", "2027-04-03", "2027-04-03")]
    [InlineData("de-DE", "2027-04-03", "2027-04-03")]
    public void A_date_is_read_in_the_organizations_order(string tag, string typed, string stored)
    {
        Assert.Equal(stored, Read(tag, ColumnType.Date, typed, out var problem));
        Assert.Null(problem);
    }

    [Theory]
    [InlineData("en-US", "1,250.50", "1250.50")]
    [InlineData("en-US", "1,250", "1250")]
    [InlineData("de-DE", "1.250,50", "1250.50")]
    [InlineData("de-DE", "64,5", "64.5")]
    [InlineData("de-DE", "1250.5", "1250.5")]
    [InlineData("de-DE", "64.50", "64.50")]
    [InlineData("de-DE", "1250", "1250")]
    [InlineData("fr-FR", "1 250,50", "1250.50")]
    [InlineData("de-DE", "  ", null)]
    public void A_number_is_read_with_the_organizations_sign_or_as_it_is_stored(string tag, string typed, string? stored)
    {
        Assert.Equal(stored, Read(tag, ColumnType.Number, typed, out var problem));
        Assert.Null(problem);
    }

    [Theory]
    [InlineData("de-DE", ColumnType.Number, "1.250", "can be 1250 or 1,25")]
    [InlineData("de-DE", ColumnType.Number, "1,250", "can be 1,25 or 1250")]
    [InlineData("de-DE", ColumnType.Number, "many", "takes a number, for example 1250,00")]
    [InlineData("en-US", ColumnType.Number, "1250,5", "takes a number, for example 1250.00")]
    [InlineData("en-US", ColumnType.Date, "31/03/2027", "takes a date")]
    [InlineData("de-DE", ColumnType.Date, "soon", "takes a date")]
    [InlineData("en-US", ColumnType.YesNo, "perhaps", "must be yes or no")]
    public void What_does_not_fit_or_can_be_two_things_is_said_and_kept_as_it_was(string tag, ColumnType type, string typed, string why)
    {
        Assert.Equal(typed, Read(tag, type, typed, out var problem));
        Assert.Contains(why, problem);
    }

    [Property]
    public void What_is_stored_and_typed_again_stays_what_it_is(int whole, byte hundredths, PositiveInt day)
    {
        foreach (var tag in OrganizationLocale.Known)
        {
            var number = (whole + Math.Sign(whole) * hundredths % 100 / 100m).ToString(System.Globalization.CultureInfo.InvariantCulture);
            Assert.Equal(number, Read(tag, ColumnType.Number, number, out var problem));
            Assert.Null(problem);
            var date = new DateOnly(2000, 1, 1)
                .AddDays(day.Get % 40_000)
                .ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
            Assert.Equal(date, Read(tag, ColumnType.Date, date, out _));
        }
    }
}
