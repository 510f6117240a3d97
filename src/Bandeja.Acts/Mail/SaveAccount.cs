using Bandeja.Store;
using Bandeja.Store.Mail;
using Bandeja.Work.Announcing;
using Bandeja.Work.Mail;

namespace Bandeja.Acts.Mail;

/// <summary>An account that email is sent with, to add or to change.</summary>
/// <param name="AccountId">Null to add one.</param>
/// <param name="Password">Null to leave it as it is.</param>
public sealed record SavedAccount(
    long? AccountId,
    string Name,
    string Host,
    int Port,
    string Tls,
    string? UserName,
    string? Password,
    int PerMinute,
    int PerDay,
    int Connections,
    int FirstWait
);

/// <summary>Adds or changes an account; answers its id.</summary>
[Act("account.save", Permission.Settings, "Saved an email account")]
public sealed class SaveAccount(MailAccounts accounts, MailSecrets secrets) : Act<SavedAccount, long>
{
    /// <inheritdoc/>
    protected internal override long Do(SavedAccount order, Deed deed)
    {
        var before = order.AccountId is { } known ? accounts.Get(known) : null;
        var (practice, hadPassword) = (before?.Kind == "practice", before?.HasPassword == true);
        if (Mistake(order, practice) is { } mistake)
            throw new BadInputException(mistake);
        var saved = accounts.Save(
            new()
            {
                Id = order.AccountId ?? 0,
                Name = order.Name.Trim(),
                Kind = practice ? "practice" : "smtp",
                Host = practice ? "127.0.0.1" : order.Host.Trim(),
                Port = practice ? 0 : order.Port,
                Tls = practice ? "none" : order.Tls,
                UserName = string.IsNullOrWhiteSpace(order.UserName) ? null : order.UserName.Trim(),
                Secret = string.IsNullOrEmpty(order.Password) ? null : secrets.Seal(order.Password),
                PerMinute = order.PerMinute,
                PerDay = order.PerDay,
                Connections = order.Connections,
                FirstWait = order.FirstWait,
            },
            deed.Actor
        );
        var dropped = hadPassword && !accounts.Get(saved).HasPassword;
        deed.Says(
            $"Saved the email account “{order.Name.Trim()}”{(dropped ? "; its password was dropped, because its server changed" : "")}"
        );
        deed.Changed(Matter.Account, saved);
        return saved;
    }

    static string? Mistake(SavedAccount order, bool practice) =>
        string.IsNullOrWhiteSpace(order.Name) ? "Enter a name for the account."
        : !practice && !MailboxGiven.IsHost(order.Host) ? "Enter the mail server name, such as smtp.example.org."
        : !practice && order.Port is < 1 or > 65535 ? "The port must be a number from 1 to 65535, usually 587 or 465."
        : order.Tls is not ("none" or "starttls" or "tls") ? "Encryption must be none, starttls, or tls."
        : !practice && order.Tls == "none" && !(string.IsNullOrWhiteSpace(order.UserName) && string.IsNullOrEmpty(order.Password))
            ? "A password is never sent without encryption. Choose STARTTLS or TLS, or leave user and password blank."
        : order.PerMinute is < 0 or > 100_000 || order.PerDay is < 0 or > 10_000_000
            ? "A sending limit must be 0 (no limit) or " + "a number of messages."
        : order.Connections is < 1 or > 20 ? "Simultaneous connections must be 1 to 20."
        : order.FirstWait is < 1 or > 86_400 ? "The wait before a retry must be 1 to 86,400 seconds (1 day)."
        // A header or a command that a line end begins must not come from here either.
        : order.UserName?.Any(char.IsControl) == true || order.Password?.Any(char.IsControl) == true
            ? "The user name and password cannot contain line breaks."
        : null;
}
