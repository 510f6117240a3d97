using Bandeja.Core.Checks;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>The checks, case by case: what is wrong, and what is proposed instead.</summary>
public sealed class CheckTests
{
    static readonly Column[] Columns =
    [
        new(1, "No", ColumnType.Text, Role.Key),
        new(2, "Title", ColumnType.Text, Role.Title),
        new(3, "First", ColumnType.Text, Role.GivenName),
        new(4, "Last", ColumnType.Text, Role.FamilyName),
        new(5, "Company", ColumnType.Text, Role.Organization),
        new(6, "Street", ColumnType.Text, Role.Street),
        new(7, "City", ColumnType.Text, Role.City),
        new(8, "State", ColumnType.Text, Role.Region),
        new(9, "Zip", ColumnType.Text, Role.PostalCode),
        new(10, "Country", ColumnType.Text, Role.Country),
        new(11, "Email", ColumnType.Text, Role.Email),
        new(12, "Phone", ColumnType.Text, Role.Phone),
        new(13, "Amount", ColumnType.Number, Role.None),
        new(14, "Joined", ColumnType.Date, Role.None),
        new(15, "Newsletter", ColumnType.YesNo, Role.None),
        new(16, "Gender", ColumnType.Text, Role.None),
        new(17, "Note", ColumnType.Text, Role.None),
    ];

    static readonly CheckSettings Settings = new(Countries.Named("US")!, new(2027, 3, 1), r => r.Value < 0x600);
    readonly RowChecker checker = new(Columns, Settings);

    static string?[] Sound() =>
        [
            "F-1",
            null,
            "Ana",
            "Okafor",
            null,
            "2291 Lantern Row",
            "Fernquay",
            "OR",
            "97412",
            null,
            "ana@example.org",
            "(541) 555-0142",
            "64.00",
            "2019-03-04",
            "yes",
            null,
            null,
        ];

    List<CheckIssue> With(params (string Column, string? Value)[] changes)
    {
        var row = Sound();
        foreach (var (column, value) in changes)
            row[Array.FindIndex(Columns, c => c.Name == column)] = value;
        return checker.Check(row);
    }

    [Fact]
    public void A_sound_row_has_no_issues() => Assert.Empty(checker.Check(Sound()));

    [Theory]
    [InlineData(Role.PartnerGivenName)]
    [InlineData(Role.PartnerFamilyName)]
    [InlineData(Role.MiddleName)]
    public void Every_name_that_prints_is_looked_at_for_its_capitals(Role role)
    {
        Column[] columns = [new(1, "First", ColumnType.Text, Role.GivenName), new(2, "Other", ColumnType.Text, role)];
        var found = new RowChecker(columns, Settings).Check(["Heinz", "GRETA"]).Single(i => i.Kind == CheckKind.Capitals);
        Assert.Equal((1, "Greta"), (found.Column, found.Fixes.Single().Value));
    }

