using System.Security.Cryptography;
using System.Text;
using Bandeja.Core.Composition;
using Bandeja.Core.Mail;
using Bandeja.Formats.Mail;
using Bandeja.Formats.Pdf;
using Bandeja.Store;
using Bandeja.Work.Composition;
using MimeKit;

namespace Bandeja.Work.Mail;

/// <summary>The one way from a recipient's composed package to their message: bench, test and run all come through here.</summary>
public sealed class Messages(Letters letters, PictureFiles pictures, AttachmentFiles attachments)
{
    /// <summary>Makes a message.</summary>
    /// <param name="pieceOf">The recipient's composed piece of an attached design; null where the package has none.</param>
    /// <param name="title">What the PDFs are called within.</param>
    /// <param name="created">The moment that stands in them.</param>
    /// <param name="seed">Of the randomness of protected PDFs, so that the same message is made again with the same bytes.</param>
    /// <param name="programs">Fonts that were cut already; a run shares them.</param>
    /// <param name="scratch">Where PDFs are written first; who makes many has one for all.</param>
    /// <exception cref="ConflictException">It cannot be made: an attached file is gone, a password is blank.</exception>
    public MimeMessage Make(
        ComposedMail mail,
        MessageIdentity identity,
        Func<long, ComposedPiece?> pieceOf,
        string title,
        DateTimeOffset created,
        string language,
        byte[] seed,
        FontPrograms? programs = null,
        MemoryStream? scratch = null
    )
    {
        var files = new List<MessageFile>();
        foreach (var a in mail.Attachments)
        {
            if (a.File is { } sha)
            {
                files.Add(
                    new(
                        a.FileName,
                        attachments.Get(sha)
                            ?? throw new ConflictException($"The file “{a.FileName}” is no longer on the server. Add it again.")
                    )
                );
                continue;
            }
            var piece =
                pieceOf(a.DesignId!.Value)
                ?? throw new ConflictException($"“{a.FileName}” cannot be produced because its design is not in the package.");
            if (a.AsDocument)
            {
                var content =
                    piece.Content?.Invoke()
                    ?? throw new ConflictException($"“{a.FileName}” cannot be made: only letters can be attached as DOCX.");
                files.Add(new(a.FileName, letters.ToDocument(content, title, created)));
                continue;
            }
            PdfProtection? protection = null;
            if (a.Password is { } password)
            {
                // Never a file without its lock because the password was blank.
                if (password.Length == 0)
                    throw new ConflictException($"The password of “{a.FileName}” is blank.");
                // Whoever has the file may print and copy, but takes the lock off only with a password that nobody knows.
                protection = new(
                    new(password, "", new(Print: true, Copy: true, Change: false)),
                    HMACSHA256.HashData(seed, Encoding.UTF8.GetBytes($"{identity.MessageId} {files.Count}"))
                );
            }
            var target = scratch ?? new MemoryStream();
            target.SetLength(0);
            var writer = letters.Writer(target, title, created, language, protection, programs, tagged: true, fillable: true);
            writer.Add(null, piece.Pages);
            writer.Finish();
            files.Add(new(a.FileName, target.ToArray()));
        }
        return MessageMaker.Make(mail, identity, Picture, files);
    }

    /// <summary>A picture of a body as mail programs show it.</summary>
    public (byte[] Data, string MediaType)? Picture(MailPicture picture) =>
        picture.Symbol is { } symbol ? MailPictures.Of(symbol, picture.Width, picture.Height)
        : picture.Asset is { } asset && pictures.Get(asset) is { } file ? MailPictures.Of(file, picture.Width, picture.Height)
        : null;

    /// <summary>The HTML of a body with its pictures in it, for a frame of ours that fetches nothing.</summary>
    public string? Shown(ComposedMail mail)
    {
        if (mail.Html is not { } html)
            return null;
        foreach (var picture in mail.Pictures)
            if (Picture(picture) is var (data, type))
                html = html.Replace(
                    $"cid:{picture.ContentId}",
                    $"data:{type};base64,{Convert.ToBase64String(data)}",
                    StringComparison.Ordinal
                );
        return html.Replace(ComposedMail.UnsubscribeLink, "about:blank", StringComparison.Ordinal);
    }
}
