using Bandeja.Store;
using Bandeja.Store.Devices;
using Bandeja.Work.Announcing;
using Bandeja.Work.Devices;

namespace Bandeja.Acts.Settings;

/// <summary>A printer's feed and offsets, to add or to change.</summary>
/// <param name="Kind">paper: only known how paper goes in; practice: a practice printer; queue: a queue of this machine.</param>
public sealed record PrinterOrder(
    string Name,
    string EnvelopeEdge = "short",
    string EnvelopeFace = "up",
    int EnvelopeTurn = 0,
    double EnvelopeRight = 0,
    double EnvelopeDown = 0,
    double SheetRight = 0,
    double SheetDown = 0,
    string Kind = "paper",
    string? Queue = null
);

/// <summary>What to save of which printer.</summary>
/// <param name="PrinterId">Null to add one.</param>
public sealed record SavedPrinter(long? PrinterId, PrinterOrder Order);

/// <summary>Adds or changes a printer; answers its id.</summary>
[Act("printer.save", Permission.Settings, "Saved a printer")]
public sealed class SavePrinter(PrinterStore printers, PracticeStore practice) : Act<SavedPrinter, long>
{
    const int LongestName = 80,
        MostOffset = 50;

    /// <inheritdoc/>
    protected internal override long Do(SavedPrinter order, Deed deed)
    {
        var row = Row(order.PrinterId ?? 0, order.Order);
        // What stands behind a printer stays: runs may be on their way to it.
        if (order.PrinterId is { } known)
            row = row with { Kind = printers.Get(known).Kind, Queue = printers.Get(known).Queue };
        var id = printers.Save(row);
        if (order.PrinterId is null && row.Kind == "practice")
            practice.SetUp(id);
        deed.Says($"Saved the printer “{row.Name}”");
        deed.Changed(Matter.Printer, id);
        return id;
    }

    static PrinterRow Row(long id, PrinterOrder o)
    {
        var name = o.Name.Trim();
        if (name.Length is 0 or > LongestName)
            throw new BadInputException($"Give the printer a name of 1 to {LongestName} characters.");
        if (o.EnvelopeEdge is not ("short" or "long"))
            throw new BadInputException("The leading edge must be short or long.");
        if (o.EnvelopeFace is not ("up" or "down"))
            throw new BadInputException("The printed side must be up or down.");
        if (o.EnvelopeTurn is not (0 or 180))
            throw new BadInputException("Envelope rotation must be 0 or 180 degrees.");
        double[] offsets = [o.EnvelopeRight, o.EnvelopeDown, o.SheetRight, o.SheetDown];
        if (offsets.Any(v => !double.IsFinite(v) || Math.Abs(v) > MostOffset))
            throw new BadInputException($"An offset is at most {MostOffset} mm ({MostOffset / 25.4:0.#} in).");
        if (o.Kind is not ("paper" or "practice" or "queue"))
            throw new BadInputException("The printer type must be paper, practice, or queue.");
        if (o.Kind == "queue" && !QueuePrinter.Queues().Contains(o.Queue))
            throw new BadInputException($"The print queue “{o.Queue}” is not on this computer.");
        return new()
        {
            Id = id,
            Name = name,
            Kind = o.Kind,
            Queue = o.Kind == "queue" ? o.Queue : null,
            EnvelopeEdge = o.EnvelopeEdge,
            EnvelopeFace = o.EnvelopeFace,
            EnvelopeTurn = o.EnvelopeTurn,
            EnvelopeRight = o.EnvelopeRight,
            EnvelopeDown = o.EnvelopeDown,
            SheetRight = o.SheetRight,
            SheetDown = o.SheetDown,
        };
    }
}
