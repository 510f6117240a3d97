using Bandeja.Core.Addressing;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Core.Recognition;

namespace Bandeja.Core.Tests;

/// <summary>Roles by headings and by values, headings over two rows, and dividing cells.</summary>
public sealed class RoleEvidenceTests
{
    static RoleGuess Of(string heading, params string?[] values) => RoleEvidence.Of([heading], _ => values, Countries.Named("US")!)[0];

    [Theory]
    [InlineData("Vorname", Role.GivenName)]
    [InlineData("Apellidos", Role.FamilyName)]
    [InlineData("PLZ", Role.PostalCode)]
    [InlineData("Code postal", Role.PostalCode)]
    [InlineData("Société", Role.Organization)]
    [InlineData("E-Mail", Role.Email)]
    public void By_heading(string heading, Role role) => Assert.Equal((role, 80), (Of(heading).Role, Of(heading).Confidence));

    public static TheoryData<Role, string[]> Values =>
        new()
        {
            { Role.Email, ["ana@example.org", "per@example.com", "zoe@example.net"] },
            { Role.PostalCode, ["97412", "02139", "97412-1234"] },
            { Role.Region, ["OR", "WA", "MA", "OR"] },
            { Role.Country, ["Germany", "France", "Sweden"] },
            { Role.Title, ["Ms", "Mr.", "Dr"] },
            { Role.Phone, ["(541) 555-0142", "541-555-0199", "+1 541 555 0123"] },
            { Role.Street, ["12 Quay Road", "2291 Lantern Row", "PO Box 12"] },
            { Role.WholeAddress, ["12 Quay Road, Fernquay, OR 97412", "3 Mill Lane, Boston, MA 02139", "9 Tide St, Fernquay, OR 97412"] },
            { Role.GivenName, ["Ana", "Luis", "Meera", "Robin"] },
            { Role.None, ["2011", "1999", "2020"] },
            { Role.None, ["2019-03-04", "2020-05-06", "2021-01-01"] },
            { Role.None, ["64.00", "12.50", "20"] },
        };

    [Theory]
    [MemberData(nameof(Values))]
    public void By_values(Role role, string[] values)
    {
        var guess = Of("Something", values);
        Assert.Equal(role, guess.Role);
        if (role != Role.None)
            Assert.InRange(guess.Confidence, 50, 95);
    }

    static string Roles(string headings, params string[] rows)
    {
        var names = headings.Split('|');
        var cells = rows.Select(r => r.Split('|')).ToList();
        return string.Join(' ', RoleEvidence.Of(names, c => cells.Select(r => r[c]), Countries.Named("US")!).Select(g => g.Role));
    }

    [Fact]
    public void No_part_of_the_property_s_address_stands_among_those_of_the_mailing_address()
    {
        Assert.Equal(
            "Key FullName None None None Street WholeAddress",
            Roles(
                "APN|Owner|Situs Addr|Situs City|Situs ZIP|Mail Addr|Mail City St Zip",
                "012-345-067-000|OKAFOR ANA|1 MAPLE ST|FERNQUAY|97412|PO BOX 88|LINDEN BAY OR 97420",
                "012-345-068-000|LIND PER|2 MAPLE ST|FERNQUAY|97412|77 KING ST|SALEM, OR 97301",
                "012-345-069-000|RUIZ INES|3 MAPLE ST|FERNQUAY|97412|3 MAPLE ST|FERNQUAY OR 97412"
            )
        );
        Assert.Equal(
            "FullName None None None None WholeAddress",
            Roles(
                "Owner|Property Address|City|State|ZIP|Mailing Address",
                "Ana Okafor|1 Maple St|Fernquay|OR|97412|PO Box 88, Linden Bay, OR 97420",
                "Per Lind|2 Maple St|Fernquay|OR|97412|77 King St, Salem, OR 97301",
                "Ines Ruiz|3 Maple St|Fernquay|OR|97412|3 Maple St, Fernquay, OR 97412"
            )
        );
        // The property's is where mail goes when there is no other.
        Assert.Equal(
            "FullName Street City Region PostalCode",
            Roles("Owner|Property Address|Property City|Property State|Property ZIP", "Ana Okafor|1 Maple St|Fernquay|OR|97412")
        );
        Assert.Equal(
            "FullName None None None Street City Region PostalCode",
            Roles(
                "Owner|Property Address|Property City|Property ZIP|Address|City|State|ZIP",
                "Ana Okafor|1 Maple St|Salem|97301|2 Elm St|Bend|OR|97701"
            )
        );
        Assert.Equal(
            "FullName Street City Region PostalCode",
            Roles("Owner|Property Address|City|State|ZIP", "Ana Okafor|1 Maple St|Bend|OR|97701")
        );
        Assert.Equal(
            "FullName Street WholeAddress",
            Roles(
                "Name|Address 1|Mailing City/State/Zip",
                "Ana Okafor|1 Maple St|Bend, OR 97701",
                "Per Lind|2 Maple St|Bend, OR 97701",
                "Ines Ruiz|3 Maple St|Salem, OR 97301"
            )
        );
        Assert.Equal(
            "FullName WholeAddress Country",
            Roles(
                "Name|Mailing address|Country",
                "Ana Okafor|1 Maple St, Bend, OR 97701|USA",
                "Per Lind|2 Maple St, Bend, OR 97701|USA",
                "Ines Ruiz|3 Maple St, Salem, OR 97301|USA"
            )
        );
        Assert.Equal(
            "None FullName",
            Roles("Site name|Owner", "Sunset Apartments|Ana Okafor", "Harbor Flats|Per Lind", "Pier 9|Ines Ruiz")
        );
        Assert.Equal(
            "FullName None None None None Street City Region PostalCode",
            Roles(
                "Owner|Site Address|Site City|Site State|Site ZIP|Mailing Address|Mailing City|Mailing State|Mailing ZIP",
                "Ana Okafor|1 Maple St|Fernquay|OR|97412|PO Box 88|Linden Bay|OR|97420"
            )
        );
    }

