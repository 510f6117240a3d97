namespace Bandeja.Core.Composition;

/// <summary>Where the lines of a paragraph stand between the margins.</summary>
public enum TextAlign
{
    Left,
    Center,
    Right,
    Justify,
}

/// <summary>The sheet and its margins, in points (1/72 inch).</summary>
public sealed record PageSetup(double Width, double Height, double Top, double Right, double Bottom, double Left)
{
    /// <summary>Width between the margins.</summary>
    public double TextWidth => Width - Left - Right;

    /// <summary>Height between the margins.</summary>
    public double TextHeight => Height - Top - Bottom;
}

/// <summary>Whether text stands on the line, above or below it.</summary>
public enum Script
{
    Normal,
    Superscript,
    Subscript,
}

/// <summary>How a piece of text looks. Size in points; color as RRGGBB; the link is an address that may hold fields.</summary>
public sealed record TextStyle(
    string Family,
    double Size,
    bool Bold = false,
    bool Italic = false,
    bool Underline = false,
    string Color = "000000",
    bool Strike = false,
    Script Script = Script.Normal,
    string? Link = null
)
{
    /// <summary>True for the lines of the delivery address: a window is held against them.</summary>
    public bool IsAddress { get; init; }

    /// <summary>For the number of a footnote: which one of its paragraph, counted from 1; 0 for all other text.</summary>
    public int Note { get; init; }
}

/// <summary>What stands at a tab stop: text that begins there, ends there, is centered on it, or has its decimal sign there.</summary>
public enum TabKind
{
    Left,
    Right,
    Center,
    Decimal,
}

/// <summary>What fills the way to a tab stop.</summary>
public enum TabLeader
{
    None,
    Dots,
    Dashes,
    Line,
}

/// <summary>A tab stop; <paramref name="At"/> in points from the left edge of the text.</summary>
public readonly record struct TabStop(double At, TabKind Kind, TabLeader Leader = TabLeader.None);

/// <summary>The sides of a paragraph on which a line is drawn.</summary>
[Flags]
public enum Sides
{
    None = 0,
    Top = 1,
    Right = 2,
    Bottom = 4,
    Left = 8,
}

/// <summary>Lines around a paragraph. Width in points; color as RRGGBB.</summary>
public sealed record ParagraphBorder(Sides Sides, double Width, string Color)
{
    /// <summary>From the text to the line, points.</summary>
    public const double Gap = 3;
}

/// <summary>How a paragraph is set. Line spacing is a multiple of the type size, everything else points.</summary>
/// <param name="Heading">1 to 3 for a heading, 0 for ordinary text.</param>
/// <param name="KeepWithNext">Never the last on a page while something follows it.</param>
/// <param name="Shade">The color behind it, RRGGBB; null for none.</param>
/// <param name="Named">What its style was called in the document that it came with; null where it had none of its own.</param>
/// <param name="Button">In an email: the color, RRGGBB, of the button that the paragraph's link is; null for ordinary text.</param>
public sealed record ParagraphStyle(
    TextAlign Align,
    double LineSpacing,
    double SpaceAfter,
    double SpaceBefore = 0,
    double Indent = 0,
    double IndentRight = 0,
    double FirstLine = 0,
    IReadOnlyList<TabStop>? Tabs = null,
    int Heading = 0,
    bool KeepWithNext = false,
    string? Shade = null,
    ParagraphBorder? Border = null,
    string? Named = null,
    string? Button = null
);

/// <summary>A part of a paragraph.</summary>
public abstract record Inline(TextStyle Style);

/// <summary>Typed text. It may hold fields and brackets in braces, as texts brought from elsewhere do; a tab character goes to the next tab
/// stop.</summary>
public sealed record TextInline(string Text, TextStyle Style) : Inline(Style);

/// <summary>A field, or a bracket of <c>when</c> and <c>each</c>: what stands between the braces.</summary>
public sealed record FieldInline(string Source, TextStyle Style) : Inline(Style);

/// <summary>The end of a line within a paragraph.</summary>
public sealed record LineBreakInline(TextStyle Style) : Inline(Style);

/// <summary>A picture that stands in the line like a letter.</summary>
public sealed record PictureInline(PictureBox Box, TextStyle Style) : Inline(Style);

/// <summary>A footnote: its number stands in the line, and what it says at the foot of the same page.</summary>
public sealed record NoteInline(IReadOnlyList<Block> Blocks, TextStyle Style) : Inline(Style);

/// <summary>Which picture, and how large, in points.</summary>
/// <param name="Asset">The picture's id; where <paramref name="Source"/> names none for a recipient, this one is taken.</param>
/// <param name="Source">An expression whose value is the name of a picture; null for the same picture for everyone.</param>
/// <param name="Alt">What it shows, for who cannot see it; empty for decoration.</param>
public sealed record PictureBox(string Asset, string? Source, double Width, double Height, string Alt);

/// <summary>A part of a letter.</summary>
public abstract record Block;

/// <summary>A paragraph.</summary>
public sealed record Paragraph(ParagraphStyle Style, IReadOnlyList<Inline> Inlines, TextStyle BaseStyle) : Block;

