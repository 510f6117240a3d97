using System.Globalization;
using Bandeja.Core.Barcodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Forms;

/// <summary>Fills in a form for one recipient after another. Serves one thread.</summary>
public sealed class FormComposer : IPieceComposer
{
    /// <summary>Text in a field that is as large as fits is not larger than this, as viewers have it, and never smaller than
    /// that.</summary>
    const double LargestFit = 12,
        SmallestFit = 4;

    /// <summary>From the edges of a field to its text, points.</summary>
    const double Inset = 2;
    const double Slack = 0.5;
    readonly BoundForm form;
    readonly EvaluationContext context;
    readonly FormTexts texts;
    readonly IReadOnlyList<PageItem>[] grounds;

    /// <summary>True where fields stay fields, if the file allows it.</summary>
    readonly bool keeps;

    /// <summary>Begins filling in.</summary>
    /// <param name="today">The day of the run.</param>
    public FormComposer(BoundForm form, DateOnly today)
    {
        this.form = form;
        context = form.NewContext(today);
        texts = new(form.Setting.Fonts);
        keeps = form.Design.Output != FormOutput.Printed;
        grounds = [.. Enumerable.Range(1, form.Design.Facts.Pages.Count).Select(Ground)];
    }

    /// <summary>What every piece has of a page: the page itself, and what stands behind its fields.</summary>
    List<PageItem> Ground(int number)
    {
        var page = form.Design.Facts.Pages[number - 1];
        var items = new List<PageItem>();
        var asset = form.Design.Asset;
        if (form.Setting.Pictures is not { } pictures || pictures(asset) is not null)
            items.Add(new PictureItem(0, 0, page.Width, page.Height, number == 1 ? asset : $"{asset}#{number}", WithAll: true));
        if (!keeps)
            foreach (var w in form.Design.Facts.Fields.Where(f => f.Kind != FormFieldKind.Other).SelectMany(f => f.Widgets))
                if (w.Page == number && Frame(w) is { } frame)
                    items.Add(frame with { X = frame.X + w.X, Y = frame.Y + w.Y });
        return items;
    }

    /// <summary>What stands behind a field, from its corner; null for nothing.</summary>
    static OutlineItem? Frame(FormWidget w) =>
        w.Shade is null && w.Border is null
            ? null
            : new(
                w.BorderWidth / 2,
                w.BorderWidth / 2,
                Math.Max(0, w.Width - w.BorderWidth),
                Math.Max(0, w.Height - w.BorderWidth),
                w.On is not null && w.Mark == MarkShape.Circle ? Math.Min(w.Width, w.Height) / 2 : 0,
                w.Border is null ? 0 : w.BorderWidth,
                w.Border ?? "000000",
                w.Shade
            );

    /// <summary>Puts what a field shows onto its page: drawn into it, or as the field that it stays.</summary>
    /// <param name="content">With places on the page.</param>
    /// <param name="marked">For a button: what it shows when it is on.</param>
    void Put(FormField field, FormWidget w, string value, List<PageItem> content, PageItem? marked, bool on, List<PageItem>[] pages)
    {
        if (!keeps)
        {
            pages[w.Page - 1].AddRange(content);
            if (on && marked is not null)
                pages[w.Page - 1].Add(marked);
            return;
        }
        static PageItem Moved(PageItem item, FormWidget w) => item with { X = item.X - w.X, Y = item.Y - w.Y };
        pages[w.Page - 1]
            .Add(
                new FieldItem(
                    w.X,
                    w.Y,
                    w.Width,
                    w.Height,
                    shapes.TryGetValue(field.Name, out var known) ? known : shapes[field.Name] = ShapeOf(field),
                    value,
                    w.On,
                    on,
                    w.Turn,
                    [.. Frame(w) is { } frame ? [frame] : Array.Empty<PageItem>(), .. content.Select(i => Moved(i, w))],
                    marked is null ? [] : [Moved(marked, w)]
                )
            );
    }

    readonly Dictionary<string, FieldShape> shapes = [];

