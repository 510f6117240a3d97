using Bandeja.Core.Addressing;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using FsCheck;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>Delivery addresses and salutations in their simple forms: whatever is blank, no gap and no “Dear ,”.</summary>
public sealed class AddressingTests
{
    static readonly Role[] Roles =
    [
        Role.Title,
        Role.GivenName,
        Role.FamilyName,
        Role.Organization,
        Role.Street,
        Role.Street2,
        Role.City,
        Role.Region,
        Role.PostalCode,
        Role.Country,
    ];
    static readonly Column[] Columns = [.. Roles.Select((r, i) => new Column(i + 1, r.ToString(), ColumnType.Text, r))];

    static IReadOnlyList<string> Lines(IReadOnlyList<Column> columns, IRow row, string home) =>
        [.. new DeliveryAddress(columns, home).Write(row).Select(l => l.Text)];

    static string Address(string home, params string?[] values) => string.Join(" / ", Lines(Columns, new ArrayRow(values), home));

    [Theory]
    [InlineData(
        "US",
        "Ana Okafor / 14 Quay Road Apt 3 / Fernquay OR 97412",
        null,
        "Ana",
        "Okafor",
        null,
        "14 Quay Road",
        "Apt 3",
        "Fernquay",
        "OR",
        "97412",
        null
    )]
    [InlineData(
        "US",
        "Ana Okafor / 14 Quay Road / Fernquay OR 97412",
        null,
        "Ana",
        "Okafor",
        null,
        "14 Quay Road",
        null,
        "Fernquay",
        "OR",
        "97412",
        "USA"
    )]
    [InlineData(
        "US",
        "Dr. Ana Okafor / Okafor Ceramics / 14 Quay Road / Fernquay",
        "Dr.",
        "Ana",
        "Okafor",
        "Okafor Ceramics",
        "14 Quay Road",
        " ",
        "Fernquay",
        null,
        null,
        null
    )]
    [InlineData(
        "US",
        "Jürg Meier / Lindenstrasse 12 / 8005 Zürich / SWITZERLAND",
        null,
        "Jürg",
        "Meier",
        null,
        "Lindenstrasse 12",
        null,
        "Zürich",
        "ZH",
        "8005",
        "Schweiz"
    )]
    [InlineData(
        "CH",
        "Jürg Meier / Lindenstrasse 12 / 8005 Zürich",
        null,
        "Jürg",
        "Meier",
        null,
        "Lindenstrasse 12",
        null,
        "Zürich",
        null,
        "8005",
        "Switzerland"
    )]
    [InlineData(
        "CH",
        "Ana Okafor / 14 Quay Road / Fernquay OR 97412 / UNITED STATES",
        null,
        "Ana",
        "Okafor",
        null,
        "14 Quay Road",
        null,
        "Fernquay",
        "OR",
        "97412",
        "US"
    )]
    [InlineData(
        "US",
        "17 Maple Crescent / NELSON BC  V1L 4B3 / CANADA",
        null,
        null,
        null,
        null,
        "17 Maple Crescent",
        null,
        "Nelson",
        "BC",
        "V1L 4B3",
        "Canada"
    )]
    [InlineData(
        "US",
        "Ana / 1 Road / Somewhere X1 / ATLANTIS",
        null,
        "Ana",
        null,
        null,
        "1 Road",
        null,
        "Somewhere",
        null,
        "X1",
        "Atlantis"
    )]
    [InlineData("US", "", null, "Ana", "Okafor", null, null, null, null, null, null, null)]
    [InlineData("DE", "Fernquay 97412 / NOWHERE", null, null, null, null, null, null, "Fernquay", null, "97412", "Nowhere")]
    public void Lines_stand_in_the_countrys_order_and_close_up(string home, string lines, params string?[] values) =>
        Assert.Equal(lines, Address(home, values));

    [Fact]
    public void A_whole_name_and_a_whole_address_will_do()
    {
        Column[] columns = [new(1, "Name", ColumnType.Text, Role.FullName), new(2, "Address", ColumnType.Text, Role.WholeAddress)];
        Assert.Equal(
            ["Ana Okafor", "14 Quay Road", "Fernquay OR 97412"],
            Lines(columns, new ArrayRow(["Ana Okafor", "14 Quay Road\nFernquay OR 97412"]), "US")
        );
        Assert.Equal(
            ["Ana Okafor", "14 Quay Road", "Fernquay"],
            Lines(columns, new ArrayRow(["Ana Okafor", "14 Quay Road; Fernquay"]), "US")
        );
        Assert.Empty(Lines(columns, new ArrayRow(["Ana Okafor", null]), "US"));
        Assert.Empty(Lines([], new ArrayRow([]), "US"));
    }

