using Bandeja.Store.Runs;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Runs;

/// <summary>Whether a message that is in doubt was sent.</summary>
public sealed record SettledMessage(long RunId, long RecipientId, bool Sent);

/// <summary>Says of a message in doubt whether it was sent.</summary>
[Act("run.settle-message", Permission.Produce, "Resolved a message in doubt")]
public sealed class SettleMessage(RunStore runs, RunMails mails, Letters letters) : Act<SettledMessage, RunRow>
{
    /// <inheritdoc/>
    protected internal override RunRow Do(SettledMessage order, Deed deed)
    {
        var run = runs.Get(order.RunId);
        mails.Settle(run, order.RecipientId, order.Sent, letters.Today, deed.Actor);
        mails.Close(run, deed.Actor);
        deed.Says($"Marked a message in doubt as {(order.Sent ? "sent" : "not sent")}");
        return deed.ChangedRun(runs, order.RunId);
    }
}