    FieldShape ShapeOf(FormField field)
    {
        const int readOnly = 1,
            required = 1 << 1,
            multiline = 1 << 12,
            noToggleToOff = 1 << 14,
            radio = 1 << 15,
            combo = 1 << 17,
            edit = 1 << 18,
            comb = 1 << 24;
        var flags =
            (field.ReadOnly || form.Design.Output == FormOutput.ReadOnly ? readOnly : 0)
            | (field.Required ? required : 0)
            | (field.Multiline ? multiline : 0)
            | (field.Comb ? comb : 0)
            | (field.Kind == FormFieldKind.Radio ? radio | noToggleToOff : 0)
            | (field.Kind == FormFieldKind.Choice && !field.IsList ? combo | (field.Editable ? edit : 0) : 0);
        var text = field.Text ?? new();
        return new(
            field.Name,
            field.Kind switch
            {
                FormFieldKind.Text => FieldSort.Text,
                FormFieldKind.Choice => FieldSort.Choice,
                _ => FieldSort.Button,
            },
            flags,
            field.MaxLength,
            field.Tooltip ?? field.Label,
            (text.Size, text.Color),
            text.Align,
            field.Options?.Select(o => (o.Value, o.Label)).ToList()
        );
    }

    /// <inheritdoc/>
    public ComposedPiece Compose(IRow row, int pieceNumber, Func<string, long>? serial = null)
    {
        context.For(row, pieceNumber, serial);
        var notes = new LayoutNotes();
        if (form.When is { } when)
        {
            context.Place = "the condition of the form";
            if (!Holds(Evaluator.Evaluate(when, context)))
                return new([], context.Problems.Count == 0 ? [] : [.. context.Problems.Distinct()], notes) { Omitted = true };
        }
        if (form.Own is { } own && row.Recipient > 0)
            return OwnPages(own, notes);
        if (form.Setting.Pictures is { } pictures && pictures(form.Design.Asset) is null)
            notes.Pictures.Add(new(PictureIssue.Missing, "form", form.Design.File, "the form's pages"));
        var pages = grounds.Select(g => new List<PageItem>(g)).ToArray();
        texts.Form = context.HanForm;
        foreach (var field in form.Fields)
            Fill(field, pages, notes);
        for (var page = 1; page <= pages.Length; page++)
        {
            context.Page = (page, pages.Length);
            foreach (var box in form.Boxes)
                if (box.Box.Page == page || box.Box.Page == 0)
                    Place(box, pages[page - 1], notes);
        }
        return new(
            [.. pages.Select((items, i) => new LaidOutPage(form.Design.Facts.Pages[i].Width, form.Design.Facts.Pages[i].Height, items))],
            context.Problems.Count == 0 ? [] : [.. context.Problems.Distinct()],
            notes
        );
    }

    /// <summary>All pages of the document that is kept with the recipient, each as large as its first page is.</summary>
    ComposedPiece OwnPages(Template own, LayoutNotes notes)
    {
        var name = Printed(own, null, "the name of their own document");
        var pages = new List<LaidOutPage>();
        if (name.Length == 0 || form.Setting.Own?.Invoke(context.Row.Recipient, name)?.Picture is not { } facts)
            notes.Pictures.Add(new(PictureIssue.Missing, "document", name, "their own document"));
        else
            for (var page = 1; page <= facts.Pages; page++)
            {
                var asset = page == 1 ? facts.Asset : $"{facts.Asset}#{page}";
                pages.Add(new(facts.Width, facts.Height, [new PictureItem(0, 0, facts.Width, facts.Height, asset)]));
            }
        return new(pages, context.Problems.Count == 0 ? [] : [.. context.Problems.Distinct()], notes);
    }

    /// <summary>What a template comes to. Blank stays blank: a form says itself what must be filled in.</summary>
    string Printed(Template template, string? format, string place)
    {
        context.Place = place;
        var before = context.Problems.Count;
        string text;
        // A date or a number alone is written as the form writes it.
        if (format is not null && template.Parts is [FieldPart only])
        {
            var value = Evaluator.Evaluate(only.Field, context);
            text =
                FieldFormat.Write(
                    format,
                    value.Kind == ValueKind.Date ? value.Date : null,
                    value.Kind == ValueKind.Number ? value.Number : null
                ) ?? (value.IsBlank ? "" : value.Print(context.Locale));
        }
        else
            text = template.Print(context);
        for (var i = context.Problems.Count - 1; i >= before; i--)
            if (context.Problems[i].Kind == ProblemKind.Blank)
                context.Problems.RemoveAt(i);
        return text.Trim();
    }

