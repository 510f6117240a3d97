using System.Text.Json.Serialization;
using Bandeja.Core.Mail;

namespace Bandeja.Core.Contact;

/// <summary>Whose pieces are counted together. The names are stored; never rename one.</summary>
public enum ContactCount
{
    /// <summary>Those of one person, on whatever lists they are.</summary>
    Person,

    /// <summary>Those of all at one address.</summary>
    Household,
}

/// <summary>At most so many pieces in so many days.</summary>
/// <param name="Channel">What is counted: paper, email, or both together.</param>
/// <param name="Pieces">How many may be sent.</param>
/// <param name="Days">In how many days, the first and the last of them included.</param>
/// <param name="Per">To whom.</param>
public sealed record ContactLimit(Channel Channel, int Pieces, int Days, ContactCount Per)
{
    /// <summary>The most days and pieces that can be set.</summary>
    public const int MostDays = 366,
        MostPieces = 1000;

    /// <summary>What is wrong with it, as a sentence; null where nothing is.</summary>
    [JsonIgnore]
    public string? Objection =>
        Pieces is < 1 or > MostPieces ? $"A contact limit can be 1 to {MostPieces:N0} pieces."
        : Days is < 1 or > MostDays ? $"A contact limit can cover 1 to {MostDays} days."
        : null;

    /// <summary>As people read it: <c>2 letters in 30 days for a household</c>.</summary>
    [JsonIgnore]
    public string Words
    {
        get
        {
            var what = Channel switch
            {
                Channel.Email => Pieces == 1 ? "email" : "emails",
                Channel.Paper => Pieces == 1 ? "piece on paper" : "pieces on paper",
                _ => Pieces == 1 ? "piece" : "pieces",
            };
            return $"{Pieces:N0} {what} in {(Days == 1 ? "a day" : $"{Days:N0} days")} for a "
                + (Per == ContactCount.Household ? "household" : "person");
        }
    }

    /// <summary>
    /// The pieces because of which another on a day would be one too many; empty where it may go. There are too many where any days in a
    /// row, as many as the limit has and that day among them, hold as many pieces as it allows without the new one.
    /// </summary>
    /// <param name="day">When the new piece is to be mailed.</param>
    /// <param name="others">The others, by the day they were or will be mailed.</param>
    public IReadOnlyList<T> InTheWay<T>(DateOnly day, IEnumerable<T> others, Func<T, DateOnly> on)
    {
        var near = others.Where(o => Math.Abs(on(o).DayNumber - day.DayNumber) < Days).OrderBy(on).ToList();
        for (int from = 0, to = 0; from < near.Count; from++)
        {
            var last = Math.Min(on(near[from]).DayNumber, day.DayNumber) + Days - 1;
            while (to < near.Count && on(near[to]).DayNumber <= last)
                to++;
            if (to - from >= Pieces)
                return near[from..to];
        }
        return [];
    }
}

/// <summary>Which of two pieces goes where a contact limit lets only one go. The names are stored; never rename one.</summary>
public enum MailPriority
{
    /// <summary>It goes in any case; it counts for the others.</summary>
    Always,

    /// <summary>It goes before what is usual.</summary>
    First,

    /// <summary>What is mailed earlier goes.</summary>
    Usual,

    /// <summary>It goes where nothing else does.</summary>
    Last,
}
