namespace Bandeja.Formats.Lists;

/// <summary>
/// Looks through the bytes of an XML part before a parser gets them: how deep its elements are nested, and how long a tag or a text is.
/// Parsers keep a text or a tag whole in memory, and trees are walked by calls within calls; both are refused here, at the speed of the
/// unpacking. Nothing else of XML is understood, and nothing is repaired: the parser still judges the rest.
/// </summary>
sealed class XmlBounds
{
    enum Within
    {
        Text,
        Tag,
        Quotation,
        Comment,
        Data,
        Instruction,
    }

    Within within;
    byte quote;
    int depth;
    long length;
    int opening;
    readonly byte[] first = new byte[9];
    byte last,
        beforeLast;

    /// <summary>Looks at the next bytes.</summary>
    /// <returns>What is too much; null where nothing is.</returns>
    public string? Add(ReadOnlySpan<byte> bytes)
    {
        while (bytes.Length > 0)
        {
            if (within is Within.Text)
            {
                var tag = bytes.IndexOf((byte)'<');
                var text = tag < 0 ? bytes.Length : tag;
                if ((length += text) > ListLimits.XmlPiece)
                    return $"a text of more than {ListLimits.CellLength:N0} characters";
                bytes = bytes[text..];
                if (tag < 0)
                    return null;
                (within, length, opening, last, beforeLast) = (Within.Tag, 0, 0, 0, 0);
                bytes = bytes[1..];
                continue;
            }
            var b = bytes[0];
            bytes = bytes[1..];
            if (within is not (Within.Comment or Within.Instruction) && ++length > ListLimits.XmlPiece)
                return $"a tag or text of more than {ListLimits.CellLength:N0} characters";
            if (Step(b) is { } objection)
                return objection;
            (beforeLast, last) = (last, b);
        }
        return null;
    }

    string? Step(byte b)
    {
        switch (within)
        {
            case Within.Quotation:
                if (b == quote)
                    within = Within.Tag;
                return null;
            case Within.Comment:
                if (b == '>' && last == '-' && beforeLast == '-')
                    Leave();
                return null;
            case Within.Data:
                if (b == '>' && last == ']' && beforeLast == ']')
                    Leave();
                return null;
            case Within.Instruction:
                if (b == '>' && last == '?')
                    Leave();
                return null;
        }
        if (opening < first.Length)
            first[opening++] = b;
        if (opening == 1 && b == '?')
            within = Within.Instruction;
        else if (opening == 3 && first.AsSpan(0, 3).SequenceEqual("!--"u8))
            (within, last) = (Within.Comment, 0);
        else if (opening == 8 && first.AsSpan(0, 8).SequenceEqual("![CDATA["u8))
            within = Within.Data;
        else if (b is (byte)'"' or (byte)'\'' && first[0] != '/')
            (within, quote) = (Within.Quotation, b);
        else if (b == '>')
        {
            if (first[0] == '/')
                depth--;
            else if (last != '/' && first[0] != '!' && ++depth > ListLimits.XmlDepth)
                return $"parts nested more than {ListLimits.XmlDepth} deep";
            Leave();
        }
        return null;
    }

    void Leave() => (within, length) = (Within.Text, 0);
}
