using System.Text;
using System.Text.Json.Nodes;

namespace Bandeja.Core.Documents;

/// <summary>A stretch of the text of a field code: characters with their formatting, or a code that stands within it.</summary>
/// <param name="Marks">The formatting, as a letter stores it; null for none.</param>
public sealed record CodePiece(string Text, JsonArray? Marks = null, JsonObject? Inner = null);

/// <summary>What a field code is.</summary>
public enum CodeKind
{
    /// <summary>A value of the recipient.</summary>
    Field,

    /// <summary>One of two texts, as a comparison decides.</summary>
    Choice,

    /// <summary>A calculation.</summary>
    Sum,

    /// <summary>Something that the letter knows by itself: the day, the page, the address.</summary>
    BuiltIn,

    /// <summary>An address of a page or of mail, for what stands as its result.</summary>
    Link,

    /// <summary>What it last came to is kept.</summary>
    Kept,

    /// <summary>It prints nothing and does nothing here.</summary>
    Nothing,
}

/// <summary>
/// Reads field codes of word processor documents (ECMA-376 part 1, section 17.16): merge fields with their switches, conditions with codes
/// within them, the day, page numbers, the address and the greeting. What a code means is a node <c>code</c> of the brought letter; its
/// attributes are <c>what</c> (a <see cref="CodeKind"/>), <c>written</c>, and, by kind, <c>name</c>, <c>format</c>, <c>lost</c>,
/// <c>before</c>, <c>after</c>, <c>source</c>, <c>left</c>, <c>op</c>, <c>right</c>, <c>yes</c>, <c>no</c>, <c>note</c>.
/// </summary>
public static class FieldCodes
{
    const char FirstInner = '\uE000';
    const int MostInner = 500,
        LongestName = 200,
        LongestShown = 120;

    /// <summary>One word of a code: a name, a switch, or a quoted text with its formatting.</summary>
    sealed record Word(string Text, bool Quoted, int From, int To);

    /// <summary>What a code says, before its result is known.</summary>
    /// <param name="Node">The node; its kind is among the attributes.</param>
    public sealed record Read(JsonObject Node, CodeKind Kind)
    {
        /// <summary>True where the result in the file is content to keep: a link's text, or what nobody knows how to make anew.</summary>
        public bool KeepsResult => Kind is CodeKind.Link or CodeKind.Kept;

        /// <summary>For a link: where it leads.</summary>
        public string? Target { get; init; }
    }

    /// <summary>Reads a code.</summary>
    public static Read Parse(IReadOnlyList<CodePiece> pieces)
    {
        var inner = new List<JsonObject>();
        var flat = new StringBuilder();
        var marks = new List<JsonArray?>();
        foreach (var piece in pieces)
        {
            var text = piece.Text;
            if (piece.Inner is { } code)
            {
                if (inner.Count == MostInner)
                    continue;
                text = ((char)(FirstInner + inner.Count)).ToString();
                inner.Add(code);
            }
            flat.Append(text);
            for (var i = 0; i < text.Length; i++)
                marks.Add(piece.Marks);
        }
        return new Parser(flat.ToString(), marks, inner).Code();
    }

    /// <summary>A value of the recipient that is no code of the standard, such as a content control or a database field.</summary>
    public static JsonObject Value(string name, string written, CarriedFormat format = default) =>
        Node(CodeKind.Field, written, ("name", Cut(name)), ("format", format.Bars ?? ""), ("lost", format.Lost));

    /// <summary>Something that the letter knows by itself.</summary>
    public static JsonObject BuiltIn(string source, string written) => Node(CodeKind.BuiltIn, written, ("source", source));

    /// <summary>A code that stands for one of two texts, by a condition of the field language's.</summary>
    public static JsonObject Choice(JsonNode? left, string op, string right, string written, JsonArray yes, JsonArray no)
    {
        var node = Node(CodeKind.Choice, written, ("op", op));
        node["attrs"]!["left"] = left;
        node["attrs"]!["right"] = JsonValue.Create(right);
        node["attrs"]!["yes"] = yes;
        node["attrs"]!["no"] = no;
        return node;
    }

    /// <summary>The kind of a node.</summary>
    public static CodeKind KindOf(JsonNode node) => Enum.TryParse<CodeKind>((string?)node["attrs"]?["what"], out var k) ? k : CodeKind.Kept;

