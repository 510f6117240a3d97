namespace Bandeja.Core.Checks;

/// <summary>What an email address must look like: the common part of RFC 5321 section 4.1.2, letters of other scripts included (RFC 6531);
/// no quoted local parts, no address literals.</summary>
public static class EmailAddress
{
    /// <summary>True where the text is one sound address.</summary>
    public static bool IsValid(string text)
    {
        var at = text.IndexOf('@');
        // 64 octets before the @, in UTF-8 (RFC 6532, section 3.1).
        if (
            at < 1
            || System.Text.Encoding.UTF8.GetByteCount(text.AsSpan(0, at)) > 64
            || text.Length > 254
            || text.IndexOf('@', at + 1) >= 0
        )
            return false;
        var local = text.AsSpan(0, at);
        var domain = text.AsSpan(at + 1);
        if (local[0] == '.' || local[^1] == '.' || local.Contains("..", StringComparison.Ordinal))
            return false;
        foreach (var c in local)
            if (!(char.IsLetterOrDigit(c) || c > 0x7F && !char.IsWhiteSpace(c) || ".!#$%&'*+/=?^_`{|}~-".Contains(c)))
                return false;
        var labels = 0;
        foreach (var range in domain.Split('.'))
        {
            var label = domain[range];
            if (label.Length is 0 or > 63 || label[0] == '-' || label[^1] == '-')
                return false;
            foreach (var c in label)
                if (
                    !(
                        char.IsLetterOrDigit(c)
                        || c == '-'
                        || c > 0x7F
                            && (
                                char.IsSurrogate(c)
                                || System.Globalization.CharUnicodeInfo.GetUnicodeCategory(c)
                                    is System.Globalization.UnicodeCategory.NonSpacingMark
                                        or System.Globalization.UnicodeCategory.SpacingCombiningMark
                            )
                    )
                )
                    return false;
            labels++;
        }
        var ending = domain[(domain.LastIndexOf('.') + 1)..];
        return labels > 1 && ending.Length > 1 && !char.IsAsciiDigit(ending[0]);
    }
}
