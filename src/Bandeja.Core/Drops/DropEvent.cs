using Bandeja.Core.Mail;

namespace Bandeja.Core.Drops;

/// <summary>What can happen to a recipient in a drop. The names are stored; never rename one.</summary>
public enum DropEventKind
{
    /// <summary>Came into the drop and got a piece number.</summary>
    Joined,

    /// <summary>Was checked: <see cref="DropEvent.Keys"/> are all issues there are now, none where all is well.</summary>
    Checked,

    /// <summary>Issues were accepted as they are.</summary>
    Accepted,

    /// <summary>An acceptance was taken back.</summary>
    Reopened,

    /// <summary>Is kept out of this drop; <see cref="DropEvent.Note"/> is the reason, the first of <see cref="DropEvent.Keys"/> the rule,
    /// where a rule holds and not a person.</summary>
    Held,

    /// <summary>The hold was lifted: by a person, or, with keys, because its rule let go.</summary>
    Released,

    /// <summary>A value was corrected; the note says which.</summary>
    Corrected,

    /// <summary>A run made the piece.</summary>
    Produced,

    /// <summary>The made piece was set aside and is to be made again.</summary>
    TakenBack,

    /// <summary>The piece left the building on <see cref="DropEvent.Date"/>.</summary>
    Mailed,

    /// <summary>The mailing was recorded by mistake.</summary>
    MailUndone,

    /// <summary>The post brought it back; the note is the reason.</summary>
    Returned,

    /// <summary>The return was recorded by mistake.</summary>
    ReturnUndone,

    /// <summary>The piece was made once more, under the same number, because the first was spoiled.</summary>
    Reprinted,

    /// <summary>A letter was changed for this recipient alone, or that was settled or taken back; the note says which.</summary>
    ChangedAlone,

    /// <summary>How the pieces go out changed; the note is the <see cref="Channel"/>. With the key <see cref="DropEvent.ByHand"/> a person
    /// chose it.</summary>
    GoesBy,

    /// <summary>The mail server rejected the message for good; the note is its words.</summary>
    Refused,

    /// <summary>The piece may have gone out, and nobody knows: its message or its batch was under way when the connection or the server
    /// ended.</summary>
    InDoubt,

    /// <summary>A person looked and settled a doubt; the note says what they found.</summary>
    DoubtSettled,
}

/// <summary>One event of one recipient in a drop. Events are only ever added.</summary>
/// <param name="Kind">What happened.</param>
/// <param name="Note">A reason or explanation for people.</param>
/// <param name="Keys">Issues' keys, for the kinds that speak of issues; <see cref="EmailLeg"/> where a piece is spoken of that goes by
/// mail server.</param>
/// <param name="RunId">The run, for produced, taken back and mailed.</param>
/// <param name="Date">The mail date or the date of the return.</param>
public sealed record DropEvent(
    DropEventKind Kind,
    string? Note = null,
    IReadOnlyList<string>? Keys = null,
    long? RunId = null,
    DateOnly? Date = null
)
{
    /// <summary>The key of events that speak of the email and not of what is on paper.</summary>
    public const string EmailLeg = "email";

    /// <summary>The key of a channel that a person chose.</summary>
    public const string ByHand = "hand";

    /// <summary>True where the email is spoken of.</summary>
    public bool IsEmail => Keys is [EmailLeg, ..];

    /// <summary>The keys for a piece of a channel.</summary>
    public static IReadOnlyList<string>? KeysOf(bool email) => email ? [EmailLeg] : null;
}
