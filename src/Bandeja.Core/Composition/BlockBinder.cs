using Bandeja.Core.Barcodes;
using Bandeja.Core.Language;

namespace Bandeja.Core.Composition;

/// <summary>Binds a letter's blocks to a list: parses their fields and brackets once, and lays out once what is the same for
/// everyone.</summary>
sealed class BlockBinder(FlowMaker maker, List<DesignError> errors)
{
    const double QuoteIndent = 20;
    int block;

    /// <summary>Binds the blocks of a letter, a header or a footer.</summary>
    public IReadOnlyList<TemplatePart> Bind(IReadOnlyList<Block> blocks, Names names, BlockFrame frame)
    {
        var tokens = new List<TemplateToken>();
        setup = null;
        widest = frame.Width;
        sectioned = frame.Body;
        around.Clear();
        for (var i = 0; i < blocks.Count; i++)
            Tokens(blocks[i], names, tokens, i);
        sectioned = false;
        block = 0;
        var parts = BracketReader.Read(
            tokens,
            names,
            (token, scope) =>
            {
                if (token.Thing is not Placed p)
                    return null;
                setup = p.Setup;
                return new PlainPart("", One(p.Block, p.Index, scope, setup is null ? frame : frame with { Width = setup.TextWidth }));
            },
            Tell
        );
        return frame.Body ? Grouped(parts, widest) : parts;
    }

    /// <summary>A block of the text, with the sheet that it stands on; null for the letter's own.</summary>
    sealed record Placed(Block Block, int Index, PageSetup? Setup);

    /// <summary>The sheet of what is read now; null for the letter's own.</summary>
    PageSetup? setup;

    /// <summary>True while the text of the pages themselves is read: only there a sheet can change.</summary>
    bool sectioned;

    /// <summary>The width of the text on the widest sheet, points.</summary>
    double widest;

    /// <summary>The sheet of the letter.</summary>
    public PageSetup? Sheet { get; set; }

    /// <summary>The sheets on which what is around the text read now began.</summary>
    readonly Stack<PageSetup?> around = [];

    void BackTo(PageSetup? before, List<TemplateToken> tokens, int index)
    {
        if (setup == before)
            return;
        setup = before;
        tokens.Add(new(TokenKind.Plain, "", 0, new Placed(new PageBreak(before ?? Sheet), index, before)));
    }

    void Tell(TemplateToken token, LanguageError error) =>
        errors.Add(
            new(
                block,
                token.Source.Length > 0 ? token.Source : token.Text,
                error with
                {
                    Position = token.Position + error.Position,
                },
                token.With(error)
            )
        );

    IReadOnlyList<TemplatePart> Inner(IReadOnlyList<Block> blocks, Names names, BlockFrame frame)
    {
        var tokens = new List<TemplateToken>();
        foreach (var b in blocks)
            Tokens(b, names, tokens, block);
        return BracketReader.Read(
            tokens,
            names,
            (token, scope) => token.Thing is Placed p ? new PlainPart("", One(p.Block, block, scope, frame)) : null,
            Tell
        );
    }

    /// <summary>A block as tokens: brackets around blocks become markers, and so does a paragraph that holds nothing but markers.</summary>
    void Tokens(Block b, Names names, List<TemplateToken> tokens, int index)
    {
        // What is kept or repeated ends on the sheet on which it began: whether it is there or not, what follows is the same.
        void Mark(TemplateToken marker)
        {
            if (sectioned && marker.Kind is TokenKind.OrWhen or TokenKind.Otherwise or TokenKind.End && around.TryPop(out var before))
                BackTo(before, tokens, index);
            tokens.Add(marker);
            if (sectioned && marker.Kind is not TokenKind.End)
                around.Push(setup);
        }
        switch (b)
        {
            case WhenBlock choice:
                for (var i = 0; i < choice.Branches.Count; i++)
                {
                    var (test, blocks) = choice.Branches[i];
                    Mark(
                        test is null && i > 0
                            ? new(TokenKind.Otherwise, "", 0, null, "otherwise")
                            : new(i == 0 ? TokenKind.When : TokenKind.OrWhen, test ?? "", 0, null, $"when {test}")
                    );
                    foreach (var inner in blocks)
                        Tokens(inner, names, tokens, index);
                }
                if (choice.Branches.Count > 0)
                    Mark(new(TokenKind.End, "", 0, null, "end"));
                break;
            case EachBlock each:
                Mark(new(TokenKind.Each, each.Rows, 0, null, $"each {each.Rows}"));
                foreach (var inner in each.Blocks)
                    Tokens(inner, names, tokens, index);
                Mark(new(TokenKind.End, "", 0, null, "end"));
                break;
            case Paragraph paragraph when OnlyMarkers(paragraph, names) is { } markers:
                markers.ForEach(Mark);
                break;
            case PageBreak { Page: { } page } when sectioned:
                setup = page;
                widest = Math.Max(widest, page.TextWidth);
                tokens.Add(new(TokenKind.Plain, "", 0, new Placed(b, index, setup)));
                break;
            default:
                tokens.Add(new(TokenKind.Plain, "", 0, new Placed(b, index, setup)));
                break;
        }
    }

