using System.Text;

namespace Bandeja.Core.Composition;

/// <summary>What is wrong with a picture of a letter.</summary>
public enum PictureIssue
{
    Missing,
    Coarse,
    Heavy,
}

/// <summary>A picture that is missing or has too few pixels for its size.</summary>
/// <param name="Subject">The column or expression that names it; the picture's own name where it is the same for everyone.</param>
/// <param name="Detail">The name that was looked for, the pixels to the inch, or the megabytes that it adds to every piece.</param>
public sealed record PictureNote(PictureIssue Issue, string Subject, string Detail, string Place);

/// <summary>What is wrong with what is filled into a form.</summary>
public enum FormIssue
{
    /// <summary>It must be filled in, and is blank.</summary>
    Required,

    /// <summary>It has more characters than there is room for.</summary>
    TooLong,

    /// <summary>It is none of the values that are offered.</summary>
    NotOffered,
}

/// <summary>Something wrong with what is filled into a form.</summary>
/// <param name="Field">What the field is called, or where the box is.</param>
/// <param name="Detail">The value, or how many characters of how many.</param>
/// <param name="Column">The column in which it is mended; null where that is not one.</param>
public sealed record FormNote(FormIssue Issue, string Field, string Detail, string? Column = null);

/// <summary>What laying out found wrong, and where. Most pieces have nothing, so a list is there only once something is put in
/// it.</summary>
public sealed class LayoutNotes
{
    List<Rune>? missingGlyphs;
    List<(string, string)>? tooWide,
        inZones,
        postal,
        barcodes;
    List<PictureNote>? pictures;
    List<FormNote>? form;
    List<string>? tooLarge,
        longLines,
        overfull;

    /// <summary>Characters that no shipped font has.</summary>
    public List<Rune> MissingGlyphs => missingGlyphs ??= [];

    /// <summary>Words that are wider than what they stand in and had to be cut, with the place.</summary>
    public List<(string Word, string Place)> TooWide => tooWide ??= [];

    /// <summary>Pictures that are missing or too coarse.</summary>
    public List<PictureNote> Pictures => pictures ??= [];

    /// <summary>What is wrong with what is filled into a form.</summary>
    public List<FormNote> Form => form ??= [];

    /// <summary>Things that are larger than the page has room for: a table, a header.</summary>
    public List<string> TooLarge => tooLarge ??= [];

    /// <summary>Lines of the delivery address that are too long for their block, also when abbreviated.</summary>
    public List<string> LongLines => longLines ??= [];

    /// <summary>Boxes whose content does not fit, also at its smallest size; a name for people.</summary>
    public List<string> Overfull => overfull ??= [];

    /// <summary>What stands where the post wants nothing: what, and the zone.</summary>
    public List<(string What, string Zone)> InZones => inZones ??= [];

    /// <summary>What the post or a printer does not take: what it is about, and a sentence.</summary>
    public List<(string What, string Sentence)> Postal => postal ??= [];

    /// <summary>Why barcodes could not be made or read: what tells it from others, in millimeters whatever the organization's unit
    /// is, and the sentence.</summary>
    public List<(string Detail, string Sentence)> Barcodes => barcodes ??= [];

    /// <summary>Notes why a barcode could not be made, in a sentence without measures.</summary>
    public void Barcode(string sentence) => Barcodes.Add((sentence, sentence));

    /// <summary>True where no condition of the letter is met and its fields are blank, so that a blank sheet would be printed.</summary>
    public bool NothingPrinted { get; set; }

    /// <summary>Where laying out stands, for instance “paragraph 4” or “the header”.</summary>
    public string Place { get; set; } = "";

    /// <summary>True where nothing was found.</summary>
    public bool IsEmpty =>
        !Any(missingGlyphs)
        && !Any(tooWide)
        && !Any(inZones)
        && !Any(postal)
        && !Any(pictures)
        && !Any(tooLarge)
        && !Any(longLines)
        && !Any(overfull)
        && !Any(barcodes)
        && !Any(form)
        && !NothingPrinted;

    /// <summary>True where the delivery address or a word does not fit its line.</summary>
    public bool IsTooNarrow => Any(longLines) || Any(tooWide);

    static bool Any<T>(List<T>? list) => list is { Count: > 0 };

    /// <summary>Takes over what was found elsewhere.</summary>
    public void Add(LayoutNotes other)
    {
        if (other.IsEmpty)
            return;
        if (other.missingGlyphs is not null)
            MissingGlyphs.AddRange(other.missingGlyphs);
        if (other.tooWide is not null)
            TooWide.AddRange(other.tooWide);
        if (other.pictures is not null)
            Pictures.AddRange(other.pictures);
        if (other.tooLarge is not null)
            TooLarge.AddRange(other.tooLarge);
        if (other.longLines is not null)
            LongLines.AddRange(other.longLines);
        if (other.overfull is not null)
            Overfull.AddRange(other.overfull);
        if (other.inZones is not null)
            InZones.AddRange(other.inZones);
        if (other.postal is not null)
            Postal.AddRange(other.postal);
        if (other.barcodes is not null)
            Barcodes.AddRange(other.barcodes);
        if (other.form is not null)
            Form.AddRange(other.form);
        NothingPrinted |= other.NothingPrinted;
    }
}
