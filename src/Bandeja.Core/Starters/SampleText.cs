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

    /// <summary>What boxes of envelopes begin with in the editor (<c>surface.ts</c>).</summary>
    internal static readonly IReadOnlyList<string> OfBoxes =
    [
        Street,
        Place(american: true),
        Place(american: false),
        "Your city and state",
        "Permit no.",
        "Your teaser line",
    ];

    // What they began with before; users' designs may still have it.
    static readonly IReadOnlyList<string> Former = ["City, region, postal code", "City and region", "Inside: what grew this year"];

    /// <summary>All of it.</summary>
    public static IReadOnlySet<string> All { get; } = OfBoxes.Concat(Former).Append(Organization).Append(Signer).ToFrozenSet();

    static bool IsIn(string sample, string text)
    {
        for (var at = text.IndexOf(sample, StringComparison.Ordinal); at >= 0; at = text.IndexOf(sample, at + 1, StringComparison.Ordinal))
            if (IsEdge(text[..at].TrimEnd(), ^1) && IsEdge(text[(at + sample.Length)..].TrimStart(), 0))
                return true;
        return false;
    }

    static bool IsEdge(string beside, Index next) => beside.Length == 0 || beside[next] is ',' or '·' or '|' or '•';

    internal static string Place(bool american) => american ? "Your city, state, and ZIP Code" : "Your postal code and city";

    // A design is bound once and composed for thousands.
    static readonly ConditionalWeakTable<IBoundDesign, IReadOnlyList<string>> Known = [];

    /// <summary>What a design still has of it, each text once; only where it stands alone or in a row, as the lines of an address do, not
    /// within a sentence.</summary>
    public static IReadOnlyList<string> In(IBoundDesign design) =>
        Known.GetValue(design, d => [.. d.Texts().SelectMany(t => All.Where(s => IsIn(s, t))).Distinct()]);
}
