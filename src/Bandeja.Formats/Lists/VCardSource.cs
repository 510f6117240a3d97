using System.Text;

namespace Bandeja.Formats.Lists;

/// <summary>
/// A file of vCards, of one version or of several: 2.1 (versit, 1996), 3.0 (RFC 2426), 4.0 (RFC 6350). One recipient a card,
/// with the columns that any of the cards fills.
/// </summary>
sealed class VCardSource(string path, string name) : ISource
{
    static readonly string[] Headings =
    [
        "Title",
        "Given name",
        "Middle names",
        "Family name",
        "Suffix",
        "Full name",
        "Organization",
        "Position",
        "Street",
        "Address line 2",
        "City",
        "Region",
        "Postal code",
        "Country",
        "Email",
        "Phone",
        "Birthday",
        "Language",
        "Categories",
        "Note",
        "Card id",
    ];

    // A card holds its photograph in a line of its own.
    const int LongestLine = 30_000_000;

    public string Kind => "vcard";
    public bool NamesItsColumns => true;

    public IReadOnlyList<SheetInfo> Parts() => [];

    public SourceOptions Complete(SourceOptions options) => new(HeadingRow: 0);

    public IRowReader Rows(SourceOptions complete)
    {
        var notes = new SourceNotes();
        var count = new CellCount();
        var cards = new List<string?[]>();
        foreach (var card in Cards(notes))
        {
            cards.Add(card);
            count.Add(card, cards.Count);
        }
        if (cards.Count == 0)
            throw new ListFileException($"“{name}” contains no vCards.");
        var used = Enumerable.Range(0, Headings.Length).Where(i => cards.Any(c => c[i] is not null)).ToList();
        // The name as it is shown says nothing more where its parts are there.
        if (cards.All(c => c[5] is null || c[1] is not null || c[3] is not null))
            used.Remove(5);
        return new MemoryRowReader(
            [
                [.. used.Select(i => Headings[i])],
                .. cards.Select(c => used.Select(i => c[i]).ToArray()),
            ],
            notes
        );
    }

    IEnumerable<string?[]> Cards(SourceNotes notes)
    {
        string?[]? card = null;
        var (number, line, began) = (0, 0, 0);
        foreach (var (text, at) in Unfolded())
        {
            line = at;
            if (text.Length == 0)
                continue;
            if (Property.Parse(text) is not { } property)
            {
                notes.Add("Lines that are not part of a vCard were skipped", $"line {at:N0}");
                continue;
            }
            if (property.Name == "BEGIN" && property.Raw.Equals("VCARD", StringComparison.OrdinalIgnoreCase))
            {
                if (card is not null)
                    notes.Add("Incomplete vCards were imported up to where they end", $"card {number:N0}, line {began:N0}");
                if (card is not null)
                    yield return card;
                (card, began) = (new string?[Headings.Length], at);
                number++;
            }
            else if (property.Name == "END" && card is not null)
            {
                yield return card;
                card = null;
            }
            else if (card is not null)
                Take(card, property);
        }
        if (card is null)
            yield break;
        notes.Add("Incomplete vCards were imported up to where they end", $"card {number:N0}, line {began:N0}");
        yield return card;
    }

