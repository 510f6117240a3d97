using System.Globalization;
using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;
using Bandeja.Core.Texts;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

public sealed class TypeGuesserTests
{
    [Theory]
    [InlineData("Amount", ColumnType.Number, "12", "1,250.00", "-3.5")]
    [InlineData("Amount", ColumnType.Number, "$64.00", "(12.50)", "-$3")]
    [InlineData("Code letter", ColumnType.Text, "007", "12")]
    [InlineData("ZIP", ColumnType.Text, "97412", "97415")]
    [InlineData("Member No.", ColumnType.Text, "1001", "1002")]
    [InlineData("Home phone", ColumnType.Text, "5415550100")]
    [InlineData("Phone", ColumnType.Text, "+15415550100")]
    [InlineData("Card", ColumnType.Text, "4111111111111111")]
    [InlineData("Joined", ColumnType.Date, "2027-03-01", "2026-12-31")]
    [InlineData("Joined", ColumnType.Date, "3/31/2027")]
    [InlineData("Joined", ColumnType.Date, "31.3.2027")]
    [InlineData("Joined", ColumnType.Date, "31.3.27")]
    [InlineData("Joined", ColumnType.Date, "3/4/26", "12/31/25", "1/9/26")]
    [InlineData("Joined", ColumnType.Date, "4-Mar-26", "12-Dec-25")]
    [InlineData("Joined", ColumnType.Date, "4. März 2026", "12. Dezember 2025")]
    [InlineData("Joined", ColumnType.Date, "20260304", "20251231", "20260101")]
    [InlineData("Renewal date", ColumnType.Date, "20260304")]
    [InlineData("Batch", ColumnType.Number, "20260304", "20251399", "20260101", "77")]
    [InlineData("Begins", ColumnType.Text, "14:30", "9:15", "11:00")]
    [InlineData("Rate", ColumnType.Number, "12%", "7.5%", "100%")]
    [InlineData("Amount", ColumnType.Number, "1.250,50", "64,00", "3,5")]
    [InlineData("Amount", ColumnType.Number, "1 250,50 €", "64,00 €", "-3,50 €")]
    [InlineData("Amount", ColumnType.Number, "CHF 1'250.50", "CHF 64.00")]
    [InlineData("Version", ColumnType.Text, "1.2.3", "2.0.1")]
    [InlineData("Hours", ColumnType.Text, "9-5", "10-6")]
    [InlineData("Active", ColumnType.YesNo, "yes", "NO", "y")]
    [InlineData("Active", ColumnType.YesNo, "ja", "nein")]
    [InlineData("Name", ColumnType.Text, "Ana", "12")]
    [InlineData("Price", ColumnType.Number, "12,50", "3,99")]
    [InlineData("Empty", ColumnType.Text, null, " ")]
    public void A_column_is_what_its_heading_and_values_say(string heading, ColumnType expected, params string?[] values) =>
        Assert.Equal(expected, TypeGuesser.Guess(heading, values).Type);

    [Fact]
    public void A_few_words_among_numbers_do_not_change_what_the_column_is()
    {
        var numbers = Enumerable.Range(0, 200).Select(i => (string?)$"{i}.50");
        Assert.Equal(ColumnType.Number, TypeGuesser.Guess("Amount due", numbers.Append("waived").Append("n/a")).Type);
        Assert.Equal(ColumnType.Text, TypeGuesser.Guess("Amount due", numbers.Take(10).Append("waived")).Type);
        Assert.Equal(ColumnType.Text, TypeGuesser.Guess("House", numbers.Append("12A")).Type);
    }

    [Fact]
    public void The_order_of_day_and_month_is_told_by_the_values_and_else_by_the_organization()
    {
        Assert.Equal(DateOrder.MonthDayYear, TypeGuesser.Guess("Born", ["3/4/1970", "3/31/1970"], DateOrder.DayMonthYear).DateOrder);
        Assert.Equal(DateOrder.DayMonthYear, TypeGuesser.Guess("Born", ["3/4/1970", "31/3/1970"], DateOrder.MonthDayYear).DateOrder);
        Assert.Equal(DateOrder.DayMonthYear, TypeGuesser.Guess("Born", ["3/4/1970"], DateOrder.DayMonthYear).DateOrder);
    }

