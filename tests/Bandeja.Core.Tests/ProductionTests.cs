using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using static Bandeja.Core.Tests.Doc;

namespace Bandeja.Core.Tests;

/// <summary>Plans, postage, sheets, sign-offs, and letters that are changed for one.</summary>
public sealed class ProductionTests
{
    static readonly PostageClass Single = new("Single", false, [new(28, 0.7m), new(56, 1.0m)]);
    static readonly PostageClass Abroad = new("Abroad", true, [new(56, 2m)]);

    [Theory]
    [InlineData(5, 0.7)]
    [InlineData(28, 0.7)]
    [InlineData(28.01, 1.0)]
    [InlineData(56, 1.0)]
    [InlineData(57, null)]
    public void Postage_is_that_of_the_first_step_that_takes_the_weight(double grams, double? price) =>
        Assert.Equal((decimal?)price, Single.Of((decimal)grams));

    [Fact]
    public void Postage_is_counted_by_class_and_what_is_too_heavy_is_told()
    {
        (decimal, bool)[] weights = [(10, false), (40, false), (90, false), (40, true)];
        Assert.Equal([new("Single", 3, 1, 1.7m), new("Abroad", 1, 0, 2m)], RunCost.PostageOf(weights, Single, Abroad));
        // Without a class of their own those abroad are counted with the others.
        Assert.Equal([new("Single", 3, 1, 1.7m), new(RunCost.NoClassAbroad, 1, 0, 0)], RunCost.PostageOf(weights, Single, null));
        Assert.Empty(RunCost.PostageOf(weights, null, null));
        Assert.Equal(1.5m, new RunCost([new("Letter", "paper", 2, 10, 0.5m)], [new("Single", 1, 0, 1m)], 5, 5).Total);
    }

    [Fact]
    public void A_table_of_prices_that_cannot_be_is_refused_with_a_sentence()
    {
        Assert.Empty(PriceTable.First.Mistakes());
        Assert.Contains("Add at least one paper", PriceTable.First with { Papers = [] } is var none ? none.Mistakes()[0] : "");
        Assert.Contains("no weight step", (PriceTable.First with { Postage = [new("Single", false, [])] }).Mistakes()[0]);
        Assert.Contains(
            "two steps of the same weight",
            (PriceTable.First with { Postage = [new("Single", false, [new(28, 1), new(28, 2)])] }).Mistakes()[0]
        );
        Assert.Contains("same name", (PriceTable.First with { Postage = [Single, Single with { Name = "single" }] }).Mistakes()[0]);
        Assert.Contains("needs a name", (PriceTable.First with { Papers = [new("", 90, 1)] }).Mistakes()[0]);
    }

    static PlanCandidate Person(int piece, Tray tray, long? run = null) =>
        new(piece, piece, tray, 1, tray == Tray.Held ? "asked to wait" : null, false, run);

    [Fact]
    public void Reprints_are_of_what_was_made_and_the_counts_add_up()
    {
        var all = new[]
        {
            Person(1, Tray.Ready),
            Person(2, Tray.Produced, 7),
            Person(3, Tray.Mailed, 7),
            Person(4, Tray.Held, 7),
            Person(5, Tray.Held),
            Person(6, Tray.NeedsReview),
        };
        var plan = RunPlan.Of(all, c => c.PieceNumber != 3, "Not in this range", reprints: true);
        Assert.Equal([2, 4], plan.Pieces.Select(p => p.PieceNumber));
        Assert.Equal(all.Length, plan.Pieces.Count + plan.Excluded.Sum(l => l.Count));
    }

    [Property]
    public Property Pieces_and_excluded_add_up_in_any_order() =>
        Prop.ForAll(
            Gen.Elements(Enum.GetValues<Tray>()).ListOf().ToArbitrary(),
            trays =>
            {
                var all = trays.Select((t, i) => Person(i + 1, t, t is Tray.Produced or Tray.Mailed ? 1 : null)).Reverse().ToList();
                var plan = RunPlan.Of(all, c => c.PieceNumber % 3 != 0, "Not chosen");
                return plan.Pieces.Count + plan.Excluded.Sum(l => l.Count) == all.Count
                    && plan.OnTheList == all.Count
                    && plan.Pieces.Select(p => p.PieceNumber)
                        .SequenceEqual(all.Where(c => c.Tray == Tray.Ready && c.PieceNumber % 3 != 0).Select(c => c.PieceNumber));
            }
        );