    static void Take(string?[] card, Property p)
    {
        void Set(int at, string? value)
        {
            if (!string.IsNullOrWhiteSpace(value))
                card[at] = value.Trim();
        }
        // Of several addresses the preferred one counts, else the first.
        bool Wanted(int at) => card[at] is null || p.IsPreferred;
        switch (p.Name)
        {
            case "N":
                var n = p.Components();
                Set(3, n.ElementAtOrDefault(0));
                Set(1, n.ElementAtOrDefault(1));
                Set(2, n.ElementAtOrDefault(2));
                Set(0, n.ElementAtOrDefault(3));
                Set(4, n.ElementAtOrDefault(4));
                break;
            case "FN" when Wanted(5):
                Set(5, p.Text());
                break;
            case "ORG":
                Set(6, string.Join(", ", p.Components().Where(c => c.Length > 0)));
                break;
            case "TITLE":
                Set(7, p.Text());
                break;
            case "ADR" when Wanted(8) && Wanted(10):
                var a = p.Components();
                for (var i = 8; i <= 13; i++)
                    card[i] = null;
                Set(8, a.ElementAtOrDefault(2));
                Set(
                    9,
                    string.Join(", ", new[] { a.ElementAtOrDefault(1), a.ElementAtOrDefault(0) }.Where(x => !string.IsNullOrWhiteSpace(x)))
                );
                Set(10, a.ElementAtOrDefault(3));
                Set(11, a.ElementAtOrDefault(4));
                Set(12, a.ElementAtOrDefault(5));
                Set(13, a.ElementAtOrDefault(6));
                break;
            case "EMAIL" when Wanted(14):
                Set(14, p.Text().Replace("mailto:", "", StringComparison.OrdinalIgnoreCase));
                break;
            case "TEL" when Wanted(15):
                Set(15, p.Text().Replace("tel:", "", StringComparison.OrdinalIgnoreCase));
                break;
            case "BDAY":
                Set(16, Birthday(p.Text()));
                break;
            case "LANG" when Wanted(17):
                Set(17, p.Text());
                break;
            case "CATEGORIES":
                Set(18, p.Text());
                break;
            case "NOTE":
                Set(19, p.Text());
                break;
            case "UID":
                Set(20, p.Text());
                break;
        }
    }

    static string Birthday(string text) =>
        text.Length >= 8 && text.Take(8).All(char.IsAsciiDigit) ? $"{text[..4]}-{text[4..6]}-{text[6..8]}"
        : text.Length > 10 && text[10] == 'T' ? text[..10]
        : text;

    /// <summary>Content lines with their continuations joined (RFC 6350 section 3.2; soft breaks of quoted-printable lines as
    /// well).</summary>
    IEnumerable<(string Text, int Line)> Unfolded()
    {
        using var file = File.OpenRead(path);
        var mark = new byte[3];
        var length = file.ReadAtLeast(mark, 3, throwOnEndOfStream: false);
        var utf16 = mark is [0xFF, 0xFE, ..] or [0xFE, 0xFF, ..];
        file.Position =
            utf16 ? 2
            : length == 3 && mark is [0xEF, 0xBB, 0xBF] ? 3
            : 0;
        // A mixture may change its encoding from card to card; Latin-1 keeps every byte until the property says what it is.
        using var lines = new StreamReader(
            file,
            !utf16 ? Encoding.Latin1
                : mark[0] == 0xFF ? Encoding.Unicode
                : Encoding.BigEndianUnicode,
            detectEncodingFromByteOrderMarks: false
        );
        var current = new StringBuilder();
        var began = 1;
        for (var i = 0; lines.ReadLine() is { } text; i++)
        {
            if (current.Length > LongestLine)
                throw new ListFileException($"Line {began:N0} of “{name}” is longer than {LongestLine:N0} characters; it was not read.");
            var soft = current.Length > 0 && current[^1] == '=' && IsQuotedPrintable(current);
            if (soft)
                current.Length--;
            if (i > 0 && (soft || text.Length > 0 && text[0] is ' ' or '\t'))
                current.Append(soft ? text.TrimStart(' ', '\t') : text[1..]);
            else
            {
                if (i > 0)
                    yield return (Decoded(current.ToString(), utf16), began);
                current.Clear().Append(text);
                began = i + 1;
            }
        }
        yield return (Decoded(current.ToString(), utf16), began);
    }

    static bool IsQuotedPrintable(StringBuilder line)
    {
        var text = line.ToString();
        var colon = text.IndexOf(':');
        return colon > 0 && text.AsSpan(0, colon).Contains("QUOTED-PRINTABLE", StringComparison.OrdinalIgnoreCase);
    }

