using System.Text.RegularExpressions;
using Bandeja.Core.Matching;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Addressing;

/// <summary>
/// The parts of a whole name that stands in one cell; null where there is none. Whoever is no person – a company, an estate, “Current
/// Resident” – is in <see cref="Organization"/> and nowhere else, so that no salutation takes a first name out of it. What cannot be told
/// is
/// <see cref="IsCertain"/> false and stays whole in <see cref="Family"/>.
/// </summary>
public sealed partial record NameParts(
    string? Title,
    string? Given,
    string? Family,
    string? Suffix = null,
    string? PartnerTitle = null,
    string? PartnerGiven = null,
    string? PartnerFamily = null,
    string? Organization = null,
    string? Household = null,
    bool IsCertain = true
)
{
    // Courtesy titles, academic degrees before the name, ranks and styles, as they are written in front of names.
    static readonly HashSet<string> Titles =
    [
        .. (
            "mr mister mrs ms miss mx master dr drs prof professor rev reverend revd fr br sir dame lord lady hon honorable "
            + "honourable judge justice capt captain col colonel lt lieut maj major gen general sgt cpl cmdr adm admiral rabbi "
            + "imam pastor deacon sister father bishop sheikh shaykh hajji haji shri sri smt kum dato datuk tan tun daw "
            + "senator sen rep representative gov governor mayor ambassador amb president pres chief officer "
            + "sr sra srta don dona d dna senor senora senorita sres lic ing arq exmo exma dra herr herrn frau frl familie dipl-ing "
            + "diplom-ingenieur mag univ-prof m mm mme mmes mlle me monsieur madame mademoiselle sig sigra signor signora "
            + "signorina dott dottssa dottore dottoressa avv geom dhr mevr mw meneer mevrouw ir mr hr fru frk herra rouva "
            + "neiti pan pani panna inz mgr dr ur bay bayan sayin kyrios kyria κ κοσ κα кυριοσ г-н г-жа господин госпожа"
        )
            .Split(' ')
            .Select(FoldedText.Of),
    ];

    // Letters that are titles only with a full stop: Sr. García, M. Dupont, Fr. Brown.
    static readonly HashSet<string> WithStop =
    [
        .. (
            "m d me don dona sister father pan master general major judge justice chief officer president tan tun daw br ir mag bay "
            + "lord lady gov rep sen"
        ).Split(' '),
    ];
    static readonly HashSet<string> AlwaysTitle = [.. "don dona sister father pan pani judge justice bay bayan lord lady".Split(' ')];
    static readonly HashSet<string> Suffixes = new(
        (
            "jr jnr junior jun snr senior sen ii iii iv v vi 2nd 3rd 4th phd md dds dmd dvm do esq esquire cpa rn bsn msw lcsw mba "
            + "jd llm lld edd dd dmin psyd scd mfa bsc msc ba ma bs ms cfa cfp pe aia faia obe cbe mbe kbe qc kc mp frs frcs sj "
            + "op osb osf csc ofm cm ret usn usa usmc usaf md-phd mdb ofs"
        ).Split(' ')
    );
    static readonly HashSet<string> Generational = [.. "jr jnr junior jun sr snr senior ii iii iv v vi 2nd 3rd 4th".Split(' ')];
    static readonly HashSet<string> Particles =
    [
        .. (
            "van von vom zu zur zum de del della dello dei degli delle di da do dos das du d des la le les lo los las el al ad bin "
            + "ibn bint ben bat abu abd ter ten te den der dem op aan uit 't 's in st saint san santa mac mc o ni nic ui ap ab af "
            + "av el- y e i "
            + "ó ní mhic úi"
        )
            .Split(' ')
            .Select(FoldedText.Of),
    ];
    static readonly HashSet<string> JoiningParticles = [.. "y e i".Split(' ')];

    [GeneratedRegex(
        @"\s*(?:\s&\s|\s\+\s|&|\+|\s(?:and|AND|And|und|UND|y|e|et|ET|en|och|og|ja|i|a|és|ve|και|и)\s)\s*",
        RegexOptions.CultureInvariant
    )]
    internal static partial Regex And();

    [GeneratedRegex(
        @"^(?:(?:to )?(?:the |our |current |present |postal |valued |dear )*(?:resident|occupant|householder|home ?owner|"
            + @"property owner|business owner|customer|neighbou?r|patron|tenant|friend|member|supporter|owner|manager|office manager|"
            + @"bewohner|an alle haushalte|vecino|inquilino|occupante?|habitant|bewoner)s?|(?:or |au |al |"
            + @"an )?(?:current )?(?:resident|occupant))$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Nobody();

    /// <summary>Mail for whoever lives there, whether or not the person named still does.</summary>
    [GeneratedRegex(
        @"[\s,]+or (?:to )?(?:the )?(?:current |present )?(?:resident|occupant|householder|tenant|neighbou?r)s?$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.RightToLeft
    )]
    private static partial Regex OrResident();

    [GeneratedRegex(
        @"^(?:the )?(?:board|estate|heirs|trustees?|executors?|survivors|family|parents?|guardians?|friends|nachlass|erben|herederos|"
            + @"succession|eredi|erven) (?:of|de|von|di|van)\b|\b(?:estate|trust|(?:rev|revocable|irrev|liv|living|fam|family) tr)$"
            + @"|^estate\b",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Estate();

    [GeneratedRegex(
        @"^(?:the (?<n>.+?) (?:family|household)|(?:familie|familia|famille|famiglia|família|familjen|familien|rodina) (?<n>.+)|"
            + @"(?<n>\S+) (?:family|household)|the (?<n>\S+s))$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Family_();

    [GeneratedRegex(@"\s*[(""“„«][^)""”“»]{1,30}[)""”“»]\s*", RegexOptions.CultureInvariant)]
    private static partial Regex Nickname();

    // How rolls of owners say that there are others, that somebody holds in trust, or how several hold: none of it is of the name.
    [GeneratedRegex(
        @"(?<=\S\s+\S+)(?<!\b(?:of|and|the|for)|&)(?:[\s,]+(?:et\s?al\.?|et\s?ux\.?|et\s?vir\.?|trustees?|co-trustees?|ttees?|"
            + @"(?-i:TRS?|JTRS|JT TEN|JT|TIC|H/W|W/H)))+$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex LegalEnd();

    internal static string WithoutLegalEnd(string name) => LegalEnd().Replace(name, "").TrimEnd(',', ' ');

    /// <summary>Divides a name: <c>Dr. Ana de la Cruz</c>, <c>Okafor, Ana</c>, <c>Mr. and Mrs. John Q. Public III</c>, <c>Acme Hardware,
    /// Inc.</c></summary>
    /// <param name="familyFirst">True where the names of the column have the family name first without a comma, see
    /// <see cref="NameOrder"/>.</param>
    public static NameParts Of(string name, bool familyFirst = false)
    {
        name = string.Join(' ', name.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)).Trim(',', ';', ' ', '&', '+');
        if (name.Length == 0)
            return new(null, null, null);
        if (Nobody().IsMatch(name) || Estate().IsMatch(name))
            return OfNobody(name);
        if (OrResident().Match(name) is { Success: true } whoever)
            return Of(name[..whoever.Index]).Organization is null ? Unsure(name) : OfNobody(name);
        if (IsHousehold(name))
            return new(null, null, null, Household: name);
        if (IsOrganization(name))
            return OfNobody(name);
        if (name.Any(char.IsAsciiDigit) && !name.Split(' ', ',').Any(w => Suffixes.Contains(Bare(w))))
            return Unsure(name);
        var person = WithoutLegalEnd(name);
        if (person.Length < name.Length && IsOrganization(person))
            return OfNobody(name);
        person = string.Join(", ", person.Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries));
        if (familyFirst)
            person = NameOrder.WithComma(Nickname().Replace(person, " ").Trim());
        return Joint(person, familyFirst) ?? One(Nickname().Replace(person, " ").Trim()) ?? Unsure(name);
    }

    /// <summary>The person alone, as they are greeted: <c>Ana Okafor</c> of <c>Ana Okafor or Current Resident</c>; empty where nobody is
    /// named.</summary>
    public static string WithoutResident(string name) =>
        name.Length > 10 && OrResident().Match($" {name}") is { Success: true } match ? name[..Math.Max(0, match.Index - 1)] : name;

    /// <summary>True for a name of all who live together: <c>The Ortega Family</c>, <c>Ortega household</c>, <c>The Ortegas</c>.</summary>
    public static bool IsHousehold(string name) =>
        Family_().Match(name) is { Success: true } home && !OrganizationName.Is(home.Groups["n"].Value);

    static NameParts OfNobody(string name) => new(null, null, null, Organization: name);

    static NameParts Unsure(string name) => new(null, null, name, IsCertain: false);

    static string Bare(string word) => FoldedText.Of(word).Replace(".", "").Trim(',', ' ');

    /// <summary>Words by which organizations call themselves, where they are not the family name of somebody with a given name or a
    /// title.</summary>
    static bool IsOrganization(string name)
    {
        if (OrganizationName.IsSurely(name))
            return true;
        var first = name[..(name.IndexOf(' ') is var space and > 0 ? space : name.Length)];
        return !name.Contains(',') && !IsTitle(first) && first.Length > 2 && OrganizationName.Is(name);
    }

    internal static bool IsTitle(string word)
    {
        var bare = Bare(word);
        if (bare.Length == 0 || !Titles.Contains(bare))
            return false;
        // Don Klein and Tan Wei are names; Don and Doña before a given name are told by the caller.
        return !WithStop.Contains(bare) || word.EndsWith('.') || AlwaysTitle.Contains(bare);
    }

    internal static bool IsParticle(string word) => word.TrimEnd('.').Length > 1 && Particles.Contains(Bare(word));

    internal static bool IsGenerational(string word) => Generational.Contains(Bare(word)) && IsSuffix(word, true);

    static bool IsSuffix(string word, bool last)
    {
        var bare = Bare(word);
        if (!Suffixes.Contains(bare) && !(last && bare == "sr"))
            return false;
        // V and Ma are names as well; degrees are written in capitals.
        return bare.Length > 2
            || Generational.Contains(bare) && (bare is not ("v" or "vi") || word.All(c => char.IsUpper(c) || c is ',' or '.'))
            || word.Where(char.IsLetter).All(char.IsUpper);
    }

    static List<string> Words(string text) => [.. text.Split(' ', StringSplitOptions.RemoveEmptyEntries)];

    static string? TakeTitles(List<string> words)
    {
        var titles = new List<string>();
        // The Rev., the Hon., the Rt. Rev.
        if (
            words.Count > 2
            && words[0].Equals("the", StringComparison.OrdinalIgnoreCase)
            && (IsTitle(words[1]) || Bare(words[1]) is "rt" or "very" or "most" or "right")
        )
        {
            titles.Add(words[0]);
            words.RemoveAt(0);
        }
        if (words.Count > 2 && Bare(words[0]) is "rt" or "right" or "very" or "most" && IsTitle(words[1]))
        {
            titles.Add(words[0]);
            words.RemoveAt(0);
        }
        while (
            words.Count > 1
            && IsTitle(words[0])
            && !(
                words.Count == 2
                && AlwaysTitle.Contains(Bare(words[0]))
                && !KnownNames.IsGiven(words[1])
                && !words[0].EndsWith('.')
                && Bare(words[0]) is "don" or "pan" or "bay"
            )
        )
        {
            titles.Add(words[0].TrimEnd(','));
            words.RemoveAt(0);
        }
        return titles.Count == 0 ? null : string.Join(' ', titles);
    }

    static string? TakeSuffixes(List<string> words)
    {
        var suffixes = new List<string>();
        while (words.Count > 1 && IsSuffix(words[^1], true))
        {
            suffixes.Insert(0, words[^1].Trim(','));
            words.RemoveAt(words.Count - 1);
        }
        if (words.Count > 0)
            words[^1] = words[^1].TrimEnd(',');
        return suffixes.Count == 0 ? null : string.Join(", ", suffixes);
    }

    /// <summary>Two people in one cell; null where it is one. Three and more cannot be told apart.</summary>
    static NameParts? Joint(string name, bool familyFirst)
    {
        var parts = And().Split(name).Where(p => p.Length > 0).ToList();
        if (parts.Count < 2)
            return null;
        // A single letter or a particle between two names joins one family name: Ortega y Gasset.
        if (
            parts.Count == 2
            && name.Contains(" y ", StringComparison.OrdinalIgnoreCase)
                | name.Contains(" i ", StringComparison.OrdinalIgnoreCase)
                | name.Contains(" e ", StringComparison.OrdinalIgnoreCase)
                | name.Contains(" en ", StringComparison.OrdinalIgnoreCase)
                | name.Contains(" a ", StringComparison.OrdinalIgnoreCase)
            && Words(parts[0]).Count > 1
            && !KnownNames.IsGiven(Words(parts[1])[0])
            && !IsTitle(Words(parts[1])[0])
        )
            return null;
        // Ortega y Gasset, José.
        if (
            parts.Count == 2
            && JoiningParticles.Any(p => name.Contains($" {p} ", StringComparison.OrdinalIgnoreCase))
            && !parts[0].Contains(',')
            && parts[1].Split(',', 2) is [_, var given]
            && !IsSuffix(given.Trim(), true)
        )
            return null;
        if (parts.Count > 2)
            return Unsure(name);
        // Klein, Mr. & Mrs. Ed; Smith, John and Mary.
        var comma = parts[0].IndexOf(',');
        string? before = null;
        if (comma > 0 && !IsSuffix(parts[0][(comma + 1)..].Trim(), true))
            (before, parts[0]) = (parts[0][..comma].Trim(), parts[0][(comma + 1)..].Trim());
        var (first, second) = (Words(parts[0]), Words(parts[1]));
        var (title, partnerTitle) = (Leading(first), Leading(second));
        var suffix = TakeSuffixes(second);
        if (before is not null)
        {
            var ofFirst = TakeSuffixes(first);
            // SMITH JOHN & OKAFOR MARY: the second has a family name of her own.
            if (familyFirst && second.Count is 2 or 3 && !KnownNames.IsGiven(second[0]) && KnownNames.IsGiven(second[1]))
                return first.Count == 0
                    ? Unsure(name)
                    : new(title, Joined(first), before, ofFirst, partnerTitle, Joined(second[1..]), second[0]);
            // Ana, Luis and Per Klein: the comma divides people and no family name.
            if (
                first.Count > 2
                || second.Count > 2
                || second.Count == 2 && first.Count > 0 && second[1].TrimEnd('.').Length > 1 && !KnownNames.IsGiven(second[1])
            )
                return Unsure(name);
            return first.Count == 0
                ? new(title, JoinedIfAny(second), before, suffix, partnerTitle, null, before)
                : new(title, Joined(first), before, ofFirst ?? suffix, partnerTitle, JoinedIfAny(second), before);
        }
        if (second.Count == 0)
            return Unsure(name);
        // Mr. and Mrs. Ed Klein: both have the second's name.
        if (first.Count == 0)
        {
            if (title is null || second.Count == 0)
                return Unsure(name);
            var shared = Split(second);
            return shared is null ? Unsure(name)
                : second.Count == 1 ? new(title, null, second[0], suffix, partnerTitle, null, second[0])
                : new(title, shared.Given, shared.Family, suffix, partnerTitle, null, shared.Family);
        }
        // Ana and Luis Ortega; Ana Okafor and Luis Ortega.
        var firstSuffix = TakeSuffixes(first);
        if (Split(second) is not { } other)
            return Unsure(name);
        if (second.Count == 1)
        {
            // Ana Okafor and Luis: they share the first's family name. Mr. Klein and Mrs. Haas have their own.
            if (partnerTitle is not null && title is not null && first.Count == 1)
                return new(title, null, first[0], firstSuffix, partnerTitle, null, second[0]);
            if (first.Count < 2 || Split(first) is not { } one || !KnownNames.IsGiven(second[0]))
                return Unsure(name);
            return new(title, one.Given, one.Family, firstSuffix, partnerTitle, second[0], one.Family);
        }
        if (first.Count == 1 && title is not null && partnerTitle is not null && !KnownNames.IsGiven(first[0]))
            return new(title, null, first[0], firstSuffix, partnerTitle, other.Given, other.Family);
        if (
            first.Count == 1
            || first.Count == 2
                && (
                    first[1].TrimEnd('.').Length == 1
                    || KnownNames.IsGiven(first[0]) && KnownNames.IsGiven(first[1]) && KnownNames.IsGiven(second[0])
                )
        )
            return OrganizationName.Is(second[^1])
                ? Unsure(name)
                : new(title, Joined(first), other.Family, firstSuffix ?? suffix, partnerTitle, other.Given, other.Family);
        return Split(first) is { } own
            ? new(title, own.Given, own.Family, firstSuffix, partnerTitle, other.Given, other.Family)
            : Unsure(name);
    }

    /// <summary>Titles that take all words but leave the list empty where nothing else stands there: <c>Mr.</c> before “and Mrs.
    /// …”.</summary>
    static string? Leading(List<string> words)
    {
        if (words.Count > 0 && words.All(IsTitle))
        {
            var all = string.Join(' ', words);
            words.Clear();
            return all;
        }
        return TakeTitles(words);
    }

    static string? JoinedIfAny(List<string> words) => words.Count == 0 ? null : Joined(words);

    static string Joined(List<string> words) => string.Join(' ', words);

    static NameParts? One(string name)
    {
        var words = Words(name);
        var title = TakeTitles(words);
        // A comma before a suffix belongs to it; any other divides the family name from the rest.
        var comma = words.FindIndex(w => w.EndsWith(','));
        while (comma >= 0 && comma < words.Count - 1 && IsSuffix(words[comma + 1], comma + 1 == words.Count - 1))
        {
            // Smith, Jr., John: the suffix stands in the middle.
            if (comma + 2 < words.Count && words[comma + 1].EndsWith(',') && !words.Skip(comma + 2).All(w => IsSuffix(w, true)))
            {
                var given = words[(comma + 2)..];
                var more = TakeTitles(given);
                return new(title ?? more, Joined(given), Joined(words[..(comma + 1)]).TrimEnd(','), words[comma + 1].TrimEnd(','));
            }
            comma = -1;
        }
        if (comma > 0 || comma == 0)
        {
            if (comma == words.Count - 1)
                return null;
            var family = Joined(words[..(comma + 1)]).TrimEnd(',');
            var rest = words[(comma + 1)..];
            var own = TakeTitles(rest);
            var suffix = TakeSuffixes(rest);
            // A second comma that divides no suffix: this is no name of one person.
            if (rest.Any(w => w.EndsWith(',')) || comma > 3)
                return null;
            var familySuffix = Words(family);
            var ofFamily = TakeSuffixes(familySuffix);
            return new(Both(title, own), rest.Count == 0 ? null : Joined(rest), Joined(familySuffix), suffix ?? ofFamily);
        }
        var after = TakeSuffixes(words);
        if (words.Any(w => w.EndsWith(',')))
            return null;
        if (words.Count == 1 && words[0].Length > 1 && words[0].All(IsEastAsian))
        {
            var (bare, honorific) = WithoutHonorific(words[0]);
            var at = KnownNames.FamilyCharacters(bare);
            return at == 0 ? null : new(title ?? honorific, bare[at..], bare[..at], after);
        }
        if (words.Count == 1)
            return new(title, null, words[0], after);
        return Split(words) is { } parts ? parts with { Title = title, Suffix = after } : null;
    }

    static string? Both(string? a, string? b) =>
        a is null ? b
        : b is null ? a
        : $"{a} {b}";

    static bool IsEastAsian(char c) => c is >= '\u3040' and <= '\u30ff' or >= '\u3400' and <= '\u9fff' or >= '\uac00' and <= '\ud7a3';

    static (string Name, string? Honorific) WithoutHonorific(string name)
    {
        foreach (var honorific in (string[])["先生", "女士", "小姐", "様", "さん", "님", "씨"])
            if (name.Length > honorific.Length + 1 && name.EndsWith(honorific, StringComparison.Ordinal))
                return (name[..^honorific.Length], honorific);
        return (name, null);
    }

    /// <summary>Given and family name of words without title and suffix; null where their order cannot be told.</summary>
    static NameParts? Split(List<string> words)
    {
        if (words.Count == 0)
            return null;
        if (words.Count == 1)
            return new(null, null, words[0]);
        if (words.Count > 6)
            return null;
        // M. et Mme de La Fontaine: no given name stands there.
        if (
            words.Count < 5 && Particles.Contains(Bare(words[0])) && char.IsLower(words[0][0])
            || words.Count == 2 && Bare(words[0]) is "le" or "la" or "du" or "mac" or "de" or "von" or "van"
        )
            return new(null, null, Joined(words));
        var last = words.Count - 1;
        // Family name first: in its own script, and where both words are known to stand so (CLDR, nameOrderLocales; Hungarian, Vietnamese,
        // Chinese, Japanese, Korean).
        if (words.Count == 2 && words.All(w => w.All(IsEastAsian)))
            return new(null, words[1], words[0]);
        if (Patronymic().IsMatch(words[last]) && words.Count == 3)
            return new(null, $"{words[1]} {words[2]}", words[0]);
        if (KnownNames.IsFamily(words[0], "vi") && words.Count > 2 && !KnownNames.IsFamily(words[last], "vi"))
            return new(null, Joined(words[1..]), words[0]);
        foreach (var language in (string[])["vi", "zh", "ko", "ja", "hu"])
        {
            if (!KnownNames.IsFamily(words[0], language) || words.Count > 3 || KnownNames.IsFamily(words[last], language))
                continue;
            if (
                KnownNames.IsGiven(words[last], language)
                || language is "zh" or "ko"
                    && (
                        words[last].Contains('-') && words[last].Length <= 14
                        || words.Count == 3 && words.Skip(1).All(w => w.Length <= 6) && !KnownNames.IsGiven(words[last], "en")
                    )
                    && !KnownNames.IsGiven(words[0], "en")
            )
                return new(null, Joined(words[1..]), words[0]);
            // Both orders are possible: Li Wei, Kim Soo.
            if (
                language is "zh" or "ko"
                && words.Count == 2
                && words[last].Length <= 5
                && !KnownNames.IsGiven(words[0])
                && !KnownNames.IsGiven(words[last])
                && !words[last].EndsWith("son", StringComparison.OrdinalIgnoreCase)
            )
                return null;
        }
        // Particles belong to the family name: Jan van der Berg, Ana de la Cruz, Seán Ó Briain; also the first of several: Maria dos Santos
        // Silva.
        var start = -1;
        for (var i = 1; i < last; i++)
            if (
                Particles.Contains(Bare(words[i]))
                && !(
                    words[i].Length == 1
                    && !JoiningParticles.Contains(Bare(words[i]))
                    && char.IsUpper(words[i][0])
                    && Bare(words[i]) is not "o"
                )
                && !words[i].EndsWith('.')
            )
            {
                start = JoiningParticles.Contains(Bare(words[i])) ? Math.Max(1, i - 1) : i;
                break;
            }
        if (start > 0)
        {
            // Maria del Carmen Ruiz: the particle is the given name's where a known one follows and more comes.
            if (
                words.Count - start >= 3
                && KnownNames.IsGiven(words[0])
                && (Bare(words[start]) is "del" or "de" or "da" or "do")
                && (
                    KnownNames.IsGiven(words[start + 1], "es")
                    || Bare(words[start + 1]) is "los" or "las" or "la" && words.Count - start >= 4 && IsMarian(words[start + 2])
                )
            )
            {
                var end = Bare(words[start + 1]) is "los" or "las" or "la" ? start + 3 : start + 2;
                if (end < words.Count)
                    return new(null, Joined(words[..end]), Joined(words[end..]));
            }
            return new(null, Joined(words[..start]), Joined(words[start..]));
        }
        if (words.Count == 2)
            return new(null, words[0], words[1]);
        // Two family names, as in Spanish and Portuguese.
        if (
            words.Count is 3 or 4
            && IsIberian(words[last - 1])
            && !KnownNames.IsGiven(words[last])
            && (KnownNames.IsGiven(words[0], "es") || KnownNames.IsGiven(words[0], "pt"))
            && !(KnownNames.IsGiven(words[last - 1]) && !IsIberian(words[last - 1]))
        )
            return new(null, Joined(words[..^2]), Joined(words[^2..]));
        return new(null, Joined(words[..^1]), words[^1]);
    }

    static bool IsIberian(string word) => KnownNames.IsFamily(word, "es");

    static bool IsMarian(string word) =>
        FoldedText.Of(word) is "angeles" or "dolores" or "mercedes" or "nieves" or "reyes" or "luz" or "paz" or "santos";

    [GeneratedRegex(
        @"(ович|евич|ич|овна|евна|ична|инична|ovich|evich|ovna|evna)$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Patronymic();
}
