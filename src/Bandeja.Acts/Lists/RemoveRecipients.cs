using Bandeja.Store;
using Bandeja.Store.Editing;

namespace Bandeja.Acts.Lists;

/// <summary>Recipients to take off a list, and why.</summary>
public sealed record RemovedRecipients(long ListId, IReadOnlyList<long> Recipients, string? Reason = null);

/// <summary>Takes recipients off the list; drops hold them, and it can be undone.</summary>
[Act("list.remove", Permission.Lists, "Removed recipients from the list")]
public sealed class RemoveRecipients(ListEditor editor) : Act<RemovedRecipients, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(RemovedRecipients order, Deed deed)
    {
        var reason = string.IsNullOrWhiteSpace(order.Reason) ? "" : $": {order.Reason.Trim()}";
        var label = $"Removed {Given.Recipients(order.Recipients.Count)} from the list{reason}";
        deed.Says(label);
        deed.ChangedList(order.ListId);
        IReadOnlyList<CellEdit> edits = [.. order.Recipients.Select(r => new CellEdit(r, ListEditor.OnTheList, null))];
        return editor.Edit(order.ListId, edits, label, deed.Actor);
    }
}
