using System.Text.RegularExpressions;
using Bandeja.Core.Lists;
using PhoneNumbers;

namespace Bandeja.Core.Checks;

/// <summary>Checks on email addresses and telephones.</summary>
static partial class ContactChecks
{
    static readonly HashSet<string> Desks = new(StringComparer.OrdinalIgnoreCase)
    {
        "info",
        "office",
        "admin",
        "sales",
        "contact",
        "kontakt",
        "contacto",
        "support",
        "help",
        "hello",
        "mail",
        "post",
        "team",
        "noreply",
        "no-reply",
        "donotreply",
        "webmaster",
        "postmaster",
        "hostmaster",
        "abuse",
        "billing",
        "accounts",
        "marketing",
        "press",
        "enquiries",
        "reception",
        "buero",
        "ventas",
        "service",
    };

    static readonly string[] Domains =
    [
        "gmail.com",
        "googlemail.com",
        "yahoo.com",
        "yahoo.co.uk",
        "hotmail.com",
        "hotmail.co.uk",
        "outlook.com",
        "live.com",
        "msn.com",
        "icloud.com",
        "me.com",
        "aol.com",
        "comcast.net",
        "verizon.net",
        "att.net",
        "protonmail.com",
        "gmx.de",
        "gmx.net",
        "web.de",
        "t-online.de",
        "orange.fr",
        "wanadoo.fr",
        "free.fr",
        "laposte.net",
        "btinternet.com",
        "example.org",
        "example.com",
        "example.net",
    ];
    static readonly HashSet<string> Known = new(Domains, StringComparer.OrdinalIgnoreCase);

    public static void Check(CheckedRow row)
    {
        if (row[Role.Email] is { } email)
            Email(row, email.Trim());
        if (row[Role.Phone] is { } phone)
            Phone(row, phone.Trim());
    }

    /// <summary>The addresses in a cell; none where something else stands there, too.</summary>
    static string[] Several(string emails)
    {
        var all = emails.Split([';', ',', '/', '|', ' ', '\n', '\t'], StringSplitOptions.RemoveEmptyEntries);
        return Array.TrueForAll(all, EmailAddress.IsValid) ? all : [];
    }

    static void Email(CheckedRow row, string email)
    {
        if (!EmailAddress.IsValid(email))
        {
            var mended = Mended(email);
            if (Several(email) is { Length: > 1 } several)
                row.Add(
                    CheckKind.EmailMalformed,
                    Role.Email,
                    $"“{email}” is {several.Length} email addresses, and a message goes to one. The fix keeps the first.",
                    several[0]
                );
            else if (EmailAddress.IsValid(mended))
                row.Add(CheckKind.EmailMalformed, Role.Email, $"“{email}” is not a valid email address.", mended);
            else
                row.Add(CheckKind.EmailMalformed, Role.Email, $"“{email}” is not an email address.");
            return;
        }
        var at = email.LastIndexOf('@');
        var domain = email[(at + 1)..].ToLowerInvariant();
        if (Likely(domain) is { } likely)
            row.Add(CheckKind.EmailTypo, Role.Email, $"“{domain}” may be a typo for “{likely}”.", email[..(at + 1)] + likely);
        if (Desks.Contains(email[..at]))
            row.Add(CheckKind.RoleAccount, Role.Email, $"{email} is a shared mailbox, not a person’s address.");
    }

    /// <summary>What an address probably was meant to be. Spaces go only where no word is glued to an address by it: of “ana
    /// luis@example.org” nobody knows whose it is.</summary>
    static string Mended(string email)
    {
        // Meera Klein <meera@example.org> (RFC 5322, section 3.4); ana@example.org (work).
        if (InBrackets().Match(email) is { Success: true } within)
            email = within.Groups["address"].Value;
        else if (Remark().Match(email) is { Success: true } remark)
            email = email[..remark.Index];
        if (email.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries) is { Length: > 1 } words && words.Any(EmailAddress.IsValid))
            return email;
        var mended = string.Concat(email.Where(c => !char.IsWhiteSpace(c) && c is not ('<' or '>' or '"'))).TrimEnd('.', ',', ';');
        if (mended.StartsWith("mailto:", StringComparison.OrdinalIgnoreCase))
            mended = mended[7..];
        return mended.Replace(',', '.').Replace("@@", "@").Replace("..", ".").Replace("(at)", "@").Replace("[at]", "@").Replace("@.", "@");
    }

    [GeneratedRegex(@"<\s*(?:mailto:)?(?<address>[^<>\s]+@[^<>\s]+)\s*>", RegexOptions.CultureInvariant | RegexOptions.IgnoreCase)]
    private static partial Regex InBrackets();

    [GeneratedRegex(@"(?<=\S)\s+\([^()@]*\)$", RegexOptions.CultureInvariant)]
    private static partial Regex Remark();

    /// <summary>The domain that was probably meant, or null where nothing speaks against it.</summary>
    static string? Likely(string domain)
    {
        if (Known.Contains(domain))
            return null;
        var ending = domain[(domain.LastIndexOf('.') + 1)..];
        if (ending is "con" or "cmo" or "ocm" or "vom" or "comm" or "coom")
            return Likely(domain[..^ending.Length] + "com") ?? domain[..^ending.Length] + "com";
        foreach (var known in Domains)
            // Short names are near to too much: gmx.de and gmx.net are both right.
            if (known.Length > 6 && Math.Abs(known.Length - domain.Length) <= 1 && Language.Names.Distance(known, domain) == 1)
                return known;
        return null;
    }

    static readonly PhoneNumberUtil Phones = PhoneNumberUtil.GetInstance();

    static void Phone(CheckedRow row, string phone)
    {
        // Told already.
        if (TextChecks.IsCutShort(phone))
            return;
        if (row.Country is { } country && country.Code is "US" or "CA" && IsNorthAmerican(phone))
            return;
        try
        {
            var number = Phones.Parse(phone, row.Country?.Code ?? row.Settings.Home.Code);
            if (Phones.IsPossibleNumber(number))
                return;
            row.Add(
                CheckKind.Phone,
                Role.Phone,
                $"“{phone}” has the wrong number of digits{(row.Country is null ? "" : $" for {row.Country.InSentence}")}."
            );
        }
        catch (NumberParseException)
        {
            row.Add(CheckKind.Phone, Role.Phone, $"“{phone}” is not a phone number.");
        }
    }

    /// <summary>Ten digits, or eleven with a 1 before them, and an area code that can be one: nothing to ask the library about.</summary>
    static bool IsNorthAmerican(string phone)
    {
        Span<char> digits = stackalloc char[12];
        var n = 0;
        foreach (var c in phone)
        {
            if (char.IsAsciiDigit(c))
            {
                if (n == 12)
                    return false;
                digits[n++] = c;
            }
            else if (c is not (' ' or '-' or '(' or ')' or '.' or '+'))
                return false;
        }
        var start = n == 11 && digits[0] == '1' ? 1 : 0;
        return n - start == 10 && digits[start] >= '2' && digits[start + 3] >= '2';
    }
}
