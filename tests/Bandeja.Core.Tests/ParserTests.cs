using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

public sealed class ParserTests
{
    static readonly Column[] Columns =
    [
        new(1, "First name", ColumnType.Text, Role.GivenName),
        new(2, "First", ColumnType.Text, Role.None),
        new(3, "Amount due", ColumnType.Number, Role.None),
        new(4, "Renewal date", ColumnType.Date, Role.None),
        new(5, "Total and tax", ColumnType.Number, Role.None),
        new(6, "A-B", ColumnType.Number, Role.None),
        new(7, "Not before", ColumnType.Date, Role.None),
        new(8, "Größe (cm)", ColumnType.Number, Role.None),
        new(9, "C/O \"x\"", ColumnType.Text, Role.None),
    ];
    static readonly Names Names = new(Columns);

    static Expression Parse(string text)
    {
        var parsed = FieldParser.ParseExpression(text, Names);
        Assert.Empty(parsed.Errors);
        return parsed.Expression;
    }

    static LanguageError Error(string text) => Assert.Single(FieldParser.ParseExpression(text, Names).Errors);

    [Theory]
    [InlineData("First name", 0)]
    [InlineData("first NAME", 0)]
    [InlineData("First", 1)]
    [InlineData("  Amount due  ", 2)]
    [InlineData("`Total and tax`", 4)]
    [InlineData("Total and tax", 4)]
    [InlineData("A-B", 5)]
    [InlineData("Größe (cm)", 7)]
    [InlineData("C/O \"x\"", 8)]
    public void The_longest_heading_that_matches_is_taken(string text, int column) =>
        Assert.Equal(column, Assert.IsType<ColumnReference>(Parse(text)).Index);

    [Fact]
    public void Arithmetic_binds_as_in_school()
    {
        Assert.Equal(Parse("1 + (2 * 3)"), Parse("1 + 2 * 3"));
        Assert.Equal(Parse("(10 - 2) - 3"), Parse("10 - 2 - 3"));
        Assert.Equal(Parse("(-2) * 3"), Parse("-2 * 3"));
        Assert.Equal(Parse("((Amount due * 1.05) & First) = \"x\""), Parse("Amount due * 1.05 & First = \"x\""));
        Assert.Equal(
            Parse("(First is blank) or ((Amount due > 3) and (not (First = \"a\")))"),
            Parse("First is blank or Amount due > 3 and not First = \"a\"")
        );
    }

    [Fact]
    public void Formats_are_applied_from_left_to_right()
    {
        var outer = Assert.IsType<Formatted>(Parse("Amount due | money 0 | else \"your \\\"usual\\\" gift\""));
        Assert.Equal((Format.Else, "your \"usual\" gift"), (outer.Format, outer.Argument));
        Assert.Equal((Format.Money, "0"), (((Formatted)outer.Inner).Format, ((Formatted)outer.Inner).Argument));
    }

    [Theory]
    [InlineData("Frist name", 0, 10, "First name")]
    [InlineData("First name & Ammount due", 13, 11, "Amount due")]
    [InlineData("Tody | date long", 0, 4, "Today")]
    [InlineData("`Frist name`", 0, 12, "First name")]
    public void A_mistyped_name_is_told_at_its_place_with_a_suggestion(string text, int position, int length, string suggestion)
    {
        var error = Error(text);
        Assert.Equal((position, length, suggestion), (error.Position, error.Length, error.Suggestion));
        Assert.Contains($"did you mean “{suggestion}”?", error.Message);
    }

    [Fact]
    public void A_field_of_the_word_no_alone_is_asked_about_where_a_heading_is_nearly_the_same()
    {
        var names = new Names([new(1, "No.", ColumnType.Text, Role.Key), new(2, "Active", ColumnType.YesNo, Role.None)]);
        var error = Assert.Single(FieldParser.ParseExpression(" No", names).Errors);
        Assert.Equal((1, 2, "No."), (error.Position, error.Length, error.Suggestion));
        // Where the word is compared with something, or a column is called so, nothing is wrong.
        Assert.Empty(FieldParser.ParseExpression("Active = no", names).Errors);
        Assert.Empty(FieldParser.ParseExpression("No.", names).Errors);
        Assert.Empty(FieldParser.ParseExpression("No", new Names([new(1, "No", ColumnType.Text, Role.Key)])).Errors);
    }

    [Theory]
    [InlineData("")]
    [InlineData("Amount due *")]
    [InlineData("(Amount due")]
    [InlineData("Amount due)")]
    [InlineData("\"open")]
    [InlineData("`open")]
    [InlineData("Amount due | mony")]
    [InlineData("Amount due | money x")]
    [InlineData("Renewal date | date \"dd.QQQQQ\"")]
    [InlineData("Renewal date | date \"YYYY\"")]
    [InlineData("First | else")]
    [InlineData("First | upper 2")]
    [InlineData("Amount due between 1")]
    [InlineData("First is one of a")]
    [InlineData("1.2.3")]
    [InlineData("Wholly unlike anything")]
    [InlineData("when Amount due > 3")]
    public void Every_mistake_gives_exactly_one_error_within_the_text(string text)
    {
        var error = Error(text);
        Assert.InRange(error.Position, 0, text.Length);
        Assert.InRange(error.Position + error.Length, 0, Math.Max(text.Length, error.Position + 1));
        Assert.NotEmpty(error.Message);
    }

    [Fact]
    public void Depth_and_length_are_bounded()
    {
        Assert.Contains("nested too deeply", Error(new string('(', 50_000)[..3000] + "1").Message);
        Assert.Contains("nested too deeply", Error(new string('-', 3000) + "1").Message);
        Assert.Contains("longer than", Error(new string('1', 5000)).Message);
    }

