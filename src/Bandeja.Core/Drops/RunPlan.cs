namespace Bandeja.Core.Drops;

/// <summary>A recipient as the plan of a run sees them.</summary>
/// <param name="InRun">True while another run that is not finished has the piece.</param>
/// <param name="RunId">The run that made the piece; null where none did.</param>
/// <param name="Abroad">True where it goes to another country than the organization's.</param>
/// <param name="InDoubt">The number of the run in which the piece may have gone out already; null where that is known.</param>
/// <param name="HoldRule">The rule that holds them; null where a person does, or nothing.</param>
/// <param name="OtherWay">Where the recipient gets nothing of what the run makes: how they get it, for people. Null where they do.</param>
public sealed record PlanCandidate(
    long RecipientId,
    int PieceNumber,
    Tray Tray,
    int Pages,
    string? HoldReason,
    bool InRun,
    long? RunId = null,
    bool Abroad = false,
    string? OtherWay = null,
    long? InDoubt = null,
    string? HoldRule = null
);

/// <summary>Who is left out of a run, and why.</summary>
public sealed record Excluded(string Reason, int Count, Tray? Tray);

/// <summary>What a run would make, said before it is made. Pieces and left out add up to the list.</summary>
public sealed record RunPlan(IReadOnlyList<PlanCandidate> Pieces, IReadOnlyList<Excluded> Excluded, int OnTheList)
{
    /// <summary>The reason of those who are in a run that has not ended.</summary>
    public const string InAnotherRun = "In an unfinished run";

    /// <summary>How the reason of those begins who may have got their piece already.</summary>
    public const string InDoubt = "In doubt";

    /// <summary>How many pages come out.</summary>
    public int Pages => Pieces.Sum(p => p.Pages);

    /// <summary>Plans a run over the recipients that <paramref name="chosen"/> names; only those in the Ready tray are made, in the order
    /// in which they come.</summary>
    /// <param name="reprints">True to make pieces again that were produced: nothing else is made then.</param>
    public static RunPlan Of(IReadOnlyList<PlanCandidate> all, Func<PlanCandidate, bool> chosen, string notChosen, bool reprints = false)
    {
        var pieces = new List<PlanCandidate>();
        var reasons = new Dictionary<(string, Tray?), int>();
        foreach (var c in all)
        {
            (string Reason, Tray? Tray) why =
                !chosen(c) ? (notChosen, null)
                : c.OtherWay is { } other ? (other, null)
                : c.InDoubt is { } doubt ? ($"{InDoubt}: may have been sent in run {doubt}", c.Tray)
                : c.InRun ? (InAnotherRun, null)
                : reprints
                    ? c.RunId is not null ? ("", null)
                        : ("Not produced yet", c.Tray)
                : c.Tray switch
                {
                    Tray.NeedsReview => ("Needs review", c.Tray),
                    Tray.Held => ($"Held: {HoldRules.Together(c.HoldRule, c.HoldReason ?? "by hand")}", c.Tray),
                    Tray.Produced => ("Already produced", c.Tray),
                    Tray.Mailed => ("Already mailed", c.Tray),
                    Tray.Returned => ("Returned", c.Tray),
                    // Ready because of the other way: paper is made and the email is not sent, or the other way round.
                    _ when c.RunId is not null => ("Already produced on this channel; waiting for the other", c.Tray),
                    _ => ("", null),
                };
            if (why.Reason.Length == 0)
                pieces.Add(c);
            else
                reasons[why] = reasons.GetValueOrDefault(why) + 1;
        }
        return new(
            pieces,
            [
                .. reasons
                    .OrderBy(r => r.Key.Item2 ?? (Tray)99)
                    .ThenByDescending(r => r.Value)
                    .Select(r => new Excluded(r.Key.Item1, r.Value, r.Key.Item2)),
            ],
            all.Count
        );
    }
}
