using Bandeja.Store.Lists;

namespace Bandeja.Acts.Segments;

/// <summary>A segment to save.</summary>
public sealed record SavedSegment(long ListId, string Name, string Filter = "", string Sorts = "");

/// <summary>Saves a filter as a new segment; answers its id.</summary>
[Act("segment.save", Permission.Lists, "Saved a segment")]
public sealed class SaveSegment(SegmentStore segments, SegmentFilters filters) : Act<SavedSegment, long>
{
    /// <inheritdoc/>
    protected internal override long Do(SavedSegment order, Deed deed)
    {
        var name = SegmentFilters.Name(order.Name);
        var id = segments.Add(order.ListId, name, filters.Checked(order.ListId, order.Filter), order.Sorts, deed.Actor);
        deed.Says($"Saved the segment “{name}”");
        filters.Changed(order.ListId, id, deed);
        return id;
    }
}
