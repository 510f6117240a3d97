using Bandeja.Core.Drops;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

public sealed class DropTests
{
    static RecipientState After(params DropEvent[] events) => RecipientState.Of(events);

    static readonly DropEvent Doubt = new(DropEventKind.Checked, Keys: ["Blank|First|"]);
    static readonly DropEvent Held = new(DropEventKind.Held, "asked to wait");
    static readonly DropEvent Made = new(DropEventKind.Produced, RunId: 1);
    static readonly DropEvent Mailed = new(DropEventKind.Mailed, RunId: 1, Date: new(2027, 3, 12));

    [Fact]
    public void A_recipient_goes_from_tray_to_tray_by_events_alone()
    {
        Assert.Equal(Tray.Ready, After(new DropEvent(DropEventKind.Joined)).Tray);
        Assert.Equal(Tray.NeedsReview, After(Doubt).Tray);
        Assert.Equal(Tray.Ready, After(Doubt, new(DropEventKind.Accepted, Keys: ["Blank|First|"])).Tray);
        Assert.Equal(
            Tray.NeedsReview,
            After(Doubt, new(DropEventKind.Accepted, Keys: ["Blank|First|"]), new(DropEventKind.Reopened, Keys: ["Blank|First|"])).Tray
        );
        Assert.Equal(Tray.NeedsReview, After(Doubt, new(DropEventKind.Accepted, Keys: ["RunsOver|letter|2"])).Tray);
        Assert.Equal(Tray.Held, After(Doubt, Held).Tray);
        Assert.Equal(Tray.NeedsReview, After(Doubt, Held, new(DropEventKind.Released)).Tray);
        Assert.Equal(Tray.Produced, After(Made).Tray);
        Assert.Equal(Tray.Held, After(Made, Held).Tray);
        Assert.Equal(Tray.Ready, After(Made, new(DropEventKind.TakenBack)).Tray);
        Assert.Equal(Tray.Mailed, After(Made, Mailed).Tray);
        Assert.Equal(Tray.Returned, After(Made, Mailed, new(DropEventKind.Returned, "moved")).Tray);
        Assert.Equal(Tray.Mailed, After(Made, Mailed, new(DropEventKind.Returned, "moved"), new(DropEventKind.ReturnUndone)).Tray);
        Assert.Equal(Tray.Produced, After(Made, Mailed, new(DropEventKind.MailUndone)).Tray);
    }

    [Fact]
    public void Nobody_is_mailed_who_was_not_made_or_twice_or_while_held()
    {
        Assert.NotNull(After().Objection(DropEventKind.Mailed));
        Assert.Null(After(Made).Objection(DropEventKind.Mailed));
        Assert.NotNull(After(Made, Mailed).Objection(DropEventKind.Mailed));
        Assert.NotNull(After(Made, Held).Objection(DropEventKind.Mailed));
        Assert.NotNull(After(Made, Mailed).Objection(DropEventKind.TakenBack));
        Assert.NotNull(After(Made, Mailed).Objection(DropEventKind.Held));
    }

    [Fact]
    public void Who_gets_paper_and_email_counts_once_by_what_is_still_to_be_done()
    {
        var both = new DropEvent(DropEventKind.GoesBy, "Both");
        DropEvent Email(DropEventKind kind) =>
            new(kind, "550 no", [DropEvent.EmailLeg], 2, kind == DropEventKind.Mailed ? new(2027, 3, 2) : null);
        Assert.Equal(Tray.Ready, After(both, Made).Tray);
        Assert.Equal(Tray.Produced, After(both, Made, Email(DropEventKind.Produced)).Tray);
        Assert.Equal(Tray.Ready, After(both, Email(DropEventKind.Produced), Email(DropEventKind.Mailed)).Tray);
        Assert.Equal(Tray.Produced, After(both, Email(DropEventKind.Produced), Email(DropEventKind.Mailed), Made).Tray);
        Assert.Equal(Tray.Mailed, After(both, Email(DropEventKind.Produced), Email(DropEventKind.Mailed), Made, Mailed).Tray);
        // A letter that is made says nothing about the email, nor the other way round.
        Assert.NotNull(After(both, Made).Objection(DropEventKind.Mailed, email: true));
        Assert.Null(After(both, Made).Objection(DropEventKind.Mailed));
        // What came back by email goes on paper, where somebody says so, and what went out is not forgotten.
        var back = After(
            new(DropEventKind.GoesBy, "Email"),
            Email(DropEventKind.Produced),
            Email(DropEventKind.Mailed),
            Email(DropEventKind.Returned)
        );
        Assert.Equal(Tray.Returned, back.Tray);
        var paper = back.After(new(DropEventKind.GoesBy, "Paper", [DropEvent.ByHand]));
        Assert.Equal((Tray.Ready, new DateOnly(2027, 3, 2)), (paper.Tray, paper.EmailedOn));
        // The rule changes nothing of what came back.
        Assert.Equal(Tray.Returned, back.After(new(DropEventKind.GoesBy, "Paper")).Tray);
        Assert.NotNull(After(Made, Mailed).Objection(DropEventKind.GoesBy));
    }

    [Fact]
    public void A_plan_says_who_goes_the_other_way_and_makes_nothing_twice()
    {
        var plan = RunPlan.Of(
            [
                new(1, 1, Tray.Ready, 1, null, false),
                new(2, 2, Tray.Ready, 1, null, false, OtherWay: "Sent by email"),
                new(3, 3, Tray.Mailed, 1, null, false, 7, OtherWay: "Sent by email"),
                new(4, 4, Tray.Ready, 1, null, false, 7),
            ],
            _ => true,
            ""
        );
        Assert.Equal([1L], plan.Pieces.Select(p => p.RecipientId));
        Assert.Equal(
            [("Already produced on this channel; waiting for the other", 1), ("Sent by email", 2)],
            plan.Excluded.Select(l => (l.Reason, l.Count))
        );
    }

