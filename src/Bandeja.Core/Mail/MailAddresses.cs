using System.Globalization;
using System.Text;
using Bandeja.Core.Checks;

namespace Bandeja.Core.Mail;

/// <summary>A name and an address.</summary>
/// <param name="Name">For people; empty where there is none.</param>
/// <param name="Address">As RFC 5321 has it, the domain in its ASCII form.</param>
public sealed record MailParty(string Name, string Address)
{
    /// <summary>As people read it.</summary>
    public override string ToString() => Name.Length == 0 ? Address : $"{Name} <{Address}>";

    /// <summary>True where the part before the @ needs a server that takes more than ASCII (SMTPUTF8, RFC 6531).</summary>
    public bool NeedsUtf8 => !Ascii.IsValid(Address);
}

/// <summary>What an email cell holds.</summary>
public enum CellVerdict
{
    Blank,
    Good,
    Several,
    Malformed,
}

/// <summary>Reads addresses out of cells and header fields.</summary>
public static class MailAddresses
{
    static readonly IdnMapping Idn = new() { UseStd3AsciiRules = true };

    /// <summary>Reads addresses divided by commas or semicolons, each plain or with a name: <c>Ana Okafor &lt;ana@example.org&gt;</c>. A
    /// name in quotes may hold commas.</summary>
    /// <returns>The addresses, and what could not be read as one.</returns>
    public static (IReadOnlyList<MailParty> Parties, IReadOnlyList<string> Wrong) Read(string text)
    {
        var parties = new List<MailParty>();
        var wrong = new List<string>();
        foreach (var part in Divided(text))
        {
            if (One(part) is { } party)
                parties.Add(party);
            else
                wrong.Add(part);
        }
        return (parties, wrong);
    }

    /// <summary>Reads one address with or without a name; null where it is none.</summary>
    public static MailParty? One(string text)
    {
        var part = HeaderText.Clean(text).Trim();
        if (part.Length == 0)
            return null;
        var (name, address) = ("", part);
        if (part.EndsWith('>') && part.LastIndexOf('<') is >= 0 and var open)
        {
            name = part[..open].Trim();
            if (name.Length > 1 && name[0] == '"' && name[^1] == '"')
                name = name[1..^1].Replace("\\\"", "\"", StringComparison.Ordinal);
            address = part[(open + 1)..^1].Trim();
        }
        if (address.StartsWith("mailto:", StringComparison.OrdinalIgnoreCase))
            address = address[7..];
        return ToAscii(address) is { } sound && EmailAddress.IsValid(address) ? new(name, sound) : null;
    }

    /// <summary>What a cell holds, for a recipient who is to get one message at one address.</summary>
    public static (CellVerdict Verdict, MailParty? First) Cell(string? value)
    {
        if (string.IsNullOrWhiteSpace(value))
            return (CellVerdict.Blank, null);
        if (One(value) is { } only)
            return (CellVerdict.Good, only);
        var (parties, _) = Read(value.Replace('/', ';').Replace('|', ';').Replace('\n', ';'));
        if (parties.Count > 1)
            return (CellVerdict.Several, parties[0]);
        // Addresses are also written one behind the other with nothing but a space between.
        var words = value.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(One).OfType<MailParty>().ToList();
        return words.Count > 1 ? (CellVerdict.Several, words[0]) : (CellVerdict.Malformed, null);
    }

    /// <summary>An address with its domain in ASCII (RFC 5891); null where the domain has no such form.</summary>
    static string? ToAscii(string address)
    {
        var at = address.LastIndexOf('@');
        if (at < 1 || at == address.Length - 1)
            return null;
        try
        {
            return address[..(at + 1)] + Idn.GetAscii(address[(at + 1)..]).ToLowerInvariant();
        }
        catch (ArgumentException)
        {
            return null;
        }
    }

    static IEnumerable<string> Divided(string text)
    {
        var part = new StringBuilder();
        var quoted = false;
        foreach (var c in text)
        {
            if (c == '"')
                quoted = !quoted;
            if (!quoted && c is (',' or ';'))
            {
                if (!string.IsNullOrWhiteSpace(part.ToString()))
                    yield return part.ToString().Trim();
                part.Clear();
            }
            else
                part.Append(c);
        }
        if (!string.IsNullOrWhiteSpace(part.ToString()))
            yield return part.ToString().Trim();
    }
}