    void Fill(BoundField bound, List<PageItem>[] pages, LayoutNotes notes)
    {
        var field = bound.Field;
        if (field.Kind == FormFieldKind.Other)
            return;
        notes.Place = $"the field “{field.Label}”";
        var value = bound.Answer is null ? field.Initial ?? "" : Printed(bound.Answer, field.Format, notes.Place);
        if (value.Length == 0 && field.Required)
            notes.Form.Add(new(FormIssue.Required, field.Label, "", ColumnOf(bound)));
        if (field.Kind is FormFieldKind.Check or FormFieldKind.Radio)
        {
            Mark(bound, value, pages, notes);
            return;
        }
        if (value.Length == 0 && !keeps)
            return;
        var shown = value;
        if (field.Kind == FormFieldKind.Choice && value.Length > 0)
            if (Offered(field.Options, value) is { } option)
                (value, shown) = (option.Value, option.Label);
            else if (!field.Editable && bound.Answer is not null)
                notes.Form.Add(new(FormIssue.NotOffered, field.Label, value, ColumnOf(bound)));
        // Counting characters is slow, and a text has at most as many as it has code units.
        if (
            field.MaxLength > 0
            && value.Length > field.MaxLength
            && new StringInfo(value).LengthInTextElements is var length
            && length > field.MaxLength
        )
            notes.Form.Add(new(FormIssue.TooLong, field.Label, $"{length} of {field.MaxLength}", ColumnOf(bound)));
        var text = field.Text ?? new();
        foreach (var w in field.Widgets)
        {
            var area = RoomOf(w);
            var items = new List<PageItem>();
            if (shown.Length > 0)
                if (field.Comb && field.MaxLength > 0)
                    texts.Cells(shown, text, area, field.MaxLength, items, notes);
                else
                    Fit(shown, text, area.Grown(-Inset), field.Multiline, SmallestFit, CellAlign.Middle, field.Label, items, notes);
            Put(field, w, value, w.Turn == 0 || items.Count == 0 ? items : [Turned(w, items)], null, false, pages);
        }
    }

    /// <summary>Where a field's content is laid out: its place on the page, or, where it is turned, a box of its own.</summary>
    static Area RoomOf(FormWidget w) => w.Turn == 0 ? new(w.X, w.Y, w.Width, w.Height) : TurnedItem.Box(w.Width, w.Height, w.Turn);

    static TurnedItem Turned(FormWidget w, IReadOnlyList<PageItem> items) => new(w.X, w.Y, w.Width, w.Height, w.Turn, items);

    static FormOption? Offered(IReadOnlyList<FormOption>? options, string value) =>
        options?.FirstOrDefault(o => o.Value == value) ?? options?.FirstOrDefault(o => Same(o.Value, value) || Same(o.Label, value));

    static bool Same(string? one, string other) =>
        one is not null
        && string.Compare(one.Trim(), other, CultureInfo.InvariantCulture, CompareOptions.IgnoreCase | CompareOptions.IgnoreNonSpace) == 0;

    /// <summary>What a value says of a box: yes, no, or neither. As lists have it, in their languages, and as people mark a box by
    /// hand.</summary>
    static bool? Said(string value) =>
        value is "✓" or "✔" or "x" or "X" or "1" || Same("on", value) ? true
        : value is "-" or "0" || Same("off", value) ? false
        : WrittenValue.TryYesNo(value, out var yes) ? yes
        : null;

    /// <summary>The column in which a field's value is mended: the only one that is read, or the first that is blank.</summary>
    string? ColumnOf(BoundField bound) =>
        bound.Columns is [var only] ? context.Columns[only].Name
        : bound.Columns.Where(c => context.Row[c] is null).Select(c => (int?)c).FirstOrDefault() is { } blank ? context.Columns[blank].Name
        : null;

