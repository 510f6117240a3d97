using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;

namespace Bandeja.Acts.Lists;

/// <summary>A value of a new recipient.</summary>
public sealed record NewCell(int ColumnId, string? Value = null);

/// <summary>Recipients to add, each with its values.</summary>
public sealed record AddedRecipients(long ListId, IReadOnlyList<IReadOnlyList<NewCell>> Rows);

/// <summary>Adds recipients by hand; answers their ids.</summary>
[Act("list.add", Permission.Lists, "Added recipients")]
public sealed class AddRecipients(ListEditor editor, ListStore lists) : Act<AddedRecipients, IReadOnlyList<long>>
{
    const int Most = 100_000;

    /// <inheritdoc/>
    protected internal override IReadOnlyList<long> Do(AddedRecipients order, Deed deed)
    {
        if (order.Rows.Count is 0 or > Most)
            throw new BadInputException($"Add 1 to {Most:N0} recipients at once.");
        var typed = new TypedCells(lists.Columns(order.ListId), editor.Surroundings.Locale, isLenient: true);
        deed.Says($"Added {Given.Recipients(order.Rows.Count)}");
        deed.ChangedList(order.ListId);
        return editor.AddRecipients(
            order.ListId,
            [
                .. order.Rows.Select(row =>
                    (IReadOnlyDictionary<int, string?>)row.ToDictionary(c => c.ColumnId, c => typed.Read(c.ColumnId, c.Value))
                ),
            ],
            deed.Actor
        );
    }
}
