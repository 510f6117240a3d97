using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Tests;

/// <summary>What people write otherwise out of habit is read where it can mean one thing only; else it is told at its place what to write
/// instead, and what is offered in its place is right.</summary>
public sealed class HabitsTests
{
    static readonly Names Names = new(
        [
            new(1, "Client", ColumnType.Text, Role.FullName),
            new(2, "Client ID", ColumnType.Text, Role.Key),
            new(3, "Balance due", ColumnType.Number, Role.None),
            new(4, "Last visit", ColumnType.Date, Role.None),
            new(5, "Phone", ColumnType.Text, Role.Phone),
            new(6, "City", ColumnType.Text, Role.City),
        ],
        [new(1, "Visits", [new(1, "Charge", ColumnType.Number, Role.None)])]
    );

    [Theory]
    [InlineData("City = “Salem”", "City = \"Salem\"")]
    [InlineData("City = „Salem“", "City = \"Salem\"")]
    [InlineData("Phone | else “none”", "Phone | else \"none\"")]
    [InlineData("Last visit | date “d MMMM”", "Last visit | date \"d MMMM\"")]
    [InlineData("Balance due ≠ 0", "Balance due <> 0")]
    [InlineData("Balance due ≥ 0 and Balance due ≤ 9", "Balance due >= 0 and Balance due <= 9")]
    [InlineData("Balance due × 2 ÷ 4 − 1", "Balance due * 2 / 4 - 1")]
    [InlineData("Balance due – 2", "Balance due - 2")]
    [InlineData("−2 + Balance due", "-2 + Balance due")]
    [InlineData("Balance due * 5%", "Balance due * 0.05")]
    [InlineData("12.5% * Balance due", "0.125 * Balance due")]
    [InlineData("Balance due > $50", "Balance due > 50")]
    public void Signs_of_word_processors_and_of_amounts_are_read(string written, string same)
    {
        var parsed = FieldParser.ParseExpression(written, Names);
        Assert.Empty(parsed.Errors);
        Assert.Equal(FieldParser.ParseExpression(same, Names).Expression, parsed.Expression);
    }

    [Fact]
    public void Quotes_of_word_processors_hold_straight_ones_and_the_other_way_round()
    {
        Assert.Equal("say \"yes\"", Text("“say \\\"yes\\\"”"));
        Assert.Equal("say “yes”", Text("\"say “yes”\""));
        Assert.Contains("no closing quote", Assert.Single(FieldParser.ParseExpression("City = “Salem", Names).Errors).Message);
        static string Text(string written)
        {
            var parsed = FieldParser.ParseExpression(written, Names);
            Assert.Empty(parsed.Errors);
            return Assert.IsType<Literal>(parsed.Expression).Value.Text;
        }
    }

    /// <summary>The text with all that is offered in the place of mistakes.</summary>
    static string Mended(string text, Func<string, IReadOnlyList<LanguageError>> errors, out string told)
    {
        told = "";
        for (var i = 0; i < 3; i++)
        {
            if (errors(text) is not [var error, ..])
                return text;
            told += error.Message;
            Assert.InRange(error.Position, 0, text.Length);
            Assert.InRange(error.Position + error.Length, 0, text.Length);
            if (error.Suggestion is null)
                return "";
            text = text[..error.Position] + error.Suggestion + text[(error.Position + error.Length)..];
        }
        return text;
    }

