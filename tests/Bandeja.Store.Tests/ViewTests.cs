using Bandeja.Core.Checks;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Tests;

/// <summary>What is read together belongs together, whatever is written meanwhile.</summary>
public sealed class ViewTests
{
    [Fact]
    public void Columns_and_rows_of_a_view_belong_together_while_a_column_goes()
    {
        using var w = new World();
        using var c = w.Database.Open();
        var columns = RowTable.Columns(c, w.List);
        new ColumnStore(w.Database, w.Editor).Remove(w.List, 2, w.By());
        Assert.Equal(3, w.Lists.Columns(w.List).Count);
        // The view still has the column, and the cells that go with it.
        Assert.Equal(10, c.Query($"SELECT id, {RowTable.CellList(columns)} FROM {RowTable.Name(w.List)} r").Count());
        Assert.Equal(4, RowTable.Columns(c, w.List).Count);
    }

    [Fact]
    public void Whatever_several_stores_read_within_a_hold_is_one_view()
    {
        using var w = new World();
        var id = w.Ids()[0];
        using (w.Database.Hold())
        {
            var before = w.Lists.Recipient(w.List, id).Values[1];
            w.Editor.Edit(w.List, [new(id, 2, "Okafor")], "edit", w.By());
            Assert.Equal(before, w.Lists.Recipient(w.List, id).Values[1]);
            Assert.Equal(10, w.Rows.Ids(w.Drop, new()).Count);
        }
        Assert.Equal("Okafor", w.Lists.Recipient(w.List, id).Values[1]);
    }

    [Fact]
    public async Task What_was_begun_within_a_hold_reads_for_itself_after_it()
    {
        using var w = new World();
        var go = new TaskCompletionSource();
        Task<int> later;
        using (w.Database.Hold())
        {
            _ = w.Ids();
            later = Task.Run(async () =>
            {
                await go.Task;
                return w.Ids().Count;
            });
        }
        go.SetResult();
        Assert.Equal(10, await later);
    }

    [Fact]
    public void A_view_does_not_write()
    {
        using var w = new World();
        using var c = w.Database.Open();
        Assert.Equal(8, Assert.Throws<SqliteException>(() => c.Execute("DELETE FROM list")).SqliteErrorCode);
    }

    [Fact]
    public async Task Whoever_is_added_while_the_checks_begin_is_checked()
    {
        using var w = new World();
        var issues = new CheckIssues(w.Database, w.Editor);
        for (var i = 1; i <= 40; i++)
        {
            var checking = Task.Run(() => issues.CheckAll(w.List, (_, _) => { }, default));
            w.Editor.AddRecipients(w.List, [new Dictionary<int, string?> { [1] = "Ana", [2] = "OKAFOR" }], w.By());
            await checking;
            Assert.Equal(i, issues.Groups(w.List).SingleOrDefault(g => g.Kind == CheckKind.Capitals)?.Cells);
        }
    }

    [Fact]
    public void A_connection_that_came_back_within_a_transaction_begins_anew()
    {
        using var w = new World(3);
        // Closed as nobody should: the pool keeps it as it is.
        using (var left = w.Database.Follow())
            left.Execute("BEGIN TRANSACTION");
        using var again = w.Database.Follow();
        Assert.Equal(1, SQLitePCL.raw.sqlite3_get_autocommit(again.Handle));
    }

    [Fact]
    public void Work_that_goes_on_after_a_held_view_ended_reads_for_itself()
    {
        using var w = new World(3);
        var hold = w.Database.Hold();
        using (w.Database.Open()) { }
        hold.Dispose();
        using var own = w.Database.Open();
        using var other = w.Database.Open();
        Assert.NotSame(own, other);
    }
}
