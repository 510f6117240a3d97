using System.Globalization;
using Bandeja.Core.Formulas;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>Numbers that print as is usual for their column where a field names no format.</summary>
public sealed class UsualFormatTests
{
    static readonly Column[] Columns =
    [
        new(1, "Gift", ColumnType.Number, Role.None, Format: "money"),
        new(2, "Pledge", ColumnType.Number, Role.None, Format: "money 0"),
        new(3, "Rate", ColumnType.Number, Role.None, Format: "percent"),
        new(4, "Acres", ColumnType.Number, Role.None, Format: "number 2"),
        new(5, "Years", ColumnType.Number, Role.None),
        new(6, "Code", ColumnType.Text, Role.None, Format: "money"),
        new(7, "Renewal", ColumnType.Date, Role.None),
    ];
    static readonly DetailSet[] Details =
    [
        new(1, "Visits", [new(1, "Paid", ColumnType.Number, Role.None, Format: "money"), new(2, "Hours", ColumnType.Number, Role.None)]),
    ];
    static readonly IRow[] Visits = [new ArrayRow(["75", "2"]), new ArrayRow(["50.5", "1.5"])];

    static EvaluationContext Context(OrganizationLocale locale, params string?[] values) =>
        new EvaluationContext(Columns, locale, new(2027, 3, 5), Details).For(new ArrayRow(values, _ => Visits), 412);

    static string Print(string text, OrganizationLocale? locale = null)
    {
        locale ??= OrganizationLocale.UnitedStates;
        var template = Template.Parse(text, new(Columns, Details, null, locale));
        Assert.Empty(template.Errors);
        var context = Context(locale, "1250.5", "100", "0.125", "3.5", "9", "007", "2027-02-28");
        var printed = template.Print(context);
        Assert.Empty(context.Problems);
        return printed.Replace('\u00a0', ' ');
    }

    [Theory]
    [InlineData("{Gift}", "$1,250.50")]
    [InlineData("{Gift | else \"a gift\"}", "$1,250.50")]
    [InlineData("{Pledge}", "$100")]
    [InlineData("{Rate}", "12.5%")]
    [InlineData("{Acres}", "3.50")]
    [InlineData("{Years}", "9")]
    [InlineData("{Code}", "007")]
    [InlineData("{-Gift}", "-$1,250.50")]
    [InlineData("{Gift * 2}", "$2,501.00")]
    [InlineData("{Gift + 5}", "$1,255.50")]
    [InlineData("{Gift / 3}", "$416.83")]
    [InlineData("{Gift + Years}", "$1,259.50")]
    [InlineData("{Gift + Pledge}", "$1,350.50")]
    [InlineData("{Pledge * Rate}", "$12.50")]
    [InlineData("{Pledge + Pledge * Rate}", "$112.50")]
    [InlineData("{Pledge / Gift > 0}", "yes")]
    [InlineData("{Gift * Gift > 0}", "yes")]
    [InlineData("{Gift / Pledge}", "12.505")]
    [InlineData("{Rate * 100}%", "12.5%")]
    [InlineData("{100 * Rate} percent", "12.5 percent")]
    [InlineData("{Rate / 2}", "0.0625")]
    [InlineData("{Rate * Rate}", "0.015625")]
    [InlineData("{1 - Rate}", "87.5%")]
    [InlineData("{Acres * Rate}", "0.4375")]
    [InlineData("{Acres * 2}", "7.00")]
    [InlineData("{round(Gift)}", "$1,251")]
    [InlineData("{if(Gift > 2000, Gift, Pledge)}", "$100.00")]
    [InlineData("{sum(Visits.Paid)}", "$125.50")]
    [InlineData("{average(Visits.Paid)}", "$62.75")]
    [InlineData("{max(Visits.Paid)}", "$75.00")]
    [InlineData("{count(Visits.Paid)}", "2")]
    [InlineData("{sum(Visits.Hours)}", "3.5")]
    [InlineData("{each Visits}{Paid} {Hours};{end}", "$75.00 2;$50.50 1.5;")]
    [InlineData("{Renewal + Years}", "Mar 9, 2027")]
    public void A_field_without_a_format_prints_as_its_columns_do(string text, string expected) => Assert.Equal(expected, Print(text));

    [Theory]
    [InlineData("{Gift | money 0}", "$1,251")]
    [InlineData("{Gift | number}", "1,250.5")]
    [InlineData("{Pledge | words}", "one hundred")]
    [InlineData("{Rate | percent}", "13%")]
    [InlineData("{\"Gift \" & Gift}", "Gift 1250.5")]
    [InlineData("{left(Gift, 2)}", "12")]
    public void A_format_that_is_named_is_the_only_one(string text, string expected) => Assert.Equal(expected, Print(text));

