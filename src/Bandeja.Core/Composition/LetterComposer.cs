using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Composition;

/// <summary>A mistake in a design's fields, told once, before any recipient is touched.</summary>
/// <param name="Block">Zero-based number of the paragraph.</param>
/// <param name="Source">The field or text it stands in.</param>
public sealed record DesignError(int Block, string Source, LanguageError Error);

/// <summary>One recipient's finished letter.</summary>
/// <param name="Pages">Its pages.</param>
/// <param name="Problems">What could not be computed.</param>
/// <param name="Notes">What did not fit or has no glyph.</param>
public sealed record ComposedLetter(IReadOnlyList<LaidOutPage> Pages, IReadOnlyList<Problem> Problems, LayoutNotes Notes);

/// <summary>
/// A letter bound to a list's columns: its fields are parsed once, and the paragraphs without fields are set once and shared by
/// all recipients. That is where the speed comes from. Safe to share; a <see cref="LetterComposer"/> serves one thread.
/// </summary>
public sealed class BoundLetter
{
    /// <summary>A block with its fields parsed; <paramref name="Shared"/> is set where it is the same for everyone.</summary>
    internal sealed record Part(Block Block, IReadOnlyList<(TextStyle Style, Template? Template, bool EndsLine)> Inlines, SharedPart? Shared, IReadOnlyList<TextLine>? Lines);

    /// <summary>Neighbouring parts that are the same for everyone, as one.</summary>
    internal sealed record Group(IReadOnlyList<Part> Parts, SharedPart? Shared);

    internal IReadOnlyList<Group> Groups { get; }

    /// <summary>Binds a design to columns.</summary>
    public BoundLetter(LetterDesign design, IReadOnlyList<Column> columns, OrganisationLocale locale, FontLibrary fonts)
    {
        (Design, Columns, Locale, Fonts) = (design, columns, locale, fonts);
        var names = new Names(columns);
        var errors = new List<DesignError>();
        var layout = new ParagraphLayout(fonts);
        var parts = design.Blocks.Select((block, i) => Bind(block, i, names, errors, layout)).ToList();
        Groups = Grouped(parts);
        Errors = errors;
        UsedColumns = [.. parts.SelectMany(p => p.Inlines).SelectMany(i => i.Template?.Parts ?? []).SelectMany(p => p.Field?.Columns() ?? []).Distinct().Order()];
        HasUnknown = parts.SelectMany(p => p.Inlines).Any(i => i.Template?.Errors.Count > 0);
    }

    /// <summary>The design.</summary>
    public LetterDesign Design { get; }
    /// <summary>The list's columns.</summary>
    public IReadOnlyList<Column> Columns { get; }
    /// <summary>How numbers and dates are written.</summary>
    public OrganisationLocale Locale { get; }
    /// <summary>The fonts.</summary>
    public FontLibrary Fonts { get; }
    /// <summary>Mistakes in the fields.</summary>
    public IReadOnlyList<DesignError> Errors { get; }
    /// <summary>Positions of the columns that the letter prints.</summary>
    public IReadOnlyList<int> UsedColumns { get; }
    /// <summary>What the unchanging text found: characters without a glyph, words too wide.</summary>
    public LayoutNotes SharedNotes { get; } = new();
    /// <summary>True where a field does not parse.</summary>
    public bool HasUnknown { get; }

    Part Bind(Block block, int index, Names names, List<DesignError> errors, ParagraphLayout layout)
    {
        if (block is Picture picture)
            return new(block, [], new(Design.Page.TextWidth, picture.Height, [new PictureItem(Left(picture), 0, picture.Width, picture.Height, picture.Asset)]), null);
        var paragraph = (Paragraph)block;
        var inlines = new List<(TextStyle, Template?, bool)>();
        foreach (var inline in paragraph.Inlines)
        {
            var source = inline switch { TextInline t => t.Text, FieldInline f => "{" + f.Source + "}", _ => null };
            var template = source is null ? null : Template.Parse(source, names);
            foreach (var error in template?.Errors ?? []) errors.Add(new(index, source!, error));
            inlines.Add((inline.Style, template, inline is LineBreakInline));
        }
        if (inlines.Any(i => i.Item2?.Parts.Any(p => p.Field is not null) == true)) return new(block, inlines, null, null);
        var spans = inlines.Select(i => new Span(i.Item3 ? "" : string.Concat(i.Item2!.Parts.Select(p => p.Text)), i.Item1, false, i.Item3)).ToList();
        var lines = layout.Set(spans, paragraph.BaseStyle, paragraph.LineSpacing, Design.Page.TextWidth, paragraph.Align, SharedNotes);
        return new(block, inlines, SharedOf(lines, Design.Page.TextWidth), lines);
    }

