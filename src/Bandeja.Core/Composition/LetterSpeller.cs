using System.Text;
using Bandeja.Core.Barcodes;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Composition;

/// <summary>
/// Fills a letter for one recipient after another without laying it out, for files that are edited elsewhere. What is blank closes up as it
/// does on paper. Serves one thread.
/// </summary>
public sealed class LetterSpeller
{
    readonly BoundLetter letter;
    readonly EvaluationContext context;
    readonly FlowMaker maker;
    LayoutNotes notes = new();

    /// <summary>Begins.</summary>
    /// <param name="today">The day of the run.</param>
    public LetterSpeller(BoundLetter letter, DateOnly today)
    {
        this.letter = letter;
        context = letter.NewContext(today);
        maker = new(letter.Setting.Fonts, context, letter.Setting.Pictures, letter.Setting.Own);
    }

    /// <summary>The letter that is filled.</summary>
    public LetterDesign Design => letter.Design;

    /// <summary>One recipient's letter.</summary>
    public LetterContent Spell(IRow row, int pieceNumber)
    {
        context.For(row, pieceNumber, null);
        context.Page = (1, 1);
        notes = new();
        var body = Blocks(letter.Body);
        return new(
            letter.Design,
            body,
            Blocks(letter.Heads.Header.Parts),
            Blocks(letter.Heads.Footer.Parts),
            letter.Heads.FirstHeader is { } h ? Blocks(h.Parts) : null,
            letter.Heads.FirstFooter is { } f ? Blocks(f.Parts) : null,
            letter.Watermark?.Print(context) is { } mark && !string.IsNullOrWhiteSpace(mark) ? mark : null
        )
        {
            EvenHeader = letter.Heads.EvenHeader is { } eh ? Blocks(eh.Parts) : null,
            EvenFooter = letter.Heads.EvenFooter is { } ef ? Blocks(ef.Parts) : null,
            Omitted = letter.Design.OmitWhenEmpty && letter.Varies && IsEmpty(body),
        };
    }

    static bool IsEmpty(IReadOnlyList<ContentBlock> blocks) =>
        blocks.All(b =>
            b switch
            {
                ContentParagraph p => p.Inlines.All(i => i.Picture is null && string.IsNullOrWhiteSpace(i.Text)),
                ContentQuote q => IsEmpty(q.Blocks),
                ContentBox { Box: { Shade: null, Line: null } } x => IsEmpty(x.Blocks),
                ContentColumns c => IsEmpty(c.Blocks),
                ContentBreak => true,
                _ => false,
            }
        );

    List<ContentBlock> Blocks(IReadOnlyList<TemplatePart> parts)
    {
        var result = new List<ContentBlock>();
        Blocks(parts, result);
        return result;
    }

    void Blocks(IReadOnlyList<TemplatePart> parts, List<ContentBlock> target)
    {
        foreach (var part in parts)
        {
            switch (part)
            {
                case PlainPart { Thing: FixedGroup group }:
                    foreach (var bound in group.Blocks)
                        Block(bound, target);
                    break;
                case PlainPart { Thing: BoundBlock bound }:
                    Block(bound, target);
                    break;
                case WhenPart choice:
                    Blocks(choice.Taken(context), target);
                    break;
                case EachPart each:
                    context.ForEach(each.Set, () => Blocks(each.Parts, target));
                    break;
            }
        }
    }