    static List<TemplateToken>? OnlyMarkers(Paragraph paragraph, Names names)
    {
        if (paragraph.Inlines.Count == 0)
            return null;
        var markers = new List<TemplateToken>();
        foreach (var inline in paragraph.Inlines)
        {
            if (inline is FieldInline field)
                markers.Add(TemplateToken.OfBraces(field.Source, 0, names, null));
            else if (inline is TextInline text)
                markers.AddRange(Template.Scan(text.Text, names, null, []));
            else
                return null;
        }
        markers.RemoveAll(t => t.Kind == TokenKind.Plain && string.IsNullOrWhiteSpace(t.Text));
        return markers.Count > 0 && markers.All(t => t.IsMarker) ? markers : null;
    }

    BoundBlock One(Block b, int index, Names names, BlockFrame frame)
    {
        block = index;
        var place = frame.Body ? $"paragraph {index + 1}" : frame.Place;
        BoundBlock bound = b switch
        {
            Paragraph p => new BoundParagraph(p, Inlines(p, names), frame.In(p.Style.Indent, p.Style.IndentRight), place),
            Picture p => new BoundPicture(p, Expression(p.Box.Source, names), Link(p.Link, names), frame, place),
            Barcode c => Code(c, names, frame, place),
            Rule r => new BoundRule(r, frame, place),
            ItemList l => List(l, names, frame, place),
            Quote q => new BoundQuote(
                Inner(
                    q.Blocks,
                    names,
                    frame.In(QuoteIndent, QuoteIndent, 6, new(ElementKind.Quote, frame.Parent)) with
                    {
                        Body = false,
                        Place = place,
                    }
                ),
                frame,
                place
            ),
            Table t => Table(t, names, frame, place),
            Box x => Box(x, names, frame, place),
            Columns c => Columns(c, names, frame, place),
            _ => new BoundBreak(frame, frame.Body ? (b as PageBreak)?.Page : null),
        };
        // A list whose labels have the numbers of those around it is laid out with them, and columns are divided where the pages are known.
        if (!bound.Varies && bound is not (BoundList { NeedsOuter: true } or BoundColumns))
        {
            var notes = new LayoutNotes();
            var flows = new List<Flow>();
            maker.Begin(footnotes: false);
            maker.Make(bound, flows, notes);
            bound.Fixed = flows;
            if (!notes.IsEmpty)
                bound.Notes = notes;
        }
        return bound;
    }

    BoundBox Box(Box box, Names names, BlockFrame frame, string place)
    {
        var width = box.Place is null ? Math.Min(box.Width, frame.Width) : box.Width;
        var inner = new BlockFrame(0, Math.Max(10, width - 2 * box.Padding), [], frame.Parent, false, place);
        return new(box with { Width = width }, Inner(box.Blocks, names, inner), frame, place);
    }

    BoundColumns Columns(Columns columns, Names names, BlockFrame frame, string place)
    {
        var width = Math.Max(20, (frame.Width - (columns.Count - 1) * columns.Gap) / columns.Count);
        var inner = frame with { Left = 0, Width = width, Bars = [], Body = false, Place = place };
        return new(columns, Inner(columns.Blocks, names, inner), width, frame, place);
    }

    BoundNote Note(NoteInline note, Names names)
    {
        var element = new Element(ElementKind.Note, null);
        var inner = new BlockFrame(
            0,
            setup?.TextWidth ?? Sheet?.TextWidth ?? 200,
            [],
            element,
            false,
            $"a footnote of paragraph {block + 1}"
        );
        return new(Inner(note.Blocks, names, inner), note.Style);
    }

