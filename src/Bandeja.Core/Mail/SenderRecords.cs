using System.Text.RegularExpressions;

namespace Bandeja.Core.Mail;

/// <summary>What is said about a sender's domain.</summary>
/// <param name="Help">What usually helps; null where nothing is wrong.</param>
public sealed record RecordVerdict(bool Right, string Words, string? Help = null);

/// <summary>Reads the records in which a domain says which servers may send its email. Mailbox providers check them before they accept a
/// large mailing.</summary>
public static partial class SenderRecords
{
    /// <summary>Terms of one SPF record that may ask the DNS (RFC 7208, section 4.6.4).</summary>
    const int MostLookups = 10;

    /// <summary>Reads the SPF record of a domain (RFC 7208).</summary>
    /// <param name="texts">The TXT records of the domain, each with its strings joined.</param>
    public static RecordVerdict Spf(string domain, IReadOnlyList<string> texts)
    {
        // Section 4.5: the version stands alone in front, and only one record may have it.
        var records = texts
            .Where(t =>
                t.Equals("v=spf1", StringComparison.OrdinalIgnoreCase) || t.StartsWith("v=spf1 ", StringComparison.OrdinalIgnoreCase)
            )
            .ToList();
        if (records.Count == 0)
            return new(
                false,
                $"{domain} does not say which servers may send its email.",
                $"Add a TXT record to {domain} that starts with v=spf1. Your email provider tells you its content."
            );
        if (records.Count > 1)
            return new(
                false,
                $"{domain} has {records.Count} SPF records, so receivers use none of them.",
                "Combine them into one TXT record that starts with v=spf1."
            );
        var terms = records[0].Split(' ', StringSplitOptions.RemoveEmptyEntries)[1..];
        if (terms.FirstOrDefault(t => !Term().IsMatch(t)) is { } wrong)
            return new(
                false,
                $"The SPF record of {domain} cannot be read at “{Short(wrong)}”, so receivers do not use it.",
                "Correct the TXT record that starts with v=spf1."
            );
        var lookups = terms.Count(t => Asks().IsMatch(t));
        if (lookups > MostLookups)
            return new(
                false,
                $"The SPF record of {domain} needs {lookups} lookups; receivers stop after {MostLookups}.",
                "Take out services that no longer send for you."
            );
        var all = terms.FirstOrDefault(t => t.TrimStart('+', '-', '~', '?').Equals("all", StringComparison.OrdinalIgnoreCase));
        return all?[0] switch
        {
            '-' => new(true, $"{domain} says which servers may send its email, and that no others may."),
            '~' => new(true, $"{domain} says which servers may send its email, and that messages from others are suspect."),
            '?' => new(true, $"{domain} says which servers may send its email, and nothing about others."),
            null => new(
                true,
                terms.Any(t => t.StartsWith("redirect=", StringComparison.OrdinalIgnoreCase))
                    ? $"{domain} refers to another domain for the servers that may send its email."
                    : $"{domain} says which servers may send its email, and nothing about others."
            ),
            _ => new(
                false,
                $"The SPF record of {domain} lets every server in the world send its email.",
                "End the record with ~all or -all instead of +all."
            ),
        };
    }

    /// <summary>Where the DMARC record for a sender may be: at the domain, then at those above it, the top level left out.</summary>
    public static IReadOnlyList<string> DmarcPlaces(string domain)
    {
        var labels = domain.Split('.', StringSplitOptions.RemoveEmptyEntries);
        return [.. Enumerable.Range(0, Math.Max(1, labels.Length - 1)).Select(i => $"_dmarc.{string.Join('.', labels[i..])}")];
    }

    /// <summary>Reads a DMARC record (RFC 7489, section 6.3); null where the texts hold none, so that the domain above counts.</summary>
    /// <param name="place">Where it was found: the domain with _dmarc. in front.</param>
    public static RecordVerdict? Dmarc(string domain, string place, IReadOnlyList<string> texts)
    {
        var records = texts.Where(t => Version().IsMatch(t)).ToList();
        if (records.Count == 0)
            return null;
        if (records.Count > 1)
            return new(
                false,
                $"There are {records.Count} DMARC records at {place}, so receivers use none of them.",
                "Keep one TXT record that starts with v=DMARC1."
            );
        var tags = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase);
        foreach (var tag in records[0].Split(';'))
            if (tag.IndexOf('=') is > 0 and var at)
                tags.TryAdd(tag[..at].Trim(), tag[(at + 1)..].Trim());
        var own = place.Equals($"_dmarc.{domain}", StringComparison.OrdinalIgnoreCase);
        var policy = !own && tags.TryGetValue("sp", out var below) ? below : tags.GetValueOrDefault("p", "");
        var says = own ? domain : $"{place["_dmarc.".Length..]}, which {domain} belongs to,";
        return policy.ToLowerInvariant() switch
        {
            "reject" => new(true, $"{says} asks receivers to refuse messages that fail its checks."),
            "quarantine" => new(true, $"{says} asks receivers to treat messages that fail its checks as spam."),
            "none" => new(true, $"{says} has a DMARC record that asks receivers only for reports."),
            _ => new(
                false,
                $"The DMARC record at {place} does not say what receivers should do: p is "
                    + $"{(policy.Length == 0 ? "missing" : $"“{Short(policy)}”")}.",
                "Write p=none, p=quarantine, or p=reject right after v=DMARC1."
            ),
        };
    }

    /// <summary>What is said where no domain above has a DMARC record either.</summary>
    public static RecordVerdict NoDmarc(string domain) =>
        new(
            false,
            $"{domain} has no DMARC record. Large mailbox providers refuse mailings from such a domain.",
            $"Add a TXT record to _dmarc.{domain}: v=DMARC1; p=none is enough to start with."
        );

    static string Short(string text) => text.Length > 40 ? text[..40] + "…" : text;

    /// <summary>A mechanism or a modifier (RFC 7208, section 12).</summary>
    [GeneratedRegex(
        @"^(?:[+\-~?]?(?:all|(?:a|mx)(?:[:/]\S+)?|ptr(?::\S+)?|(?:include|exists|ip4|ip6):\S+)|[a-z][a-z0-9_.\-]*=\S*)$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Term();

    [GeneratedRegex(
        @"^(?:[+\-~?]?(?:include:|exists:|(?:a|mx|ptr)(?:[:/]|$))|redirect=)",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Asks();

    [GeneratedRegex(@"^v\s*=\s*DMARC1\s*(?:;|$)", RegexOptions.CultureInvariant)]
    private static partial Regex Version();
}
