using System.Collections.Frozen;
using System.Globalization;

namespace Bandeja.Core.Language;

/// <summary>
/// What people write out of habit, from spreadsheets, from other forms of letters, or as they speak, where the field language has another
/// word for it. None of it is a part of the language: it serves messages that say what to write instead.
/// </summary>
static class Habits
{
    /// <summary>What was written, what to say about it, and what to put in its place where that is known.</summary>
    public readonly record struct Habit(int Length, string Message, string? Ours);

    static readonly (string Written, string Ours)[] Signs =
    [
        ("!==", "<>"),
        ("===", "="),
        ("==", "="),
        ("!=", "<>"),
        ("=>", ">="),
        ("=<", "<="),
        ("&&", "and"),
        ("||", "or"),
    ];

    // The longer ones first: “is not equal to” is not “is”.
    static readonly (string Written, string Ours)[] Phrases =
    [
        .. new (string Written, string Ours)[]
        {
            ("is not equal to", "<>"),
            ("does not equal", "<>"),
            ("is not", "<>"),
            ("is greater than or equal to", ">="),
            ("is at least", ">="),
            ("is less than or equal to", "<="),
            ("is at most", "<="),
            ("is greater than", ">"),
            ("greater than", ">"),
            ("is more than", ">"),
            ("is later than", ">"),
            ("is after", ">"),
            ("is over", ">"),
            ("is less than", "<"),
            ("less than", "<"),
            ("is earlier than", "<"),
            ("is before", "<"),
            ("is under", "<"),
            ("is equal to", "="),
            ("equals", "="),
            ("is", "="),
            ("is not empty", "is not blank"),
            ("is not null", "is not blank"),
            ("is empty", "is blank"),
            ("is null", "is blank"),
            ("includes", "contains"),
            ("like", "contains"),
            ("begins with", "starts with"),
        }.OrderByDescending(p => p.Written.Length),
    ];

    static readonly string[] Choices = ["is any of", "is in", "in"];

    static readonly string[] Negated =
    [
        "is not one of",
        "is not in",
        "not in",
        "is not between",
        "not between",
        "does not contain",
        "not contains",
        "not like",
        "does not start with",
        "does not end with",
    ];

    static readonly FrozenSet<string> Ours = ((string[])["is blank", "is not blank", "is one of"]).ToFrozenSet();

    /// <summary>The habit that stands where the language has a sign or nothing more: behind a value.</summary>
    public static Habit? After(string text, int at, int end)
    {
        if (Ours.Any(o => WordsAt(text, at, end, o) > 0))
            return null;
        foreach (var (written, ours) in Signs)
            if (at + written.Length <= end && string.CompareOrdinal(text, at, written, 0, written.Length) == 0)
                return Instead(written, written == "||" && FormatFollows(text, at + 2, end) ? "|" : ours);
        foreach (var written in Negated)
            if (WordsAt(text, at, end, written) is > 0 and var length)
                return new(length, $"Write “not” before the name instead, as in {NotExample(written)}.", null);
        foreach (var written in Choices)
            if (WordsAt(text, at, end, written) is > 0 and var length && NextIs(text, at + length, end, '('))
                return Instead(written, "is one of", length);
        foreach (var (written, ours) in Phrases)
            if (WordsAt(text, at, end, written) is > 0 and var length)
                return Instead(written, ours, length);
        if (WordsAt(text, at, end, "then") is > 0 and var then)
            return new(then, "A condition ends with its brace: remove “then”.", null);
        if (at < end && text[at] == '?')
            return at + 1 < end && text[at + 1] == '?'
                ? new(2, "To print something else where it is blank, write | else \"…\".", "| else")
                : new(1, "To choose between two texts, write if(condition, \"then\", \"else\").", null);
        if (at < end && text[at] == '(' && NextIs(text, at + 1, end, ')'))
            return new(text.IndexOf(')', at) - at + 1, "This is a value, not a function: remove the parentheses.", null);
        if (at < end && text[at] == ':')
            return new(1, "A format follows a bar, as in | money.", "|");
        return Unit(text, at, end);
    }

    static bool FormatFollows(string text, int at, int end) =>
        Enum.GetNames<Format>().Any(f => WordsAt(text, at, end, f) > 0 || WordsAt(text, Math.Min(at + 1, end), end, f) > 0);

    static Habit Instead(string written, string ours, int? length = null) =>
        new(length ?? written.Length, $"Write “{ours}” instead of “{written}”.", ours);

