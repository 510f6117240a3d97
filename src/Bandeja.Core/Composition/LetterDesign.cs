namespace Bandeja.Core.Composition;

/// <summary>Where the lines of a paragraph stand between the margins.</summary>
public enum TextAlign { Left, Center, Right, Justify }

/// <summary>The sheet and its margins, in points (1/72 inch).</summary>
public sealed record PageSetup(double Width, double Height, double Top, double Right, double Bottom, double Left)
{
    /// <summary>Width between the margins.</summary>
    public double TextWidth => Width - Left - Right;
    /// <summary>Height between the margins.</summary>
    public double TextHeight => Height - Top - Bottom;
}

/// <summary>How a piece of text looks. Size in points; colour as RRGGBB.</summary>
public sealed record TextStyle(string Family, double Size, bool Bold = false, bool Italic = false, bool Underline = false, string Color = "1b1b1b");

/// <summary>A part of a paragraph.</summary>
public abstract record Inline(TextStyle Style);
/// <summary>Typed text. It may hold fields in braces, as texts brought from elsewhere do.</summary>
public sealed record TextInline(string Text, TextStyle Style) : Inline(Style);
/// <summary>A field: what stands between the braces.</summary>
public sealed record FieldInline(string Source, TextStyle Style) : Inline(Style);
/// <summary>The end of a line within a paragraph.</summary>
public sealed record LineBreakInline(TextStyle Style) : Inline(Style);

/// <summary>A paragraph or a picture.</summary>
public abstract record Block(TextAlign Align);
/// <summary>A paragraph. <paramref name="LineSpacing"/> is a multiple of the type size; <paramref name="SpaceAfter"/> in points.</summary>
public sealed record Paragraph(TextAlign Align, IReadOnlyList<Inline> Inlines, TextStyle BaseStyle, double LineSpacing, double SpaceAfter) : Block(Align);
/// <summary>A picture on a line of its own, in points.</summary>
public sealed record Picture(TextAlign Align, string Asset, double Width, double Height, double SpaceAfter) : Block(Align);

/// <summary>A letter as it is written, before it meets a list.</summary>
/// <param name="Page">The sheet.</param>
/// <param name="Blocks">What stands on it, from the top.</param>
/// <param name="MaxPages">The number of pages it must keep to; null for any number.</param>
public sealed record LetterDesign(PageSetup Page, IReadOnlyList<Block> Blocks, int? MaxPages);
