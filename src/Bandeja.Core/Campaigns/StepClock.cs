namespace Bandeja.Core.Campaigns;

/// <summary>A step as its clock sees it.</summary>
/// <param name="Id">Its identity.</param>
/// <param name="Skipped">True where nobody gets it: its date counts as if it had been mailed then, so that later steps keep
/// theirs.</param>
public sealed record ClockStep(long Id, StepTiming Timing, bool Skipped = false);

/// <summary>When a step is to be mailed, and by when it must be ready.</summary>
/// <param name="MailOn">The mail date; for what was mailed, the last day on which it was.</param>
/// <param name="ReadyOn">The last working day on which its pieces can be produced.</param>
/// <param name="MovedFor">Why the date is later than the distance says: a holiday, a day of the weekend; null where it is not.</param>
public sealed record StepDate(long Id, DateOnly MailOn, DateOnly ReadyOn, string? MovedFor, bool Mailed);

/// <summary>What comes next for a recipient.</summary>
/// <param name="StepId">The step.</param>
/// <param name="DueOn">The day for which it is collected.</param>
public readonly record struct NextStep(long StepId, DateOnly DueOn);

/// <summary>Tells the dates of a campaign's steps. A distance is counted from the day on which the step before was mailed; until that is
/// known, from the day on which it is to be.</summary>
public sealed class StepClock(IReadOnlyList<ClockStep> steps, WorkCalendar calendar)
{
    /// <summary>The dates of steps that a whole list takes together.</summary>
    /// <param name="start">The day on which the campaign begins.</param>
    /// <param name="mailed">The last day on which a step's pieces were mailed, for steps of which nothing is left to mail.</param>
    public IReadOnlyList<StepDate> Together(DateOnly start, IReadOnlyDictionary<long, DateOnly> mailed)
    {
        var dates = new List<StepDate>(steps.Count);
        var before = start;
        foreach (var step in steps)
        {
            var wanted = step.Timing.On ?? step.Timing.From(before);
            var done = mailed.TryGetValue(step.Id, out var on) && !step.Skipped;
            var date = done ? on : calendar.OnOrAfter(wanted);
            dates.Add(
                new(
                    step.Id,
                    date,
                    calendar.Before(date, step.Timing.ReadyDays),
                    !done && date != wanted ? calendar.WhyNot(wanted) : null,
                    done
                )
            );
            before = date;
        }
        return dates;
    }

    /// <summary>
    /// What comes next for one recipient, and when; null where nothing does. It is the first step after the last one that they received:
    /// a step that is put in before that is not sent to them afterwards.
    /// </summary>
    /// <param name="entered">The day on which they entered.</param>
    /// <param name="received">When the steps were mailed to them.</param>
    public NextStep? Next(DateOnly entered, IReadOnlyDictionary<long, DateOnly> received)
    {
        var last = -1;
        for (var i = 0; i < steps.Count; i++)
            if (received.ContainsKey(steps[i].Id))
                last = i;
        var before = last < 0 ? entered : received[steps[last].Id];
        for (var i = last + 1; i < steps.Count; i++)
        {
            var due = Due(steps[i].Timing, before);
            if (!steps[i].Skipped)
                return new(steps[i].Id, due);
            before = due;
        }
        return null;
    }

    /// <summary>The day for which a step is collected that follows something on a day.</summary>
    DateOnly Due(StepTiming timing, DateOnly before)
    {
        var wanted = timing.On is { } date && date > before ? date : timing.From(before);
        if (timing.Weekday is { } weekday && wanted < DateOnly.MaxValue.AddDays(-7))
            wanted = wanted.AddDays(((int)weekday - (int)wanted.DayOfWeek + 7) % 7);
        return calendar.OnOrAfter(wanted);
    }
}
