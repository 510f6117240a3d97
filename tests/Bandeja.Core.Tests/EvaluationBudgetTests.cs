using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Tests;

/// <summary>A few words of an expression never ask for hours or gigabytes: what a field may cost is charged before it is done.</summary>
public sealed class EvaluationBudgetTests
{
    static readonly Column[] Columns = [new(1, "Long", ColumnType.Text, Role.None), new(2, "With", ColumnType.Text, Role.None)];
    static readonly DetailSet Gifts = new(7, "Gifts", [new(1, "Amount", ColumnType.Number, Role.None)]);

    static EvaluationContext Context() => new(Columns, OrganizationLocale.UnitedStates, default, [Gifts]);

    static Expression Parse(string source)
    {
        var parsed = FieldParser.ParseExpression(source, new Names(Columns, [Gifts]));
        Assert.Empty(parsed.Errors);
        return parsed.Expression;
    }

    static (Value Value, IReadOnlyList<Problem> Problems, long Allocated) Evaluate(string source, IRow row)
    {
        var (expression, context) = (Parse(source), Context());
        context.For(row, 1);
        var before = GC.GetAllocatedBytesForCurrentThread();
        var value = Evaluator.Evaluate(expression, context);
        return (value, [.. context.Problems], GC.GetAllocatedBytesForCurrentThread() - before);
    }

    static ArrayRow Row(string text, string with = "", int gifts = 0) =>
        new([text, with], _ => [.. Enumerable.Repeat<IRow>(new ArrayRow(["1"]), gifts)]);

    [Theory]
    [InlineData("replace(Long, \"a\", With)")]
    [InlineData("upper(replace(Long, \"a\", With))")]
    [InlineData("replace(replace(Long, \"a\", With), \"b\", With)")]
    [InlineData("Long & replace(Long, \"A\", With)")]
    public void What_would_grow_beyond_all_measure_is_never_built(string source)
    {
        var (value, problems, allocated) = Evaluate(source, Row(new('a', 30_000), new('b', 30_000)));
        Assert.True(value.IsBlank || value.Text.Length <= 100_000);
        Assert.Contains(problems, p => p.Kind == ProblemKind.OutOfRange && p.Message.Contains("100,000 characters"));
        Assert.True(allocated < 20_000_000, $"{allocated:N0} bytes");
    }

    [Fact]
    public void Joined_and_nested_texts_stop_while_they_grow()
    {
        var doubled = "Long";
        for (var i = 0; i < 7; i++)
            doubled = $"join(\"\", {doubled}, {doubled})";
        // 128 times the text, of which each pair is made of two that were made before.
        var (value, problems, allocated) = Evaluate(doubled, Row(new('x', 9_000)));
        Assert.True(value.IsBlank);
        Assert.Contains(problems, p => p.Kind == ProblemKind.OutOfRange);
        Assert.True(allocated < 100_000_000, $"{allocated:N0} bytes");
    }

    [Fact]
    public void A_field_that_takes_more_steps_than_there_are_is_blank_and_that_is_said_once()
    {
        var sums = string.Join(" + ", Enumerable.Repeat("sum(Gifts.Amount)", 30));
        var (value, problems, _) = Evaluate(sums, Row("", gifts: 100_000));
        Assert.True(value.IsBlank);
        Assert.Single(problems, p => p.Message.Contains("too much to compute: at most 1,000,000 steps"));
        Assert.Equal(200_000m, Evaluate("sum(Gifts.Amount) + sum(Gifts.Amount)", Row("", gifts: 100_000)).Value.Number);
    }

    [Fact]
    public void Each_field_has_a_budget_of_its_own()
    {
        var context = Context();
        context.For(Row("Ana", gifts: 90_000), 1);
        var once = Parse("sum(Gifts.Amount)");
        for (var i = 0; i < 40; i++)
            Assert.Equal(90_000m, Evaluator.Evaluate(once, context).Number);
        Evaluator.Evaluate(Parse(string.Join(" + ", Enumerable.Repeat("sum(Gifts.Amount)", 30))), context);
        Assert.Equal("ANA", Evaluator.Print(Parse("Long | upper"), context));
    }

    [Fact]
    public void Searching_a_long_text_for_a_long_one_costs_what_it_may_take()
    {
        var row = Row(new('a', 90_000), new string('a', 40_000) + "b");
        Assert.True(Evaluate("Long contains With", row).Value.IsBlank);
        Assert.Equal(Value.Of(true), Evaluate("Long contains \"aaa\"", row).Value);
    }

    [Fact]
    public void A_line_of_text_is_not_printed_without_end()
    {
        var template = Template.Parse(string.Concat(Enumerable.Repeat("{Long}", 200)), new Names(Columns, [Gifts]));
        Assert.Empty(template.Errors);
        var context = Context();
        context.For(Row(new('x', 30_000)), 1);
        Assert.InRange(template.Print(context).Length, 100_000, 140_000);
    }
}
