using System.Globalization;
using System.IO.Compression;
using System.Text;
using Bandeja.Core.Drops;
using Bandeja.Formats.Mail;
using Bandeja.Store;
using Bandeja.Store.Runs;
using Bandeja.Work.Composition;
using Bandeja.Work.Freezing;
using Bandeja.Work.Mail;
using MimeKit;

namespace Bandeja.Work.Production;

/// <summary>A run's messages as files for other programs: each as .eml (RFC 5322) in a ZIP, or all in one mbox (RFC 4155).</summary>
public sealed class RunMailFiles(
    Database database,
    RunStore runs,
    RunMails mails,
    Letters letters,
    Messages messages,
    RunSecrets secrets,
    PublicAddress address,
    TimeProvider time
)
{
    /// <summary>Writes the messages in the run's order.</summary>
    /// <param name="sentOnly">Only those that a mail server took, dated as they were; for a run that was sent.</param>
    /// <param name="each">Called before each message; throws where the work is to stop.</param>
    /// <returns>The first and last piece's numbers, and how many there are.</returns>
    /// <exception cref="ConflictException">A message cannot be made.</exception>
    public (int First, int Last, int Count) Write(RunRow run, RunOutput form, Stream target, bool sentOnly, Action each)
    {
        using var c = database.Open();
        var frozen = new FrozenMail(new FrozenRun(c, letters, run), messages, secrets.Open(run.Secret), address);
        var due = mails.All(run.Id);
        var sent = sentOnly ? mails.SentOf(run.Id) : null;
        var folder = RunFolder.Dated(frozen.Run.Drop, run, time.LocalTimeZone);
        using var zip = form == RunOutput.Eml ? new ZipArchive(target, ZipArchiveMode.Create, leaveOpen: true) : null;
        int first = 0,
            last = 0,
            count = 0;
        foreach (var piece in runs.Pieces(run, frozen.Run.Drop.ListId, frozen.Run.Setting.Columns))
        {
            if (sent is not null && !sent.Contains(piece.RecipientId))
                continue;
            each();
            var mail = due[piece.RecipientId];
            var date = sentOnly && mail.Date is { } dated ? dated : TimeZoneInfo.ConvertTime(frozen.Run.Created, time.LocalTimeZone);
            var ready = frozen.Make(piece, mail, date);
            if (ready.Message is not { } message)
                throw new ConflictException($"Piece {piece.PieceNumber:0000} cannot be produced: {ready.Problem}");
            if (zip is not null)
            {
                var entry = zip.CreateEntry($"{folder}/{piece.FileName ?? $"{piece.PieceNumber:0000}.eml"}", CompressionLevel.Fastest);
                entry.LastWriteTime = TimeZoneInfo.ConvertTime(frozen.Run.Created, time.LocalTimeZone);
                using var stream = entry.Open();
                stream.Write(MessageMaker.Bytes(message));
            }
            else
                Mbox(target, message, date);
            if (count++ == 0)
                first = piece.PieceNumber;
            last = piece.PieceNumber;
        }
        return (first, last, count);
    }

    /// <summary>A message of an mbox (RFC 4155, appendix A): a line that begins it, the message, an empty line. Lines of the message that
    /// look like a beginning are set off.</summary>
    static void Mbox(Stream target, MimeMessage message, DateTimeOffset date)
    {
        target.Write(
            Encoding.ASCII.GetBytes(
                $"From {message.From.Mailboxes.First().Address} "
                    + $"{date.UtcDateTime.ToString("ddd MMM dd HH:mm:ss yyyy", CultureInfo.InvariantCulture)}\n"
            )
        );
        var bytes = MessageMaker.Bytes(message);
        for (var at = 0; at < bytes.Length; )
        {
            var end = Array.IndexOf(bytes, (byte)'\n', at);
            if (end < 0)
                end = bytes.Length;
            var line = bytes.AsSpan(at, end - at);
            if (line.EndsWith("\r"u8))
                line = line[..^1];
            if (line.TrimStart((byte)'>').StartsWith("From "u8))
                target.WriteByte((byte)'>');
            target.Write(line);
            target.WriteByte((byte)'\n');
            at = end + 1;
        }
        target.WriteByte((byte)'\n');
    }
}
