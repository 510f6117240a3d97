using Bandeja.Core.Checks;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>A whole name is printed as it stands, so one that stands as a sorted list has it is told, and can be turned around.</summary>
public sealed class FullNameTests
{
    static readonly Column[] Columns =
    [
        new(1, "Name", ColumnType.Text, Role.FullName),
        new(2, "Addressed to", ColumnType.Text, Role.AddressedTo),
        new(3, "First", ColumnType.Text, Role.GivenName),
        new(4, "Last", ColumnType.Text, Role.FamilyName),
        new(5, "Language", ColumnType.Text, Role.Language),
    ];

    static List<CheckIssue> All(string?[] row) =>
        new RowChecker(Columns, new(Countries.Named("US")!, new(2027, 3, 12), _ => true)).Check(row);

    static List<CheckIssue> Of(string?[] row) => [.. All(row).Where(i => i.Kind == CheckKind.FamilyNameFirst)];

    [Theory]
    [InlineData("Okafor, Ana", "Ana Okafor")]
    [InlineData("Okafor,Ana", "Ana Okafor")]
    [InlineData("OKAFOR, ANA", "ANA OKAFOR")]
    [InlineData("Smith, John Jr.", "John Smith Jr.")]
    [InlineData("Smith, Jr., John", "John Smith Jr.")]
    [InlineData("Smith Jr., John", "John Smith Jr.")]
    [InlineData("Smith, John, MD", "John Smith, MD")]
    [InlineData("Smith, John Q. III", "John Q. Smith III")]
    [InlineData("Okafor, Dr. Ana M.", "Dr. Ana M. Okafor")]
    [InlineData("de la Cruz, Ana", "Ana de la Cruz")]
    [InlineData("O'Neill, Declan", "Declan O'Neill")]
    [InlineData("Ortega y Gasset, José", "José Ortega y Gasset")]
    [InlineData("Παπαδοπούλου, Ελένη", "Ελένη Παπαδοπούλου")]
    [InlineData("Smith, John & Mary", "John & Mary Smith")]
    [InlineData("Klein, Mr. and Mrs. Ed", "Mr. and Mrs. Ed Klein")]
    public void The_given_name_is_put_first(string name, string turned)
    {
        foreach (var (at, row) in (List<(int, string?[])>)[(0, [name, null, null, null, null]), (1, ["Ana", name, null, null, null])])
        {
            var issue = Assert.Single(Of(row));
            Assert.Equal(at, issue.Column);
            Assert.Equal([new(at, turned)], issue.Fixes);
            row[at] = turned;
            Assert.Empty(Of(row));
        }
    }

    [Theory]
    [InlineData("Okafor, Ana (Nan)")]
    [InlineData("Smith, John and Mary Jr.")]
    public void What_no_rule_can_turn_around_whole_is_told_without_a_proposal(string name) =>
        Assert.Empty(Assert.Single(Of([name, null, null, null, null])).Fixes);

    [Theory]
    [InlineData("Ana Okafor")]
    [InlineData("Ana Okafor, MD")]
    [InlineData("Ana Okafor, Ph.D., R.N.")]
    [InlineData("John Smith, Jr.")]
    [InlineData("Mr. John Smith, Esq.")]
    [InlineData("Acme Hardware, Inc.")]
    [InlineData("Okafor, Lind & Quint, LLP")]
    [InlineData("Estate of Ana Okafor, deceased")]
    [InlineData("Ana, Luis and Per Klein")]
    [InlineData("Current Resident, or neighbor")]
    [InlineData("The Okafor Family")]
    [InlineData("Nguyễn Văn An, PhD")]
    [InlineData("Smith,")]
    [InlineData(",")]
    [InlineData(", Ana")]
    public void What_is_right_or_no_person_is_left_alone(string name) => Assert.Empty(Of([name, null, null, null, null]));

    [Fact]
    public void A_name_whose_parts_have_columns_of_their_own_is_not_printed_and_may_stand_for_sorting() =>
        Assert.Empty(Of(["Okafor, Ana", null, "Ana", "Okafor", null]));

    [Theory]
    [InlineData(Role.PartnerFullName)]
    [InlineData(Role.PartnerGivenName)]
    public void A_second_owner_who_stands_family_name_first_is_told_too(Role role)
    {
        Column[] columns = [new(1, "Owner 1", ColumnType.Text, Role.FullName), new(2, "Owner 2", ColumnType.Text, role)];
        var checker = new RowChecker(columns, new(Countries.Named("US")!, new(2027, 3, 12), _ => true));
        var issue = Assert.Single(checker.Check(["Priya Raman", "Raman, Vikram"]), i => i.Kind == CheckKind.FamilyNameFirst);
        Assert.Equal([new(1, "Vikram Raman")], issue.Fixes);
    }

    [Fact]
    public void Where_the_family_name_comes_first_anyway_only_the_comma_goes() =>
        Assert.Equal([new(0, "Nagy László")], Assert.Single(Of(["Nagy, László", null, null, null, "hu"])).Fixes);

    [Property(MaxTest = 300)]
    public void Whatever_stands_there_is_checked_and_a_fix_keeps_every_word(string family, string given, string more)
    {
        var name = $"{family}, {given} {more}";
        foreach (var issue in Of([name, name, null, null, null]))
        foreach (var fix in issue.Fixes)
        {
            Assert.Equal(Words(name), Words(fix.Value!));
            Assert.DoesNotContain(Of([fix.Value, null, null, null, null]), i => i.Fixes.Any(f => f.Value == name));
        }
    }

    static IEnumerable<string> Words(string name) =>
        name.Split([' ', ','], StringSplitOptions.RemoveEmptyEntries).Order(StringComparer.Ordinal);
}
