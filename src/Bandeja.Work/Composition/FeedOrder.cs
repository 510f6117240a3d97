using System.Text.Json;
using Bandeja.Core.Composition;
using Bandeja.Core.Surfaces;
using Bandeja.Store.Devices;

namespace Bandeja.Work.Composition;

/// <summary>How a run's printer takes envelopes and label sheets, frozen with the run.</summary>
/// <param name="Printer">The printer as it was then.</param>
public sealed record FeedOrder(PrinterRow Printer)
{
    const double Points = 72 / 25.4;

    /// <summary>Reads what was frozen; null where no printer was chosen.</summary>
    public static FeedOrder? Read(string? json) => json is null ? null : new(JsonSerializer.Deserialize<PrinterRow>(json)!);

    /// <summary>The frozen form.</summary>
    public string ToJson() => JsonSerializer.Serialize(Printer);

    /// <summary>Where labels begin, as it was frozen.</summary>
    public static SheetStart? ReadStart(string? json) => json is null ? null : JsonSerializer.Deserialize<SheetStart>(json);

    /// <summary>An envelope as it goes in: the edge that goes in first is the top of the page.</summary>
    public LaidOutPage Envelope(LaidOutPage page)
    {
        var landscape = page.Width >= page.Height;
        var turned = Printer.EnvelopeEdge == "short" == landscape;
        return page with
        {
            Feed = new((turned ? 90 : 0) + (int)Printer.EnvelopeTurn, Printer.EnvelopeRight * Points, Printer.EnvelopeDown * Points),
        };
    }

    /// <summary>A label sheet, moved to where the printer's labels are.</summary>
    public LaidOutPage Sheet(LaidOutPage page) => page with { Feed = new(0, Printer.SheetRight * Points, Printer.SheetDown * Points) };
}
