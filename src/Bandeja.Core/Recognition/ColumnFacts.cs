using System.Globalization;
using System.Text.RegularExpressions;
using Bandeja.Core.Addressing;
using Bandeja.Core.Checks;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Recognition;

/// <summary>What the values of a column look like, whatever its heading says: shares of its filled values, 0 to 1.</summary>
sealed partial class ColumnFacts
{
    static readonly HashSet<string> Titles = new(
        (
            "mr mrs ms miss mx dr prof rev sir lady lord dame hon capt col sgt fr br father sister rabbi imam herr frau herrn "
            + "familie fam dhr mevr mw sr sra srta dna don dona senor senora "
            + "mme m mlle monsieur madame mademoiselle me sig sigra sigr signor signora dott dottssa dottoressa ing avv hr fru frk "
            + "herra rouva pan pani mgr inz bay bayan ur uram asszony dl dna kos κοσ κα г-н г-жа 様 さん 殿 先生 御中 先生 女士 小姐 君 님 씨 귀하 "
            + "선생님 mr mrs"
        )
            .Split(' ')
            .Select(FoldedText.Of)
    );
    static readonly HashSet<string> Languages = new(
        (
            "en es de fr it pt nl sv da no nb nn fi is pl cs hu ro tr el ru ja zh ko ar he en-us en-gb es-mx pt-br fr-ca de-at "
            + "de-ch eng spa deu ger fra fre ita por nld dut jpn kor zho english spanish german french italian portuguese dutch "
            + "swedish danish norwegian finnish polish japanese chinese korean espanol deutsch francais englisch franzosisch "
            + "spanisch italiano portugues nederlands svenska dansk norsk suomi polski anglais allemand ingles inglese tedesco "
            + "日本語 英語 中文 英文 한국어 영어"
        )
            .Split(' ')
            .Select(FoldedText.Of)
    );

    readonly Dictionary<string, double> known = [];
    readonly Country home;

    public ColumnFacts(IEnumerable<string?> values, Country home)
    {
        Values = [.. values.Where(v => !string.IsNullOrWhiteSpace(v)).Take(400).Select(v => v!.Trim())];
        this.home = home;
    }

    /// <summary>The first filled values, trimmed.</summary>
    public IReadOnlyList<string> Values { get; }

    public bool IsBlank => Values.Count == 0;

    double Share(Func<string, bool> test, [System.Runtime.CompilerServices.CallerMemberName] string name = "")
    {
        if (known.TryGetValue(name, out var share))
            return share;
        return known[name] = Values.Count == 0 ? 0 : (double)Values.Count(test) / Values.Count;
    }

    public double Email => Share(EmailAddress.IsValid);
    public double Lettered => Share(v => v.Any(char.IsLetter));
    public double DigitsOnly => Share(v => v.All(char.IsAsciiDigit));
    public double YesNo => Share(v => WrittenValue.TryYesNo(v, out _));
    public double Amount => Share(v => AmountForm().IsMatch(v));
    public double Date => Share(IsDate);
    public double Title =>
        Share(v =>
            Titles.Contains(FoldedText.Of(v.Replace(".", "").Replace(" ", "")))
            || v.Split(' ') is { Length: > 1 and <= 4 } words
                && words.All(w =>
                    w.Length > 0 && (Titles.Contains(FoldedText.Of(w.Trim('.'))) || w is "&" or "and" or "und" or "y" or "et" or "e")
                )
        );
    public double Greeting => Share(v => GreetingForm().IsMatch(v));
    public double Language => Share(v => Languages.Contains(FoldedText.Of(v.Replace('_', '-'))));
    public double Country => Share(v => v.Length > 1 && !(v.Length == 2 && home.RegionOf(v) is not null) && Countries.Named(v) is not null);
    public double CountryNamed => Share(v => Countries.Named(v) is not null);
    public double HomeRegion => Share(v => home.RegionOf(v) is not null);
    public double Phone => Share(v => PhoneForm().IsMatch(v));
    public double SurePhone =>
        Share(v =>
            PhoneForm().IsMatch(v)
            && !IsDate(v)
            && (v.Count(char.IsAsciiDigit) >= 9 || v[0] is '+' or '(')
            && (v[0] == '+' || home.Code is not ("US" or "CA") || NorthAmerican().IsMatch(v))
        );
    public double CodeLike => Share(v => v.Any(char.IsAsciiDigit) && v.Length <= 10 && !AmountForm().IsMatch(v) && !IsDate(v));
    public double HomeCode =>
        Share(v =>
            PostalCode.Judge(home, v).State is PostalCodeState.Right or PostalCodeState.OtherForm
            && !IsDate(v)
            && (home.Regions.Count == 0 || home.RegionsOfCode(v).Any())
        );
    public double Street => Share(v => StreetForm().IsMatch(v) && !IsDate(v));
    public double PlaceWithCode => Share(v => Parts(v) is { PostalCode: not null, City: not null });
    public double StreetWithPlace => Share(v => Parts(v) is { PostalCode: not null, City: not null, Street: not null });
    public double GivenName =>
        Share(v => v.Length <= 20 && v.All(c => char.IsLetter(c) || c is '-' or ' ' or '.') && PersonChecks.IsGivenName(v.Split(' ')[0]));

    /// <summary>Begins with a well-known given name, and has another word.</summary>
    public double GivenFirst => Share(v => v.IndexOf(' ') is > 0 and var end && PersonChecks.IsGivenName(v[..end]));

