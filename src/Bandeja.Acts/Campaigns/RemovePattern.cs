using Bandeja.Store.Sequences;

namespace Bandeja.Acts.Campaigns;

/// <summary>A pattern.</summary>
public sealed record PatternToRemove(long PatternId);

/// <summary>Removes a pattern.</summary>
[Act("pattern.remove", Permission.Drops, "Removed a pattern")]
public sealed class RemovePattern(Patterns patterns) : Act<PatternToRemove>
{
    /// <inheritdoc/>
    protected override void Carry(PatternToRemove order, Deed deed) => patterns.Remove(order.PatternId);
}
