using Bandeja.Store.Mail;
using Bandeja.Work.Announcing;
using Bandeja.Work.Mail;

namespace Bandeja.Acts.Mail;

/// <summary>An account to test: from which address, and to which.</summary>
public sealed record TestedAccount(long AccountId, string From, string To);

/// <summary>Tests an account, step by step.</summary>
[Act("account.test", Permission.Settings, "Tested an email account")]
public sealed class TestAccount(MailAccounts accounts, AccountTest test) : WaitingAct<TestedAccount, IReadOnlyList<TestStep>>
{
    /// <inheritdoc/>
    protected internal override Task<IReadOnlyList<TestStep>> Do(TestedAccount order, Deed deed, CancellationToken cancel)
    {
        deed.To(Matter.Account, order.AccountId);
        return test.Run(
            accounts.Get(order.AccountId),
            MailboxGiven.Address(order.From, "sender"),
            MailboxGiven.Address(order.To, "recipient"),
            cancel
        );
    }
}