    /// <summary>Has a comma between words.</summary>
    public double Commas => Share(v => v.IndexOf(',') is > 0 and var at && at < v.Length - 1);
    public double SeveralWords => Share(v => v.Contains(' '));
    public double ShortNumber => Share(v => v.Length <= 8 && char.IsAsciiDigit(v[0]));
    public double Record => Share(v => RecordForm().IsMatch(v));

    /// <summary>True where no value comes twice.</summary>
    public bool Distinct => Values.Distinct(StringComparer.OrdinalIgnoreCase).Count() == Values.Count;

    /// <summary>The four digits that a ZIP+4 adds; without zeros at the front where a spreadsheet dropped them.</summary>
    public double AddOn => Share(v => v.Length <= 4 && v.All(char.IsAsciiDigit));

    /// <summary>True where the same few values come again and again.</summary>
    public bool Repeats => Values.Count >= 4 && Values.Distinct(StringComparer.OrdinalIgnoreCase).Count() * 2 <= Values.Count;

    /// <summary>True where each value could be what one record is known by: written together, with a digit, and none twice.</summary>
    public bool IsKey =>
        Values.Count >= 3
        && Distinct
        && Values.All(v =>
            v.Length is >= 1 and <= 24 && v.Any(char.IsAsciiDigit) && v.All(c => char.IsLetterOrDigit(c) || c is '-' or '/' or '_')
        )
        && Date < 0.5;

    /// <summary>True where every number is larger than the one before: somebody counted.</summary>
    public bool Counts
    {
        get
        {
            var numbers = Values
                .Select(v => long.TryParse(v, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : -1)
                .ToList();
            return numbers.Count > 2 && !numbers.Contains(-1) && numbers.Zip(numbers.Skip(1), (a, b) => b > a).All(x => x);
        }
    }

    AddressParts? Parts(string value) => AddressParts.Of(value, home) ?? AddressParts.Of(value, null);

    /// <summary>A day, also packed into eight digits.</summary>
    static bool IsDate(string v)
    {
        if (v.Length == 8 && v.All(char.IsAsciiDigit))
            return v[..2] is "19" or "20" && WrittenValue.TryDate($"{v[..4]}-{v[4..6]}-{v[6..]}", DateOrder.YearMonthDay, out _);
        return v.Length is >= 6 and <= 24
            && char.IsAsciiDigit(v[0])
            && Enum.GetValues<DateOrder>().Any(o => o != DateOrder.DayNumber && WrittenValue.TryDate(v, o, out _));
    }

    [GeneratedRegex(
        @"^\(?[-+]?\s?[$€£¥]?\s?\d[\d,.' ]*[.,]\d{1,2}\)?\s?([€$£%]|EUR|USD|GBP|CHF|kr|zł|Kč|Ft)?$|^[-+]?[$€£¥]\s?\d[\d,. ]*$|"
            + @"^\d[\d,. ]*\s?([€$£%]|EUR|USD|GBP|CHF|kr|zł|Kč|Ft)$",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex AmountForm();

    [GeneratedRegex(
        @"^(dear|hello|hi|estimad[oa]s?|querid[oa]s?|hola|bonjour|ch[eè]re?s?|madame, monsieur|sehr geehrte|liebe[r]?|guten tag|"
            + @"hallo|gentile|egregi[oa]|car[oa]|buongiorno|prezad[oa]s?|car[oa]s?|ol[áa]|beste|geachte|hej|kære|kjære|hyv[äa]|"
            + @"szanown[yia]|drog[iao]|drah[ýáeo]|v[áa]žen|kedves|tisztelt|stimat[eăa]|say[ıi]n|αγαπητ|уважаем|дорог|拝啓|親愛|尊敬)\b?\s*\S",
        RegexOptions.CultureInvariant | RegexOptions.IgnoreCase
    )]
    private static partial Regex GreetingForm();

    [GeneratedRegex(@"^\+?[\d\s().\-/]{7,20}(\s*(x|ext\.?)\s*\d+)?$", RegexOptions.CultureInvariant | RegexOptions.IgnoreCase)]
    private static partial Regex PhoneForm();

    // North American Numbering Plan: an area code and an exchange begin with 2 to 9. Numbers of parcels and meters have as many digits.
    [GeneratedRegex(@"^(\D*1)?(\D*[2-9]\d\d){2}\D*\d{4}(\D.*)?$", RegexOptions.CultureInvariant)]
    private static partial Regex NorthAmerican();

    // A number and a name, a box, a name and a number, or a kind of street first: Calle, Rua, Via, ul.
    [GeneratedRegex(
        @"^(\d+[\w-]*,?\s+(bis |ter )?\p{L}.{2,}|p\.?\s?o\.?\s+box\s+\d+.*|(postfach|apartado|casella postale|boîte postale|b\.?p\.?|"
            + @"caixa postal|postbus|postboks|skr\. poczt\.?)\s+\d+.*|\p{L}[\p{L}.\-'’ ]{3,},?\s(n[.º°]?\s?)?\d+\s?[\p{L}/\-\d ]{0,6}|"
            + @"(calle|c/|avenida|av\.?|avda\.?|paseo|plaza|rua|r\.|travessa|via|viale|corso|piazza|rue|boulevard|chemin|ul\.|"
            + @"aleja|al\.|pl\.|os\.)\s+\p{L}.{2,})$",
        RegexOptions.CultureInvariant | RegexOptions.IgnoreCase
    )]
    private static partial Regex StreetForm();

    [GeneratedRegex(@"^[A-Za-z]{0,4}[-_ ]?\d{2,12}$", RegexOptions.CultureInvariant)]
    private static partial Regex RecordForm();
}