    [Theory]
    [InlineData("46477", "2027-03-31")]
    [InlineData("46477.75", "2027-03-31")]
    [InlineData("25569", "1970-01-01")]
    [InlineData("2027-03-31", "2027-03-31")]
    [InlineData("2027", null)]
    [InlineData("20270331", "2027-03-31")]
    [InlineData("97412", null)]
    [InlineData("-46477", null)]
    [InlineData("3/31/2027", null)]
    [InlineData("99999999999999999999", null)]
    public void A_day_number_is_read_as_spreadsheets_keep_days(string value, string? day) =>
        Assert.Equal(day, WrittenValue.TryDate(value, DateOrder.DayNumber, out var date) ? $"{date:yyyy-MM-dd}" : null);

    [Theory]
    [InlineData("Renewal date", ColumnType.Date, "46477", "46478", "")]
    [InlineData("DOB", ColumnType.Date, "25569.5", "18000")]
    [InlineData("Amount due", ColumnType.Number, "46477", "46478")]
    [InlineData("Renewal date", ColumnType.Number, "1200", "46478")]
    [InlineData("Data usage", ColumnType.Number, "46477", "46478")]
    [InlineData("Date code", ColumnType.Text, "46477", "46478")]
    public void Numbers_are_days_where_the_heading_says_so(string heading, ColumnType type, params string[] values) =>
        Assert.Equal(type, TypeGuesser.Guess(heading, values).Type);

    [Fact]
    public void Text_too_says_how_it_would_be_read_if_somebody_chose_another_type()
    {
        var guess = TypeGuesser.Guess("Renewal", ["5/4/2027", "on request", "when settled"], DateOrder.DayMonthYear);
        Assert.Equal((ColumnType.Text, DateOrder.DayMonthYear), (guess.Type, guess.DateOrder));
        Assert.Equal(DateOrder.DayMonthYear, TypeGuesser.Guess("Renewal", ["25/4/2027", "on request", "when settled"]).DateOrder);
        guess = TypeGuesser.Guess("Fee", ["1.250,00", "on request", "when settled"]);
        Assert.Equal((ColumnType.Text, NumberForm.Comma), (guess.Type, guess.NumberForm));
    }

    [Theory]
    [InlineData("DOB", ColumnType.Date, DateOrder.YearMonthDay, "19580304")]
    [InlineData("REG_DT", ColumnType.Date, DateOrder.YearMonthDay, "20040110", "20101005")]
    [InlineData("REG_DT", ColumnType.Date, DateOrder.DayNumber, "38000", "40456")]
    [InlineData("Member since", ColumnType.Number, DateOrder.MonthDayYear, "1998", "2004")]
    [InlineData("Batch", ColumnType.Number, DateOrder.YearMonthDay, "20040110", "20101005")]
    public void Packed_days_are_no_day_numbers(string heading, ColumnType type, DateOrder order, params string[] values)
    {
        var guess = TypeGuesser.Guess(heading, values);
        Assert.Equal((type, order), (guess.Type, guess.DateOrder));
    }

    [Theory]
    [InlineData("2027-03-31T00:00:00Z")]
    [InlineData("2027-03-31T08:15:00.000Z")]
    [InlineData("2027-03-31T08:15:00+02:00")]
    [InlineData("2027-03-31 00:00:00.000")]
    [InlineData("2027-03-31 00:00:00+00")]
    [InlineData("2027-03-31 08:15 UTC")]
    [InlineData("2027-03-31T08:15")]
    public void A_moment_is_its_day(string value)
    {
        Assert.True(WrittenValue.TryDate(value, DateOrder.YearMonthDay, out var date));
        Assert.Equal(new(2027, 3, 31), date);
        Assert.Equal(ColumnType.Date, TypeGuesser.Guess("Something", [value, value]).Type);
    }

