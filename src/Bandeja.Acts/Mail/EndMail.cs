using Bandeja.Store.Runs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Mail;

namespace Bandeja.Acts.Mail;

/// <summary>The secret word of the link in a message.</summary>
public sealed record UnsubscribeLink(string Token);

/// <summary>Ends further email to whoever has the link (RFC 8058, section 3.2); answers whose it was, null for a link that is not
/// known.</summary>
[Act("mail.unsubscribe", Permission.Suppressions, "Unsubscribed")]
public sealed class EndMail(RunMails mails, Unsubscribing unsubscribing) : Act<UnsubscribeLink, MailOwner?>
{
    /// <inheritdoc/>
    protected internal override MailOwner? Do(UnsubscribeLink order, Deed deed)
    {
        if (mails.OfToken(order.Token) is not { } owner)
            return null;
        deed.To(Matter.Drop, owner.DropId);
        deed.Says($"{owner.Address} unsubscribed");
        unsubscribing.Suppress(
            Unsubscribing.Unsubscribed,
            owner.RunId,
            owner.RecipientId,
            $"Unsubscribed from {owner.CampaignName}, {owner.DropName}",
            deed.Actor
        );
        return owner;
    }
}
