using Bandeja.Core.Addressing;
using Bandeja.Core.Checks;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Core.Recognition;

namespace Bandeja.Core.Tests;

/// <summary>Columns about somebody or something else than the recipient, and columns that are known by a part of their heading.</summary>
public sealed class OtherPeopleTests
{
    static string Roles(string headings, params string[] rows)
    {
        var cells = rows.Select(r => r.Split('|')).ToList();
        return string.Join(
            ' ',
            RoleEvidence.Of(headings.Split('|'), c => cells.Select(r => r[c]), Countries.Named("US")!).Select(g => g.Role)
        );
    }

    [Theory]
    [InlineData("Producer Email")]
    [InlineData("Agent's e-mail")]
    [InlineData("Sales rep email")]
    [InlineData("Account Manager Email")]
    [InlineData("Store ZIP")]
    [InlineData("Branch Zip Code")]
    [InlineData("Former ZIP")]
    public void What_belongs_to_another_person_or_place_has_no_role_beside_the_recipient_s_name(string heading)
    {
        var mail = heading.Contains("mail", StringComparison.Ordinal) || heading.Contains("Mail", StringComparison.Ordinal);
        string[] rows = mail ? ["Ana|a@example.org", "Per|b@example.org"] : ["Ana|97412", "Per|97301"];
        Assert.Equal("GivenName None", Roles($"First name|{heading}", rows));
        // A list of agents, or of stores.
        Assert.NotEqual("None", Roles(heading, mail ? ["a@example.org", "b@example.org"] : ["97412", "97301"]));
    }

    [Theory]
    [InlineData("Parent Email", Role.Email)]
    [InlineData("Donor ZIP", Role.PostalCode)]
    [InlineData("Name (Last, First)", Role.FullName)]
    [InlineData("Claimant (Last First MI)", Role.FullName)]
    [InlineData("ZIP (5 digits)", Role.PostalCode)]
    [InlineData("Phone (home)", Role.Phone)]
    [InlineData("Co-Claimant", Role.PartnerFullName)]
    [InlineData("Joint Applicant", Role.PartnerFullName)]
    [InlineData("Insured 2", Role.PartnerFullName)]
    [InlineData("Head First", Role.GivenName)]
    [InlineData("Head of Household", Role.FullName)]
    [InlineData("Parent 1 Name", Role.FullName)]
    [InlineData("Parent 1 Email", Role.Email)]
    [InlineData("Parent 2 Name", Role.PartnerFullName)]
    [InlineData("Parent 2 First Name", Role.PartnerGivenName)]
    [InlineData("Owner2 Last", Role.PartnerFamilyName)]
    [InlineData("Parent 2 Email", Role.None)]
    [InlineData("Owner 3", Role.None)]
    [InlineData("Address Line 2", Role.Street2)]
    [InlineData("Home Address 2", Role.Street2)]
    [InlineData("P.O. Box", Role.Street2)]
    [InlineData("Apt/Ste", Role.Unit)]
    [InlineData("Suite or Unit No.", Role.Unit)]
    [InlineData("Lot Number", Role.None)]
    [InlineData("Bldg/Apt", Role.Unit)]
    [InlineData("Number or", Role.None)]
    [InlineData("OK to mail?", Role.MayMail)]
    [InlineData("(none)", Role.None)]
    [InlineData("Total (due)", Role.None)]
    public void The_recipient_s_are_known(string heading, Role role) => Assert.Equal(role, RoleRecognizer.FromHeading(heading));

    [Fact]
    public void Email_addresses_that_come_again_and_again_are_not_the_recipients() =>
        Assert.Equal(
            "FullName None",
            Roles(
                "Name|Handled by email",
                "Ana Okafor|d@example.com",
                "Per Lind|d@example.com",
                "Ines Ruiz|l@example.com",
                "Kim Berg|d@example.com"
            )
        );