/// <summary>The side of the text at which something stands while the text runs around it.</summary>
public enum Side
{
    Left,
    Right,
}

/// <summary>A picture on a line of its own; with <paramref name="Place"/>, at a place of the page in points from its left and top edges;
/// with <paramref name="Beside"/>, at a side of the text that follows it.</summary>
/// <param name="Gap">From the picture to the text beside it, points.</param>
/// <param name="Link">In an email: where it leads, with fields in braces; null for nowhere.</param>
public sealed record Picture(
    TextAlign Align,
    PictureBox Box,
    double SpaceAfter,
    (double X, double Y)? Place = null,
    Side? Beside = null,
    double Gap = Picture.UsualGap,
    string? Link = null
) : Block
{
    /// <summary>From what stands beside text to the text, where nothing else is said; points.</summary>
    public const double UsualGap = 9;
}

/// <summary>Text in a box of its own: on a line of its own, at a place of the page, or at a side of the text that follows it. A box without
/// text is a shape.</summary>
/// <param name="Width">From edge to edge, points.</param>
/// <param name="Height">The least height, points; a box grows with its text.</param>
/// <param name="Padding">From its edges to its text, points.</param>
/// <param name="Gap">From the box to the text beside it, points.</param>
/// <param name="Shade">RRGGBB; null for none.</param>
/// <param name="Line">Width in points and color of the line around it; null for none.</param>
/// <param name="Place">Points from the left and top edges of the page; null in the text.</param>
public sealed record Box(
    TextAlign Align,
    double Width,
    double Height,
    double Padding,
    double Gap,
    string? Shade,
    (double Width, string Color)? Line,
    (double X, double Y)? Place,
    Side? Beside,
    double SpaceAfter,
    IReadOnlyList<Block> Blocks
) : Block;

/// <summary>Text in columns beside one another, each filled before the next; at their end they are as high as one another.</summary>
/// <param name="Gap">Between two columns, points.</param>
/// <param name="Line">True for a line between them.</param>
public sealed record Columns(int Count, double Gap, bool Line, double SpaceAfter, IReadOnlyList<Block> Blocks) : Block;

/// <summary>What an Intelligent Mail barcode says of the mailing (USPS-B-3200, section 2.1).</summary>
/// <param name="BarcodeId">Barcode identifier, two digits.</param>
/// <param name="Service">Service type identifier, three digits.</param>
/// <param name="Mailer">Mailer identifier, six or nine digits.</param>
public sealed record MailerCode(string BarcodeId, string Service, string Mailer);

/// <summary>A barcode on a line of its own, or at a place of the page in points from its left and top edges. The quiet zone is within its
/// measures.</summary>
/// <param name="Source">An expression whose value is encoded; empty for an Intelligent Mail barcode, whose content is the piece's
/// address.</param>
/// <param name="Mail">For an Intelligent Mail barcode.</param>
public sealed record Barcode(
    Barcodes.Symbology Symbology,
    string Source,
    MailerCode? Mail,
    double Width,
    double Height,
    TextAlign Align,
    double SpaceAfter,
    (double X, double Y)? Place = null
) : Block;

/// <summary>A line across the text.</summary>
public sealed record Rule(double Thickness, string Color, double SpaceAfter) : Block;

/// <summary>What follows begins a page.</summary>
/// <param name="Page">The sheet and margins of the pages from here on; null for those of the pages before. Within a condition, or what is
/// there for each detail row, it holds to its end, where the pages before go on. In columns, boxes, and cells it means nothing.</param>
public sealed record PageBreak(PageSetup? Page = null) : Block;

/// <summary>What stands beside the items of a list, and how far they are set in.</summary>
/// <param name="Style">How numbers are written (<see cref="ListNumber"/>).</param>
/// <param name="Label">What stands there, with <c>%1</c> to <c>%9</c> for the numbers of the lists around it, the outermost first, and of
/// its own; null for the number and a point.</param>
/// <param name="Indent">From the text around the list to that of its items, points.</param>
/// <param name="Hang">From the left edge of the label to the text, points; null for a label that ends before the text.</param>
public sealed record ListLook(string Style = "decimal", string? Label = null, string Bullet = "•", double Indent = 18, double? Hang = null)
{
    /// <summary>As lists are unless they say otherwise.</summary>
    public static readonly ListLook Usual = new();

    /// <summary>What stands beside an item.</summary>
    /// <param name="numbers">The numbers of the lists around the item as they are written, the outermost first, its own last; null for
    /// lists with bullets.</param>
    public string Written(bool numbered, IReadOnlyList<string?> numbers)
    {
        if (!numbered)
            return Bullet;
        if (Label is null)
            return $"{numbers[^1]}.";
        var text = Label;
        for (var i = 0; i < numbers.Count && i < 9; i++)
            text = text.Replace($"%{i + 1}", numbers[i] ?? "", StringComparison.Ordinal);
        return text;
    }

    /// <summary>True where what stands beside an item depends on the lists around it: their numbers, or only how many there are.</summary>
    /// <param name="depth">How many lists there are, this one included.</param>
    public bool NeedsOuter(int depth) => Label is not null && depth > 1;
}

