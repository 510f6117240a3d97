using System.Text;

namespace Bandeja.Core.Places;

/// <summary>What is to be said of a postal code.</summary>
public enum PostalCodeState
{
    /// <summary>As its country writes it.</summary>
    Right,

    /// <summary>The right characters, with other spaces, hyphens or small letters.</summary>
    OtherForm,

    /// <summary>Too short by leading zeros.</summary>
    LostZero,

    /// <summary>Not a code of its country.</summary>
    Malformed,
}

/// <summary>Judges postal codes by their country's masks.</summary>
public static class PostalCode
{
    /// <summary>The state of a code, and the code as it should be written, where that can be told.</summary>
    public static (PostalCodeState State, string? Proposal) Judge(Country country, string value)
    {
        foreach (var mask in country.Masks)
            if (Fits(value, mask))
                return (PostalCodeState.Right, null);
        var bare = Bare(value);
        foreach (var mask in country.Masks)
            if (Dress(bare, mask) is { } dressed)
                return (PostalCodeState.OtherForm, dressed);
        if (country.CodesBeginWithZero && bare.Length > 0 && bare.All(char.IsAsciiDigit))
            foreach (var mask in country.Masks)
            {
                var length = mask.Count(c => c == '9');
                // A spreadsheet takes all leading zeros; more than two are not to be believed. A ZIP+4 must have its other eight.
                if (
                    mask.All(c => c != 'A')
                    && bare.Length < length
                    && length - bare.Length <= 2
                    && !(length == 9 && bare.Length < 8)
                    && Dress(bare.PadLeft(length, '0'), mask) is { } padded
                )
                    return (PostalCodeState.LostZero, padded);
            }
        return (PostalCodeState.Malformed, null);
    }

    /// <summary>The code without spaces and hyphens, in capitals.</summary>
    public static string Bare(string value)
    {
        var bare = new StringBuilder(value.Length);
        foreach (var c in value)
            if (char.IsLetterOrDigit(c))
                bare.Append(char.ToUpperInvariant(c));
        return bare.ToString();
    }

    static bool Fits(string value, string mask)
    {
        if (value.Length != mask.Length)
            return false;
        for (var i = 0; i < mask.Length; i++)
            if (!Fits(value[i], mask[i]))
                return false;
        return true;
    }

    static bool Fits(char c, char mask) =>
        mask switch
        {
            '9' => char.IsAsciiDigit(c),
            'A' => char.IsAsciiLetterUpper(c),
            '*' => char.IsAsciiDigit(c) || char.IsAsciiLetterUpper(c),
            _ => c == mask,
        };

    static string? Dress(string bare, string mask)
    {
        var dressed = new StringBuilder(mask.Length);
        var at = 0;
        foreach (var m in mask)
        {
            if (m is not ('9' or 'A' or '*'))
            {
                dressed.Append(m);
                continue;
            }
            if (at >= bare.Length || !Fits(bare[at], m))
                return null;
            dressed.Append(bare[at++]);
        }
        return at == bare.Length ? dressed.ToString() : null;
    }
}
