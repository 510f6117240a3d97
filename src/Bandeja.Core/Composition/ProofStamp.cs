namespace Bandeja.Core.Composition;

/// <summary>Marks pages as proofs, so that none of them is ever taken for a piece to be mailed.</summary>
public sealed class ProofStamp
{
    // Large enough to be seen from afar, light enough to read what stands under it.
    const double Strength = 0.16,
        Angle = 35;
    const string Color = "7a2018";
    readonly FontLibrary fonts;
    readonly ParagraphLayout layout;
    readonly Dictionary<double, TextLine> lines = [];
    readonly string text;

    /// <summary>Begins stamping.</summary>
    /// <param name="text">The word across each page.</param>
    public ProofStamp(FontLibrary fonts, string text = "PROOF")
    {
        (this.fonts, this.text) = (fonts, text);
        layout = new(fonts);
    }

    /// <summary>The page with the mark across it, over everything else.</summary>
    public LaidOutPage On(LaidOutPage page)
    {
        // A small label gets a small mark: about as long as the page is wide.
        var size = Math.Clamp(Math.Min(page.Width / 5, page.Height / 1.6), 8, 130);
        if (!lines.TryGetValue(size, out var line))
        {
            var style = new TextStyle(fonts.Families[0], size, Bold: true, Color: Color);
            lines[size] = line = layout.Set([new(text, style)], style, new(TextAlign.Left, 1, 0), 100_000, new())[0];
        }
        return page with
        {
            Items =
            [
                .. page.Items,
                new WatermarkItem(page.Width / 2, page.Height / 2, line, page.Height < page.Width / 1.8 ? 0 : Angle, Strength),
            ],
        };
    }
}
