using Bandeja.Core.Addressing;
using Bandeja.Core.Barcodes;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Composition;

/// <summary>What is known of a picture without opening it.</summary>
/// <param name="Asset">Its id.</param>
/// <param name="Width">Pixels, or units of a drawing.</param>
/// <param name="Height">Pixels, or units of a drawing.</param>
/// <param name="IsDrawing">True where it has no pixels and is sharp at any size.</param>
/// <param name="IsPage">True for the page of a PDF, which no mail program shows.</param>
/// <param name="Pages">For a PDF: how many pages it has; page n is the asset followed by <c>#n</c>.</param>
/// <param name="Written">How many bytes it adds to each piece that has it; 0 where that is not known.</param>
public sealed record PictureFacts(
    string Asset,
    double Width,
    double Height,
    bool IsDrawing,
    bool IsPage = false,
    int Pages = 1,
    long Written = 0
);

/// <summary>Makes flows of bound blocks for the recipient that the context stands at. Serves one thread.</summary>
/// <param name="pictures">Finds a picture by its id or name; null where pictures are taken as they are said to be.</param>
/// <param name="own">Finds a document that is kept with a recipient: it comes before a picture of the same name.</param>
sealed class FlowMaker(
    FontLibrary fonts,
    EvaluationContext context,
    Func<string, PictureFacts?>? pictures,
    Func<long, string, OwnDocument?>? own = null
)
{
    /// <summary>More bytes than this of one picture in every piece are an issue: a file for each recipient, or an email, carries them each
    /// time.</summary>
    public const long HeavyPicture = 2 * 1_048_576;

    /// <summary>Fewer pixels to the inch than this look coarse in print.</summary>
    public const double LeastResolution = 150;
    readonly ParagraphLayout layout = new(fonts);
    readonly List<Span> spans = [];
    double room = double.MaxValue;

    /// <summary>What text runs around: its side, what it takes of the width, how much of its height is left below what was made last, and
    /// the space after that; points.</summary>
    (Side Side, double Takes, double Left, double After) beside;

    /// <summary>The footnotes of the paragraph that is made, and the number of the last one of the letter; null where there are
    /// none.</summary>
    readonly List<BoundNote> ownNotes = [];
    int? noteNumber;

    /// <summary>Less than this beside something is no room for text, points.</summary>
    const double LeastBeside = 48;

    /// <summary>The numbers of the lists around what is made now, as they are written.</summary>
    readonly List<string?> numbers = [];

    /// <summary>What holds for every recipient.</summary>
    public LayoutNotes SharedNotes { get; } = new();

    /// <summary>Begins the text of a letter, or what stands around it.</summary>
    /// <param name="footnotes">True where there is a foot of the page for them.</param>
    public void Begin(bool footnotes)
    {
        noteNumber = footnotes ? 0 : null;
        beside = default;
    }

    bool IsBeside => beside.Left > 1;

    /// <summary>Makes what stands on its own, beside nothing that was made before: a header, a box, a cell.</summary>
    public List<Flow> Apart(IReadOnlyList<TemplatePart> parts, LayoutNotes notes)
    {
        var around = beside;
        beside = default;
        var flows = new List<Flow>();
        Make(parts, flows, notes);
        beside = around;
        return flows;
    }

    /// <summary>What follows begins below what stands beside the text.</summary>
    void Clear(List<Flow> target)
    {
        if (IsBeside)
            target.Add(new ClearFlow(Math.Max(0, beside.Left - beside.After)));
        beside = default;
    }

    /// <summary>Makes the flows of parts in order.</summary>
    public void Make(IReadOnlyList<TemplatePart> parts, List<Flow> target, LayoutNotes notes)
    {
        foreach (var part in parts)
        {
            switch (part)
            {
                case PlainPart { Thing: FixedGroup group } when IsBeside:
                    foreach (var bound in group.Blocks)
                        Make(bound, target, notes);
                    break;
                case PlainPart { Thing: FixedGroup group }:
                    target.Add(group.Flow);
                    if (group.Notes is not null)
                        notes.Add(group.Notes);
                    break;
                case PlainPart { Thing: BoundBlock bound }:
                    Make(bound, target, notes);
                    break;
                case WhenPart choice:
                    Make(choice.Taken(context), target, notes);
                    break;
                case EachPart each:
                    context.ForEach(each.Set, () => Make(each.Parts, target, notes));
                    break;
            }
        }
    }

    /// <summary>Makes the flows of one block.</summary>
    public void Make(BoundBlock bound, List<Flow> target, LayoutNotes notes)
    {
        if (bound.Fixed is { } ready && !IsBeside && noteLabel is null)
        {
            target.AddRange(ready);
            if (ready is [BesideFlow fixedBeside])
                beside = (fixedBeside.Side, fixedBeside.Takes, fixedBeside.Tall, 0);
            if (bound.Notes is not null)
                notes.Add(bound.Notes);
            return;
        }
        // Only text runs around something; all else begins below it.
        if (bound is not (BoundParagraph or BoundList or BoundQuote))
            if (bound is BoundBreak || bound is BoundPicture { Picture.Place: not null } or BoundBox { Box.Place: not null })
                beside = bound is BoundBreak ? default : beside;
            else
                Clear(target);
        context.Place = notes.Place = bound.Place;
        layout.Form = context.HanForm;
        var frame = bound.Frame;
        switch (bound)
        {
            case BoundParagraph p:
                var style = p.Paragraph.Style;
                if (IsBeside && frame.Width - beside.Takes < LeastBeside)
                    Clear(target);
                spans.Clear();
                ownNotes.Clear();
                if (noteLabel is not null)
                    spans.Add(new(noteLabel, p.Paragraph.BaseStyle with { Script = Script.Superscript }));
                noteLabel = null;
                room = frame.Width - (IsBeside ? beside.Takes : 0);
                Fill(p.Parts, notes);
                var left = beside.Left - Math.Max(beside.After, style.SpaceBefore);
                var lines = layout.Set(
                    spans,
                    p.Paragraph.BaseStyle,
                    style,
                    frame.Width,
                    notes,
                    left > 1 ? new(beside.Side == Side.Left ? beside.Takes : 0, beside.Takes, left) : default
                );
                if (lines.Count == 0)
                    break;
                if (IsBeside)
                    beside = beside with { Left = left - lines.Sum(l => l.Height), After = style.SpaceAfter };
                var kind = style.Heading switch
                {
                    1 => ElementKind.Heading1,
                    2 => ElementKind.Heading2,
                    3 => ElementKind.Heading3,
                    _ => ElementKind.Paragraph,
                };
                target.Add(
                    new LinesFlow(lines, frame.Left, new(kind, frame.Parent), frame.Bars)
                    {
                        Ground = style.Shade is null && style.Border is null ? null : new(style.Shade, style.Border, frame.Width),
                        Before = style.SpaceBefore,
                        After = style.SpaceAfter,
                        Keep = style.KeepWithNext,
                        OwnNotes = ownNotes.Count == 0 ? [] : Laid(ownNotes, notes),
                    }
                );
                break;
            case BoundBox b:
                Box(b, target, notes);
                break;
            case BoundColumns c:
                target.Add(
                    new ColumnsFlow(Apart(c.Parts, notes), c.Columns.Count, frame.Left, c.Width, c.Columns.Gap, c.Columns.Line)
                    {
                        After = c.Columns.SpaceAfter,
                    }
                );
                break;
            case BoundPicture p:
                Picture(p, target, notes);
                break;
            case BoundBarcode b:
                Code(b, target, notes);
                break;
            case BoundRule r:
                target.Add(
                    new ItemFlow(r.Rule.Thickness, [new RectangleItem(frame.Left, 0, frame.Width, r.Rule.Thickness, r.Rule.Color)])
                    {
                        After = r.Rule.SpaceAfter,
                    }
                );
                break;
            case BoundBreak b:
                target.Add(new BreakFlow(b.Page));
                break;
            case BoundQuote q:
                Make(q.Parts, target, notes);
                break;
            case BoundList l:
                var number = l.List.Start;
                Items(l, l.Items, ref number, target, notes);
                break;
            case BoundTable t:
                Table(t, target, notes);
                break;
        }
    }

    void Picture(BoundPicture bound, List<Flow> target, LayoutNotes notes)
    {
        var (frame, picture) = (bound.Frame, bound.Picture);
        var (asset, width, height) = Resolve(picture.Box, bound.Source, notes);
        if (asset is null)
            return;
        var figure = picture.Box.Alt.Length == 0 ? null : new Element(ElementKind.Figure, frame.Parent, picture.Box.Alt);
        if (picture.Place is { } at)
        {
            target.Add(new PlacedFlow([new PictureItem(at.X, at.Y, width, height, asset) { Element = figure }]));
            return;
        }
        if (picture.Beside is { } side && frame.Width - width - picture.Gap >= LeastBeside)
        {
            var x = frame.Left + (side == Side.Left ? 0 : frame.Width - width);
            Stand(target, side, width, height, picture.Gap, [new PictureItem(x, 0, width, height, asset) { Element = figure }]);
            return;
        }
        if (width > frame.Width)
            (width, height) = (frame.Width, height * frame.Width / width);
        var left =
            frame.Left
            + picture.Align switch
            {
                TextAlign.Center => (frame.Width - width) / 2,
                TextAlign.Right => frame.Width - width,
                _ => 0,
            };
        target.Add(
            new ItemFlow(height, [new PictureItem(left, 0, width, height, asset) { Element = figure }]) { After = picture.SpaceAfter }
        );
    }

    static IReadOnlyList<LaidNote> NotesOf(List<Flow> flows)
    {
        List<LaidNote>? all = null;
        foreach (var flow in flows)
            if (flow.Notes is { Count: > 0 } own)
                (all ??= []).AddRange(own);
        return all ?? (IReadOnlyList<LaidNote>)[];
    }

    /// <summary>Puts something at a side; the text that follows runs around it.</summary>
    void Stand(List<Flow> target, Side side, double width, double height, double gap, IReadOnlyList<PageItem> content)
    {
        target.Add(new BesideFlow(side, width + gap, height + gap / 2, content));
        beside = (side, width + gap, height + gap / 2, 0);
    }

    void Box(BoundBox bound, List<Flow> target, LayoutNotes notes)
    {
        var (frame, box) = (bound.Frame, bound.Box);
        var flows = Apart(bound.Parts, notes);
        if (flows.Count == 0 && box.Shade is null && box.Line is null)
            return;
        var content = new List<PageItem>();
        var height = Math.Max(box.Height, Stacked.Emit(flows, 0, 0, content) + 2 * box.Padding);
        List<PageItem> At(double x, double y)
        {
            var items = new List<PageItem>();
            if (box.Shade is not null || box.Line is not null)
                items.Add(new OutlineItem(x, y, box.Width, height, 0, box.Line?.Width ?? 0, box.Line?.Color ?? "000000", box.Shade));
            items.AddRange(content.Select(i => i with { X = i.X + x + box.Padding, Y = i.Y + y + box.Padding }));
            return items;
        }
        var own = NotesOf(flows);
        if (box.Place is { } at)
        {
            target.Add(new PlacedFlow(At(at.X, at.Y)));
            if (own.Count > 0)
                target.Add(new ItemFlow(0, []) { OwnNotes = own });
            return;
        }
        if (box.Beside is { } side && frame.Width - box.Width - box.Gap >= LeastBeside)
        {
            Stand(target, side, box.Width, height, box.Gap, At(frame.Left + (side == Side.Left ? 0 : frame.Width - box.Width), 0));
            if (own.Count > 0)
                target.Add(new ItemFlow(0, []) { OwnNotes = own });
            return;
        }
        var left =
            frame.Left
            + box.Align switch
            {
                TextAlign.Center => (frame.Width - box.Width) / 2,
                TextAlign.Right => frame.Width - box.Width,
                _ => 0,
            };
        target.Add(new ItemFlow(height, At(left, 0)) { After = box.SpaceAfter, OwnNotes = own });
    }

    /// <summary>What a paragraph's footnotes say, laid out; the number stands before the first words.</summary>
    List<LaidNote> Laid(IReadOnlyList<BoundNote> bound, LayoutNotes notes)
    {
        // Making them uses what the paragraph was made with.
        var own = bound.ToList();
        var number = noteNumber!.Value - own.Count;
        var laid = new List<LaidNote>();
        foreach (var note in own)
        {
            noteLabel = $"{++number}\u00A0";
            var items = new List<PageItem>();
            var flows = Apart(note.Parts, notes);
            noteLabel = null;
            laid.Add(new(Stacked.Emit(flows, 0, 0, items), items));
        }
        return laid;
    }

    /// <summary>The number that the next paragraph of a footnote begins with.</summary>
    string? noteLabel;

    void Items(BoundList list, IReadOnlyList<TemplatePart> items, ref int number, List<Flow> target, LayoutNotes notes)
    {
        foreach (var part in items)
        {
            switch (part)
            {
                case PlainPart { Thing: BoundItem item }:
                    var flows = new List<Flow>();
                    var look = list.List.Look;
                    numbers.Add(list.List.Numbered ? ListNumber.Written(number, look.Style) : null);
                    Make(item.Parts, flows, notes);
                    var text = look.Written(list.List.Numbered, numbers);
                    numbers.RemoveAt(numbers.Count - 1);
                    if (flows.Count == 0)
                        break; // an item that came out empty is not counted
                    number++;
                    var first = flows.OfType<LinesFlow>().FirstOrDefault();
                    if (first is not null)
                    {
                        var label = layout.Set(
                            [new(text, list.List.LabelStyle)],
                            list.List.LabelStyle,
                            new(TextAlign.Left, 1, 0),
                            100,
                            notes
                        )[0];
                        // The same lines may stand in other letters: only what is made for this one gets the number of this one.
                        var own = new LinesFlow(first.Lines, first.Left, first.Element, first.Bars)
                        {
                            Before = first.Before,
                            After = first.After,
                            Keep = first.Keep,
                            OwnNotes = first.OwnNotes,
                            Label = (label, LabelPlace(list, label.Runs.Sum(r => r.Width))),
                            Ground = first.Ground,
                        };
                        flows[flows.IndexOf(first)] = own;
                    }
                    target.AddRange(flows);
                    break;
                case WhenPart choice:
                    Items(list, choice.Taken(context), ref number, target, notes);
                    break;
                case EachPart each:
                    var at = number;
                    context.ForEach(each.Set, () => Items(list, each.Parts, ref at, target, notes));
                    number = at;
                    break;
            }
        }
    }

    /// <summary>Between a label and the text, points.</summary>
    const double LabelGap = 4;

    /// <summary>A label ends before the text, or begins where the list says; it never runs into the text.</summary>
    static double LabelPlace(BoundList list, double width)
    {
        var text = list.Frame.Left + list.List.Look.Indent;
        return list.List.Look.Hang is { } hang ? Math.Min(text - hang, text - width - LabelGap / 2) : text - LabelGap - width;
    }

    void Table(BoundTable bound, List<Flow> target, LayoutNotes notes)
    {
        var drafts = new List<IReadOnlyList<(DraftCell, int, int)>>();
        var headings = new List<bool>();
        Rows(bound.Rows, drafts, headings, notes);
        if (drafts.Count == 0 || bound.Table.Vanishes && headings.TrueForAll(h => h))
            return;
        var heads = headings.TakeWhile(h => h).Count();
        if (heads == drafts.Count)
            heads = 0;
        beside = default;
        var top = TableLayout.Rows(drafts[..heads], bound.Widths);
        var rows = TableLayout.Rows(drafts[heads..], bound.Widths);
        target.Add(
            new TableFlow(bound.Table, bound.Frame.Left, bound.Widths.Sum(), [.. top, .. rows], top.Count)
            {
                After = bound.Table.SpaceAfter,
            }
        );
    }

    void Rows(IReadOnlyList<TemplatePart> parts, List<IReadOnlyList<(DraftCell, int, int)>> drafts, List<bool> headings, LayoutNotes notes)
    {
        foreach (var part in parts)
        {
            switch (part)
            {
                case PlainPart { Thing: BoundRow row }:
                    headings.Add(row.Row.IsHeading);
                    if (row.Varies)
                    {
                        drafts.Add(Cells(row, notes));
                        break;
                    }
                    if (row.Fixed is null)
                    {
                        var found = new LayoutNotes();
                        row.Fixed = (Cells(row, found), found);
                    }
                    drafts.Add(row.Fixed.Value.Cells);
                    notes.Add(row.Fixed.Value.Notes);
                    break;
                case WhenPart choice:
                    Rows(choice.Taken(context), drafts, headings, notes);
                    break;
                case EachPart each:
                    context.ForEach(each.Set, () => Rows(each.Parts, drafts, headings, notes));
                    break;
            }
        }
    }

    List<(DraftCell, int, int)> Cells(BoundRow row, LayoutNotes notes) =>
        [
            .. row.Cells.Select(c =>
            {
                var items = new List<PageItem>();
                var flows = Apart(c.Cell.Parts, notes);
                var height = Stacked.Emit(flows, 0, 0, items);
                return (new DraftCell(c.Cell.Cell, items, height, NotesOf(flows)), c.Column, c.Span);
            }),
        ];

    /// <summary>The spans of a paragraph for the recipient that the context stands at, not laid out.</summary>
    internal IReadOnlyList<Span> Spans(IReadOnlyList<TemplatePart> parts, LayoutNotes notes)
    {
        spans.Clear();
        Fill(parts, notes);
        return [.. spans];
    }

    /// <summary>Fills the spans of a paragraph.</summary>
    void Fill(IReadOnlyList<TemplatePart> parts, LayoutNotes notes)
    {
        foreach (var part in parts)
        {
            switch (part)
            {
                case PlainPart { Thing: TextStyle style } p:
                    spans.Add(new(p.Text, style));
                    break;
                case PlainPart { Thing: LinkedStyle linked } p:
                    spans.Add(new(p.Text, Linked(linked)));
                    break;
                case PlainPart { Thing: LineBreakInline end }:
                    spans.Add(new("", end.Style, EndsLine: true));
                    break;
                case PlainPart { Thing: BoundPictureInline picture }:
                    if (Resolve(picture.Box, picture.Source, notes) is var (asset, width, height) && asset is not null)
                        spans.Add(
                            new(
                                "",
                                new(fonts.Families[0], 11),
                                Picture: new(0, width, height, asset, new(ElementKind.Figure, null, picture.Box.Alt))
                            )
                        );
                    break;
                case PlainPart { Thing: BoundNote note }:
                    if (noteNumber is null)
                        break; // no foot of a page
                    noteNumber++;
                    ownNotes.Add(note);
                    spans.Add(new($"{noteNumber}", note.Style with { Script = Script.Superscript, Note = ownNotes.Count }));
                    break;
                case FieldPart f:
                    Value(f, notes);
                    break;
                case WhenPart choice:
                    var before = spans.Count;
                    Fill(choice.Taken(context), notes);
                    // Nothing printed: what stands around it closes up as it does around a blank field.
                    if (spans.Count == before)
                        spans.Add(new("", StyleOf(choice), FromField: true));
                    break;
                case EachPart each:
                    var start = spans.Count;
                    context.ForEach(each.Set, () => Fill(each.Parts, notes));
                    if (spans.Count == start)
                        spans.Add(new("", StyleOf(each), FromField: true));
                    break;
            }
        }
    }

    TextStyle StyleOf(TemplatePart part) =>
        part.All()
            .Select(p =>
                p switch
                {
                    PlainPart { Thing: TextStyle s } => s,
                    FieldPart { Thing: TextStyle s } => s,
                    _ => null,
                }
            )
            .FirstOrDefault(s => s is not null)
        ?? new(fonts.Families[0], 11);

    TextStyle Linked(LinkedStyle linked) => linked.Style with { Link = LinkAddress.Of(linked.Link, context) };

    void Value(FieldPart field, LayoutNotes notes)
    {
        var style = field.Thing as TextStyle ?? (field.Thing is LinkedStyle linked ? Linked(linked) : new(fonts.Families[0], 11));
        if (field.Field is BuiltInReference { Which: BuiltIn.DeliveryAddress })
        {
            AddressLines(field.Field, style, notes);
            return;
        }
        var text = Evaluator.Print(field.Field, context, field.Beside);
        if (!MadeOfLines(field.Field))
        {
            spans.Add(new(text, style, FromField: true));
            return;
        }
        Lines(text.Split('\n'), style with { IsAddress = true });
    }

    void Lines(IReadOnlyList<string> lines, TextStyle style)
    {
        for (var i = 0; i < lines.Count; i++)
        {
            if (i > 0)
                spans.Add(new("", style, EndsLine: true));
            spans.Add(new(lines[i], style, FromField: true));
        }
    }

    /// <summary>The delivery address, each line kept within the block by the postal guide's abbreviations; what is still too long is
    /// noted.</summary>
    void AddressLines(Expression field, TextStyle style, LayoutNotes notes)
    {
        var own = style with { IsAddress = true };
        var lines = context.AddressLines();
        if (lines.Count == 0)
        {
            spans.Add(new(Evaluator.Print(field, context), own, FromField: true));
            return;
        }
        var font = fonts.Find(style.Family, style.Bold, style.Italic);
        // Most lines are far from the edge: only the others are measured. Kerning hardly ever makes a line longer, and never by a
        // twentieth.
        bool Fits(string text) =>
            font.RoughAdvance(text) * style.Size / font.UnitsPerEm * 1.05 < room || layout.Width(text, font, style.Size) <= room + 0.01;
        var texts = new string[lines.Count];
        for (var i = 0; i < texts.Length; i++)
        {
            texts[i] = Fits(lines[i].Text) ? lines[i].Text : AddressAbbreviations.Shorten(lines[i], context.AddressCountry(), Fits);
            if (!Fits(texts[i]))
                notes.LongLines.Add(texts[i]);
        }
        Lines(texts, own);
    }

    void Code(BoundBarcode bound, List<Flow> target, LayoutNotes notes)
    {
        var code = bound.Barcode;
        if (bound.Mistake is { } mistake)
        {
            notes.Barcode(mistake);
            return;
        }
        string content;
        BarsItem bars;
        try
        {
            if (code.Mail is { } mail)
            {
                // The barcode is read by the United States' post only.
                if (context.AddressCountry() != "US")
                    return;
                var postal = context.AddressCode();
                if (IntelligentMail.Routing(postal, context.RoleValue(Role.DeliveryPoint)) is not { } routing)
                {
                    notes.Barcode(
                        postal.Length == 0
                            ? "The Intelligent Mail barcode needs a ZIP Code, and it is blank."
                            : $"“{postal}” is not a ZIP Code, so the Intelligent Mail barcode cannot be created."
                    );
                    return;
                }
                var serial =
                    context.Serial?.Invoke(mail.Mailer)
                    ?? context.PieceNumber % (IntelligentMail.SerialDigits(mail.Mailer) == 9 ? 1_000_000_000 : 1_000_000);
                var tracking = IntelligentMail.Tracking(mail.BarcodeId, mail.Service, mail.Mailer, serial);
                content = $"{tracking} {routing}".TrimEnd();
                bars = BarcodeShape.Mail(IntelligentMail.Encode(tracking, routing));
            }
            else
            {
                content = Evaluator.PrintPlain(bound.Source!, context);
                if (content.Length == 0)
                    return; // told as a blank field
                bars = BarcodeShape.Of(Symbol.Of(code.Symbology, content), code.Width, code.Height, out var module);
                if (module < BarcodeShape.LeastModule(code.Symbology) - 0.001)
                {
                    string Said(Func<double, string> length) =>
                        $"{Symbol.NameOf(code.Symbology)} with “{Evaluator.Short(content)}” needs {bars.Width / module:0} modules "
                        + $"across, which are {length(module)} wide here; under {length(BarcodeShape.LeastModule(code.Symbology))} "
                        + "they are not read reliably. Make it larger or its content shorter.";
                    notes.Barcodes.Add((Said(points => $"{points * 25.4 / 72:0.00} mm"), Said(context.Organization.Length)));
                }
            }
        }
        catch (Exception e) when (e is BarcodeContentException or IntelligentMailException)
        {
            notes.Barcode(e.Message);
            return;
        }
        var figure = new Element(ElementKind.Figure, bound.Frame.Parent, content);
        if (code.Place is { } at)
        {
            target.Add(new PlacedFlow([bars with { X = at.X + bars.X, Y = at.Y + bars.Y, Element = figure, Content = content }]));
            return;
        }
        var left =
            bound.Frame.Left
            + code.Align switch
            {
                TextAlign.Center => (bound.Frame.Width - code.Width) / 2,
                TextAlign.Right => bound.Frame.Width - code.Width,
                _ => 0,
            };
        if (code.Width > bound.Frame.Width + 0.5)
            notes.Overfull.Add("the barcode");
        target.Add(
            new ItemFlow(code.Height, [bars with { X = left + bars.X, Y = bars.Y, Element = figure, Content = content }])
            {
                After = code.SpaceAfter,
            }
        );
    }

    static bool MadeOfLines(Expression e) =>
        e is BuiltInReference { Which: BuiltIn.DeliveryAddress } || e is Formatted f && MadeOfLines(f.Inner);

    /// <summary>Which picture prints for the recipient, and how large within its box; null and noted where there is none.</summary>
    internal (string? Asset, double Width, double Height) Resolve(PictureBox box, Expression? source, LayoutNotes notes)
    {
        var name = box.Asset;
        var subject = "picture";
        if (source is not null)
        {
            var value =
                box.Asset.Length > 0 ? Evaluator.Evaluate(source, context).Print(context.Locale) : Evaluator.PrintPlain(source, context);
            subject = Evaluator.FieldName(source, context);
            if (value.Length > 0)
                name = value.Trim();
        }
        if (name.Length == 0)
            return default;
        if (pictures is null)
            return (name, box.Width, box.Height);
        if (((source is null ? null : own?.Invoke(context.Row.Recipient, name)?.Picture) ?? pictures(name)) is not { } facts)
        {
            notes.Pictures.Add(new(PictureIssue.Missing, subject, name, notes.Place));
            return default;
        }
        if (facts.Written > HeavyPicture)
            notes.Pictures.Add(new(PictureIssue.Heavy, subject, $"{facts.Written / 1_048_576.0:0.0}", notes.Place));
        var scale = Math.Min(box.Width / facts.Width, box.Height / facts.Height);
        if (!facts.IsDrawing && 72 / scale < LeastResolution * 0.99)
            notes.Pictures.Add(new(PictureIssue.Coarse, subject, $"{Math.Floor(72 / scale)}", notes.Place));
        return (facts.Asset, facts.Width * scale, facts.Height * scale);
    }
}
