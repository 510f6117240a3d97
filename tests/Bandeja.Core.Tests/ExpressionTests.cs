using Bandeja.Core.Formulas;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>Functions, detail rows, computed columns, and filters picked together.</summary>
public sealed class ExpressionTests
{
    static readonly Column[] Columns =
    [
        new(1, "First", ColumnType.Text, Role.GivenName),
        new(2, "City", ColumnType.Text, Role.City),
        new(3, "Amount due", ColumnType.Number, Role.None),
        new(4, "Born", ColumnType.Date, Role.None),
        new(5, "Lapsed", ColumnType.YesNo, Role.None),
        new(6, "Left", ColumnType.Text, Role.None),
    ];
    static readonly DetailSet[] Details =
    [
        new(
            1,
            "Gifts",
            [
                new(1, "No", ColumnType.Text, Role.None),
                new(2, "Amount", ColumnType.Number, Role.None),
                new(3, "Gift date", ColumnType.Date, Role.None),
            ]
        ),
    ];
    static readonly string?[] Ana = ["ana maría", "Fernquay", "64.5", "1980-02-29", "no", null];
    static readonly IRow[] Gifts =
    [
        new ArrayRow(["F-1", "25", "2020-05-01"]),
        new ArrayRow(["F-1", "75.5", "2019-05-01"]),
        new ArrayRow(["F-1", null, "2021-05-01"]),
    ];

    static (string Value, IReadOnlyList<Problem> Problems) Of(string text, string?[]? row = null, IRow[]? gifts = null)
    {
        var parsed = FieldParser.ParseExpression(text, new(Columns, Details));
        Assert.Empty(parsed.Errors);
        var context = new EvaluationContext(Columns, OrganizationLocale.UnitedStates, new(2027, 3, 1), Details);
        return (
            Evaluator.Evaluate(parsed.Expression, context.For(new ArrayRow(row ?? Ana, _ => gifts ?? Gifts), 0)).ToString(),
            [.. context.Problems]
        );
    }

    [Theory]
    [InlineData("upper(First)", "ANA MARÍA")]
    [InlineData("title(First)", "Ana María")]
    [InlineData("trim(\"  a   b \")", "a b")]
    [InlineData("left(First, 3)", "ana")]
    [InlineData("right(City, 4)", "quay")]
    [InlineData("left(City, 99)", "Fernquay")]
    [InlineData("left(City, 0)", "")]
    [InlineData("replace(City, \"QUAY\", \" bay\")", "Fern bay")]
    [InlineData("replace(City, \"quay\", \"\")", "Fern")]
    [InlineData("join(\", \", First, Left, City)", "ana maría, Fernquay")]
    [InlineData("join(\", \", Left, Left)", "")]
    [InlineData("if(Amount due > 50, \"patron\", \"friend\")", "patron")]
    [InlineData("if(Left is blank, City, Left)", "Fernquay")]
    [InlineData("round(Amount due)", "65")]
    [InlineData("round(Amount due / 7, 2)", "9.21")]
    [InlineData("days(Born, \"1980-03-01\")", "1")]
    [InlineData("add days(Born, 1)", "1980-03-01")]
    [InlineData("add months(Born, 12)", "1981-02-28")]
    [InlineData("year(Born) & \"/\" & month(Born) & \"/\" & day(Born)", "1980/2/29")]
    [InlineData("age(Born)", "47")]
    [InlineData("sum(Gifts.Amount)", "100.5")]
    [InlineData("count(Gifts)", "3")]
    [InlineData("count(Gifts.Amount)", "2")]
    [InlineData("average(Gifts.Amount)", "50.25")]
    [InlineData("min(Gifts.`Gift date`)", "2019-05-01")]
    [InlineData("max(Gifts.Amount) * 2", "151.0")]
    [InlineData("first(Gifts.Gift date)", "2020-05-01")]
    [InlineData("last(Gifts.Gift date)", "2021-05-01")]
    [InlineData("LEFT (City, 2)", "Fe")]
    [InlineData("upper(Left)", "")]
    public void Functions(string text, string expected)
    {
        var (value, problems) = Of(text);
        Assert.Equal(expected, value);
        Assert.Empty(problems);
    }

    [Theory]
    [InlineData("left(City, First)", "not a number")]
    [InlineData("days(City, Born)", "not a date")]
    [InlineData("add months(Born, 200000)", "not a date that exists")]
    [InlineData("round(City)", "not a number")]
    [InlineData("age(First)", "not a date")]
    public void What_cannot_be_computed_is_told(string text, string why) => Assert.Contains(why, Assert.Single(Of(text).Problems).Message);