    [Theory]
    [InlineData("Balance due == 0", "Balance due = 0")]
    [InlineData("Balance due != 0", "Balance due <> 0")]
    [InlineData("Balance due => 0", "Balance due >= 0")]
    [InlineData("Balance due =< 0", "Balance due <= 0")]
    [InlineData("Balance due > 0 && City = \"a\"", "Balance due > 0 and City = \"a\"")]
    [InlineData("(Balance due > 0 || City = \"a\")", "(Balance due > 0 or City = \"a\")")]
    [InlineData("!(City = \"a\")", "not (City = \"a\")")]
    [InlineData("City = 'Salem'", "City = \"Salem\"")]
    [InlineData("City = ‘Salem’", "City = \"Salem\"")]
    [InlineData("City = Salem", "City = \"Salem\"")]
    [InlineData("City contains New Salem", "City contains \"New Salem\"")]
    [InlineData("City is one of (Salem, \"Bend\")", "City is one of (\"Salem\", \"Bend\")")]
    [InlineData("City is “Salem”", "City = “Salem”")]
    [InlineData("City is not \"Salem\"", "City <> \"Salem\"")]
    [InlineData("City equals \"Salem\"", "City = \"Salem\"")]
    [InlineData("City is equal to \"Salem\"", "City = \"Salem\"")]
    [InlineData("Balance due is  greater than 5", "Balance due > 5")]
    [InlineData("Balance due is at least 5", "Balance due >= 5")]
    [InlineData("Last visit is before 2026-01-01", "Last visit < 2026-01-01")]
    [InlineData("Phone is empty", "Phone is blank")]
    [InlineData("Phone is not empty", "Phone is not blank")]
    [InlineData("City like \"a\"", "City contains \"a\"")]
    [InlineData("City begins with \"a\"", "City starts with \"a\"")]
    [InlineData("City in (\"a\", \"b\")", "City is one of (\"a\", \"b\")")]
    [InlineData("Balance due > 1,250", "Balance due > 1250")]
    [InlineData("Balance due > $1,234,567.50", "Balance due > $1234567.50")]
    [InlineData("Client + \" and family\"", "Client & \" and family\"")]
    [InlineData("Balance due | currency", "Balance due | money")]
    [InlineData("Balance due | mony", "Balance due | money")]
    [InlineData("Balance due | $0.00", "Balance due | money")]
    [InlineData("Balance due | #,##0", "Balance due | number 0")]
    [InlineData("Balance due | 0.0%", "Balance due | percent 1")]
    [InlineData("Balance due : money", "Balance due | money")]
    [InlineData("Client | proper", "Client | title")]
    [InlineData("Client | uppercase", "Client | upper")]
    [InlineData("Phone | default \"none\"", "Phone | else \"none\"")]
    [InlineData("Phone | \"none\"", "Phone | else \"none\"")]
    [InlineData("Phone ?? \"none\"", "Phone | else \"none\"")]
    [InlineData("Last visit | MM/dd/yyyy", "Last visit | date \"MM/dd/yyyy\"")]
    [InlineData("Last visit | \"MM/DD/YYYY\"", "Last visit | date \"MM/dd/yyyy\"")]
    [InlineData("Last visit | date mm/dd/yyyy", "Last visit | date \"MM/dd/yyyy\"")]
    [InlineData("Last visit | date \"DD.MM.yyyy\"", "Last visit | date \"dd.MM.yyyy\"")]
    [InlineData("Last visit | date full", "Last visit | date long")]
    [InlineData("Last visit | long | upper", "Last visit | date long | upper")]
    [InlineData("ucase(Client)", "upper(Client)")]
    [InlineData("avg(Visits.Charge)", "average(Visits.Charge)")]
    [InlineData("sum(Charge)", "sum(Visits.Charge)")]
    [InlineData("sum(Vists.Charge) * 2", "sum(Visits.Charge) * 2")]
    [InlineData("count(Visit)", "count(Visits)")]
    [InlineData("Phone || else \"none\"", "Phone | else \"none\"")]
    [InlineData("Balance due ||money", "Balance due |money")]
    [InlineData("Client name", "Client")]
    [InlineData("Client_ID", "Client ID")]
    [InlineData("Date", "Today")]
    [InlineData("Greeting", "Salutation")]
    [InlineData("Mailing address", "Delivery address")]
    public void What_can_mean_one_thing_only_is_offered_in_its_place(string written, string offered)
    {
        Assert.Equal(offered, Mended(written, t => FieldParser.ParseExpression(t, Names).Errors, out var told));
        Assert.NotEmpty(told);
    }

