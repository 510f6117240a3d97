using Bandeja.Core.Drops;
using Bandeja.Core.Formulas;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Dapper;

namespace Bandeja.Store.Tests;

public sealed class ListTests : IDisposable
{
    readonly string folder = Directory.CreateTempSubdirectory("bandeja-list").FullName;
    readonly Database database;
    readonly ListStore lists;
    static readonly Actor By = Actor.Person("Marisol", new(2027, 3, 1, 9, 0, 0, TimeSpan.Zero));
    static readonly Column[] Columns =
    [
        new(1, "Name", ColumnType.Text, Role.FullName),
        new(2, "Amount", ColumnType.Number, Role.None),
        new(3, "City", ColumnType.Text, Role.City),
    ];

    public ListTests()
    {
        database = new(FreshDatabase.In(folder));
        lists = new(database);
    }

    public void Dispose()
    {
        database.Dispose();
        Directory.Delete(folder, true);
    }

    long Bring(params string?[][] rows)
    {
        var writer = new RowWriter(database, "List", "a.csv", null, Columns, By);
        foreach (var row in rows)
            writer.Add(row);
        writer.Finish(["a remark"], null);
        return writer.ListId;
    }

    List<string?> Names(long list, ListSearch search, string? where = null)
    {
        var filter = where is null ? null : Filter.Parse(where, Columns, new(2027, 3, 1), OrganizationLocale.UnitedStates, out _);
        return [.. lists.Page(list, search with { Where = where }, filter, 0, 100).Rows.Select(r => r.Values[0])];
    }

    [Fact]
    public void Rows_are_searched_without_case_and_accents_filtered_and_sorted()
    {
        var list = Bring(["Inês", "12", "Cork"], ["ana", "9.5", "Malmö"], ["Zoë", null, "Cork"], ["Ángel", "100", "Malmö"]);
        Assert.Equal(["Inês", "ana", "Zoë", "Ángel"], Names(list, new()));
        Assert.Equal(["Inês"], Names(list, new("ines")));
        Assert.Equal(["ana", "Ángel"], Names(list, new("MALMO")));
        Assert.Equal(["Ángel"], Names(list, new("malmo gel")));
        Assert.Equal(["ana", "Ángel", "Inês", "Zoë"], Names(list, new(Sorts: "1")));
        Assert.Equal(["ana", "Inês", "Ángel", "Zoë"], Names(list, new(Sorts: "2")));
        Assert.Equal(["Ángel", "Inês", "ana", "Zoë"], Names(list, new(Sorts: "-2")));
        Assert.Equal(["Inês", "Ángel"], Names(list, new(), "Amount > 10"));
        Assert.Equal(["Zoë"], Names(list, new(), "Amount is blank and City = \"cork\""));
        Assert.Empty(Names(list, new("' OR 1=1 --")));
    }

    [Theory]
    [InlineData("Amount > 10")]
    [InlineData("Amount >= 0.3 and Amount <= 0.3")]
    [InlineData("Amount = 0.1 + 0.2")]
    [InlineData("Amount = 0.3")]
    [InlineData("Amount < 1 and City = \"Cork\"")]
    [InlineData("Amount < 12 or City = \"Cork\"")]
    [InlineData("not (Amount > 10)")]
    [InlineData("Amount <> 12")]
    public void What_sqlite_spares_the_evaluator_never_changes_the_answer(string where)
    {
        string?[] amounts =
        [
            "0.3",
            "0.30",
            "12",
            "12.000000001",
            "-5",
            null,
            "waived",
            "1e3",
            "0",
            "79228162514264337593543950335",
            "10",
            "0.29999999999",
        ];
        var rows = amounts
            .SelectMany(
                (a, i) =>
                    (string?[][])
                        [
                            [$"n{i}", a, "Cork"],
                            [$"m{i}", a, "Malmö"],
                        ]
            )
            .ToArray();
        var list = Bring(rows);
        var filter = Filter.Parse(where, Columns, new(2027, 3, 1), OrganizationLocale.UnitedStates, out _)!;
        Assert.Equal(rows.Where(r => filter.Passes(new ArrayRow(r))).Select(r => r[0]), Names(list, new(), where));
    }