    BoundBarcode Code(Barcode code, Names names, BlockFrame frame, string place)
    {
        string? mistake = null;
        if (code.Mail is { } mail)
        {
            try
            {
                IntelligentMail.Tracking(mail.BarcodeId, mail.Service, mail.Mailer, 0);
            }
            catch (IntelligentMailException e)
            {
                mistake = e.Message;
            }
            mailers.Add(mail.Mailer);
        }
        else if (string.IsNullOrWhiteSpace(code.Source))
            mistake = "The barcode has no content. Enter its content.";
        if (mistake is not null)
            errors.Add(new(block, code.Mail?.Mailer ?? code.Source, new(0, 0, mistake)));
        return new(code, mistake is null && code.Mail is null ? Expression(code.Source, names) : null, mistake, frame, place);
    }

    readonly List<string> mailers = [];

    /// <summary>The mailer identifiers of the barcodes bound so far.</summary>
    public IReadOnlyList<string> Mailers => mailers;

    Expression? Expression(string? source, Names names)
    {
        if (source is null)
            return null;
        var parsed = FieldParser.ParseExpression(source, names);
        foreach (var error in parsed.Errors)
            errors.Add(new(block, source, error));
        return parsed.Expression;
    }

    Template? Link(string? link, Names names)
    {
        if (link is null)
            return null;
        var parsed = Template.Parse(link, names);
        foreach (var error in parsed.Errors)
            errors.Add(new(block, link, error));
        return parsed;
    }

    IReadOnlyList<TemplatePart> Inlines(Paragraph paragraph, Names names)
    {
        var tokens = new List<TemplateToken>();
        var wrong = new List<LanguageError>();
        foreach (var inline in paragraph.Inlines)
        {
            object thing =
                inline.Style.Link is { } link && link.Contains('{')
                    ? new LinkedStyle(inline.Style, Template.Parse(link, names))
                    : inline.Style;
            if (thing is LinkedStyle linked)
                foreach (var error in linked.Link.Errors)
                    errors.Add(new(block, inline.Style.Link!, error));
            switch (inline)
            {
                case TextInline text:
                    wrong.Clear();
                    tokens.AddRange(Template.Scan(text.Text, names, thing, wrong));
                    foreach (var error in wrong)
                        errors.Add(new(block, text.Text, error));
                    break;
                case FieldInline field:
                    tokens.Add(TemplateToken.OfBraces(field.Source, 0, names, thing));
                    break;
                case PictureInline picture:
                    tokens.Add(new(TokenKind.Plain, "", 0, (picture, picture.Box)));
                    break;
                default:
                    tokens.Add(new(TokenKind.Plain, "", 0, inline));
                    break;
            }
        }
        return BracketReader.Read(
            tokens,
            names,
            (token, scope) =>
                token.Thing switch
                {
                    NoteInline note => new PlainPart("", Note(note, scope)),
                    (PictureInline _, PictureBox box) => new PlainPart("", new BoundPictureInline(box, Expression(box.Source, scope))),
                    LineBreakInline => new PlainPart("", token.Thing),
                    _ => null,
                },
            Tell
        );
    }

    BoundList List(ItemList list, Names names, BlockFrame frame, string place)
    {
        var element = new Element(ElementKind.List, frame.Parent);
        lists++;
        var tokens = new List<TemplateToken>();
        foreach (var item in list.Items)
        {
            if (item is [Paragraph only] && OnlyMarkers(only, names) is { } markers)
                tokens.AddRange(markers);
            else
                tokens.Add(new(TokenKind.Plain, "", 0, item));
        }
        var items = BracketReader.Read(
            tokens,
            names,
            (token, scope) =>
                token.Thing is IReadOnlyList<Block> item
                    ? new PlainPart(
                        "",
                        new BoundItem(
                            Inner(
                                item,
                                scope,
                                frame.In(list.Look.Indent, parent: new(ElementKind.ListItem, element)) with
                                {
                                    Body = false,
                                    Place = place,
                                }
                            )
                        )
                    )
                    : null,
            Tell
        );
        var bound = new BoundList(list, items, frame, place) { NeedsOuter = list.Look.NeedsOuter(lists) };
        lists--;
        return bound;
    }

    /// <summary>How many lists are around what is bound now.</summary>
    int lists;