    [Fact]
    public void A_phone_of_another_person_is_not_the_recipient_s() =>
        Assert.Equal(
            "FullName None",
            Roles("Name|Emergency line", "Ana Okafor|(541) 555-0142", "Per Lind|541-555-0199", "Ines Ruiz|+1 541 555 0123")
        );

    [Fact]
    public void A_whole_name_beside_what_a_few_are_called_is_the_name()
    {
        Assert.Equal("FullName None", Roles("Pt Name (L, F M)|Pref Name", "OKAFOR, ANA R|Annie", "LINDQVIST, BEN|", "CHEN, MEI-LING|"));
        Assert.Equal("FullName None", Roles("Name|Preferred name", "Ana Okafor|", "Luis Ortega|", "Robin Klein|Rob"));
        Assert.Equal("FamilyName GivenName", Roles("Name|Vorname", "Müller|Ana", "Klein|Per", "van der Berg|Eva"));
        Assert.Equal("GivenName FamilyName", Roles("Nombre|Apellidos", "Ana María|Soto Paz", "Juan Carlos|Ríos Vega"));
        Assert.Equal("FamilyName GivenName", Roles("Nom|Prénom", "Tremblay|Marie", "Gagnon|Luc"));
    }

    [Fact]
    public void A_heading_that_is_known_goes_before_one_that_only_ends_so_and_the_first_before_the_second()
    {
        Assert.Equal("FullName None PostalCode", Roles("Name|Carrier ZIP|ZIP", "Ana Okafor|01970|97412", "Per Lind|01970|97301"));
        Assert.Equal("FullName None", Roles("Owner Name|Tenant", "Ana Okafor|Kim Berg", "Per Lind|"));
    }

    [Fact]
    public void A_claims_list_has_its_key_and_its_codes()
    {
        Assert.Equal(
            "Key None FullName PartnerFullName PostalCode PostalCodeAddOn",
            Roles(
                "Notice ID|PIN|Claimant (Last First MI)|Co-Claimant|Zip5|Zip4",
                "000123-A|0042|OKAFOR ANA M|ORTEGA LUIS|97412|0012",
                "000124-B|0107|SMITH JOHN A JR|SMITH MARY B|1970|",
                "000125-C|9001|BERG PER|BERG EVA|2101|7"
            )
        );
        Assert.Equal("PostalCode", Roles("ZIP+4", "97412-1234", "01970-0007", "97301-1111"));
    }

    [Theory]
    [InlineData("Policy #", "CPP-0001234|HO3-0009871|WC-0000077", Role.Key)]
    [InlineData("Case No.", "C-1|C-2|C-3", Role.Key)]
    [InlineData("Notice ID", "A1|A2|A1", Role.None)] // one comes twice
    [InlineData("Invoice #", "1001|1002|1003", Role.None)] // another one every time
    [InlineData("Agent code", "A1|A2|A3", Role.None)]
    [InlineData("Promo code", "SPRING|FALL|WINTER", Role.None)]
    public void A_key_is_what_occurs_once_and_stays(string heading, string values, Role role) =>
        Assert.Equal(role, RoleEvidence.Of([heading], _ => values.Split('|'), Countries.Named("US")!)[0].Role);

    static readonly Column[] Codes =
    [
        new(1, "Street", ColumnType.Text, Role.Street),
        new(2, "City", ColumnType.Text, Role.City),
        new(3, "ZIP5", ColumnType.Text, Role.PostalCode),
        new(4, "ZIP4", ColumnType.Text, Role.PostalCodeAddOn),
    ];

    [Theory]
    [InlineData("97412", "0012", "97412-0012")]
    [InlineData("97412", "12", "97412-0012")]
    [InlineData("97412", null, "97412")]
    [InlineData("97412", "0", "97412")]
    [InlineData("97412", "N/A", "97412")]
    [InlineData("97412-1234", "5678", "97412-1234")]
    [InlineData("V8W 1N6", "12", "V8W 1N6")]
    [InlineData(null, "0012", "")]
    public void A_ZIP_code_has_its_add_on(string? zip, string? addOn, string code)
    {
        var row = new ArrayRow(["9 Elm St", "Salem", zip, addOn]);
        Assert.Equal(code, new RecipientRoles(Codes).Of(row, Role.PostalCode));
        if (zip == "97412")
            Assert.EndsWith(code, new DeliveryAddress(Codes, "US").Write(row)[^1].Text);
    }