    [Fact]
    public void The_first_rows_and_the_count_agree_with_the_whole_answer()
    {
        var list = Bring(
            [.. Enumerable.Range(0, 1500).Select(i => new[] { $"n{i * 7919 % 1500:0000}", $"{i % 10}", i % 2 == 0 ? "Cork" : "Malmö" })]
        );
        var filter = Filter.Parse("Amount > 3", Columns, new(2027, 3, 1), OrganizationLocale.UnitedStates, out _)!;
        foreach (var search in (ListSearch[])[new("cork", "Amount > 3", "1"), new(null, "Amount > 3"), new("n1", null, "-2")])
        {
            var f = search.Where is null ? null : filter;
            var (first, total) = lists.Page(list, search, f, 0, 50);
            var (deep, again) = lists.Page(list, search, f, total - 1, 1000);
            var (whole, _) = lists.Page(list, search, f, 0, 1000);
            Assert.Equal((total, 1), (again, deep.Count));
            Assert.Equal(whole.Take(50).Select(r => r.Id), first.Select(r => r.Id));
        }
    }

    [Fact]
    public void A_changed_value_is_seen_by_the_next_question()
    {
        var list = Bring(["Ana", "1", "Cork"], ["Per", "2", "Cork"]);
        Assert.Equal(["Ana", "Per"], Names(list, new(Sorts: "1")));
        var id = lists.Page(list, new(), null, 0, 1).Rows[0].Id;
        new BenchStore(
            database,
            new(database, () => new(OrganizationLocale.UnitedStates, new(2027, 3, 1), _ => true), (_, _, _, _, _) => { })
        ).Correct(list, null, id, 1, "Zoë", By);
        Assert.Equal(["Per", "Zoë"], Names(list, new(Sorts: "1")));
    }

    [Fact]
    public void A_list_that_is_being_filled_is_not_seen_and_is_removed_after_a_crash()
    {
        var writer = new RowWriter(database, "Half", "a.csv", null, Columns, By);
        for (var i = 0; i < 6000; i++)
            writer.Add([$"n{i}", null, null]);
        Assert.Empty(lists.All());
        Assert.Throws<NotFoundException>(() => lists.Get(writer.ListId));
        Assert.Equal(1, RowWriter.RemoveUnfinished(database));
        using var c = database.Open();
        Assert.Equal(
            0,
            c.QuerySingle<long>("SELECT count(*) FROM sqlite_master WHERE name = @name", new { name = RowTable.Name(writer.ListId) })
        );
        Assert.Equal(0, c.QuerySingle<long>("SELECT count(*) FROM list_column"));
    }

    [Fact]
    public void A_column_can_come_on_the_way()
    {
        var writer = new RowWriter(database, "List", "a.csv", null, Columns, By);
        writer.Add(["Ana", "1", "Cork"]);
        writer.Widen(new(4, "Column 4", ColumnType.Text, Role.None));
        writer.Add(["Per", "2", "Malmö", "extra"]);
        writer.Finish([], null);
        var rows = lists.Page(writer.ListId, new(), null, 0, 10).Rows;
        Assert.Equal((null, "extra"), (rows[0].Values[3], rows[1].Values[3]));
        Assert.Single(lists.Page(writer.ListId, new("extra"), null, 0, 10).Rows);
    }

    [Fact]
    public void Recipients_ids_are_never_used_twice()
    {
        var (a, b) = (Bring(["Ana"]), Bring(["Per"], ["Zoë"]));
        var ids = lists.Page(a, new(), null, 0, 9).Rows.Concat(lists.Page(b, new(), null, 0, 9).Rows).Select(r => r.Id).ToList();
        Assert.Equal(3, ids.Distinct().Count());
    }

