using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;

namespace Bandeja.Acts.Lists;

/// <summary>What to replace in which list.</summary>
public sealed record ReplacementIn(long ListId, Replacement What);

/// <summary>Finds and replaces.</summary>
[Act("list.replace", Permission.Lists, "Replaced values")]
public sealed class ReplaceValues(ReplacementSearch search, ListEditor editor, ListStore lists) : Act<ReplacementIn, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(ReplacementIn order, Deed deed)
    {
        var typed = new TypedCells(lists.Columns(order.ListId), editor.Surroundings.Locale, isLenient: true);
        var edits = search
            .Find(order.ListId, order.What)
            .Select(f => new CellEdit(f.RecipientId, f.ColumnId, typed.Read(f.ColumnId, f.After)))
            .ToList();
        if (edits.Count == 0)
            throw new ConflictException($"“{order.What.Find}” is nowhere to be found.");
        var label =
            $"Replaced “{Short(order.What.Find)}” with “{Short(order.What.With)}” in "
            + (edits.Count == 1 ? "1 cell" : $"{edits.Count:N0} cells");
        deed.Says(label);
        deed.ChangedList(order.ListId);
        return typed.Of(editor.Edit(order.ListId, edits, label, deed.Actor));
    }

    static string Short(string text) => text.Length <= 40 ? text : text[..39] + "…";
}
