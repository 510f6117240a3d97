using Bandeja.Core.Mail;
using Bandeja.Store;
using Bandeja.Store.Mail;
using Bandeja.Work.Announcing;
using Bandeja.Work.Mail;

namespace Bandeja.Acts.Mail;

/// <summary>Whose message to send as a test, with which account, and to whom.</summary>
public sealed record TestMessage(long DropId, long RecipientId, long AccountId, string To);

/// <summary>Sends somebody a recipient's message as a test, which the ledger does not record; answers what the server said.</summary>
[Act("drop.test-message", Permission.Proof, "Sent a test message")]
public sealed class SendTestMessage(
    Database database,
    DropMail mail,
    MailPlan plan,
    MailAccounts accounts,
    MailSecrets secrets,
    PostOffice postOffice,
    PublicAddress address,
    MailHosts hosts
) : Act<TestMessage, string>
{
    /// <summary>A mail server is talked to.</summary>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected internal override string Do(TestMessage order, Deed deed)
    {
        var account = accounts.Get(order.AccountId);
        var to = new MailParty("", MailboxGiven.Address(order.To, "recipient"));
        using var c = database.Open();
        var (recipient, composed) = mail.Of(c, order.DropId, order.RecipientId);
        if (composed.Mail is { From: null } unsent)
            throw new ConflictException(unsent.Issues.Select(d => d.Message).FirstOrDefault() ?? "The email has no sender address yet.");
        var message = plan.Trial(recipient, composed, to);
        using var link = new MailLink(account, secrets.Open(account), postOffice.Port, address.Greeting, hosts);
        var result = link.Send(message, message.From.Mailboxes.First(), [new(null, to.Address)]);
        if (result.Outcome != HandOver.Sent)
            throw new ConflictException($"The test was not sent: {result.Words}");
        deed.To(Matter.Drop, order.DropId);
        return result.Words;
    }
}
