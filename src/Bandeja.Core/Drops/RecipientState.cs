using Bandeja.Core.Mail;

namespace Bandeja.Core.Drops;

/// <summary>A recipient's state in a drop: what their events add up to.</summary>
public sealed record RecipientState
{
    /// <summary>The state before any event.</summary>
    public static readonly RecipientState Start = new();

    /// <summary>Keys of the present issues.</summary>
    public IReadOnlyList<string> Issues { get; init; } = [];

    /// <summary>Keys of the accepted issues, present or not: an issue that comes back as it was stays accepted.</summary>
    public IReadOnlyList<string> Accepted { get; init; } = [];

    /// <summary>The reason of the hold, or null.</summary>
    public string? HoldReason { get; init; }

    /// <summary>The rule that holds, where no person does; null for a hold made by hand.</summary>
    public string? HoldRule { get; init; }

    /// <summary>Rules whose hold somebody lifted knowingly: they hold no more.</summary>
    public IReadOnlyList<string> Overruled { get; init; } = [];

    /// <summary>How the pieces go out.</summary>
    public Channel Channel { get; init; } = Channel.Paper;

    /// <summary>True where a person chose the channel: the drop's rule then says nothing.</summary>
    public bool ChannelByHand { get; init; }

    /// <summary>The run that made what is on paper, or null.</summary>
    public long? ProducedRun { get; init; }

    /// <summary>When that was mailed, or null.</summary>
    public DateOnly? MailedOn { get; init; }

    /// <summary>The run that made or sent the email, or null.</summary>
    public long? EmailRun { get; init; }

    /// <summary>When the mail server took it, or null.</summary>
    public DateOnly? EmailedOn { get; init; }

    /// <summary>Reason for return, or null.</summary>
    public string? ReturnReason { get; init; }

    /// <summary>True while what is on paper may have been printed already, and nobody knows.</summary>
    public bool PaperInDoubt { get; init; }

    /// <summary>True while the message may have been sent already, and nobody knows.</summary>
    public bool EmailInDoubt { get; init; }

    /// <summary>True while any piece of the recipient is in doubt.</summary>
    public bool InDoubt => PaperInDoubt || EmailInDoubt;

    /// <summary>How many issues are neither fixed nor accepted.</summary>
    public int OpenIssues => Issues.Count(f => !Accepted.Contains(f));

    bool Is(bool paper, bool email) => (!Channel.HasFlag(Channel.Paper) || paper) && (!Channel.HasFlag(Channel.Email) || email);

    /// <summary>True where everything that the recipient gets is made.</summary>
    public bool IsMade => Is(ProducedRun is not null, EmailRun is not null);

    /// <summary>True where everything that the recipient gets has left the building.</summary>
    public bool IsOut => Is(MailedOn is not null, EmailedOn is not null);

    /// <summary>True where anything was produced for the recipient, or may have been.</summary>
    public bool IsBegun => ProducedRun is not null || EmailRun is not null || InDoubt;

    /// <summary>The run that made a channel's piece, or null.</summary>
    public long? RunOf(bool email) => email ? EmailRun : ProducedRun;

    /// <summary>When a channel's piece left the building, or null.</summary>
    public DateOnly? OutOn(bool email) => email ? EmailedOn : MailedOn;

    /// <summary>
    /// The tray. What happened outside the building comes first; a hold keeps a made piece back from being mailed; a doubt
    /// counts only while something is not made. Who gets paper and email counts once, by what is still to be done.
    /// </summary>
    public Tray Tray =>
        ReturnReason is not null ? Tray.Returned
        : IsOut ? Tray.Mailed
        : HoldReason is not null ? Tray.Held
        : IsMade ? Tray.Produced
        : OpenIssues > 0 ? Tray.NeedsReview
        : Tray.Ready;

