using System.Security.Cryptography;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Microsoft.AspNetCore.DataProtection;

namespace Bandeja.Work.Composition;

/// <summary>Keeps the passwords of locked PDFs: what goes into the database is encrypted with a key that is not in it.</summary>
public sealed class PdfPasswords(IDataProtectionProvider provider)
{
    readonly IDataProtector protector = provider.CreateProtector("password of a PDF");

    /// <summary>Encrypts a password; null for none.</summary>
    public string? Seal(string? password) => password is null ? null : protector.Protect(password);

    /// <summary>Decrypts a PDF's password; null where it has none.</summary>
    /// <exception cref="ConflictException">The keys are not those with which it was encrypted.</exception>
    public string? Open(PictureRow? picture)
    {
        if (picture?.Secret is not { } secret)
            return null;
        try
        {
            return protector.Unprotect(secret);
        }
        catch (CryptographicException)
        {
            throw new ConflictException(
                $"The password of {picture.Name} cannot be read, because the keys that were in the data folder when it was saved are gone. "
                    + "Import the PDF again."
            );
        }
    }
}