    /// <summary>What is wrong in one cell, and what it would become; null where nothing is proposed, "" for blank.</summary>
    [Theory]
    [InlineData("Street", " 2291  Lantern Row ", CheckKind.Spaces, "2291 Lantern Row")]
    [InlineData("Last", "Okafor\u00A0", CheckKind.Spaces, "Okafor")]
    [InlineData("Last", "OKAFOR", CheckKind.Capitals, "Okafor")]
    [InlineData("Last", "MCKAY", CheckKind.Capitals, "McKay")]
    [InlineData("Last", "o'neill", CheckKind.Capitals, "O'Neill")]
    [InlineData("Last", "DE LA CRUZ", CheckKind.Capitals, "De la Cruz")]
    [InlineData("Street", "12 TIDE ST NE", CheckKind.Capitals, "12 Tide St NE")]
    [InlineData("Street", "PO BOX 12", CheckKind.Capitals, "PO Box 12")]
    [InlineData("Street", "1209 42ND AVE APT 3B", CheckKind.Capitals, "1209 42nd Ave Apt 3B")]
    [InlineData("City", "alder point", CheckKind.Capitals, "Alder Point")]
    [InlineData("Last", "MuÃ±oz", CheckKind.Garbled, "Muñoz")]
    [InlineData("Last", "WeiÃŸ", CheckKind.Garbled, "Weiß")]
    [InlineData("Last", "O&#39;Malley", CheckKind.Garbled, "O'Malley")]
    [InlineData("Last", "Mu&ntilde;oz", CheckKind.Garbled, "Muñoz")]
    [InlineData("Company", "Lee &amp;amp; Co", CheckKind.Garbled, "Lee & Co")]
    [InlineData("Note", "&nbsp;", CheckKind.Garbled, "")]
    [InlineData("Note", "a &#1; b", CheckKind.Garbled, "a  b")]
    [InlineData("No", "'00123", CheckKind.Garbled, "00123")]
    [InlineData("No", "=\"00123\"", CheckKind.Garbled, "00123")]
    [InlineData("No", "1001.0", CheckKind.Garbled, "1001")]
    [InlineData("Note", "#REF!", CheckKind.Placeholder, "")]
    [InlineData("Last", "MuÃƒÂ±oz", CheckKind.Garbled, "Muñoz")]
    [InlineData("Last", "Mu\uFFFDoz", CheckKind.Garbled, null)]
    [InlineData("Company", "N/A", CheckKind.Placeholder, "")]
    [InlineData("Company", "-", CheckKind.Placeholder, "")]
    [InlineData("Note", "0", CheckKind.Placeholder, "")]
    [InlineData("First", "xxx", CheckKind.Placeholder, "")]
    [InlineData("Zip", "2139", CheckKind.PostalCodeMalformed, null)] // 02139 would be Massachusetts
    [InlineData("Zip", "974", CheckKind.PostalCodeMalformed, null)]
    [InlineData("Zip", "97412-", CheckKind.PostalCodeForm, "97412")]
    [InlineData("Zip", "974121234", CheckKind.PostalCodeForm, "97412-1234")]
    [InlineData("Zip", "98412", CheckKind.PostalCodeRegion, null)]
    [InlineData("State", "Oregon", CheckKind.RegionName, "OR")]
    [InlineData("State", "or", CheckKind.RegionName, "OR")]
    [InlineData("State", "Bavaria", CheckKind.RegionUnknown, null)]
    [InlineData("State", null, CheckKind.MissingPart, "OR")]
    [InlineData("Street", null, CheckKind.MissingPart, null)]
    [InlineData("Country", "Untied States", CheckKind.CountryUnknown, "United States")]
    [InlineData("Country", "Fernland", CheckKind.CountryUnknown, null)]
    [InlineData("Email", "ana@exmaple.org", CheckKind.EmailTypo, "ana@example.org")]
    [InlineData("Email", "ana@gmial.com", CheckKind.EmailTypo, "ana@gmail.com")]
    [InlineData("Email", "ana@example.con", CheckKind.EmailTypo, "ana@example.com")]
    [InlineData("Email", "ana @example.org", CheckKind.EmailMalformed, "ana@example.org")]
    [InlineData("Email", "ana@example,org", CheckKind.EmailMalformed, "ana@example.org")]
    [InlineData("Email", "ana", CheckKind.EmailMalformed, null)]
    [InlineData("Email", "info@example.org", CheckKind.RoleAccount, null)]
    [InlineData("Phone", "555-01", CheckKind.Phone, null)]
    [InlineData("Phone", "call me", CheckKind.Phone, null)]
    [InlineData("Amount", "1.250,00", CheckKind.NotANumber, "1250.00")]
    [InlineData("Amount", "50 USD", CheckKind.NotANumber, "50")]
    [InlineData("Amount", "(12.50)", CheckKind.NotANumber, "-12.50")]
    [InlineData("Amount", "waived", CheckKind.NotANumber, null)]
    [InlineData("Joined", "2021-02-30", CheckKind.NotADate, null)]
    [InlineData("Joined", "25/12/2020", CheckKind.NotADate, "2020-12-25")]
    [InlineData("Joined", "March 3rd, 2020", CheckKind.NotADate, "2020-03-03")]
    [InlineData("Joined", "3. März 2020", CheckKind.NotADate, "2020-03-03")]
    [InlineData("Joined", "03/04/19", CheckKind.AmbiguousDate, null)]
    [InlineData("Joined", "1019-03-04", CheckKind.DateFar, null)]
    [InlineData("Joined", "2029-03-04", CheckKind.DateFar, null)]
    [InlineData("Newsletter", "x", CheckKind.NotYesNo, "yes")]
    [InlineData("Newsletter", "maybe", CheckKind.NotYesNo, null)]
    [InlineData("First", "Ana & Luis", CheckKind.SeveralPeople, null)]
    [InlineData("First", "Ana und Luis", CheckKind.SeveralPeople, null)]
    [InlineData("Last", "ليلى", CheckKind.NoGlyph, null)]
    [InlineData("Street", "A street name that goes on and on until it fits no line of an envelope", CheckKind.TooLong, null)]
    public void One_cell(string column, string? value, CheckKind kind, string? proposal)
    {
        var issue = Assert.Single(With((column, value)), d => d.Kind == kind);
        Assert.Equal(column, Columns[issue.Column].Name);
        Assert.NotEmpty(issue.Message);
        if (proposal is null)
            Assert.Empty(issue.Fixes);
        else
            Assert.Equal(new CellFix(issue.Column, proposal.Length == 0 ? null : proposal), Assert.Single(issue.Fixes));
    }

