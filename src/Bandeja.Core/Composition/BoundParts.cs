using Bandeja.Core.Language;

namespace Bandeja.Core.Composition;

/// <summary>Where blocks stand: how far they are set in, how wide they may be, what they are a part of.</summary>
/// <param name="Left">From the left edge of the text, points.</param>
/// <param name="Bars">Places of the bars beside quotes.</param>
/// <param name="Body">True for the text of the pages themselves: only there what is the same for everyone is shared.</param>
sealed record BlockFrame(double Left, double Width, IReadOnlyList<double> Bars, Element? Parent, bool Body, string Place)
{
    public BlockFrame In(double left, double right = 0, double? bar = null, Element? parent = null) =>
        this with
        {
            Left = Left + left,
            Width = Math.Max(20, Width - left - right),
            Bars = bar is { } b ? [.. Bars, Left + b] : Bars,
            Parent = parent ?? Parent,
        };
}

/// <summary>A block with its fields parsed.</summary>
/// <param name="Place">Where it stands, for issues.</param>
abstract record BoundBlock(BlockFrame Frame, string Place)
{
    /// <summary>Set where the block is the same for everyone.</summary>
    public IReadOnlyList<Flow>? Fixed { get; set; }

    /// <summary>What laying out the same for everyone found.</summary>
    public LayoutNotes? Notes { get; set; }

    /// <summary>True where what is in it depends on the recipient.</summary>
    public abstract bool Varies { get; }

    protected static bool Vary(IEnumerable<TemplatePart> parts) =>
        parts.Any(p =>
            p is not PlainPart plain
            || plain.Thing is BoundBlock { Varies: true }
            || plain.Thing is BoundRow { Varies: true }
            || plain.Thing is BoundItem { Varies: true }
            || plain.Thing is BoundPictureInline { Varies: true }
            || plain.Thing is LinkedStyle or BoundNote
        );
}

sealed record BoundParagraph(Paragraph Paragraph, IReadOnlyList<TemplatePart> Parts, BlockFrame Frame, string Place)
    : BoundBlock(Frame, Place)
{
    public override bool Varies { get; } = Vary(Parts);
}

sealed record BoundPicture(Picture Picture, Expression? Source, Template? Link, BlockFrame Frame, string Place) : BoundBlock(Frame, Place)
{
    public override bool Varies => Source is not null || Link?.Parts.Any(p => p is not PlainPart) == true;
}

sealed record BoundBarcode(Barcode Barcode, Expression? Source, string? Mistake, BlockFrame Frame, string Place) : BoundBlock(Frame, Place)
{
    public override bool Varies => true;
}

/// <summary>A picture within a line.</summary>
sealed record BoundPictureInline(PictureBox Box, Expression? Source)
{
    public bool Varies => Source is not null;
}

/// <summary>A style whose link holds fields.</summary>
sealed record LinkedStyle(TextStyle Style, Template Link);

sealed record BoundRule(Rule Rule, BlockFrame Frame, string Place) : BoundBlock(Frame, Place)
{
    public override bool Varies => false;
}

/// <param name="Page">The sheet from here on; null for that of the pages before.</param>
sealed record BoundBreak(BlockFrame Frame, PageSetup? Page = null) : BoundBlock(Frame, "")
{
    public override bool Varies => false;
}

sealed record BoundItem(IReadOnlyList<TemplatePart> Parts)
{
    public bool Varies => Parts.Any(p => p is not PlainPart { Thing: BoundBlock { Varies: false } });
}

sealed record BoundList(ItemList List, IReadOnlyList<TemplatePart> Items, BlockFrame Frame, string Place) : BoundBlock(Frame, Place)
{
    /// <summary>True where its labels have the numbers of the lists around it.</summary>
    public bool NeedsOuter { get; init; }

    public override bool Varies { get; } = Vary(Items);
}

sealed record BoundQuote(IReadOnlyList<TemplatePart> Parts, BlockFrame Frame, string Place) : BoundBlock(Frame, Place)
{
    public override bool Varies { get; } = Vary(Parts);
}

/// <summary>A box with text in it.</summary>
sealed record BoundBox(Box Box, IReadOnlyList<TemplatePart> Parts, BlockFrame Frame, string Place) : BoundBlock(Frame, Place)
{
    public override bool Varies { get; } = Vary(Parts);
}

/// <summary>Text in columns of a width in points.</summary>
sealed record BoundColumns(Columns Columns, IReadOnlyList<TemplatePart> Parts, double Width, BlockFrame Frame, string Place)
    : BoundBlock(Frame, Place)
{
    public override bool Varies { get; } = Vary(Parts);
}

/// <summary>A footnote. Its number depends on those before it, so that its paragraph is laid out for each recipient.</summary>
sealed record BoundNote(IReadOnlyList<TemplatePart> Parts, TextStyle Style);

sealed record BoundCell(TableCell Cell, IReadOnlyList<TemplatePart> Parts, Element Element);

sealed record BoundRow(TableRow Row, IReadOnlyList<(BoundCell Cell, int Column, int Span)> Cells)
{
    public bool Varies => Cells.SelectMany(c => c.Cell.Parts).Any(p => p is not PlainPart { Thing: BoundBlock { Varies: false } });

    /// <summary>The row's cells where they are the same for everyone.</summary>
    public (IReadOnlyList<(DraftCell, int, int)> Cells, LayoutNotes Notes)? Fixed { get; set; }
}

sealed record BoundTable(Table Table, IReadOnlyList<TemplatePart> Rows, double[] Widths, BlockFrame Frame, string Place)
    : BoundBlock(Frame, Place)
{
    public override bool Varies { get; } = Vary(Rows);
}