    static string NotExample(string written) =>
        written.Contains("between", StringComparison.Ordinal) ? "not Years between 1 and 5"
        : written.Contains("one of", StringComparison.Ordinal) || written.EndsWith(" in", StringComparison.Ordinal)
            ? "not City is one of (\"Salem\", \"Bend\")"
        : written.Contains("start", StringComparison.Ordinal) ? "not City starts with \"S\""
        : written.Contains("end with", StringComparison.Ordinal) ? "not City ends with \"m\""
        : "not City contains \"Salem\"";

    /// <summary>“30 days” behind a date and a plus: a number alone adds days.</summary>
    static Habit? Unit(string text, int at, int end)
    {
        var before = at - 1;
        while (before >= 0 && char.IsWhiteSpace(text[before]))
            before--;
        if (before < 0 || !char.IsAsciiDigit(text[before]))
            return null;
        foreach (var unit in (string[])["days", "day"])
            if (WordsAt(text, at, end, unit) is > 0 and var length)
                return new(length, $"A number added to a date counts days: remove “{unit}”.", null);
        foreach (var (unit, months) in ((string, string)[])[("months", "3"), ("month", "1"), ("years", "24"), ("year", "12")])
            if (WordsAt(text, at, end, unit) is > 0 and var length)
                return new(length, $"To add months or years to a date, write add months(Renewal date, {months}).", null);
        foreach (var unit in (string[])["weeks", "week"])
            if (WordsAt(text, at, end, unit) is > 0 and var length)
                return new(length, "A number added to a date counts days: write 7 for a week.", null);
        return null;
    }

    /// <summary>How far several words stand at a place, with any space between them; 0 where they do not.</summary>
    static int WordsAt(string text, int at, int end, string words)
    {
        var i = at;
        foreach (var word in words.Split(' '))
        {
            while (i > at && i < end && char.IsWhiteSpace(text[i]))
                i++;
            if (i + word.Length > end || string.Compare(text, i, word, 0, word.Length, StringComparison.OrdinalIgnoreCase) != 0)
                return 0;
            i += word.Length;
            if (i < end && char.IsLetterOrDigit(text[i]))
                return 0;
        }
        return i - at;
    }

    static bool NextIs(string text, int at, int end, char sign)
    {
        while (at < end && char.IsWhiteSpace(text[at]))
            at++;
        return at < end && text[at] == sign;
    }

    /// <summary>A bracket by another name: a whole field that begins as conditions and repeats do elsewhere. “For whom” and “If a member”
    /// may be headings of another list, so what follows must be a condition, or detail rows.</summary>
    /// <param name="areRows">True for the name of detail rows.</param>
    public static (string Message, string? Ours)? Bracket(string field, Func<string, bool> areRows)
    {
        var text = field.Trim();
        string? After(string head) =>
            text.StartsWith(head, StringComparison.OrdinalIgnoreCase)
            && (text.Length == head.Length || char.IsWhiteSpace(text[head.Length]) || text[head.Length] == '(')
                ? text[head.Length..].Trim()
                : null;
        foreach (var head in (string[])["else if", "elseif", "elif", "elsif", "otherwise if", "or if"])
            if (After(head) is { } test)
                return (
                    $"A further condition begins with “or when”: {{or when {Example(test)}}}.",
                    test.Length > 0 ? $"or when {Bare(test)}" : null
                );
        if (After("else") is "")
            return ("What holds in all other cases begins with {otherwise}.", "otherwise");
        if (
            ((string[])["end if", "endif", "end when", "end each", "end for", "endfor", "next", "/if", "/each"]).Contains(
                text.ToLowerInvariant()
            )
        )
            return ("A condition or repeat ends with {end}.", "end");
        foreach (var head in (string[])["if", "#if"])
            if (After(head) is { } test && IsTest(test))
                return ($"A condition begins with “when”: {{when {Example(test)}}}.", test.Length > 0 ? $"when {Bare(test)}" : null);
        if (After("unless") is { } not && IsTest(not))
            return ($"A condition begins with “when”: {{when not ({Example(not)})}}.", not.Length > 0 ? $"when not ({Bare(not)})" : null);
        foreach (var head in (string[])["for each", "foreach", "#each", "for", "repeat", "loop"])
            if (After(head) is { } rows)
            {
                // “row in rows”, “rows as row”: the rows are what counts.
                var words = rows.Split(' ', StringSplitOptions.RemoveEmptyEntries);
                var name =
                    words is [_, var of, _, ..] && of.Equals("in", StringComparison.OrdinalIgnoreCase) ? string.Join(' ', words[2..])
                    : words is [var first, var link, ..] && link.Equals("as", StringComparison.OrdinalIgnoreCase) ? first
                    : Bare(rows);
                if (!head.EndsWith("each", StringComparison.Ordinal) && !areRows(name))
                    continue;
                return (
                    $"A repeat begins with “each” and the name of detail rows: {{each {Named(name)}}}.",
                    name.Length > 0 ? $"each {name}" : null
                );
            }
        return null;
    }

