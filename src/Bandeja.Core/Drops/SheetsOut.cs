namespace Bandeja.Core.Drops;

/// <summary>Which pieces of a batch have left the printer, told from the number of sheets that have.</summary>
/// <param name="Ends">For each piece in its order the number of sheets of one copy up to and with its last one; several labels share a
/// sheet, so numbers may repeat.</param>
/// <param name="Before">Sheets that come out before the first piece: a break sheet.</param>
/// <param name="Copies">How many of everything.</param>
/// <param name="Collated">True where the whole batch comes out once for each copy; else each sheet comes out as often as there are
/// copies.</param>
public sealed record SheetsOut(IReadOnlyList<int> Ends, int Before = 0, int Copies = 1, bool Collated = true)
{
    /// <summary>How many sheets the batch has in all.</summary>
    public int Total => (Before + (Ends.Count == 0 ? 0 : Ends[^1])) * Copies;

    /// <summary>How many pieces are out whole, with all their copies, when so many sheets are.</summary>
    public int Pieces(int sheets)
    {
        var one = Total / Math.Max(1, Copies);
        // Collated, a piece is whole only in the last copy.
        var reached = Collated ? sheets - one * (Copies - 1) : sheets / Math.Max(1, Copies);
        int low = 0,
            high = Ends.Count;
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (Before + Ends[middle] <= reached)
                low = middle + 1;
            else
                high = middle;
        }
        return low;
    }

    /// <summary>The piece on a sheet, by its place in the batch; null for a break sheet or one beyond the end.</summary>
    /// <param name="sheet">From 1, as it comes out.</param>
    public int? PieceOn(int sheet)
    {
        if (sheet < 1 || sheet > Total)
            return null;
        var one = Total / Copies;
        var at = (Collated ? (sheet - 1) % one : (sheet - 1) / Copies) + 1 - Before;
        if (at < 1)
            return null;
        for (var i = 0; i < Ends.Count; i++)
            if (Ends[i] >= at)
                return i;
        return null;
    }
}
