using Bandeja.Store.Designs;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Designs;

/// <summary>What a name of a design stands for in a list; null for nothing.</summary>
public sealed record FieldMatch(long DesignId, long ListId, string Name, int? ColumnId);

/// <summary>Says which column of a list a name of a design stands for; it is remembered for the two.</summary>
[Act("design.match", Permission.Designs, "Matched a field with a column")]
public sealed class MatchField(DesignStore designs) : Act<FieldMatch>
{
    /// <inheritdoc/>
    protected override void Carry(FieldMatch order, Deed deed)
    {
        designs.Get(order.DesignId);
        designs.Match(order.DesignId, order.ListId, order.Name, order.ColumnId, "hand");
        deed.Changed(Matter.Design, order.DesignId);
    }
}
