using System.Globalization;
using System.Net;
using System.Text;
using Bandeja.Core.Barcodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Language;
using Bandeja.Core.Mail;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Emails;

/// <summary>
/// Writes a body as HTML that mail programs show alike, and as plain text: styles stand at the elements themselves, because many programs
/// drop style sheets; what stands side by side is a table, because some know nothing else. Brackets and fields are gone through as for
/// a letter. Serves one recipient after another, one thread.
/// </summary>
sealed class MailHtml(FlowMaker maker, EvaluationContext context, LayoutNotes notes)
{
    const double PixelsPerPoint = 96.0 / 72,
        MostWidth = 552;
    readonly StringBuilder html = new();
    readonly StringBuilder text = new();
    readonly List<MailPicture> pictures = [];
    readonly List<string> deadButtons = [];
    string indent = "";
    bool close;

    /// <summary>The pictures that the body names.</summary>
    public IReadOnlyList<MailPicture> Pictures => pictures;

    /// <summary>What the buttons say that lead nowhere for this recipient.</summary>
    public IReadOnlyList<string> DeadButtons => deadButtons;

    /// <summary>Writes the parts of a body for the recipient that the context stands at.</summary>
    public (string Html, string Text) Write(IReadOnlyList<TemplatePart> parts, TextStyle type)
    {
        Blocks(parts);
        return (html.ToString(), text.ToString());
    }

    void Blocks(IReadOnlyList<TemplatePart> parts)
    {
        foreach (var part in parts)
        {
            switch (part)
            {
                case PlainPart { Thing: BoundBlock bound }:
                    Block(bound);
                    break;
                case WhenPart choice:
                    Blocks(choice.Taken(context));
                    break;
                case EachPart each:
                    context.ForEach(each.Set, () => Blocks(each.Parts));
                    break;
            }
        }
    }

    void Block(BoundBlock bound)
    {
        context.Place = notes.Place = bound.Place;
        switch (bound)
        {
            case BoundParagraph p:
                Paragraph(p);
                break;
            case BoundPicture p:
                Picture(p);
                break;
            case BoundBarcode b:
                Code(b);
                break;
            case BoundRule r:
                html.Append(
                    CultureInfo.InvariantCulture,
                    $"<hr style=\"border:0;border-top:{Math.Max(1, Math.Round(r.Rule.Thickness * PixelsPerPoint))}px solid "
                        + $"#{r.Rule.Color};margin:0 0 {Px(r.Rule.SpaceAfter)} 0\">\n"
                );
                Line("----------");
                Line("");
                break;
            case BoundQuote q:
                html.Append("<blockquote style=\"margin:0 0 12px 0;padding:0 0 0 16px;border-left:3px solid #b9b3a4\">\n");
                var before = indent;
                indent += "> ";
                Blocks(q.Parts);
                indent = before;
                html.Append("</blockquote>\n");
                break;
            case BoundList l:
                var tag = l.List.Numbered ? "ol" : "ul";
                html.Append(tag == "ol" && l.List.Start != 1 ? $"<ol start=\"{l.List.Start}\"" : $"<{tag}")
                    .Append(" style=\"margin:0 0 12px 0;padding:0 0 0 26px\">\n");
                var number = l.List.Start;
                Items(l, l.Items, ref number);
                html.Append($"</{tag}>\n");
                Line("");
                break;
            case BoundTable t:
                Table(t);
                break;
        }
    }

    void Paragraph(BoundParagraph p)
    {
        var style = p.Paragraph.Style;
        if (style.Button is { } color)
        {
            Button(maker.Spans(p.Parts, notes), p.Paragraph, color);
            return;
        }
        var lines = Lines(maker.Spans(p.Parts, notes), p.Paragraph.BaseStyle);
        if (lines is null)
            return;
        var tag = style.Heading is >= 1 and <= 3 ? $"h{style.Heading}" : "p";
        html.Append(
            CultureInfo.InvariantCulture,
            $"<{tag} class=\"bd\" "
                + $"style=\"{Type(p.Paragraph.BaseStyle)};line-height:{style.LineSpacing:0.##};margin:{Px(style.SpaceBefore)} "
                + $"{Px(style.IndentRight)} {Px(close ? Math.Min(2, style.SpaceAfter) : style.SpaceAfter)} {Px(style.Indent)}"
        );
        if (style.Align != TextAlign.Left)
            html.Append(";text-align:")
                .Append(
                    style.Align switch
                    {
                        TextAlign.Center => "center",
                        TextAlign.Right => "right",
                        _ => "justify",
                    }
                );
        if (style.FirstLine != 0)
            html.Append(";text-indent:").Append(Px(style.FirstLine));
        html.Append("\">").Append(lines.Value.Html).Append($"</{tag}>\n");
        foreach (var line in lines.Value.Text.Split('\n'))
            Line(line);
        Line("");
    }

