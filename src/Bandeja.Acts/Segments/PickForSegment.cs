using Bandeja.Store.Lists;

namespace Bandeja.Acts.Segments;

/// <summary>Recipients to add to a segment (true), to exclude from it (false), or to leave to its filter (null).</summary>
public sealed record PickedForSegment(long SegmentId, IReadOnlyList<long> Recipients, bool? IsIn = null);

/// <summary>Adds single recipients to a segment or excludes them, on top of its filter.</summary>
[Act("segment.pick", Permission.Lists, "Added recipients to a segment, or excluded them")]
public sealed class PickForSegment(SegmentStore segments, SegmentFilters filters) : Act<PickedForSegment>
{
    /// <inheritdoc/>
    protected override void Carry(PickedForSegment order, Deed deed)
    {
        segments.Tick(order.SegmentId, order.Recipients, order.IsIn);
        filters.Changed(segments.Get(order.SegmentId).ListId, order.SegmentId, deed);
    }
}
