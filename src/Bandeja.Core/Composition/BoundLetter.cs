using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Composition;

/// <summary>A mistake in a design's fields, told once, before any recipient is touched.</summary>
/// <param name="Block">Zero-based number of the paragraph.</param>
/// <param name="Source">The field or text it stands in.</param>
/// <param name="Offer">The field with what was probably meant in the mistake's place; null where that is not known.</param>
public sealed record DesignError(int Block, string Source, LanguageError Error, string? Offer = null);

/// <summary>What a letter meets when it is bound: a list, an organization, typefaces and pictures.</summary>
/// <param name="Columns">The list's columns.</param>
/// <param name="Locale">How the organization writes numbers and dates.</param>
/// <param name="Details">The list's sets of detail rows.</param>
/// <param name="Matches">Names of the letter that stand for a column though it is called otherwise, with the column's position.</param>
/// <param name="Pictures">Finds a picture by its id or name; null where pictures are taken as they are said to be.</param>
/// <param name="Sender">The organization's name.</param>
/// <param name="Addressing">How the organization writes addresses and greets.</param>
/// <param name="SenderAddress">The organization's postal address, a line each.</param>
/// <param name="Rows">Names of the letter that stand for detail rows though they are called otherwise.</param>
/// <param name="Own">Finds a document that is kept with a recipient, by its name; null where there are none.</param>
/// <param name="Files">Finds a file of a folder of attachments by its name; null where there are none.</param>
/// <param name="Fields">What becomes of a form's fields; null for what the form says.</param>
public sealed record LetterSetting(
    IReadOnlyList<Column> Columns,
    OrganizationLocale Locale,
    FontLibrary Fonts,
    IReadOnlyList<DetailSet>? Details = null,
    IReadOnlyDictionary<string, int>? Matches = null,
    Func<string, PictureFacts?>? Pictures = null,
    string Sender = "",
    AddressingRules? Addressing = null,
    string SenderAddress = "",
    Func<long, string, Mail.MailFileFacts?>? Files = null,
    IReadOnlyList<RowsMatch>? Rows = null,
    FormOutput? Fields = null,
    Func<long, string, OwnDocument?>? Own = null
)
{
    /// <summary>The names that the design's fields can use.</summary>
    public Names Names => new(Columns, Details, Matches, Locale, Rows);
}

/// <summary>
/// A letter bound to a list's columns: its fields are parsed once, and what does not depend on the recipient is set once and
/// shared by all. That is where the speed comes from. Safe to share; a <see cref="LetterComposer"/> serves one thread.
/// </summary>
public sealed class BoundLetter : IBoundDesign
{
    internal const double HeadGap = 8;

    /// <summary>A header or footer: its parts, and, where it is the same for everyone and on every page, its finished form.</summary>
    internal sealed record Band(IReadOnlyList<TemplatePart> Parts, SharedPart? Fixed, LayoutNotes? Notes)
    {
        /// <summary>Where it is finished: what of it has a place of the page.</summary>
        public IReadOnlyList<PageItem> Placed { get; init; } = [];
    }

    /// <summary>Headers and footers; null where a page has no own ones.</summary>
    internal sealed record Bands(Band Header, Band Footer, Band? FirstHeader, Band? FirstFooter, Band? EvenHeader, Band? EvenFooter)
    {
        // Pages count from 0 here, so that the second is the first of those with even numbers.
        public Band HeaderOf(int page) =>
            page == 0 ? FirstHeader ?? Header
            : page % 2 == 1 ? EvenHeader ?? Header
            : Header;

        public Band FooterOf(int page) =>
            page == 0 ? FirstFooter ?? Footer
            : page % 2 == 1 ? EvenFooter ?? Footer
            : Footer;

        public IEnumerable<TemplatePart> Parts =>
            new[] { Header, Footer, FirstHeader, FirstFooter, EvenHeader, EvenFooter }.SelectMany(b => b?.Parts ?? []);
    }

    internal IReadOnlyList<TemplatePart> Body { get; }
    internal Bands Heads { get; }
    readonly Dictionary<double, Bands> otherHeads = [];

    /// <summary>The headers and footers for text of a width in points.</summary>
    internal Bands HeadsOver(double width) => otherHeads.GetValueOrDefault(width) ?? Heads;

    /// <summary>The sheets that pages of the text change to.</summary>
    static IEnumerable<PageSetup> Sheets(IEnumerable<Block> blocks) =>
        blocks.SelectMany(b =>
            b switch
            {
                PageBreak { Page: { } page } => [page],
                WhenBlock w => w.Branches.SelectMany(x => Sheets(x.Blocks)),
                EachBlock e => Sheets(e.Blocks),
                _ => Enumerable.Empty<PageSetup>(),
            }
        );

    internal Template? Watermark { get; }
    internal LayoutNotes SharedNotes { get; }

    /// <summary>Binds a design to columns.</summary>
    public BoundLetter(LetterDesign design, IReadOnlyList<Column> columns, OrganizationLocale locale, FontLibrary fonts)
        : this(design, new LetterSetting(columns, locale, fonts)) { }

