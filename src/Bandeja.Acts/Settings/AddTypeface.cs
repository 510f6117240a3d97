using Bandeja.Store.Designs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Settings;

/// <summary>A typeface file that arrived.</summary>
public sealed record ArrivedTypeface(string Name, byte[] Data);

/// <summary>Adds a typeface.</summary>
[Act("typeface.add", Permission.Settings, "Added a font")]
public sealed class AddTypeface(Typefaces typefaces, TimeProvider time) : Act<ArrivedTypeface, TypefaceRow>
{
    /// <inheritdoc/>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected internal override TypefaceRow Do(ArrivedTypeface order, Deed deed)
    {
        var added = typefaces.Add(
            Path.GetFileName(order.Name),
            order.Data,
            time.GetUtcNow().ToString("O", System.Globalization.CultureInfo.InvariantCulture),
            deed.Actor.Name,
            deed.Cancel
        );
        deed.Says($"Added the font {added.Family} {added.Style}");
        deed.Changed(Matter.Settings);
        return added;
    }
}
