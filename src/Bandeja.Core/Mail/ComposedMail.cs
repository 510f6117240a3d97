namespace Bandeja.Core.Mail;

/// <summary>What is wrong about a recipient's email.</summary>
public enum MailIssueKind
{
    /// <summary>No address, several, or one that is none.</summary>
    Address,

    /// <summary>The sender, the reply address or a copy's address is none.</summary>
    Header,

    /// <summary>The recipient's own file is not in its folder.</summary>
    Attachment,

    /// <summary>A picture that mail programs do not show.</summary>
    Picture,

    /// <summary>What is attached is more than the message may hold.</summary>
    TooLarge,

    /// <summary>The password of an attachment comes out blank or too long.</summary>
    Password,

    /// <summary>A button that leads nowhere.</summary>
    Link,
}

/// <summary>Something wrong about a recipient's email.</summary>
/// <param name="Subject">The column or header that it is about.</param>
/// <param name="Detail">What makes it different from others alike.</param>
/// <param name="Message">A sentence for the coordinator.</param>
public sealed record MailIssue(MailIssueKind Kind, string Subject, string Detail, string Message);

/// <summary>A picture in the body of a message: one of ours, or a barcode.</summary>
/// <param name="ContentId">By which the body names it (RFC 2392).</param>
/// <param name="Asset">The picture's id; null for a barcode.</param>
/// <param name="Symbol">The barcode.</param>
/// <param name="Width">CSS pixels.</param>
/// <param name="Height">CSS pixels.</param>
public sealed record MailPicture(string ContentId, string? Asset, Barcodes.Symbol? Symbol, double Width, double Height);

/// <summary>Something attached to a recipient's message: exactly one of design and file is set.</summary>
/// <param name="FileName">Made safe for every system.</param>
/// <param name="DesignId">The design whose PDF it is.</param>
/// <param name="Password">The password that opens the PDF; null for none.</param>
/// <param name="File">The digest of a file.</param>
/// <param name="Size">Bytes of a file; 0 for a PDF, which is not made yet.</param>
/// <param name="IsOwn">True where it is the recipient's alone: their PDF, or a file of their own.</param>
/// <param name="AsDocument">True where the design goes along as a DOCX that can be edited, not as a PDF.</param>
public sealed record MailAttachment(
    string FileName,
    long? DesignId,
    string? Password,
    string? File,
    long Size,
    bool IsOwn = false,
    bool AsDocument = false
);

/// <summary>A recipient's message as it is to be, before it is put into the form of RFC 5322.</summary>
/// <param name="To">The recipient; null where there is no sound address.</param>
/// <param name="From">The sender; null where it is no address.</param>
/// <param name="Html">Null where the message is plain text alone.</param>
/// <param name="Unsubscribe">True where the bodies hold <see cref="UnsubscribeLink"/>.</param>
public sealed record ComposedMail(
    string Subject,
    string Preheader,
    MailParty? From,
    MailParty? To,
    IReadOnlyList<MailParty> ReplyTo,
    IReadOnlyList<MailParty> Cc,
    IReadOnlyList<MailParty> Bcc,
    string? Html,
    string Text,
    IReadOnlyList<MailPicture> Pictures,
    IReadOnlyList<MailAttachment> Attachments,
    bool Unsubscribe,
    IReadOnlyList<MailIssue> Issues
)
{
    /// <summary>Stands in the bodies for the recipient's own link until the message is made; a name that can belong to nobody (RFC
    /// 2606).</summary>
    public const string UnsubscribeLink = "https://unsubscribe.invalid/";

    /// <summary>True where copies carry what is the recipient's alone.</summary>
    public bool CopiesWhole { get; init; }

    /// <summary>The message as it goes to who is copied: without the recipient's own files and their link, unless that was chosen. Null
    /// where nobody is copied.</summary>
    public ComposedMail? Copy =>
        Cc.Count + Bcc.Count == 0 ? null
        : CopiesWhole ? this
        : this with { Attachments = [.. Attachments.Where(a => !a.IsOwn)], Unsubscribe = false };

    /// <summary>The same mark, the same message: everything that the recipient would see.</summary>
    public string Mark =>
        Convert.ToHexStringLower(
            System.Security.Cryptography.SHA256.HashData(
                System.Text.Encoding.UTF8.GetBytes(
                    string.Join(
                        '\n',
                        [
                            Subject,
                            Preheader,
                            $"{From}",
                            $"{To}",
                            .. ReplyTo.Select(r => r.ToString()),
                            .. Cc.Select(r => $"cc {r}"),
                            .. Bcc.Select(r => $"bcc {r}"),
                            Html ?? "",
                            Text,
                            .. Attachments.Select(a => $"{a}"),
                        ]
                    )
                )
            )
        )[..32];
}

/// <summary>What is known of a file without opening it.</summary>
/// <param name="File">Its digest.</param>
/// <param name="Size">Bytes.</param>
public sealed record MailFileFacts(string File, string Name, long Size);