    /// <summary>Binds a design.</summary>
    public BoundLetter(LetterDesign design, LetterSetting setting)
    {
        (Design, Setting) = (design, setting);
        var names = setting.Names;
        var errors = new List<DesignError>();
        var maker = new FlowMaker(setting.Fonts, NewContext(default), setting.Pictures, setting.Own);
        var binder = new BlockBinder(maker, errors);
        var width = design.Page.TextWidth;
        binder.Sheet = design.Page;
        Body = binder.Bind(design.Blocks, names, new(0, width, [], null, true, ""));
        Band Bound(IReadOnlyList<Block> blocks, string place, double across)
        {
            var parts = binder.Bind(blocks, names.WithPages(), new(0, across, [], null, false, place));
            if (!parts.All(p => p is PlainPart { Thing: BoundBlock { Varies: false } }))
                return new(parts, null, null);
            var notes = new LayoutNotes();
            var flows = maker.Apart(parts, notes);
            var items = new List<PageItem>();
            return new(parts, new(across, Stacked.Emit(flows, 0, 0, items), items), notes.IsEmpty ? null : notes)
            {
                Placed = LetterComposer.Placed(flows),
            };
        }
        Bands All(double across)
        {
            Band? Own(IReadOnlyList<Block>? blocks, string place) => blocks is null ? null : Bound(blocks, place, across);
            var h = design.Head;
            return new(
                Bound(h.Header, "the header", across),
                Bound(h.Footer, "the footer", across),
                Own(h.FirstHeader, "the first page's header"),
                Own(h.FirstFooter, "the first page's footer"),
                Own(h.EvenHeader, "the even pages' header"),
                Own(h.EvenFooter, "the even pages' footer")
            );
        }
        Heads = All(width);
        Mailers = [.. binder.Mailers];
        // On other sheets the same headers stand over another width; what is wrong in them was told already.
        var told = errors.Count;
        foreach (var page in Sheets(design.Blocks).Where(p => p.TextWidth != width).DistinctBy(p => p.TextWidth))
            otherHeads[page.TextWidth] = All(page.TextWidth);
        errors.RemoveRange(told, errors.Count - told);
        if (design.Head.Watermark is { } mark)
        {
            Watermark = Template.Parse(mark.Text, names.WithPages());
            errors.AddRange(Watermark.Errors.Select(e => new DesignError(0, mark.Text, e)));
        }
        if (design.Head.Background is { } background && setting.Pictures is not null && setting.Pictures(background.Asset) is null)
            maker.SharedNotes.Pictures.Add(new(PictureIssue.Missing, "background", background.Asset, "the background"));
        Varies = Body.SelectMany(p => p.All()).Any(p => p is WhenPart or EachPart or PlainPart { Thing: BoundBlock { Varies: true } });
        var head = design.Head;
        HasBoxes = new[]
        {
            design.Blocks,
            head.Header,
            head.Footer,
            head.FirstHeader ?? [],
            head.FirstFooter ?? [],
            head.EvenHeader ?? [],
            head.EvenFooter ?? [],
        }.Any(Holds);
        SharedNotes = maker.SharedNotes;
        Errors = errors;
        UsedColumns = DesignReading.Used(this.Expressions(), setting.Columns, Mailers.Count > 0);
    }

    /// <summary>True where it has boxes, whose text may grow over the edge of the sheet.</summary>
    internal bool HasBoxes { get; }

    static bool Holds(IEnumerable<Block> blocks) =>
        blocks.Any(b =>
            b switch
            {
                Box => true,
                Quote q => Holds(q.Blocks),
                Columns c => Holds(c.Blocks),
                ItemList l => l.Items.Any(Holds),
                WhenBlock w => w.Branches.Any(x => Holds(x.Blocks)),
                EachBlock e => Holds(e.Blocks),
                Table t => t.Rows.Any(r => r.Cells.Any(x => Holds(x.Blocks))),
                _ => false,
            }
        );

    /// <summary>True where what the letter prints depends on the recipient, so that it may be nothing.</summary>
    internal bool Varies { get; }

    /// <summary>The design.</summary>
    public LetterDesign Design { get; }

    /// <summary>What it is bound to.</summary>
    public LetterSetting Setting { get; }

    /// <summary>The list's columns.</summary>
    public IReadOnlyList<Column> Columns => Setting.Columns;

    /// <summary>Mistakes in the fields.</summary>
    public IReadOnlyList<DesignError> Errors { get; }

    /// <summary>Positions of the columns that the letter reads.</summary>
    public IReadOnlyList<int> UsedColumns { get; }

    /// <inheritdoc/>
    public PieceKind Kind => PieceKind.Letter;

    /// <inheritdoc/>
    public (double Width, double Height)? Size => (Design.Page.Width, Design.Page.Height);

    /// <inheritdoc/>
    public int? MaxPages => Design.MaxPages;

    /// <inheritdoc/>
    public IReadOnlyList<string> Mailers { get; }

    /// <inheritdoc/>
    public IPieceComposer Composer(DateOnly today) => new LetterComposer(this, today);

    /// <inheritdoc/>
    public LetterSpeller Speller(DateOnly today) => new(this, today);

    LetterSpeller? IBoundDesign.Speller(DateOnly today) => Speller(today);

    /// <inheritdoc/>
    public EvaluationContext NewContext(DateOnly today) =>
        new(Setting.Columns, Setting.Locale, today, Setting.Details, Setting.Sender, Setting.Addressing);

    /// <inheritdoc/>
    public IEnumerable<TemplatePart> Parts => new[] { Body, Heads.Parts, Watermark?.Parts ?? [] }.SelectMany(p => p);

    /// <inheritdoc/>
    public IEnumerable<Expression> Unprinted => [];
}
