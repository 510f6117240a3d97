using Bandeja.Core.Composition;
using FsCheck;
using FsCheck.Xunit;
using static Bandeja.Core.Tests.Doc;

namespace Bandeja.Core.Tests;

/// <summary>A letter's text without its looks, and where two versions differ.</summary>
public sealed class LetterTextTests
{
    static LetterDesign Of(params string[] paragraphs) => LetterReader.Read(Letter(paragraphs.Select(P)));

    static string Shown(IReadOnlyList<IReadOnlyList<TextDifference>> lines) =>
        string.Join(
            '\n',
            lines.Select(l =>
                string.Concat(
                    l.Select(d =>
                        d.Kind switch
                        {
                            DifferenceKind.Added => $"+{d.Text}+",
                            DifferenceKind.Removed => $"-{d.Text}-",
                            _ => d.Text,
                        }
                    )
                )
            )
        );

    [Fact]
    public void Fields_brackets_tables_and_lists_are_written_as_they_are_typed()
    {
        var design = LetterReader.Read(
            Letter(
                [
                    P(new { }, T("Dear "), F("First"), Node("hardBreak"), M("when Amount > 1"), T("x"), M("end")),
                    Node(
                        "when",
                        null,
                        Node("branch", new { test = "Amount > 5" }, P("much")),
                        Node("branch", new { test = (string?)null }, P("little"))
                    ),
                    Node("each", new { rows = "Gifts" }, P("{Plant}")),
                    Table(RowIn("each Gifts", Cell("{Plant}"), Cell("{Gift}"))),
                    Node("orderedList", null, Node("listItem", null, P("one"), P("more"))),
                    Node("pageBreak"),
                    Node("picture", new { asset = "a", alt = "A leaf" }),
                ]
            )
        );
        Assert.Equal(
            [
                "Dear {First}",
                "{when Amount > 1}x{end}",
                "{when Amount > 5}",
                "much",
                "{otherwise}",
                "little",
                "{end}",
                "{each Gifts}",
                "{Plant}",
                "{end}",
                "{each Gifts} {Plant} | {Gift} {end}",
                "# one",
                "  more",
                "[page break]",
                "[picture: A leaf]",
            ],
            LetterText.Lines(design)
        );
    }

    [Fact]
    public void What_changed_is_told_word_by_word_and_what_is_other_paragraph_by_paragraph()
    {
        Assert.Equal(
            "Dear Ana, thank you -much-+greatly+ for the gift.\nSame.",
            Shown(
                LetterText.Compare(
                    Of("Dear Ana, thank you much for the gift.", "Same."),
                    Of("Dear Ana, thank you greatly for the gift.", "Same.")
                )
            )
        );
        Assert.Equal("a\n-gone-", Shown(LetterText.Compare(Of("a", "gone"), Of("a"))));
        Assert.Equal("-Nothing of this-+is here+", Shown(LetterText.Compare(Of("Nothing of this"), Of("is here"))));
    }

    [Property]
    public void Taking_either_side_of_a_comparison_gives_that_version(NonEmptyString[] before, NonEmptyString[] after)
    {
        static string[] Clean(NonEmptyString[] texts) =>
            [
                .. texts
                    .Select(t => new string([.. t.Get.Where(c => char.IsAsciiLetterOrDigit(c) || c == ' ')]).Trim())
                    .Where(t => t.Length > 0)
                    .DefaultIfEmpty("x"),
            ];
        var (b, a) = (Clean(before), Clean(after));
        var lines = LetterText.Compare(Of(b), Of(a));
        IEnumerable<string> Side(DifferenceKind without) =>
            lines.Where(l => l.Any(d => d.Kind != without)).Select(l => string.Concat(l.Where(d => d.Kind != without).Select(d => d.Text)));
        Assert.Equal(b, Side(DifferenceKind.Added));
        Assert.Equal(a, Side(DifferenceKind.Removed));
    }
}
