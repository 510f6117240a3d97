using Bandeja.Core.Composition;
using Bandeja.Core.Language;

namespace Bandeja.Core.Surfaces;

/// <summary>A box with its fields parsed, once for each size that its text may shrink to.</summary>
sealed record BoundBox(SurfaceBox Box, IReadOnlyList<IReadOnlyList<TemplatePart>> BySize)
{
    /// <summary>Set where the box is the same for everyone.</summary>
    public (SharedPart Part, LayoutNotes Notes)? Fixed { get; set; }

    /// <summary>True where it may print where it must not: what stays in a box that is well placed need not be looked at for each
    /// recipient.</summary>
    public bool IsLookedAt { get; init; }

    /// <summary>Width of the content.</summary>
    public double Width => Math.Max(1, Box.Place.Width - 2 * Box.Padding);

    /// <summary>Height of the content.</summary>
    public double Height => Math.Max(1, Box.Place.Height - 2 * Box.Padding);
}

/// <summary>
/// An envelope or a label bound to a list's columns: fields are parsed once, and boxes that do not depend on the recipient are laid
/// out once and shared by all. Safe to share; a <see cref="SurfaceComposer"/> serves one thread.
/// </summary>
public sealed class BoundSurface : IBoundDesign
{
    // Steps in which text shrinks: small enough not to be seen, few enough to be fast.
    const double Step = 0.94;

    internal IReadOnlyList<BoundBox> Boxes { get; }
    internal Expression? CopiesBy { get; }
    internal Expression? GroupBy { get; }
    internal IReadOnlyList<ClearZone> Zones { get; }

    /// <summary>Boxes that may print over each other: what is far apart need not be looked at for each recipient.</summary>
    internal IReadOnlyList<(int One, int Other)> Neighbors { get; }

    /// <summary>True where something may print at the very edge.</summary>
    internal bool HasEdge { get; }

    /// <summary>What the post says of the envelope's size; null where nothing.</summary>
    internal string? SizeIssue { get; }

    /// <summary>True where the post's rules for envelopes hold.</summary>
    internal bool IsMailed => Design.Labels is null;

    /// <summary>Binds a design.</summary>
    public BoundSurface(SurfaceDesign design, LetterSetting setting)
    {
        (Design, Setting) = (design, setting);
        var names = setting.Names;
        var errors = new List<DesignError>();
        var context = NewContext(default);
        var maker = new FlowMaker(setting.Fonts, context, setting.Pictures, setting.Own);
        var mailers = new List<string>();
        Zones = ClearZones.Of(design.Zones, design.Width, design.Height);
        Boxes =
        [
            .. design.Boxes.Select(
                (box, index) =>
                {
                    var sizes = new List<double> { 1 };
                    while (sizes[^1] * Step > box.Smallest)
                        sizes.Add(sizes[^1] * Step);
                    if (box.Smallest < sizes[^1])
                        sizes.Add(box.Smallest);
                    var bySize = sizes
                        .Select(
                            (scale, at) =>
                            {
                                var wrong = new List<DesignError>();
                                var binder = new BlockBinder(maker, wrong);
                                var parts = binder.Bind(
                                    BlockScale.Of(box.Blocks, scale),
                                    names,
                                    new(0, Math.Max(1, box.Place.Width - 2 * box.Padding), [], null, false, box.Name)
                                );
                                if (at == 0)
                                {
                                    errors.AddRange(wrong.Select(e => e with { Block = index }));
                                    mailers.AddRange(binder.Mailers);
                                }
                                return parts;
                            }
                        )
                        .ToList();
                    var strays =
                        !Holds(box.Place)
                        || Zones.Any(z => z.Place.Overlaps(box.Place) && !z.Allowed.Contains(box.Use))
                        || box.Blocks.Any(b => b is Picture { Place: not null } or Barcode { Place: not null });
                    return new BoundBox(box, bySize) { IsLookedAt = strays };
                }
            ),
        ];
        Mailers = [.. mailers.Distinct()];
        // A barcode wants a clear zone around it, and a box that strays may print anywhere.
        Area Around(BoundBox b) => b.Box.Blocks.Any(x => x is Barcode) ? b.Box.Place.Grown(Barcodes.IntelligentMail.ClearX) : b.Box.Place;
        Neighbors =
        [
            .. from i in Enumerable.Range(0, Boxes.Count)
            from j in Enumerable.Range(i + 1, Boxes.Count - i - 1)
            where Around(Boxes[i]).Overlaps(Around(Boxes[j]))
            select (i, j),
        ];
        HasEdge = IsMailed && !Boxes.All(b => new Area(0, 0, design.Width, design.Height).Grown(-PostalCheck.Edge).Holds(b.Box.Place));
        SizeIssue = IsMailed ? PostalCheck.OfSize(design.Zones, design.Width, design.Height) : null;
        Expression? Parsed(string? source)
        {
            if (source is null)
                return null;
            var parsed = FieldParser.ParseExpression(source, names);
            errors.AddRange(parsed.Errors.Select(e => new DesignError(design.Boxes.Count, source, e)));
            return parsed.Expression;
        }
        CopiesBy = Parsed(design.Labels?.CopiesSource);
        GroupBy = Parsed(design.Labels?.GroupSource);
        Errors = errors;
        UsedColumns = DesignReading.Used(this.Expressions(), setting.Columns, Mailers.Count > 0);
        // What is the same for everyone is laid out now.
        var composer = new SurfaceComposer(this, default);
        foreach (var box in Boxes)
            if (box.BySize[0].All(p => p is PlainPart { Thing: BoundBlock { Varies: false } }))
                box.Fixed = composer.Settle(box);
    }

    /// <summary>True where a rectangle lies on the piece; on a round label its corners must, too.</summary>
    internal bool Holds(Area area)
    {
        if (!new Area(0, 0, Design.Width, Design.Height).Holds(area))
            return false;
        if (Design.Labels?.Stock.Corner != LabelCorner.Round)
            return true;
        double a = Design.Width / 2,
            b = Design.Height / 2;
        bool Within(double x, double y) => (x - a) * (x - a) / (a * a) + (y - b) * (y - b) / (b * b) <= 1.0001;
        return Within(area.X, area.Y) && Within(area.Right, area.Y) && Within(area.X, area.Bottom) && Within(area.Right, area.Bottom);
    }

    /// <inheritdoc/>
    public EvaluationContext NewContext(DateOnly today) =>
        new(Setting.Columns, Setting.Locale, today, Setting.Details, Setting.Sender, Setting.Addressing);

    /// <summary>The design.</summary>
    public SurfaceDesign Design { get; }

    /// <inheritdoc/>
    public LetterSetting Setting { get; }

    /// <inheritdoc/>
    public PieceKind Kind => Design.Kind;

    /// <inheritdoc/>
    public (double Width, double Height)? Size => (Design.Width, Design.Height);

    /// <inheritdoc/>
    public IReadOnlyList<DesignError> Errors { get; }

    /// <inheritdoc/>
    public IReadOnlyList<int> UsedColumns { get; }

    /// <inheritdoc/>
    public int? MaxPages => null;

    /// <inheritdoc/>
    public IReadOnlyList<string> Mailers { get; }

    /// <inheritdoc/>
    public IPieceComposer Composer(DateOnly today) => new SurfaceComposer(this, today);

    /// <inheritdoc/>
    public IEnumerable<TemplatePart> Parts => Boxes.SelectMany(b => b.BySize[0]);

    /// <inheritdoc/>
    public IEnumerable<Expression> Unprinted => new[] { CopiesBy, GroupBy }.OfType<Expression>();
}
