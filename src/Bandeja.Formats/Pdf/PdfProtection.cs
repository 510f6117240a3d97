using System.Buffers.Binary;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace Bandeja.Formats.Pdf;

/// <summary>What who opens a protected file without the owner's password may do (ISO 32000-2, table 22).</summary>
public sealed record PdfPermissions(bool Print = true, bool Copy = true, bool Change = false);

/// <summary>How a file is protected.</summary>
/// <param name="Open">The password that opens it; empty to open it without one.</param>
/// <param name="Owner">The password that lifts the permissions; empty to take one that nobody knows.</param>
public sealed record PdfLock(string Open, string Owner, PdfPermissions Permissions);

/// <summary>
/// Encrypts a PDF with AES-256 as ISO 32000-2, section 7.6 has it (security handler revision 6). The cryptography is the platform's; here
/// is only how the standard puts it together. It works object by object, so a file can be written forward as it comes. What is random
/// is drawn from a seed, so that the same file can be made again byte for byte.
/// </summary>
public sealed class PdfProtection
{
    /// <summary>How many bytes of a password count, in UTF-8 (ISO 32000-2, 7.6.4.3.3).</summary>
    public const int MostPasswordBytes = 127;

    readonly byte[] seed,
        key;
    readonly Aes aes;
    long drawn;

    /// <summary>Sets a protection up.</summary>
    /// <param name="seed">At least 16 secret bytes that no other file has.</param>
    public PdfProtection(PdfLock how, byte[] seed)
    {
        if (seed.Length < 16)
            throw new ArgumentException("A seed has at least 16 bytes.", nameof(seed));
        this.seed = seed;
        key = Random(32);
        aes = Aes.Create();
        aes.Key = key;
        // Algorithm 8: the user's password.
        var open = Prepared(how.Open);
        byte[] userCheck = Random(8),
            userKey = Random(8);
        byte[] u = [.. Hash(open, userCheck, []), .. userCheck, .. userKey];
        var ue = Wrapped(Hash(open, userKey, []));
        byte[] o,
            oe;
        // An owner's password that is not given must not be guessed: what is compared with it is random then, and belongs to no password.
        if (how.Owner.Length == 0)
            (o, oe) = (Random(48), Random(32));
        else
        {
            // Algorithm 9: the owner's.
            var owner = Prepared(how.Owner);
            byte[] ownerCheck = Random(8),
                ownerKey = Random(8);
            o = [.. Hash(owner, ownerCheck, u), .. ownerCheck, .. ownerKey];
            oe = Wrapped(Hash(owner, ownerKey, u));
        }
        // Table 22: bits 1 and 2 are 0, all that mean nothing 1; text for screen readers (bit 10) may always be taken.
        var p = unchecked((int)0xFFFFF2C0);
        if (how.Permissions.Print)
            p |= 1 << 2 | 1 << 11;
        if (how.Permissions.Copy)
            p |= 1 << 4;
        if (how.Permissions.Change)
            p |= 1 << 3 | 1 << 5 | 1 << 8 | 1 << 10;
        Dictionary =
            "<</Filter/Standard/V 5/R 6/Length 256/CF<</StdCF<</Type/CryptFilter/CFM/AESV3/AuthEvent/DocOpen/Length "
            + $"32>>>>/StmF/StdCF/StrF/StdCF/O{Hex(o)}/U{Hex(u)}/OE{Hex(oe)}/UE{Hex(ue)}/P "
            + $"{p.ToString(CultureInfo.InvariantCulture)}/Perms{Hex(Permissions(p))}/EncryptMetadata true>>";
        Id = Hex(Random(16));
    }

    /// <summary>The encryption dictionary (table 20 and 21).</summary>
    internal string Dictionary { get; }

    /// <summary>The file's identifier, which a protected file must have (14.4).</summary>
    internal string Id { get; }

    static string Hex(byte[] bytes) => "<" + Convert.ToHexString(bytes) + ">";

    byte[] Random(int count)
    {
        var bytes = new byte[count];
        Fill(bytes);
        return bytes;
    }

    /// <summary>Bytes that nobody without the seed can tell from random ones.</summary>
    void Fill(Span<byte> target)
    {
        Span<byte> block = stackalloc byte[32];
        Span<byte> number = stackalloc byte[8];
        while (target.Length > 0)
        {
            BinaryPrimitives.WriteInt64LittleEndian(number, drawn++);
            HMACSHA256.HashData(seed, number, block);
            var take = Math.Min(target.Length, 32);
            block[..take].CopyTo(target);
            target = target[take..];
        }
    }

    /// <summary>Algorithm 10: what may be done, so that it cannot be altered unseen.</summary>
    byte[] Permissions(int p)
    {
        var block = new byte[16];
        BinaryPrimitives.WriteInt32LittleEndian(block, p);
        block.AsSpan(4, 4).Fill(0xFF);
        "Tadb"u8.CopyTo(block.AsSpan(8));
        Fill(block.AsSpan(12, 4));
        return aes.EncryptEcb(block, PaddingMode.None);
    }