    void Mark(BoundField bound, string value, List<PageItem>[] pages, LayoutNotes notes)
    {
        var field = bound.Field;
        var on = field.Widgets.Where(w => Same(w.On, value)).ToList();
        if (on.Count == 0)
            on = [.. field.Widgets.Where(w => Same(w.Label, value))];
        // A single box is asked yes or no.
        var single = field.Kind == FormFieldKind.Check && field.Widgets.Select(w => w.On).Distinct().Count() <= 1;
        var said = single || Same("off", value) ? Said(value) : null;
        if (on.Count == 0 && said == true)
            on = [.. field.Widgets];
        var off = value.Length == 0 || said == false;
        if (on.Count == 0 && !off)
            notes.Form.Add(new(FormIssue.NotOffered, field.Label, value, ColumnOf(bound)));
        var chosen = on.Count > 0 ? on[0].On ?? "" : "";
        foreach (var w in field.Widgets)
            if (keeps || on.Contains(w))
            {
                var mark = MarkIn(RoomOf(w), w.Mark, field.Text?.Color ?? "000000", field.Label);
                Put(field, w, chosen, [], w.Turn == 0 ? mark : Turned(w, [mark]), on.Contains(w), pages);
            }
    }

    /// <summary>A mark in the middle of a place.</summary>
    static MarkItem MarkIn(Area area, MarkShape shape, string color, string name)
    {
        var size = Math.Max(
            1,
            Math.Min(area.Width, area.Height) * (shape is MarkShape.Check or MarkShape.Cross or MarkShape.Star ? 0.72 : 0.5)
        );
        return new(area.X + (area.Width - size) / 2, area.Y + (area.Height - size) / 2, size, size, shape, color)
        {
            Element = new(ElementKind.Figure, null, name),
        };
    }

    void Place(BoundFormBox bound, List<PageItem> items, LayoutNotes notes)
    {
        var box = bound.Box;
        notes.Place = box.Page == 0 ? box.Name : $"{box.Name} on page {box.Page}";
        switch (box.Use)
        {
            case FormBoxUse.Text or FormBoxUse.Cells:
                if (Printed(bound.Text!, null, notes.Place) is not { Length: > 0 } value)
                    return;
                if (box.Use == FormBoxUse.Text)
                {
                    Fit(value, box.Text, box.Place, box.Wraps, box.Smallest, box.Vertical, notes.Place, items, notes);
                    return;
                }
                var length = new StringInfo(value).LengthInTextElements;
                if (length > box.Cells)
                    notes.Form.Add(new(FormIssue.TooLong, notes.Place, $"{length} of {box.Cells}"));
                texts.Cells(value, box.Text, box.Place, box.Cells, items, notes);
                return;
            case FormBoxUse.Mark:
                context.Place = notes.Place;
                if (bound.Source is { } test && Holds(Evaluator.Evaluate(test, context)))
                    items.Add(MarkIn(box.Place, box.Mark, box.Text.Color, notes.Place));
                return;
            case FormBoxUse.Picture:
                Picture(bound, items, notes);
                return;
            default:
                Barcode(bound, items, notes);
                return;
        }
    }

    /// <summary>A condition, or a value that says yes.</summary>
    internal static bool Holds(Value value) =>
        value.Kind switch
        {
            ValueKind.YesNo => value.Bool,
            ValueKind.Number => value.Number != 0,
            ValueKind.Text => Said(value.Text.Trim()) == true,
            _ => false,
        };

    void Picture(BoundFormBox bound, List<PageItem> items, LayoutNotes notes)
    {
        var place = bound.Box.Place;
        context.Place = notes.Place;
        var asset = bound.Box.Asset;
        if (bound.Source is { } source)
        {
            var named = Evaluator.Evaluate(source, context);
            var name = named.IsBlank ? null : named.Print(context.Locale).Trim();
            if (name is null && asset is null)
                return;
            asset = name ?? asset;
        }
        if (asset is null)
            return;
        var kept = bound.Source is null ? null : form.Setting.Own?.Invoke(context.Row.Recipient, asset)?.Picture;
        var facts = kept ?? form.Setting.Pictures?.Invoke(asset);
        if (facts is null && form.Setting.Pictures is not null)
        {
            notes.Pictures.Add(new(PictureIssue.Missing, bound.Box.Value is { Length: > 0 } v ? v : asset, asset, notes.Place));
            return;
        }
        // Whole, in its own proportions, in the middle of its place.
        var scale =
            facts is null || facts.Width <= 0 || facts.Height <= 0 ? 0 : Math.Min(place.Width / facts.Width, place.Height / facts.Height);
        var (width, height) = scale == 0 ? (place.Width, place.Height) : (facts!.Width * scale, facts.Height * scale);
        if (facts is { IsDrawing: false } && scale > 0 && 72 / scale < FlowMaker.LeastResolution)
            notes.Pictures.Add(new(PictureIssue.Coarse, bound.Box.Value is { Length: > 0 } c ? c : asset, $"{72 / scale:0}", notes.Place));
        items.Add(
            new PictureItem(
                place.X + (place.Width - width) / 2,
                place.Y + (place.Height - height) / 2,
                width,
                height,
                facts?.Asset ?? asset
            )
        );
    }