    static bool IsTest(string text) =>
        text.Length == 0
        || text.AsSpan().IndexOfAny("=<>≠≤≥(") >= 0
        || text.Split(' ').Any(w => w.ToLowerInvariant() is "is" or "contains" or "starts" or "ends" or "between" or "equals" or "not");

    static string Named(string rows) => rows.Length == 0 ? "Gifts" : Evaluator.Short(rows);

    static string Example(string test) => test.Length == 0 ? "Amount due > 0" : Evaluator.Short(Bare(test));

    /// <summary>A condition without the parentheses around it and without “then”.</summary>
    static string Bare(string test)
    {
        test = test.Trim();
        if (test.EndsWith(" then", StringComparison.OrdinalIgnoreCase))
            test = test[..^5].Trim();
        if (test.StartsWith('(') && test.IndexOf(')') == test.Length - 1)
            test = test[1..^1].Trim();
        return test;
    }

    static readonly FrozenDictionary<string, string> FormatNames = Table(
        ("money", "currency dollar dollars usd amount accounting"),
        ("number", "decimal decimals integer int whole comma commas thousands fixed numeric round"),
        ("percent", "percentage pct"),
        ("date long", "long full longdate"),
        ("date short", "short shortdate"),
        ("date", "datetime"),
        ("upper", "uppercase caps allcaps capitals ucase"),
        ("lower", "lowercase lcase"),
        ("title", "proper propercase titlecase capitalize capitalized firstcap"),
        ("else", "default ifblank blank fallback or otherwise empty ifempty"),
        ("words", "spelled spell spellout inwords cardtext"),
        ("ordinal", "nth th st"),
        ("phone", "tel phonenumber"),
        ("trim", "clean strip")
    );

    /// <summary>The format that another word for one, or a slip of the pen, means; null where none is near.</summary>
    public static string? Format(string word) =>
        FormatNames.TryGetValue(word, out var ours)
            ? ours
            : Enum.GetNames<Format>()
                .Select(f => (Name: f.ToLowerInvariant(), Distance: Names.Distance(f.ToLowerInvariant(), word)))
                .Where(f => f.Distance <= (word.Length > 4 ? 2 : 1))
                .OrderBy(f => f.Distance)
                .Select(f => f.Name)
                .FirstOrDefault();

    /// <summary>The format that a picture of figures or of a date means, such as <c>$#,##0.00</c> and <c>MM/DD/YYYY</c>; null where it is
    /// none.</summary>
    public static string? Picture(string picture)
    {
        if (picture.Length is 0 or > 40)
            return null;
        if (picture.Contains('0') && picture.All(c => c is '0' or '#' or ',' or '.' or '%' || IsCurrency(c)))
        {
            var point = picture.LastIndexOf('.');
            var digits = point < 0 ? 0 : picture[point..].Count(c => c == '0');
            return picture.Any(IsCurrency)
                ? digits == 2
                    ? "money"
                    : $"money {digits}"
                : picture.Contains('%')
                    ? digits == 0
                        ? "percent"
                        : $"percent {digits}"
                    : $"number {digits}";
        }
        return picture.Any(c => c is 'y' or 'Y' or 'M' or 'm' or 'd' or 'D') && picture.Any(c => !char.IsLetter(c))
            ? DatePattern.Mistake(picture) is null
                ? $"date \"{picture}\""
                : DatePattern.Meant(picture) is { } meant
                    ? $"date \"{meant}\""
                    : null
            : null;
    }

    static bool IsCurrency(char c) => char.GetUnicodeCategory(c) == UnicodeCategory.CurrencySymbol;

    static readonly FrozenDictionary<string, string> FunctionNames = Table(
        ("upper", "uppercase ucase"),
        ("lower", "lowercase lcase"),
        ("title", "proper propercase titlecase capitalize"),
        ("trim", "clean strip"),
        ("left", "substring substr mid"),
        ("replace", "substitute"),
        ("if", "iif choose"),
        ("days", "datediff daysbetween"),
        ("add days", "dateadd adddays"),
        ("add months", "edate addmonths"),
        ("average", "avg mean"),
        ("min", "minimum lowest"),
        ("max", "maximum highest")
    );