    byte[] Wrapped(byte[] with)
    {
        using var wrapping = Aes.Create();
        wrapping.Key = with;
        return wrapping.EncryptCbc(key, new byte[16], PaddingMode.None);
    }

    /// <summary>Algorithm 2.B. Most of the work on a small file is here; it is done in buffers that stay.</summary>
    static byte[] Hash(ReadOnlySpan<byte> password, ReadOnlySpan<byte> salt, ReadOnlySpan<byte> user)
    {
        Span<byte> k = stackalloc byte[64];
        Span<byte> first = stackalloc byte[MostPasswordBytes + 8 + 48];
        password.CopyTo(first);
        salt.CopyTo(first[password.Length..]);
        user.CopyTo(first[(password.Length + salt.Length)..]);
        SHA256.HashData(first[..(password.Length + salt.Length + user.Length)], k);
        var length = 32;
        using var round = Aes.Create();
        var buffers = System.Buffers.ArrayPool<byte>.Shared;
        var (k1, e) = (buffers.Rent(64 * (MostPasswordBytes + 64 + 48)), buffers.Rent(64 * (MostPasswordBytes + 64 + 48)));
        try
        {
            for (var i = 0; ; i++)
            {
                var once = password.Length + length + user.Length;
                var all = once * 64;
                password.CopyTo(k1);
                k[..length].CopyTo(k1.AsSpan(password.Length));
                user.CopyTo(k1.AsSpan(password.Length + length));
                for (var filled = once; filled < all; filled *= 2)
                    k1.AsSpan(0, Math.Min(filled, all - filled)).CopyTo(k1.AsSpan(filled));
                round.SetKey(k[..16]);
                round.EncryptCbc(k1.AsSpan(0, all), k[16..32], e, PaddingMode.None);
                // 256 leaves 1 when divided by 3: the sixteen bytes' number leaves what their sum leaves.
                var rest = 0;
                for (var b = 0; b < 16; b++)
                    rest += e[b];
                length = (rest % 3) switch
                {
                    0 => SHA256.HashData(e.AsSpan(0, all), k),
                    1 => SHA384.HashData(e.AsSpan(0, all), k),
                    _ => SHA512.HashData(e.AsSpan(0, all), k),
                };
                if (i >= 63 && e[all - 1] <= i - 31)
                    return k[..32].ToArray();
            }
        }
        finally
        {
            buffers.Return(k1, clearArray: true);
            buffers.Return(e, clearArray: true);
        }
    }

    /// <summary>A password as it is compared: SASLprep (RFC 4013) in the main, UTF-8, cut after <see cref="MostPasswordBytes"/>.</summary>
    static byte[] Prepared(string password)
    {
        var text = new StringBuilder();
        foreach (var rune in password.EnumerateRunes())
        {
            var category = Rune.GetUnicodeCategory(rune);
            if (category == UnicodeCategory.Format || rune.Value == 0xAD)
                continue;
            text.Append(category == UnicodeCategory.SpaceSeparator ? " " : rune.ToString());
        }
        var bytes = Encoding.UTF8.GetBytes(text.ToString().Normalize(NormalizationForm.FormKC));
        return bytes.Length <= MostPasswordBytes ? bytes : bytes[..MostPasswordBytes];
    }

    /// <summary>A string or a stream encrypted: its own initialization vector, then what it is, padded (7.6.3.1).</summary>
    internal byte[] Encrypt(ReadOnlySpan<byte> plain)
    {
        var target = new byte[16 + (plain.Length / 16 + 1) * 16];
        Fill(target.AsSpan(0, 16));
        aes.EncryptCbc(plain, target.AsSpan(0, 16), target.AsSpan(16), PaddingMode.PKCS7);
        return target;
    }

    /// <summary>An object's body with all its strings encrypted.</summary>
    internal string Strings(string body)
    {
        var result = new StringBuilder(body.Length + 64);
        for (var i = 0; i < body.Length; i++)
        {
            var c = body[i];
            if (c == '<' && i + 1 < body.Length && body[i + 1] == '<')
                result.Append(body[i++]).Append('<');
            else if (c == '<')
            {
                var end = body.IndexOf('>', i);
                result.Append(Hex(Encrypt(Convert.FromHexString(body.AsSpan(i + 1, end - i - 1)))));
                i = end;
            }
            else if (c == '(')
                i = Literal(body, i, result);
            else
                result.Append(c);
        }
        return result.ToString();
    }

    int Literal(string body, int start, StringBuilder result)
    {
        var bytes = new List<byte>();
        for (var i = start + 1; i < body.Length; i++)
        {
            if (body[i] == '\\')
                bytes.Add((byte)body[++i]);
            else if (body[i] == ')')
            {
                result.Append(Hex(Encrypt([.. bytes])));
                return i;
            }
            else
                bytes.Add((byte)body[i]);
        }
        throw new InvalidOperationException("A string of an object is not closed.");
    }
}
