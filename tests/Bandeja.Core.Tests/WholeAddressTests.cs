using System.Globalization;
using Bandeja.Core.Checks;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>The postal code of an address that stands in one cell is held against the same rules as one in a column of its own.</summary>
public sealed class WholeAddressTests
{
    static readonly CheckSettings Here = new(Countries.Named("US")!, new(2027, 3, 12), _ => true);

    static List<CheckIssue> Of(Role role, string cell, string? country = null)
    {
        Column[] columns = [new(1, "Address", ColumnType.Text, role), new(2, "Country", ColumnType.Text, Role.Country)];
        return [.. new RowChecker(columns, Here).Check([cell, country]).Where(i => i.Kind is not CheckKind.MissingPart)];
    }

    static string? Fixed(CheckIssue issue) => issue.Fixes is [{ Value: var value }] ? value : null;

    [Theory]
    [InlineData("Salem, MA 1970", "Salem, MA 01970")]
    [InlineData("Salem, ma 1970", "Salem, ma 01970")]
    [InlineData("44 Mill Pond Rd, Apt 3, Salem MA 1970", "44 Mill Pond Rd, Apt 3, Salem MA 01970")]
    [InlineData("44 Mill Pond Rd\nConcord, New Hampshire 3301", "44 Mill Pond Rd\nConcord, New Hampshire 03301")]
    [InlineData("9 Lower Rd; Concord, NH, 3301", "9 Lower Rd; Concord, NH, 03301")]
    [InlineData("San Juan, PR 907", "San Juan, PR 00907")]
    [InlineData("Newark NJ 7102-1234", "Newark NJ 07102-1234")]
    [InlineData("Newark NJ 7102, USA", "Newark NJ 07102, USA")]
    [InlineData("Newark NJ 7102 USA", "Newark NJ 07102 USA")]
    [InlineData("Newark, NJ 7102 United States of America", "Newark, NJ 07102 United States of America")]
    [InlineData("Darwin NT 800, Australia", "Darwin NT 0800, Australia")]
    public void A_lost_zero_is_found_and_restored(string cell, string sound)
    {
        foreach (var role in (Role[])[Role.WholeAddress, Role.City, Role.Street2, Role.Street3, Role.Street])
        {
            var issue = Assert.Single(Of(role, cell), i => i.Kind == CheckKind.LeadingZero);
            Assert.Equal(sound, Fixed(issue));
            Assert.DoesNotContain(Of(role, sound), i => i.Kind is CheckKind.LeadingZero);
        }
    }

    [Theory]
    [InlineData(null, "Salem 1970", "Salem 01970")]
    [InlineData(null, "San Juan, 907", "San Juan, 00907")]
    [InlineData("Germany", "1067 Dresden", "01067 Dresden")]
    [InlineData("Italy", "118 Roma", "00118 Roma")]
    [InlineData(null, "Salem 97301", null)]
    [InlineData(null, "Salem 001", null)]
    [InlineData(null, "Route 128", null)]
    [InlineData(null, "29 Palms", null)]
    [InlineData("Germany", "10115 Berlin", null)]
    [InlineData("Germany", "Berlin 12 3456", null)]
    [InlineData("Switzerland", "806 Zürich", null)]
    public void Beside_a_city_without_a_region_a_lost_zero_is_found(string? country, string cell, string? sound)
    {
        foreach (var role in (Role[])[Role.City, Role.WholeAddress])
        {
            Column[] columns =
            [
                new(1, "City", ColumnType.Text, role),
                new(2, "Country", ColumnType.Text, Role.Country),
                new(3, "Street", ColumnType.Text, Role.Street),
            ];
            var found = new RowChecker(columns, Here).Check([cell, country, "9 Gull Ln"]).Where(i => i.Kind == CheckKind.LeadingZero);
            Assert.Equal(sound is null ? [] : [sound], found.Select(Fixed));
        }
        Assert.DoesNotContain(Of(Role.Street, cell, country), i => i.Kind == CheckKind.LeadingZero);
    }

