namespace Bandeja.Formats.Documents;

/// <summary>How a stretch of text looks, as far as a document says so. Null is not said.</summary>
sealed record RunLook(
    string? Face = null,
    double? Size = null,
    bool? Bold = null,
    bool? Italic = null,
    bool? Underline = null,
    bool? Strike = null,
    bool? Capitals = null,
    bool? SmallCapitals = null,
    bool? Hidden = null,
    string? Color = null,
    string? Script = null,
    string? Link = null
)
{
    public static readonly RunLook None = new();

    /// <summary>This, and where it says nothing, what stands below it.</summary>
    public RunLook Over(RunLook low) =>
        new(
            Face ?? low.Face,
            Size ?? low.Size,
            Bold ?? low.Bold,
            Italic ?? low.Italic,
            Underline ?? low.Underline,
            Strike ?? low.Strike,
            Capitals ?? low.Capitals,
            SmallCapitals ?? low.SmallCapitals,
            Hidden ?? low.Hidden,
            Color ?? low.Color,
            Script ?? low.Script,
            Link ?? low.Link
        );

    /// <summary>A character style over a paragraph's look: what both switch on is off (ECMA-376 part 1, section 17.7.3).</summary>
    public RunLook Toggled(RunLook low)
    {
        static bool? Or(bool? own, bool? below) => own == true && below == true ? false : own ?? below;
        return Over(low) with
        {
            Bold = Or(Bold, low.Bold),
            Italic = Or(Italic, low.Italic),
            Strike = Or(Strike, low.Strike),
            Capitals = Or(Capitals, low.Capitals),
            SmallCapitals = Or(SmallCapitals, low.SmallCapitals),
            Hidden = Or(Hidden, low.Hidden),
        };
    }
}

/// <summary>A tab stop, points from the left margin.</summary>
sealed record TabLook(double At, string Kind, string? Leader);

/// <summary>How far apart lines stand.</summary>
/// <param name="Value">A multiple of the face's own line height, or points where <paramref name="InPoints"/>.</param>
/// <param name="AtLeast">For points: true where a line may be higher.</param>
sealed record LineLook(double Value, bool InPoints, bool AtLeast);

/// <summary>Lines around a paragraph.</summary>
/// <param name="Sides">Of <c>top</c>, <c>right</c>, <c>bottom</c>, <c>left</c>, those that have one.</param>
/// <param name="Width">Points.</param>
sealed record BorderLook(IReadOnlyList<string> Sides, double Width, string Color);

/// <summary>How a paragraph is set, as far as a document says so. Points.</summary>
sealed record ParagraphLook(
    string? Align = null,
    double? Before = null,
    double? After = null,
    LineLook? Line = null,
    double? Left = null,
    double? Right = null,
    double? First = null,
    IReadOnlyList<TabLook>? Tabs = null,
    bool? Keep = null,
    bool? BreakBefore = null,
    string? Shade = null,
    BorderLook? Border = null,
    string? List = null,
    int? Level = null,
    int? Outline = null,
    bool? Snug = null,
    bool? RightToLeft = null,
    string? Named = null
)
{
    public static readonly ParagraphLook None = new();

    /// <summary>This, and where it says nothing, what stands below it.</summary>
    public ParagraphLook Over(ParagraphLook low) =>
        new(
            Align ?? low.Align,
            Before ?? low.Before,
            After ?? low.After,
            Line ?? low.Line,
            Left ?? low.Left,
            Right ?? low.Right,
            First ?? low.First,
            Tabs ?? low.Tabs,
            Keep ?? low.Keep,
            BreakBefore ?? low.BreakBefore,
            Shade ?? low.Shade,
            Border ?? low.Border,
            List ?? low.List,
            Level ?? low.Level,
            Outline ?? low.Outline,
            Snug ?? low.Snug,
            RightToLeft ?? low.RightToLeft,
            Named ?? low.Named
        );
}
