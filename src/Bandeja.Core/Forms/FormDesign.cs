using Bandeja.Core.Composition;

namespace Bandeja.Core.Forms;

/// <summary>What a box that was placed on a form shows. The names are stored, in small letters.</summary>
public enum FormBoxUse
{
    /// <summary>Text.</summary>
    Text,

    /// <summary>One character in each of several cells.</summary>
    Cells,

    /// <summary>A mark when a condition holds.</summary>
    Mark,

    /// <summary>A picture that a value names.</summary>
    Picture,

    /// <summary>A barcode.</summary>
    Barcode,
}

/// <summary>A box that was placed on a form.</summary>
/// <param name="Page">From 1; 0 for every page.</param>
/// <param name="Value">Text with fields; for a mark a condition, for a picture or barcode an expression. A picture's may be empty where
/// <paramref name="Asset"/> is the same for everyone.</param>
/// <param name="Wraps">Text goes on in further lines.</param>
/// <param name="Smallest">How far text may shrink to fit, points; its own size for not at all.</param>
/// <param name="Cells">For cells: how many there are.</param>
public sealed record FormBox(
    string Id,
    int Page,
    FormBoxUse Use,
    Area Place,
    string Value,
    FormText Text,
    CellAlign Vertical,
    bool Wraps,
    double Smallest,
    int Cells,
    MarkShape Mark,
    Barcodes.Symbology Symbology,
    string? Asset
)
{
    /// <summary>What it is called in a sentence.</summary>
    public string Name =>
        Use switch
        {
            FormBoxUse.Cells => "the cells",
            FormBoxUse.Mark => "a mark",
            FormBoxUse.Picture => "a picture",
            FormBoxUse.Barcode => "a barcode",
            _ => "a text",
        };
}

/// <summary>A PDF that is filled in for every recipient.</summary>
/// <param name="Asset">The file's id.</param>
/// <param name="File">What it was called.</param>
/// <param name="Answers">By the name of a field, text with fields that fills it in; empty text leaves it empty, and a field without an
/// answer keeps what the file has.</param>
/// <param name="Own">The name, with fields, of a document that is kept with each recipient and goes in place of the file; null for the
/// file.</param>
/// <param name="When">A condition for whom it goes into the package; null for everyone.</param>
public sealed record FormDesign(
    string Asset,
    string File,
    FormFacts Facts,
    IReadOnlyDictionary<string, string> Answers,
    IReadOnlyList<FormBox> Boxes,
    FormOutput Output,
    string? When = null,
    string? Own = null
);