    static JsonObject Node(CodeKind kind, string written, params (string Name, string? Value)[] more)
    {
        var attributes = new JsonObject { ["what"] = kind.ToString(), ["written"] = written };
        foreach (var (name, value) in more)
            if (!string.IsNullOrEmpty(value))
                attributes[name] = value;
        return new JsonObject { ["type"] = "code", ["attrs"] = attributes };
    }

    static string Cut(string name) => name.Length > LongestName ? name[..LongestName] : name;

    sealed class Parser(string text, List<JsonArray?> marks, List<JsonObject> inner)
    {
        readonly string written = Shown(text, inner);

        static string Shown(string text, List<JsonObject> inner)
        {
            var shown = new StringBuilder();
            foreach (var c in text)
            {
                if (IsInner(c, inner))
                    shown.Append((string?)inner[c - FirstInner]["attrs"]?["name"] ?? "…");
                else
                    shown.Append(char.IsWhiteSpace(c) ? ' ' : c);
                if (shown.Length > LongestShown)
                    return shown.ToString(0, LongestShown - 1).Trim() + "…";
            }
            return string.Join(' ', shown.ToString().Split(' ', StringSplitOptions.RemoveEmptyEntries));
        }

        static bool IsInner(char c, List<JsonObject> inner) => c >= FirstInner && c < FirstInner + inner.Count;

        public Read Code()
        {
            var words = Words();
            if (words.Count == 0)
                return Of(CodeKind.Nothing, "An empty field code was ignored.");
            // A calculation begins with its sign, also where no space follows.
            if (words[0].Text.StartsWith('='))
                return Sum(words);
            var rest = words.Skip(1).ToList();
            return words[0].Text.ToUpperInvariant() switch
            {
                "MERGEFIELD" => MergeField(rest),
                "IF" => If(rest),
                "DATE" or "TIME" => Day(rest, "Today"),
                "CREATEDATE" or "SAVEDATE" or "PRINTDATE" => Of(
                    CodeKind.Kept,
                    "A date stored in the file is kept as text. For the day of the run, use the field Today."
                ),
                "PAGE" => BuiltInOf("Page number"),
                "NUMPAGES" => BuiltInOf("Page count"),
                "SECTIONPAGES" => BuiltInOf("Page count"),
                "MERGEREC" or "MERGESEQ" => BuiltInOf("Piece number"),
                "ADDRESSBLOCK" => BuiltInOf("Delivery address"),
                "GREETINGLINE" => BuiltInOf("Salutation"),
                "HYPERLINK" => Link(rest),
                "SYMBOL" => Of(CodeKind.Kept, null),
                "NEXT" => Of(
                    CodeKind.Nothing,
                    "NEXT was ignored: each recipient gets a separate letter. For labels, create a label sheet."
                ),
                "NEXTIF" => Of(CodeKind.Nothing, $"“{written}” was ignored: each recipient gets a separate letter."),
                "SKIPIF" => Skip(rest),
                "SET"
                or "ASK"
                or "FILLIN"
                or "MACROBUTTON"
                or "DATABASE"
                or "INCLUDETEXT"
                or "INCLUDEPICTURE"
                or "LINK"
                or "DDE"
                or "DDEAUTO"
                or "IMPORT"
                or "RD" => Of(CodeKind.Kept, $"The field code “{written}” is not supported. Its last result is kept as text."),
                _ => Of(
                    CodeKind.Kept,
                    Known(words[0].Text) ? null : $"The field code “{written}” is unknown. Its last result is kept as text."
                ),
            };
        }

        /// <summary>Codes of a finished text, which are text here.</summary>
        static bool Known(string word) =>
            word.ToUpperInvariant()
                is "REF"
                    or "PAGEREF"
                    or "NOTEREF"
                    or "TOC"
                    or "TC"
                    or "XE"
                    or "INDEX"
                    or "SEQ"
                    or "STYLEREF"
                    or "TITLE"
                    or "SUBJECT"
                    or "AUTHOR"
                    or "FILENAME"
                    or "DOCPROPERTY"
                    or "DOCVARIABLE"
                    or "QUOTE"
                    or "FORMTEXT"
                    or "FORMCHECKBOX"
                    or "FORMDROPDOWN"
                    or "LISTNUM"
                    or "AUTONUM"
                    or "EQ"
                    or "COMMENTS"
                    or "KEYWORDS"
                    or "USERNAME"
                    or "USERINITIALS"
                    or "USERADDRESS"
                    or "COMPANY"
                    or "EMBED"
                    or "SHAPE";

        Read Of(CodeKind kind, string? note) => new(Node(kind, written, ("note", note)), kind);

