using Bandeja.Core.Drops;
using Bandeja.Core.Mail;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Tests;

public sealed class HistoryTests : IDisposable
{
    readonly World world = new();

    public void Dispose() => world.Dispose();

    long SecondDrop()
    {
        var campaign = world.Drops.Drop(world.Drop).CampaignId;
        return world.Drops.CreateDrop(campaign, "Second notice", world.List, [world.Design], null, world.By());
    }

    [Fact]
    public void A_recipients_history_spans_drops_and_campaigns()
    {
        var run = world.Produce();
        world.Bench.MarkMailed(run.Id, new(2027, 3, 3), null, world.By());
        SecondDrop();
        var history = world.History.OfRecipient(world.Ids()[0]);
        Assert.Equal(["First notice", "Second notice"], history.Select(h => h.DropName).Order());
        Assert.Equal(
            (new DateOnly(2027, 3, 3), "Mailed"),
            (history.Single(h => h.DropName == "First notice").MailedOn!.Value, history.Single(h => h.DropName == "First notice").Tray)
        );
        Assert.Null(history.Single(h => h.DropName == "Second notice").MailedOn);
        Assert.Equal(new DateOnly(2027, 3, 3), world.Drops.LastMailedOn(world.Drop));
        Assert.Null(world.Drops.LastMailedOn(world.Drops.Drops().Last().Id));
    }

    [Fact]
    public void The_last_mailing_is_the_one_that_is_shown()
    {
        world.Bench.MarkMailed(world.Produce().Id, new(2027, 3, 3), null, world.By());
        var second = SecondDrop();
        var run = world.Freezing.Begin(second, _ => true, "", "all", null, new(2027, 4, 1), world.By());
        world.Life.Start(run.Id);
        world.Life.Complete(run.Id, [World.File(1, 10)], world.By());
        world.Bench.MarkMailed(run.Id, new(2027, 4, 2), PieceRange.Parse("1", out _), world.By());
        var ids = world.Ids();
        var last = world.History.LastMailed(ids);
        Assert.Equal(("Second notice", new DateOnly(2027, 4, 2)), (last[ids[0]].DropName, last[ids[0]].MailedOn!.Value));
        Assert.Equal("First notice", last[ids[1]].DropName);
        Assert.False(last.ContainsKey(ids[4]));
    }

    [Fact]
    public void Drops_of_a_campaign_are_numbered_and_acts_in_one_leave_the_other_alone()
    {
        var second = SecondDrop();
        Assert.Equal([1, 2], world.Drops.Drops().Select(d => d.Number));
        world.Bench.Act(second, world.Ids(), DropEventKind.Held, "x", null, "Held", world.By());
        Assert.Equal((0, 10), (world.Trays[Tray.Held], world.Drops.Trays(second)[Tray.Held]));
        Assert.Throws<ConflictException>(() => world.Bench.Undo(world.Drop, world.By()));
        world.Bench.Undo(second, world.By());
        Assert.Equal(0, world.Drops.Trays(second)[Tray.Held]);
    }

    [Fact]
    public void What_does_not_exist_is_told_and_changes_nothing()
    {
        Assert.Throws<NotFoundException>(() => world.Drops.Drop(99));
        Assert.Throws<NotFoundException>(() => world.Drops.CreateDrop(99, "x", world.List, [world.Design], null, world.By()));
        Assert.Throws<NotFoundException>(() => world.Drops.CreateDrop(1, "x", 99, [world.Design], null, world.By()));
        Assert.Throws<NotFoundException>(() => world.Bench.Correct(world.List, world.Drop, world.Ids()[0], 99, "x", world.By()));
        Assert.Throws<NotFoundException>(() => world.Bench.Correct(world.List, world.Drop, 99_999, 1, "x", world.By()));
        Assert.Throws<NotFoundException>(() => world.Runs.Get(99));
        Assert.Throws<NotFoundException>(() => new DesignStore(world.Database).Get(99));
        using var c = world.Database.Open();
        Assert.Equal(0, c.QuerySingle<long>("SELECT count(*) FROM action"));
        Assert.Single(world.Drops.Drops());
    }

    [Fact]
    public void A_sealed_version_cannot_be_changed_even_by_a_slip()
    {
        world.Produce();
        Assert.Contains(
            "never changed",
            Assert
                .Throws<SqliteException>(() => world.Database.Write(c => c.Execute("UPDATE design_version SET document_json = 'x'")))
                .Message
        );
    }

    [Fact]
    public void The_organization_has_sensible_first_settings_and_keeps_new_ones()
    {
        var settings = new SettingStore(world.Database);
        Assert.Equal(new Organization("", "en-US", "USD"), settings.Organization());
        settings.Set(new("Fernquay", "de-DE", "EUR"));
        settings.Set(new("Fernquay Botanic Garden", "en-GB", "GBP"));
        Assert.Equal(
            ("Fernquay Botanic Garden", "£"),
            (settings.Organization().Name, settings.Organization().ToLocale().Culture.NumberFormat.CurrencySymbol)
        );
    }

    [Fact]
    public async Task Many_at_once_lose_nothing()
    {
        var ids = world.Ids(Tray.Ready);
        var readers = Enumerable
            .Range(0, 4)
            .Select(_ =>
                Task.Run(() =>
                {
                    for (var i = 0; i < 40; i++)
                        Assert.Equal(10, world.Drops.Trays(world.Drop).Values.Sum());
                })
            );
        var writers = ids.Select(id =>
            Task.Run(() =>
            {
                for (var i = 0; i < 6; i++)
                {
                    world.Bench.Act(world.Drop, [id], DropEventKind.Held, "x", null, "Held", world.By());
                    world.Bench.Act(world.Drop, [id], DropEventKind.Released, null, null, "Released", world.By());
                }
            })
        );
        await Task.WhenAll(readers.Concat(writers));
        Assert.Equal(ids.Count * 12, world.History.OfDrop(world.Drop).Count(e => e.Kind is "Held" or "Released"));
        world.MustAddUp();
    }

    [Fact]
    public void A_check_that_finds_the_same_writes_nothing_and_one_that_finds_more_moves_the_tray()
    {
        var id = world.Ids(Tray.Ready)[0];
        PieceIssue[] doubt = [new(PieceIssueKind.RunsOver, "letter", "2", "The letter runs to 2 pages.")];
        void Check(int pages, params PieceIssue[] issues) =>
            world.Database.Write(c =>
                DropEvents.ApplyCheck(c, world.Drop, [new(id, pages, Channel.Paper, issues)], world.By("Bandeja"), null)
            );
        var before = world.History.Events(id).Count;
        Check(1);
        Assert.Equal(before, world.History.Events(id).Count);
        Check(2, doubt);
        Check(2, doubt);
        Assert.Equal(before + 1, world.History.Events(id).Count);
        var row = world.Rows.Page(world.Drop, new(Alike: "RunsOver|letter"), 0, 10);
        Assert.Equal(
            (2, Tray.NeedsReview, "The letter runs to 2 pages."),
            (row.Rows.Single().Pages, row.Rows.Single().Tray, row.Issues.Single().Message)
        );
        world.Bench.Accept(world.Drop, id, "RunsOver|letter", world.By());
        Check(3, new PieceIssue(PieceIssueKind.RunsOver, "letter", "3", "The letter runs to 3 pages."));
        Assert.Contains(id, world.Ids(Tray.NeedsReview));
        Check(2, doubt);
        Assert.Contains(id, world.Ids(Tray.Ready));
        world.MustAddUp();
    }
}
