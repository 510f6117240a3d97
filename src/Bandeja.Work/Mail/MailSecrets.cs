using System.Security.Cryptography;
using Bandeja.Store;
using Bandeja.Store.Mail;
using Microsoft.AspNetCore.DataProtection;

namespace Bandeja.Work.Mail;

/// <summary>Keeps accounts' passwords: what goes into the database is encrypted with a key that is not in it.</summary>
public sealed class MailSecrets(IDataProtectionProvider provider)
{
    readonly IDataProtector protector = provider.CreateProtector("mail account password");

    /// <summary>Encrypts a password.</summary>
    public string Seal(string password) => protector.Protect(password);

    /// <summary>Decrypts an account's password; null where it has none.</summary>
    /// <exception cref="ConflictException">The keys are not those with which it was encrypted.</exception>
    public string? Open(MailAccountRow account) => Open(account.Secret, $"“{account.Name}”");

    /// <summary>Decrypts a mailbox's password; null where it has none.</summary>
    /// <exception cref="ConflictException">The keys are not those with which it was encrypted.</exception>
    public string? Open(BounceMailboxRow mailbox) => Open(mailbox.Secret, "the bounce mailbox");

    string? Open(string? secret, string whose)
    {
        if (secret is null)
            return null;
        try
        {
            return protector.Unprotect(secret);
        }
        catch (CryptographicException)
        {
            throw new ConflictException(
                $"The password of {whose} cannot be read, because the keys that were in the data folder when it was saved are gone. "
                    + "Enter it again."
            );
        }
    }
}