    static readonly FrozenDictionary<string, string> FunctionHints = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase)
    {
        ["concat"] = "Join texts with &, as in First name & \" \" & Last name.",
        ["concatenate"] = "Join texts with &, as in First name & \" \" & Last name.",
        ["isblank"] = "Write the name and “is blank”, as in Phone is blank.",
        ["isempty"] = "Write the name and “is blank”, as in Phone is blank.",
        ["isnull"] = "Write the name and “is blank”, as in Phone is blank.",
        ["contains"] = "Write the name first, as in City contains \"Salem\".",
        ["startswith"] = "Write the name first, as in City starts with \"S\".",
        ["endswith"] = "Write the name first, as in City ends with \"m\".",
        ["and"] = "Write “and” between the conditions.",
        ["or"] = "Write “or” between the conditions.",
        ["today"] = "Write Today without parentheses.",
        ["now"] = "Write Today without parentheses.",
        ["coalesce"] = "Write | else \"…\" after the name.",
        ["ifblank"] = "Write | else \"…\" after the name.",
        ["ifnull"] = "Write | else \"…\" after the name.",
        ["nvl"] = "Write | else \"…\" after the name.",
        ["text"] = "Write the format after a bar, as in Amount due | money.",
        ["format"] = "Write the format after a bar, as in Amount due | money.",
        ["money"] = "Write the format after a bar, as in Amount due | money.",
        ["currency"] = "Write the format after a bar, as in Amount due | money.",
        ["dollar"] = "Write the format after a bar, as in Amount due | money.",
        ["date"] = "Write the format after a bar, as in Renewal date | date long.",
    }.ToFrozenDictionary(StringComparer.OrdinalIgnoreCase);

    /// <summary>What to say of a function that is not there, and the one that is meant where it can stand in its place.</summary>
    public static (string? Hint, string? Ours) Function(string name)
    {
        if (FunctionHints.TryGetValue(name, out var hint))
            return (hint, null);
        if (FunctionNames.TryGetValue(name, out var ours))
            return (null, ours);
        var near = Language.Function.All.MinBy(f => Names.Distance(f.Name, name.ToLowerInvariant()))!;
        return (null, Names.Distance(near.Name, name.ToLowerInvariant()) <= 2 ? near.Name : null);
    }

    static readonly FrozenDictionary<string, BuiltIn> ValueNames = new Dictionary<string, BuiltIn>(StringComparer.OrdinalIgnoreCase)
    {
        ["date"] = BuiltIn.Today,
        ["now"] = BuiltIn.Today,
        ["current date"] = BuiltIn.Today,
        ["todays date"] = BuiltIn.Today,
        ["today's date"] = BuiltIn.Today,
        ["letter date"] = BuiltIn.Today,
        ["name"] = BuiltIn.NameInFull,
        ["full name"] = BuiltIn.NameInFull,
        ["sender name"] = BuiltIn.Sender,
        ["organization name"] = BuiltIn.Sender,
        ["our name"] = BuiltIn.Sender,
    }.ToFrozenDictionary(StringComparer.OrdinalIgnoreCase);

    // Beside “address”, what means the whole of it.
    static readonly FrozenSet<string> WholeAddress = ((string[])["address", "full", "mailing", "postal", "whole", "block"]).ToFrozenSet();

    /// <summary>The value made for everybody that a name means which no column has; null where none is meant.</summary>
    public static string? Name(string name)
    {
        if (ValueNames.TryGetValue(name.Replace('’', '\''), out var known))
            return Names.Of(known);
        var words = name.ToLowerInvariant().Split(' ', StringSplitOptions.RemoveEmptyEntries);
        return words.Any(w => w is "greeting" or "salutation") ? Names.Of(BuiltIn.Salutation)
            : words.Contains("address") && words.All(WholeAddress.Contains) ? Names.Of(BuiltIn.DeliveryAddress)
            : null;
    }

    static FrozenDictionary<string, string> Table(params (string Ours, string Written)[] rows) =>
        rows.SelectMany(r => r.Written.Split(' ').Select(w => (w, r.Ours)))
            .ToFrozenDictionary(p => p.w, p => p.Ours, StringComparer.OrdinalIgnoreCase);
}
