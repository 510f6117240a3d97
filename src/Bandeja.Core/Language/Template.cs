using System.Text;

namespace Bandeja.Core.Language;

/// <summary>A part of a text with fields: either plain text or a field.</summary>
/// <param name="Text">The plain text, or the field's source between its braces.</param>
/// <param name="Field">The field's expression; null for plain text.</param>
public sealed record TemplatePart(string Text, Expression? Field);

/// <summary>A text with fields in braces, such as <c>Dear {First name | else "neighbor"},</c>, parsed once.</summary>
public sealed class Template
{
    Template(IReadOnlyList<TemplatePart> parts, IReadOnlyList<LanguageError> errors) => (Parts, Errors) = (parts, errors);

    /// <summary>Text and fields in order.</summary>
    public IReadOnlyList<TemplatePart> Parts { get; }
    /// <summary>Mistakes, with positions in the whole text.</summary>
    public IReadOnlyList<LanguageError> Errors { get; }

    /// <summary>Parses a text. <c>\{</c>, <c>\}</c> and <c>\\</c> stand for the character itself. Never throws.</summary>
    public static Template Parse(string text, Names names)
    {
        var parts = new List<TemplatePart>();
        var errors = new List<LanguageError>();
        var plain = new StringBuilder();
        for (var i = 0; i < text.Length; i++)
        {
            var c = text[i];
            if (c == '\\' && i + 1 < text.Length && text[i + 1] is '{' or '}' or '\\') { plain.Append(text[++i]); continue; }
            if (c != '{') { plain.Append(c); continue; }
            var close = ClosingBrace(text, i + 1);
            if (close < 0)
            {
                errors.Add(new(i, text.Length - i, "This brace is not closed. For a brace as it is, write \\{."));
                plain.Append(text, i, text.Length - i);
                break;
            }
            if (plain.Length > 0) parts.Add(new(plain.ToString(), null));
            plain.Clear();
            var parsed = FieldParser.ParseWithin(text, i + 1, close, names);
            errors.AddRange(parsed.Errors);
            parts.Add(new(text[(i + 1)..close], parsed.Expression));
            i = close;
        }
        if (plain.Length > 0) parts.Add(new(plain.ToString(), null));
        return new(parts, errors);
    }

    /// <summary>The brace that closes a field, passing over quoted texts and backticked headings.</summary>
    static int ClosingBrace(string text, int from)
    {
        for (var i = from; i < text.Length; i++)
        {
            switch (text[i])
            {
                case '}': return i;
                case '{': return -1;
                case '`':
                    if (text.IndexOf('`', i + 1) is var tick and > 0) i = tick;
                    break;
                case '"':
                    var j = i + 1;
                    while (j < text.Length && text[j] != '"') j += text[j] == '\\' ? 2 : 1;
                    if (j < text.Length) i = j;
                    break;
            }
        }
        return -1;
    }

    /// <summary>Writes plain text so that it parses back to itself.</summary>
    public static string Escape(string plain) => plain.Replace("\\", "\\\\").Replace("{", "\\{").Replace("}", "\\}");
}
