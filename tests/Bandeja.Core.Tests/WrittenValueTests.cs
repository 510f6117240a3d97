using Bandeja.Core.Checks;
using Bandeja.Core.Lists;
using Bandeja.Core.Matching;
using Bandeja.Core.Places;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Tests;

/// <summary>Values as people write them: email addresses, numbers, dates, streets, names; and the keys by which they are matched.</summary>
public sealed class WrittenValueTests
{
    [Theory]
    [InlineData("ana@example.org", true)]
    [InlineData("ana.maria+garden@mail.example.co.uk", true)]
    [InlineData("o'neill@example.org", true)]
    [InlineData("josé@ejemplo.example", true)]
    [InlineData("a@b.co", true)]
    [InlineData("ana@example", false)]
    [InlineData("ana@@example.org", false)]
    [InlineData("@example.org", false)]
    [InlineData("ana@", false)]
    [InlineData(".ana@example.org", false)]
    [InlineData("ana.@example.org", false)]
    [InlineData("an..a@example.org", false)]
    [InlineData("ana maria@example.org", false)]
    [InlineData("ana@exa mple.org", false)]
    [InlineData("ana@-example.org", false)]
    [InlineData("ana@example..org", false)]
    [InlineData("ana@example.1", false)]
    [InlineData("ana@example.o", false)]
    [InlineData("", false)]
    public void Email_addresses(string text, bool valid) => Assert.Equal(valid, EmailAddress.IsValid(text));

    [Fact]
    public void Email_addresses_have_an_end()
    {
        Assert.True(EmailAddress.IsValid(new string('a', 64) + "@example.org"));
        Assert.False(EmailAddress.IsValid(new string('a', 65) + "@example.org"));
        Assert.False(EmailAddress.IsValid("a@" + string.Join('.', Enumerable.Repeat(new string('b', 60), 5)) + ".org"));
        Assert.False(EmailAddress.IsValid("a@" + new string('b', 64) + ".org"));
    }

    [Theory]
    [InlineData("1.250,00", "1250.00")]
    [InlineData("12,50", "12.50")]
    [InlineData("1.250.000", "1250000")]
    [InlineData("1,250.50", "1250.50")]
    [InlineData("1 250,5", "1250.5")]
    [InlineData("1'250.50", "1250.50")]
    [InlineData("€ 40", "40")]
    [InlineData("40 EUR", "40")]
    [InlineData("USD 1,250", "1250")]
    [InlineData("-12,5", "-12.5")]
    [InlineData("(12.50)", "-12.50")]
    [InlineData("12.50-", "-12.50")]
    [InlineData("$1,250.00 -", "-1250.00")]
    [InlineData("12.50- €", "-12.50")]
    [InlineData("–40", "-40")]
    [InlineData("−12,5", "-12.5")]
    [InlineData("5,6%", "0.056")]
    [InlineData("50,-", "50")]
    [InlineData("50.- CHF", "50")]
    [InlineData("1.250", "1.250")] // a point with three digits: the column's own reading took it before
    [InlineData("12,345", "12345")]
    [InlineData("1,2,3", null)]
    [InlineData("waived", null)]
    [InlineData("12 apples", null)]
    [InlineData("", null)]
    [InlineData("1.2.3", null)]
    public void Numbers(string text, string? number) =>
        Assert.Equal(number, NumberText.Read(text)?.ToString(System.Globalization.CultureInfo.InvariantCulture));

    [Theory]
    [InlineData("12.50-", "-12.50")]
    [InlineData("$1,250.00 -", "-1250.00")]
    [InlineData("1250- $", "-1250")]
    [InlineData("-12.50-", null)]
    [InlineData("50.-", "50")]
    [InlineData("-", null)]
    [InlineData("97401-1234", null)]
    public void A_minus_sign_behind_a_number_is_its_sign(string text, string? number) =>
        Assert.Equal(
            number,
            Lists.WrittenValue.TryNumber(text, out var read) ? read.ToString(System.Globalization.CultureInfo.InvariantCulture) : null
        );

