using Bandeja.Core.Drops;

namespace Bandeja.Store.Drops;

/// <summary>What happened to a piece, in the words of the ledger's export.</summary>
static class LedgerHistory
{
    /// <summary>True for what makes a piece Ready again that was produced, mailed or returned; its note is the reason.</summary>
    public static bool IsBackToReady(string kind) =>
        kind is nameof(DropEventKind.TakenBack) or nameof(DropEventKind.MailUndone) or nameof(DropEventKind.ReturnUndone);

    /// <summary>One event: the day, what happened, by whom and why.</summary>
    public static string Words(string kind, string at, string by, string? note, long? run, string? date)
    {
        var what = Enum.Parse<DropEventKind>(kind) switch
        {
            DropEventKind.Checked => "checked",
            DropEventKind.Joined => "joined the drop",
            DropEventKind.Accepted => "issue accepted",
            DropEventKind.Reopened => "issue opened again",
            DropEventKind.Held => "held",
            DropEventKind.Released => "released",
            DropEventKind.Corrected => "corrected",
            DropEventKind.Produced => "produced",
            DropEventKind.TakenBack => "moved back to Ready",
            DropEventKind.Mailed => $"mailed{(date is null ? "" : $" on {date}")}",
            DropEventKind.MailUndone => "mailing undone",
            DropEventKind.Returned => $"returned{(date is null ? "" : $" on {date}")}",
            DropEventKind.ReturnUndone => "return undone",
            DropEventKind.Reprinted => "reprinted",
            DropEventKind.ChangedAlone => "letter changed for this recipient",
            DropEventKind.GoesBy => "channel set",
            DropEventKind.Refused => "refused by the mail server",
            DropEventKind.InDoubt => "in doubt",
            DropEventKind.DoubtSettled => "doubt resolved",
        };
        return $"{at[..10]} {what}{(run is null ? "" : $" in run {run}")} by "
            + $"{by}{(string.IsNullOrWhiteSpace(note) ? "" : $" ({note.Trim()})")}";
    }
}
