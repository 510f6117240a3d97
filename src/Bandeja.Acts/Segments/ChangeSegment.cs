using Bandeja.Store.Lists;

namespace Bandeja.Acts.Segments;

/// <summary>A segment's new name and filter.</summary>
/// <param name="Revision">The state that the change is based on.</param>
public sealed record ChangedSegment(long SegmentId, long Revision, string Name, string Filter = "", string Sorts = "");

/// <summary>Changes a segment's name or filter; its drops follow.</summary>
[Act("segment.change", Permission.Lists, "Changed a segment")]
public sealed class ChangeSegment(SegmentStore segments, SegmentFilters filters) : Act<ChangedSegment>
{
    /// <inheritdoc/>
    protected override void Carry(ChangedSegment order, Deed deed)
    {
        var list = segments.Get(order.SegmentId).ListId;
        var name = SegmentFilters.Name(order.Name);
        segments.Change(order.SegmentId, order.Revision, name, filters.Checked(list, order.Filter), order.Sorts);
        deed.Says($"Changed the segment “{name}”");
        filters.Changed(list, order.SegmentId, deed);
    }
}
