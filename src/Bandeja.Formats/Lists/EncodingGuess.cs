using System.Globalization;
using System.Text;
using UtfUnknown;

namespace Bandeja.Formats.Lists;

/// <summary>How a text would read in one encoding.</summary>
/// <param name="Encoding">A name from <see cref="Encodings.Known"/>.</param>
/// <param name="Sample">The first words that are not plain ASCII, as they would read.</param>
public sealed record EncodingReading(string Encoding, string Sample);

/// <summary>
/// Tells in which encoding a text was written, where it is neither Unicode nor plain ASCII: it is read in each that can be, and the reading
/// is
/// taken that looks most like words. Where two look alike and read differently, somebody has to say.
/// </summary>
static class EncodingGuess
{
    static readonly string[] SingleByte =
    [
        "windows-1252",
        "macintosh",
        "ibm850",
        "ibm437",
        "windows-1250",
        "iso-8859-2",
        "ibm852",
        "windows-1251",
        "ibm866",
        "koi8-r",
        "windows-1253",
        "windows-1254",
        "windows-1257",
    ];
    static readonly string[] Multibyte = ["shift_jis", "euc-jp", "gb18030", "big5", "euc-kr"];

    // The letters that names and addresses of these scripts have most often: surnames, and the words for city, district, street and number.
    const string Hans =
        "王李张刘陈杨赵黄周吴徐孙胡朱高林何郭马罗市省区县路号街道镇村州海京东西南北中山江安广湖河天大小明华国文军平丽姓名地址电话邮编公司";
    const string Hant =
        "王李張劉陳楊趙黃周吳徐孫胡朱高林何郭馬羅市省區縣路號街道鎮村里樓巷弄段東西南北中山江安廣台臺灣大小明華國文美麗姓名地址電話郵遞區公司";
    const string Hangul =
        "김이박최정강조윤장임한오서신권황안송류홍전고문양손배백허남심노하곽성차주우구시도군동로길읍면울산부대인천광주경기수원호번지층아파트름소화우편회사민지현영수정은선";
    const string Han = "市区町村都道府県丁目番地号室山川田中村木林本野原大小高東西南北京一二三四五六七八九十子美男夫氏名住所電話郵便会社様";

    /// <summary>The likeliest encoding, and all readings that are about as likely; more than one where it cannot be told.</summary>
    /// <param name="text">Lines with the bytes beyond ASCII that the file has.</param>
    public static (string Encoding, IReadOnlyList<EncodingReading> Readings) Of(ReadOnlySpan<byte> text)
    {
        var all = new List<(string Name, double Score, string Text)>();
        var bytes = text.ToArray();
        foreach (var name in Multibyte.Concat(SingleByte))
        {
            var encoding = Encoding.GetEncoding(name, EncoderFallback.ExceptionFallback, DecoderFallback.ExceptionFallback);
            string read;
            try
            {
                read = encoding.GetString(bytes);
            }
            catch (DecoderFallbackException)
            {
                continue;
            }
            all.Add((name, Multibyte.Contains(name) ? OfIdeographs(read, name, bytes) : OfLetters(read), read));
        }
        if (all.Count == 0)
            return ("windows-1252", []);
        var beyond = bytes.Count(b => b > 0x7f);
        // A library that knows the statistics of whole texts has a vote; it needs more text than most lists have.
        if (CharsetDetector.DetectFromBytes(bytes).Detected is { Confidence: >= 0.5f, EncodingName: { } detected })
            for (var i = 0; i < all.Count; i++)
                if (all[i].Name == detected.ToLowerInvariant().Replace("shift-jis", "shift_jis"))
                    all[i] = all[i] with { Score = all[i].Score + (beyond < 200 ? 0 : 0.25) };
        var best = all.MaxBy(a => a.Score);
        // Readings as good that say the same need no question.
        var rivals = all.Where(a =>
                a.Score >= best.Score - Math.Max(0.05, 0.1 * Math.Abs(best.Score))
                || beyond < 8 && Multibyte.Contains(a.Name) != Multibyte.Contains(best.Name) && a.Score > best.Score - 0.7
            )
            .GroupBy(a => a.Text)
            .Select(g => g.First())
            .OrderByDescending(a => a.Score)
            .Take(4)
            .ToList();
        return (
            best.Name,
            rivals.Count < 2 && best.Score > 0.2
                ? []
                :
                [
                    .. (
                        rivals.Count < 2
                            ? all.GroupBy(a => a.Text).Select(g => g.MaxBy(a => a.Score)).OrderByDescending(a => a.Score).Take(4)
                            : rivals
                    ).Select(r => new EncodingReading(r.Name, Words(r.Text))),
                ]
        );
    }

