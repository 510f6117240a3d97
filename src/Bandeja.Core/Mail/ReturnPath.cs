namespace Bandeja.Core.Mail;

/// <summary>
/// Return addresses of single messages: the envelope's sender (RFC 5321, section 3.3) carries a mark of the message in its subaddress
/// (RFC 5233, section 1), so that whatever comes back tells by its address alone what it is about.
/// </summary>
public static class ReturnPath
{
    /// <summary>The most characters before the @ (RFC 5321, section 4.5.3.1.1).</summary>
    public const int MaxLocal = 64;

    /// <summary>The most characters before the @ of an address that can still carry a mark.</summary>
    public const int MaxOwn = 24;

    /// <summary>The return address of a message, or the plain one where the mark does not fit.</summary>
    /// <param name="address">Where bounces go.</param>
    /// <param name="messageId">The message's id, without brackets.</param>
    public static string Of(string address, string messageId)
    {
        var at = address.LastIndexOf('@');
        var mark = Mark(messageId);
        if (at <= 0 || mark.Length == 0 || !mark.All(IsPlain) || at + 1 + mark.Length > MaxLocal)
            return address;
        return $"{address[..at]}+{mark}{address[at..]}";
    }

    /// <summary>The mark in the address that something came back to; null where it is another address, or carries none.</summary>
    /// <param name="to">The address that it came to.</param>
    /// <param name="address">Where bounces go.</param>
    public static string? MarkIn(string to, string address)
    {
        var (at, own) = (to.LastIndexOf('@'), address.LastIndexOf('@'));
        if (at <= 0 || own <= 0 || !to[at..].Equals(address[own..], StringComparison.OrdinalIgnoreCase))
            return null;
        if (at <= own + 1 || to[own] != '+' || !to[..own].Equals(address[..own], StringComparison.OrdinalIgnoreCase))
            return null;
        var mark = to[(own + 1)..at];
        return mark.All(IsPlain) ? mark.ToLowerInvariant() : null;
    }

    /// <summary>What stands for a message in its return address: what its id has before the @.</summary>
    public static string Mark(string messageId) => messageId.IndexOf('@') is > 0 and var at ? messageId[..at] : messageId;

    static bool IsPlain(char c) => char.IsAsciiLetterOrDigit(c) || c is '.' or '-';
}
