using System.Globalization;
using Bandeja.Store;
using Bandeja.Store.Devices;
using Bandeja.Work.Announcing;
using Bandeja.Work.Hosting;

namespace Bandeja.Work.Devices;

/// <summary>The printer that ships with the product: it takes sheets from its trays, jams, runs out of paper, and keeps what it printed to
/// be looked through.</summary>
public sealed class PracticePrinter(long printerId, PracticeStore store, ServerOptions server, TimeProvider time) : IPrintDevice
{
    /// <inheritdoc/>
    public bool RemembersKeys => true;

    /// <inheritdoc/>
    public bool TellsSheets => true;

    /// <inheritdoc/>
    public string HandOver(PrintOrder order) =>
        store
            .Take(
                new()
                {
                    PrinterId = printerId,
                    Key = order.Key,
                    Title = order.Title,
                    File = Path.GetRelativePath(server.Data, order.File),
                    Paper = order.Paper,
                    Duplex = order.Duplex,
                    Copies = order.Copies,
                    Collated = order.Collated,
                    Pages = order.Pages,
                    Total = order.Sheets,
                },
                Actor.Rule(time.GetUtcNow())
            )
            .ToString(CultureInfo.InvariantCulture);

    /// <inheritdoc/>
    public PrintReport Look(string job)
    {
        var row = store.Job(Id(job));
        if (row is null)
            return new(PrintState.GivenUp, 0, null, []);
        var trouble = row.State == PracticeJobState.Printing ? store.All().FirstOrDefault(p => p.PrinterId == printerId)?.Trouble : null;
        return new(
            row.State switch
            {
                PracticeJobState.Done => PrintState.Out,
                PracticeJobState.Cancelled => PrintState.GivenUp,
                PracticeJobState.Waiting or PracticeJobState.Held => PrintState.Waiting,
                _ => PrintState.Printing,
            },
            (int)row.SheetsOut,
            Words(trouble),
            row.Spoiled > 0 ? store.SpoiledOf(row.Id) : []
        );
    }

    /// <summary>What is in the way, in a sentence.</summary>
    public static string? Words(string? trouble) =>
        trouble switch
        {
            null => null,
            "jam" => "A sheet jammed. Remove it from the printer, and it will print again.",
            "letter" => "The printer is out of letter paper.",
            "envelope" => "The printer is out of envelopes.",
            _ => "The printer is out of label sheets.",
        };

    /// <inheritdoc/>
    public void Hold(string job) => store.SetState(Id(job), PracticeJobState.Held);

    /// <inheritdoc/>
    public void Release(string job) => store.SetState(Id(job), PracticeJobState.Printing);

    /// <inheritdoc/>
    public void GiveUp(string job) => store.SetState(Id(job), PracticeJobState.Cancelled);

    static long Id(string job) => long.Parse(job, CultureInfo.InvariantCulture);
}

/// <summary>What runs within the practice printers: sheets come out at their speed, whether anybody looks or not.</summary>
public sealed class PracticeRollers(PracticeStore store, Announcements announcements, TimeProvider time, ILogger<PracticeRollers> log)
    : BackgroundService
{
    static readonly TimeSpan Step = TimeSpan.FromMilliseconds(100);

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stop)
    {
        var due = new Dictionary<long, double>();
        while (!stop.IsCancellationRequested)
        {
            try
            {
                foreach (var printer in store.All())
                {
                    var sheets = due.GetValueOrDefault(printer.PrinterId) + printer.SheetsAMinute * Step.TotalMinutes;
                    var whole = (int)sheets;
                    due[printer.PrinterId] = sheets - whole;
                    if (whole > 0 && store.Print(printer.PrinterId, whole, time.GetUtcNow()) > 0)
                        announcements.Changed(Matter.Printer, printer.PrinterId);
                }
                await Task.Delay(Step, stop);
            }
            catch (OperationCanceledException) when (stop.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e)
            {
                log.LogError(e, "The practice printer stopped for a moment");
                await Task.Delay(TimeSpan.FromSeconds(2), CancellationToken.None);
            }
        }
    }
}
