namespace Bandeja.Core.Composition;

/// <summary>What sort of field stays fillable (ISO 32000-2, 12.7.5).</summary>
public enum FieldSort
{
    Text,
    Button,
    Choice,
}

/// <summary>A field as every file has it in which it can be filled in further. One object serves all recipients.</summary>
/// <param name="Name">Its full name, parts divided by periods.</param>
/// <param name="Flags">Those of the standard (12.7.4.1 and 12.7.5).</param>
/// <param name="Tooltip">What it is called for who cannot see it.</param>
/// <param name="Type">Size of its type in points, 0 for as large as fits, and color as RRGGBB.</param>
/// <param name="Align">0 left, 1 centered, 2 right.</param>
public sealed record FieldShape(
    string Name,
    FieldSort Sort,
    int Flags,
    int MaxLength,
    string Tooltip,
    (double Size, string Color) Type,
    int Align,
    IReadOnlyList<(string Value, string Label)>? Options
);

/// <summary>A field of a form that stays one where the file allows it; X, Y its top left corner.</summary>
/// <param name="Value">What it holds; for buttons the value of the one that is on.</param>
/// <param name="On">For a button: the value that stands for this one being on.</param>
/// <param name="IsOn">For a button: true where it is on.</param>
/// <param name="Turn">By how many degrees its content is turned against the clock: 0, 90, 180, or 270.</param>
/// <param name="Looks">What is drawn of it, with places relative to its corner.</param>
/// <param name="Marked">For a button: what is drawn over that when it is on.</param>
public sealed record FieldItem(
    double X,
    double Y,
    double Width,
    double Height,
    FieldShape Shape,
    string Value,
    string? On,
    bool IsOn,
    int Turn,
    IReadOnlyList<PageItem> Looks,
    IReadOnlyList<PageItem> Marked
) : PageItem(X, Y)
{
    /// <summary>What is seen of it.</summary>
    public IEnumerable<PageItem> Seen => IsOn ? Looks.Concat(Marked) : Looks;
}
