using Bandeja.Core.Lists;

namespace Bandeja.Work.Jobs;

/// <summary>
/// Brings a column's values, one after another, to the form that is kept. A number is kept without its currency, so an amount in another
/// one than those before it is none of the column's numbers: it stays as it is written, for somebody to see.
/// </summary>
sealed class ColumnReading(ImportColumn column)
{
    IReadOnlyList<string>? currencies;

    /// <summary>The next value; false where it does not fit, and then <paramref name="canonical"/> is the value as it was.</summary>
    public bool TryRead(string raw, out string? canonical)
    {
        if (column.Type == ColumnType.Number && WrittenValue.CurrenciesOf(raw) is { Count: > 0 } codes)
        {
            IReadOnlyList<string> shared = currencies is null ? codes : [.. currencies.Intersect(codes)];
            if (shared.Count == 0)
            {
                canonical = raw;
                return false;
            }
            currencies = shared;
        }
        return WrittenValue.TryCanonical(raw, column.Type, column.DateOrder, out canonical, column.NumberForm);
    }
}
