using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Bandeja.Core.Mail;
using MimeKit;

namespace Bandeja.Formats.Mail;

/// <summary>A file as it is put into a message.</summary>
public sealed record MessageFile(string Name, byte[] Data);

/// <summary>What makes a message one of its own: by which it is known, when it is dated, how a recipient ends further mail.</summary>
/// <param name="MessageId">Without angle brackets (RFC 5322, section 3.6.4).</param>
/// <param name="Unsubscribe">The recipient's own link; null where there is none.</param>
/// <param name="IsTest">True for a message to oneself: it says so, and its link ends nothing.</param>
public sealed record MessageIdentity(string MessageId, DateTimeOffset Date, string? Unsubscribe, bool IsTest = false);

/// <summary>Puts composed mail into the form of RFC 5322 and MIME (RFC 2045 to 2047, 2387). The same input gives the same bytes.</summary>
public static class MessageMaker
{
    /// <summary>Makes a message.</summary>
    /// <param name="picture">A picture of the body as PNG or JPEG; null where it is not to be had.</param>
    /// <param name="files">What is attached, in its order.</param>
    /// <exception cref="InvalidOperationException">There is no sender or recipient: such mail is never to be made.</exception>
    public static MimeMessage Make(
        ComposedMail mail,
        MessageIdentity identity,
        Func<MailPicture, (byte[] Data, string MediaType)?> picture,
        IReadOnlyList<MessageFile> files
    )
    {
        if (mail.From is null || mail.To is null)
            throw new InvalidOperationException("A message needs a sender and a recipient.");
        var message = new MimeMessage();
        message.From.Add(Mailbox(mail.From));
        message.To.Add(Mailbox(mail.To));
        if (!identity.IsTest)
        {
            // A blind copy stands in the envelope alone; where it stood in a header, it would not be blind.
            foreach (var party in mail.Cc)
                message.Cc.Add(Mailbox(party));
        }
        foreach (var party in mail.ReplyTo)
            message.ReplyTo.Add(Mailbox(party));
        message.Subject = identity.IsTest ? $"[Test] {mail.Subject}" : mail.Subject;
        message.Date = identity.Date;
        message.MessageId = identity.MessageId;
        message.MimeVersion = new(1, 0);
        var link = identity.Unsubscribe;
        // A link to this very machine would be none: a mail program that follows it reaches its own.
        if (mail.Unsubscribe && link is not null && Uri.TryCreate(link, UriKind.Absolute, out var uri) && !uri.IsLoopback)
        {
            // RFC 2369, section 3.2, and RFC 8058, section 3.1: with both, a mail program can end further mail by itself.
            message.Headers.Add(HeaderId.ListUnsubscribe, $"<{link}>");
            message.Headers.Add("List-Unsubscribe-Post", "List-Unsubscribe=One-Click");
        }
        string Linked(string text) => text.Replace(ComposedMail.UnsubscribeLink, link ?? "about:blank", StringComparison.Ordinal);
        MimeEntity body = Text("plain", Linked(mail.Text));
        if (mail.Html is { } html)
        {
            MimeEntity rich = Text("html", Linked(html));
            var pictures = new MultipartRelated();
            foreach (var p in mail.Pictures)
                if (picture(p) is var (data, type))
                    pictures.Add(Inline(p, data, type));
            if (pictures.Count > 0)
            {
                pictures.Insert(0, rich);
                rich = pictures;
            }
            body = new MultipartAlternative { body, rich };
        }
        if (files.Count > 0)
        {
            var mixed = new Multipart("mixed") { body };
            foreach (var file in files)
                mixed.Add(Attached(file));
            body = mixed;
        }
        message.Body = body;
        Bound(body, identity.MessageId, new int[1]);
        return message;
    }

    /// <summary>Whom the server is told to deliver to.</summary>
    public static IReadOnlyList<MailboxAddress> Envelope(ComposedMail mail) => [Mailbox(mail.To!)];

    /// <summary>Who gets a copy, seen or blind. Copies go out apart from the recipient's message: one that is refused stops nobody
    /// else's.</summary>
    public static IReadOnlyList<MailboxAddress> Copies(ComposedMail mail) =>
        [.. mail.Cc.Concat(mail.Bcc).DistinctBy(p => p.Address.ToLowerInvariant()).Select(Mailbox)];

    static MailboxAddress Mailbox(MailParty party) => new(Encoding.UTF8, party.Name.Length == 0 ? null : party.Name, party.Address);

    static TextPart Text(string kind, string text) =>
        new(kind) { ContentTransferEncoding = ContentEncoding.QuotedPrintable, Text = text.ReplaceLineEndings("\r\n") };

    static MimePart Inline(MailPicture picture, byte[] data, string type)
    {
        var (media, kind) = (type.Split('/')[0], type.Split('/')[1]);
        return new(media, kind)
        {
            Content = new MimeContent(new MemoryStream(data)),
            ContentId = picture.ContentId,
            ContentTransferEncoding = ContentEncoding.Base64,
            ContentDisposition = new(ContentDisposition.Inline)
            {
                FileName = $"{picture.ContentId.Split('@')[0]}.{(kind == "jpeg" ? "jpg" : kind)}",
            },
        };
    }

    static MimePart Attached(MessageFile file)
    {
        var type = MimeTypes.GetMimeType(file.Name);
        var part = new MimePart(type)
        {
            Content = new MimeContent(new MemoryStream(file.Data)),
            ContentTransferEncoding = ContentEncoding.Base64,
            ContentDisposition = new(ContentDisposition.Attachment),
        };
        // RFC 2231 for names beyond ASCII; and the name in the content type, too, for programs that look only there.
        part.ContentDisposition.Parameters.Add(Encoding.UTF8, "filename", file.Name);
        part.ContentType.Parameters.Add(Encoding.UTF8, "name", file.Name);
        return part;
    }

    /// <summary>Boundaries that follow from the message's id: the same message is made again with the same bytes, and no two are
    /// alike.</summary>
    static void Bound(MimeEntity entity, string id, int[] count)
    {
        if (entity is not Multipart multipart)
            return;
        var seed = string.Create(CultureInfo.InvariantCulture, $"{id} {count[0]++}");
        multipart.Boundary = $"=_{Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(seed)))[..32]}";
        foreach (var part in multipart)
            Bound(part, id, count);
    }

    /// <summary>A message as its bytes, with the line ends of RFC 5322.</summary>
    public static byte[] Bytes(MimeMessage message)
    {
        using var target = new MemoryStream();
        var options = FormatOptions.Default.Clone();
        options.NewLineFormat = NewLineFormat.Dos;
        message.WriteTo(options, target);
        return target.ToArray();
    }
}
