using Bandeja.Core.Mail;
using Bandeja.Store;
using Bandeja.Store.Mail;
using Bandeja.Work.Announcing;
using Bandeja.Work.Mail;

namespace Bandeja.Acts.Mail;

/// <summary>The mailbox of an account in which bounces arrive.</summary>
/// <param name="Tls">tls or starttls; a password never goes over an open line.</param>
/// <param name="Password">Null to leave it as it is.</param>
/// <param name="EveryMinutes">How often it is read.</param>
/// <param name="ReturnAddress">Where bounces are sent; null for the sender of the message.</param>
/// <param name="OwnAddress">True to give each message a return address of its own, by which any kind of bounce is matched.</param>
public sealed record MailboxOrder(
    string Host,
    int Port,
    string Tls,
    string UserName,
    string? Password = null,
    string Folder = "INBOX",
    int EveryMinutes = 10,
    string? ReturnAddress = null,
    bool OwnAddress = false
);

/// <summary>The mailbox of which account.</summary>
public sealed record MailboxOf(long AccountId, MailboxOrder Mailbox);

/// <summary>Sets the mailbox in which an account's bounces arrive.</summary>
[Act("account.mailbox", Permission.Settings, "Set a bounce mailbox")]
public sealed class SetBounceMailbox(MailAccounts accounts, BounceMailboxes mailboxes, MailSecrets secrets) : Act<MailboxOf>
{
    /// <inheritdoc/>
    protected override void Carry(MailboxOf order, Deed deed)
    {
        var account = accounts.Get(order.AccountId);
        var (given, practice) = (order.Mailbox, account.Kind == "practice");
        if (Mistake(given, practice) is { } mistake)
            throw new BadInputException(mistake);
        var back = string.IsNullOrWhiteSpace(given.ReturnAddress)
            ? null
            : MailboxGiven.Address(given.ReturnAddress.Trim(), "return address");
        if (given.OwnAddress && back is null)
            throw new BadInputException("Enter the return address. Each message gets its own address based on it.");
        if (given.OwnAddress && back!.LastIndexOf('@') > ReturnPath.MaxOwn)
            throw new BadInputException(
                $"The part before the @ of the return address can have {ReturnPath.MaxOwn} characters, so that each message's mark "
                    + "still fits."
            );
        mailboxes.Save(
            new()
            {
                AccountId = account.Id,
                Host = practice ? "127.0.0.1" : given.Host.Trim(),
                Port = practice ? 0 : given.Port,
                Tls = practice ? "none" : given.Tls,
                UserName = given.UserName.Trim(),
                Folder = given.Folder.Trim(),
                Secret = string.IsNullOrEmpty(given.Password) ? null : secrets.Seal(given.Password),
                EveryMinutes = given.EveryMinutes,
                ReturnAddress = back,
                OwnAddress = given.OwnAddress,
            }
        );
        deed.Changed(Matter.Account, account.Id);
    }

    static string? Mistake(MailboxOrder given, bool practice) =>
        !practice && !MailboxGiven.IsHost(given.Host) ? "Enter the name of the server that has the mailbox, for example imap.example.org."
        : !practice && given.Port is < 1 or > 65535 ? "A port is a number from 1 to 65535. The usual ones are 993 and 143."
        : !practice && given.Tls is not ("starttls" or "tls") ? "Choose TLS or STARTTLS so the mailbox password cannot be read in transit."
        : string.IsNullOrWhiteSpace(given.UserName) || given.UserName.Any(char.IsControl) || given.Password?.Any(char.IsControl) == true
            ? "Enter the mailbox's user name, without line breaks."
        : string.IsNullOrWhiteSpace(given.Folder) || given.Folder.Length > 200 || given.Folder.Any(char.IsControl)
            ? "Enter the folder in which bounces arrive. It is usually INBOX."
        : given.EveryMinutes is < 1 or > 1440 ? "A mailbox is read every 1 to 1,440 minutes."
        : null;
}
