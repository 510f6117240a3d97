using Bandeja.Store;
using Bandeja.Store.Returns;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Returns;

/// <summary>A file of returns and corrected addresses.</summary>
/// <param name="DropId">The drop that the pieces are of.</param>
public sealed record ReturnsToImport(long DropId, IReadOnlyList<ReturnLine> Lines);

/// <summary>Records the returns and corrected addresses of a file, and does what follows from each.</summary>
[Act("return.import", Permission.Mail, "Imported returns")]
public sealed class ImportReturns(ReturnImport import, SettingStore settings, Surroundings surroundings)
    : Act<ReturnsToImport, ReturnImported>
{
    /// <inheritdoc/>
    protected internal override ReturnImported Do(ReturnsToImport order, Deed deed)
    {
        var came = import.Record(order.DropId, order.Lines, settings.ReturnRules(), surroundings.Now.Today, deed.Actor);
        deed.Says($"Imported {came.Returned:N0} {(came.Returned == 1 ? "return" : "returns")} and {came.Corrected:N0} corrected addresses");
        foreach (var drop in came.Drops)
            deed.Changed(Matter.Drop, drop);
        foreach (var list in came.Lists)
            deed.Changed(Matter.List, list);
        deed.Changed(Matter.Suppression);
        return came;
    }
}
