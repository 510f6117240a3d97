using System.Globalization;

namespace Bandeja.Store;

/// <summary>What kind of somebody does something.</summary>
public enum ActorKind
{
    /// <summary>A person: a coordinator at a browser, or a recipient who follows a link.</summary>
    Person,

    /// <summary>A program that was given a key.</summary>
    Key,

    /// <summary>A rule of ours that follows from something that happened: a check, a hold, a report that came in.</summary>
    Rule,

    /// <summary>Something that was set up to be done at a time.</summary>
    Routine,
}

/// <summary>Who does something, and when: stands in every log.</summary>
/// <param name="Name">The name that logs show.</param>
public sealed record Actor(ActorKind Kind, string Name, DateTimeOffset At)
{
    /// <summary>The name of a person who did not say theirs.</summary>
    public const string Unnamed = "Somebody";

    /// <summary>A person by the name that they gave.</summary>
    public static Actor Person(string name, DateTimeOffset at) => new(ActorKind.Person, name, at);

    /// <summary>What the program is called in the log; no person can sign so.</summary>
    public const string System = "Bandeja";

    /// <summary>Bandeja itself.</summary>
    public static Actor Rule(DateTimeOffset at) => new(ActorKind.Rule, System, at);

    /// <summary>The time as it is stored.</summary>
    public string Stamp => StampOf(At);

    /// <summary>A time as it is stored: UTC to the millisecond (ISO 8601), so that text in order is time in order.</summary>
    public static string StampOf(DateTimeOffset at) =>
        at.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss.fff'Z'", CultureInfo.InvariantCulture);
}