    [Theory]
    [InlineData("${Gift}", "$1,250.50")]
    [InlineData("$ {Pledge}", "$ 100")]
    [InlineData("a gift of ${Gift * 2}!", "a gift of $2,501.00!")]
    [InlineData("{Gift} USD", "1,250.50 USD")]
    [InlineData("USD {Gift}", "USD 1,250.50")]
    [InlineData("€{Gift}", "€1,250.50")]
    [InlineData("{Pledge} dollars", "100 dollars")]
    [InlineData("{Pledge} Dollar, please", "100 Dollar, please")]
    [InlineData("{Pledge} dollarweed", "$100 dollarweed")]
    [InlineData("{Rate}%", "12.5%")]
    [InlineData("{Rate} percent", "12.5 percent")]
    [InlineData("{Rate} percentile", "12.5% percentile")]
    [InlineData("{Pledge}% more", "$100% more")]
    [InlineData("${Acres}", "$3.50")]
    [InlineData("{Gift}{Pledge}", "$1,250.50$100")]
    [InlineData("{Gift} and {Pledge}", "$1,250.50 and $100")]
    public void A_sign_that_is_typed_is_not_printed_twice(string text, string expected) => Assert.Equal(expected, Print(text));

    [Fact]
    public void The_organizations_locale_writes_it()
    {
        var german = new OrganizationLocale("de-DE", "EUR");
        Assert.Equal("1.250,50 €", Print("{Gift}", german));
        Assert.Equal("100 €", Print("{Pledge}", german));
        Assert.Equal("100 Euro", Print("{Pledge} Euro", german));
        Assert.Equal("12,5%", Print("{Rate}", german));
    }

    [Fact]
    public void What_a_machine_reads_has_no_format()
    {
        var names = new Names(Columns, Details);
        var context = Context(OrganizationLocale.UnitedStates, "1250.5", null);
        Assert.Equal("1250.5", Evaluator.PrintPlain(FieldParser.ParseExpression("Gift", names).Expression, context));
        Assert.Equal("no 1250.5 $", Template.Parse("no {Gift} ${when Gift > 0}{end}", names).PrintPlain(context));
        Assert.Empty(context.Problems);
        Assert.Equal("", Evaluator.PrintPlain(FieldParser.ParseExpression("Pledge", names).Expression, context));
        Assert.Equal(ProblemKind.Blank, Assert.Single(context.Problems).Kind);
        var files = new FileNames(Template.Parse("{Gift}", names), context);
        Assert.Equal("1250.5.pdf", files.Of(new ArrayRow(["1250.5", null]), 1));
    }

    [Theory]
    [InlineData(null, null)]
    [InlineData("", null)]
    [InlineData("money", "money")]
    [InlineData("money 2", null)]
    [InlineData("money 0", "money 0")]
    [InlineData("Money", null)]
    [InlineData("money 99", null)]
    [InlineData("number -1", null)]
    [InlineData("percent 1", "percent 1")]
    [InlineData("date", null)]
    [InlineData("money code", null)]
    public void A_column_can_have_these_formats(string? written, string? read) => Assert.Equal(read, UsualFormat.Of(written)?.ToString());

    [Fact]
    public void A_column_without_a_format_is_told_as_before_there_were_any()
    {
        Assert.Equal(
            "Column { Id = 5, Name = Years, Type = Number, Role = None, Kind = Source, Expression =  }",
            new Column(5, "Years", ColumnType.Number, Role.None).ToString()
        );
        Assert.NotEqual(Columns[0].ToString(), (Columns[0] with { Format = "money 0" }).ToString());
        Assert.NotEqual(Columns[0], Columns[0] with { Format = null });
    }

    /// <summary>Whatever the format, a stored value can be read off the page again: none of its digits is lost.</summary>
    [Property]
    public void Nothing_is_cut_off(int whole, ushort fraction, byte scale, byte which, bool german)
    {
        var number = whole + new decimal(fraction, 0, 0, whole < 0, (byte)(scale % 6));
        var format = new UsualFormat((NumberLook)(which % 3), which / 3 % (UsualFormat.MostDecimals + 1));
        var locale = german ? new OrganizationLocale("de-DE", "EUR") : OrganizationLocale.UnitedStates;
        var column = new Column(1, "N", ColumnType.Number, Role.None, Format: format.ToString());
        var context = new EvaluationContext([column], locale, new(2027, 3, 5)).For(
            new ArrayRow([number.ToString(CultureInfo.InvariantCulture)]),
            1
        );
        foreach (var text in (string[])["{N}", "${N}", "{N}%"])
        {
            var printed = Template.Parse(text, new([column], null, null, locale)).Print(context);
            // The sign typed beside a number of another kind is not its own.
            var bare = printed.Trim('$', '%');
            if (format.Look == NumberLook.Percent && !printed.StartsWith('$'))
                bare += "%";
            Assert.True(WrittenValue.TryNumber(bare, german ? NumberForm.Comma : NumberForm.Point, out var read), printed);
            Assert.Equal(number, format.Look == NumberLook.Percent && printed.StartsWith('$') ? read / 100 : read);
        }
    }
}
