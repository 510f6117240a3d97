using Bandeja.Core.Forms;
using UglyToad.PdfPig;

namespace Bandeja.Formats.Pdf;

/// <summary>The text beside the fields of a form, and the lines drawn on its pages. Points from the left and top edges of a page as it is
/// seen. A page whose content cannot be read has neither.</summary>
sealed class FormLabels
{
    /// <summary>A word, or several of one line that stand together.</summary>
    internal sealed record Phrase(string Text, double Left, double Top, double Right, double Bottom);

    const int MostPages = 200,
        MostLines = 400;

    /// <summary>How far a label may be from its field, points: to its left, above it, and after a button.</summary>
    const double LeftReach = 140,
        UpReach = 18,
        AfterReach = 16;
    readonly List<List<Phrase>> phrases = [];
    readonly List<(List<double> Across, List<double> Down)> lines = [];

    /// <summary>Reads the pages of a PDF.</summary>
    public static FormLabels Of(byte[] data, string? password)
    {
        var labels = new FormLabels();
        try
        {
            using var document = PdfDocument.Open(data, new ParsingOptions { UseLenientParsing = true, Password = password ?? "" });
            for (var i = 1; i <= Math.Min(MostPages, document.NumberOfPages); i++)
                labels.Page(document, i);
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            // Without words a field is called by its tooltip or its name.
        }
        return labels;
    }

    void Page(PdfDocument document, int number)
    {
        var (words, across, down) = (new List<Phrase>(), new List<double>(), new List<double>());
        phrases.Add(words);
        lines.Add((across, down));
        try
        {
            var page = document.GetPage(number);
            foreach (var word in page.GetWords())
            {
                var box = word.BoundingBox;
                words.Add(new(word.Text, box.Left, page.Height - box.Top, box.Right, page.Height - box.Bottom));
            }
            foreach (var path in page.Paths.Take(20_000))
                if (path.GetBoundingRectangle() is { } r)
                {
                    if (r.Width > 8)
                        across.AddRange(r.Height < 2 ? [page.Height - r.Bottom] : [page.Height - r.Top, page.Height - r.Bottom]);
                    if (r.Height > 8)
                        down.AddRange(r.Width < 2 ? [r.Left] : [r.Left, r.Right]);
                }
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            // The other pages may be whole.
        }
        phrases[^1] = Joined(words);
    }

    /// <summary>Words of one line with no more than a space between them, as one.</summary>
    static List<Phrase> Joined(List<Phrase> words)
    {
        var result = new List<Phrase>();
        foreach (var word in words.OrderBy(w => Math.Round(w.Bottom / 3)).ThenBy(w => w.Left))
        {
            if (
                result is [.., var last]
                && Math.Abs(last.Bottom - word.Bottom) < 4
                && word.Left - last.Right < Math.Max(4, (last.Bottom - last.Top) * 0.7)
                && word.Left >= last.Left
            )
                result[^1] = new(
                    $"{last.Text} {word.Text}",
                    last.Left,
                    Math.Min(last.Top, word.Top),
                    word.Right,
                    Math.Max(last.Bottom, word.Bottom)
                );
            else
                result.Add(word);
        }
        return result;
    }

    static IReadOnlyList<double>? Sorted(List<double> places, double most)
    {
        var kept = places.Where(p => p >= 0 && p <= most).Select(p => Math.Round(p, 1)).Distinct().Order().Take(MostLines).ToList();
        return kept.Count == 0 ? null : kept;
    }

    /// <summary>Heights of the lines drawn across a page.</summary>
    public IReadOnlyList<double>? Across(int page, PageView view) => page < lines.Count ? Sorted(lines[page].Across, view.Height) : null;

    /// <summary>Places of the lines drawn down a page.</summary>
    public IReadOnlyList<double>? Down(int page, PageView view) => page < lines.Count ? Sorted(lines[page].Down, view.Width) : null;

    /// <summary>What stands to the left of a field, or above it; null where nothing does.</summary>
    /// <param name="group">True for several buttons that are one answer: what stands before or above the first is the question.</param>
    public string? Of(IReadOnlyList<FormWidget> widgets, bool group)
    {
        var first = widgets[0];
        if (first.Page > phrases.Count)
            return null;
        var page = phrases[first.Page - 1];
        // A single box is answered by the text after it more often than by what stands before it.
        if (first.On is not null && !group && first.Label is { } after)
            return after;
        var (x, y, right, bottom) = (first.X, first.Y, first.X + first.Width, first.Y + first.Height);
        var left = page.Where(p => p.Right <= x + 3 && x - p.Right < LeftReach && Math.Min(p.Bottom, bottom) - Math.Max(p.Top, y) > 2)
            .OrderBy(p => x - p.Right)
            .FirstOrDefault();
        var above = page.Where(p =>
                p.Bottom <= y + 4
                && y - p.Bottom < UpReach
                && p.Left < right - 2
                && p.Right > x
                && Math.Abs(p.Left - x) < Math.Max(24, first.Width * 0.5)
            )
            .OrderBy(p => y - p.Bottom)
            .ThenBy(p => Math.Abs(p.Left - x))
            .FirstOrDefault();
        // Near to the left goes before near above; far to the left after it.
        var best =
            left is null ? above
            : above is null || x - left.Right < 30 ? left
            : above;
        return Cleaned(best?.Text);
    }

    /// <summary>What stands to the right of a button; null where nothing does.</summary>
    public string? After(int page, double x, double y, double width, double height) =>
        page >= phrases.Count
            ? null
            : Cleaned(
                phrases[page]
                    .Where(p =>
                        p.Left >= x + width - 2
                        && p.Left - x - width < AfterReach
                        && Math.Min(p.Bottom, y + height) - Math.Max(p.Top, y) > 1.5
                    )
                    .OrderBy(p => p.Left)
                    .FirstOrDefault()
                    ?.Text
            );

    /// <summary>Without the colon, and the line or dots to write on.</summary>
    static string? Cleaned(string? text)
    {
        var plain = text?.Trim().TrimEnd('_', '.', '…').TrimEnd(' ', ':', '*');
        return string.IsNullOrWhiteSpace(plain) ? null
            : plain.Length > 120 ? plain[..119] + "…"
            : plain;
    }
}