    [Fact]
    public void No_rows_sum_up_to_nothing_and_text_never_grows_without_end()
    {
        Assert.Equal(("", "0"), (Of("sum(Gifts.Amount)", gifts: []).Value, Of("count(Gifts)", gifts: []).Value));
        var text = "\"aaaaaaaaaa\"";
        for (var i = 0; i < 12; i++)
            text = $"replace({text}, \"a\", \"aaaaaaaaaa\")";
        var (value, problems) = Of(text);
        Assert.Equal("", value);
        Assert.Contains("100,000", Assert.Single(problems).Message);
    }

    [Theory]
    [InlineData("uper(City)", "did you mean “upper”?")]
    [InlineData("left(City)", "Write “left” as left(text, how many)")]
    [InlineData("sum(Amount due)", "needs a column of detail rows, such as Gifts.No")]
    [InlineData("sum(Gifts)", "needs a column: Gifts.No")]
    [InlineData("Gifts.Amount * 2", "has many values. Combine them")]
    [InlineData("upper(City", "Close the parenthesis")]
    [InlineData("frobnicate(1)", "There is no function “frobnicate”")]
    public void Mistakes_are_told(string text, string why) =>
        Assert.Contains(why, Assert.Single(FieldParser.ParseExpression(text, new(Columns, Details)).Errors).Message);

    static Gen<Expression> Expressions(int size)
    {
        var leaf = Gen.OneOf(
            Gen.Elements(0, 1, 2, 3).Select(i => (Expression)new ColumnReference(i, Columns[i].Name)),
            Gen.Choose(0, 999).Select(n => (Expression)new Literal(Value.Of((decimal)n / 10))),
            Gen.Elements("a", "it's \"so\"", "\\", "", "{x}").Select(t => (Expression)new Literal(Value.Of(t))),
            Gen.Constant((Expression)new Call(Function.Named("sum")!, new([new DetailReference(0, 1, "Gifts\u001fAmount")])))
        );
        if (size <= 0)
            return leaf;
        var inner = Expressions(size / 2);
        return Gen.OneOf(
            leaf,
            from op in Gen.Elements(Enum.GetValues<Operator>())
            from a in inner
            from b in inner
            select (Expression)new Binary(op, a, b),
            inner.Select(e => (Expression)new LogicalNot(e)),
            inner.Select(e => (Expression)new Negation(e)),
            inner.Select(e => (Expression)new BlankTest(e, true)),
            from a in inner
            from b in inner
            from c in inner
            select (Expression)new Call(Function.Named("if")!, new([a, b, c])),
            from a in inner
            from b in inner
            select (Expression)new OneOf(a, new([b, a])),
            from a in inner
            from b in inner
            from c in inner
            select (Expression)new Between(a, b, c)
        );
    }

    [Property(MaxTest = 400)]
    public Property What_is_printed_parses_to_the_same() =>
        Prop.ForAll(
            Gen.Sized(s => Expressions(Math.Min(s, 12))).ToArbitrary(),
            e =>
            {
                var parsed = FieldParser.ParseExpression(e.ToString()!, new(Columns, Details));
                // What compares a number with text, say, is a mistake at its place; everything else comes back as it was written.
                if (parsed.Errors.Count > 0)
                    return parsed.Errors.All(x => StaticTypesTests.IsOfKinds(x.Message)).Label($"{e}: {parsed.Errors[0].Message}");
                var again = FieldParser.ParseExpression(parsed.Expression.ToString()!, new(Columns, Details));
                return (
                    again.Errors.Count == 0
                    && again.Expression.Equals(parsed.Expression)
                    && again.Expression.ToString() == parsed.Expression.ToString()
                ).Label(e.ToString());
            }
        );

    static Gen<FilterItem> Shapes(int depth)
    {
        var condition =
            from column in Gen.Elements(Columns)
            from comparison in Gen.Elements(Enum.GetValues<Comparison>())
            from values in Gen.Elements(
                    column.Type switch
                    {
                        ColumnType.Number => ["64.5", "0", "1000"],
                        ColumnType.Date => ["2019-05-01", "1980-01-01"],
                        ColumnType.YesNo => ["yes", "no"],
                        _ => new[] { "Fernquay", "64.5", "yes", "2019-05-01", "a \"b\"" },
                    }
                )
                .ListOf(2)
            select new FilterItem(
                null,
                null,
                column.Name,
                comparison,
                [
                    .. values.Take(
                        comparison switch
                        {
                            Comparison.Blank or Comparison.NotBlank => 0,
                            Comparison.Between or Comparison.OneOf or Comparison.NotOneOf => 2,
                            _ => 1,
                        }
                    ),
                ]
            );
        return depth == 0
            ? condition
            : Gen.OneOf(
                condition,
                from all in Gen.Elements(true, false)
                from items in Shapes(depth - 1).ListOf(3)
                select new FilterItem(all, [.. items])
            );
    }

