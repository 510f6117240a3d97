using Bandeja.Core.Language;

namespace Bandeja.Core.Composition;

/// <summary>The address of a link that has fields in it, for one recipient.</summary>
static class LinkAddress
{
    /// <summary>
    /// The address. What a field gives is data and no part of the address's own syntax, so it is percent-encoded (RFC 3986, sections 2.1
    /// and
    /// 2.4): “Smith &amp; Sons” in a query does not begin another parameter. A field that is the beginning of the address is an address
    /// itself and
    /// keeps its signs; only what no address can hold is encoded.
    /// </summary>
    /// <returns>Null where it leads nowhere, because a field that it needs is blank.</returns>
    public static string? Of(Template link, EvaluationContext context)
    {
        var text = new System.Text.StringBuilder();
        Write(link.Parts, context, text);
        var address = text.ToString();
        return LeadsSomewhere(address) ? address : null;
    }

    /// <summary>False for what a blank field leaves of an address, such as https:// alone, and for what is no page and no mail.</summary>
    public static bool LeadsSomewhere(string? link) =>
        Uri.TryCreate(link, UriKind.Absolute, out var address) && address is { Scheme: "http" or "https" or "mailto", Host.Length: > 0 };

    static void Write(IReadOnlyList<TemplatePart> parts, EvaluationContext context, System.Text.StringBuilder text)
    {
        foreach (var part in parts)
        {
            switch (part)
            {
                case PlainPart p:
                    text.Append(p.Text);
                    break;
                case FieldPart f:
                    var value = Evaluator.PrintPlain(f.Field, context).Trim();
                    text.Append(text.Length == 0 ? Whole(value) : Uri.EscapeDataString(value));
                    break;
                case WhenPart w:
                    Write(w.Taken(context), context, text);
                    break;
                case EachPart e:
                    context.ForEach(e.Set, () => Write(e.Parts, context, text));
                    break;
            }
        }
    }

    /// <summary>An address from a column: what is already encoded stays, spaces and letters beyond ASCII are encoded, and nothing but pages
    /// and mail can be opened.</summary>
    static string Whole(string value)
    {
        if (value.Length == 0)
            return "";
        if (!value.Contains("://", StringComparison.Ordinal) && !value.StartsWith("mailto:", StringComparison.OrdinalIgnoreCase))
            value = "https://" + value;
        if (!Uri.TryCreate(value, UriKind.Absolute, out var address) || address.Scheme is not ("http" or "https" or "mailto"))
            return "";
        return address.AbsoluteUri;
    }
}
