using Bandeja.Core.Formulas;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Texts;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

public sealed class EvaluatorTests
{
    static readonly Column[] Columns =
    [
        new(1, "First", ColumnType.Text, Role.GivenName),
        new(2, "Amount due", ColumnType.Number, Role.None),
        new(3, "Renewal date", ColumnType.Date, Role.None),
        new(4, "Newsletter", ColumnType.YesNo, Role.None),
        new(5, "ZIP", ColumnType.Text, Role.PostalCode),
    ];

    static (string Text, IReadOnlyList<Problem> Problems) Print(
        string field,
        string? first = null,
        string? amount = null,
        string? date = null,
        string? yes = null,
        string? zip = null,
        OrganizationLocale? locale = null
    )
    {
        var parsed = FieldParser.ParseExpression(field, new Names(Columns));
        var context = new EvaluationContext(Columns, locale ?? OrganizationLocale.UnitedStates, new(2027, 3, 5)).For(
            new ArrayRow([first, amount, date, yes, zip]),
            412
        );
        return (Evaluator.Print(parsed.Expression, context), context.Problems);
    }

    [Theory]
    [InlineData("Amount due | money", "1250", "$1,250.00")]
    [InlineData("Amount due | money 0", "1250.4", "$1,250")]
    [InlineData("Amount due", "1250.0", "1250")]
    [InlineData("Amount due | number", "1250.5", "1,250.5")]
    [InlineData("Amount due | number 2", "1250.5", "1,250.50")]
    [InlineData("Amount due | percent", "0.15", "15%")]
    [InlineData("Amount due * 1.05 | money", "100.10", "$105.11")]
    [InlineData("Amount due / 4 | money", "64", "$16.00")]
    [InlineData("-Amount due | money", "5", "-$5.00")]
    [InlineData("Amount due - 0.1 - 0.2 = 0", "0.3", "yes")]
    [InlineData("Amount due & \"!\"", "3", "3!")]
    public void Numbers_are_decimal_and_print_as_asked(string field, string amount, string expected)
    {
        var (text, problems) = Print(field, amount: amount);
        Assert.Equal(expected, text);
        Assert.Empty(problems);
    }

    [Theory]
    [InlineData("Renewal date", "Feb 28, 2027")]
    [InlineData("Renewal date | date long", "February 28, 2027")]
    [InlineData("Renewal date | date short", "2/28/2027")]
    [InlineData("Renewal date | date \"d MMMM yyyy\"", "28 February 2027")]
    [InlineData("Renewal date | date \"EEEE 'the' d\"", "Sunday the 28")]
    [InlineData("Renewal date | date \"dd.MM.yy\"", "28.02.27")]
    [InlineData("Renewal date + 1 | date long", "March 1, 2027")]
    [InlineData("Renewal date - Today", "-5")]
    [InlineData("Today | date long", "March 5, 2027")]
    [InlineData("Renewal date > \"2027-02-01\"", "yes")]
    public void Dates_follow_cldr_patterns(string field, string expected) => Assert.Equal(expected, Print(field, date: "2027-02-28").Text);

    [Fact]
    public void Formats_follow_the_organizations_locale()
    {
        var german = new OrganizationLocale("de-DE", "EUR");
        Assert.Equal("1.250,00 €", Print("Amount due | money", amount: "1250", locale: german).Text.Replace('\u00A0', ' '));
        Assert.Equal("28. Februar 2027", Print("Renewal date | date long", date: "2027-02-28", locale: german).Text);
        Assert.Equal("ja", Print("Newsletter", yes: "yes", locale: german).Text);
    }

    [Fact]
    public void Blank_prints_nothing_and_is_told_unless_something_stands_in()
    {
        var (text, problems) = Print("First");
        Assert.Equal("", text);
        Assert.Equal((ProblemKind.Blank, "First"), (Assert.Single(problems).Kind, problems[0].Field));
        Assert.Equal("neighbor", Print("First | else \"neighbor\"").Text);
        Assert.Empty(Print("First | else \"\"").Problems);
        Assert.Equal("NEIGHBOR", Print("First | else \"neighbor\" | upper").Text);
    }

