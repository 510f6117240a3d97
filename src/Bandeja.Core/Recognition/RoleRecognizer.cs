using System.Text;
using Bandeja.Core.Lists;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Recognition;

/// <summary>Recognizes what a column may be from its heading, in the languages of <c>RoleHeadings.tsv</c>.</summary>
public static class RoleRecognizer
{
    // Whose or what for: such words say nothing about what stands in the column.
    static readonly HashSet<string> Owners = new(
        (
            "mailing mail home primary main contact customer cust client donor member mbr recipient person patient pt student employee "
            + "owner "
            + "guest subscriber supporter constituent patron parishioner tenant resident policy policyholder shareholder applicant "
            + "participant attendee parent guardian taxpayer insured voter homeowner volunteer "
            + "billing shipping delivery permanent current personal private "
            + "residence residential your my our the legal preferred official company business work office organization "
            + "organisation firm addressee "
            + "kunden kunde mitglied empfanger rechnungs liefer privat cliente socio client adherent destinataire klant medlem kund "
            + "kunde asiakas klienta zakaznika"
        ).Split(' ')
    );

    // What it is about, where that is a place: mail goes there only where the list has no other address.
    static readonly HashSet<string> Places = new("situs site property prop premise premises service physical location".Split(' '));

    /// <summary>The roles of which an address is made.</summary>
    internal static readonly IReadOnlySet<Role> OfAddress = new HashSet<Role>
    {
        Role.Street,
        Role.Street2,
        Role.Street3,
        Role.HouseNumber,
        Role.Unit,
        Role.City,
        Role.District,
        Role.Locality,
        Role.Region,
        Role.PostalCode,
        Role.DeliveryPoint,
        Role.Country,
        Role.WholeAddress,
    };
    static readonly HashSet<string> Partners = new("partner spouse husband wife spouses partners coniuge conyuge conjoint".Split(' '));
    static readonly Dictionary<string, Role[]> Known = Read();

    static Dictionary<string, Role[]> Read()
    {
        var rows = new List<(string Heading, Role Role)>();
        using var reader = new StreamReader(typeof(RoleRecognizer).Assembly.GetManifestResourceStream("RoleHeadings.tsv")!);
        while (reader.ReadLine() is { } line)
            if (line.Length > 0 && line[0] != '#' && line.Split('\t') is [var role, var headings])
                rows.AddRange(headings.Split('|').Select(h => (Plain(h), Enum.Parse<Role>(role))));
        return rows.Where(r => r.Heading.Length > 0)
            .GroupBy(r => r.Heading)
            .ToDictionary(g => g.Key, g => g.Select(r => r.Role).Distinct().OrderBy(Rank).ToArray());
    }

    // Where a heading can be several things and nothing else is known: a whole name before a part of one, a city before a village.
    static int Rank(Role role) =>
        role switch
        {
            Role.FullName => 0,
            Role.City => 2,
            Role.District or Role.Locality => 1,
            Role.HouseNumber => 9,
            _ => 3,
        };

    /// <summary>The role a heading most likely stands for, or <see cref="Role.None"/>.</summary>
    public static Role FromHeading(string heading) => Candidates(heading) is [var first, ..] ? first : Role.None;

    /// <summary>All roles that a heading can stand for, the likeliest first where nothing else is known.</summary>
    public static IReadOnlyList<Role> Candidates(string heading)
    {
        var plain = Plain(heading);
        if (plain.Length == 0)
            return [];
        if (Known.TryGetValue(plain, out var known))
            return known;
        var words = plain.Split(' ');
        if (words.Length == 1)
            return [];
        // Owner 1, beside Owner 2.
        if (words[^1] == "1")
            return Candidates(string.Join(' ', words[..^1]));
        // The partner's first name is not the recipient's.
        if (Partners.Contains(words[0]) || Partners.Contains(words[^1]))
        {
            var rest = string.Join(' ', Partners.Contains(words[0]) ? words[1..] : words[..^1]);
            return Known.GetValueOrDefault(rest)?.Select(OfPartner).Where(r => r != Role.None).Distinct().ToArray() ?? [];
        }
        if (
            Places.Contains(words[0])
            && Known.TryGetValue(string.Join(' ', words[1..]), out known)
            && known.Where(OfAddress.Contains).ToArray() is { Length: > 0 } ofPlace
        )
            return ofPlace;
        var start = 0;
        while (start < words.Length - 1 && Owners.Contains(words[start]))
            start++;
        if (start > 0 && Known.TryGetValue(string.Join(' ', words[start..]), out known))
            return known;
        var end = words.Length;
        while (end > 1 && Owners.Contains(words[end - 1]))
            end--;
        // Co-resident: “co” alone would be care of.
        if (end < words.Length && words[..end] is not ["co"] && Known.TryGetValue(string.Join(' ', words[..end]), out known))
            return known;
        // What ends in the word for a postal code or an email address is one, whatever is said before.
        // Do not email is none.
        if (words.Any(w => w is "not" or "no" or "opt" or "out" or "ok" or "status" or "bounced" or "date"))
            return [];
        for (var from = 1; from < words.Length; from++)
            if (Known.TryGetValue(string.Join(' ', words[from..]), out known) && known is [Role.PostalCode or Role.Email])
                return known;
        return [];
    }

