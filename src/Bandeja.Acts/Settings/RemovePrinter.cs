using Bandeja.Store.Devices;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Settings;

/// <summary>A printer to remove.</summary>
public sealed record RemovedPrinter(long PrinterId);

/// <summary>Removes a printer.</summary>
[Act("printer.remove", Permission.Settings, "Removed a printer")]
public sealed class RemovePrinter(PrinterStore printers) : Act<RemovedPrinter>
{
    /// <inheritdoc/>
    protected override void Carry(RemovedPrinter order, Deed deed)
    {
        printers.Remove(order.PrinterId);
        deed.Changed(Matter.Printer, order.PrinterId);
    }
}
