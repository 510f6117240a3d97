using Bandeja.Core.Addressing;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Core.Recognition;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>The second of two people, whose whole name stands in a column of its own.</summary>
public sealed class PartnerNameTests
{
    static readonly Column[] Parts =
    [
        new(1, "First", ColumnType.Text, Role.GivenName),
        new(2, "Last", ColumnType.Text, Role.FamilyName),
        new(3, "Spouse", ColumnType.Text, Role.PartnerFullName),
        new(4, "Title", ColumnType.Text, Role.Title),
    ];

    static (string Line, string Greeting) Of(IReadOnlyList<Column> columns, params string?[] row)
    {
        var (roles, of) = (new RecipientRoles(columns), new ArrayRow(row));
        return (
            PersonName.Household(PersonName.Of(roles, of), PersonName.PartnerOf(roles, of), "en"),
            new Salutation(columns, SalutationLadders.First).Of(of, OrganizationLocale.UnitedStates).Text
        );
    }

    [Theory]
    [InlineData("Maria Lopez", "John Smith and Maria Lopez", "Dear John and Maria,")]
    [InlineData("Maria Smith", "John and Maria Smith", "Dear John and Maria,")]
    [InlineData("Maria", "John and Maria Smith", "Dear John and Maria,")]
    [InlineData("Lopez, Maria", "John Smith and Maria Lopez", "Dear John and Maria,")]
    [InlineData("SMITH MARIA B", "John and MARIA B Smith", "Dear John and MARIA B,")]
    [InlineData("OKAFOR MARIA", "John Smith and MARIA OKAFOR", "Dear John and MARIA,")]
    [InlineData("Maria B.", "John and Maria B. Smith", "Dear John and Maria B.,")]
    [InlineData("& Maria", "John and Maria Smith", "Dear John and Maria,")]
    [InlineData("Ana de la Cruz", "John Smith and Ana de la Cruz", "Dear John and Ana,")]
    [InlineData("Maria Lopez, MD", "John Smith and Maria Lopez, MD", "Dear John and Maria,")]
    [InlineData("Smith Family Trust", "John Smith and Smith Family Trust", "Dear John,")]
    [InlineData("Maria and Ana Lopez", "John Smith and Maria and Ana Lopez", "Dear John,")]
    [InlineData("Unit 4 holder", "John Smith and Unit 4 holder", "Dear John,")]
    [InlineData(" ", "John Smith", "Dear John,")]
    [InlineData("&", "John Smith", "Dear John,")]
    public void Is_addressed_and_greeted_by_it(string partner, string line, string greeting) =>
        Assert.Equal((line, greeting), Of(Parts, "John", "Smith", partner, null));

    [Fact]
    public void Titles_of_both_are_kept() =>
        Assert.Equal(
            ("Mr. John Smith and Dr. Maria Lopez", "Dear Mr. Smith and Dr. Lopez,"),
            Of(Parts, "John", "Smith", "Dr. Maria Lopez", "Mr.")
        );

    [Theory]
    [InlineData("John Smith", "Maria Lopez", "John Smith and Maria Lopez", "Dear John Smith and Maria Lopez,")]
    [InlineData("John Smith", "Maria", "John Smith and Maria", "Dear John Smith and Maria,")]
    [InlineData("SMITH JOHN A &", "SMITH MARIA", "SMITH JOHN A and SMITH MARIA", "Dear SMITH JOHN A and SMITH MARIA,")]
    [InlineData("John Smith", null, "John Smith", "Dear John Smith,")]
    [InlineData(null, "Maria Lopez", "Maria Lopez", "Dear friend,")]
    public void Beside_a_whole_name_it_prints_as_it_stands(string? owner, string? partner, string line, string greeting) =>
        Assert.Equal(
            (line, greeting),
            Of([new(1, "Owner", ColumnType.Text, Role.FullName), new(2, "Owner 2", ColumnType.Text, Role.PartnerFullName)], owner, partner)
        );

    [Theory]
    [InlineData("Maria Lopez", "Mia", "Berg", "Mrs.", "John Smith and Maria Lopez")]
    [InlineData(null, "Mia", "Berg", "Mrs.", "John Smith and Mrs. Mia Berg")]
    [InlineData(null, "Mia", null, null, "John and Mia Smith")]
    [InlineData("Lopez", null, null, "Dr.", "John and Dr. Lopez Smith")]
    public void Two_second_people_are_not_mixed_and_the_whole_name_goes_first(
        string? whole,
        string? given,
        string? family,
        string? title,
        string line
    ) =>
        Assert.Equal(
            line,
            Of(
                [
                    .. Parts[..3],
                    new(4, "Partner's given name", ColumnType.Text, Role.PartnerGivenName),
                    new(5, "Partner's family name", ColumnType.Text, Role.PartnerFamilyName),
                    new(6, "Partner's title", ColumnType.Text, Role.PartnerTitle),
                ],
                "John",
                "Smith",
                whole,
                given,
                family,
                title
            ).Line
        );

    [Theory]
    [InlineData("Spouse", "Maria Lopez|Ana Klein|Per Berg", Role.PartnerFullName)]
    [InlineData("Spouse", "Maria|Ana|Per", Role.PartnerGivenName)]
    [InlineData("Spouse Name", "Maria|Ana B. Klein|Per Berg", Role.PartnerFullName)]
    [InlineData("OWNER2", "OKAFOR ANA|BERG PER|LIND EVA", Role.PartnerFullName)]
    [InlineData("Partner first name", "Mary Ann|Lou Ann|Per Ola", Role.PartnerGivenName)]
    [InlineData("Co-owner", "c/o Maria Lopez|Ana Klein|Per Berg", Role.None)]
    public void Is_known_by_heading_and_values(string heading, string values, Role role) =>
        Assert.Equal(
            role,
            RoleEvidence
                .Of(
                    ["Owner", heading],
                    at => at == 0 ? ["John Smith", "Luis Ortega", "Meera Klein"] : values.Split('|'),
                    Countries.Named("US")!
                )[1]
                .Role
        );

    [Property(MaxTest = 2000)]
    public void Whatever_stands_there_nobody_is_lost_and_no_gap_prints(string? given, string? family, string? partner)
    {
        // What stands in brackets or quotes is a nickname and left out.
        static string? Tidy(string? s) =>
            s is null
                ? null
                : string.Join(
                    ' ',
                    string.Concat(s.Where(c => char.IsLetter(c) || c is ' ' or '&' or ',' or '.'))
                        .Split(' ', StringSplitOptions.RemoveEmptyEntries)
                );
        var (line, greeting) = Of(Parts, Tidy(given), Tidy(family), Tidy(partner), null);
        Assert.DoesNotContain("  ", greeting);
        foreach (var letter in (partner ?? "").Where(char.IsLetter))
            Assert.Contains(letter, line);
    }
}