    /// <summary>What looks odd and is right.</summary>
    [Theory]
    [InlineData("Note", "AT&T; and R&D")]
    [InlineData("Note", "1001.0")]
    [InlineData("Last", "'t Hooft")]
    [InlineData("Note", "#1")]
    [InlineData("Last", "McKay")]
    [InlineData("Last", "van der Berg")]
    [InlineData("Last", "Null-Meier")]
    [InlineData("First", "JD")]
    [InlineData("First", "Ng")]
    [InlineData("Last", "Ångström")]
    [InlineData("Street", "12 Tide St NE")]
    [InlineData("Company", "IBM")]
    [InlineData("Company", "Smith and Sons")]
    [InlineData("Email", "ana.o'neill+garden@mail.example.org")]
    [InlineData("Phone", "+1 541 555 0142")]
    [InlineData("Note", "two\nlines")]
    [InlineData("Joined", "1999-12-31")]
    public void Right_as_it_is(string column, string value) => Assert.Empty(With((column, value)));

    [Fact]
    public void Names_in_the_wrong_cells_are_put_right_together()
    {
        Assert.Equal(
            [new(2, "Ana"), new(3, "Okafor")],
            Assert.Single(With(("First", "Ana Okafor"), ("Last", null)), d => d.Kind == CheckKind.NamesInOneCell).Fixes
        );
        Assert.Equal(
            [new(2, "Ana"), new(3, "Okafor")],
            Assert.Single(With(("First", null), ("Last", "Okafor, Ana")), d => d.Kind == CheckKind.NamesInOneCell).Fixes
        );
        Assert.Equal(
            [new(2, "Ana"), new(3, "de la Cruz")],
            Assert.Single(With(("First", "Ana de la Cruz"), ("Last", null)), d => d.Kind == CheckKind.NamesInOneCell).Fixes
        );
        Assert.Equal(
            [new(2, "Maria"), new(3, "Okafor")],
            Assert.Single(With(("First", "Okafor"), ("Last", "Maria")), d => d.Kind == CheckKind.NamesSwapped).Fixes
        );
        Assert.Contains(With(("First", null), ("Last", null)), d => d.Kind == CheckKind.NoName);
        Assert.Empty(With(("First", null), ("Last", null), ("Company", "Fernquay Rotary")));
    }

    [Fact]
    public void An_address_in_one_cell_is_divided()
    {
        var issue = Assert.Single(With(("City", "Fernquay, OR 97412"), ("State", null), ("Zip", null)));
        Assert.Equal(CheckKind.AddressInOneCell, issue.Kind);
        Assert.Equal([new(6, "Fernquay"), new(8, "97412"), new(7, "OR")], issue.Fixes);
        Assert.Equal(
            "The address is blank.",
            Assert.Single(With(("Street", null), ("City", null), ("State", null), ("Zip", null))).Message
        );
    }

    [Fact]
    public void A_title_that_contradicts_another_column_is_told()
    {
        Assert.Equal("Ms", Assert.Single(With(("Title", "Mr"), ("Gender", "female"))).Fixes[0].Value);
        Assert.Empty(With(("Title", "Dr"), ("Gender", "female")));
        Assert.Empty(With(("Title", "Mrs"), ("Gender", "F")));
    }

    [Theory]
    [InlineData("ana@example.org; luis@example.org")]
    [InlineData("ana@example.org,luis@example.org")]
    [InlineData("ana@example.org / luis@example.org / per@example.org")]
    [InlineData("ana@example.org\nluis@example.org")]
    public void The_first_of_several_addresses_is_proposed(string cell) =>
        Assert.Equal([new(10, "ana@example.org")], Assert.Single(With(("Email", cell)), d => d.Kind == CheckKind.EmailMalformed).Fixes);

