using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Tests;

/// <summary>What a name means: the row that each stands at, what was settled for a list, a heading, a built-in value, in that
/// order.</summary>
public sealed class NamesTests
{
    static readonly Column[] Columns =
    [
        new(1, "First", ColumnType.Text, Role.GivenName),
        new(2, "Plant", ColumnType.Text, Role.None),
        new(3, "Today", ColumnType.Text, Role.None),
    ];
    static readonly DetailSet[] Sets =
    [
        new(1, "Gifts", [new(1, "Plant", ColumnType.Text, Role.None), new(2, "Row number", ColumnType.Text, Role.None)]),
        new(2, "Visits", [new(1, "Day", ColumnType.Date, Role.None)]),
    ];

    static Expression Of(Names names, string text) => FieldParser.ParseExpression(text, names).Expression;

    [Fact]
    public void What_is_nearer_hides_what_is_farther()
    {
        var names = new Names(Columns, Sets, new Dictionary<string, int> { ["Called"] = 0, ["First"] = 1 });
        Assert.Equal(new ColumnReference(0, "First"), Of(names, "Called"));
        // What was settled for the pair wins over a heading of the same name.
        Assert.Equal(new ColumnReference(1, "Plant"), Of(names, "First"));
        Assert.Equal(new ColumnReference(2, "Today"), Of(names, "Today"));
        Assert.Equal(new ColumnReference(1, "Plant"), Of(names, "Plant"));
        Assert.Equal(new RowValueReference(0, 0, "Plant"), Of(names.Within(0), "plant"));
        Assert.Equal(new RowValueReference(0, 1, "Row number"), Of(names.Within(0), "Row number"));
        Assert.Equal(new BuiltInReference(BuiltIn.RowNumber), Of(names.Within(1), "Row number"));
        Assert.Equal(new BuiltInReference(BuiltIn.PageNumber), Of(names.WithPages(), "page number"));
    }

    [Fact]
    public void Within_two_sets_both_are_known_and_the_inner_one_first()
    {
        var names = new Names(Columns, Sets).Within(0).Within(1);
        Assert.Equal(new RowValueReference(1, 0, "Day"), Of(names, "Day"));
        Assert.Equal(new RowValueReference(0, 0, "Plant"), Of(names, "Plant"));
        Assert.Equal(1, names.SetNamed("visits"));
        Assert.Null(names.SetNamed("nothing"));
        Assert.Equal(["Gifts", "Visits"], names.SetNames);
    }

    [Fact]
    public void Every_written_form_reads_back()
    {
        var names = new Names(Columns, Sets).Within(0).WithPages();
        foreach (
            var text in (string[])
                [
                    "`Plant`",
                    "Salutation",
                    "Delivery address",
                    "Sender",
                    "Page count",
                    "sum(`Gifts`.`Plant`)",
                    "count(Visits) + 1",
                    "Plant | else \"x\" | upper",
                ]
        )
        {
            var once = Of(names, text);
            Assert.Equal(once, Of(names, once.ToString()!));
        }
    }
}
