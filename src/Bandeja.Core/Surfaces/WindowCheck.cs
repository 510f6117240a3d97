using Bandeja.Core.Composition;
using Bandeja.Core.Language;

namespace Bandeja.Core.Surfaces;

/// <summary>Holds a letter against the window of its envelope.</summary>
public static class WindowCheck
{
    /// <summary>
    /// The window as it stands over the letter's first page. The letter lies in the middle of the envelope, its first panel outwards.
    /// Null where the folded letter is larger than the envelope.
    /// </summary>
    public static Area? OnLetter(EnvelopeWindow window, double envelopeWidth, double envelopeHeight, double pageWidth, double pageHeight)
    {
        var panel = PanelHeight(window.Fold, pageHeight);
        if (pageWidth > envelopeWidth + 0.1 || panel > envelopeHeight + 0.1)
            return null;
        return window.Place.Moved(-(envelopeWidth - pageWidth) / 2, -(envelopeHeight - panel) / 2);
    }

    /// <summary>Height of the panel that looks out, points.</summary>
    public static double PanelHeight(LetterFold fold, double pageHeight) =>
        fold switch
        {
            LetterFold.Thirds => pageHeight / 3,
            LetterFold.Half => pageHeight / 2,
            _ => pageHeight,
        };

    /// <summary>
    /// A sentence for everything that is wrong: no address, a part of it that is hidden, something else that shows, each also when the
    /// letter slips by the window's shift to any side.
    /// </summary>
    /// <remarks>What tells an issue from others, and by which it stays accepted, is the sentence in millimeters: units are a matter of
    /// wording.</remarks>
    public static IReadOnlyList<(string Detail, string Message)> Of(
        LaidOutPage page,
        EnvelopeWindow window,
        double envelopeWidth,
        double envelopeHeight,
        OrganizationLocale locale
    ) =>
        [
            .. Sentences(page, window, envelopeWidth, envelopeHeight, $"{window.Shift * 25.4 / 72:0.#} mm")
                .Zip(Sentences(page, window, envelopeWidth, envelopeHeight, locale.Length(window.Shift))),
        ];

    static IReadOnlyList<string> Sentences(
        LaidOutPage page,
        EnvelopeWindow window,
        double envelopeWidth,
        double envelopeHeight,
        string slip
    )
    {
        if (OnLetter(window, envelopeWidth, envelopeHeight, page.Width, page.Height) is not { } place)
            return ["The folded letter is larger than its envelope."];
        var panel = new Area(0, 0, page.Width, PanelHeight(window.Fold, page.Height));
        var surely = place.Grown(-window.Shift);
        var perhaps = place.Grown(window.Shift);
        var ink = Ink.Of(page.Items).ToList();
        var address = ink.Where(i => i.IsAddress).ToList();
        var wrong = new List<string>();
        if (address.Count == 0)
            wrong.Add("The letter has no delivery address for the window. Place the delivery address where the window is.");
        var hidden = address.Where(i => !surely.Holds(i.Place)).Select(i => i.Text).ToList();
        if (hidden.Count > 0)
            wrong.Add(
                hidden.Count == address.Count && !address.Any(i => place.Holds(i.Place))
                    ? "The delivery address is not behind the window."
                    : $"“{Short(hidden[0])}”"
                        + $"{(hidden.Count > 1 ? $" and {hidden.Count - 1} more {(hidden.Count == 2 ? "line" : "lines")}" : "")} of "
                        + $"the address must be in the window{(window.Shift > 0.01 ? $", also when the letter slips by {slip}" : "")}."
            );
        var shown = ink.Where(i => !i.IsAddress && panel.Overlaps(i.Place) && place.Overlaps(i.Place)).Select(i => i.Text).ToList();
        if (shown.Count > 0)
            wrong.Add($"“{Short(shown[0])}” shows in the window along with the address.");
        else if (ink.FirstOrDefault(i => !i.IsAddress && panel.Overlaps(i.Place) && perhaps.Overlaps(i.Place)) is { Text: { } near })
            wrong.Add($"“{Short(near)}” shows in the window if the letter shifts by {slip}.");
        return wrong;
    }

    static string Short(string text) => text.Length > 40 ? text[..39] + "…" : text;
}
