using System.Globalization;
using Bandeja.Core.Composition;

namespace Bandeja.Core.Surfaces;

/// <summary>The corners of a label.</summary>
public enum LabelCorner
{
    Square,
    Rounded,
    Round,
}

/// <summary>A sheet of labels as geometry, millimetres.</summary>
/// <param name="Left">From the sheet's left edge to the first column.</param>
/// <param name="Top">From the sheet's top edge to the first row.</param>
/// <param name="PitchX">From the left edge of one column to that of the next.</param>
/// <param name="PitchY">From the top of one row to that of the next.</param>
/// <param name="Radius">Of rounded corners.</param>
/// <param name="InInches">True where its measures are given in inches.</param>
public sealed record LabelStock(
    string Id,
    double SheetWidth,
    double SheetHeight,
    int Columns,
    int Rows,
    double LabelWidth,
    double LabelHeight,
    double Left,
    double Top,
    double PitchX,
    double PitchY,
    LabelCorner Corner,
    double Radius,
    bool InInches
)
{
    const double Inch = 25.4,
        Slack = 0.05;

    /// <summary>How many labels a sheet has.</summary>
    public int Count => Columns * Rows;

    /// <summary>The stock's name: its own geometry, for instance <c>3 × 10 · 2⅝ × 1 in</c>.</summary>
    public string Name
    {
        get
        {
            var unit = InInches ? "in" : "mm";
            var size =
                Corner == LabelCorner.Round && Math.Abs(LabelWidth - LabelHeight) < 0.01
                    ? $"⌀ {Measure(LabelWidth)}"
                    : $"{Measure(LabelWidth)} × {Measure(LabelHeight)}";
            return $"{Columns} × {Rows} · {size} {unit}";
        }
    }

    string Measure(double millimetres) =>
        InInches ? Fraction(millimetres / Inch) : millimetres.ToString("0.##", CultureInfo.InvariantCulture);

    static string Fraction(double inches)
    {
        var whole = (int)Math.Floor(inches + 0.002);
        var rest = inches - whole;
        (double Value, string Sign)[] signs =
        [
            (1 / 8.0, "⅛"),
            (1 / 6.0, "⅙"),
            (1 / 4.0, "¼"),
            (1 / 3.0, "⅓"),
            (3 / 8.0, "⅜"),
            (1 / 2.0, "½"),
            (5 / 8.0, "⅝"),
            (2 / 3.0, "⅔"),
            (3 / 4.0, "¾"),
            (5 / 6.0, "⅚"),
            (7 / 8.0, "⅞"),
            (1 / 16.0, "1⁄16"),
            (3 / 16.0, "3⁄16"),
            (5 / 16.0, "5⁄16"),
            (7 / 16.0, "7⁄16"),
            (9 / 16.0, "9⁄16"),
            (11 / 16.0, "11⁄16"),
            (13 / 16.0, "13⁄16"),
            (15 / 16.0, "15⁄16"),
        ];
        if (rest < 0.004)
            return whole.ToString(CultureInfo.InvariantCulture);
        foreach (var (value, sign) in signs)
            if (Math.Abs(rest - value) < 0.002)
                return whole == 0 ? sign
                    : sign.Length > 1 ? $"{whole} {sign}"
                    : $"{whole}{sign}";
        return inches.ToString("0.###", CultureInfo.InvariantCulture);
    }

    /// <summary>What cannot be: a sentence for each, none where the stock can be made.</summary>
    public IReadOnlyList<string> Mistakes()
    {
        var wrong = new List<string>();
        string Said(double millimetres) =>
            InInches
                ? $"{Math.Round(millimetres / Inch, 3).ToString(CultureInfo.InvariantCulture)} in"
                : $"{Math.Round(millimetres, 2).ToString(CultureInfo.InvariantCulture)} mm";
        double[] all = [SheetWidth, SheetHeight, LabelWidth, LabelHeight, Left, Top, PitchX, PitchY, Radius];
        if (all.Any(m => !double.IsFinite(m)))
            return ["Enter a number for every dimension."];
        if (SheetWidth is < 50 or > 1000 || SheetHeight is < 50 or > 1000)
            wrong.Add($"Sheet width and height must be {Said(50)} to {Said(1000)}.");
        if (Columns is < 1 or > 40 || Rows is < 1 or > 100)
            wrong.Add("A sheet must have 1 to 40 columns and 1 to 100 rows.");
        if (LabelWidth <= 0 || LabelHeight <= 0)
            wrong.Add("Label width and height must be greater than zero.");
        else if (LabelWidth < 8 || LabelHeight < 5)
            wrong.Add($"A label must be at least {Said(8)} wide and {Said(5)} tall.");
        if (Left < 0 || Top < 0)
            wrong.Add("The first label starts outside the sheet.");
        if (Columns > 1 && PitchX < LabelWidth - Slack)
            wrong.Add(
                $"The columns overlap. They are {Said(PitchX)} apart from left edge to "
                    + $"left edge, but each label is {Said(LabelWidth)} wide."
            );
        if (Rows > 1 && PitchY < LabelHeight - Slack)
            wrong.Add(
                $"The rows overlap. They are {Said(PitchY)} apart from top edge to top "
                    + $"edge, but each label is {Said(LabelHeight)} tall."
            );
        if (Left + (Columns - 1) * PitchX + LabelWidth is var right && right > SheetWidth + Slack)
            wrong.Add($"The labels do not fit the sheet. They end at {Said(right)}, but the sheet is {Said(SheetWidth)} wide.");
        if (Top + (Rows - 1) * PitchY + LabelHeight is var bottom && bottom > SheetHeight + Slack)
            wrong.Add($"The labels do not fit the sheet. They end at {Said(bottom)}, but the sheet is {Said(SheetHeight)} tall.");
        if (Radius < 0 || Radius > Math.Min(LabelWidth, LabelHeight) / 2 + Slack)
            wrong.Add("The corner radius is more than half the label size.");
        return wrong;
    }

    /// <summary>Where a label stands, points.</summary>
    /// <param name="position">From 1, row by row.</param>
    public Area PlaceOf(int position)
    {
        const double unit = 72 / Inch;
        var (row, column) = ((position - 1) / Columns, (position - 1) % Columns);
        return new((Left + column * PitchX) * unit, (Top + row * PitchY) * unit, LabelWidth * unit, LabelHeight * unit);
    }

    static LabelStock Letter(
        string id,
        int columns,
        int rows,
        double width,
        double height,
        double left,
        double top,
        double pitchX,
        double pitchY,
        LabelCorner corner = LabelCorner.Rounded,
        double radius = 0.0625
    ) =>
        new(
            id,
            8.5 * Inch,
            11 * Inch,
            columns,
            rows,
            width * Inch,
            height * Inch,
            left * Inch,
            top * Inch,
            pitchX * Inch,
            pitchY * Inch,
            corner,
            corner == LabelCorner.Rounded ? radius * Inch : 0,
            true
        );

    static LabelStock A4(
        string id,
        int columns,
        int rows,
        double width,
        double height,
        double left,
        double top,
        double pitchX,
        double pitchY,
        LabelCorner corner = LabelCorner.Rounded
    ) => new(id, 210, 297, columns, rows, width, height, left, top, pitchX, pitchY, corner, corner == LabelCorner.Rounded ? 2 : 0, false);

    /// <summary>The stocks that are ready to choose. Each is centered on its sheet.</summary>
    public static readonly IReadOnlyList<LabelStock> Ready =
    [
        Letter("letter-3x10", 3, 10, 2.625, 1, 0.1875, 0.5, 2.75, 1),
        Letter("letter-2x10", 2, 10, 4, 1, 0.15625, 0.5, 4.1875, 1),
        Letter("letter-2x7", 2, 7, 4, 4 / 3.0, 0.15625, 5 / 6.0, 4.1875, 4 / 3.0),
        Letter("letter-2x5", 2, 5, 4, 2, 0.15625, 0.5, 4.1875, 2),
        Letter("letter-2x3", 2, 3, 4, 10 / 3.0, 0.15625, 0.5, 4.1875, 10 / 3.0),
        Letter("letter-4x20", 4, 20, 1.75, 0.5, 0.3, 0.5, 2.05, 0.5),
        Letter("letter-1x2", 1, 2, 8, 5, 0.25, 0.5, 8, 5, LabelCorner.Square),
        Letter("letter-2x2", 2, 2, 4, 5, 0.15625, 0.5, 4.1875, 5),
        Letter("letter-2x15-file", 2, 15, 3.4375, 2 / 3.0, 0.53125, 0.5, 4, 2 / 3.0),
        Letter("letter-2x4-badge", 2, 4, 3.375, 7 / 3.0, 0.6875, 7 / 12.0, 3.75, 2.5),
        Letter("letter-2x3-badge", 2, 3, 4, 3, 0.25, 1, 4, 3, LabelCorner.Square),
        Letter("letter-3x4-round", 3, 4, 2.5, 2.5, 0.25, 0.25, 2.75, 8 / 3.0, LabelCorner.Round),
        Letter("letter-4x6-round", 4, 6, 1.625, 1.625, 0.4, 0.4, 2.025, 1.715, LabelCorner.Round),
        A4("a4-3x7", 3, 7, 63.5, 38.1, 7.25, 15.15, 66, 38.1),
        A4("a4-3x8", 3, 8, 63.5, 33.9, 7.25, 12.9, 66, 33.9),
        A4("a4-3x8-full", 3, 8, 70, 36, 0, 4.5, 70, 36, LabelCorner.Square),
        A4("a4-3x9", 3, 9, 63.5, 29.6, 7.25, 15.3, 66, 29.6),
        A4("a4-2x7", 2, 7, 99.1, 38.1, 4.65, 15.15, 101.6, 38.1),
        A4("a4-2x8", 2, 8, 99.1, 33.9, 4.65, 12.9, 101.6, 33.9),
        A4("a4-2x5", 2, 5, 99.1, 57, 4.65, 6, 101.6, 57),
        A4("a4-2x4", 2, 4, 99.1, 67.7, 4.65, 13.1, 101.6, 67.7),
        A4("a4-2x2", 2, 2, 99.1, 139, 4.65, 9.5, 101.6, 139),
        A4("a4-4x16", 4, 16, 45.7, 16.9, 9.85, 13.3, 48.2, 16.9),
        A4("a4-4x17", 4, 17, 48.5, 16.9, 8, 4.85, 48.5, 16.9, LabelCorner.Square),
        A4("a4-5x13", 5, 13, 38.1, 21.2, 4.75, 10.7, 40.6, 21.2),
        A4("a4-2x16-file", 2, 16, 96, 16.5, 8, 16.5, 98, 16.5),
        A4("a4-2x5-badge", 2, 5, 90, 54, 15, 13.5, 90, 54, LabelCorner.Square),
        A4("a4-3x4-round", 3, 4, 60, 60, 10, 13.5, 65, 70, LabelCorner.Round),
    ];
}
