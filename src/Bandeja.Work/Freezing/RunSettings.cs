using System.Security.Cryptography;
using System.Text.Json;
using Bandeja.Core.Composition;
using Bandeja.Formats.Pdf;
using Microsoft.AspNetCore.DataProtection;

namespace Bandeja.Work.Freezing;

/// <summary>How a run is made; stands on its page. Passwords are not among it.</summary>
/// <param name="PartOf">Pieces of each file, where it is made in parts.</param>
/// <param name="NameBy">How each recipient's file is named, in the field language.</param>
/// <param name="BatchOf">Pieces of each batch that goes to the printer; 0 = one batch.</param>
/// <param name="BreakSheets">A sheet between batches that says which is which.</param>
/// <param name="Duplex">Both sides; each piece begins on a sheet of its own.</param>
/// <param name="Fields">What becomes of forms' fields; null for what each form says.</param>
public sealed record RunSettings(
    int? PartOf = null,
    string? NameBy = null,
    int BatchOf = 0,
    bool BreakSheets = false,
    bool Duplex = false,
    int Copies = 1,
    bool Collated = true,
    string? Postage = null,
    string? PostageAbroad = null,
    FormOutput? Fields = null
)
{
    /// <summary>The stored form.</summary>
    public string ToJson() => JsonSerializer.Serialize(this);

    /// <summary>Reads the stored form.</summary>
    public static RunSettings Read(string json) => JsonSerializer.Deserialize<RunSettings>(json)!;
}

/// <summary>The passwords of a run's files.</summary>
/// <param name="Open">The password that opens a file, or an expression for it.</param>
/// <param name="OpenBy">True where <paramref name="Open"/> is an expression.</param>
/// <param name="Owner">The password that lifts the permissions, or an expression for it.</param>
/// <param name="OwnerBy">True where <paramref name="Owner"/> is an expression.</param>
public sealed record PasswordOrder(
    string? Open = null,
    bool OpenBy = false,
    string? Owner = null,
    bool OwnerBy = false,
    bool Print = true,
    bool Copy = true,
    bool Change = false
);

/// <summary>What is kept secret of a run: the passwords, and the seed of its files' randomness, without which they could not be made again
/// with the same bytes.</summary>
public sealed record RunSecret(PasswordOrder Passwords, byte[] Seed)
{
    /// <summary>A seed for one file of the run.</summary>
    /// <param name="file">Its number.</param>
    public byte[] SeedOf(long file) => HMACSHA256.HashData(Seed, BitConverter.GetBytes(file));

    /// <summary>What may be done with the files.</summary>
    public PdfPermissions Permissions => new(Passwords.Print, Passwords.Copy, Passwords.Change);
}

/// <summary>Keeps runs' secrets: what goes into the database is encrypted with a key that is not in it.</summary>
public sealed class RunSecrets(IDataProtectionProvider provider)
{
    readonly IDataProtector protector = provider.CreateProtector("run passwords");

    /// <summary>Encrypts passwords, with a seed of their own.</summary>
    public string Seal(PasswordOrder passwords) =>
        protector.Protect(JsonSerializer.Serialize(new RunSecret(passwords, RandomNumberGenerator.GetBytes(32))));

    /// <summary>Decrypts them; null where the run has none.</summary>
    /// <exception cref="Store.ConflictException">The keys are not those with which they were encrypted.</exception>
    public RunSecret? Open(string? sealedText)
    {
        if (sealedText is null)
            return null;
        try
        {
            return JsonSerializer.Deserialize<RunSecret>(protector.Unprotect(sealedText));
        }
        catch (CryptographicException)
        {
            throw new Store.ConflictException(
                "The passwords of this run cannot be read: the keys that were in the data folder when it started are gone. Start a new run."
            );
        }
    }
}
