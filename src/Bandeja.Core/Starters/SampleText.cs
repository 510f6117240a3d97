using System.Collections.Frozen;
using System.Runtime.CompilerServices;
using Bandeja.Core.Composition;

namespace Bandeja.Core.Starters;

/// <summary>Text that a starter or a new box shows in the place of what only the organization knows. It must not be printed by
/// mistake.</summary>
public static class SampleText
{
    internal const string Organization = "Your organization",
        Signer = "Your name",
        Street = "Your street";

    /// <summary>All of it. The editor of envelopes begins boxes with the last ones (<c>surface.ts</c>).</summary>
    public static IReadOnlySet<string> All { get; } =
        new[]
        {
            Organization,
            Signer,
            Street,
            Place(american: true),
            Place(american: false),
            "Your city and state",
            "Permit no.",
            "Your teaser line",
        }.ToFrozenSet();

    internal static string Place(bool american) => american ? "Your city, state, and ZIP Code" : "Your postal code and city";

    // A design is bound once and composed for thousands.
    static readonly ConditionalWeakTable<IBoundDesign, IReadOnlyList<string>> Known = [];

    /// <summary>What a design still has of it, each text once; only where it stands alone, not within a sentence.</summary>
    public static IReadOnlyList<string> In(IBoundDesign design) =>
        Known.GetValue(design, d => [.. d.Texts().Select(t => t.Trim()).Where(All.Contains).Distinct()]);
}
