using PdfSharp.Pdf;

namespace Bandeja.Formats.Pdf;

/// <summary>A PDF of which pages are taken over, one after another: it is parsed once for many of them, and kept no longer than memory
/// allows. Safe to share.</summary>
sealed class PdfSource(byte[] data, string? password)
{
    readonly Lock opening = new();
    readonly WeakReference<PdfDocument?> opened = new(null);

    /// <summary>Writes a page, or all; answers their objects' numbers, and those of the objects that have the pages' own
    /// content.</summary>
    /// <param name="number">Which page, from 1; 0 for all.</param>
    public IReadOnlyList<(int Page, int Content)> Write(PdfObjects objects, int number)
    {
        // The library's documents serve one thread.
        lock (opening)
        {
            if (!opened.TryGetTarget(out var document))
                opened.SetTarget(document = PdfImport.Open(data, password));
            var copied = new Dictionary<PdfObjectID, int>();
            var pages = number > 0 ? [PdfImport.Page(document, number)] : document.Pages.Cast<PdfPage>();
            return [.. pages.Select((page, place) => PdfImport.Write(page, objects, copied, place))];
        }
    }
}
