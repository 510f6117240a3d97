using System.Globalization;

namespace Bandeja.Core.Drops;

/// <summary>A recipient as the plan of a run sees them.</summary>
/// <param name="InRun">True while another run that is not finished has the piece.</param>
public sealed record PlanCandidate(long RecipientId, int PieceNumber, Tray Tray, int Pages, string? HoldReason, bool InRun);

/// <summary>Who is left out of a run, and why.</summary>
public sealed record LeftOut(string Reason, int Count, Tray? Tray);

/// <summary>What a run would make, said before it is made. Pieces and left out add up to the list.</summary>
public sealed record RunPlan(IReadOnlyList<PlanCandidate> Pieces, IReadOnlyList<LeftOut> LeftOut, int OnTheList)
{
    /// <summary>How many pages come out.</summary>
    public int Pages => Pieces.Sum(p => p.Pages);

    /// <summary>
    /// Plans a run over the recipients that <paramref name="chosen"/> names; only those in the Ready tray are made, in the order
    /// of their piece numbers.
    /// </summary>
    public static RunPlan Of(IReadOnlyList<PlanCandidate> all, Func<PlanCandidate, bool> chosen, string notChosen)
    {
        var pieces = new List<PlanCandidate>();
        var reasons = new Dictionary<(string, Tray?), int>();
        foreach (var c in all)
        {
            (string Reason, Tray? Tray) why = !chosen(c) ? (notChosen, null)
                : c.InRun ? ("In a run that is not finished", null)
                : c.Tray switch
                {
                    Tray.NeedsALook => ("Needs a look", c.Tray),
                    Tray.Held => ($"Held: {c.HoldReason}", c.Tray),
                    Tray.Produced => ("Produced already", c.Tray),
                    Tray.Mailed => ("Mailed already", c.Tray),
                    Tray.Returned => ("Returned", c.Tray),
                    _ => ("", null),
                };
            if (why.Reason.Length == 0) pieces.Add(c);
            else reasons[why] = reasons.GetValueOrDefault(why) + 1;
        }
        return new([.. pieces.OrderBy(p => p.PieceNumber)], [.. reasons.OrderBy(r => r.Key.Item2 ?? (Tray)99).ThenByDescending(r => r.Value).Select(r => new LeftOut(r.Key.Item1, r.Value, r.Key.Item2))], all.Count);
    }
}

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
            var sound = ends.Length <= 2
                && (ends[0].Length == 0 && ends.Length == 2 || int.TryParse(ends[0], NumberStyles.None, CultureInfo.InvariantCulture, out from))
                && (ends.Length == 1 ? (to = from) > 0 : ends[1].Length == 0 || int.TryParse(ends[1], NumberStyles.None, CultureInfo.InvariantCulture, out to))
                && ends.Any(e => e.Length > 0);
            if (!sound) error = $"“{part}” is not a range of piece numbers. Write for instance 1-200, 350.";
            else if (from > to) error = $"The range “{part}” runs backwards.";
            if (error is not null) return null;
            result.ranges.Add((from, to));
        }
        if (result.ranges.Count > 0) return result;
        error = "Write which pieces, for instance 1-200, 350.";
        return null;
    }

    /// <summary>True where the number is in one of the ranges.</summary>
    public bool Contains(int pieceNumber) => ranges.Any(r => pieceNumber >= r.From && pieceNumber <= r.To);
}