    static Gen<DropEvent> Events =>
        Gen.Elements(Enum.GetValues<DropEventKind>())
            .SelectMany(kind =>
                Gen.Elements("a", "b", "c", DropEvent.EmailLeg, DropEvent.ByHand)
                    .ListOf()
                    .SelectMany(keys =>
                        Gen.Elements("Paper", "Email", "Both").Select(note => new DropEvent(kind, note, [.. keys], 1, new(2027, 1, 1)))
                    )
            );

    [Property(MaxTest = 500)]
    public Property Trays_always_add_up_to_the_list() =>
        Prop.ForAll(
            Events.ListOf().ListOf().ToArbitrary(),
            histories =>
            {
                var trays = histories.Select(h => RecipientState.Of(h).Tray).ToList();
                Assert.Equal(histories.Count, Enum.GetValues<Tray>().Sum(t => trays.Count(x => x == t)));
            }
        );

    [Property(MaxTest = 500)]
    public Property The_plan_accounts_for_everybody_and_makes_only_the_ready() =>
        Prop.ForAll(
            Gen.Elements(Enum.GetValues<Tray>())
                .SelectMany(t => Gen.Choose(1, 3).SelectMany(p => Gen.Elements(true, false).Select(inRun => (t, p, inRun))))
                .ListOf()
                .ToArbitrary(),
            rows =>
            {
                var all = rows.Select((r, i) => new PlanCandidate(i, rows.Count - i, r.t, r.p, "x", r.inRun)).ToList();
                var plan = RunPlan.Of(all, c => c.PieceNumber % 3 != 0, "Not in this range");
                Assert.Equal(all.Count, plan.Pieces.Count + plan.Excluded.Sum(l => l.Count));
                Assert.All(plan.Pieces, p => Assert.True(p.Tray == Tray.Ready && !p.InRun && p.PieceNumber % 3 != 0));
                // In the order in which they come: that is the run's.
                Assert.Equal(all.Where(plan.Pieces.Contains), plan.Pieces);
                Assert.Equal(plan.Pages, plan.Pieces.Sum(p => p.Pages));
            }
        );

    [Theory]
    [InlineData("left", "Left the campaign Nov 3: paid", "Left the campaign: paid")]
    [InlineData("left", "Left the campaign: condition no longer true", "Left the campaign: condition no longer true")]
    [InlineData("left", "Left the campaign Nov 3: by hand: see the note", "Left the campaign: by hand: see the note")]
    [InlineData(
        "contact",
        "Contact limit, 2 pieces in 21 days for a person: Fair: first · Reminder",
        "Contact limit, 2 pieces in 21 days for a person"
    )]
    [InlineData("household", "Household piece goes to Ortega, Luis", "Household piece goes to another member")]
    [InlineData("suppression", "Do not mail: asked by phone", "Do not mail: asked by phone")]
    [InlineData(null, "Contact limit, as told: wait", "Contact limit, as told: wait")]
    public void Holds_by_rule_are_counted_together_without_what_differs(string? rule, string reason, string together) =>
        Assert.Equal(together, HoldRules.Together(rule, reason));

    [Fact]
    public void Who_left_on_different_days_stands_in_one_line_of_the_plan()
    {
        var all = Enumerable
            .Range(1, 6)
            .Select(i => new PlanCandidate(
                i,
                i,
                Tray.Held,
                1,
                $"Left the campaign Nov {i}: {(i < 5 ? "paid" : "responded")}",
                false,
                HoldRule: "left"
            ))
            .Append(new(7, 7, Tray.Held, 1, "Left the campaign Nov 1: paid", false));
        Assert.Equal(
            [
                new("Held: Left the campaign: paid", 4, Tray.Held),
                new("Held: Left the campaign: responded", 2, Tray.Held),
                new("Held: Left the campaign Nov 1: paid", 1, Tray.Held),
            ],
            RunPlan.Of([.. all], _ => true, "").Excluded
        );
    }

    [Theory]
    [InlineData("1-200, 350", new[] { 1, 200, 350 }, new[] { 0, 201, 349, 351 })]
    [InlineData("400-", new[] { 400, 99_999 }, new[] { 399 })]
    [InlineData("-3; 7", new[] { 1, 3, 7 }, new[] { 4, 8 })]
    [InlineData("0412", new[] { 412 }, new[] { 411 })]
    public void Ranges_are_read_as_people_write_them(string text, int[] inside, int[] outside)
    {
        var range = PieceRange.Parse(text, out var error);
        Assert.Null(error);
        Assert.All(inside, n => Assert.True(range!.Contains(n)));
        Assert.All(outside, n => Assert.False(range!.Contains(n)));
    }

    [Theory]
    [InlineData("")]
    [InlineData("a-b")]
    [InlineData("9-3")]
    [InlineData("1-2-3")]
    [InlineData("-")]
    [InlineData("99999999999")]
    public void Nonsense_is_told(string text)
    {
        Assert.Null(PieceRange.Parse(text, out var error));
        Assert.NotNull(error);
    }

    [Property]
    public void Reading_a_range_never_throws(string? text) => PieceRange.Parse(text ?? "", out _);
}