    /// <summary>The first words with letters beyond ASCII.</summary>
    static string Words(string text)
    {
        var words = text.Split([' ', ',', ';', '\t', '|', '"', '\r', '\n'], StringSplitOptions.RemoveEmptyEntries)
            .Where(w => w.Any(c => c > 0x7f))
            .Distinct()
            .Take(6);
        var sample = string.Join(", ", words);
        return sample.Length > 90 ? sample[..90] + "…" : sample;
    }

    /// <summary>How much a reading looks like words of an alphabet: 1 where every letter fits, below 0 where most do not.</summary>
    static double OfLetters(string text)
    {
        double score = 0;
        var count = 0;
        var scripts = new HashSet<char>();
        for (var i = 0; i < text.Length; i++)
        {
            var c = text[i];
            if (c < 0x80)
                continue;
            count++;
            char before = i > 0 ? text[i - 1] : ' ',
                after = i + 1 < text.Length ? text[i + 1] : ' ';
            bool inWord = char.IsLetter(before) || char.IsLetter(after),
                within = char.IsLetter(before) && char.IsLetter(after);
            if (!char.IsLetter(c))
            {
                // Quotation marks and dashes stand around words, an apostrophe and a degree sign may stand at one.
                score +=
                    c is '’' or '‘' ? 0.9
                    : c is '“' or '”' or '–' or '—' or '…' or '€' or '№' or '\u00a0' or '«' or '»'
                        ? within ? -1
                            : 0.9
                    : c is 'º' or '°' or '§' or '£' or '·' ? 0.4
                    : char.IsControl(c) || c is >= '\u2500' and <= '\u25ff' ? -2
                    : inWord ? -1.5
                    : -0.5;
                continue;
            }
            scripts.Add(Script(c));
            // A capital within small letters, or a small letter within capitals, is a letter gone wrong.
            if (
                char.IsUpper(c) && char.IsLower(before)
                || char.IsLower(c) && char.IsUpper(before) && i > 1 && char.IsUpper(text[i - 2]) && char.IsUpper(after)
            )
            {
                score -= 2;
                continue;
            }
            // Two accented letters side by side are rare in Latin script, whole words of them are another script's.
            var side =
                Script(c) == 'L'
                    ? (before > 0x7f && char.IsLetter(before) ? 0.5 : 0) + (after > 0x7f && char.IsLetter(after) ? 0.5 : 0)
                    : 0;
            score += Commonness(c, before, after) - side;
        }
        if (count == 0)
            return 0;
        // Latin letters among Cyrillic ones are one word written in two scripts.
        return score / count - (scripts.Count > 1 ? 0.5 * (scripts.Count - 1) : 0);
    }

    static char Script(char c) =>
        c switch
        {
            < '\u0250' => 'L',
            >= '\u0370' and < '\u0400' => 'G',
            >= '\u0400' and < '\u0530' => 'C',
            _ => '?',
        };

