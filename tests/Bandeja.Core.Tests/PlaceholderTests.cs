using Bandeja.Core.Checks;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Core.Recognition;

namespace Bandeja.Core.Tests;

/// <summary>What stands in a cell for no value: it says nothing of its column's type, and is told once.</summary>
public sealed class PlaceholderTests
{
    [Fact]
    public void A_column_is_of_the_type_that_its_values_have_however_many_have_none()
    {
        Assert.Equal(ColumnType.Date, TypeGuesser.Guess("Due", ["3-Apr-27", "15-Apr-27", "n/a", "TBD", "30-Apr-27"]).Type);
        Assert.Equal(ColumnType.Number, TypeGuesser.Guess("Balance", ["$1,120.00", "($40.00)", "TBD", "1,680"]).Type);
        Assert.Equal(ColumnType.Text, TypeGuesser.Guess("Level", ["n/a", "none", "-"]).Type);
        Assert.Equal(ColumnType.Text, TypeGuesser.Guess("Volunteer", ["yes", "no", "unknown"]).Type);
    }

    [Theory]
    [InlineData(ColumnType.Date, "n/a")]
    [InlineData(ColumnType.Number, "TBD")]
    [InlineData(ColumnType.Number, " - ")]
    [InlineData(ColumnType.YesNo, "Unknown")]
    public void It_is_told_once_with_the_offer_to_clear_it(ColumnType type, string value)
    {
        var checker = new RowChecker([new(1, "Due", type, Role.None)], new(Countries.Named("US")!, new(2027, 3, 12), _ => true));
        var issue = Assert.Single(checker.Check([value]), i => i.Kind != CheckKind.Spaces);
        Assert.Equal(CheckKind.Placeholder, issue.Kind);
        Assert.Null(Assert.Single(issue.Fixes).Value);
    }

    [Theory]
    [InlineData(Role.Street, "same")]
    [InlineData(Role.City, " Ditto ")]
    [InlineData(Role.FamilyName, "\"")]
    [InlineData(Role.WholeAddress, "Same as above")]
    [InlineData(Role.PostalCode, "〃")]
    public void What_points_to_the_row_above_is_told_and_not_cleared(Role role, string value)
    {
        Column[] columns = [new(1, "Cell", ColumnType.Text, role), new(2, "Note", ColumnType.Text, Role.None)];
        var checker = new RowChecker(columns, new(Countries.Named("US")!, new(2027, 3, 12), _ => true));
        var issue = Assert.Single(checker.Check([value, "same"]), i => i.Kind == CheckKind.Placeholder);
        Assert.Equal(0, issue.Column);
        Assert.Empty(issue.Fixes);
    }

    [Fact]
    public void Where_there_is_nobody_to_write_to_the_name_is_told_and_can_be_cleared()
    {
        Column[] columns = [new(1, "Tenant", ColumnType.Text, Role.FullName), new(2, "Status", ColumnType.Text, Role.None)];
        var checker = new RowChecker(columns, new(Countries.Named("US")!, new(2027, 3, 12), _ => true));
        var issue = Assert.Single(checker.Check(["VACANT", "Vacant"]), i => i.Kind == CheckKind.Placeholder);
        Assert.Equal([new(0, null)], issue.Fixes);
        Assert.Contains(checker.Check([null, "Vacant"]), i => i.Kind == CheckKind.NoName);
    }
}
