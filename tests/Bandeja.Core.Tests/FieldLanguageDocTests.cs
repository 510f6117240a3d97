using System.Text.RegularExpressions;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Tests;

/// <summary>Prints every example of docs/field-language.md for the recipient that the page describes.</summary>
public sealed partial class FieldLanguageDocTests
{
    static readonly Column[] Columns =
    [
        new(1, "First name", ColumnType.Text, Role.GivenName),
        new(2, "Last name", ColumnType.Text, Role.FamilyName),
        new(3, "Organization", ColumnType.Text, Role.Organization),
        new(4, "Street", ColumnType.Text, Role.Street),
        new(5, "City", ColumnType.Text, Role.City),
        new(6, "State", ColumnType.Text, Role.Region),
        new(7, "ZIP", ColumnType.Text, Role.PostalCode),
        new(8, "Phone", ColumnType.Text, Role.Phone),
        new(9, "Level", ColumnType.Text, Role.None),
        new(10, "Amount due", ColumnType.Number, Role.None),
        new(11, "Years", ColumnType.Number, Role.None),
        new(12, "Renewal date", ColumnType.Date, Role.None),
        new(13, "Renewed", ColumnType.YesNo, Role.None),
        new(14, "Last gift", ColumnType.Number, Role.None, Format: "money"),
        new(15, "Rate", ColumnType.Number, Role.None, Format: "percent"),
    ];
    static readonly DetailSet[] Details =
    [
        new(1, "Gifts", [new(1, "Gift date", ColumnType.Date, Role.None), new(2, "Amount", ColumnType.Number, Role.None)]),
    ];
    static readonly IRow[] Gifts =
    [
        new ArrayRow(["2025-11-02", "75"]),
        new ArrayRow(["2025-12-24", "50.5"]),
        new ArrayRow(["2026-05-01", null]),
    ];

    [GeneratedRegex("`` (?<t>.+?) ``|`(?<t>[^`]+)`")]
    private static partial Regex Code();

    static string Page()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "bandeja")))
            folder = Path.GetDirectoryName(folder)!;
        return File.ReadAllText(Path.Combine(folder, "docs", "field-language.md"));
    }

    public static TheoryData<string, string> Examples()
    {
        var data = new TheoryData<string, string>();
        foreach (var line in Page().Split('\n').Where(l => l.StartsWith("| `", StringComparison.Ordinal)))
        {
            // A bar within a table is written \|.
            var cells = line.Replace("\\|", "\u0001").Trim('|', ' ').Split('|').Select(c => c.Replace('\u0001', '|').Trim()).ToArray();
            var texts = Code().Matches(cells[0]).Select(m => m.Groups["t"].Value).ToList();
            data.Add(string.Join("\u0002", texts), cells.Length > 1 ? cells[1] : "");
        }
        return data;
    }

    [Theory]
    [MemberData(nameof(Examples))]
    public void The_page_for_coordinators_is_true(string texts, string prints)
    {
        var names = new Names(Columns, Details);
        var context = new EvaluationContext(Columns, OrganizationLocale.UnitedStates, new(2027, 3, 12), Details, "Fernquay Botanic Garden");
        context.For(
            new ArrayRow(
                [
                    "Ana",
                    "Okafor",
                    null,
                    "2291 Lantern Row",
                    "Alder Point",
                    "OR",
                    "97412",
                    "541-555-0160",
                    "Friend",
                    "1250.5",
                    "9",
                    "2027-03-03",
                    "no",
                    "1250.5",
                    "0.125",
                ],
                _ => Gifts
            ),
            412
        );
        var printed = texts
            .Split('\u0002')
            .Select(text =>
            {
                var template = Template.Parse(text, names);
                Assert.Empty(template.Errors);
                return template.Print(context).Trim().Replace("\n", " / ").Replace('\u00a0', ' ');
            });
        Assert.Equal(prints, string.Join(" and ", printed));
        Assert.Empty(context.Problems);
    }

    [Fact]
    public void The_page_has_examples_of_every_function_and_format()
    {
        var page = Page();
        Assert.All(Function.All, f => Assert.Contains(f.Name, page));
        Assert.All(Enum.GetNames<Format>(), f => Assert.Contains(f.ToLowerInvariant(), page));
        Assert.True(Examples().Count > 45);
    }
}