    [Fact]
    public void Headings_of_a_workshop_are_known()
    {
        Assert.Equal(
            "FullName Street WholeAddress Phone Email",
            Roles("CUST NAME|ADDRESS|CITY/ST/ZIP|CELL PH|EMAIL ADDR", "OKAFOR, ANA|12 QUAY RD|SALEM,OR,97301|541-555-0142|ana@example.org")
        );
        Assert.True(RoleRecognizer.IsCode("RO#"));
        Assert.False(RoleRecognizer.IsCode("Mileage"));
    }

    [Theory]
    [InlineData(Role.None, "012-345-067-000", "012-345-068-000", "012-345-069-000")]
    [InlineData(Role.None, "1234567890", "1134567891", "1034567892")]
    [InlineData(Role.Phone, "5415550142", "1-541-555-0199", "541.555.0123 x4")]
    public void Numbers_that_no_telephone_has_are_no_phone_numbers(Role role, params string[] values) =>
        Assert.Equal(role, Of("Something", values).Role);

    /// <summary>A heading that says whose it is, over their numbers or over their names.</summary>
    [Theory]
    [InlineData("Patron")]
    [InlineData("Donor")]
    [InlineData("Member")]
    [InlineData("Policyholder")]
    [InlineData("Parishioner")]
    public void Who_is_said_by_a_number_or_by_a_name(string heading)
    {
        Assert.Equal(Role.Key, Of(heading, "P-9001", "P-9002", "P-9107").Role);
        Assert.Equal(Role.Key, Of(heading, "100447", "100448", "099120").Role);
        Assert.Equal(Role.FullName, Of(heading, "Ana de la Cruz", "Per Nowak", "Zoë Weiß").Role);
        // Numbers that come again are nobody's own.
        Assert.Equal(Role.None, Of(heading, "P-12", "P-12", "P-40").Role);
        Assert.Equal(Role.Key, Of($"{heading} no.", "P-9001", "P-9002", "P-9107").Role);
    }

    [Fact]
    public void A_role_goes_to_the_column_that_is_surest_of_it()
    {
        string?[][] values =
        [
            ["ana@example.org", "per@example.com", "x@example.net"],
            ["ana@example.org", "none", "x@example.net"],
        ];
        var guesses = RoleEvidence.Of(["Contact address", "Email"], i => values[i], Countries.Named("US")!);
        Assert.Equal([Role.None, Role.Email], guesses.Select(g => g.Role));
        Assert.Equal(Role.WholeAddress, Of("Address", "12 Quay Road, Fernquay, OR 97412", "3 Mill Lane, Boston, MA 02139").Role);
        Assert.Equal(60, Of("Email", "call", "write", "visit").Confidence);
    }

    [Fact]
    public void Headings_over_two_rows_are_joined()
    {
        string?[] upper = ["Member", null, "Mailing", null, "Billing", null],
            lower = ["First", "Last", "Street", "City", "Street", "City"];
        Assert.True(Headings.TakesTwoRows(upper, lower));
        Assert.Equal(["First", "Last", "Mailing Street", "Mailing City", "Billing Street", "Billing City"], Headings.Joined(upper, lower));
        Assert.Equal(["Postal code", "City name"], Headings.Joined(["Postal", "City"], ["code", "name"]));
        Assert.False(Headings.TakesTwoRows(["Members of the garden"], ["First", "Last", "City"]));
        Assert.False(Headings.TakesTwoRows(["First", "Last", "City"], ["Ana", "Okafor", "Cork"]));
    }

    [Theory]
    [InlineData("Dr. Ana de la Cruz", "Dr.", "Ana", "de la Cruz")]
    [InlineData("Okafor, Ana", null, "Ana", "Okafor")]
    [InlineData("Prof. Dr. Heinz van der Berg", "Prof. Dr.", "Heinz", "van der Berg")]
    [InlineData("Cher", null, null, "Cher")]
    [InlineData("", null, null, null)]
    public void Whole_names(string name, string? title, string? given, string? family) =>
        Assert.Equal(new NameParts(title, given, family), NameParts.Of(name));

    [Fact]
    public void What_cannot_be_divided_stays_whole()
    {
        Assert.Equal<string?[]>(
            ["by the old mill", null, null, null, null],
            CellParts.Divide("by the old mill", Role.WholeAddress, Countries.Named("US")!)
        );
        Assert.Equal<string?[]>(new string?[9], CellParts.Divide(" ", Role.FullName, Countries.Named("US")!));
        Assert.Empty(CellParts.Preview("City", Role.City, ["Cork"], Countries.Named("US")!));
        Assert.Equal<string?[]>(
            ["Name", "Title", "Given name", "Family name"],
            CellParts.Preview("Name", Role.FullName, ["Ana Okafor"], Countries.Named("US")!)[0]
        );
    }

    [Theory]
    [InlineData(ColumnType.Number, "12", "1.250,00", "40", "50")]
    [InlineData(ColumnType.Number, "12,50", "1.250,00", "40,25")]
    [InlineData(ColumnType.Date, "2020-01-02", "2021-02-30", "2020-05-06", "2020-05-07", "2020-05-08")]
    [InlineData(ColumnType.Text, "2020-01-02", "A-12", "2020-05-06")]
    [InlineData(ColumnType.Text, "007", "12", "13")]
    public void Types_bear_a_few_odd_values(ColumnType type, params string[] values) =>
        Assert.Equal(type, TypeGuesser.Guess("Something", values).Type);
}