    [Theory]
    [InlineData("14 Quay Rd #101, Fernquay OR 97412", "101", "14 Quay Rd #101|Fernquay OR 97412")]
    [InlineData("14 Quay Rd, Fernquay OR 97412", "101", "14 Quay Rd Unit 101|Fernquay OR 97412")]
    [InlineData("101 Quay Rd, Fernquay OR 97412", "101", "101 Quay Rd Unit 101|Fernquay OR 97412")]
    [InlineData("14 Quay Rd, Apt 3, Fernquay, OR, 97412", null, "14 Quay Rd Apt 3|Fernquay OR 97412")]
    [InlineData("C/O Dana Voss 9 Pine St, Albany NY 12207", null, "C/O Dana Voss|9 Pine St|Albany NY 12207")]
    [InlineData("Calle Mayor 5, 28013 Madrid, Spain", null, "Calle Mayor 5|28013 MADRID|SPAIN")]
    [InlineData("14 Quay Rd\nFernquay, OR 97412", null, "14 Quay Rd|Fernquay, OR 97412")]
    [InlineData("Somewhere by the sea", null, "Somewhere by the sea")]
    public void A_whole_address_on_one_line_is_written_on_the_lines_of_its_parts(string whole, string? unit, string lines)
    {
        Column[] columns = [new(1, "Address", ColumnType.Text, Role.WholeAddress), new(2, "Unit", ColumnType.Text, Role.Unit)];
        Assert.Equal(lines, string.Join('|', new DeliveryAddress(columns, "US").Write(new ArrayRow([whole, unit])).Select(l => l.Text)));
    }

    [Theory]
    [InlineData("14 Quay Rd Apt 3", "3", "14 Quay Rd Apt 3")]
    [InlineData("14 Quay Rd Apt 3", "Apt 3", "14 Quay Rd Apt 3")]
    [InlineData("14 Quay Rd # 3", "Unit 3", "14 Quay Rd # 3")]
    [InlineData("14 Quay Rd Apt 3", "4", "14 Quay Rd Apt 3 Unit 4")]
    [InlineData("3 Quay Rd", "3", "3 Quay Rd Unit 3")]
    public void A_unit_that_the_street_names_is_not_written_twice(string street, string unit, string line)
    {
        Column[] columns = [new(1, "Street", ColumnType.Text, Role.Street), new(2, "Unit", ColumnType.Text, Role.Unit)];
        Assert.Equal(line, Assert.Single(new DeliveryAddress(columns, "US").Write(new ArrayRow([street, unit]))).Text);
    }

    [Theory]
    [InlineData(Role.FullName, "Okafor, Ana|Harbor View Trust|Lind, Per & Eva", "Okafor, Ana")]
    [InlineData(Role.FullName, "Ana Okafor|Ana Okafor, MD|Per Lind", null)]
    [InlineData(Role.FullName, "Acme Hardware, Inc.|Berg & Sons, LLC", null)]
    [InlineData(Role.WholeAddress, "Salem, OR 97301|Bend, OR 97701|", "Salem, OR 97301")]
    [InlineData(Role.WholeAddress, "by the sea|Bend, OR 97701|up the hill", null)]
    [InlineData(Role.Street, "9 Elm St|8 Elm St", null)]
    public void What_would_print_badly_whole_is_proposed_to_be_split(Role role, string values, string? example) =>
        Assert.Equal(example, CellParts.Example(role, values.Split('|'), Countries.Named("US")!));

