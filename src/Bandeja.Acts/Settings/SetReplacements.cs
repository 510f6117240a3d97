using Bandeja.Store.Designs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Settings;

/// <summary>What prints typefaces that documents name.</summary>
public sealed record TypefaceReplacements(IReadOnlyList<TypefaceReplacement> Replacements);

/// <summary>Sets what prints typefaces that documents name.</summary>
[Act("typeface.replacements", Permission.Settings, "Changed the font replacements")]
public sealed class SetReplacements(Typefaces typefaces) : Act<TypefaceReplacements>
{
    /// <inheritdoc/>
    protected override void Carry(TypefaceReplacements order, Deed deed)
    {
        typefaces.SetReplacements(order.Replacements);
        deed.Changed(Matter.Settings);
    }
}
