using Bandeja.Store.Mail;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Mail;

/// <summary>Stops reading an account's bounces.</summary>
[Act("account.no-mailbox", Permission.Settings, "Removed a bounce mailbox")]
public sealed class RemoveBounceMailbox(BounceMailboxes mailboxes) : Act<OnAccount>
{
    /// <inheritdoc/>
    protected override void Carry(OnAccount order, Deed deed)
    {
        mailboxes.Remove(order.AccountId);
        deed.Changed(Matter.Account, order.AccountId);
    }
}
