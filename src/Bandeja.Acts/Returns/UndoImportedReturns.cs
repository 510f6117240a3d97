using Bandeja.Store.Returns;

namespace Bandeja.Acts.Returns;

/// <summary>The returns of one file.</summary>
public sealed record ImportedReturns(long Batch);

/// <summary>What taking a file back came to.</summary>
/// <param name="Kept">Why some could not be taken back.</param>
public sealed record UndoneReturns(int Undone, IReadOnlyList<string> Kept);

/// <summary>Takes back all returns of one file, with what followed from them.</summary>
[Act("return.undo-import", Permission.Mail, "Undid an import of returns")]
public sealed class UndoImportedReturns(ReturnImport import) : Act<ImportedReturns, UndoneReturns>
{
    /// <inheritdoc/>
    protected internal override UndoneReturns Do(ImportedReturns order, Deed deed)
    {
        var (undone, kept, outcomes) = import.Undo(order.Batch, deed.Actor);
        foreach (var outcome in outcomes)
            Announced.Of(outcome, deed);
        return new(undone, kept);
    }
}