    [Theory]
    [InlineData(true, "3/4/1970", "5/6/1971")]
    [InlineData(false, "3/4/1970", "3/31/1970")]
    [InlineData(false, "4/4/1970", "5/5/1971")]
    [InlineData(false, "1970-03-04")]
    [InlineData(false, "4-Mar-26", "5-Jun-26")]
    [InlineData(true, "1.250", "2.500")]
    [InlineData(false, "1.250", "2.5")]
    [InlineData(false, "1.250", "64,00")]
    [InlineData(false, "64", "12")]
    public void What_the_values_leave_open_is_asked(bool ambiguous, params string[] values) =>
        Assert.Equal(ambiguous, TypeGuesser.Guess("Something", values).Ambiguous);

    [Theory]
    [InlineData("1.250,50", "1250.50")]
    [InlineData("64,00", "64.00")]
    [InlineData("-3,50 €", "-3.50")]
    [InlineData("1.250", "1250")]
    [InlineData("kr 1 250,5", "1250.5")]
    [InlineData("1.25,5", null)]
    [InlineData("1,250.50", null)]
    [InlineData("12,5 %", "0.125")]
    public void Numbers_with_a_decimal_comma(string raw, string? canonical)
    {
        Assert.Equal(
            canonical is not null,
            WrittenValue.TryCanonical(raw, ColumnType.Number, DateOrder.DayMonthYear, out var read, NumberForm.Comma)
        );
        Assert.Equal(canonical ?? raw, read);
    }

    [Theory]
    [InlineData("$1,250.00", ColumnType.Number, "1250.00")]
    [InlineData(" 12 ", ColumnType.Number, "12")]
    [InlineData("1'250.50 CHF", ColumnType.Number, "1250.50")]
    [InlineData("3/4/26", ColumnType.Date, "2026-03-04")]
    [InlineData("4-Mar-26", ColumnType.Date, "2026-03-04")]
    [InlineData("3/4/2026 2:30 PM", ColumnType.Date, "2026-03-04")]
    [InlineData("4 de marzo de 2026", ColumnType.Date, "2026-03-04")]
    [InlineData("3/31/2027", ColumnType.Date, "2027-03-31")]
    [InlineData("Mar 3, 2027", ColumnType.Date, "2027-03-03")]
    [InlineData("3/31/2027 14:05", ColumnType.Date, "2027-03-31")]
    [InlineData("Y", ColumnType.YesNo, "yes")]
    [InlineData(" 02139 ", ColumnType.Text, " 02139 ")]
    [InlineData("   ", ColumnType.Text, null)]
    public void Values_come_to_their_canonical_form(string raw, ColumnType type, string? expected)
    {
        Assert.True(WrittenValue.TryCanonical(raw, type, DateOrder.MonthDayYear, out var canonical));
        Assert.Equal(expected, canonical);
    }

    [Theory]
    [InlineData("waived", ColumnType.Number)]
    [InlineData("2/30/2027", ColumnType.Date)]
    [InlineData("31/3/2027", ColumnType.Date)]
    [InlineData("perhaps", ColumnType.YesNo)]
    [InlineData("12,50", ColumnType.Number)]
    public void What_does_not_fit_is_kept_as_it_was(string raw, ColumnType type)
    {
        Assert.False(WrittenValue.TryCanonical(raw, type, DateOrder.MonthDayYear, out var kept));
        Assert.Equal(raw, kept);
    }

    [Property(MaxTest = 500)]
    public void Nothing_is_lost_whatever_comes_in(string? raw, int type)
    {
        var t = (ColumnType)Math.Abs(type % 4);
        if (!WrittenValue.TryCanonical(raw, t, DateOrder.DayMonthYear, out var kept))
            Assert.Equal(raw, kept);
        else
            Assert.Equal(string.IsNullOrWhiteSpace(raw), kept is null);
    }

    [Property]
    public void Canonical_numbers_read_back_to_the_same_number(int whole, byte hundredths)
    {
        var text = (whole + hundredths / 100m).ToString("#,##0.00", System.Globalization.CultureInfo.InvariantCulture);
        Assert.True(WrittenValue.TryCanonical(text, ColumnType.Number, DateOrder.MonthDayYear, out var canonical));
        Assert.Equal(whole + hundredths / 100m, decimal.Parse(canonical!, System.Globalization.CultureInfo.InvariantCulture));
    }
}

public sealed class HeadingsTests
{
    static IReadOnlyList<string?>[] Rows(params string[] lines) =>
        [.. lines.Select(l => (IReadOnlyList<string?>)[.. l.Split('|').Select(c => c.Length == 0 ? null : c)])];

