using Bandeja.Core.Lists;

namespace Bandeja.Core.Language;

/// <summary>What a token of a text is.</summary>
enum TokenKind
{
    Plain,
    Field,
    Broken,
    When,
    OrWhen,
    Otherwise,
    Each,
    End,
}

/// <summary>A piece of a text before its brackets are matched.</summary>
/// <param name="Text">Plain text; a field's source; the condition of <c>when</c>, the name of <c>each</c>.</param>
/// <param name="Position">Where the text stands in its whole.</param>
/// <param name="Thing">What it carries along: a style, a paragraph.</param>
/// <param name="Source">The marker as it was written, for messages.</param>
sealed record TemplateToken(TokenKind Kind, string Text, int Position, object? Thing, string Source = "")
{
    /// <summary>What would stand between the braces with a mistake's suggestion in its place; null where it has none.</summary>
    public string? With(LanguageError error)
    {
        // A marker's text is what stands behind its word.
        var at = Source.Length - Text.Length + error.Position;
        return error.Suggestion is { } meant && Source.EndsWith(Text, StringComparison.Ordinal) && at + error.Length <= Source.Length
            ? string.Concat(Source.AsSpan(0, at), meant, Source.AsSpan(at + error.Length))
            : null;
    }

    public bool IsMarker => Kind is not (TokenKind.Plain or TokenKind.Field or TokenKind.Broken);

    /// <summary>What stands between two braces: a marker where it begins with one of the four words, else a field. A column called so
    /// wins.</summary>
    public static TemplateToken OfBraces(string inner, int position, Names names, object? thing)
    {
        var start = inner.Length - inner.TrimStart().Length;
        var text = inner.Trim();
        TemplateToken Marker(TokenKind kind, int word) =>
            new(kind, text[word..].Trim(), position + start + word + (text[word..].Length - text[word..].TrimStart().Length), thing, text);
        bool Begins(string word) =>
            text.StartsWith(word, StringComparison.OrdinalIgnoreCase)
            && (text.Length == word.Length || char.IsWhiteSpace(text[word.Length]) || text[word.Length] is '`' or '(');
        if (names.Exactly(text) is null)
        {
            if (Begins("when"))
                return Marker(TokenKind.When, 4);
            if (Begins("or when"))
                return Marker(TokenKind.OrWhen, 7);
            if (Begins("each"))
                return Marker(TokenKind.Each, 4);
            if (text.Equals("otherwise", StringComparison.OrdinalIgnoreCase))
                return Marker(TokenKind.Otherwise, 9);
            if (text.Equals("end", StringComparison.OrdinalIgnoreCase))
                return Marker(TokenKind.End, 3);
        }
        return new(TokenKind.Field, inner, position, thing, inner);
    }
}

/// <summary>
/// Matches the brackets of a run of tokens: words of a line, paragraphs of a letter, rows of a table all come through here. A bracket
/// that is not closed, or an end without a beginning, is told at its place, and what it holds is kept.
/// </summary>
sealed class BracketReader
{
    /// <summary>The deepest nesting of brackets.</summary>
    public const int MaxDepth = 30;

    readonly IReadOnlyList<TemplateToken> tokens;
    readonly Func<TemplateToken, Names, TemplatePart?> bind;
    readonly Action<TemplateToken, LanguageError> tell;
    int at,
        depth;

    BracketReader(
        IReadOnlyList<TemplateToken> tokens,
        Func<TemplateToken, Names, TemplatePart?> bind,
        Action<TemplateToken, LanguageError> tell
    ) => (this.tokens, this.bind, this.tell) = (tokens, bind, tell);

    /// <summary>Reads the tokens into parts.</summary>
    /// <param name="bind">Makes a part of a token that carries a thing along, with the names that hold there; null for plain text and
    /// fields.</param>
    /// <param name="tell">Takes a mistake; its position counts from the token's.</param>
    public static IReadOnlyList<TemplatePart> Read(
        IReadOnlyList<TemplateToken> tokens,
        Names names,
        Func<TemplateToken, Names, TemplatePart?> bind,
        Action<TemplateToken, LanguageError> tell
    )
    {
        var reader = new BracketReader(tokens, bind, tell);
        var parts = new List<TemplatePart>();
        while (reader.at < tokens.Count)
        {
            reader.Sequence(names, parts);
            if (reader.at >= tokens.Count)
                break;
            var stray = tokens[reader.at++];
            tell(
                stray,
                new(
                    0,
                    stray.Text.Length,
                    stray.Kind == TokenKind.End
                        ? "This “end” has no matching “when” or “each” before it."
                        : $"“{(stray.Kind == TokenKind.Otherwise ? "otherwise" : "or when")}” belongs between “when” and “end”."
                )
            );
        }
        return parts;
    }