    BoundTable Table(Table table, Names names, BlockFrame frame, string place)
    {
        var widths = TableLayout.Widths(table, frame.Width, out var narrowed);
        if (narrowed)
            maker.SharedNotes.TooLarge.Add($"The table in {place} is wider than the text area, so its columns were narrowed.");
        var element = new Element(ElementKind.Table, frame.Parent);
        var held = new int[widths.Length];
        var tokens = new List<TemplateToken>();
        foreach (var row in table.Rows)
        {
            var bracket = row.Bracket is null ? null : TemplateToken.OfBraces(row.Bracket, 0, names, null);
            if (bracket is not null && bracket.Kind is not (TokenKind.When or TokenKind.Each))
            {
                Tell(bracket, new(0, row.Bracket!.Length, "A row can use only “when …” or “each …”."));
                bracket = null;
            }
            if (bracket is not null)
                tokens.Add(bracket);
            tokens.Add(new(TokenKind.Plain, "", 0, row));
            if (bracket is not null)
                tokens.Add(new(TokenKind.End, "", 0, null, "end"));
        }
        var number = 0;
        var rows = BracketReader.Read(
            tokens,
            names,
            (token, scope) => token.Thing is TableRow row ? new PlainPart("", Row(row, ++number, scope)) : null,
            Tell
        );
        return new(table, rows, widths, frame, place);

        BoundRow Row(TableRow row, int at, Names scope)
        {
            var line = new Element(ElementKind.Row, element);
            var places = TableLayout.Places(row.Cells, held);
            var cells = row
                .Cells.Zip(
                    places,
                    (cell, p) =>
                    {
                        var width = widths.Skip(p.Column).Take(p.Span).Sum() - 2 * TableLayout.PaddingX;
                        var cellElement = new Element(cell.Heading ? ElementKind.HeadingCell : ElementKind.Cell, line)
                        {
                            ColumnSpan = p.Span,
                            RowSpan = cell.RowSpan,
                        };
                        var inner = new BlockFrame(0, Math.Max(10, width), [], cellElement, false, $"the table in {place}, row {at}");
                        return (new BoundCell(cell, Inner(cell.Blocks, scope, inner), cellElement), p.Column, p.Span);
                    }
                )
                .ToList();
            return new BoundRow(row, cells);
        }
    }

    /// <summary>Neighboring blocks that are the same for everyone become one shared flow, within each bracket on its own.</summary>
    /// <param name="width">Of the widest text, points.</param>
    static IReadOnlyList<TemplatePart> Grouped(IReadOnlyList<TemplatePart> parts, double width)
    {
        var result = new List<TemplatePart>();
        var run = new List<BoundBlock>();
        void Flush()
        {
            // A heading at the end of a group must see what follows it; breaks and placed pictures are no part of a group.
            var kept = run.ToList();
            run.Clear();
            while (kept.Count > 0)
            {
                var count = kept.TakeWhile(b => b.Fixed!.All(f => f is LinesFlow or ItemFlow or TableFlow)).Count();
                while (count > 0 && kept[count - 1].Fixed is [.., { Keep: true }])
                    count--;
                if (count < 1)
                {
                    result.Add(new PlainPart("", kept[0]));
                    kept.RemoveAt(0);
                    continue;
                }
                var flows = kept.Take(count).SelectMany(b => b.Fixed!).ToList();
                var notes = new LayoutNotes();
                foreach (var b in kept.Take(count))
                    if (b.Notes is not null)
                        notes.Add(b.Notes);
                if (flows.Count > 0)
                    result.Add(
                        new PlainPart("", new FixedGroup(new SharedFlow(flows, width), notes.IsEmpty ? null : notes, [.. kept.Take(count)]))
                    );
                kept.RemoveRange(0, count);
            }
        }
        foreach (var part in parts)
        {
            if (part is PlainPart { Thing: BoundBlock { Fixed: not null } bound })
            {
                run.Add(bound);
                continue;
            }
            Flush();
            result.Add(
                part switch
                {
                    WhenPart w => new WhenPart([.. w.Branches.Select(b => b with { Parts = Grouped(b.Parts, width) })]),
                    EachPart e => e with { Parts = Grouped(e.Parts, width) },
                    _ => part,
                }
            );
        }
        Flush();
        return result;
    }
}

/// <summary>Neighboring blocks that are the same for everyone.</summary>
/// <param name="Blocks">The blocks that it was imported from.</param>
sealed record FixedGroup(SharedFlow Flow, LayoutNotes? Notes, IReadOnlyList<BoundBlock> Blocks);
