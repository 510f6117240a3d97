namespace Bandeja.Core.Returns;

/// <summary>What stands on a piece and tells which it is: its number, or what one of its barcodes says.</summary>
/// <param name="Number">The piece number; null where it is a code.</param>
/// <param name="Code">What the barcode says, as <see cref="Stored"/> has it; null where it is a number.</param>
public sealed record PieceCode(long? Number, string? Code)
{
    const int LongestNumber = 7,
        LongestCode = 2_000;

    /// <summary>The digits of an Intelligent Mail barcode that tell the piece, without the routing code (USPS-B-3200, 2.2.3).</summary>
    const int TrackingDigits = 20,
        MostDigits = 31;

    /// <summary>Reads what was typed, pasted, or scanned; null where it can be no piece's. Scanners end with a line break, and some begin
    /// with a sign for the kind of code.</summary>
    public static PieceCode? Read(string? typed)
    {
        var text = (typed ?? "").Trim();
        if (text.Length is 0 or > LongestCode)
            return null;
        var digits = text.StartsWith('#') ? text[1..].Trim() : text;
        return digits.Length is > 0 and <= LongestNumber && digits.All(char.IsAsciiDigit) && long.Parse(digits) is > 0 and var number
            ? new(number, null)
            : new(null, Stored(text));
    }

    /// <summary>A barcode's content by which it is found again: of an Intelligent Mail barcode the tracking code, because sorting machines
    /// may add the routing code; of any other all.</summary>
    public static string Stored(string content)
    {
        var plain = content.Trim();
        var digits = plain.Replace(" ", "").Replace("-", "");
        return digits.Length is >= TrackingDigits and <= MostDigits && digits.All(char.IsAsciiDigit) ? digits[..TrackingDigits] : plain;
    }
}