    [Fact]
    public void Headings_in_the_first_row_are_recognized() =>
        Assert.Equal(0, Headings.FindRow(Rows("First|Last|ZIP", "Ana|Okafor|97412", "Per|Lindqvist|21119")));

    [Fact]
    public void Headings_in_the_fourth_row_are_recognized() =>
        Assert.Equal(
            3,
            Headings.FindRow(
                Rows(
                    "Households near the glasshouse||||",
                    "Town hall, November 2026||||",
                    "||||",
                    "Parcel|Name|Address|City|Zip Code",
                    "0037-001|Ana Okafor|12 Quay Road|Fernquay|97412",
                    "0074-002||9 Quay Road|Fernquay|97412"
                )
            )
        );

    [Fact]
    public void Unknown_headings_are_recognized_by_what_stands_below_them() =>
        Assert.Equal(0, Headings.FindRow(Rows("Gericht|Preis|Datum", "Suppe 12|4.50|2027-01-01", "Eintopf 3|6.00|2027-01-02")));

    [Fact]
    public void Rows_of_data_alone_have_no_headings() =>
        Assert.Equal(-1, Headings.FindRow(Rows("F-00001|97412|12.50", "F-00002|97415|64.00", "F-00003|97420|64.00")));

    [Theory]
    [InlineData(-1, "Ana|Okafor|Salem", "Luis|Ortega|Bend", "Robert|Key|Astoria")]
    [InlineData(
        -1,
        "Ana Okafor|12 Quay Road|Fernquay|OR|97412",
        "Luis Ortega|9 Mill Lane|Salem|OR|97301",
        "Robert Street|4 Main St|Place|OR|97302"
    )]
    [InlineData(-1, "Ana|Okafor|97412", "Luis|Ortega|97301", "City|Ort|Straße")]
    [InlineData(-1, "ana@example.org", "luis@example.org")]
    [InlineData(0, "Name", "Ana")]
    [InlineData(0, "Plant|Code", "Rose|A-12", "Fern|B-77")]
    [InlineData(0, "Plant|State", "Rose garden|OR", "Fern|WA", "Moss|OR", "Ivy|MA")]
    [InlineData(0, "plant_name|color_code", "rose|red", "fern|green")]
    [InlineData(0, "姓|名|郵便番号|住所", "大野|春樹|100-0005|丸の内1-1-1")]
    [InlineData(0, "Vorname|Nachname|Straße|PLZ|Ort")]
    [InlineData(1, "Members 2026", "Name|City", "Ana Okafor|Salem", "Luis Ortega|Bend")]
    public void Nobody_is_taken_for_a_heading(int row, params string[] lines) => Assert.Equal(row, Headings.FindRow(Rows(lines)));

    [Fact]
    public void A_list_without_headings_loses_nobody_wherever_they_stand()
    {
        string[] given = ["Ana", "Luis", "Meera", "Robert", "Linda", "Per", "Zoe", "Karen", "James", "Noor", "Ida", "Hugo"];
        for (var odd = 1; odd < 12; odd++)
        {
            var rows = Rows(
                [.. given.Select((g, i) => i == odd ? $"{g}|Street|Town Hall|Name" : $"{g}|Okafor {i}|{i + 10} Quay Road|Fernquay")]
            );
            Assert.Equal(-1, Headings.FindRow(rows));
        }
    }

    [Fact]
    public void Nothing_at_all_has_no_headings() => Assert.Equal(-1, Headings.FindRow([]));

    [Fact]
    public void Blank_repeated_and_over_long_headings_are_made_usable_and_told()
    {
        var cleaned = Headings.Clean(["Name", null, "name", " Street\nline ", new string('x', 200), "{odd}", "Name 2"]);
        Assert.Equal(["Name", "Column 2", "name 2", "Street line", new string('x', 80), "(odd)", "Name 2 2"], cleaned.Names);
        Assert.Contains(cleaned.Notes, n => n.Contains("“Column 2”"));
        Assert.Contains(cleaned.Notes, n => n.Contains("Two columns are named “name”"));
        Assert.Contains(cleaned.Notes, n => n.Contains("200 characters"));
    }

