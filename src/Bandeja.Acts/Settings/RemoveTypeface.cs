using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Settings;

/// <summary>A typeface to remove.</summary>
public sealed record RemovedTypeface(long TypefaceId);

/// <summary>Removes a typeface that no design names.</summary>
[Act("typeface.remove", Permission.Settings, "Removed a font")]
public sealed class RemoveTypeface(Typefaces typefaces) : Act<RemovedTypeface>
{
    /// <inheritdoc/>
    protected override void Carry(RemovedTypeface order, Deed deed)
    {
        var removed = typefaces.Remove(order.TypefaceId);
        deed.Says($"Removed the font {removed.Family} {removed.Style}");
        deed.Changed(Matter.Settings);
    }
}
