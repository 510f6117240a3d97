using System.Text.Json;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Designs;

/// <summary>What to change about a design; null leaves a thing as it is.</summary>
public sealed record DesignChange(
    string? Name = null,
    long? ListId = null,
    string? Description = null,
    IReadOnlyList<string>? Tags = null,
    bool? Archived = null
);

/// <summary>What to change about which design.</summary>
public sealed record ChangeOfDesign(long DesignId, DesignChange Change);

/// <summary>Changes a design's name, list, description, or tags, or archives it. With another list its fields are matched by heading and
/// role; answers how many of its names are still open then.</summary>
[Act("design.change", Permission.Designs, "Changed a design's name, list, or description")]
public sealed class ChangeDesign(DesignStore designs, LetterBench bench) : Act<ChangeOfDesign, int>
{
    const int LongestDescription = 1000;

    /// <inheritdoc/>
    protected internal override int Do(ChangeOfDesign order, Deed deed)
    {
        var (id, change) = (order.DesignId, order.Change);
        var before = designs.Get(id);
        var tags = DesignGiven.Tags(change.Tags);
        if (change.Description?.Length > LongestDescription)
            throw new BadInputException($"A description can have {LongestDescription:N0} characters.");
        designs.Change(
            id,
            change.Name is null ? null : DesignGiven.Name(change.Name),
            change.ListId,
            change.Description?.Trim(),
            tags is null ? null : JsonSerializer.Serialize(tags),
            change.Archived
        );
        deed.Changed(Matter.DesignCard, id);
        return change.ListId is { } list && list != before.ListId
            ? bench.MatchByRole(designs.Newest(id).DocumentJson, id, before.ListId, list, designs)
            : 0;
    }
}