    [Property(MaxTest = 300)]
    public void Cleaned_headings_are_always_distinct_and_filled(string?[] raw)
    {
        var names = Headings.Clean(raw).Names;
        Assert.Equal(raw.Length, names.Count);
        Assert.Equal(names.Count, names.Distinct(StringComparer.OrdinalIgnoreCase).Count());
        Assert.All(names, n => Assert.True(n.Trim().Length > 0 && n.IndexOfAny(['{', '}', '`']) < 0));
    }
}

public sealed class RoleTests
{
    [Theory]
    [InlineData("First Name", Role.GivenName)]
    [InlineData("SURNAME", Role.FamilyName)]
    [InlineData("Zip_Code", Role.PostalCode)]
    [InlineData("Código postal", Role.PostalCode)]
    [InlineData("PLZ", Role.PostalCode)]
    [InlineData("Prénom", Role.GivenName)]
    [InlineData("Straße", Role.Street)]
    [InlineData("E-Mail", Role.Email)]
    [InlineData("No.", Role.Key)]
    [InlineData("Amount due", Role.None)]
    public void A_heading_tells_its_role_in_many_languages(string heading, Role role) =>
        Assert.Equal(role, RoleRecognizer.FromHeading(heading));

    [Fact]
    public void A_role_goes_to_one_column_only() =>
        Assert.Equal(
            [Role.Street, Role.None, Role.City],
            RoleEvidence.Of(["Street", "Address", "City"], _ => [], Core.Places.Countries.Named("US")!).Select(g => g.Role)
        );

    static string?[] Values(params string?[] values) => values;

    static readonly Column[] Columns =
    [
        new(1, "F", ColumnType.Text, Role.GivenName),
        new(2, "L", ColumnType.Text, Role.FamilyName),
        new(3, "O", ColumnType.Text, Role.Organization),
        new(4, "C", ColumnType.Text, Role.City),
        new(5, "N", ColumnType.Text, Role.Country),
    ];

    [Theory]
    [InlineData("Ana", "Okafor", null, "Okafor, Ana")]
    [InlineData("Beatriz", null, null, "—, Beatriz")]
    [InlineData(null, "Okafor", null, "Okafor")]
    [InlineData(null, null, "Thistle & Co.", "Thistle & Co.")]
    [InlineData(null, null, null, "no name")]
    public void A_recipient_is_called_by_their_roles(string? given, string? family, string? organization, string expected)
    {
        var values = Values(given, family, organization, "Cork", "Ireland");
        Assert.Equal(new RecipientLabel(expected, "Cork · Ireland"), RecipientLabel.Of(Columns, i => values[i]));
    }

    [Theory]
    [InlineData("Owner")]
    [InlineData("Owner 1")]
    [InlineData("OWNER1")]
    [InlineData("Owner Name 1")]
    [InlineData("Owner of Record")]
    [InlineData("Parent/Guardian")]
    [InlineData("Parent Name")]
    [InlineData("Taxpayer Name")]
    [InlineData("Named Insured")]
    [InlineData("Resp. Party")]
    [InlineData("Guest")]
    [InlineData("Name 1")]
    public void Whoever_a_trade_writes_to_is_a_name(string heading) => Assert.Equal(Role.FullName, RoleRecognizer.FromHeading(heading));

    [Theory]
    [InlineData("Student Name", "Parent Name")]
    [InlineData("Patient", "Resp. Party")]
    [InlineData("Pupil", "Guardian")]
    [InlineData("Student First Name", "Parent First Name")]
    public void Of_several_in_a_list_the_one_that_mail_goes_to_has_the_role(string other, string gets)
    {
        string?[] Values(int _) => ["Ana Okafor", "Luis Ortega", "Meera Klein"];
        string[][] bothWays =
        [
            [other, gets],
            [gets, other],
        ];
        foreach (var headings in bothWays)
        {
            var guesses = RoleEvidence.Of(headings, Values, Core.Places.Countries.Named("US")!);
            var at = Array.IndexOf(headings, gets);
            Assert.NotEqual(Role.None, guesses[at].Role);
            Assert.Equal(Role.None, guesses[1 - at].Role);
        }
    }