    void Barcode(BoundFormBox bound, List<PageItem> items, LayoutNotes notes)
    {
        var (box, place) = (bound.Box, bound.Box.Place);
        context.Place = notes.Place;
        if (bound.Source is null)
        {
            notes.Barcode("The barcode has no content yet. Enter a value for it.");
            return;
        }
        var value = Evaluator.Evaluate(bound.Source, context);
        if (value.IsBlank)
            return;
        var content = value.Print(context.Locale);
        try
        {
            var bars = BarcodeShape.Of(Symbol.Of(box.Symbology, content), place.Width, place.Height, out var module);
            if (module < BarcodeShape.LeastModule(box.Symbology) - 0.001)
                notes.Barcode(
                    $"{Symbol.NameOf(box.Symbology)} with “{Evaluator.Short(content)}” is too small to be read reliably. Make it larger or "
                        + "its content shorter."
                );
            items.Add(
                bars with
                {
                    X = place.X + (place.Width - bars.Width) / 2,
                    Y = place.Y + (place.Height - bars.Height) / 2,
                    Content = content,
                }
            );
        }
        catch (BarcodeContentException e)
        {
            notes.Barcode(e.Message);
        }
    }

    /// <summary>Text at the largest size at which it fits.</summary>
    void Fit(
        string value,
        FormText text,
        Area area,
        bool wraps,
        double smallest,
        CellAlign vertical,
        string name,
        List<PageItem> items,
        LayoutNotes notes
    )
    {
        if (area.Width < 1 || area.Height < 1)
            return;
        var key = new Fitting(value, text, area.Width, area.Height, wraps, smallest, context.HanForm);
        if (!fitted.TryGetValue(key, out var set))
        {
            var found = new LayoutNotes { Place = notes.Place };
            set = Fitted(key, found);
            notes.Add(found);
            // What is to be said of a text is said at each place where it stands, so only what needs no word is kept.
            if (set.Fits && found.IsEmpty)
            {
                if (fitted.Count >= MostFitted)
                    fitted.Clear();
                fitted[key] = set;
            }
        }
        if (!set.Fits)
            notes.Overfull.Add(
                name.StartsWith("the ", StringComparison.Ordinal) || name.StartsWith("a ", StringComparison.Ordinal) ? name : $"“{name}”"
            );
        var at = wraps && vertical == CellAlign.Middle && text.Size > 0 ? CellAlign.Top : vertical;
        texts.Put(set.Lines, text, area, at, set.Height, items);
    }

    /// <summary>A text and the room for it.</summary>
    readonly record struct Fitting(string Value, FormText Text, double Width, double Height, bool Wraps, double Smallest, HanForm Form);

    /// <summary>A text as it was set.</summary>
    sealed record Setting(List<TextLine> Lines, double Height, bool Fits);

    // A name often stands on a form several times, and many recipients share a city or a level.
    const int MostFitted = 2_000;
    readonly Dictionary<Fitting, Setting> fitted = [];

    Setting Fitted(Fitting asked, LayoutNotes notes)
    {
        var (value, text, room, tall, wraps, smallest, _) = asked;
        var most =
            text.Size > 0 ? text.Size
            : wraps ? LargestFit
            : Math.Clamp(tall / 1.2, SmallestFit, LargestFit);
        // A field that says its size keeps it; only one that does not is as large as fits.
        var least = text.Size > 0 ? Math.Min(smallest == SmallestFit ? text.Size : smallest, text.Size) : SmallestFit;
        for (var size = most; ; size = Math.Max(least, size * 0.94))
        {
            var found = new LayoutNotes { Place = notes.Place };
            var (lines, width, height) = texts.Lines(value, text, size, wraps ? room : null, found);
            var fits = width <= room + Slack && height <= tall + size * 0.35 && !found.IsTooNarrow;
            if (!fits && size > least + 0.01)
                continue;
            notes.Add(found);
            return new(lines, height, fits);
        }
    }
}
