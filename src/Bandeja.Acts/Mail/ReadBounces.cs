using Bandeja.Work.Announcing;
using Bandeja.Work.Mail;

namespace Bandeja.Acts.Mail;

/// <summary>Reads an account's bounces now.</summary>
[Act("account.read-bounces", Permission.Mail, "Read bounces")]
public sealed class ReadBounces(BounceReading reading) : WaitingAct<OnAccount, MailboxRead>
{
    /// <inheritdoc/>
    protected internal override Task<MailboxRead> Do(OnAccount order, Deed deed, CancellationToken cancel)
    {
        deed.To(Matter.Account, order.AccountId);
        return reading.Read(order.AccountId, cancel);
    }
}
