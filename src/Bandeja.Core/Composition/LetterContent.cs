using Bandeja.Core.Barcodes;

namespace Bandeja.Core.Composition;

/// <summary>What a part of a line is.</summary>
public enum ContentKind
{
    Text,
    LineBreak,
    Picture,

    /// <summary>The number of the page, which is known where the pages are.</summary>
    PageNumber,

    /// <summary>How many pages the letter has.</summary>
    PageCount,

    /// <summary>A footnote.</summary>
    Note,
}

/// <summary>A part of a line, with the recipient's values in it.</summary>
/// <param name="Picture">For a picture.</param>
/// <param name="Note">For a footnote, what it says.</param>
public sealed record ContentInline(
    ContentKind Kind,
    string Text,
    TextStyle Style,
    ContentPicture? Picture = null,
    IReadOnlyList<ContentBlock>? Note = null
);

/// <summary>A picture at its size in points. Either an asset or a barcode.</summary>
/// <param name="Place">A place of the page, points from its left and top edges; null in the text.</param>
public sealed record ContentPicture(
    string? Asset,
    Symbol? Symbol,
    double Width,
    double Height,
    string Alt,
    TextAlign Align = TextAlign.Left,
    double SpaceAfter = 0,
    (double X, double Y)? Place = null,
    Side? Beside = null,
    double Gap = Picture.UsualGap
);

/// <summary>A part of a letter with the recipient's values in it: what a file that is to be edited holds.</summary>
public abstract record ContentBlock;

/// <summary>A paragraph.</summary>
public sealed record ContentParagraph(ParagraphStyle Style, TextStyle BaseStyle, IReadOnlyList<ContentInline> Inlines) : ContentBlock;

/// <summary>A picture on a line of its own, or at a place of the page.</summary>
public sealed record ContentPictureBlock(ContentPicture Picture) : ContentBlock;

/// <summary>A line across the text.</summary>
public sealed record ContentRule(Rule Rule) : ContentBlock;

/// <summary>What follows begins a page.</summary>
/// <param name="Page">The sheet from here on; null for that of the pages before.</param>
public sealed record ContentBreak(PageSetup? Page = null) : ContentBlock;

/// <summary>Paragraphs set in.</summary>
public sealed record ContentQuote(IReadOnlyList<ContentBlock> Blocks) : ContentBlock;

/// <summary>A box with its text.</summary>
public sealed record ContentBox(Box Box, IReadOnlyList<ContentBlock> Blocks) : ContentBlock;

/// <summary>Text in columns.</summary>
public sealed record ContentColumns(Columns Columns, IReadOnlyList<ContentBlock> Blocks) : ContentBlock;

/// <summary>The items of a list, those left out that came to nothing.</summary>
public sealed record ContentList(ItemList List, IReadOnlyList<IReadOnlyList<ContentBlock>> Items) : ContentBlock;

/// <summary>The rows of a table. Widths in points.</summary>
public sealed record ContentTable(Table Table, IReadOnlyList<double> Widths, IReadOnlyList<ContentRow> Rows) : ContentBlock;

/// <summary>A row of a table.</summary>
public sealed record ContentRow(bool IsHeading, IReadOnlyList<(TableCell Cell, IReadOnlyList<ContentBlock> Blocks)> Cells);

/// <summary>One recipient's letter before it is laid out: paragraphs, lists, tables, and pictures, with the values in them.</summary>
/// <param name="FirstHeader">For the first page where it differs; null where it does not.</param>
/// <param name="Watermark">What stands across the page; null for nothing.</param>
public sealed record LetterContent(
    LetterDesign Design,
    IReadOnlyList<ContentBlock> Body,
    IReadOnlyList<ContentBlock> Header,
    IReadOnlyList<ContentBlock> Footer,
    IReadOnlyList<ContentBlock>? FirstHeader,
    IReadOnlyList<ContentBlock>? FirstFooter,
    string? Watermark
)
{
    /// <summary>For pages with even numbers where they differ; null where they do not.</summary>
    public IReadOnlyList<ContentBlock>? EvenHeader { get; init; }

    /// <summary>For pages with even numbers where they differ; null where they do not.</summary>
    public IReadOnlyList<ContentBlock>? EvenFooter { get; init; }

    /// <summary>True where it is left out of the package for this recipient, because it would print nothing.</summary>
    public bool Omitted { get; init; }
}