    /// <summary>
    /// The lines of a paragraph. As on paper, a line of nothing but fields that came out blank is left out, and what stands around a blank
    /// closes up; null where no line is left.
    /// </summary>
    (string Html, string Text)? Lines(IReadOnlyList<Span> spans, TextStyle baseStyle)
    {
        var (code, plain, any) = (new StringBuilder(), new StringBuilder(), spans.Count == 0);
        for (int start = 0, i = 0; i <= spans.Count && spans.Count > 0; i++)
        {
            if (i < spans.Count && !spans[i].EndsLine)
                continue;
            var (lineCode, lineText) = (new StringBuilder(), new StringBuilder());
            bool hasField = false,
                blank = false,
                hasPicture = false;
            for (var s = start; s < i; s++)
            {
                var span = spans[s];
                var value = span.Text;
                hasField |= span.FromField;
                blank |= span.FromField && value.Length == 0;
                if (span.Picture is { } picture)
                {
                    hasPicture = true;
                    lineCode.Append(
                        Linked(
                            Image(
                                picture.Asset,
                                null,
                                picture.Width * PixelsPerPoint,
                                picture.Height * PixelsPerPoint,
                                picture.Figure.Alt ?? "",
                                "vertical-align:middle"
                            ),
                            span.Style.Link
                        )
                    );
                    continue;
                }
                if (value.Length == 0)
                    continue;
                if (blank)
                    value = ParagraphLayout.ClosedUp(value, lineText, lineCode);
                blank = false;
                value = Printable(value, span.FromField);
                lineText.Append(value);
                lineCode.Append(Styled(value, span.Style, baseStyle));
                // The address of a link is told in the plain text, where it cannot be clicked otherwise.
                if (
                    span.Style.Link is { } link
                    && !value.Contains(link, StringComparison.OrdinalIgnoreCase)
                    && (s + 1 >= i || spans[s + 1].Style.Link != link)
                )
                    lineText.Append($" ({link})");
            }
            start = i + 1;
            if (hasField && !hasPicture && string.IsNullOrWhiteSpace(lineText.ToString()))
                continue;
            if (any)
            {
                code.Append("<br>");
                plain.Append('\n');
            }
            any = true;
            code.Append(lineCode);
            plain.Append(lineText);
        }
        if (!any)
            return null;
        if (code.Length == 0)
            code.Append("&nbsp;");
        return (code.ToString(), plain.ToString());
    }

    static string Printable(string value, bool fromField) =>
        string.Concat(
            SoundText
                .Of(value)
                .Select(c =>
                    c == '\t' ? "\u2003"
                    : char.IsControl(c)
                        ? fromField ? " "
                            : ""
                    : c.ToString()
                )
        );

    static string Styled(string value, TextStyle style, TextStyle baseStyle)
    {
        var inner = WebUtility.HtmlEncode(value).Replace("  ", " &nbsp;", StringComparison.Ordinal);
        if (style.Script == Script.Superscript)
            inner = $"<sup>{inner}</sup>";
        if (style.Script == Script.Subscript)
            inner = $"<sub>{inner}</sub>";
        if (style.Strike)
            inner = $"<s>{inner}</s>";
        if (style.Underline && style.Link is null)
            inner = $"<u>{inner}</u>";
        if (style.Italic)
            inner = $"<em>{inner}</em>";
        if (style.Bold && !baseStyle.Bold)
            inner = $"<strong>{inner}</strong>";
        var own = new List<string>();
        if (style.Family != baseStyle.Family)
            own.Add($"font-family:{MailFrame.Family(style.Family)}");
        if (style.Size != baseStyle.Size)
            own.Add($"font-size:{Px(style.Size)}");
        if (style.Color != baseStyle.Color)
            own.Add($"color:#{style.Color}");
        if (style.Link is { } link)
            return $"<a class=\"bd-link\" href=\"{WebUtility.HtmlEncode(link)}\" "
                + $"style=\"color:#{(style.Color != baseStyle.Color ? style.Color : "1d5a44")};text-decoration:underline\">{inner}</a>";
        return own.Count > 0 ? $"<span style=\"{string.Join(';', own)}\">{inner}</span>" : inner;
    }