    void Block(BoundBlock bound, List<ContentBlock> target)
    {
        context.Place = notes.Place = bound.Place;
        switch (bound)
        {
            case BoundParagraph p:
                if (Inlines(p.Parts) is { } inlines)
                    target.Add(new ContentParagraph(p.Paragraph.Style, p.Paragraph.BaseStyle, inlines));
                break;
            case BoundPicture p:
                var (asset, width, height) = maker.Resolve(p.Picture.Box, p.Source, notes);
                if (asset is not null)
                    target.Add(
                        new ContentPictureBlock(
                            new(
                                asset,
                                null,
                                width,
                                height,
                                p.Picture.Box.Alt,
                                p.Picture.Align,
                                p.Picture.SpaceAfter,
                                p.Picture.Place,
                                p.Picture.Beside,
                                p.Picture.Gap
                            )
                        )
                    );
                break;
            case BoundBarcode b:
                if (Code(b) is { } symbol)
                    target.Add(
                        new ContentPictureBlock(
                            new(
                                null,
                                symbol.Symbol,
                                b.Barcode.Width,
                                b.Barcode.Height,
                                symbol.Content,
                                b.Barcode.Align,
                                b.Barcode.SpaceAfter,
                                b.Barcode.Place
                            )
                        )
                    );
                break;
            case BoundRule r:
                target.Add(new ContentRule(r.Rule));
                break;
            case BoundBreak b:
                target.Add(new ContentBreak(b.Page));
                break;
            case BoundQuote q:
                if (Blocks(q.Parts) is { Count: > 0 } quoted)
                    target.Add(new ContentQuote(quoted));
                break;
            case BoundBox b:
                if (Blocks(b.Parts) is var boxed && (boxed.Count > 0 || b.Box.Shade is not null || b.Box.Line is not null))
                    target.Add(new ContentBox(b.Box, boxed));
                break;
            case BoundColumns c:
                if (Blocks(c.Parts) is { Count: > 0 } columns)
                    target.Add(new ContentColumns(c.Columns, columns));
                break;
            case BoundList l:
                var items = new List<IReadOnlyList<ContentBlock>>();
                Items(l.Items, items);
                if (items.Count > 0)
                    target.Add(new ContentList(l.List, items));
                break;
            case BoundTable t:
                var rows = new List<ContentRow>();
                Rows(t.Rows, rows);
                if (rows.Count > 0 && !(t.Table.Vanishes && rows.TrueForAll(r => r.IsHeading)))
                    target.Add(new ContentTable(t.Table, t.Widths, rows));
                break;
        }
    }

    (Symbol Symbol, string Content)? Code(BoundBarcode bound)
    {
        if (bound.Mistake is not null || bound.Source is null)
            return null;
        var content = Evaluator.PrintPlain(bound.Source, context);
        if (content.Length == 0)
            return null;
        try
        {
            return (Symbol.Of(bound.Barcode.Symbology, content), content);
        }
        catch (BarcodeContentException e)
        {
            notes.Barcode(e.Message);
            return null;
        }
    }

    void Items(IReadOnlyList<TemplatePart> parts, List<IReadOnlyList<ContentBlock>> items)
    {
        foreach (var part in parts)
        {
            switch (part)
            {
                case PlainPart { Thing: BoundItem item }:
                    if (Blocks(item.Parts) is { Count: > 0 } blocks)
                        items.Add(blocks);
                    break;
                case WhenPart choice:
                    Items(choice.Taken(context), items);
                    break;
                case EachPart each:
                    context.ForEach(each.Set, () => Items(each.Parts, items));
                    break;
            }
        }
    }

    void Rows(IReadOnlyList<TemplatePart> parts, List<ContentRow> rows)
    {
        foreach (var part in parts)
        {
            switch (part)
            {
                case PlainPart { Thing: BoundRow row }:
                    rows.Add(
                        new(row.Row.IsHeading, [.. row.Cells.Select(c => (c.Cell.Cell, (IReadOnlyList<ContentBlock>)Blocks(c.Cell.Parts)))])
                    );
                    break;
                case WhenPart choice:
                    Rows(choice.Taken(context), rows);
                    break;
                case EachPart each:
                    context.ForEach(each.Set, () => Rows(each.Parts, rows));
                    break;
            }
        }
    }

    /// <summary>A line's part on the way: what it prints, and whether that came from a field.</summary>
    readonly record struct Piece(Span Span, ContentKind Kind, IReadOnlyList<ContentBlock>? Note = null);