    static double Commonness(char c, char before, char after)
    {
        var lower = char.ToLowerInvariant(c);
        if ("éèêëáàâãäåæçíìîïñóòôöøúùûüßõ".Contains(lower))
            return 1;
        if ("œłąęśżźćńóčřšžýěůďťňőűăâîșțşţğı".Contains(lower) || c == 'İ')
            return 0.8;
        if (lower is 'ð' or 'þ')
            return 0.5;
        if (Script(c) == 'C')
            return (
                    "оеаинтсрвлкмдпуяыьгзбчйхжшюцщэфёіїєґ".Contains(lower)
                        ? "оеаинтсрвл".Contains(lower)
                            ? 1
                            : 0.8
                        : 0.1
                ) * (before < 0x80 && char.IsLetter(before) || after < 0x80 && char.IsLetter(after) ? 0 : 1);
        if (Script(c) == 'G')
            return "αοιετσνηυρπκμλςωδγχθφβξζψάέήίόύώϊϋΐΰ".Contains(lower) ? 0.95 * (before < 0x80 && char.IsLetter(before) ? 0 : 1) : 0.2;
        return "āēģīķļņšūžėįųų".Contains(lower) ? 0.7 : 0;
    }

    /// <summary>How much a reading looks like Chinese, Japanese or Korean: 1 and more where its characters are common ones.</summary>
    static double OfIdeographs(string text, string encoding, byte[] bytes)
    {
        double score = 0;
        var count = 0;
        var common = encoding switch
        {
            "gb18030" => Hans,
            "big5" => Hant,
            "euc-kr" => Hangul,
            _ => Han,
        };
        for (var i = 0; i < text.Length; i++)
        {
            var c = text[i];
            if (c < 0x80)
                continue;
            count++;
            if (common.Contains(c))
                score += 1.6;
            else if (c is >= '\u3040' and <= '\u30ff')
                score += encoding is "shift_jis" or "euc-jp" ? 1.3 : 0.1;
            else if (c is >= '\uac00' and <= '\ud7a3')
                score += encoding == "euc-kr" ? 0.9 : -1;
            else if (c is >= '\u4e00' and <= '\u9fff')
                score += encoding == "euc-kr" ? 0.1 : 0.55;
            else if (c is '、' or '。' or '・' or '〒' or '　' or '（' or '）' or '－' or 'ー' || c is >= '\uff10' and <= '\uff5a')
                score += 0.8;
            // Half-width katakana are what Western letters become.
            else if (c is >= '\uff61' and <= '\uff9f')
                score -= 0.6;
            else if (char.GetUnicodeCategory(c) is UnicodeCategory.PrivateUse or UnicodeCategory.OtherNotAssigned || c == '\ufffd')
                score -= 2;
            else
                score -= 0.8;
        }
        // A character of two bytes among ASCII letters is a Western letter and the one after it.
        for (var i = 1; i < text.Length; i++)
            if (text[i] >= 0x2e80 && char.IsAsciiLetterLower(text[i - 1]))
                score -= 1.2;
        return count == 0 ? 0 : score / count;
    }

    /// <summary>The lines of a file that have bytes beyond ASCII, up to a length.</summary>
    public static byte[] LinesBeyondAscii(string path, int most = 64 << 10)
    {
        using var file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 16, FileOptions.SequentialScan);
        var (found, line, buffer) = (new MemoryStream(), new List<byte>(), new byte[1 << 16]);
        var beyond = false;
        for (int read; found.Length < most && (read = file.Read(buffer)) > 0; )
        {
            var part = buffer.AsSpan(0, read);
            // Most files have long stretches without any.
            if (line.Count == 0 && !part.ContainsAnyExceptInRange((byte)0, (byte)0x7f) && part[^1] == (byte)'\n')
                continue;
            foreach (var b in part)
            {
                if (line.Count < 4096)
                    line.Add(b);
                beyond |= b > 0x7f;
                if (b != '\n')
                    continue;
                if (beyond)
                    found.Write([.. line]);
                line.Clear();
                beyond = false;
                if (found.Length >= most)
                    break;
            }
        }
        if (beyond)
            found.Write([.. line]);
        return found.ToArray();
    }
}