    [Fact]
    public void A_piece_is_out_when_its_last_sheet_is()
    {
        var letters = new SheetsOut([1, 3, 4], Before: 1);
        Assert.Equal(5, letters.Total);
        Assert.Equal([0, 0, 1, 1, 2, 3, 3], Enumerable.Range(0, 7).Select(letters.Pieces));
        Assert.Equal([null, 0, 1, 1, 2, null], Enumerable.Range(1, 6).Select(letters.PieceOn));
        // Three labels on one sheet are out together.
        Assert.Equal([0, 3, 4], Enumerable.Range(0, 3).Select(new SheetsOut([1, 1, 1, 2]).Pieces));
        Assert.Equal(0, new SheetsOut([]).Pieces(5));
    }

    [Fact]
    public void With_copies_a_piece_is_whole_when_all_of_it_are_out()
    {
        var collated = new SheetsOut([1, 2], Copies: 3);
        Assert.Equal([0, 0, 0, 0, 0, 1, 2], Enumerable.Range(0, 7).Select(collated.Pieces));
        Assert.Equal([0, 1, 0, 1, 0, 1], Enumerable.Range(1, 6).Select(collated.PieceOn));
        var loose = new SheetsOut([1, 2], Copies: 3, Collated: false);
        Assert.Equal([0, 0, 0, 1, 1, 1, 2], Enumerable.Range(0, 7).Select(loose.Pieces));
        Assert.Equal([0, 0, 0, 1, 1, 1], Enumerable.Range(1, 6).Select(loose.PieceOn));
    }

    [Property]
    public Property Every_sheet_is_of_a_piece_that_is_not_out_before_it() =>
        Prop.ForAll(
            Gen.Choose(1, 4).ListOf().ToArbitrary(),
            Gen.Choose(1, 3).ToArbitrary(),
            Gen.Elements(true, false).ToArbitrary(),
            (sheets, copies, collated) =>
            {
                var ends = new List<int>();
                foreach (var s in sheets)
                    ends.Add((ends.Count == 0 ? 0 : ends[^1]) + s);
                var of = new SheetsOut(ends, 1, copies, collated);
                return Enumerable.Range(1, of.Total).All(n => of.PieceOn(n) is not { } piece || of.Pieces(n - 1) <= piece)
                    && of.Pieces(of.Total) == ends.Count
                    && of.Pieces(0) == 0;
            }
        );

    static readonly SignOffSubject Signed = new([new(1, "Renewal", 10, 3), new(2, "Envelope", 11, 1)], 50, "c", 100, "f", "r", "");

    [Fact]
    public void A_sign_off_lapses_with_anything_it_speaks_of_and_says_what()
    {
        Assert.Empty(Signed.ChangedSince(Signed with { Designs = [.. Signed.Designs] }, 0));
        string Told(SignOffSubject now, int values = 0) => string.Join(" ", Signed.ChangedSince(now, values));
        Assert.Equal(
            "Renewal is now version 4, but version 3 was signed off.",
            Told(Signed with { Designs = [new(1, "Renewal", 12, 4), Signed.Designs[1]] })
        );
        Assert.Equal("Envelope is no longer in the package.", Told(Signed with { Designs = [Signed.Designs[0]] }));
        Assert.Equal("Labels was added to the package.", Told(Signed with { Designs = [.. Signed.Designs, new(3, "Labels", 13, 1)] }));
        Assert.Equal("The values of 2 recipients were changed.", Told(Signed with { ListChange = 52 }, 2));
        Assert.Equal("1 recipient was added to the list.", Told(Signed with { ListChange = 51, Recipients = 101 }));
        Assert.Equal("The list was changed.", Told(Signed with { ListChange = 51 }));
        Assert.Contains("filter", Told(Signed with { Filter = "g" }));
        Assert.Contains("columns", Told(Signed with { Columns = "d" }));
        Assert.Contains("salutation rules", Told(Signed with { Rules = "s" }));
        Assert.Contains("one recipient", Told(Signed with { OneOffs = "1:1@x" }));
    }