    [Theory]
    [InlineData("Montréal QC H3B1K7", CheckKind.PostalCodeForm, "Montréal QC H3B 1K7")]
    [InlineData("Saco, ME 04072-", CheckKind.PostalCodeForm, "Saco, ME 04072")]
    [InlineData("Albany, NY 122071234", CheckKind.PostalCodeForm, "Albany, NY 12207-1234")]
    [InlineData("Salem, OR 9730", CheckKind.PostalCodeMalformed, null)]
    [InlineData("Salem, OR 01970", CheckKind.PostalCodeRegion, null)]
    public void What_else_is_wrong_with_a_code_is_told(string cell, CheckKind kind, string? sound)
    {
        var issue = Assert.Single(Of(Role.WholeAddress, cell));
        Assert.Equal((kind, sound), (issue.Kind, Fixed(issue)));
    }

    [Theory]
    [InlineData("Salem, MA 01970")]
    [InlineData("Montréal QC H3B 1K7")]
    [InlineData("Portland ME 04101-0019")]
    [InlineData("Boston, Massachusetts 02110")]
    [InlineData("Rua Augusta 100, São Paulo SP 01310-100, Brazil")]
    [InlineData("10115 Berlin")]
    [InlineData("PO Box 1970")]
    [InlineData("1200 Highway 128")]
    [InlineData("Casa de la 1970")]
    [InlineData("12 Rue de la Paix 7500")]
    [InlineData("Salem 1970")]
    [InlineData("1970")]
    [InlineData("MA")]
    public void What_is_sound_or_no_code_is_left_alone(string cell) =>
        Assert.DoesNotContain(
            Of(Role.WholeAddress, cell),
            i => i.Kind is CheckKind.LeadingZero or CheckKind.PostalCodeForm or CheckKind.PostalCodeMalformed or CheckKind.PostalCodeRegion
        );

    [Fact]
    public void A_road_that_is_called_as_a_state_is_no_last_line() =>
        Assert.DoesNotContain(
            Of(Role.Street, "1200 Highway MA 128"),
            i => i.Kind.ToString().StartsWith("PostalCode", StringComparison.Ordinal)
        );

    /// <summary>Whatever the state: a code of its own is sound, and without its zeros it is found and comes back as it was.</summary>
    [Fact]
    public void Each_state_keeps_its_zeros()
    {
        var found = 0;
        foreach (var region in Countries.Named("US")!.Regions)
        foreach (var (from, _) in region.Prefixes)
        {
            var code = from.PadRight(5, '1')[..5];
            foreach (var name in (string[])[region.Code, region.Name])
            {
                Assert.Empty(Of(Role.WholeAddress, $"1 Quay Road, Fernquay, {name} {code}"));
                var lost = int.Parse(code, CultureInfo.InvariantCulture).ToString(CultureInfo.InvariantCulture);
                if (lost == code)
                    continue;
                var issue = Assert.Single(Of(Role.WholeAddress, $"1 Quay Road, Fernquay, {name} {lost}"));
                Assert.Equal($"1 Quay Road, Fernquay, {name} {code}", Fixed(issue));
                found++;
            }
        }
        Assert.InRange(found, 20, 200);
    }

    [Property(MaxTest = 500)]
    public void Whatever_stands_in_a_cell_no_fix_makes_it_worse(string? text, int number)
    {
        foreach (var cell in (string[])[text ?? "", $"{text}, MA {number}", $"{text} NH {number % 10000}\n{text}"])
        foreach (var issue in Of(Role.WholeAddress, cell).Where(i => i.Kind is CheckKind.LeadingZero or CheckKind.PostalCodeForm))
            Assert.DoesNotContain(Of(Role.WholeAddress, Fixed(issue)!), i => i.Kind == issue.Kind);
    }

    [Fact]
    public void A_street_is_missing_where_the_other_column_has_only_the_place()
    {
        Column[] columns = [new(1, "Street", ColumnType.Text, Role.Street), new(2, "City/State/ZIP", ColumnType.Text, Role.WholeAddress)];
        List<CheckIssue> Check(string? street, string? whole) => new RowChecker(columns, Here).Check([street, whole]);
        Assert.Contains("Street is blank", Assert.Single(Check(null, "Nashua, NH 03060")).Message);
        Assert.Equal("The address is blank.", Assert.Single(Check(null, null)).Message);
        Assert.Empty(Check(null, "7 Harbor St, Nashua, NH 03060"));
        Assert.Empty(Check("7 Harbor St", "Nashua, NH 03060"));
    }
}