        Read BuiltInOf(string source) => new(FieldCodes.BuiltIn(source, written), CodeKind.BuiltIn);

        Read MergeField(List<Word> words)
        {
            if (words.Count == 0)
                return Of(CodeKind.Nothing, "A merge field without a name was ignored.");
            var name = Text(words[0]);
            var (format, lost) = Switches(words, out var before, out var after);
            return new(
                Node(
                    CodeKind.Field,
                    written,
                    ("name", Cut(name)),
                    ("format", format),
                    ("lost", lost),
                    ("before", before),
                    ("after", after)
                ),
                CodeKind.Field
            );
        }

        Read Day(List<Word> words, string source)
        {
            var (format, lost) = Switches(words, out _, out _);
            return new(
                Node(
                    CodeKind.BuiltIn,
                    written,
                    ("source", source),
                    ("format", format.Length == 0 ? " | date short" : format),
                    ("lost", lost)
                ),
                CodeKind.BuiltIn
            );
        }

        (string Format, string? Lost) Switches(List<Word> words, out string before, out string after)
        {
            (before, after) = ("", "");
            var format = new StringBuilder();
            var lost = new List<string>();
            for (var i = 0; i < words.Count; i++)
            {
                if (words[i].Quoted || words[i].Text.Length < 2 || words[i].Text[0] != '\\')
                    continue;
                var which = words[i].Text[1];
                var takesText = which is not ('m' or 'v') && i + 1 < words.Count && (words[i + 1].Quoted || words[i + 1].Text[0] != '\\');
                var text = takesText ? Text(words[++i]) : "";
                CarriedFormat one;
                switch (which)
                {
                    case 'b':
                        before = text;
                        continue;
                    case 'f':
                        after = text;
                        continue;
                    case '#':
                        one = CodeFormats.Number(text);
                        break;
                    case '@':
                        one = CodeFormats.Date(text);
                        break;
                    case '*':
                        one = CodeFormats.General(text);
                        break;
                    case 'm' or 'v' or 'l' or 'e' or 'h' or 's':
                        continue;
                    default:
                        one = new("", $"\\{which} {text}".Trim());
                        break;
                }
                format.Append(one.Bars);
                if (!string.IsNullOrEmpty(one.Lost))
                    lost.Add(one.Lost);
            }
            return (format.ToString(), lost.Count == 0 ? null : string.Join(", ", lost));
        }

        Read If(List<Word> words)
        {
            // Left, sign, right; a sign may stand without spaces around it.
            var split = words.Take(3).SelectMany(Signs).Concat(words.Skip(3)).ToList();
            if (split.Count < 3 || !IsSign(split[1]))
                return Of(CodeKind.Kept, $"The condition “{written}” could not be read. Its last result is kept as text.");
            var node = Node(CodeKind.Choice, written, ("op", split[1].Text));
            var a = node["attrs"]!;
            a["left"] = Operand(split[0]);
            a["right"] = Operand(split[2]);
            a["yes"] = split.Count > 3 ? Inlines(split[3]) : new JsonArray();
            a["no"] = split.Count > 4 ? Inlines(split[4]) : new JsonArray();
            return new(node, CodeKind.Choice);
        }

        Read Skip(List<Word> words)
        {
            var split = words.Take(3).SelectMany(Signs).ToList();
            var test = split.Count >= 3 ? $" ({string.Join(' ', split.Take(3).Select(w => Shown(Text(w), inner)))})" : "";
            return Of(CodeKind.Nothing, $"SKIPIF{test} was ignored. To exclude recipients, use a segment or a hold in the drop.");
        }

        Read Link(List<Word> words)
        {
            var target = words.FirstOrDefault(w => w.Quoted || !w.Text.StartsWith('\\')) is { } w ? Text(w) : "";
            return new(Node(CodeKind.Link, written), CodeKind.Link) { Target = target };
        }

