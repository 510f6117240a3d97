using Bandeja.Core.Composition;

namespace Bandeja.Core.Emails;

/// <summary>Something that is attached to an email.</summary>
/// <param name="Name">What the file is called, in the field language, with or without its ending; empty for a name of ours.</param>
public abstract record MailAttach(string Name);

/// <summary>A design of the package, as the recipient's own PDF.</summary>
/// <param name="Password">The password that opens it, in the field language; null for none.</param>
public sealed record DesignAttach(long DesignId, string Name, string? Password, bool AsDocument = false) : MailAttach(Name);

/// <summary>The same file for everybody.</summary>
/// <param name="File">Its digest.</param>
/// <param name="Size">Bytes.</param>
public sealed record FileAttach(string File, string Name, long Size) : MailAttach(Name);

/// <summary>A file of the recipient's own out of a folder that was brought in.</summary>
/// <param name="Source">An expression whose value is the name of the file.</param>
public sealed record FolderAttach(long FolderId, string Source, string Name) : MailAttach(Name)
{
    /// <summary>Stands for the documents that are kept with each recipient, in place of a folder.</summary>
    public const long OwnDocuments = -1;
}

/// <summary>An email as it is written, before it meets a list. All texts of the headers may hold fields.</summary>
/// <param name="Width">Of the text in points; 600 CSS pixels are the width that mail programs leave.</param>
/// <param name="To">Empty for the list's email column.</param>
/// <param name="Plain">True where the message is plain text alone.</param>
/// <param name="Unsubscribe">True where the foot has a link by which a recipient ends further mail.</param>
/// <param name="CopiesWhole">True where copies carry the recipient's own files and their link, too.</param>
/// <param name="SizeLimit">The largest a message may be, bytes.</param>
public sealed record EmailDesign(
    double Width,
    string Subject,
    string Preheader,
    string FromName,
    string FromAddress,
    string ReplyTo,
    string To,
    string Cc,
    string Bcc,
    bool Plain,
    bool Unsubscribe,
    long SizeLimit,
    TextStyle Type,
    IReadOnlyList<Block> Blocks,
    IReadOnlyList<MailAttach> Attachments,
    bool CopiesWhole = false
)
{
    /// <summary>The headers as they are written, with names for people.</summary>
    public IEnumerable<(string Name, string Text)> Headers =>
        [
            ("subject", Subject),
            ("preview text", Preheader),
            ("sender's name", FromName),
            ("sender's address", FromAddress),
            ("reply-to", ReplyTo),
            ("recipient's address", To),
            ("Cc", Cc),
            ("Bcc", Bcc),
        ];
}