    [Theory]
    [InlineData("25/12/2020", "2020-12-25")]
    [InlineData("12/25/2020", "2020-12-25")]
    [InlineData("03/04/2019", "2019-03-04,2019-04-03")]
    [InlineData("04/04/2019", "2019-04-04")]
    [InlineData("03/04/19", "2019-03-04,2019-04-03")]
    [InlineData("31.12.99", "1999-12-31")]
    [InlineData("31.12.36", "2036-12-31")]
    [InlineData("20270301", "2027-03-01")]
    [InlineData("2027/3/1", "2027-03-01")]
    [InlineData("March 3rd, 2020", "2020-03-03")]
    [InlineData("3 de marzo de 2020", "2020-03-03")]
    [InlineData("3. März 2020", "2020-03-03")]
    [InlineData("3 mars 2020", "2020-03-03")]
    [InlineData("31/02/2020", "")]
    [InlineData("00/00/0000", "")]
    [InlineData("soon", "")]
    [InlineData("2021-02-30", "")]
    public void Dates(string text, string readings) =>
        Assert.Equal(
            readings,
            string.Join(
                ',',
                DateText
                    .Readings(text, new(2027, 3, 1))
                    .Select(d => d.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture))
            )
        );

    [Theory]
    [InlineData("510 TIDE ST NE", "510 Tide St NE")]
    [InlineData("po box 12", "PO Box 12")]
    [InlineData("1209 42ND AVE", "1209 42nd Ave")]
    [InlineData("12B QUAY ROAD", "12B Quay Road")]
    [InlineData("CALLE DE LA ROSA 4", "Calle de la Rosa 4")]
    [InlineData("9 MCKAY LANE, APT 3", "9 McKay Lane, Apt 3")]
    [InlineData("rr 2", "RR 2")]
    public void Streets(string street, string becomes) => Assert.Equal(becomes, StreetCase.Of(street));

    [Theory]
    [InlineData("MCKAY", "McKay")]
    [InlineData("O'NEILL", "O'Neill")]
    [InlineData("VAN DER BERG", "Van der Berg")]
    [InlineData("anna-lena", "Anna-Lena")]
    [InlineData("SMITH-JONES", "Smith-Jones")]
    [InlineData("McKay", "McKay")]
    public void Names_in_capitals(string name, string becomes) => Assert.Equal(becomes, NameCase.Of(name));

    [Theory]
    [InlineData("MuÃ±oz", "Muñoz")]
    [InlineData("FranÃ§ois", "François")]
    [InlineData("â‚¬ 40", "€ 40")]
    [InlineData("donâ€™t", "don’t")]
    [InlineData("Muñoz", null)]
    [InlineData("São Paulo", null)]
    [InlineData("Âge", null)]
    [InlineData("plain", null)]
    [InlineData("Ã", null)]
    public void Garbled_letters(string text, string? restored) => Assert.Equal(restored, Mojibake.Restore(text));

    static readonly Column[] Columns =
    [
        new(1, "Name", ColumnType.Text, Role.FullName),
        new(2, "Street", ColumnType.Text, Role.Street),
        new(3, "Apt", ColumnType.Text, Role.Street2),
        new(4, "Zip", ColumnType.Text, Role.PostalCode),
        new(5, "City", ColumnType.Text, Role.City),
        new(6, "Company", ColumnType.Text, Role.Organization),
    ];

    [Theory]
    [InlineData("12 North Quay Road", null, "12 N. Quay Rd")]
    [InlineData("9 Tide Street", "Apt 4", "9 Tide St #4")]
    [InlineData("9 Tide Street", "Unit 4", "9 tide st., apt. 4")]
    [InlineData("Lindenstraße 5", null, "lindenstrasse 5")]
    [InlineData("1 Saint James Terrace", null, "1 St James Ter")]
    [InlineData("Calle Mayor 3", null, "C Mayor 3")]
    public void Streets_are_matched_by_what_remains(string street, string? second, string other)
    {
        var keys = new MatchKeys(Columns);
        Assert.Equal(keys.Of(1, ["Ana", street, second, "97412"]).Address, keys.Of(2, ["Ana", other, null, "97412"]).Address);
    }

    [Theory]
    [InlineData("Ana Okafor", "Okafor, Ana")]
    [InlineData("Dr. Ana Okafor", "Ms Ana Okafor")]
    [InlineData("Inês O'Neill", "Ines ONeill")]
    public void Names_are_matched_by_what_remains(string name, string other)
    {
        var keys = new MatchKeys(Columns);
        Assert.Equal(keys.Of(1, [name]).Name, keys.Of(2, [other]).Name);
    }

    [Fact]
    public void Without_a_name_the_organization_is_matched_and_without_a_code_the_city()
    {
        var keys = new MatchKeys(Columns);
        Assert.Equal("fernquay rotary", keys.Of(1, [null, "1 A St", null, null, "Fernquay", "Fernquay Rotary"]).Name);
        Assert.Equal("1 a st\nfernquay", keys.Of(1, [null, "1 A St", null, null, "Fernquay"]).Address);
        Assert.Equal("", keys.Of(1, ["Ana", null, null, "97412"]).Address);
        Assert.Equal("", keys.Of(1, [null, "1 A St", null, "97412"]).NameAndAddress);
    }

    /// <summary>Addresses abroad are checked by their own country's rules.</summary>
    [Theory]
    [InlineData("Canada", "BC", "V8W 1N6", null)]
    [InlineData("Canada", "ON", "V8W 1N6", CheckKind.PostalCodeRegion)]
    [InlineData("Canada", "British Columbia", "V8W 1N6", CheckKind.RegionName)]
    [InlineData("Canada", null, "V8W 1N6", CheckKind.MissingPart)]
    [InlineData("Canada", "BC", "v8w1n6", CheckKind.PostalCodeForm)]
    [InlineData("Australia", "NSW", "2000", null)]
    [InlineData("Australia", "VIC", "2000", CheckKind.PostalCodeRegion)]
    [InlineData("Australia", "NT", "800", CheckKind.LeadingZero)]
    [InlineData("Brasil", "SP", "01001-000", null)]
    [InlineData("Germany", null, "1067", CheckKind.LeadingZero)]
    [InlineData("Germany", null, "10115", null)]
    [InlineData("Germany", "Berlin", "10115", null)]
    [InlineData("Ireland", null, "T12 X4P8", null)]
    [InlineData("Ireland", null, null, CheckKind.MissingPart)]
    [InlineData("Hong Kong", null, null, null)]
    [InlineData("United Kingdom", null, "sw1a1aa", CheckKind.PostalCodeForm)]
    [InlineData("Japan", null, "060-0042", null)]
    [InlineData("Netherlands", null, "1012", CheckKind.PostalCodeMalformed)]
    public void Addresses_by_country(string country, string? region, string? code, CheckKind? kind)
    {
        Column[] columns =
        [
            new(1, "Last", ColumnType.Text, Role.FamilyName),
            new(2, "Street", ColumnType.Text, Role.Street),
            new(3, "City", ColumnType.Text, Role.City),
            new(4, "Region", ColumnType.Text, Role.Region),
            new(5, "Code", ColumnType.Text, Role.PostalCode),
            new(6, "Country", ColumnType.Text, Role.Country),
        ];
        var issues = new RowChecker(columns, new(Countries.Named("US")!, new(2027, 3, 1), _ => true)).Check(
            ["Okafor", "1 High Street", "Somewhere", region, code, country]
        );
        if (kind is null)
            Assert.Empty(issues);
        else
            Assert.Equal(kind, Assert.Single(issues).Kind);
    }

    [Theory]
    [InlineData("Germany", "+49 30 123456", true)]
    [InlineData("Germany", "030 123456", true)]
    [InlineData("Germany", "030 1234567890123456", false)]
    [InlineData("France", "01 23 45 67 89", true)]
    [InlineData("France", "01 23", false)]
    [InlineData("United States", "(541) 555-0142 ext. 3", true)]
    [InlineData("United States", "1-541-555-0142", true)]
    [InlineData("United States", "(141) 555-0142", true)] // odd, but of the right length: whether it is given out is not ours to say
    [InlineData("United States", "541-555-01", false)]
    public void Phones_by_country(string country, string phone, bool right)
    {
        Column[] columns =
        [
            new(1, "Last", ColumnType.Text, Role.FamilyName),
            new(2, "Phone", ColumnType.Text, Role.Phone),
            new(3, "Country", ColumnType.Text, Role.Country),
        ];
        Assert.Equal(
            right,
            new RowChecker(columns, new(Countries.Named("US")!, new(2027, 3, 1), _ => true)).Check(["Okafor", phone, country]).Count == 0
        );
    }
}
