using Bandeja.Core.Lists;
using Bandeja.Store.Editing;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace Bandeja.Store.Tests;

/// <summary>Whatever was mended here and whatever a newer file says, each cell ends as the rule has it.</summary>
public sealed class ReloadPropertyTests
{
    static readonly Column[] Headings =
    [
        new(1, "First", ColumnType.Text, Role.GivenName),
        new(2, "Last", ColumnType.Text, Role.FamilyName),
        new(3, "Amount", ColumnType.Number, Role.None),
        new(4, "City", ColumnType.Text, Role.City),
    ];

    static Gen<(int Row, int Column, string? Value)> Change =>
        from row in Gen.Choose(0, 5)
        from column in Gen.Elements(0, 2, 3)
        from value in Gen.Elements<string?>("1", "Cork", "Zoë", null)
        select (row, column, value);

    [Property(MaxTest = 25)]
    public Property Fixes_stay_unless_the_file_says_something_new_in_that_very_cell() =>
        Prop.ForAll(
            (from here in Change.ListOf() from file in Change.ListOf() from keep in Gen.Elements(true, false) select (here, file, keep))
                .Where(x => x.here.Count < 7 && x.file.Count < 7)
                .ToArbitrary(),
            x =>
            {
                using var w = new World(6);
                new ColumnStore(w.Database, w.Editor).Change(w.List, 2, new(Role: Role.Key), w.By());
                var store = new ReloadStore(w.Database, w.Editor);
                var rows = w.Lists.Page(w.List, new(), null, 0, 10).Rows;
                var before = rows.Select(r => (string?[])r.Values.Clone()).ToList();
                var here = before.Select(r => (string?[])r.Clone()).ToList();
                foreach (var (row, column, value) in x.here)
                {
                    if (here[row][column] == value)
                        continue;
                    here[row][column] = value;
                    w.Editor.Edit(w.List, [new(rows[row].Id, column + 1, value)], "fix", w.By());
                }
                var file = before.Select(r => (string?[])r.Clone()).ToList();
                foreach (var (row, column, value) in x.file)
                    file[row][column] = value;
                var expected = here.Select(
                        (r, i) =>
                            r.Select(
                                    (cell, c) =>
                                        file[i][c] == before[i][c] ? cell
                                        : cell != before[i][c] && x.keep ? cell
                                        : file[i][c]
                                )
                                .ToArray()
                    )
                    .ToList();

                var id = store.Compare(w.List, "{}", "newer.csv", Headings, file, () => [], w.By(), default);
                if (store.Get(id) is { Changed: > 0 })
                    store.Take(id, new(true, true, true, x.keep), new Dictionary<int, Column>(), w.By());
                var now = w.Lists.Page(w.List, new(), null, 0, 10).Rows;
                Assert.Equal(expected.Select(r => string.Join('|', r)), now.Select(r => string.Join('|', r.Values)));
                // The same file again has nothing to say.
                Assert.Equal(0, store.Get(store.Compare(w.List, "{}", "again.csv", Headings, file, () => [], w.By(), default)).Changed);
                // And the first version is what came first.
                Assert.Equal(
                    before.Select(r => string.Join('|', r)),
                    new VersionStore(w.Database, w.Editor).Rows(w.List, 1, 0, 10).Rows.Select(r => string.Join('|', r.Values))
                );
                w.MustAddUp();
            }
        );

    [Fact]
    public async Task Edits_while_the_checks_run_are_checked_as_they_are()
    {
        using var w = new World(4000);
        var issues = new CheckIssues(w.Database, w.Editor);
        var ids = w.Lists.Ids(w.List, new(), null);
        var checking = Task.Run(() => issues.CheckAll(w.List, (_, _) => { }, default));
        for (var i = 0; i < 60; i++)
            w.Editor.Edit(w.List, [new(ids[i * 61 % ids.Count], 2, i % 2 == 0 ? "ALL CAPITALS" : "Right")], "edit", w.By());
        await checking;
        var spoilt = w
            .Lists.Page(w.List, new("capitals"), null, 0, 1000)
            .Rows.Where(r => r.Values[1] == "ALL CAPITALS")
            .Select(r => r.Id)
            .Order()
            .ToList();
        Assert.Equal(
            spoilt,
            issues.Rows(w.List, Core.Checks.CheckKind.Capitals, 0, 1000).Where(d => d.ColumnId == 2).Select(d => d.RecipientId).Order()
        );
        Assert.False(issues.IsStale(w.List));
        using var stop = new CancellationTokenSource();
        stop.Cancel();
        Assert.Throws<OperationCanceledException>(() => issues.CheckAll(w.List, (_, _) => { }, stop.Token));
        Assert.True(issues.IsStale(w.List));
    }
}
