using Bandeja.Store.Mail;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Mail;

/// <summary>An email account.</summary>
public sealed record OnAccount(long AccountId);

/// <summary>Removes an account.</summary>
[Act("account.remove", Permission.Settings, "Removed an email account")]
public sealed class RemoveAccount(MailAccounts accounts) : Act<OnAccount>
{
    /// <inheritdoc/>
    protected override void Carry(OnAccount order, Deed deed)
    {
        accounts.Remove(order.AccountId);
        deed.Changed(Matter.Account, order.AccountId);
    }
}
