using System.Text;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Matching;

/// <summary>A recipient as it is matched with others: what remains when case, accents, punctuation and abbreviations are taken away. Blank
/// parts are empty.</summary>
/// <param name="Id">Whose it is.</param>
/// <param name="Key">The key.</param>
/// <param name="Email">The email address.</param>
/// <param name="Name">The words of the name in alphabetical order, so that <c>Okafor, Ana</c> is <c>Ana Okafor</c>.</param>
/// <param name="Street">The street line with the usual abbreviations: <c>2291 lantern row # 4</c>.</param>
/// <param name="Place">The postal code, or the city where there is none.</param>
/// <param name="Family">The family name.</param>
/// <param name="IsOrganization">True where the row stands for an organization, or for somebody at one, and not for a person at
/// home.</param>
public sealed record MatchRow(
    long Id,
    string Key,
    string Email,
    string Name,
    string Street,
    string Place,
    string Family,
    bool IsOrganization = false
)
{
    /// <summary>Street and place; empty where either is missing.</summary>
    public string Address { get; } = Street.Length > 0 && Place.Length > 0 ? Street + "\n" + Place : "";

    /// <summary>Name and address; empty where any part is missing.</summary>
    public string NameAndAddress => Name.Length > 0 && Address.Length > 0 ? Name + "\n" + Address : "";
}

/// <summary>Makes match rows for the rows of one list or file.</summary>
public sealed class MatchKeys
{
    // USPS Publication 28, appendix C1 (street suffixes) and C2 (secondary units), section 233 (directionals); the commonest.
    static readonly Dictionary<string, string> Short = Pairs(
        "street st;str st;avenue ave;av ave;road rd;drive dr;lane ln;court ct;boulevard blvd;place pl;square sq;terrace ter;trail "
            + "trl;circle cir;highway hwy;parkway pkwy;way way;"
            + "apartment #;apt #;unit #;suite #;ste #;no #;nr #;north n;south s;east e;west w;northeast ne;northwest nw;southeast "
            + "se;southwest sw;saint st;mount mt;fort ft;heights hts;point pt;crossing xing;"
            + "strasse str;straat str;plaza plz;calle c;avenida ave;rua r;building bldg;floor fl;room rm;post po;office o"
    );

    static readonly HashSet<string> Titles = new(
        "mr mrs ms miss dr prof professor rev sir lady herr frau sr sra senor senora mme monsieur mx jr".Split(' ')
    );

    readonly int key,
        email,
        title,
        given,
        family,
        full,
        organization,
        street,
        street2,
        street3,
        unit,
        number,
        city,
        postal;

    /// <summary>Finds the columns by their roles.</summary>
    public MatchKeys(IReadOnlyList<Column> columns)
    {
        int At(Role role) => columns.ToList().FindIndex(c => c.Role == role);
        (key, email, title, given, family, full) = (
            At(Role.Key),
            At(Role.Email),
            At(Role.Title),
            At(Role.GivenName),
            At(Role.FamilyName),
            At(Role.FullName)
        );
        (organization, street, street2, street3, unit, number, city, postal) = (
            At(Role.Organization),
            At(Role.Street),
            At(Role.Street2),
            At(Role.Street3),
            At(Role.Unit),
            At(Role.HouseNumber),
            At(Role.City),
            At(Role.PostalCode)
        );
    }

    /// <summary>True where the list has a key column.</summary>
    public bool HasKey => key >= 0;

    /// <summary>The positions of all columns that are looked at.</summary>
    public IReadOnlyList<int> Columns =>
        [
            .. new[] { key, email, title, given, family, full, organization, street, street2, street3, unit, number, city, postal }.Where(
                c => c >= 0
            ),
        ];

    static Dictionary<string, string> Pairs(string text) => text.Split(';').Select(p => p.Split(' ')).ToDictionary(p => p[0], p => p[1]);

    /// <summary>The match row of a row.</summary>
    public MatchRow Of(long id, IReadOnlyList<string?> values)
    {
        string? At(int column) => column >= 0 && column < values.Count ? values[column] : null;
        var familyName = Words(At(family));
        var name = full >= 0 && At(family) is null && At(given) is null ? At(full) : string.Join(' ', At(given), At(family));
        var words = Sorted(name);
        var named = words.Count > 0 ? string.Join(' ', words) : Words(At(organization));
        return new(
            id,
            Plain(At(key)),
            (At(email) ?? "").Trim().ToLowerInvariant(),
            named,
            StreetOf(At(street), At(number), At(street2), At(street3), At(unit)),
            Place(At(postal), At(city)),
            familyName.Length > 0 ? familyName : words.LastOrDefault() ?? "",
            !string.IsNullOrWhiteSpace(At(organization)) || OrganizationName.Is(name)
        );
    }

    static List<string> Sorted(string? name) =>
        [.. Words(name).Split(' ', StringSplitOptions.RemoveEmptyEntries).Where(w => !Titles.Contains(w)).Order(StringComparer.Ordinal)];

    /// <summary>The <see cref="MatchRow.Name"/> of a name in one piece.</summary>
    public static string NameOf(string? name) => string.Join(' ', Sorted(name));

    static string Plain(string? value) => value is null ? "" : FoldedText.Of(value.Trim());

    /// <summary>The words of a text without case, accents and punctuation, with single spaces.</summary>
    public static string Words(string? value)
    {
        if (string.IsNullOrWhiteSpace(value))
            return "";
        var words = new StringBuilder(value.Length);
        foreach (var c in FoldedText.Of(value))
        {
            // O'Neill is ONeill; a hyphen divides.
            if (char.IsLetterOrDigit(c) || c == '#')
                words.Append(c);
            else if (c is not ('\'' or '’' or '.') && words.Length > 0 && words[^1] != ' ')
                words.Append(' ');
        }
        return words.ToString().TrimEnd();
    }

    static string StreetOf(params ReadOnlySpan<string?> lines)
    {
        var text = Words(string.Join(' ', lines)).Replace("#", " # ");
        var words = text.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        for (var i = 0; i < words.Length; i++)
            words[i] = Short.GetValueOrDefault(words[i], words[i]);
        return string.Join(' ', words).Replace("# #", "#");
    }

    static string Place(string? postal, string? city)
    {
        if (string.IsNullOrWhiteSpace(postal))
            return Words(city);
        var bare = PostalCode.Bare(postal);
        // ZIP+4 says more than the ZIP of the same house.
        return bare.Length == 9 && bare.All(char.IsAsciiDigit) ? bare[..5] : bare;
    }
}