    [Fact]
    public void One_address_and_something_else_is_not_two_addresses() =>
        Assert.DoesNotContain("addresses", Assert.Single(With(("Email", "ana@example.org (work)"))).Message);

    [Theory]
    [InlineData("Zip", null, "an address in the United States needs it")]
    [InlineData("Country", "NL", "of the Netherlands")]
    [InlineData("Country", "Poland", "for Poland is")]
    public void A_country_is_named_as_in_a_sentence(string column, string? value, string said) =>
        Assert.Contains(With((column, value), ("State", null)), d => d.Message.Contains(said));

    [Theory]
    [InlineData("Meera Klein <meera@example.org>", "meera@example.org")]
    [InlineData("\"Klein, Meera\" <mailto:meera@example.org>", "meera@example.org")]
    [InlineData("ana@example.org (work)", "ana@example.org")]
    [InlineData("ana @ example.org", "ana@example.org")]
    [InlineData("mailto:ana@example.org", "ana@example.org")]
    [InlineData("Meera Klein meera@example.org", null)]
    [InlineData("ana luis@example.org", null)]
    public void An_address_is_mended_and_no_word_is_glued_to_it(string email, string? mended)
    {
        var issue = Assert.Single(With(("Email", email)), d => d.Kind == CheckKind.EmailMalformed);
        Assert.Equal(mended, issue.Fixes is [{ Value: var value }] ? value : null);
    }

    [Theory]
    [InlineData("No", "1.23457E+12")]
    [InlineData("Phone", "5.55E+09")]
    [InlineData("Note", "-2,5e+15")]
    public void A_number_that_a_spreadsheet_has_rounded_is_told_once(string column, string value)
    {
        var issue = Assert.Single(With((column, value)));
        Assert.Equal(CheckKind.DigitsLost, issue.Kind);
        Assert.Empty(issue.Fixes);
    }

    [Theory]
    [InlineData("E+12")]
    [InlineData("12E+1")]
    [InlineData("Type E+ 4")]
    [InlineData("1.5E-3")]
    public void What_only_looks_like_one_is_left_alone(string value) => Assert.Empty(With(("Note", value)));

    [Fact]
    public void A_cell_as_long_as_a_book_is_told_as_too_long_and_nothing_is_read_into_its_row()
    {
        foreach (var role in Enum.GetValues<Role>().Where(r => r is not Role.None))
        foreach (var bit in (string[])["a", "a ", "1", "1 ", "a,", " a & ", "a.", "(", "a@", "MA 1970 ", "Ã±"])
        {
            // Rules that go back over a cell for each of its characters would not come to an end here.
            var book = string.Concat(Enumerable.Repeat(bit, 100_000 / bit.Length)).Trim();
            var issues = new RowChecker([new(1, "Name", ColumnType.Text, role)], Settings).Check([book]);
            Assert.Contains(issues, i => i.Kind == CheckKind.TooLong);
            Assert.DoesNotContain(issues, i => i.Kind is CheckKind.SeveralPeople or CheckKind.NoName or CheckKind.MissingPart);
        }
    }

    [Property(MaxTest = 300)]
    public void Any_row_is_checked_and_a_fix_leaves_no_issue_of_its_kind(string?[] cells)
    {
        var row = Sound();
        for (var i = 0; i < cells.Length; i++)
            row[(i * 7 + cells.Length) % row.Length] = cells[i];
        foreach (
            var issue in checker
                .Check(row)
                .Where(d =>
                    d.Kind
                        is CheckKind.Spaces
                            or CheckKind.Capitals
                            or CheckKind.Placeholder
                            or CheckKind.LeadingZero
                            or CheckKind.PostalCodeForm
                            or CheckKind.RegionName
                            or CheckKind.Garbled
                            or CheckKind.NotANumber
                )
        )
        {
            if (issue.Fixes.Count == 0)
                continue;
            var mended = (string?[])row.Clone();
            foreach (var fix in issue.Fixes)
                mended[fix.Column] = fix.Value;
            Assert.DoesNotContain(checker.Check(mended), d => d.Kind == issue.Kind && d.Column == issue.Column);
        }
    }
}
