using Bandeja.Store.Designs;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Designs;

/// <summary>What a name of detail rows in a design stands for in a list.</summary>
/// <param name="Field">A field within the rows; null for the rows themselves.</param>
/// <param name="Target">The list's detail rows, or a column of them; null to forget it.</param>
public sealed record RowsMatch(long DesignId, long ListId, string Name, string? Field = null, string? Target = null);

/// <summary>Says which detail rows of a list, or which of their columns, a name of a design stands for; it is remembered for the
/// two.</summary>
[Act("design.match-rows", Permission.Designs, "Matched detail rows")]
public sealed class MatchRows(DesignStore designs) : Act<RowsMatch>
{
    /// <inheritdoc/>
    protected override void Carry(RowsMatch order, Deed deed)
    {
        designs.Get(order.DesignId);
        designs.MatchRows(order.DesignId, order.ListId, order.Name, order.Field, order.Target);
        deed.Changed(Matter.Design, order.DesignId);
    }
}