    /// <summary>Reads parts until a marker that only the caller can take.</summary>
    void Sequence(Names names, List<TemplatePart> parts)
    {
        for (; at < tokens.Count; at++)
        {
            var token = tokens[at];
            switch (token.Kind)
            {
                case TokenKind.When or TokenKind.Each:
                    if (depth >= MaxDepth)
                    {
                        tell(token, new(0, token.Text.Length, $"Conditions and repeats can be nested up to {MaxDepth} levels deep."));
                        SkipToEnd();
                        break;
                    }
                    depth++;
                    parts.Add(token.Kind == TokenKind.When ? When(names) : Each(names));
                    depth--;
                    break;
                case TokenKind.OrWhen or TokenKind.Otherwise or TokenKind.End:
                    return;
                default:
                    if ((token.Thing is null ? null : bind(token, names)) is { } bound)
                        parts.Add(bound);
                    else if (token.Kind == TokenKind.Broken)
                        parts.Add(new FieldPart(token.Text, new Broken(token.Text), token.Thing));
                    else if (token.Kind == TokenKind.Plain)
                        parts.Add(new PlainPart(token.Text, token.Thing));
                    else
                        parts.Add(new FieldPart(token.Text, Parsed(token, names), token.Thing, Beside(names)));
                    break;
            }
        }
    }

    /// <summary>The sign that the writer typed beside the field at hand.</summary>
    NumberLook? Beside(Names names)
    {
        string Plain(int i) => i >= 0 && i < tokens.Count && tokens[i].Kind == TokenKind.Plain ? tokens[i].Text : "";
        return SignBeside.Of(Plain(at - 1), Plain(at + 1), names.Locale);
    }

    Expression Parsed(TemplateToken token, Names names, bool condition = false)
    {
        var parsed = condition ? FieldParser.ParseCondition(token.Text, names) : FieldParser.ParseExpression(token.Text, names);
        if (
            parsed.Errors.Count > 0
            && !condition
            && names.Nearest(token.Text) is null
            && Habits.Bracket(token.Text, name => names.SetNamed(name) is not null) is var (message, ours)
        )
        {
            tell(token, new(0, token.Text.Length, message, ours));
            return new Broken(token.Text);
        }
        foreach (var error in parsed.Errors)
            tell(token, error);
        // A name that the list does not have may be matched with one that it has; every other mistake leaves nothing to print.
        return parsed.Errors.Count == 0 || HasUnknown(parsed.Expression) ? parsed.Expression : new Broken(token.Text);
    }

    static bool HasUnknown(Expression e) => e is UnknownName { Name.Length: > 0 } or UnknownRows || e.Parts().Any(HasUnknown);

    WhenPart When(Names names)
    {
        var branches = new List<Branch>();
        var open = tokens[at];
        var closed = false;
        while (!closed)
        {
            var token = tokens[at++];
            if (token.Kind == TokenKind.OrWhen && branches[^1].Test is null)
                tell(token, new(0, token.Text.Length, "“or when” cannot follow “otherwise”."));
            Expression? test = null;
            if (token.Kind != TokenKind.Otherwise)
            {
                if (token.Text.Length == 0)
                    tell(token, new(0, 0, "“when” needs a condition, such as {when Amount due > 100}."));
                test = token.Text.Length == 0 ? new Literal(Value.Of(false)) : Parsed(token, names, true);
            }
            else if (branches[^1].Test is null)
                tell(token, new(0, 9, "There is a second “otherwise” here."));
            var parts = new List<TemplatePart>();
            Sequence(names, parts);
            branches.Add(new(test, parts));
            closed = at >= tokens.Count || tokens[at].Kind == TokenKind.End;
        }
        if (at >= tokens.Count)
            tell(open, new(0, open.Text.Length, $"This “when {Evaluator.Short(open.Text)}” is not closed: its “end” is missing."));
        return new(branches);
    }

    TemplatePart Each(Names names)
    {
        var open = tokens[at++];
        var name = open.Text.Trim('`').Trim();
        var set = names.SetNamed(name);
        if (set is null)
        {
            var known = string.Join(", ", names.SetNames.Take(4));
            tell(
                open,
                new(
                    0,
                    open.Text.Length,
                    name.Length == 0 ? "“each” needs the name of detail rows, such as {each Gifts}."
                        : known.Length == 0 ? $"This list has no detail rows “{name}” or any others. Import them from the list page."
                        : $"This list has no detail rows “{name}”. It has {known}."
                )
            );
        }
        var parts = new List<TemplatePart>();
        Sequence(set is { } s ? names.Within(s) : names, parts);
        while (at < tokens.Count && tokens[at].Kind != TokenKind.End)
        {
            tell(
                tokens[at],
                new(0, tokens[at].Text.Length, "“each” cannot have an “otherwise”. To test for no rows, use {when count(…) = 0}.")
            );
            at++;
            Sequence(set is { } again ? names.Within(again) : names, parts);
        }
        if (at >= tokens.Count)
            tell(open, new(0, open.Text.Length, $"This “each {Evaluator.Short(name)}” is not closed: its “end” is missing."));
        return set is { } found ? new EachPart(found, parts) : new UnmatchedEach(name, parts);
    }

    void SkipToEnd()
    {
        for (var open = 0; at < tokens.Count; at++)
        {
            if (tokens[at].Kind is TokenKind.When or TokenKind.Each)
                open++;
            if (tokens[at].Kind == TokenKind.End && --open == 0)
                return;
        }
    }
}
