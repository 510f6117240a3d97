using System.Globalization;
using Bandeja.Core.Lists;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Recognition;

/// <summary>Tells a row that adds up the others, or a remark under them, from a recipient.</summary>
public static class TotalsRow
{
    static readonly HashSet<string> Words =
    [
        .. (
            "total|totals|grand total|subtotal|sub total|sum|sums|count|average|number of records|records|rows|end of report|end of "
            + "list|summe|gesamt|gesamtsumme|insgesamt|anzahl|durchschnitt|totale|totaal|suma|suma total|total general|soma|somme|"
            + "total general|totalt|summa|i alt|sammanlagt|yhteensa|razem|celkem|soucet|osszesen|toplam|genel "
            + "toplam|συνολο|итого|всего|合計|総計|总计|合计|總計|합계|총계"
        )
            .Split('|')
            .Select(FoldedText.Of),
    ];

    /// <summary>True for the last row of a list where it does not stand for a recipient.</summary>
    /// <param name="cells">The row.</param>
    /// <param name="usual">How many cells a row of the list usually has filled.</param>
    /// <param name="sums">For the columns of numbers, what the rows above add up to.</param>
    /// <param name="named">True where the row has a value in a column for names, addresses, emails or keys that is no such word.</param>
    public static bool Is(IReadOnlyList<string?> cells, double usual, IReadOnlyDictionary<int, decimal> sums, bool named)
    {
        var filled = cells.Count(c => !string.IsNullOrWhiteSpace(c));
        if (filled == 0)
            return false;
        var says = cells.Any(c => c is not null && Says(c));
        if (says)
            return filled <= Math.Max(2, usual * 0.75) || !named;
        var adds = sums.Where(s =>
                s.Key < cells.Count
                && s.Value != 0
                && WrittenValue.TryNumber(cells[s.Key] ?? "", out var n)
                && Math.Abs(n - s.Value) < 0.01m
            )
            .Any();
        if (adds && !named)
            return true;
        // A remark under the list: one cell where others have several.
        return filled == 1 && usual >= 3;
    }

    /// <summary>True for <c>Total</c>, <c>Grand total:</c>, <c>Total: 40</c>, <c>Summe</c>.</summary>
    static bool Says(string cell)
    {
        var text = FoldedText.Of(cell.Trim());
        var end = text.AsSpan().IndexOfAny(':', '=', '(');
        if (end > 0)
            text = text[..end];
        text = text.TrimEnd(' ', '.').Trim();
        if (Words.Contains(text))
            return true;
        var words = text.Split(' ');
        return words.Length is 2 or 3
            && Words.Contains(words[0])
            && (
                decimal.TryParse(words[^1], NumberStyles.Any, CultureInfo.InvariantCulture, out _)
                || words[^1] is "members" or "recipients" or "records" or "rows" or "due"
            );
    }
}