    static readonly string Base = Letter([P("Dear {First},"), P("One."), P("Two."), P("With warm regards,")]);

    [Fact]
    public void A_change_for_one_is_put_into_a_newer_version_where_both_touched_other_places()
    {
        var mine = Letter([P("Dear {First},"), P("One."), P("Two."), P("By hand: thank you for the fern."), P("With warm regards,")]);
        var theirs = Letter([P("Dear {First},"), P("One, but better."), P("Two."), P("With warm regards,"), P("P.S. The quay is open.")]);
        var merged = DocumentMerge.Of(Base, mine, theirs)!;
        Assert.Equal(
            [
                "Dear {First},",
                "One, but better.",
                "Two.",
                "By hand: thank you for the fern.",
                "With warm regards,",
                "P.S. The quay is open.",
            ],
            LetterText.Lines(LetterReader.Read(merged))
        );
        // A paragraph that was taken out stays out; a setting that only one changed is that one's.
        var shorter = Letter([P("Dear {First},"), P("One."), P("With warm regards,")]);
        Assert.Equal(
            ["Dear {First},", "One.", "With warm regards,", "P.S. The quay is open."],
            LetterText.Lines(
                LetterReader.Read(
                    DocumentMerge.Of(
                        Base,
                        shorter,
                        Letter([P("Dear {First},"), P("One."), P("Two."), P("With warm regards,"), P("P.S. The quay is open.")])
                    )!
                )
            )
        );
        Assert.Equal(
            2,
            LetterReader
                .Read(
                    DocumentMerge.Of(
                        Base,
                        mine,
                        Letter([P("Dear {First},"), P("One."), P("Two."), P("With warm regards,")], new() { ["maxPages"] = 2 })
                    )!
                )
                .MaxPages
        );
    }

    [Fact]
    public void What_the_editor_writes_down_beyond_what_a_script_did_is_no_change()
    {
        // The same letter as the editor stores it: attributes said out loud, fields as chips.
        var edited = Letter(
            [
                P(new { textAlign = "left", indent = (object?)null }, T("Dear "), F("First"), T(",")),
                P(new { textAlign = "left" }, T("One.")),
                P(new { textAlign = "left" }, T("By hand.")),
                P(new { textAlign = "left" }, T("Two.")),
                P(new { textAlign = "left" }, T("With warm regards,")),
            ],
            new() { ["header"] = new System.Text.Json.Nodes.JsonArray(), ["background"] = null }
        );
        var merged = DocumentMerge.Of(
            Base,
            edited,
            Letter([P("Dear {First},"), P("One."), P("Two."), P("With warm regards,"), P("P.S.")])
        )!;
        Assert.Equal(
            ["Dear {First},", "One.", "By hand.", "Two.", "With warm regards,", "P.S."],
            LetterText.Lines(LetterReader.Read(merged))
        );
        // Bold is a change; so is another alignment.
        Assert.Null(
            DocumentMerge.Of(
                Base,
                Letter([P(new { }, T("Dear {First},", "bold")), P("One."), P("Two."), P("With warm regards,")]),
                Letter([P("Dearest {First},"), P("One."), P("Two."), P("With warm regards,")])
            )
        );
    }

