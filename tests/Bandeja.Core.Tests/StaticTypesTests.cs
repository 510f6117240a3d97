using Bandeja.Core.Formulas;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Tests;

/// <summary>Dates as they are written in conditions, and comparisons that could never hold.</summary>
public sealed class StaticTypesTests
{
    static readonly Column[] Columns =
    [
        new(1, "First", ColumnType.Text, Role.GivenName),
        new(2, "Due date", ColumnType.Date, Role.None),
        new(3, "Amount", ColumnType.Number, Role.None),
        new(4, "Active", ColumnType.YesNo, Role.None),
        new(5, "ZIP", ColumnType.Text, Role.PostalCode),
    ];
    static readonly DetailSet[] Details =
    [
        new(1, "Gifts", [new(1, "Given on", ColumnType.Date, Role.None), new(2, "Sum", ColumnType.Number, Role.None)]),
    ];

    internal static bool IsOfKinds(string message) =>
        message.Contains("is not a date", StringComparison.Ordinal)
        || message.Contains("is not a number", StringComparison.Ordinal)
        || message.Contains("is neither yes nor no", StringComparison.Ordinal)
        || message.Contains("is not text", StringComparison.Ordinal)
        || message.Contains("adds numbers", StringComparison.Ordinal);

    static ParsedExpression Parse(string text, string locale) =>
        FieldParser.ParseCondition(text, new(Columns, Details, null, new OrganizationLocale(locale, "USD")));

    static bool Holds(string text, string locale, params string?[] row)
    {
        var parsed = Parse(text, locale);
        Assert.Empty(parsed.Errors);
        var context = new EvaluationContext(Columns, new OrganizationLocale(locale, "USD"), new(2027, 3, 1), Details);
        var value = Evaluator.Evaluate(parsed.Expression, context.For(new ArrayRow(row), 1));
        Assert.Empty(context.Problems);
        return value is { Kind: ValueKind.YesNo, Bool: true };
    }

    [Theory]
    [InlineData("Due date > \"1/1/2027\"", "en-US")]
    [InlineData("Due date > 1/1/2027", "en-US")]
    [InlineData("Due date > 2027-01-01", "en-US")]
    [InlineData("Due date > \"2027-01-01\"", "de-DE")]
    [InlineData("Due date > \"Jan 1, 2027\"", "en-US")]
    [InlineData("Due date > Jan 1, 2027", "en-US")]
    [InlineData("Due date > January 1st, 2027", "en-US")]
    [InlineData("Due date > 1 January 2027", "en-GB")]
    [InlineData("Due date > 1.1.2027", "de-DE")]
    [InlineData("Due date > \"1.1.27\"", "de-DE")]
    [InlineData("Due date > 1.1.27", "de-DE")]
    [InlineData("Due date > \"1. Januar 2027\"", "de-DE")]
    [InlineData("Due date > 1. Januar 2027", "de-DE")]
    [InlineData("Due date > \"1 de enero de 2027\"", "es-MX")]
    [InlineData("Due date > \"1 janv. 2027\"", "fr-FR")]
    [InlineData("Due date > 01-01-2027", "nl-NL")]
    [InlineData("\"1/1/2027\" < Due date", "en-US")]
    [InlineData("2027-01-01 < Due date", "sv-SE")]
    [InlineData("Due date between 1/1/2027 and \"12/31/2027\"", "en-US")]
    [InlineData("Due date is one of (\"2/14/2027\", Feb 28, 2027)", "en-US")]
    [InlineData("add days(\"1/1/2027\", 10) < Due date", "en-US")]
    [InlineData("days(1/1/2027, Due date) = 58", "en-US")]
    public void A_date_is_read_as_the_organization_writes_it_and_as_ISO(string text, string locale)
    {
        Assert.True(Holds(text, locale, "Ana", "2027-02-28", "5", "yes", "97412"));
        Assert.False(Holds(text, locale, "Ana", "2026-02-28", "5", "yes", "97412"));
        // What is written out again means the same wherever it is read.
        var iso = Parse(text, locale).Expression.ToString()!;
        Assert.Equal(Holds(text, locale, "Ana", "2027-02-28"), Holds(iso, "en-US", "Ana", "2027-02-28"));
    }