    static string Decoded(string line, bool utf16)
    {
        if (utf16)
            return line;
        var bytes = Encoding.Latin1.GetBytes(line);
        return System.Text.Unicode.Utf8.IsValid(bytes)
            ? Encoding.UTF8.GetString(bytes)
            : Encodings.Get(EncodingGuess.Of(bytes).Encoding).GetString(bytes);
    }

    /// <summary>One property of a card: its name without group, its parameters, its value.</summary>
    sealed record Property(string Name, IReadOnlyList<string> Parameters, string Raw)
    {
        public static Property? Parse(string line)
        {
            var quoted = false;
            var colon = -1;
            for (var i = 0; i < line.Length && colon < 0; i++)
            {
                if (line[i] == '"')
                    quoted = !quoted;
                else if (line[i] == ':' && !quoted)
                    colon = i;
            }
            if (colon < 1)
                return null;
            var head = line[..colon].Split(';');
            var name = head[0][(head[0].LastIndexOf('.') + 1)..].Trim().ToUpperInvariant();
            return name.Length == 0 || !name.All(c => char.IsAsciiLetterOrDigit(c) || c == '-')
                ? null
                : new(name, [.. head.Skip(1).Select(p => p.Trim().ToUpperInvariant())], line[(colon + 1)..]);
        }

        public bool IsPreferred =>
            Parameters.Any(p =>
                p is "PREF" or "PREF=1" || p.StartsWith("TYPE=", StringComparison.Ordinal) && p.Contains("PREF", StringComparison.Ordinal)
            );

        string Value
        {
            get
            {
                if (!Parameters.Any(p => p.Contains("QUOTED-PRINTABLE", StringComparison.Ordinal)))
                    return Raw;
                var charset = Parameters
                    .FirstOrDefault(p => p.StartsWith("CHARSET=", StringComparison.Ordinal))
                    ?[8..].Trim('"')
                    .ToLowerInvariant();
                var bytes = new List<byte>();
                for (var i = 0; i < Raw.Length; i++)
                {
                    if (
                        Raw[i] == '='
                        && i + 2 < Raw.Length
                        && byte.TryParse(Raw.AsSpan(i + 1, 2), System.Globalization.NumberStyles.HexNumber, null, out var b)
                    )
                    {
                        bytes.Add(b);
                        i += 2;
                    }
                    else
                        bytes.AddRange(Encoding.UTF8.GetBytes([Raw[i]]));
                }
                var encoding =
                    charset is not null && Encodings.Known.Contains(charset) ? Encodings.Get(charset)
                    : System.Text.Unicode.Utf8.IsValid(bytes.ToArray()) ? Encoding.UTF8
                    : Encodings.Get(EncodingGuess.Of(bytes.ToArray()).Encoding);
                return encoding.GetString([.. bytes]);
            }
        }

        public string Text() => Unescape(Value);

        /// <summary>The parts of a structured value, divided by semicolons that are not escaped.</summary>
        public IReadOnlyList<string> Components()
        {
            var parts = new List<string>();
            var part = new StringBuilder();
            var value = Value;
            for (var i = 0; i < value.Length; i++)
            {
                if (value[i] == '\\' && i + 1 < value.Length)
                {
                    part.Append(value[i]).Append(value[++i]);
                    continue;
                }
                if (value[i] == ';')
                {
                    parts.Add(Unescape(part.ToString()).Trim());
                    part.Clear();
                }
                else
                    part.Append(value[i]);
            }
            parts.Add(Unescape(part.ToString()).Trim());
            return parts;
        }

        static string Unescape(string text)
        {
            if (!text.Contains('\\'))
                return text;
            var plain = new StringBuilder(text.Length);
            for (var i = 0; i < text.Length; i++)
            {
                if (text[i] == '\\' && i + 1 < text.Length && text[i + 1] is 'n' or 'N' or ',' or ';' or '\\' or ':')
                    plain.Append(text[++i] is 'n' or 'N' ? '\n' : text[i]);
                else
                    plain.Append(text[i]);
            }
            return plain.ToString();
        }
    }
}
