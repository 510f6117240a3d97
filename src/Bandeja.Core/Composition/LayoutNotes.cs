using System.Text;

namespace Bandeja.Core.Composition;

/// <summary>What is wrong with a picture of a letter.</summary>
public enum PictureDoubt { Missing, Coarse }

/// <summary>A picture that is missing or has too few pixels for its size.</summary>
/// <param name="Subject">The column or expression that names it; the picture's own name where it is the same for everyone.</param>
/// <param name="Detail">The name that was looked for, or the pixels to the inch.</param>
public sealed record PictureNote(PictureDoubt Doubt, string Subject, string Detail, string Place);

/// <summary>What laying out found wrong, and where.</summary>
public sealed class LayoutNotes
{
    /// <summary>Characters that no shipped font has.</summary>
    public List<Rune> MissingGlyphs { get; } = [];
    /// <summary>Words that are wider than what they stand in and had to be cut, with the place.</summary>
    public List<(string Word, string Place)> TooWide { get; } = [];
    /// <summary>Pictures that are missing or too coarse.</summary>
    public List<PictureNote> Pictures { get; } = [];
    /// <summary>Things that are larger than the page has room for: a table, a header.</summary>
    public List<string> TooLarge { get; } = [];

    /// <summary>Lines of the delivery address that are too long for their block, also when abbreviated.</summary>
    public List<string> LongLines { get; } = [];
    /// <summary>Boxes whose content does not fit, also at its smallest size; a name for people.</summary>
    public List<string> Overfull { get; } = [];
    /// <summary>What stands where the post wants nothing: what, and the zone.</summary>
    public List<(string What, string Zone)> InZones { get; } = [];
    /// <summary>Why barcodes could not be made or read.</summary>
    public List<string> Barcodes { get; } = [];

    /// <summary>Where laying out stands, for instance “paragraph 4” or “the header”.</summary>
    public string Place { get; set; } = "";

    /// <summary>True where nothing was found.</summary>
    public bool IsEmpty => MissingGlyphs.Count == 0 && TooWide.Count == 0 && Pictures.Count == 0 && TooLarge.Count == 0 && LongLines.Count == 0 && Overfull.Count == 0 && InZones.Count == 0 && Barcodes.Count == 0;

    /// <summary>Takes over what was found elsewhere.</summary>
    public void Add(LayoutNotes other)
    {
        MissingGlyphs.AddRange(other.MissingGlyphs);
        TooWide.AddRange(other.TooWide);
        Pictures.AddRange(other.Pictures);
        TooLarge.AddRange(other.TooLarge);
        LongLines.AddRange(other.LongLines);
        Overfull.AddRange(other.Overfull);
        InZones.AddRange(other.InZones);
        Barcodes.AddRange(other.Barcodes);
    }
}
