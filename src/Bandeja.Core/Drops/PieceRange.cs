using System.Globalization;

namespace Bandeja.Core.Drops;

/// <summary>Ranges of piece numbers as people write them: <c>1-200, 350, 400-</c>.</summary>
public sealed class PieceRange
{
    readonly List<(int From, int To)> ranges = [];

    /// <summary>Reads ranges; on failure the message says what could not be read.</summary>
    public static PieceRange? Parse(string text, out string? error)
    {
        error = null;
        var result = new PieceRange();
        foreach (var part in text.Split([',', ';'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            var ends = part.Replace('–', '-').Split('-', StringSplitOptions.TrimEntries);
            var from = 1;
            var to = int.MaxValue;
            var sound =
                ends.Length <= 2
                && (
                    ends[0].Length == 0 && ends.Length == 2
                    || int.TryParse(ends[0], NumberStyles.None, CultureInfo.InvariantCulture, out from)
                )
                && (
                    ends.Length == 1
                        ? (to = from) > 0
                        : ends[1].Length == 0 || int.TryParse(ends[1], NumberStyles.None, CultureInfo.InvariantCulture, out to)
                )
                && ends.Any(e => e.Length > 0);
            if (!sound)
                error = $"“{part}” is not a range of piece numbers. Enter a range such as 1-200, 350.";
            else if (from > to)
                error = $"The range “{part}” is backward. Put the lower number first.";
            if (error is not null)
                return null;
            result.ranges.Add((from, to));
        }
        if (result.ranges.Count > 0)
            return result;
        error = "Enter piece numbers, such as 1-200, 350.";
        return null;
    }

    /// <summary>True where the number is in one of the ranges.</summary>
    public bool Contains(int pieceNumber) => ranges.Any(r => pieceNumber >= r.From && pieceNumber <= r.To);
}
