using Bandeja.Core.Surfaces;

namespace Bandeja.Work.Composition;

/// <summary>A stock of labels as geometry, millimetres.</summary>
/// <param name="Mistakes">What cannot be; a stock with any cannot be used.</param>
public sealed record StockView(
    string Id,
    string Name,
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
    string Corner,
    double Radius,
    bool Inches,
    IReadOnlyList<string> Mistakes
)
{
    internal static StockView Of(LabelStock s)
    {
        var wrong = s.Mistakes();
        return new(
            s.Id,
            wrong.Count == 0 ? s.Name : "",
            s.SheetWidth,
            s.SheetHeight,
            s.Columns,
            s.Rows,
            s.LabelWidth,
            s.LabelHeight,
            s.Left,
            s.Top,
            s.PitchX,
            s.PitchY,
            s.Corner.ToString().ToLowerInvariant(),
            s.Radius,
            s.InInches,
            wrong
        );
    }
}
