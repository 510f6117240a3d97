namespace Bandeja.Core.Campaigns;

/// <summary>When a piece of work is due, as Today groups it.</summary>
public enum DueGroup
{
    Overdue,
    Today,
    ThisWeek,
    Later,
}

/// <summary>Groups work by when it is due.</summary>
public static class WorkDue
{
    /// <summary>The group of a day; a week ends with Saturday. Work without a date can be done later.</summary>
    public static DueGroup Of(DateOnly? due, DateOnly today) =>
        due is not { } day ? DueGroup.Later
        : day < today ? DueGroup.Overdue
        : day == today ? DueGroup.Today
        : day.DayNumber - today.DayNumber <= DayOfWeek.Saturday - today.DayOfWeek ? DueGroup.ThisWeek
        : DueGroup.Later;
}