    [Theory]
    [InlineData("Mail?", "Yes|No|Yes", "MayMail")]
    [InlineData("Mail", "a@example.org|b@example.org|c@example.org", "Email")]
    [InlineData("Solicit", "Y||N", "MayMail")]
    [InlineData("Opt in", "2026-01-01|2026-01-02|", "None")]
    [InlineData("P.O. Box", "PO Box 7|PO Box 9|", "Street")] // the only street
    [InlineData("P.O. Box", "7|9|", "None")]
    [InlineData("Emergency line", "(541) 555-0142|541-555-0199|+1 541 555 0123", "Phone")] // nobody else is named
    public void By_its_values(string heading, string values, string role) => Assert.Equal(role, Roles(heading, values.Split('|')));

    [Theory]
    [InlineData("No", true)]
    [InlineData("n", true)]
    [InlineData("FALSE", true)]
    [InlineData("Opted out", false)] // no plain no: a filter says it
    [InlineData("Yes", false)]
    [InlineData("", false)]
    [InlineData(null, false)]
    public void Whoever_may_not_be_mailed_is_held(string? mark, bool held)
    {
        Column[] columns = [new(1, "OK to mail", ColumnType.YesNo, Role.MayMail)];
        Assert.Equal(held ? $"OK to mail: {mark}" : null, MailMark.Of(columns, [mark]));
    }

    [Theory]
    [InlineData("Total due", "125.5|80|195.35", "number 2")]
    [InlineData("Total due", "125.5|80|95.1", "number 2")]
    [InlineData("Total due", "125|80|95", null)]
    [InlineData("Total due", "125.0|80.0|95.0", null)]
    [InlineData("Miles", "125.5|80|195.35", null)]
    [InlineData("Price", "1.255|80|195.35", null)]
    public void Amounts_have_their_cents_though_a_spreadsheet_dropped_a_zero(string heading, string values, string? format)
    {
        var written = new WrittenNumbers();
        foreach (var value in values.Split('|'))
            written.Add(value, NumberForm.Point);
        Assert.Equal(format, written.Usual("USD", RoleRecognizer.SpeaksOfMoney(heading))?.ToString());
    }

    [Theory]
    [InlineData("Mr. & Mrs.", null, "Luis", "Mr. & Mrs. Okafor")]
    [InlineData("Mr. & Mrs.", "Ana", "Luis", "Mr. & Mrs. Ana and Luis Okafor")]
    [InlineData("Mr. & Mrs.", "Ana", null, "Mr. & Mrs. Ana Okafor")]
    [InlineData("Mr.", null, "Luis", "Mr. Okafor and Luis Okafor")]
    public void A_title_of_two_says_so_once(string title, string? given, string? partner, string line)
    {
        Column[] columns =
        [
            new(1, "T", ColumnType.Text, Role.Title),
            new(2, "G", ColumnType.Text, Role.GivenName),
            new(3, "F", ColumnType.Text, Role.FamilyName),
            new(4, "P", ColumnType.Text, Role.PartnerGivenName),
        ];
        var (roles, row) = (new RecipientRoles(columns), new ArrayRow([title, given, "Okafor", partner]));
        Assert.Equal(line, PersonName.Household(PersonName.Of(roles, row), PersonName.PartnerOf(roles, row), "en"));
    }

    [Fact]
    public void An_address_whose_list_has_no_states_has_that_of_its_code_and_a_box_is_a_street()
    {
        Column[] columns =
        [
            new(1, "Street", ColumnType.Text, Role.Street),
            new(2, "Box", ColumnType.Text, Role.Street2),
            new(3, "City", ColumnType.Text, Role.City),
            new(4, "ZIP", ColumnType.Text, Role.PostalCode),
        ];
        string Lines(params string?[] row) =>
            string.Join('|', new DeliveryAddress(columns, "US").Write(new ArrayRow(row)).Select(l => l.Text));
        Assert.Equal("PO Box 77|Fernquay OR 97412", Lines(null, "PO Box 77", "Fernquay", "97412"));
        Assert.Equal("9 Elm St|Nowhere 00001", Lines("9 Elm St", null, "Nowhere", "00001"));
        var checker = new RowChecker(columns, new(Countries.Named("US")!, new(2027, 3, 12), _ => true));
        Assert.Empty(checker.Check([null, "PO Box 77", "Fernquay", "97412"]));
        Assert.Equal(CheckKind.MissingPart, Assert.Single(checker.Check([null, null, "Fernquay", "97412"])).Kind);
    }

