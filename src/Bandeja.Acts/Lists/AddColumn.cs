using Bandeja.Core.Lists;
using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Lists;

/// <summary>A column to add.</summary>
/// <param name="Expression">What it is computed from; null for a column that is typed.</param>
/// <param name="Format">How the numbers of a column that is typed print where a field names no format.</param>
public sealed record AddedColumn(long ListId, string Name, ColumnType Type, Role Role, string? Expression = null, string? Format = null);

/// <summary>Adds a column, typed or computed; answers its id.</summary>
[Act("list.add-column", Permission.Lists, "Added a column")]
public sealed class AddColumn(ColumnStore columns, Computing computing) : Act<AddedColumn, int>
{
    /// <inheritdoc/>
    protected internal override int Do(AddedColumn order, Deed deed)
    {
        var expression = string.IsNullOrWhiteSpace(order.Expression) ? null : order.Expression.Trim();
        var id = columns.Add(order.ListId, order.Name.Trim(), order.Type, order.Role, expression, deed.Actor, order.Format);
        if (expression is not null)
            computing.All(order.ListId, deed.Actor);
        deed.Says($"Added the column “{order.Name.Trim()}”");
        deed.Changed(Matter.List, order.ListId);
        return id;
    }
}