        /// <summary>A calculation with values of the recipient: numbers, the four signs, brackets, and codes within it.</summary>
        Read Sum(List<Word> words)
        {
            var end = words.FindIndex(w => !w.Quoted && w.Text.StartsWith('\\'));
            var stop = end < 0 ? text.Length : words[end].From;
            var body = text[(text.IndexOf('=') + 1)..stop].Trim();
            if (
                body.Length == 0
                || !body.Any(c => IsInner(c, inner))
                || !body.All(c => IsInner(c, inner) || char.IsAsciiDigit(c) || c is '.' or '+' or '-' or '*' or '/' or '(' or ')' or ' ')
                || body.Any(c => IsInner(c, inner) && KindOf(inner[c - FirstInner]) != CodeKind.Field)
            )
                return Of(CodeKind.Kept, $"The calculation “{written}” could not be imported. Its last result is kept as text.");
            var (format, lost) = Switches(end < 0 ? [] : words[end..], out _, out _);
            var node = Node(CodeKind.Sum, written, ("format", format), ("lost", lost));
            var parts = new JsonArray();
            foreach (var c in body)
                parts.Add(IsInner(c, inner) ? inner[c - FirstInner].DeepClone() : JsonValue.Create(c.ToString()));
            node["attrs"]!["parts"] = parts;
            return new(node, CodeKind.Sum);
        }

        static bool IsSign(Word word) => !word.Quoted && word.Text is "=" or "<>" or "<" or ">" or "<=" or ">=";

        /// <summary>A word divided at a sign of comparison within it.</summary>
        static IEnumerable<Word> Signs(Word word)
        {
            if (word.Quoted || IsSign(word))
                return [word];
            var at = word.Text.AsSpan().IndexOfAny('=', '<', '>');
            if (at < 0)
                return [word];
            var length = at + 1 < word.Text.Length && word.Text[at + 1] is '=' or '>' ? 2 : 1;
            Word Part(int from, int to) => new(word.Text[from..to], false, word.From + from, word.From + to);
            return new[] { Part(0, at), Part(at, at + length), Part(at + length, word.Text.Length) }.Where(w => w.Text.Length > 0);
        }

        JsonNode Operand(Word word) =>
            word.Text.Length == 1 && IsInner(word.Text[0], inner)
                ? inner[word.Text[0] - FirstInner].DeepClone()
                : JsonValue.Create(Text(word));

        /// <summary>What stands for a word as a text, codes within it by their names.</summary>
        string Text(Word word) =>
            string.Concat(word.Text.Select(c => IsInner(c, inner) ? (string?)inner[c - FirstInner]["attrs"]?["name"] ?? "" : c.ToString()));

        /// <summary>A branch as parts of a line, each with its formatting.</summary>
        JsonArray Inlines(Word word)
        {
            var result = new JsonArray();
            var run = new StringBuilder();
            JsonArray? runMarks = null;
            void Flush()
            {
                if (run.Length == 0)
                    return;
                var node = new JsonObject { ["type"] = "text", ["text"] = run.ToString() };
                if (runMarks is { Count: > 0 })
                    node["marks"] = runMarks.DeepClone();
                result.Add(node);
                run.Clear();
            }
            for (var i = 0; i < word.Text.Length; i++)
            {
                var c = word.Text[i];
                var own = marks[Math.Min(word.From + i, marks.Count - 1)];
                if (IsInner(c, inner))
                {
                    Flush();
                    result.Add(inner[c - FirstInner].DeepClone());
                    continue;
                }
                if (c == '\n')
                {
                    Flush();
                    result.Add(new JsonObject { ["type"] = "hardBreak" });
                    continue;
                }
                if (!ReferenceEquals(own, runMarks))
                {
                    Flush();
                    runMarks = own;
                }
                run.Append(c);
            }
            Flush();
            return result;
        }

        /// <summary>The words of the code. Quotation marks may be typographic; a backslash before one takes it as it is.</summary>
        List<Word> Words()
        {
            var words = new List<Word>();
            for (var i = 0; i < text.Length; )
            {
                if (char.IsWhiteSpace(text[i]))
                {
                    i++;
                    continue;
                }
                if (IsQuote(text[i]))
                {
                    var end = i + 1;
                    while (end < text.Length && !IsQuote(text[end]))
                        end += text[end] == '\\' && end + 1 < text.Length && IsQuote(text[end + 1]) ? 2 : 1;
                    end = Math.Min(end, text.Length);
                    words.Add(new(text[(i + 1)..end], true, i + 1, end));
                    i = end + 1;
                    continue;
                }
                var to = i + 1;
                if (text[i] == '\\' && to < text.Length)
                    to++; // a switch is two characters; what follows is its text
                else
                    while (to < text.Length && !char.IsWhiteSpace(text[to]) && !IsQuote(text[to]))
                        to++;
                words.Add(new(text[i..to], false, i, to));
                i = to;
            }
            return words;
        }

        static bool IsQuote(char c) => c is '"' or '“' or '”' or '„';
    }
}
