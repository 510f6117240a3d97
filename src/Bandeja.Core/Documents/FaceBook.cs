namespace Bandeja.Core.Documents;

/// <summary>A typeface that the organization has added.</summary>
/// <param name="LineHeight">Height of a single line as a multiple of the type size.</param>
public sealed record OwnFace(string Family, double LineHeight);

/// <summary>Which face prints a typeface that a document names: what somebody chose for it, the organization's own faces, those that ship,
/// then the table of faces.</summary>
/// <param name="Replacements">What somebody chose, by the name in documents.</param>
public sealed record FaceBook(IReadOnlyList<OwnFace> Own, IReadOnlyDictionary<string, string> Replacements)
{
    /// <summary>With what ships alone.</summary>
    public static readonly FaceBook Shipped = new([], new Dictionary<string, string>());

    /// <summary>The face that prints a typeface.</summary>
    public FaceUse Of(string named)
    {
        var name = named.Trim();
        var chosen = Replacements.FirstOrDefault(r => r.Key.Equals(name, StringComparison.OrdinalIgnoreCase)).Value;
        if (chosen is not null && Known(chosen) is { } printed)
            return new(name, printed, FaceTable.Of(name) is { SameWidths: true } usual && usual.Printed == printed);
        return Own.FirstOrDefault(f => f.Family.Equals(name, StringComparison.OrdinalIgnoreCase)) is { } own
            ? new(name, own.Family, true)
            : FaceTable.Of(name);
    }

    string? Known(string face) =>
        Own.FirstOrDefault(f => f.Family.Equals(face, StringComparison.OrdinalIgnoreCase))?.Family
        ?? (FaceTable.Ships(face) ? FaceTable.Of(face).Printed : null);

    /// <summary>The height of a face's lines as a multiple of the type size, where a document says “single”.</summary>
    public double LineHeight(string face) =>
        Own.FirstOrDefault(f => f.Family.Equals(face, StringComparison.OrdinalIgnoreCase))?.LineHeight ?? FaceTable.LineHeight(face);
}
