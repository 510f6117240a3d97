using System.Text.RegularExpressions;

namespace Bandeja.Core.Documents;

/// <summary>The marks around typed placeholders.</summary>
/// <param name="Open">What stands before the name.</param>
/// <param name="Close">What stands behind it; empty where the name ends by itself.</param>
public sealed record TagMarks(string Open, string Close)
{
    const int LongestMark = 8,
        LongestTag = 300;

    /// <summary>The marks that are looked for, those that hold others first: two braces are never one brace and another.</summary>
    public static readonly IReadOnlyList<TagMarks> Known =
    [
        new("{{", "}}"),
        new("<<", ">>"),
        new("«", "»"),
        new("[[", "]]"),
        new("${", "}"),
        new("[", "]"),
        new("{", "}"),
        new("%", "%"),
        new("@", ""),
    ];

    /// <summary>True for marks that hardly anything but a placeholder has.</summary>
    public bool Strong => Open.Length > 1 || Open == "«" || !Known.Contains(this);

    /// <summary>How they are shown.</summary>
    public string Sample => $"{Open}name{Close}";

    /// <summary>Marks that somebody typed, with the word “name” between them.</summary>
    /// <returns>Null where that is not what was typed.</returns>
    public static TagMarks? Of(string sample)
    {
        var own = sample.Trim();
        var at = own.IndexOf("name", StringComparison.OrdinalIgnoreCase);
        if (at <= 0 || at > LongestMark || own.Length - at - 4 > LongestMark)
            return null;
        var marks = new TagMarks(own[..at], own[(at + 4)..]);
        return marks.Open.All(IsSign) && marks.Close.All(IsSign) ? marks : null;
    }

    static bool IsSign(char c) => !char.IsLetterOrDigit(c) && !char.IsWhiteSpace(c) && !char.IsControl(c);

    static readonly System.Collections.Concurrent.ConcurrentDictionary<TagMarks, Regex> Patterns = [];

    /// <summary>What finds a placeholder in a line; the name is the group <c>name</c>.</summary>
    internal Regex Pattern => Patterns.Count > 500 ? Made() : Patterns.GetOrAdd(this, m => m.Made());

    Regex Made()
    {
        var (open, close) = (Regex.Escape(Open), Regex.Escape(Close));
        return Close.Length == 0
            // A name by itself: a word of letters, never a part of an email address.
            ? new($@"(?<![\w.@/]){open}(?<name>\p{{L}}[\w]*)(?!\w|\.\w|@)", RegexOptions.CultureInvariant)
            : new($@"{open}(?<name>(?:(?!{open}|{close})[^\n\uFFFC]){{1,{LongestTag}}}){close}", RegexOptions.CultureInvariant);
    }
}

/// <summary>What a typed placeholder is.</summary>
public enum TagKind
{
    /// <summary>A value.</summary>
    Value,

    /// <summary>What follows is there only if.</summary>
    If,

    /// <summary>What follows is there once for each row, or, where the name is no name of rows, only if it is not blank.</summary>
    Section,

    /// <summary>What follows is there once for each row.</summary>
    Each,

    /// <summary>What follows is there otherwise.</summary>
    Else,

    /// <summary>The end of what is there only if, or for each row.</summary>
    End,

    /// <summary>A bracket of our own language, unchanged.</summary>
    Own,
}

/// <summary>A typed placeholder.</summary>
/// <param name="Name">The name between the marks, without block signs and format.</param>
/// <param name="Format">The format behind it.</param>
/// <param name="Op">For a condition: its sign; empty where only the name stands there.</param>
/// <param name="Right">For a condition: what it is compared with.</param>
/// <param name="Negated">For a condition: true where it must not hold.</param>
public sealed record Tag(TagKind Kind, string Name, CarriedFormat Format, string Op = "", string Right = "", bool Negated = false)
{
    const int LongestName = 60;