    [Fact]
    public void What_was_put_in_beside_a_change_is_never_lost()
    {
        // Added at the very place where the other changed a line: whose comes first is not ours to say.
        Assert.Null(
            DocumentMerge.Of(
                Letter([P("One."), P("Two.")]),
                Letter([P("One, mine."), P("Two, mine.")]),
                Letter([P("One."), P("Two."), P("P.S.")])
            )
        );
        Assert.Equal(
            ["One, mine.", "Two.", "P.S."],
            LetterText.Lines(
                LetterReader.Read(
                    DocumentMerge.Of(
                        Letter([P("One."), P("Two.")]),
                        Letter([P("One, mine."), P("Two.")]),
                        Letter([P("One."), P("Two."), P("P.S.")])
                    )!
                )
            )
        );
    }

    [Property(MaxTest = 300)]
    public Property A_merge_has_every_line_that_either_added() =>
        Prop.ForAll(
            Gen.Choose(0, 3).ArrayOf(12).ToArbitrary(),
            acts =>
            {
                // Six lines; each side leaves, drops, changes or adds after every one.
                string[] was = [.. Enumerable.Range(0, 6).Select(i => $"Line {i}.")];
                string[] Side(string who, int from) =>
                    [
                        .. was.SelectMany(
                            (line, i) =>
                                acts[from + i] switch
                                {
                                    1 => Array.Empty<string>(),
                                    2 => [$"{line} by {who}"],
                                    3 => [line, $"After {i} by {who}."],
                                    _ => [line],
                                }
                        ),
                    ];
                var (mine, theirs) = (Side("me", 0), Side("them", 6));
                if (DocumentMerge.Of(Letter(was.Select(P)), Letter(mine.Select(P)), Letter(theirs.Select(P))) is not { } merged)
                    return true;
                var lines = LetterText.Lines(LetterReader.Read(merged));
                return mine.Concat(theirs).Where(l => !was.Contains(l)).All(lines.Contains)
                    && lines.All(l => mine.Contains(l) || theirs.Contains(l))
                    && was.Where(l => mine.Contains(l) && theirs.Contains(l)).All(lines.Contains);
            }
        );

    [Fact]
    public void Where_both_touched_the_same_place_nothing_is_guessed()
    {
        Assert.Null(
            DocumentMerge.Of(
                Base,
                Letter([P("Dear {First},"), P("One, mine."), P("Two."), P("With warm regards,")]),
                Letter([P("Dear {First},"), P("One, theirs."), P("Two."), P("With warm regards,")])
            )
        );
        Assert.Null(DocumentMerge.Of(Base, Letter([P("x")], new() { ["maxPages"] = 1 }), Letter([P("x")], new() { ["maxPages"] = 2 })));
        Assert.Null(DocumentMerge.Of(Base, "[]", Base));
        Assert.Null(DocumentMerge.Of("no letter", Base, Base));
    }

    [Property(MaxTest = 100)]
    public Property Merging_with_no_change_on_one_side_gives_the_other() =>
        Prop.ForAll(
            Gen.Elements("One.", "Two.", "Three {First}.", "").ListOf().ToArbitrary(),
            lines =>
            {
                var other = Letter([.. lines.Select(P)]);
                bool Same(string? a, string b) =>
                    a is not null && LetterText.Lines(LetterReader.Read(a)).SequenceEqual(LetterText.Lines(LetterReader.Read(b)));
                return Same(DocumentMerge.Of(Base, Base, other), other)
                    && Same(DocumentMerge.Of(Base, other, Base), other)
                    && Same(DocumentMerge.Of(Base, other, other), other);
            }
        );

    [Fact]
    public void A_proof_is_marked_across_every_page_whatever_its_size()
    {
        var stamp = new ProofStamp(TestFonts.Library);
        foreach (var (width, height) in new[] { (612.0, 792.0), (684.0, 297.0), (189.0, 72.0) })
        {
            var page = stamp.On(new(width, height, []));
            var mark = Assert.IsType<WatermarkItem>(page.Items[^1]);
            Assert.Equal("PROOF", page.Text());
            var (length, angle) = (mark.Line.Runs.Sum(r => r.Width), mark.Angle * Math.PI / 180);
            Assert.InRange(length * Math.Cos(angle), width * 0.3, width);
            Assert.InRange(length * Math.Sin(angle), 0, height);
        }
    }
}
