using System.Security.Cryptography;
using System.Text;
using Bandeja.Core.Composition;
using Bandeja.Core.Emails;
using Bandeja.Core.Mail;
using Bandeja.Formats.Pdf;
using Bandeja.Store;
using Bandeja.Store.Runs;
using Bandeja.Work.Freezing;
using MimeKit;

namespace Bandeja.Work.Mail;

/// <summary>A message of a run, ready to be handed over.</summary>
/// <param name="Mail">What it was made from: sender and recipients of the envelope.</param>
/// <param name="Problem">Why it cannot be sent; null where it can.</param>
/// <param name="Copy">What goes to who is copied; null where nobody is.</param>
public sealed record ReadyMail(RunPiece Piece, ComposedMail Mail, MimeMessage? Message, string? Problem, MimeMessage? Copy = null);

/// <summary>The messages of a run as they were frozen. Serves one thread.</summary>
public sealed class FrozenMail
{
    readonly FrozenRun frozen;
    readonly Messages messages;
    readonly string unsubscribe;
    readonly byte[] seed;
    readonly int email;
    readonly FontPrograms programs = new();
    readonly MemoryStream scratch = new();

    /// <summary>Opens a run's messages.</summary>
    public FrozenMail(FrozenRun frozen, Messages messages, RunSecret? secret, PublicAddress address)
    {
        (this.frozen, this.messages, unsubscribe) = (frozen, messages, address.UnsubscribeOf(frozen.Setting.Organization));
        seed = secret?.Seed ?? SHA256.HashData(Encoding.UTF8.GetBytes($"run {frozen.Run.Id}"));
        email = frozen.Bound.ToList().FindIndex(b => b is BoundEmail);
        if (email < 0)
            throw new ConflictException("This run has no email.");
    }

    /// <summary>The run.</summary>
    public FrozenRun Run => frozen;

    /// <summary>Makes a recipient's message.</summary>
    /// <param name="date">What stands in it as its date.</param>
    public ReadyMail Make(RunPiece piece, DueMail due, DateTimeOffset date)
    {
        var mail = frozen.Compose(piece, email).Mail!;
        if (mail.To is null || mail.From is null)
            return new(piece, mail, null, mail.Issues.Count > 0 ? mail.Issues[0].Message : "The message has no address.");
        try
        {
            var message = Made(mail, mail.Unsubscribe ? unsubscribe + due.Token : null);
            return new(
                piece,
                mail,
                message,
                null,
                mail.Copy is not { } copy ? null
                    : mail.CopiesWhole ? message
                    : Made(copy, null)
            );
        }
        catch (ConflictException e)
        {
            return new(piece, mail, null, e.Message);
        }

        MimeMessage Made(ComposedMail what, string? link) =>
            messages.Make(
                what,
                new(due.MessageId, date, link),
                PieceOf,
                $"{frozen.Drop.CampaignName}, {frozen.Drop.Name}, piece {piece.PieceNumber:0000}",
                frozen.Created,
                frozen.Language,
                seed,
                programs,
                scratch
            );
        ComposedPiece? PieceOf(long designId) =>
            frozen.Run.Designs.ToList().FindIndex(d => d.DesignId == designId) is >= 0 and var at ? frozen.Compose(piece, at) : null;
    }
}