    [Theory]
    [InlineData("Balance due > 5 then", "remove “then”")]
    [InlineData("City is not one of (\"a\")", "not City is one of")]
    [InlineData("City does not contain \"a\"", "not City contains")]
    [InlineData("Balance due is not between 1 and 2", "not Years between")]
    [InlineData("Last visit + 30 days", "remove “days”")]
    [InlineData("Last visit + 3 months", "add months(")]
    [InlineData("Last visit + 2 weeks", "7 for a week")]
    [InlineData("Balance due > 0 ? \"a\" : \"b\"", "if(condition")]
    [InlineData("Balance due > €50", "Amounts are in USD")]
    [InlineData("concat(Client, City)", "Join texts with &")]
    [InlineData("isblank(Phone)", "is blank")]
    [InlineData("today()", "remove the parentheses")]
    [InlineData("text(Balance due, \"0.00\")", "after a bar")]
    public void What_cannot_be_put_in_its_place_is_said(string written, string said)
    {
        Assert.Equal("", Mended(written, t => FieldParser.ParseExpression(t, Names).Errors, out var told));
        Assert.Contains(said, told);
    }

    [Theory]
    [InlineData("if Balance due > 0", "when Balance due > 0")]
    [InlineData("IF (Balance due > 0) then", "when Balance due > 0")]
    [InlineData("if (Balance due > 0)", "when Balance due > 0")]
    [InlineData("if count(Visits) > 0", "when count(Visits) > 0")]
    [InlineData("unless Balance due > 0", "when not (Balance due > 0)")]
    [InlineData("foreach Visits", "each Visits")]
    [InlineData("for each Visits", "each Visits")]
    [InlineData("for v in Visits", "each Visits")]
    [InlineData("repeat Visits", "each Visits")]
    [InlineData("else", "otherwise")]
    [InlineData("else if Balance due > 0", "or when Balance due > 0")]
    [InlineData("ELSEIF Balance due > 0", "or when Balance due > 0")]
    [InlineData("endif", "end")]
    [InlineData("end if", "end")]
    public void Brackets_by_another_name_are_told_by_ours(string written, string ours)
    {
        var error = Assert.Single(Template.Parse($"{{{written}}}", Names).Errors);
        Assert.Equal((1, written.Length, ours), (error.Position, error.Length, error.Suggestion));
        // It prints nothing, and is no name that a column could be matched with.
        var part = Assert.IsType<FieldPart>(Assert.Single(Template.Parse($"{{{written}}}", Names).Parts));
        Assert.IsType<Broken>(part.Field);
        var opens = ours.StartsWith("when", StringComparison.Ordinal) || ours.StartsWith("each", StringComparison.Ordinal);
        if (opens)
            Assert.Empty(Template.Parse($"{{{ours}}}{{end}}", Names).Errors);
    }

    [Theory]
    [InlineData("For whom")]
    [InlineData("If a member")]
    [InlineData("Repeat gift")]
    [InlineData("Unless moved")]
    public void A_heading_of_another_list_can_still_be_matched(string name)
    {
        var template = Template.Parse($"{{{name}}}", Names);
        Assert.StartsWith($"There is no column “{name}”", Assert.Single(template.Errors).Message, StringComparison.Ordinal);
        Assert.Equal(name, Assert.IsType<UnknownName>(Assert.IsType<FieldPart>(Assert.Single(template.Parts)).Field).Name);
    }

    [Fact]
    public void Headings_and_functions_that_look_like_habits_are_what_they_are()
    {
        var names = new Names(
            [
                new(1, "If any", ColumnType.Text, Role.None),
                new(2, "Else", ColumnType.Text, Role.None),
                new(3, "For", ColumnType.Text, Role.None),
                new(4, "A is B", ColumnType.Text, Role.None),
                new(5, "30 days", ColumnType.Number, Role.None),
                new(6, "$50 club", ColumnType.YesNo, Role.None),
                new(7, "'n Sync", ColumnType.Text, Role.None),
                new(8, "Pass–Fail", ColumnType.Text, Role.None),
                new(9, "Over 5%", ColumnType.Text, Role.None),
            ]
        );
        foreach (var text in (string[])["If any", "Else", "For", "A is B", "30 days", "$50 club", "'n Sync", "Pass–Fail", "Over 5%"])
            Assert.IsType<ColumnReference>(Assert.IsType<FieldPart>(Assert.Single(Template.Parse($"{{{text}}}", names).Parts)).Field);
        Assert.Empty(Template.Parse("{if(For = \"x\", Else, \"y\")}", names).Errors);
        Assert.Empty(FieldParser.ParseExpression("round(1,000)", names).Errors);
        Assert.Empty(FieldParser.ParseExpression("30 days is one of (5,100)", names).Errors);
    }
}
