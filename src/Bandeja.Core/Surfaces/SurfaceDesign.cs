using Bandeja.Core.Composition;

namespace Bandeja.Core.Surfaces;

/// <summary>What a box is for; what is said of it and where it may stand follows from that. The names are stored, in small
/// letters.</summary>
public enum BoxUse
{
    Text,
    Delivery,
    Return,
    Indicia,
    Teaser,
    Endorsement,
    Number,
    Picture,
    Barcode,
}

/// <summary>A line around a box.</summary>
/// <param name="Thickness">Points; 0 for none.</param>
/// <param name="Radius">Of the corners, points.</param>
public sealed record BoxFrame(double Thickness, string Color, double Radius);

/// <summary>A box on an envelope or a label.</summary>
/// <param name="Id">Identity within the design.</param>
/// <param name="Place">Where it stands.</param>
/// <param name="Blocks">What is in it, as in a letter.</param>
/// <param name="Align">Where the content stands between its upper and lower edge.</param>
/// <param name="Padding">From the edge to the content, points.</param>
/// <param name="Smallest">How far its text may shrink to fit: a share of its size, 1 for not at all.</param>
/// <param name="Shade">RRGGBB or null.</param>
public sealed record SurfaceBox(
    string Id,
    BoxUse Use,
    Area Place,
    IReadOnlyList<Block> Blocks,
    CellAlign Align,
    double Padding,
    double Smallest,
    BoxFrame? Frame,
    string? Shade
)
{
    /// <summary>What it is called in a sentence.</summary>
    public string Name =>
        Use switch
        {
            BoxUse.Delivery => "the delivery address",
            BoxUse.Return => "the return address",
            BoxUse.Indicia => "the indicia",
            BoxUse.Teaser => "the teaser",
            BoxUse.Endorsement => "the endorsement",
            BoxUse.Number => "the piece number",
            BoxUse.Picture => "a picture",
            BoxUse.Barcode => "a barcode",
            _ => "a text",
        };
}

/// <summary>How a letter is folded for its envelope.</summary>
public enum LetterFold
{
    Flat,
    Half,
    Thirds,
}

/// <summary>An envelope's window, and how the letter lies behind it.</summary>
/// <param name="Place">The opening.</param>
/// <param name="Fold">The letter's first panel, the top one, looks out.</param>
/// <param name="Shift">How far the letter may slip to every side, points.</param>
public sealed record EnvelopeWindow(Area Place, LetterFold Fold, double Shift);

/// <summary>How labels are put on their sheets.</summary>
/// <param name="ByColumns">Down first, then across.</param>
/// <param name="Copies">How many of each.</param>
/// <param name="CopiesSource">An expression for the number of copies, instead; null for the same number for everyone.</param>
/// <param name="GroupSource">An expression: where its value changes, one label stays blank; null for none.</param>
public sealed record LabelSetup(LabelStock Stock, bool ByColumns, int Copies, string? CopiesSource, string? GroupSource);

/// <summary>A design that is not a flowing letter: an envelope, or one label of a sheet.</summary>
/// <param name="Zones">Whose post's clear zones hold, ISO 3166-1; null for none.</param>
public sealed record SurfaceDesign(
    PieceKind Kind,
    double Width,
    double Height,
    IReadOnlyList<SurfaceBox> Boxes,
    string? Zones,
    EnvelopeWindow? Window,
    LabelSetup? Labels
);