    void Picture(BoundPicture bound)
    {
        var (asset, width, height) = maker.Resolve(bound.Picture.Box, bound.Source, notes);
        if (asset is null)
            return;
        var link = bound.Link is { } to ? LinkAddress.Of(to, context) : null;
        var align = bound.Picture.Align switch
        {
            TextAlign.Center => "center",
            TextAlign.Right => "right",
            _ => "left",
        };
        html.Append(
            CultureInfo.InvariantCulture,
            $"<p style=\"margin:0 0 {Px(bound.Picture.SpaceAfter)} "
                + $"0;text-align:{align}\">"
                + $"{Linked(Image(asset, null, width * PixelsPerPoint, height * PixelsPerPoint, bound.Picture.Box.Alt, ""), link)}</p>\n"
        );
        if (bound.Picture.Box.Alt.Length > 0 || link is not null)
        {
            var alt = bound.Picture.Box.Alt.Length > 0 ? $"[{bound.Picture.Box.Alt}]" : "";
            Line($"{alt} {link}".Trim());
            Line("");
        }
    }

    /// <summary>
    /// A button is a cell with a color and a link that fills it, which every mail program shows alike; a program without colors shows
    /// the link. What is written on it is one line.
    /// </summary>
    void Button(IReadOnlyList<Span> spans, Paragraph paragraph, string color)
    {
        // As in any paragraph, a blank closes up, and nothing but blanks is left out.
        var words = Lines([.. spans.Select(s => s with { Style = s.Style with { Link = null } })], paragraph.BaseStyle);
        var says = words?.Text.Replace('\n', ' ').Trim() ?? "";
        if (says.Length == 0)
            return;
        var link = spans.Select(s => s.Style.Link).FirstOrDefault(LinkAddress.LeadsSomewhere);
        if (link is null)
        {
            deadButtons.Add(says);
            return;
        }
        var align = paragraph.Style.Align switch
        {
            TextAlign.Center => "center",
            TextAlign.Right => "right",
            _ => "left",
        };
        // WCAG 2.2, 1.4.3: of black and white the one with more contrast to the button.
        var ink = Contrast.With(color, "ffffff") >= Contrast.With(color, "1d1c18") ? "ffffff" : "1d1c18";
        html.Append(
            CultureInfo.InvariantCulture,
            $"<table role=\"presentation\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\" width=\"100%\"><tr><td align=\"{align}\" "
                + $"style=\"padding:{Px(paragraph.Style.SpaceBefore)} 0 {Px(Math.Max(6, paragraph.Style.SpaceAfter))} 0\"><table "
                + $"role=\"presentation\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\"><tr>"
                + $"<td bgcolor=\"#{color}\" style=\"background:#{color};border-radius:6px\">"
                + $"<a href=\"{WebUtility.HtmlEncode(link)}\" style=\"display:inline-block;padding:12px 24px;{Type(paragraph.BaseStyle)};"
                + $"font-weight:bold;line-height:1.25;color:#{ink};text-decoration:none\">{WebUtility.HtmlEncode(says)}</a>"
                + $"</td></tr></table></td></tr></table>\n"
        );
        Line(link.Contains(says, StringComparison.OrdinalIgnoreCase) ? link : $"{says}: {link}");
        Line("");
    }

    static string Linked(string inner, string? link) =>
        link is null ? inner : $"<a href=\"{WebUtility.HtmlEncode(link)}\" style=\"text-decoration:none\">{inner}</a>";