    [Fact]
    public void Pages_beyond_the_end_are_empty_and_unknown_lists_are_told()
    {
        var list = Bring(["Ana"]);
        Assert.Equal((0, 1), (lists.Page(list, new(), null, 50, 10).Rows.Count, lists.Page(list, new(), null, 50, 10).Total));
        Assert.Throws<NotFoundException>(() => lists.Page(99, new(), null, 0, 1));
        Assert.Throws<NotFoundException>(() => lists.Recipient(list, 99));
    }

    [Fact]
    public void The_database_opens_again_with_everything_in_it()
    {
        var list = Bring(["Ana", "1", "Cork"]);
        database.Dispose();
        using var again = new Database(Path.Combine(folder, "bandeja.sqlite"));
        Assert.Equal("Ana", new ListStore(again).Page(list, new(), null, 0, 1).Rows.Single().Values[0]);
        using var c = again.Open();
        Assert.Equal("wal", c.QuerySingle<string>("PRAGMA journal_mode"));
        Assert.Equal(1, c.QuerySingle<long>("PRAGMA foreign_keys"));
    }

    [Fact]
    public void Work_is_queued_once_taken_up_again_and_ends_once()
    {
        var jobs = new JobStore(database);
        jobs.AddOnce("check", 7, "Checking", By);
        jobs.AddOnce("check", 7, "Checking", By);
        var job = jobs.Next("check", By)!;
        Assert.True(jobs.Start(job.Id));
        Assert.False(jobs.Start(job.Id));
        jobs.Progress(job.Id, 3, 10);
        Assert.Null(jobs.Next("check", By));
        Assert.Empty(jobs.TakeUpAgain(By));
        Assert.Equal((job.Id, 0), (jobs.Next("check", By)!.Id, jobs.Next("check", By)!.Done));
        Assert.True(jobs.End(job.Id, RunState.Done, null, By));
        Assert.False(jobs.End(job.Id, RunState.Cancelled, null, By));
        Assert.Equal(RunState.Done, jobs.Get(job.Id).State);
    }

    [Fact]
    public void Work_during_which_the_process_ended_twice_is_not_begun_a_third_time()
    {
        var jobs = new JobStore(database);
        jobs.AddOnce("check", 7, "Checking", By);
        var id = jobs.Next("check", By)!.Id;
        jobs.Start(id);
        Assert.Empty(jobs.TakeUpAgain(By));
        jobs.Start(id);
        // What the server leaves because it is told to end does not count.
        jobs.Leave(id);
        Assert.Empty(jobs.TakeUpAgain(By));
        jobs.Start(id);
        Assert.Equal(id, Assert.Single(jobs.TakeUpAgain(By)).Id);
        Assert.Equal((RunState.Failed, JobStore.Crashed), (jobs.Get(id).State, jobs.Get(id).Message));
        Assert.Null(jobs.Next("check", By));
        // Nobody asked for it but a rule, so it is not asked for again today; of another subject it is, and tomorrow.
        jobs.AddOnce("check", 7, "Checking", By);
        Assert.Null(jobs.Next("check", By));
        jobs.AddOnce("check", 8, "Checking", By);
        Assert.Equal(8, jobs.Next("check", By)!.SubjectId);
        jobs.AddOnce("check", 7, "Checking", By with { At = By.At.AddDays(2) });
        Assert.Equal(2, jobs.Recent().Count(j => j.SubjectId == 7));
    }

    [Fact]
    public void Work_that_waited_in_between_did_not_end_the_process_twice()
    {
        var jobs = new JobStore(database);
        var id = jobs.Add("send", 7, "Sending", "{}", 0, By);
        for (var i = 0; i < 3; i++)
        {
            jobs.Start(id);
            Assert.Empty(jobs.TakeUpAgain(By));
            jobs.Start(id);
            jobs.Wait(id, By.At, "for room");
            Assert.Equal("for room", jobs.Get(id).Message);
        }
        jobs.Start(id);
        Assert.Null(jobs.Get(id).Message);
    }
}