/// <summary>Items with bullets or numbers; an item that comes out empty is left out and not counted.</summary>
public sealed record ItemList(bool Numbered, int Start, IReadOnlyList<IReadOnlyList<Block>> Items, TextStyle LabelStyle, ListLook Look)
    : Block;

/// <summary>Paragraphs set in, with a bar beside them.</summary>
public sealed record Quote(IReadOnlyList<Block> Blocks) : Block;

/// <summary>Paragraphs that are there only when a condition is met; the test of the last branch may be null for <c>otherwise</c>.</summary>
public sealed record WhenBlock(IReadOnlyList<(string? Test, IReadOnlyList<Block> Blocks)> Branches) : Block;

/// <summary>Paragraphs that are there once for each detail row.</summary>
public sealed record EachBlock(string Rows, IReadOnlyList<Block> Blocks) : Block;

/// <summary>Which lines of a table are drawn.</summary>
public enum TableLines
{
    None,
    Rows,
    Outside,
    All,
}

/// <summary>A table.</summary>
/// <param name="Columns">Widths in points; 0 for a share of what is left.</param>
/// <param name="Vanishes">Left out with its heading where no row but heading rows comes out.</param>
public sealed record Table(
    IReadOnlyList<double> Columns,
    IReadOnlyList<TableRow> Rows,
    TableLines Lines,
    string LineColor,
    double SpaceAfter,
    bool Vanishes
) : Block
{
    /// <summary>True where a cell has lines of its own.</summary>
    public bool HasOwnLines { get; } = Rows.Any(r => r.Cells.Any(c => c.Lines is not null));
}

/// <summary>A row of a table, kept, dropped or repeated whole.</summary>
/// <param name="Bracket">Its marker, for instance <c>each Gifts</c> or <c>when Amount &gt; 0</c>; null for none.</param>
public sealed record TableRow(IReadOnlyList<TableCell> Cells, string? Bracket)
{
    /// <summary>True where it is a heading, to be repeated on every page of the table.</summary>
    public bool IsHeading => Cells.Count > 0 && Cells.All(c => c.Heading);
}

/// <summary>Where a cell's content stands between its upper and lower edge.</summary>
public enum CellAlign
{
    Top,
    Middle,
    Bottom,
}

/// <summary>A cell. <paramref name="Shade"/> is RRGGBB or null.</summary>
public sealed record TableCell(IReadOnlyList<Block> Blocks, int ColumnSpan, int RowSpan, bool Heading, string? Shade, CellAlign Align)
{
    /// <summary>The lines around it; null where they are the table's.</summary>
    public CellLines? Lines { get; init; }
}

/// <summary>A line at a side of a cell. Width in points; color as RRGGBB.</summary>
public readonly record struct CellLine(double Width, string Color);

/// <summary>The lines around a cell; null for a side without one. Of two cells that share a side, either draws its line.</summary>
public sealed record CellLines(CellLine? Top, CellLine? Right, CellLine? Bottom, CellLine? Left);

/// <summary>A text across the whole page, behind what stands on it.</summary>
/// <param name="Text">May hold fields.</param>
/// <param name="Angle">Degrees, counted against the clock.</param>
/// <param name="Strength">0 to 1: how much of the color there is.</param>
public sealed record Watermark(string Text, double Angle, double Size, double Strength, string Color, string Family);

/// <summary>A picture or the page of a PDF that fills the sheet behind the text.</summary>
/// <param name="Follows">True where page 2 of a PDF is printed on the pages after the first; else its first page is, or nothing.</param>
public sealed record Background(string Asset, bool FirstPageOnly, bool Follows = false);

/// <summary>What stands above and below the text of each page.</summary>
/// <param name="FirstHeader">For the first page where it differs; null where it does not.</param>
/// <param name="EdgeDistance">From the edge of the sheet to the header and to the footer, points.</param>
public sealed record Letterhead(
    IReadOnlyList<Block> Header,
    IReadOnlyList<Block> Footer,
    IReadOnlyList<Block>? FirstHeader,
    IReadOnlyList<Block>? FirstFooter,
    double EdgeDistance,
    Background? Background,
    Watermark? Watermark
)
{
    /// <summary>For pages with even numbers where they differ; null where they do not.</summary>
    public IReadOnlyList<Block>? EvenHeader { get; init; }

    /// <summary>For pages with even numbers where they differ; null where they do not.</summary>
    public IReadOnlyList<Block>? EvenFooter { get; init; }

    /// <summary>Nothing.</summary>
    public static readonly Letterhead None = new([], [], null, null, 34, null, null);
}

/// <summary>A letter as it is written, before it meets a list.</summary>
/// <param name="Page">The sheet.</param>
/// <param name="Blocks">What stands on it, from the top.</param>
/// <param name="MaxPages">The number of pages it must keep to; null for any number.</param>
/// <param name="OmitWhenEmpty">True where the letter is left out of the package for a recipient for whom it would print nothing.</param>
public sealed record LetterDesign(PageSetup Page, IReadOnlyList<Block> Blocks, int? MaxPages, Letterhead Head, bool OmitWhenEmpty = false);