    [Fact]
    public void Day_and_month_stand_in_the_organizations_order()
    {
        Assert.True(Holds("Due date = 3/4/2027", "en-US", "Ana", "2027-03-04"));
        Assert.True(Holds("Due date = 3/4/2027", "en-GB", "Ana", "2027-04-03"));
        Assert.True(Holds("Due date = \"3/4/27\"", "en-GB", "Ana", "2027-04-03"));
    }

    [Theory]
    [InlineData("Due date > \"soon\"", 11, 6, "“soon” is not a date. Write a date such as 1/31/2027 or 2027-01-31")]
    [InlineData("Due date > 31/12/2027", 11, 10, "“31/12/2027” is not a date that exists here")]
    [InlineData("Due date > 2027-02-30", 11, 10, "“2027-02-30” is not a date that exists here")]
    [InlineData("Due date > 2027", 11, 4, "“2027” is not a date")]
    [InlineData("Due date > Amount", 11, 6, "“Amount” is not a date|Amount is not a date")]
    [InlineData("Due date = First", 11, 5, "First is not a date")]
    [InlineData("\"soon\" < Due date", 0, 6, "“soon” is not a date")]
    [InlineData("Amount > \"lots\"", 9, 6, "“lots” is not a number")]
    [InlineData("Amount > 1/1/2027", 9, 8, "is not a number")]
    [InlineData("Amount between 1 and \"ten\"", 21, 5, "“ten” is not a number")]
    [InlineData("Active = \"maybe\"", 9, 7, "“maybe” is neither yes nor no. Write yes or no.")]
    [InlineData("Active > 5", 9, 1, "is neither yes nor no")]
    [InlineData("Active is one of (yes, 3)", 23, 1, "is neither yes nor no")]
    [InlineData("sum(Gifts.Sum) > \"2027-01-01\"", 17, 12, "is not a number")]
    [InlineData("max(Gifts.Given on) > 5", 22, 1, "is not a date")]
    [InlineData("Amount", 0, 6, "Amount is a number, so it is not a condition. Compare it, for example Amount > 0")]
    [InlineData("First", 0, 5, "First is text")]
    [InlineData("Due date", 0, 8, "Due date is a date")]
    public void A_comparison_that_could_never_hold_is_a_mistake_at_its_place(string text, int position, int length, string message)
    {
        var error = Assert.Single(Parse(text, "en-US").Errors);
        Assert.Contains(message.Split('|'), m => error.Message.Contains(m, StringComparison.Ordinal));
        Assert.Equal((position, length), (error.Position, error.Length));
    }

    [Theory]
    [InlineData("Active = \"Yes\"")]
    [InlineData("Active = yes")]
    [InlineData("Active")]
    [InlineData("Amount > \"4.5\"")]
    [InlineData("ZIP = 97412")]
    [InlineData("ZIP = \"97412\"")]
    [InlineData("Due date - 1/1/2027 > 30")]
    [InlineData("10/2 = 5")]
    [InlineData("2027-1 = 2026")]
    public void What_can_be_compared_is(string text) => Assert.True(Holds(text, "en-US", "Ana", "2027-02-28", "5", "yes", "97412"));

    [Fact]
    public void A_condition_of_a_letter_is_held_to_the_same()
    {
        var names = new Names(Columns, Details);
        Assert.Contains("is not a date", Assert.Single(Template.Parse("{when Due date > \"tomorrow\"}late{end}", names).Errors).Message);
        Assert.Contains("not a condition", Assert.Single(Template.Parse("{when Amount}late{end}", names).Errors).Message);
        Assert.Null(Filter.Parse("First", Columns, new(2027, 3, 1), OrganizationLocale.UnitedStates, out var errors));
        Assert.Contains("is text", errors[0].Message);
    }

    [Theory]
    [InlineData("Dear {First, welcome")]
    [InlineData("Dear {First {Amount} there")]
    [InlineData("{")]
    public void A_brace_that_is_not_closed_is_never_printed_as_typed(string text)
    {
        var template = Template.Parse(text, new(Columns));
        Assert.NotEmpty(template.Errors);
        var context = new EvaluationContext(Columns, OrganizationLocale.UnitedStates, new(2027, 3, 1)).For(
            new ArrayRow(["Ana", null, "5", null, null]),
            1
        );
        Assert.DoesNotContain("{", template.Print(context));
        Assert.Contains("not closed", Assert.Single(context.Problems).Message);
    }
}