    /// <summary>Reads what stands between the marks; null where that is no placeholder but text.</summary>
    /// <param name="ours">True where the document is one of our own letters, whose fields are written in the field language.</param>
    public static Tag? Of(string inner, TagMarks marks, bool ours = false)
    {
        var text = inner.Trim();
        if (text.Length == 0)
            return null;
        if (marks is { Open: "{", Close: "}" } && (ours || Blocks.OwnBracket().IsMatch(text)))
            return new(TagKind.Own, text, CarriedFormat.None);
        // Braces thrice leave a value as it is; an ampersand does so, too.
        if (marks.Open == "{{")
            text = text.TrimStart('{', '&').Trim();
        if (Blocks.Begin().Match(text) is { Success: true } begin)
        {
            var rest = begin.Groups["rest"].Value.Trim();
            var word = begin.Groups["word"].Value.ToLowerInvariant();
            if (rest.Length == 0)
                return null;
            return word switch
            {
                "each" or "foreach" or "for" or "repeat" or "rows" or "loop" => Each(rest),
                "unless" or "^" => Condition(rest) is { } c ? c with { Negated = !c.Negated } : null,
                "if" or "when" => Condition(rest),
                _ => null,
            };
        }
        if (Blocks.Inverted().Match(text) is { Success: true } inverted)
            return new(TagKind.If, inverted.Groups["name"].Value.Trim(), CarriedFormat.None, Negated: true);
        if (Blocks.Opening().Match(text) is { Success: true } section)
            return new(TagKind.Section, section.Groups["name"].Value.Trim(), CarriedFormat.None);
        if (Blocks.Otherwise().IsMatch(text))
            return new(TagKind.Else, "", CarriedFormat.None);
        if (Blocks.End().IsMatch(text))
            return new(TagKind.End, "", CarriedFormat.None);
        if (Blocks.Plain().Match(text) is { Success: true } plain)
            return plain.Groups["word"].Value.Equals("each", StringComparison.OrdinalIgnoreCase)
                ? Each(plain.Groups["rest"].Value)
                : Condition(plain.Groups["rest"].Value);
        return Value(text, marks);
    }

    static Tag Each(string rest)
    {
        // “row in rows”, “rows as row”: the rows are what counts.
        if (Blocks.In().Match(rest) is { Success: true } m)
            rest = m.Groups["rows"].Value;
        return new(TagKind.Each, Bare(rest), CarriedFormat.None);
    }

    static Tag? Condition(string rest)
    {
        rest = rest.Trim().TrimStart('(').TrimEnd(')').Trim();
        var negated = false;
        if (Blocks.Not().Match(rest) is { Success: true } not)
            (negated, rest) = (true, rest[not.Length..].Trim());
        if (Blocks.Prefixed().Match(rest) is { Success: true } p)
            return new(
                TagKind.If,
                Bare(p.Groups["name"].Value),
                CarriedFormat.None,
                p.Groups["op"].Value.ToLowerInvariant() switch
                {
                    "eq" => "=",
                    "ne" => "<>",
                    "gt" => ">",
                    "gte" => ">=",
                    "lt" => "<",
                    _ => "<=",
                },
                Unquoted(p.Groups["right"].Value),
                negated
            );
        if (Blocks.Compared().Match(rest) is { Success: true } c)
            return new(
                TagKind.If,
                Bare(c.Groups["name"].Value),
                CarriedFormat.None,
                c.Groups["op"].Value switch
                {
                    "==" or "===" or "=" => "=",
                    "!=" or "!==" or "<>" => "<>",
                    var op => op,
                },
                Unquoted(c.Groups["right"].Value),
                negated
            );
        return IsName(rest) ? new(TagKind.If, Bare(rest), CarriedFormat.None, Negated: negated) : null;
    }

    static string Unquoted(string text) => text.Trim().Trim('"', '\'', '“', '”', '‘', '’', '&');

