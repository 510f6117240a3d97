using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Store;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Designs;
using Bandeja.Store.Devices;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Store.Runs;
using Bandeja.Work.Composition;
using Bandeja.Work.Hosting;
using Bandeja.Work.Jobs;
using Bandeja.Work.Production;
using Microsoft.AspNetCore.Builder;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Time.Testing;

namespace Bandeja.Server.Tests;

/// <summary>A queue of the machine, played by three small scripts: a batch that may have been handed over as the power failed is asked
/// about.</summary>
[System.Runtime.Versioning.SupportedOSPlatform("linux")]
[TestClass(DisableParallelization = true)]
public sealed class QueueTests : IDisposable
{
    readonly string folder = Directory.CreateTempSubdirectory("bandeja-queue").FullName;
    readonly string path = Environment.GetEnvironmentVariable("PATH")!;
    readonly WebApplication app;
    readonly FakeTimeProvider clock = new(DateTimeOffset.UtcNow);

    public QueueTests()
    {
        Script(
            "lp",
            """echo "$@" >> "$DIR/asked"; case "$1" in -i) exit 0;; esac; n=$(wc -l < "$DIR/asked"); [ -e "$DIR/refuse" ] && { echo "lp: The printer is not accepting jobs." >&2; exit 1; }; echo "request id is office-$n (1 file(s))" """
        );
        Script(
            "lpstat",
            """case "$*" in -e) echo office;; *"not-completed"*) cat "$DIR/waiting" 2>/dev/null; true;; *) [ -e "$DIR/forgets" ] || for n in 1 2 3 4 5 6; do printf 'office-%s  tomas 1024 Mon\n\tStatus: \n\tAlerts: %s\n\tqueued for office\n' $n "$(cat "$DIR/reason" 2>/dev/null || echo job-completed-successfully)"; done;; esac"""
        );
        Script("cancel", """echo "cancel $@" >> "$DIR/asked" """);
        Environment.SetEnvironmentVariable("PATH", $"{folder}:{path}");
        app = Application.Build(
            new ServerOptions(Path.Combine(folder, "data"), Port: 0),
            b => b.Services.AddSingleton<TimeProvider>(clock)
        );
    }