    /// <summary>True for the address of the place that a list is about: <c>Situs ZIP</c>, <c>Property address</c>.</summary>
    internal static bool IsOfPlace(string heading) => Places.Contains(Plain(heading).Split(' ')[0]);

    static Role OfPartner(Role role) =>
        role switch
        {
            Role.Title => Role.PartnerTitle,
            Role.GivenName => Role.PartnerGivenName,
            Role.FullName => Role.PartnerFullName,
            Role.FamilyName => Role.PartnerFamilyName,
            _ => Role.None,
        };

    /// <summary>True for a heading that says that days stand below it.</summary>
    public static bool SpeaksOfDates(string heading) =>
        Plain(heading)
            .Split(' ')
            .Any(w =>
                w
                    is "date"
                        or "dt"
                        or "joined"
                        or "since"
                        or "hired"
                        or "enrolled"
                        or "appointment"
                        or "appt"
                        or "deadline"
                        or "expiring"
                        or "dates"
                        or "dob"
                        or "birthdate"
                        or "birthday"
                        or "born"
                        or "expires"
                        or "expiration"
                        or "expiry"
                        or "anniversary"
                        or "fecha"
                        or "datum"
                        or "geburtsdatum"
                        or "geburtstag"
            );

    /// <summary>
    /// True where digits in such a column are a code and not a quantity, so that their leading zeros count:
    /// member numbers, postal codes, telephones.
    /// </summary>
    public static bool IsCode(string heading)
    {
        // RO#, Lic #
        if (
            heading.TrimEnd().EndsWith('#')
            || FromHeading(heading) is Role.Key or Role.PostalCode or Role.Phone or Role.HouseNumber or Role.Unit
        )
            return true;
        var words = Plain(heading).Split(' ');
        return words.Any(w =>
            w
                is "id"
                    or "no"
                    or "code"
                    or "zip"
                    or "phone"
                    or "tel"
                    or "telephone"
                    or "mobile"
                    or "fax"
                    or "iban"
                    or "isbn"
                    or "sku"
                    or "barcode"
        );
    }

    /// <summary>Folded, words apart that were written together (<c>FirstName</c>, <c>Addr1</c>), everything but letters and digits turned
    /// into single spaces.</summary>
    internal static string Plain(string heading)
    {
        var apart = new StringBuilder();
        var sound = SoundText.Of(heading);
        for (var i = 0; i < sound.Length; i++)
        {
            var c = sound[i];
            var (before, after) = (i > 0 ? sound[i - 1] : ' ', i + 1 < sound.Length ? sound[i + 1] : ' ');
            if (
                char.IsUpper(c) && (char.IsLower(before) || char.IsUpper(before) && char.IsLower(after) && i + 2 < sound.Length)
                || char.IsAsciiDigit(c) && char.IsLetter(before)
            )
                apart.Append(' ');
            apart.Append(c is '’' or '\'' or 'º' or '°' or 'ª' or '.' && char.IsLetter(before) && char.IsLetter(after) ? ' ' : c);
        }
        var plain = new StringBuilder();
        foreach (var c in FoldedText.Of(apart.ToString()))
        {
            if (char.IsLetterOrDigit(c) || c is '〒')
                plain.Append(c);
            else if (plain.Length > 0 && plain[^1] != ' ')
                plain.Append(' ');
        }
        return plain.ToString().TrimEnd();
    }
}
