using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Segments;

/// <summary>A segment to remove.</summary>
public sealed record RemovedSegment(long SegmentId);

/// <summary>Removes a segment.</summary>
[Act("segment.remove", Permission.Lists, "Removed a segment")]
public sealed class RemoveSegment(SegmentStore segments) : Act<RemovedSegment>
{
    /// <inheritdoc/>
    protected override void Carry(RemovedSegment order, Deed deed)
    {
        var list = segments.Get(order.SegmentId).ListId;
        segments.Remove(order.SegmentId);
        deed.Changed(Matter.List, list);
    }
}