    [Theory]
    [InlineData("en-US", "Dear Dr. Okafor,", "Dr.", "Ana", "Okafor", null)]
    [InlineData("en-US", "Dear Ana,", null, "Ana", "Okafor", null)]
    [InlineData("en-US", "Dear Ana,", "Dr.", "Ana", null, null)]
    [InlineData("en-US", "Dear Okafor Ceramics,", null, null, "Okafor", "Okafor Ceramics")]
    [InlineData("en-US", "Dear friend,", null, null, null, null)]
    [InlineData("en-GB", "Dear friend,", " ", "  ", null, "")]
    [InlineData("es-MX", "Hola, Ana:", null, "Ana", null, null)]
    [InlineData("es-MX", "Hola:", null, null, null, null)]
    [InlineData("de-CH", "Guten Tag Dr. Meier,", "Dr.", null, "Meier", null)]
    [InlineData("fr-FR", "Bonjour Inès,", null, "Inès", null, null)]
    [InlineData("da-DK", "Kære Åsa,", null, "Åsa", null, null)]
    [InlineData("el-GR", "Dear Ελένη,", null, "Ελένη", null, null)]
    public void The_first_form_whose_parts_are_there_is_taken(string locale, string salutation, params string?[] values) =>
        Assert.Equal(
            salutation,
            new Salutation(Columns, SalutationLadders.First)
                .Of(new ArrayRow([.. values, null, null, null, null, null, null]), new(locale, "USD"))
                .Text
        );

    [Theory]
    [InlineData("Dear Marsh Family,", "The Marsh Family", null)]
    [InlineData("Dear Diaz Household,", "Diaz Household", null)]
    [InlineData("Dear Ana,", "The Marsh Family", "Ana")]
    [InlineData("Dear friend,", "Family Health Network", null)]
    [InlineData("Dear friend,", "Marsh", null)]
    public void A_family_as_a_whole_is_greeted_by_its_name(string salutation, string family, string? given) =>
        Assert.Equal(
            salutation,
            new Salutation(Columns, SalutationLadders.First)
                .Of(new ArrayRow([null, given, family, null, null, null, null, null, null, null]), OrganizationLocale.UnitedStates)
                .Text
        );

    [Theory]
    [InlineData("Dear Ruiz Family,", "The Ruiz Family")]
    [InlineData("Dear Ana Okafor,", "Ana Okafor")]
    [InlineData("Dear The Nguyen Living Trust,", "The Nguyen Living Trust")]
    public void A_whole_name_of_a_family_has_no_article_in_its_greeting(string salutation, string whole) =>
        Assert.Equal(
            salutation,
            new Salutation([new(1, "Name", ColumnType.Text, Role.FullName)], SalutationLadders.First)
                .Of(new ArrayRow([whole]), OrganizationLocale.UnitedStates)
                .Text
        );

    [Theory]
    [InlineData("Mr. Alan Q Reyes Jr. and Bea Reyes", "Mr.", "Alan", "Q", "Reyes", "Jr.", "Bea", "")]
    [InlineData("Alan Reyes III and Bea Ohm", "", "Alan", "", "Reyes", "III", "Bea", "Ohm")]
    [InlineData("Mr. Alan Q and Bea Reyes", "Mr.", "Alan", "Q", "Reyes", "", "Bea", "")]
    public void A_suffix_is_never_lost_beside_a_partner(string expected, params string[] n) =>
        Assert.Equal(
            expected,
            PersonName.Household(new(n[0], n[1], n[2], n[3], n[4], "", false), new("", n[5], "", n[6], "", "", false), "en")
        );

    [Property(MaxTest = 500)]
    public void No_line_is_blank_and_no_gap_stands_in_it(string?[] values, bool abroad)
    {
        var row = Enumerable.Range(0, Roles.Length).Select(i => i < (values ?? []).Length ? values![i] : null).ToArray();
        if (abroad)
            row[9] = "Sweden";
        var lines = Lines(Columns, new ArrayRow(row), "US");
        Assert.All(lines, l => Assert.False(string.IsNullOrEmpty(l)));
        var greeting = new Salutation(Columns, SalutationLadders.First).Of(new ArrayRow(row), OrganizationLocale.UnitedStates).Text;
        // What the values hold themselves is their own affair; the longer first, because a shorter one may be a part of it.
        foreach (var value in row.OfType<string>().OrderByDescending(v => v.Trim().Length))
            if (value.Length > 0)
                greeting = greeting.Replace(value.Trim().Length > 0 ? value.Trim() : value, "x");
        Assert.DoesNotMatch("^Dear\\s*,|Dear  ", greeting);
    }
}