    /// <summary>The lines of a paragraph; null where nothing but blank fields stood there.</summary>
    List<ContentInline>? Inlines(IReadOnlyList<TemplatePart> parts)
    {
        var pieces = new List<Piece>();
        Pieces(parts, pieces);
        if (pieces.Count == 0)
            return [];
        var result = new List<ContentInline>();
        var any = false;
        for (int start = 0, i = 0; i <= pieces.Count; i++)
        {
            if (i < pieces.Count && !pieces[i].Span.EndsLine)
                continue;
            var line = new List<ContentInline>();
            var text = new StringBuilder();
            bool hasField = false,
                blank = false,
                holds = false;
            for (var s = start; s < i; s++)
            {
                var (span, kind, note) = pieces[s];
                hasField |= span.FromField;
                blank |= span.FromField && span.Text.Length == 0;
                if (span.Picture is { } picture)
                {
                    holds = true;
                    line.Add(
                        new(
                            ContentKind.Picture,
                            "",
                            span.Style,
                            new(picture.Asset, null, picture.Width, picture.Height, picture.Figure.Alt ?? "")
                        )
                    );
                    continue;
                }
                if (kind is ContentKind.PageNumber or ContentKind.PageCount or ContentKind.Note)
                {
                    holds = true;
                    line.Add(new(kind, span.Text, span.Style, Note: note));
                    continue;
                }
                var value = span.Text;
                if (value.Length == 0)
                    continue;
                var before = text.Length;
                if (blank)
                    value = ParagraphLayout.ClosedUp(value, text);
                // The space before a blank went with it.
                if (text.Length < before && line.Count > 0 && line[^1].Text.EndsWith(' '))
                    line[^1] = line[^1] with { Text = line[^1].Text[..^1] };
                blank = false;
                value = Printable(value, span.FromField);
                text.Append(value);
                if (line.Count > 0 && line[^1].Kind == ContentKind.Text && line[^1].Style.Equals(span.Style))
                    line[^1] = line[^1] with { Text = line[^1].Text + value };
                else
                    line.Add(new(ContentKind.Text, value, span.Style));
            }
            start = i + 1;
            if (hasField && !holds && string.IsNullOrWhiteSpace(text.ToString()))
                continue;
            if (any)
                result.Add(new(ContentKind.LineBreak, "", line.Count > 0 ? line[0].Style : pieces[0].Span.Style));
            any = true;
            result.AddRange(line);
        }
        return any ? result : null;
    }

    void Pieces(IReadOnlyList<TemplatePart> parts, List<Piece> target)
    {
        foreach (var part in parts)
        {
            switch (part)
            {
                case FieldPart { Field: BuiltInReference { Which: BuiltIn.PageNumber or BuiltIn.PageCount } page } field:
                    target.Add(
                        new(
                            new(
                                "1",
                                field.Thing as TextStyle
                                    ?? letter.Design.Blocks.OfType<Paragraph>().FirstOrDefault()?.BaseStyle ?? new("", 11),
                                true
                            ),
                            page.Which == BuiltIn.PageNumber ? ContentKind.PageNumber : ContentKind.PageCount
                        )
                    );
                    break;
                case PlainPart { Thing: BoundNote note }:
                    target.Add(new(new("1", note.Style), ContentKind.Note, Blocks(note.Parts)));
                    break;
                case WhenPart choice:
                    var before = target.Count;
                    Pieces(choice.Taken(context), target);
                    if (target.Count == before)
                        target.AddRange(maker.Spans([choice], notes).Select(s => new Piece(s, ContentKind.Text)));
                    break;
                case EachPart each:
                    var start = target.Count;
                    context.ForEach(each.Set, () => Pieces(each.Parts, target));
                    if (target.Count == start)
                        target.AddRange(maker.Spans([each], notes).Select(s => new Piece(s, ContentKind.Text)));
                    break;
                default:
                    target.AddRange(maker.Spans([part], notes).Select(s => new Piece(s, ContentKind.Text)));
                    break;
            }
        }
    }

    static string Printable(string value, bool fromField)
    {
        if (value.All(c => !char.IsControl(c)))
            return value;
        return string.Concat(
            SoundText
                .Of(value)
                .Select(c =>
                    c == '\t' && !fromField ? c
                    : char.IsControl(c) ? ' '
                    : c
                )
        );
    }
}