    void Script(string name, string body)
    {
        var file = Path.Combine(folder, name);
        File.WriteAllText(file, $"#!/bin/sh\nDIR={folder}\n{body}\n");
        File.SetUnixFileMode(file, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
    }

    public void Dispose()
    {
        Environment.SetEnvironmentVariable("PATH", path);
        ((IDisposable)app).Dispose();
        Directory.Delete(folder, true);
    }

    T Get<T>()
        where T : notnull => app.Services.GetRequiredService<T>();

    static readonly Actor By = Actor.Person("Tomás", DateTimeOffset.UtcNow);
    List<string> Asked => File.Exists(Path.Combine(folder, "asked")) ? [.. File.ReadAllLines(Path.Combine(folder, "asked"))] : [];

    /// <summary>A run of six in batches of three on the queue, not begun to be printed.</summary>
    RunRow Begin()
    {
        var columns = new[] { new Column(1, "First", ColumnType.Text, Role.GivenName) };
        var writer = new RowWriter(Get<Database>(), "Members", "m.csv", null, columns, By);
        for (var i = 1; i <= 6; i++)
            writer.Add([$"Given{i}"]);
        writer.Finish([], null);
        var design = Get<DesignStore>().Create("Letter", writer.ListId, Api.Letter("Dear {First},").ToJsonString(), By);
        var drops = Get<DropStore>();
        var drop = drops.CreateDrop(Get<CampaignStore>().Create("Renewal", By), "Notice", writer.ListId, [design], null, By);
        Get<DropChecker>().CheckAll(drop, By, (_, _) => { }, default);
        var printer = Get<PrinterStore>()
            .Save(
                new()
                {
                    Name = "Office",
                    Kind = "queue",
                    Queue = "office",
                }
            );
        return Get<RunPlanner>()
            .Begin(
                drop,
                new PrintOrder
                {
                    PrinterId = printer,
                    BatchOf = 3,
                    Copies = 2,
                },
                By
            );
    }

    string? Work(RunRow run) =>
        app
            .Services.GetServices<IJobKind>()
            .OfType<PrintJob>()
            .Single()
            .Work(Get<JobStore>().Get(Get<RunStore>().Get(run.Id).JobId!.Value), (_, _) => { }, CancellationToken.None);

    [Fact]
    public void Batches_go_to_the_queue_with_copies_and_are_out_when_it_no_longer_has_them()
    {
        var run = Begin();
        Work(run);
        Assert.Equal(RunState.Done, Get<RunStore>().State(run.Id));
        Assert.Equal(2, Asked.Count);
        Assert.All(Asked, a => Assert.StartsWith("-d office -n 2 -t Run 1, batch", a));
        Assert.Equal(6, Get<RunStore>().Get(run.Id).Waiting);
        Assert.Equal(["office"], Bandeja.Work.Devices.QueuePrinter.Queues());
    }

    [Fact]
    public void A_batch_that_may_have_been_handed_over_is_in_doubt_and_somebody_says()
    {
        var (runs, batches) = (Get<RunStore>(), Get<RunBatches>());
        var run = Begin();
        Get<RunLife>().Start(run.Id);
        batches.Divide(runs.Get(run.Id), 3);
        // The power failed between the words to the queue and the note of its answer.
        Assert.True(batches.Handing(batches.Of(run.Id)[0], runs.Get(run.Id).JobId!.Value, [1, 2, 3], 0));
        Assert.Equal("Paused", Work(run));
        Assert.Empty(Asked);
        var paused = runs.Get(run.Id);
        Assert.Equal((RunState.Paused, BatchState.Doubt), (paused.State, batches.Of(run.Id)[0].State));
        Assert.Contains("pieces 0001 to 0003, was being sent to the printer", paused.Message);

        batches.Settle(paused, 1, printed: true, By);
        Assert.Equal(3, runs.Get(run.Id).Printed);
        Assert.Throws<ConflictException>(() => batches.Settle(paused, 1, printed: false, By));
        Get<RunLife>().Resume(run.Id, "goes on", By);
        Work(run);
        Assert.Equal(RunState.Done, runs.State(run.Id));
        Assert.Contains("0004 to 0006", Assert.Single(Asked));
    }

    [Fact]
    public void What_was_paused_while_it_was_prepared_is_not_handed_over()
    {
        var (runs, batches) = (Get<RunStore>(), Get<RunBatches>());
        var run = Begin();
        Get<RunLife>().Start(run.Id);
        batches.Divide(runs.Get(run.Id), 3);
        var work = runs.Get(run.Id).JobId!.Value;
        Get<RunLife>().Pause(run.Id, "lunch", By);
        Assert.False(batches.Handing(batches.Of(run.Id)[0], work, [1, 2, 3], 0));
        // Nor by the work before, once it goes on.
        Get<RunLife>().Resume(run.Id, "goes on", By);
        Get<RunLife>().Start(run.Id);
        Assert.False(batches.Handing(batches.Of(run.Id)[0], work, [1, 2, 3], 0));
        Assert.True(batches.Handing(batches.Of(run.Id)[0], runs.Get(run.Id).JobId!.Value, [1, 2, 3], 0));
    }

    [Fact]
    public void Found_not_printed_it_is_handed_over_again()
    {
        var (runs, batches) = (Get<RunStore>(), Get<RunBatches>());
        var run = Begin();
        Get<RunLife>().Start(run.Id);
        batches.Divide(runs.Get(run.Id), 3);
        Assert.True(batches.Handing(batches.Of(run.Id)[0], runs.Get(run.Id).JobId!.Value, [1, 2, 3], 0));
        Work(run);
        batches.Settle(runs.Get(run.Id), 1, printed: false, By);
        Get<RunLife>().Resume(run.Id, "goes on", By);
        Work(run);
        Assert.Equal((2, 6), (Asked.Count, (int)runs.Get(run.Id).Printed));
    }

    [Fact]
    public void What_the_queue_says_when_it_refuses_is_told()
    {
        File.WriteAllText(Path.Combine(folder, "refuse"), "");
        var run = Begin();
        Assert.Contains("not accepting jobs", Assert.Throws<ConflictException>(() => Work(run)).Message);
        Assert.Equal(0, Get<RunStore>().Get(run.Id).Printed);
    }

    [Fact]
    public void A_batch_that_the_queue_no_longer_knows_does_not_count_as_printed()
    {
        File.WriteAllText(Path.Combine(folder, "forgets"), "");
        var (runs, batches) = (Get<RunStore>(), Get<RunBatches>());
        var run = Begin();
        Assert.Equal("Paused", Work(run));
        var paused = runs.Get(run.Id);
        Assert.Equal((RunState.Paused, 0, BatchState.Doubt), (paused.State, (int)paused.Printed, batches.Of(run.Id)[0].State));
        Assert.Contains("is no longer in the print queue", paused.Message);
        batches.Settle(paused, 1, printed: true, By);
        File.Delete(Path.Combine(folder, "forgets"));
        Get<RunLife>().Resume(run.Id, "goes on", By);
        Work(run);
        Assert.Equal((RunState.Done, 6, 2), (runs.State(run.Id), (int)runs.Get(run.Id).Printed, Asked.Count));
    }

    [Theory]
    [InlineData("job-canceled-by-user")]
    [InlineData("job-canceled-at-device")]
    [InlineData("aborted-by-system")]
    public void A_batch_that_was_canceled_at_the_queue_is_in_doubt(string reason)
    {
        File.WriteAllText(Path.Combine(folder, "reason"), reason);
        var run = Begin();
        Assert.Equal("Paused", Work(run));
        Assert.Equal(BatchState.Doubt, Get<RunBatches>().Of(run.Id)[0].State);
        Assert.Equal(0, Get<RunStore>().Get(run.Id).Printed);
        Assert.Contains("was canceled at the print queue", Get<RunStore>().Get(run.Id).Message);
    }

    [Fact]
    public void Nothing_heard_of_a_batch_for_long_pauses_the_run_and_resumed_it_is_followed_on()
    {
        File.WriteAllText(Path.Combine(folder, "waiting"), "office-1  tomas 1024 Mon\n");
        var runs = Get<RunStore>();
        var run = Begin();
        clock.AutoAdvanceAmount = TimeSpan.FromMinutes(1);
        Assert.Equal("Paused", Work(run));
        Assert.Contains("Nothing has been heard of batch 1 for", runs.Get(run.Id).Message);
        Assert.Equal(BatchState.Printing, Get<RunBatches>().Of(run.Id)[0].State);
        File.Delete(Path.Combine(folder, "waiting"));
        Get<RunLife>().Resume(run.Id, "goes on", By);
        Work(run);
        Assert.Equal(RunState.Done, runs.State(run.Id));
        Assert.Single(Asked, a => a.Contains("batch 1:", StringComparison.Ordinal));
    }
}