    [Theory]
    [InlineData("Student Last,Student First,Parent/Guardian", ",,FullName")]
    [InlineData("Student,Parent First,Parent Last", ",GivenName,FamilyName")]
    [InlineData("Student Last,Student First,Grade", "FamilyName,GivenName,")]
    [InlineData("Owner 1,Owner 2,Co-Resident", "FullName,PartnerFullName,")]
    [InlineData("Tenant,Co-Tenant", "FullName,PartnerFullName")]
    [InlineData("First,Last,Envelope Name", "GivenName,FamilyName,AddressedTo")]
    public void The_recipient_is_whoever_gets_the_mail(string headings, string roles)
    {
        var guesses = RoleEvidence.Of(
            headings.Split(','),
            _ => ["Ana Okafor", "Luis Ortega", "Meera Klein"],
            Core.Places.Countries.Named("US")!
        );
        Assert.Equal(roles, string.Join(',', guesses.Select(g => g.Role == Role.None ? "" : g.Role.ToString())));
    }

    [Fact]
    public void Whoever_pays_for_a_few_does_not_take_the_name_from_all() =>
        Assert.Equal(
            [Role.FullName, Role.None],
            RoleEvidence
                .Of(
                    ["Patient", "Resp. Party"],
                    at => at == 0 ? ["Ana Okafor", "Luis Ortega", "Meera Klein"] : [null, "Per Ortega", null],
                    Core.Places.Countries.Named("US")!
                )
                .Select(g => g.Role)
        );

    [Theory]
    [InlineData("Amt", Role.None, "12.50-", "(1,200.00)", "$ 7")]
    [InlineData("Amt", Role.Region, "Ribe", "Vejle", "Fyn")]
    public void An_amount_is_no_region_whatever_its_heading_means_elsewhere(string heading, Role role, params string[] values) =>
        Assert.Equal(role, RoleEvidence.Of([heading], _ => values, Core.Places.Countries.Named("US")!)[0].Role);

    [Fact]
    public void A_second_owner_who_is_only_care_of_is_no_second_addressee() =>
        Assert.Equal(
            Role.None,
            RoleEvidence
                .Of(
                    ["Owner 1", "Owner 2"],
                    at => at == 0 ? ["Estate of Carl Voss", "Ana Okafor"] : ["c/o Dana Voss", "Luis Okafor"],
                    Core.Places.Countries.Named("US")!
                )[1]
                .Role
        );

    [Theory]
    [InlineData(Role.WholeAddress, "44 Mill Pond Rd\nSalem, MA 01970", "44 Mill Pond Rd, Salem, MA 01970")]
    [InlineData(Role.Street2, "Salem, MA 01970", "Salem, MA 01970")]
    [InlineData(Role.Street, "44 Mill Pond Rd", "")]
    public void A_place_without_a_column_of_its_own_is_the_address(Role role, string cell, string place)
    {
        Column[] columns = [new(1, "N", ColumnType.Text, Role.FullName), new(2, "A", ColumnType.Text, role)];
        Assert.Equal(new("Ana Okafor", place), RecipientLabel.Of(columns, i => i == 0 ? "Ana Okafor" : cell));
    }

    [Theory]
    [InlineData("Inês", "ines")]
    [InlineData("MÜLLER", "muller")]
    [InlineData("Weiß", "weiss")]
    [InlineData("Łukasz Sørensen", "lukasz sorensen")]
    [InlineData("Νίκος", "νικοσ")]
    [InlineData("Đặng", "dang")]
    public void Searching_knows_neither_case_nor_accents(string value, string folded) => Assert.Equal(folded, FoldedText.Of(value));

    [Fact]
    public void Lone_surrogates_are_replaced()
    {
        foreach (var (value, expected) in ((string, string)[])[("\ud800x", "\ufffdx"), ("x\udc00", "x\ufffd"), ("🌿", "🌿"), ("", "")])
        {
            Assert.Equal(expected, SoundText.Of(value));
            Assert.Equal(Role.None, RoleRecognizer.FromHeading(value));
        }
    }

    [Property]
    public void Folding_is_idempotent_and_never_throws(string? value)
    {
        if (value is null)
            return;
        Assert.Equal(FoldedText.Of(value), FoldedText.Of(FoldedText.Of(value)));
    }
}
