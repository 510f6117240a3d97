using Bandeja.Core.Language;

namespace Bandeja.Core.Campaigns;

/// <summary>How a campaign's recipients go through its steps. The names are stored; never rename one.</summary>
public enum CampaignMode
{
    /// <summary>No steps: drops that are started by hand.</summary>
    Drops,

    /// <summary>The whole list moves from step to step.</summary>
    Together,

    /// <summary>Each recipient has a clock of their own, from the day on which they enter.</summary>
    OneByOne,
}

/// <summary>In what a distance between steps is counted. The names are stored; never rename one.</summary>
public enum StepUnit
{
    Days,
    Weeks,
    Months,
}

/// <summary>When a step is mailed.</summary>
/// <param name="On">A date, for steps that do not follow the one before; null where they do.</param>
/// <param name="After">How long after the step before was mailed; for the first step, after the campaign begins or its recipient
/// enters.</param>
/// <param name="ReadyDays">How many working days before the mail date the pieces are to be produced.</param>
/// <param name="Weekday">One by one: what is due is collected for this day of the week; null for the day itself.</param>
public sealed record StepTiming(
    DateOnly? On = null,
    int After = 0,
    StepUnit Unit = StepUnit.Days,
    int ReadyDays = 1,
    DayOfWeek? Weekday = null
)
{
    /// <summary>The longest distance between two steps.</summary>
    public const int LongestAfter = 1000;

    /// <summary>The most working days that a piece can be ready before.</summary>
    public const int MostReadyDays = 60;

    /// <summary>What is wrong with it; null where nothing is.</summary>
    public string? Objection =>
        After is < 0 or > LongestAfter
            ? $"A step can follow the one before after 0 to {LongestAfter:N0} {Unit.ToString().ToLowerInvariant()}."
        : ReadyDays is < 0 or > MostReadyDays ? $"Pieces can be ready 0 to {MostReadyDays} working days before the mail date."
        : On is { Year: < 2000 or > 2200 } ? "The date of a step must be between 2000 and 2200."
        : !Enum.IsDefined(Unit) || Weekday is { } w && !Enum.IsDefined(w) ? "This is not a known unit or day of the week."
        : null;

    /// <summary>The day that lies the step's distance after another: the same day of the month for months, or the month's last.</summary>
    public DateOnly From(DateOnly day)
    {
        try
        {
            return Unit switch
            {
                StepUnit.Weeks => day.AddDays(7 * After),
                StepUnit.Months => day.AddMonths(After),
                _ => day.AddDays(After),
            };
        }
        catch (ArgumentOutOfRangeException)
        {
            return DateOnly.MaxValue;
        }
    }

    /// <summary>In words: “20 days after First notice is mailed”.</summary>
    /// <param name="before">The step before; null for the first.</param>
    public string Words(string? before, DayWords days, CampaignMode mode = CampaignMode.Together) =>
        On is { } date ? $"on {days.Of(date)}"
        : before is null && mode == CampaignMode.OneByOne
            ? After == 0 ? "on the day they enter"
                : $"{Distance} after they enter"
        : before is null
            ? After == 0 ? "on the first day"
                : $"{Distance} after the first day"
        : After == 0 ? $"on the day on which {before} is mailed"
        : $"{Distance} after {before} is mailed";

    string Distance => After == 1 ? $"1 {Unit.ToString().ToLowerInvariant()[..^1]}" : $"{After:N0} {Unit.ToString().ToLowerInvariant()}";
}