    /// <summary>A path’s last part: of <c>member.firstName</c> the name is the last.</summary>
    static string Bare(string name)
    {
        var own = name.Trim().Trim('"', '\'', '`');
        if (own.StartsWith("this.", StringComparison.OrdinalIgnoreCase))
            own = own[5..];
        return own.Contains(' ') ? own : own[(own.LastIndexOf('.') + 1)..];
    }

    static bool IsName(string text) =>
        text.Length <= LongestName
        && text.Any(char.IsLetterOrDigit)
        && text.All(c => char.IsLetterOrDigit(c) || c is ' ' or '_' or '-' or '.' or '#' or '\'' or '’' or '/' or '&' or '(' or ')');

    static Tag? Value(string text, TagMarks marks)
    {
        if (marks is { Open: "{", Close: "}" } && text.Contains('|'))
        {
            var bar = text.IndexOf('|');
            return IsName(text[..bar].Trim()) ? new(TagKind.Value, text[..bar].Trim(), CodeFormats.Typed(text[(bar + 1)..])) : null;
        }
        var at = marks.Close.Length == 0 ? -1 : text.AsSpan().IndexOfAny(',', '|', ':');
        var name = Bare(at < 0 ? text : text[..at]);
        if (name.Length == 0 || !IsName(name))
            return null;
        if (!marks.Strong && !Weak(name))
            return null;
        return new(TagKind.Value, name, at < 0 ? CarriedFormat.None : CodeFormats.Typed(text[(at + 1)..]));
    }

    /// <summary>Brackets and percent signs stand around other things, too: a name there begins with a letter, has few words, and is no
    /// note of the writer such as [1] or [sic].</summary>
    static bool Weak(string name) =>
        char.IsLetter(name[0]) && name.Count(c => c == ' ') <= 4 && !name.Equals("sic", StringComparison.OrdinalIgnoreCase);
}

/// <summary>How blocks are written.</summary>
static partial class Blocks
{
    [GeneratedRegex(@"^(?:(?:or\s+)?when\s.+|each\s.+|otherwise|end)$", RegexOptions.IgnoreCase)]
    public static partial Regex OwnBracket();

    [GeneratedRegex(@"^(?:#|\?)\s*(?<word>if|unless|each|foreach|for|repeat|rows|loop|when)\b(?<rest>.*)$", RegexOptions.IgnoreCase)]
    public static partial Regex Begin();

    [GeneratedRegex(@"^(?<word>if|each)\s+(?<rest>\S.*)$", RegexOptions.IgnoreCase)]
    public static partial Regex Plain();

    [GeneratedRegex(@"^\^\s*(?<name>[\p{L}_][\w .\-]*)$")]
    public static partial Regex Inverted();

    [GeneratedRegex(@"^#\s*(?<name>[\p{L}_][\w .\-]*)$")]
    public static partial Regex Opening();

    [GeneratedRegex(@"^(?:#|:)?\s*(?:else|otherwise)$", RegexOptions.IgnoreCase)]
    public static partial Regex Otherwise();

    [GeneratedRegex(@"^(?:/\s*[\w .\-]*|#?\s*(?:end\s*(?:if|each|for|unless)?))$", RegexOptions.IgnoreCase)]
    public static partial Regex End();

    [GeneratedRegex(@"^\S+\s+in\s+(?<rows>.+)$|^(?<rows>\S+)\s+as\s+.+$", RegexOptions.IgnoreCase)]
    public static partial Regex In();

    [GeneratedRegex(@"^(?:!\s*|not\s+)", RegexOptions.IgnoreCase)]
    public static partial Regex Not();

    [GeneratedRegex(@"^(?<op>eq|ne|gt|gte|lt|lte)\s+(?<name>\S+)\s+(?<right>.+)$", RegexOptions.IgnoreCase)]
    public static partial Regex Prefixed();

    [GeneratedRegex(@"^(?<name>[^=<>!]+?)\s*(?<op>===?|!==?|<>|<=|>=|=|<|>)\s*(?<right>.+)$")]
    public static partial Regex Compared();
}