    /// <summary>The state after an event.</summary>
    public RecipientState After(DropEvent e) =>
        e.Kind switch
        {
            DropEventKind.Checked => this with { Issues = e.Keys ?? [] },
            DropEventKind.Accepted => this with { Accepted = [.. Accepted.Union(e.Keys ?? [])] },
            DropEventKind.Reopened => this with { Accepted = [.. Accepted.Except(e.Keys ?? [])] },
            DropEventKind.Held => this with { HoldReason = e.Note ?? "by hand", HoldRule = e.Keys is [var rule, ..] ? rule : null },
            DropEventKind.Released when e.Keys is { Count: > 0 } || HoldRule is null => this with { HoldReason = null, HoldRule = null },
            DropEventKind.Released => this with { HoldReason = null, HoldRule = null, Overruled = [.. Overruled.Union([HoldRule])] },
            DropEventKind.Produced => e.IsEmail ? this with { EmailRun = e.RunId } : this with { ProducedRun = e.RunId },
            DropEventKind.TakenBack => e.IsEmail ? this with { EmailRun = null } : this with { ProducedRun = null },
            DropEventKind.Mailed => e.IsEmail
                ? this with
                {
                    EmailedOn = e.Date,
                    ReturnReason = null,
                }
                : this with
                {
                    MailedOn = e.Date,
                    ReturnReason = null,
                },
            DropEventKind.MailUndone => e.IsEmail
                ? this with
                {
                    EmailedOn = null,
                    ReturnReason = null,
                }
                : this with
                {
                    MailedOn = null,
                    ReturnReason = null,
                },
            // Who chooses another way for what came back wants it tried again: it is no return any more.
            DropEventKind.GoesBy when e.Keys is [DropEvent.ByHand, ..] => this with
            {
                Channel = Enum.Parse<Channel>(e.Note!),
                ChannelByHand = true,
                ReturnReason = null,
            },
            DropEventKind.GoesBy => this with { Channel = Enum.Parse<Channel>(e.Note!), ChannelByHand = false },
            DropEventKind.Returned => this with { ReturnReason = e.Note ?? "no reason given" },
            DropEventKind.ReturnUndone => this with { ReturnReason = null },
            _ => this,
        };

    /// <summary>Whether an event makes sense now; a sentence why not, or null.</summary>
    /// <param name="email">True where the email is spoken of and not what is on paper.</param>
    public string? Objection(DropEventKind kind, bool email = false) =>
        kind switch
        {
            DropEventKind.Held when HoldReason is not null => "is already held",
            DropEventKind.Held when IsOut => "was already mailed, so it cannot be held",
            DropEventKind.Released when HoldReason is null => "is not held",
            DropEventKind.TakenBack when RunOf(email) is null => "has not been produced",
            DropEventKind.TakenBack when OutOn(email) is not null => "was already mailed, so its piece cannot be moved back to Ready",
            DropEventKind.Mailed when OutOn(email) is not null => "was already mailed",
            DropEventKind.Mailed when RunOf(email) is null => "has not been produced, so it cannot have been mailed",
            // A rule that came to hold the rest of it does not unmake what was produced and has left the building.
            DropEventKind.Mailed when HoldReason is not null && HoldRule is null => "is held",
            DropEventKind.Returned when MailedOn is null && EmailedOn is null => "has not been mailed, so it cannot be returned",
            DropEventKind.Returned when ReturnReason is not null => "was already returned",
            DropEventKind.MailUndone when OutOn(email) is null => "has not been mailed",
            DropEventKind.Reprinted when RunOf(email) is null => "has not been produced",
            DropEventKind.ReturnUndone when ReturnReason is null => "has not been returned",
            DropEventKind.GoesBy when IsOut && ReturnReason is null => "already has every piece",
            DropEventKind.GoesBy when InDoubt => "may already have been sent; resolve that first",
            _ => null,
        };

    /// <summary>The state that a sequence of events adds up to.</summary>
    public static RecipientState Of(IEnumerable<DropEvent> events) => events.Aggregate(Start, (state, e) => state.After(e));
}