    [Fact]
    public void Blank_in_arithmetic_is_a_problem_and_not_a_zero()
    {
        var (text, problems) = Print("Amount due * 2 | money");
        Assert.Equal("", text);
        Assert.Equal("Amount due is blank.", Assert.Single(problems).Message);
        Assert.Empty(Print("Amount due * 2 | money | else \"nothing\"").Problems);
    }

    [Theory]
    [InlineData("Amount due | money", "waived", ProblemKind.WrongType)]
    [InlineData("Amount due + 1", "waived", ProblemKind.WrongType)]
    [InlineData("1 / (Amount due - Amount due)", "5", ProblemKind.OutOfRange)]
    [InlineData("Amount due * 7900000000000000000000000000", "9999", ProblemKind.OutOfRange)]
    [InlineData("Today + 9999999", "1", ProblemKind.OutOfRange)]
    [InlineData("First | date", "1", ProblemKind.WrongType)]
    public void What_cannot_be_computed_is_a_problem_with_field_value_and_reason(string field, string amount, ProblemKind kind)
    {
        var (text, problems) = Print(field, first: "soon", amount: amount);
        Assert.Equal("", text);
        var problem = Assert.Single(problems);
        Assert.Equal(kind, problem.Kind);
        Assert.NotEmpty(problem.Message);
    }

    [Fact]
    public void A_postal_code_keeps_its_zero_and_a_piece_number_its_width()
    {
        Assert.Equal("02139", Print("ZIP", zip: "02139").Text);
        Assert.Equal("0412", Print("Piece number").Text);
    }

    [Theory]
    [InlineData("First contains \"NA\"", true)]
    [InlineData("First starts with \"a\" and First ends with \"A\"", true)]
    [InlineData("First is one of (\"Bo\", \"ana\")", true)]
    [InlineData("Amount due between 10 and 20", true)]
    [InlineData("Amount due > 12", false)]
    [InlineData("ZIP is blank", true)]
    [InlineData("ZIP is not blank or not (Newsletter = yes)", false)]
    [InlineData("ZIP < \"5\"", false)]
    [InlineData("ZIP <> \"5\"", true)]
    public void Filters_use_the_same_evaluator(string where, bool passes)
    {
        var filter = Filter.Parse(where, Columns, new(2027, 3, 5), OrganizationLocale.UnitedStates, out var errors);
        Assert.Empty(errors);
        Assert.Equal(passes, filter!.Passes(new ArrayRow(["Ana", "12", null, "yes", null])));
    }

    [Theory]
    [InlineData("ANA OKAFOR", "Ana Okafor")]
    [InlineData("rowan MCKAY", "Rowan McKay")]
    [InlineData("Declan O'NEILL", "Declan O'Neill")]
    [InlineData("jan VAN DER BERG", "Jan van der Berg")]
    [InlineData("McKay", "McKay")]
    [InlineData("ABERNATHY-FAIRWEATHER", "Abernathy-Fairweather")]
    [InlineData("inês gonçalves", "Inês Gonçalves")]
    public void Title_leaves_names_right(string name, string expected) => Assert.Equal(expected, NameCase.Of(name));

    [Property]
    public void Evaluation_never_throws(string? first, string? amount, string? date)
    {
        foreach (
            var field in (string[])
                [
                    "First | title",
                    "Amount due * Amount due | money",
                    "Renewal date + Amount due | date long",
                    "First & Amount due & Renewal date",
                    "Amount due / Amount due | percent 2",
                    "First | date",
                    "First | number 3",
                ]
        )
            Print(field, first, amount, date);
    }

    [Property]
    public void Decimal_sums_are_exact(short a, short b)
    {
        var (x, y) = (a / 100m, b / 100m);
        var zip = y.ToString(System.Globalization.CultureInfo.InvariantCulture);
        Assert.Equal(
            "yes",
            Print(
                $"Amount due + {zip.TrimStart('-')} = ZIP",
                amount: x.ToString(System.Globalization.CultureInfo.InvariantCulture),
                zip: (x + Math.Abs(y)).ToString(System.Globalization.CultureInfo.InvariantCulture)
            ).Text
        );
    }
}