    double Left(Picture picture) => picture.Align switch
    {
        TextAlign.Center => (Design.Page.TextWidth - picture.Width) / 2,
        TextAlign.Right => Design.Page.TextWidth - picture.Width,
        _ => 0,
    };

    static SharedPart SharedOf(IReadOnlyList<TextLine> lines, double width)
    {
        var items = new List<PageItem>();
        double y = 0;
        foreach (var line in lines)
        {
            if (line.Runs.Count > 0) items.Add(new LineItem(0, y + line.Baseline, line));
            y += line.Height;
        }
        return new(width, y, items);
    }

    static List<Group> Grouped(List<Part> parts)
    {
        var groups = new List<Group>();
        for (var i = 0; i < parts.Count;)
        {
            var j = i + 1;
            if (parts[i].Shared is null)
            {
                groups.Add(new([parts[i]], null));
            }
            else
            {
                while (j < parts.Count && parts[j].Shared is not null) j++;
                groups.Add(Merge(parts[i..j]));
            }
            i = j;
        }
        return groups;
    }

    static Group Merge(List<Part> parts)
    {
        var items = new List<PageItem>();
        double y = 0;
        for (var i = 0; i < parts.Count; i++)
        {
            foreach (var item in parts[i].Shared!.Items)
                items.Add(item with { Y = item.Y + y });
            y += parts[i].Shared!.Height;
            if (i < parts.Count - 1) y += SpaceAfter(parts[i].Block);
        }
        return new(parts, new(parts[0].Shared!.Width, y, items));
    }

    internal static double SpaceAfter(Block block) => block is Paragraph p ? p.SpaceAfter : ((Picture)block).SpaceAfter;
}

/// <summary>Composes recipients' letters, one after another. Not safe to share between threads.</summary>
public sealed class LetterComposer(BoundLetter letter, DateOnly today)
{
    readonly EvaluationContext context = new(letter.Columns, letter.Locale, today);
    readonly ParagraphLayout layout = new(letter.Fonts);
    readonly List<Span> spans = [];

    /// <summary>Composes one recipient's letter.</summary>
    public ComposedLetter Compose(IRow row, int pieceNumber)
    {
        context.For(row, pieceNumber);
        var notes = new LayoutNotes();
        notes.MissingGlyphs.AddRange(letter.SharedNotes.MissingGlyphs);
        notes.TooWide.AddRange(letter.SharedNotes.TooWide);
        var pages = new PageFiller(letter.Design.Page);
        foreach (var group in letter.Groups)
        {
            if (group.Shared is not null)
            {
                pages.AddShared(group.Shared, BoundLetter.SpaceAfter(group.Parts[^1].Block), group.Parts);
                continue;
            }
            var part = group.Parts[0];
            var paragraph = (Paragraph)part.Block;
            Fill(part);
            var lines = layout.Set(spans, paragraph.BaseStyle, paragraph.LineSpacing, letter.Design.Page.TextWidth, paragraph.Align, notes);
            if (lines.Count > 0) pages.AddLines(lines, paragraph.SpaceAfter);
        }
        return new(pages.Finish(), [.. context.Problems], notes);
    }

    void Fill(BoundLetter.Part part)
    {
        spans.Clear();
        foreach (var (style, template, endsLine) in part.Inlines)
        {
            if (endsLine) { spans.Add(new("", style, false, true)); continue; }
            foreach (var piece in template!.Parts)
                spans.Add(piece.Field is null ? new(piece.Text, style, false, false) : new(Evaluator.Print(piece.Field, context), style, true, false));
        }
    }
}