    string Image(string? asset, Symbol? symbol, double width, double height, string alt, string style)
    {
        if (width > MostWidth)
            (width, height) = (MostWidth, height * MostWidth / width);
        (width, height) = (Math.Max(1, Math.Round(width)), Math.Max(1, Math.Round(height)));
        // The same picture twice is one part of the message.
        var picture = pictures.FirstOrDefault(p =>
            p.Asset == asset && ReferenceEquals(p.Symbol, symbol) && (p.Width, p.Height) == (width, height)
        );
        if (picture is null)
            pictures.Add(picture = new($"picture-{pictures.Count + 1}@body.invalid", asset, symbol, width, height));
        return string.Create(
            CultureInfo.InvariantCulture,
            $"<img src=\"cid:{picture.ContentId}\" width=\"{width}\" height=\"{height}\" alt=\"{WebUtility.HtmlEncode(alt)}\" "
                + $"style=\"border:0;max-width:100%;height:auto{(style.Length > 0 ? ";" + style : "")}\">"
        );
    }

    void Code(BoundBarcode bound)
    {
        if (bound.Mistake is { } mistake)
        {
            notes.Barcode(mistake);
            return;
        }
        if (bound.Barcode.Mail is not null)
            return; // told for everybody
        var content = Evaluator.PrintPlain(bound.Source!, context);
        if (content.Length == 0)
            return;
        try
        {
            var symbol = Symbol.Of(bound.Barcode.Symbology, content);
            var (wide, high) = (bound.Barcode.Width * PixelsPerPoint, bound.Barcode.Height * PixelsPerPoint);
            html.Append($"<p style=\"margin:0 0 12px 0\">{Image(null, symbol, wide, high, content, "background:#ffffff")}</p>\n");
            Line($"[{content}]");
            Line("");
        }
        catch (BarcodeContentException e)
        {
            notes.Barcode(e.Message);
        }
    }

    void Items(BoundList list, IReadOnlyList<TemplatePart> items, ref int number)
    {
        foreach (var part in items)
        {
            switch (part)
            {
                case PlainPart { Thing: BoundItem item }:
                    var (htmlAt, textAt, before, open) = (html.Length, text.Length, indent, close);
                    close = true;
                    html.Append("<li style=\"margin:0 0 4px 0\">");
                    var inside = html.Length;
                    indent += "  ";
                    Blocks(item.Parts);
                    (indent, close) = (before, open);
                    if (html.Length == inside)
                    {
                        html.Length = htmlAt;
                        text.Length = textAt;
                        break;
                    } // an item that came out empty is not counted
                    html.Append("</li>\n");
                    // The label takes the place of the first line's indent, and items stand close together.
                    var label = list.List.Numbered ? $"{number++}. " : "- ";
                    var body = text.ToString(textAt, text.Length - textAt).TrimEnd('\n');
                    text.Length = textAt;
                    text.Append(indent)
                        .Append(label)
                        .Append(body.StartsWith(indent + "  ", StringComparison.Ordinal) ? body[(indent.Length + 2)..] : body.TrimStart())
                        .Append('\n');
                    break;
                case WhenPart choice:
                    Items(list, choice.Taken(context), ref number);
                    break;
                case EachPart each:
                    var at = number;
                    context.ForEach(each.Set, () => Items(list, each.Parts, ref at));
                    number = at;
                    break;
            }
        }
    }

    void Table(BoundTable bound)
    {
        var rows = new List<(BoundRow Row, string Html, string Text)>();
        Rows(bound, bound.Rows, rows);
        if (rows.Count == 0 || bound.Table.Vanishes && rows.TrueForAll(r => r.Row.Row.IsHeading))
            return;
        html.Append(
            $"<table role=\"{(rows.Exists(r => r.Row.Row.IsHeading) ? "table" : "presentation")}\" cellpadding=\"0\" "
                + "cellspacing=\"0\" border=\"0\" width=\"100%\" style=\"border-collapse:collapse;margin:0 0 "
                + $"{Px(bound.Table.SpaceAfter)} 0"
        );
        if (bound.Table.Lines == TableLines.Outside)
            html.Append($";border:1px solid #{bound.Table.LineColor}");
        html.Append("\">\n");
        foreach (var row in rows)
        {
            html.Append("<tr>").Append(row.Html).Append("</tr>\n");
            Line(row.Text);
        }
        html.Append("</table>\n");
        Line("");
    }

    void Rows(BoundTable table, IReadOnlyList<TemplatePart> parts, List<(BoundRow, string, string)> rows)
    {
        foreach (var part in parts)
        {
            switch (part)
            {
                case PlainPart { Thing: BoundRow row }:
                    rows.Add(Row(table, row));
                    break;
                case WhenPart choice:
                    Rows(table, choice.Taken(context), rows);
                    break;
                case EachPart each:
                    context.ForEach(each.Set, () => Rows(table, each.Parts, rows));
                    break;
            }
        }
    }

    (BoundRow, string, string) Row(BoundTable table, BoundRow row)
    {
        var line = table.Table.Lines;
        var edge =
            line == TableLines.All ? $"border:1px solid #{table.Table.LineColor};"
            : line == TableLines.Rows ? $"border-bottom:1px solid #{table.Table.LineColor};"
            : "";
        var (code, cells) = (new StringBuilder(), new List<string>());
        var all = table.Widths.Sum();
        foreach (var (cell, column, span) in row.Cells)
        {
            var (htmlAt, textAt, before) = (html.Length, text.Length, indent);
            var open = close;
            (indent, close) = ("", true);
            Blocks(cell.Parts);
            (indent, close) = (before, open);
            var inner = html.ToString(htmlAt, html.Length - htmlAt);
            cells.Add(
                string.Join(
                    ' ',
                    text.ToString(textAt, text.Length - textAt)
                        .Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
                )
            );
            (html.Length, text.Length) = (htmlAt, textAt);
            var tag = cell.Cell.Heading ? "th" : "td";
            var width = all > 0 ? (int)Math.Round(table.Widths.Skip(column).Take(span).Sum() / all * 100) : 0;
            var stands = cell.Cell.Align switch
            {
                CellAlign.Middle => "middle",
                CellAlign.Bottom => "bottom",
                _ => "top",
            };
            var ground = cell.Cell.Shade is { } shade ? $";background:#{shade}" : "";
            code.Append(
                $"<{tag}{(cell.Cell.Heading ? " scope=\"col\"" : "")}{(span > 1 ? $" colspan=\"{span}\"" : "")}"
                    + $"{(cell.Cell.RowSpan > 1 ? $" rowspan=\"{cell.Cell.RowSpan}\"" : "")}{(width > 0 ? $" width=\"{width}%\"" : "")}"
                    + $" align=\"left\" valign=\"{stands}\" style=\"{Lines(cell.Cell) ?? edge}padding:4px 8px{ground}\">{inner}</{tag}>"
            );
        }
        return (row, code.ToString(), string.Join("  ", cells.Where(c => c.Length > 0)));
    }

    /// <summary>The lines of a cell that has its own; null where they are the table's.</summary>
    static string? Lines(TableCell cell)
    {
        if (cell.Lines is not { } own)
            return null;
        var sides = new[] { ("top", own.Top), ("right", own.Right), ("bottom", own.Bottom), ("left", own.Left) };
        return string.Concat(
            sides.Select(s =>
                s.Item2 is { } line
                    ? $"border-{s.Item1}:{Math.Max(1, (int)Math.Round(line.Width * PixelsPerPoint))}px solid #{line.Color};"
                    : $"border-{s.Item1}:none;"
            )
        );
    }

    static string Type(TextStyle style) =>
        $"font-family:{MailFrame.Family(style.Family)};font-size:{Px(style.Size)};color:#{style.Color}"
        + $"{(style.Bold ? ";font-weight:bold" : ";font-weight:normal")}{(style.Italic ? ";font-style:italic" : "")}";

    /// <summary>Points as whole CSS pixels.</summary>
    static string Px(double points) => string.Create(CultureInfo.InvariantCulture, $"{Math.Round(points * PixelsPerPoint)}px");

    void Line(string line)
    {
        // One empty line between paragraphs, whatever left nothing behind in between.
        if (line.Length == 0 && (text.Length == 0 || text.Length > 1 && text[^1] == '\n' && text[^2] == '\n'))
            return;
        text.Append(line.Length == 0 ? "" : indent + line).Append('\n');
    }
}