    [Theory]
    [InlineData("Fernquay, OR", "97412", "Fernquay OR 97412")]
    [InlineData("Fernquay, Oregon", "97412", "Fernquay OR 97412")]
    [InlineData("Fernquay, OR 97412", "97412-1234", "Fernquay OR 97412-1234")]
    [InlineData("Fernquay, OR 97412", "01970", "Fernquay, OR 97412|01970")]
    public void A_city_and_state_in_one_cell_have_the_code_of_the_next_on_their_line(string whole, string zip, string lines)
    {
        Column[] columns =
        [
            new(1, "Street", ColumnType.Text, Role.Street),
            new(2, "City/State", ColumnType.Text, Role.WholeAddress),
            new(3, "ZIP", ColumnType.Text, Role.PostalCode),
        ];
        Assert.Equal(
            "9 Elm St|" + lines,
            string.Join('|', new DeliveryAddress(columns, "US").Write(new ArrayRow(["9 Elm St", whole, zip])).Select(l => l.Text))
        );
    }

    [Theory]
    [InlineData("Ana", "Okafor or Current Resident", "Dear Ana,", "Ana Okafor or Current Resident")]
    [InlineData(null, "Ana Okafor or Current Resident", "Dear friend,", "Ana Okafor or Current Resident")]
    [InlineData("OR CURRENT RESIDENT", null, "Dear friend,", "OR CURRENT RESIDENT")]
    [InlineData("Resident", null, "Dear Resident,", "Resident")]
    [InlineData("Victor", "Taylor", "Dear Victor,", "Victor Taylor")]
    public void Whoever_else_lives_there_is_addressed_and_not_greeted(string? given, string? family, string greeting, string line)
    {
        Column[] columns = [new(1, "First", ColumnType.Text, Role.GivenName), new(2, "Last", ColumnType.Text, Role.FamilyName)];
        var row = new ArrayRow([given, family]);
        Assert.Equal(greeting, new Salutation(columns, SalutationLadders.First).Of(row, OrganizationLocale.UnitedStates).Text);
        Assert.Equal(line, PersonName.Of(new(columns), row).Full);
        Column[] whole = [new(1, "Name", ColumnType.Text, Role.FullName)];
        var said = new Salutation(whole, SalutationLadders.First).Of(new ArrayRow([line]), OrganizationLocale.UnitedStates).Text;
        Assert.Equal(
            line.Length > 20 ? "Dear Ana Okafor,"
                : line.StartsWith("OR", StringComparison.Ordinal) ? "Dear friend,"
                : $"Dear {line},",
            said
        );
    }

    [Fact]
    public void Current_resident_is_not_a_given_and_a_family_name()
    {
        Column[] columns = [new(1, "First", ColumnType.Text, Role.GivenName), new(2, "Last", ColumnType.Text, Role.FamilyName)];
        var checker = new RowChecker(columns, new(Countries.Named("US")!, new(2027, 3, 12), _ => true));
        Assert.Empty(checker.Check(["Or Current Resident", null]));
        Assert.Equal(CheckKind.NamesInOneCell, Assert.Single(checker.Check(["Ana Okafor", null])).Kind);
    }

    [Fact]
    public void An_organization_with_an_ampersand_is_not_several_people()
    {
        Column[] columns = [new(1, "Insured", ColumnType.Text, Role.FullName)];
        var checker = new RowChecker(columns, new(Countries.Named("US")!, new(2027, 3, 12), _ => true));
        Assert.Empty(checker.Check(["Berg & Sons Roofing Inc."]));
        Assert.Equal(CheckKind.SeveralPeople, Assert.Single(checker.Check(["Mei-Ling Chen & Robert Klein"])).Kind);
    }
}