    [Property(MaxTest = 300)]
    public Property A_filter_picked_together_is_the_typed_one() =>
        Prop.ForAll(
            Shapes(2).ToArbitrary(),
            shape =>
            {
                var expression = FilterShape.ToExpression(shape, Columns, out var problem);
                Assert.Null(problem);
                var again = FieldParser.ParseExpression(expression!.ToString()!, new(Columns));
                Assert.Empty(again.Errors);
                Assert.Equal(expression, again.Expression);
                // Groups of one, and groups within groups of the same kind, come out flat; whom they let pass is the same.
                var shapeAgain = FilterShape.Of(again.Expression);
                Assert.NotNull(shapeAgain);
                var flat = FilterShape.ToExpression(shapeAgain, Columns, out _)!;
                var context = new EvaluationContext(Columns, OrganizationLocale.UnitedStates, new(2027, 3, 1));
                foreach (
                    var row in (string?[][])
                        [
                            Ana,
                            ["yes", "Fernquay", "64.5", "2019-05-01", "yes", "a \"b\""],
                            [null, null, null, null, null, null],
                            ["Fernquay", "64.5", "waived", "1980-01-01", "no", "yes"],
                        ]
                )
                    Assert.Equal(
                        Evaluator.Evaluate(expression, context.For(new ArrayRow(row), 0)),
                        Evaluator.Evaluate(flat, context.For(new ArrayRow(row), 0))
                    );
            }
        );

    [Fact]
    public void A_filter_with_something_missing_says_what()
    {
        Assert.Null(FilterShape.ToExpression(new(null, null, "City", Comparison.Is, [""]), Columns, out var problem));
        Assert.Equal("City: a value is missing.", problem);
        Assert.Null(FilterShape.ToExpression(new(true, []), Columns, out problem));
        Assert.Null(FilterShape.ToExpression(new(null, null, "Town", Comparison.Blank), Columns, out problem));
        Assert.Contains("Town", problem);
        Assert.Null(FilterShape.Of(FieldParser.ParseExpression("upper(City) = \"X\"", new(Columns)).Expression));
    }

    [Fact]
    public void Computed_columns_find_what_they_read_and_never_read_themselves()
    {
        Column Computed(int id, string name, string expression) =>
            new(id, name, ColumnType.Number, Role.None, ColumnKind.Computed, expression);
        ComputedColumns Plan(params Column[] computed) =>
            new([.. Columns, .. computed], OrganizationLocale.UnitedStates, new(2027, 3, 1), Details);
        var plan = Plan(Computed(7, "Total", "Fee + Amount due"), Computed(8, "Fee", "Amount due / 2"));
        string?[] row = [.. Ana, null, null];
        Assert.Empty(plan.Compute(row));
        Assert.Equal<string?[]>(["96.75", "32.25"], row[6..]);
        row[2] = "waived";
        Assert.Contains("waived", plan.Compute(row)[0].Message);
        Assert.Null(row[6]);
        Assert.Contains("itself", Assert.Throws<ComputedColumnException>(() => Plan(Computed(7, "Total", "Total + 1"))).Message);
        Assert.Contains(
            "each other",
            Assert.Throws<ComputedColumnException>(() => Plan(Computed(7, "A1", "B1"), Computed(8, "B1", "A1"))).Message
        );
        Assert.Contains("no column", Assert.Throws<ComputedColumnException>(() => Plan(Computed(7, "Total", "Fees"))).Message);
        Assert.Throws<ComputedColumnException>(() => Plan(Computed(7, "P", "`Piece number`")));
        Assert.True(Plan(Computed(7, "P", "age(Born)")).ReadToday);
        Assert.False(plan.ReadToday);
    }

    [Fact]
    public void A_renamed_column_is_followed()
    {
        var e = FieldParser.ParseExpression("if(City contains \"quay\", upper(City), First) & Amount due", new(Columns)).Expression;
        Assert.Equal("if(`Town` contains \"quay\", upper(`Town`), `First`) & `Amount due`", Renaming.Of(e, 1, "Town").ToString());
    }
}