    [Property(MaxTest = 2000)]
    public void Parsing_never_throws(string? text)
    {
        var parsed = FieldParser.ParseExpression(text ?? "", Names);
        Template.Parse(text ?? "", Names);
        Assert.NotNull(parsed.Expression);
    }

    [Property(MaxTest = 2000)]
    public Property Parsing_never_throws_on_what_is_nearly_a_field() =>
        Prop.ForAll(
            NearFields,
            text =>
            {
                Template.Parse(text, Names).Print(Context(null, "abc", "nan"));
            }
        );

    static Arbitrary<string> NearFields =>
        Gen.Elements(
                "{",
                "}",
                "{when ",
                "{or when ",
                "{otherwise}",
                "{each ",
                "{end}",
                "First name",
                "Amount due",
                "Today",
                "|",
                "money",
                "else",
                "\"",
                "`",
                "\\",
                "(",
                ")",
                "+",
                "-",
                "*",
                "/",
                "&",
                "=",
                "<",
                ">",
                " ",
                "is",
                "not",
                "blank",
                "and",
                "or",
                "one of",
                "between",
                "1",
                "2.5",
                "date",
                "é",
                "\0",
                "😀",
                "\ud800"
            )
            .ArrayOf()
            .Select(string.Concat)
            .ToArbitrary();

    static EvaluationContext Context(params string?[] values) =>
        new EvaluationContext(Columns, OrganizationLocale.UnitedStates, new(2027, 3, 1)).For(new ArrayRow(values), 7);

    [Property(MaxTest = 1000)]
    public Property An_expression_written_out_parses_to_itself() =>
        Prop.ForAll(
            Gen.Sized(n => Expressions(Math.Min(n, 12))).ToArbitrary(),
            e =>
            {
                var parsed = FieldParser.ParseExpression(e.ToString()!, Names);
                Assert.True(
                    parsed.Errors.All(x => StaticTypesTests.IsOfKinds(x.Message)),
                    $"{e}: {parsed.Errors.FirstOrDefault()?.Message}"
                );
                if (parsed.Errors.Count > 0)
                    return;
                var again = FieldParser.ParseExpression(parsed.Expression.ToString()!, Names);
                Assert.Empty(again.Errors);
                Assert.Equal(parsed.Expression, again.Expression);
            }
        );

    static Gen<Expression> Expressions(int size)
    {
        var leaf = Gen.OneOf(
            Gen.Choose(0, Columns.Length - 1).Select(i => (Expression)new ColumnReference(i, Columns[i].Name)),
            Gen.Elements(BuiltIn.Today, BuiltIn.PieceNumber).Select(b => (Expression)new BuiltInReference(b)),
            Gen.Choose(0, 100_000).Select(n => (Expression)new Literal(Value.Of(n / 100m))),
            Gen.Elements("", "a", "say \"x\"", "back\\slash", "{brace}", "| bar", "`tick`")
                .Select(t => (Expression)new Literal(Value.Of(t))),
            Gen.Elements(true, false).Select(b => (Expression)new Literal(Value.Of(b)))
        );
        if (size <= 0)
            return leaf;
        var inner = Expressions(size / 3);
        return Gen.OneOf(
            leaf,
            from op in Gen.Elements(Enum.GetValues<Operator>())
            from l in inner
            from r in inner
            select (Expression)new Binary(op, l, r),
            inner.Select(i => (Expression)new Negation(i)),
            inner.Select(i => (Expression)new LogicalNot(i)),
            from i in inner
            from not in Gen.Elements(true, false)
            select (Expression)new BlankTest(i, not),
            from i in inner
            from choices in Gen.NonEmptyListOf(inner)
            select (Expression)new OneOf(i, new([.. choices.Take(3)])),
            from i in inner
            from low in inner
            from high in inner
            select (Expression)new Between(i, low, high)
        );
    }

    [Property]
    public void A_format_chain_written_out_parses_to_itself(int column, NonNull<string> otherwise)
    {
        var e = new Formatted(
            new Formatted(
                new ColumnReference(Math.Abs(column % Columns.Length), Columns[Math.Abs(column % Columns.Length)].Name),
                Format.Money,
                "0"
            ),
            Format.Else,
            otherwise.Get
        );
        Assert.Equal(e, Parse(e.ToString()));
    }

    [Property]
    public void Plain_text_survives_escaping(NonNull<string> text)
    {
        var template = Template.Parse(Template.Escape(text.Get), Names);
        Assert.Empty(template.Errors);
        Assert.Equal(text.Get, string.Concat(template.Parts.Select(p => Assert.IsType<PlainPart>(p).Text)));
    }

    [Fact]
    public void A_template_is_text_and_fields_in_order()
    {
        var template = Template.Parse("Dear {First name | else \"a } b\"}, \\{as it is\\} {Amount due}", Names);
        Assert.Empty(template.Errors);
        Assert.Equal(
            ["Dear ", "First name | else \"a } b\"", ", {as it is} ", "Amount due"],
            template.Parts.Select(p => p is FieldPart f ? f.Source : ((PlainPart)p).Text)
        );
        Assert.Equal([false, true, false, true], template.Parts.Select(p => p is FieldPart));
    }

    [Fact]
    public void Errors_of_a_template_count_positions_from_its_start()
    {
        var error = Assert.Single(Template.Parse("Dear {Frist name},", Names).Errors);
        Assert.Equal((6, 10), (error.Position, error.Length));
        Assert.Equal(5, Assert.Single(Template.Parse("Dear {First", Names).Errors).Position);
    }
}
