namespace Bandeja.Core.Texts;

/// <summary>How Han characters are drawn: one code point has other forms in each of these regions (Unicode 16.0, section 18.1, Han
/// unification).</summary>
public enum HanForm
{
    None,
    Japanese,
    Korean,
    Simplified,
    Traditional,
    HongKong,
}

/// <summary>Which form of Han characters a recipient or a text asks for.</summary>
public static class HanForms
{
    /// <summary>The form of a recipient: by the language where it is one that is written so, else by the country of the address.</summary>
    /// <param name="language">A BCP 47 tag or nothing.</param>
    /// <param name="country">ISO 3166-1, two letters, or nothing.</param>
    public static HanForm Of(string? language, string? country)
    {
        var parts = (language ?? "").Trim().Replace('_', '-').Split('-');
        var said = parts[0].ToLowerInvariant() switch
        {
            "ja" => HanForm.Japanese,
            "ko" => HanForm.Korean,
            "yue" => HanForm.HongKong,
            "zh" or "cmn" => OfChinese(parts)
                ?? OfCountry(country) switch
                {
                    HanForm.Traditional => HanForm.Traditional,
                    HanForm.HongKong => HanForm.HongKong,
                    _ => HanForm.Simplified,
                },
            _ => HanForm.None,
        };
        return said != HanForm.None ? said : OfCountry(country);
    }

    static HanForm? OfChinese(string[] parts)
    {
        if (
            parts.Skip(1).Select(p => OfCountry(p.ToUpperInvariant())).FirstOrDefault(f => f != HanForm.None)
            is var region
                and not HanForm.None
        )
            return region;
        if (parts.Contains("Hant", StringComparer.OrdinalIgnoreCase))
            return HanForm.Traditional;
        return parts.Contains("Hans", StringComparer.OrdinalIgnoreCase) ? HanForm.Simplified : null;
    }

    static HanForm OfCountry(string? country) =>
        country switch
        {
            "JP" => HanForm.Japanese,
            "KR" or "KP" => HanForm.Korean,
            "CN" or "SG" or "MY" => HanForm.Simplified,
            "TW" => HanForm.Traditional,
            "HK" or "MO" => HanForm.HongKong,
            _ => HanForm.None,
        };

    /// <summary>The form that a text itself shows: kana are Japanese, Hangul is Korean; None where it shows none.</summary>
    public static HanForm OfText(ReadOnlySpan<char> text)
    {
        foreach (var c in text)
        {
            if (
                c is >= '\u3041' and <= '\u30FF' or >= '\u31F0' and <= '\u31FF' or >= '\uFF66' and <= '\uFF9D'
                && c is not ('\u30FB' or '\u30FC')
            )
                return HanForm.Japanese;
            if (c is >= '\uAC00' and <= '\uD7A3' or >= '\u1100' and <= '\u11FF' or >= '\u3131' and <= '\u318E')
                return HanForm.Korean;
        }
        return HanForm.None;
    }

    /// <summary>True where a text has characters that are drawn by region.</summary>
    public static bool IsNeeded(ReadOnlySpan<char> text) =>
        text.IndexOfAnyInRange('\u2E80', '\uDFFF') >= 0 || text.IndexOfAnyInRange('\uF900', '\uFFEF') >= 0;

    /// <summary>In which order the forms lend a character: the one asked for, its nearest kin, the rest.</summary>
    internal static int Rank(HanForm lender, HanForm asked)
    {
        if (lender == asked)
            return 0;
        ReadOnlySpan<HanForm> order = asked is HanForm.Traditional or HanForm.HongKong
            ? [HanForm.Traditional, HanForm.HongKong, HanForm.Simplified, HanForm.Japanese, HanForm.Korean]
            : [HanForm.Simplified, HanForm.Traditional, HanForm.HongKong, HanForm.Japanese, HanForm.Korean];
        return 1 + order.IndexOf(lender);
    }
}
