using System.Text;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Language;

/// <summary>A part of a text with fields and brackets.</summary>
public abstract record TemplatePart
{
    /// <summary>The part and all parts within it.</summary>
    public virtual IEnumerable<TemplatePart> All() => [this];
}

/// <summary>Plain text, or something else that the text carries along, such as a line break or a whole paragraph.</summary>
/// <param name="Text">The plain text; empty where <paramref name="Thing"/> stands for something else.</param>
/// <param name="Thing">What the text carries along: its style, a line break, a bound paragraph.</param>
public sealed record PlainPart(string Text, object? Thing = null) : TemplatePart;

/// <summary>A field.</summary>
/// <param name="Source">What stands between its braces.</param>
/// <param name="Thing">Its style, where it has one.</param>
/// <param name="Beside">The sign that is typed beside it, which its number then prints without.</param>
public sealed record FieldPart(string Source, Expression Field, object? Thing = null, NumberLook? Beside = null) : TemplatePart;

/// <summary><c>when … or when … otherwise … end</c>.</summary>
public sealed record WhenPart(IReadOnlyList<Branch> Branches) : TemplatePart
{
    /// <inheritdoc/>
    public override IEnumerable<TemplatePart> All() => [this, .. Branches.SelectMany(b => b.Parts).SelectMany(p => p.All())];

    /// <summary>The parts that hold for a recipient: of the first branch whose condition is met.</summary>
    public IReadOnlyList<TemplatePart> Taken(EvaluationContext context)
    {
        foreach (var branch in Branches)
            if (branch.Test is null || Evaluator.IsYes(Evaluator.Evaluate(branch.Test, context)))
                return branch.Parts;
        return [];
    }
}

/// <summary>One way of a <see cref="WhenPart"/>; the test is null for <c>otherwise</c>.</summary>
public sealed record Branch(Expression? Test, IReadOnlyList<TemplatePart> Parts);

/// <summary><c>each Gifts … end</c>.</summary>
/// <param name="Set">Position among the list's sets of detail rows.</param>
public sealed record EachPart(int Set, IReadOnlyList<TemplatePart> Parts) : TemplatePart
{
    /// <inheritdoc/>
    public override IEnumerable<TemplatePart> All() => [this, .. Parts.SelectMany(p => p.All())];
}

/// <summary><c>each</c> over detail rows that the list does not have: it prints nothing, and can be matched with rows that the list
/// has.</summary>
public sealed record UnmatchedEach(string Name, IReadOnlyList<TemplatePart> Parts) : TemplatePart;

/// <summary>A text with fields and brackets in braces, such as <c>Dear {First name | else "neighbor"},</c>, parsed once.</summary>
public sealed class Template
{
    Template(IReadOnlyList<TemplatePart> parts, IReadOnlyList<LanguageError> errors) => (Parts, Errors) = (parts, errors);

    /// <summary>Text, fields and brackets in order.</summary>
    public IReadOnlyList<TemplatePart> Parts { get; }

    /// <summary>Mistakes, with positions in the whole text.</summary>
    public IReadOnlyList<LanguageError> Errors { get; }

    /// <summary>Parses a text. <c>\{</c>, <c>\}</c> and <c>\\</c> stand for the character itself. Never throws.</summary>
    public static Template Parse(string text, Names names)
    {
        var errors = new List<LanguageError>();
        var tokens = Scan(text, names, null, errors);
        var parts = BracketReader.Read(
            tokens,
            names,
            (_, _) => null,
            (token, error) => errors.Add(error with { Position = token.Position + error.Position })
        );
        return new(parts, errors);
    }

    /// <summary>Divides a text into plain text, fields and markers; a brace that is not closed is an error at its place.</summary>
    /// <param name="thing">What each token carries along.</param>
    internal static List<TemplateToken> Scan(string text, Names names, object? thing, List<LanguageError> errors)
    {
        var tokens = new List<TemplateToken>();
        var plain = new StringBuilder();
        var plainStart = 0;
        void Flush(int next)
        {
            if (plain.Length > 0)
                tokens.Add(new(TokenKind.Plain, plain.ToString(), plainStart, thing));
            plain.Clear();
            plainStart = next;
        }
        for (var i = 0; i < text.Length; i++)
        {
            var c = text[i];
            if (c == '\\' && i + 1 < text.Length && text[i + 1] is '{' or '}' or '\\')
            {
                plain.Append(text[++i]);
                continue;
            }
            if (c != '{')
            {
                plain.Append(c);
                continue;
            }
            var close = ClosingBrace(text, i + 1);
            if (close < 0)
            {
                errors.Add(
                    new(
                        i,
                        text.Length - i,
                        text.AsSpan(i + 1).IndexOf('{') >= 0 && text.AsSpan(i + 1).IndexOf('}') >= 0
                            ? "A field cannot stand inside a field: close this brace first. To print a brace, write \\{."
                            : "This brace is not closed. To print a brace, write \\{."
                    )
                );
                // Never printed as it was typed: what is broken is a mistake to fix, and nothing that a recipient may read.
                Flush(text.Length);
                tokens.Add(new(TokenKind.Broken, text[i..], i, thing, text[i..]));
                break;
            }
            Flush(close + 1);
            tokens.Add(TemplateToken.OfBraces(text[(i + 1)..close], i + 1, names, thing));
            i = close;
        }
        Flush(text.Length);
        return tokens;
    }

    /// <summary>The brace that closes a field, passing over quoted texts and backticked headings.</summary>
    static int ClosingBrace(string text, int from)
    {
        for (var i = from; i < text.Length; i++)
        {
            switch (text[i])
            {
                case '}':
                    return i;
                case '{':
                    return -1;
                case '`':
                    if (text.IndexOf('`', i + 1) is var tick and > 0)
                        i = tick;
                    break;
                case '"':
                    var j = i + 1;
                    while (j < text.Length && text[j] != '"')
                        j += text[j] == '\\' ? 2 : 1;
                    if (j < text.Length)
                        i = j;
                    break;
            }
        }
        return -1;
    }

    /// <summary>What the text comes to for the recipient that the context stands at.</summary>
    public string Print(EvaluationContext context) => Print(context, plain: false);

    /// <summary>The same with numbers as they are stored, whatever is usual for their columns: for passwords and the names of
    /// files.</summary>
    public string PrintPlain(EvaluationContext context) => Print(context, plain: true);

    string Print(EvaluationContext context, bool plain)
    {
        var text = new StringBuilder();
        Print(Parts, context, text, plain);
        return text.ToString();
    }

    static void Print(IReadOnlyList<TemplatePart> parts, EvaluationContext context, StringBuilder text, bool plain)
    {
        foreach (var part in parts)
        {
            // Nothing that is printed from a line of text is as long: names, subjects, addresses.
            if (text.Length > Functions.LongestText)
                return;
            switch (part)
            {
                case PlainPart p:
                    text.Append(p.Text);
                    break;
                case FieldPart f:
                    text.Append(plain ? Evaluator.PrintPlain(f.Field, context) : Evaluator.Print(f.Field, context, f.Beside));
                    break;
                case WhenPart w:
                    Print(w.Taken(context), context, text, plain);
                    break;
                case EachPart e:
                    context.ForEach(e.Set, () => Print(e.Parts, context, text, plain));
                    break;
            }
        }
    }

    /// <summary>Writes plain text so that it parses back to itself.</summary>
    public static string Escape(string plain) => plain.Replace("\\", "\\\\").Replace("{", "\\{").Replace("}", "\\}");
}
