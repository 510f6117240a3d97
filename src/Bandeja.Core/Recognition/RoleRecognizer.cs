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
            "mailing mail home primary main head hoh "
            + "contact customer cust client donor member mbr recipient person patient pt student employee "
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

    static readonly HashSet<string> Units = new(
        "apt apartment suite ste unit floor fl bldg building room rm lot spc space flat".Split(' ')
    );

    // Who is not the recipient where the list names one beside them: whoever has sold to them, looks after them, or is asked about them;
    // and where that is.
    static readonly HashSet<string> Others = new(
        (
            "agent agency producer broker rep reps representative salesperson salesman sales seller advisor adviser consultant "
            + "manager mgr csr staff officer assigned assignee handler coordinator solicitor fundraiser caller sender from teacher "
            + "instructor coach doctor dr physician provider referrer referred referring emergency attorney lawyer realtor lender "
            + "dealer vendor supplier landlord employer secondary alternate alt other old former previous prior "
            + "branch store shop clinic site situs location loc facility school campus warehouse plant return remit"
        ).Split(' ')
    );

    // What it is about, where that is a place: mail goes there only where the list has no other address.
    static readonly HashSet<string> Places = new("situs site property prop premise premises service physical location loc".Split(' '));

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

    /// <summary>All roles that a heading can stand for, the likeliest first where nothing else is known. A note in brackets behind it,
    /// such as “(Last, First)”, counts only where the heading is known with it.</summary>
    public static IReadOnlyList<Role> Candidates(string heading) =>
        WithoutNote(heading, OfHeading) is { Count: > 0 } all ? all : WithoutNote(heading, ByEnd);

    /// <summary>True for a heading that speaks of amounts of money.</summary>
    public static bool SpeaksOfMoney(string heading) => Plain(heading).Split(' ').Any(Money.Contains);

    static readonly HashSet<string> Money = new(
        (
            "amount amt due balance bal price cost fee fees paid pmt payment premium pledge pledged gift donation donated giving charge "
            + "charges refund salary wage rent dues deposit award assessment assmt tax owed contribution betrag preis saldo importe "
            + "precio montant prix prezzo bedrag belopp kwota"
        ).Split(' ')
    );

    /// <summary>True where nothing but the end of the heading says what stands in the column.</summary>
    internal static bool IsByEnd(string heading) => WithoutNote(heading, OfHeading).Count == 0 && WithoutNote(heading, ByEnd).Count > 0;

    static IReadOnlyList<Role> WithoutNote(string heading, Func<string, IReadOnlyList<Role>> roles) =>
        roles(heading) is { Count: > 0 } all ? all
        : heading.IndexOf('(') is > 0 and var bracket && heading.TrimEnd().EndsWith(')') ? roles(heading[..bracket])
        : [];

    static IReadOnlyList<Role> OfHeading(string heading)
    {
        var plain = Plain(heading);
        if (plain.Length == 0)
            return [];
        if (Known.TryGetValue(plain, out var known))
            return known;
        var words = plain.Split(' ');
        if (words.Length == 1)
            return [];
        // Apt/Ste, Suite or Unit No.; a lot or a space alone may be what the list is about.
        if (
            words.All(w => Units.Contains(w) || w is "no" or "nr" or "num" or "number" or "or")
            && words.Any(w => w is "apt" or "apartment" or "suite" or "ste" or "unit")
        )
            return [Role.Unit];
        // Owner 1, beside Owner 2.
        if (words[^1] == "1")
            return OfHeading(string.Join(' ', words[..^1]));
        // Parent 1 Name, Parent 2 First Name, Claimant 2: whoever the first is called.
        var counted = Array.FindIndex(words, 1, w => w.Length == 1 && char.IsAsciiDigit(w[0]));
        if (counted > 0 && IsPerson(words[counted - 1]))
        {
            var ofWhom = OfHeading(string.Join(' ', words.Where((_, i) => i != counted)));
            return words[counted] switch
            {
                "1" => ofWhom,
                "2" => [.. ofWhom.Select(OfPartner).Where(r => r != Role.None).Distinct()],
                _ => [],
            };
        }
        // Co-Claimant
        if (
            words[0] is "co" or "second" or "joint"
            && Known.TryGetValue(string.Join(' ', words[1..]), out known)
            && known.Contains(Role.FullName)
        )
            return [Role.PartnerFullName];
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
        return [];
    }

    /// <summary>True for a word such as <c>owner</c>: whoever a list is of.</summary>
    static bool IsPerson(string word) =>
        Known.TryGetValue(word, out var known) && known.Contains(Role.FullName) && word is not ("name" or "names");

    /// <summary>True for <c>P.O. Box</c>.</summary>
    internal static bool IsBox(string heading) => Plain(heading) is "po box" or "p o box" or "post office box" or "pobox";

    /// <summary>True for a heading that names another person or place than the recipient's.</summary>
    internal static bool IsOfOther(string heading) => Plain(heading).Split(' ').Any(Others.Contains);

    /// <summary>What ends in the word for a postal code or an email address is one, whatever is said before.</summary>
    static IReadOnlyList<Role> ByEnd(string heading)
    {
        var words = Plain(heading).Split(' ');
        // Do not email is none.
        if (words.Any(w => w is "not" or "no" or "opt" or "out" or "ok" or "status" or "bounced" or "date"))
            return [];
        if (Partners.Contains(words[0]))
            return [];
        // Parent 2 Email
        if (words.Zip(words.Skip(1)).Any(w => IsPerson(w.First) && w.Second.Length == 1 && w.Second[0] is >= '2' and <= '9'))
            return [];
        for (var from = 1; from < words.Length; from++)
            if (Known.TryGetValue(string.Join(' ', words[from..]), out var known) && known is [Role.PostalCode or Role.Email])
                return known;
        return [];
    }

    // What one recipient has several of, or another one every time.
    static readonly HashSet<string> Passing = new(
        (
            "invoice order check cheque seat lot table tracking confirmation route bag tray box batch line row page stop block "
            + "section lane bib session visit gift receipt transaction trans po serial model item part phone fax tel cell mobile apt "
            + "unit suite house street po tax ssn ein license lic plate vin date"
        ).Split(' ')
    );

    /// <summary>True for a heading by which a column may hold what each recipient is known by: <c>Notice ID</c>, <c>Case No.</c>, <c>Policy
    /// #</c>; not for <c>Invoice No.</c>, which is another one every time.</summary>
    internal static bool MayBeKey(string heading)
    {
        var words = Plain(heading).Split(' ');
        var counted = heading.TrimEnd().EndsWith('#');
        return (counted || words.Length > 1 && words[^1] is "id" or "no" or "nr" or "num" or "nbr" or "number" or "key")
            && !words.Any(Passing.Contains)
            && !words.Any(Others.Contains);
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
