using Bandeja.Core.Drops;
using Bandeja.Core.Emails;
using Bandeja.Core.Lists;
using Bandeja.Core.Mail;
using Bandeja.Formats.Mail;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Work.Composition;
using Dapper;
using Microsoft.Data.Sqlite;
using MimeKit;

namespace Bandeja.Work.Mail;

/// <summary>What a run of messages freezes.</summary>
/// <param name="Designs">The email and the designs that it attaches.</param>
/// <param name="Domain">Behind the @ of each Message-ID.</param>
/// <param name="HasPasswords">True where an attachment is protected.</param>
/// <param name="Objection">Why none may be sent; null where they may.</param>
/// <param name="Setting">The field in Settings that would change that: postal-address or public-address; null where it is not
/// there.</param>
public sealed record MailSealing(IReadOnlyList<long> Designs, string Domain, bool HasPasswords, string? Objection, string? Setting = null);

/// <summary>What is to be known before messages are sent, and what keeps them from being sent at all.</summary>
public sealed class MailPlan(
    Database database,
    Letters letters,
    Messages messages,
    SettingStore settings,
    PublicAddress address,
    TimeProvider time
)
{
    /// <summary>What a run would send: the first message, one in the middle, the last, each made in full.</summary>
    /// <param name="real">True where it is sent to recipients and not to the practice post office or into files.</param>
    public MailPlanView Of(long dropId, RunPlan plan, bool real)
    {
        using var c = database.Open();
        var drop = DropStore.Drop(c, dropId);
        var sealing = Sealing(c, drop, real);
        var remarks = new List<string>();
        if (Email(c, drop) is { Design.Unsubscribe: true } && address.Remark is { } remark)
            remarks.Add(remark);
        if (plan.Pieces.Count == 0 || sealing.Designs.Count == 0)
            return new([], sealing.Objection, remarks, [], 0, sealing.Setting);
        var chosen = new[] { 0, plan.Pieces.Count / 2, plan.Pieces.Count - 1 }.Distinct().Select(i => plan.Pieces[i].RecipientId).ToList();
        var columns = RowTable.Columns(c, drop.ListId);
        var composer = new PackageComposer(c, letters, drop);
        var (shared, copies, beyondAscii) = Looked(c, drop, columns, composer, plan);
        if (copies > 0)
            remarks.Add(
                $"{copies:N0} {(copies == 1 ? "copy goes" : "copies go")} out beside the {plan.Pieces.Count:N0} "
                    + (
                        Email(c, drop)!.Design.CopiesWhole
                            ? "messages, with the recipients' own files and links."
                            : "messages; they carry neither the recipients' own files nor their links."
                    )
            );
        if (beyondAscii.Count > 0)
            remarks.Add(
                $"{(beyondAscii.Count == 1 ? "1 address has" : $"{beyondAscii.Count:N0} addresses have")} letters beyond ASCII "
                    + $"before the @ ({string.Join(", ", beyondAscii.Take(3))}{(beyondAscii.Count > 3 ? ", …" : "")}). They arrive "
                    + "if the account's server offers SMTPUTF8. Otherwise, these messages are excluded and stay Ready."
            );
        return new(
            [
                .. DropStore
                    .Recipients(c, drop, columns, chosen)
                    .Select(r => Sample(r, RecipientLabel.Of(columns, i => r.Values[i]).Name, composer.Compose(r))),
            ],
            sealing.Objection,
            remarks,
            shared,
            copies,
            sealing.Setting
        );
    }

    /// <summary>Addresses that would get more than one message: of this run, or together with what was sent before.</summary>
    /// <remarks>Goes through everybody once: with the copies of their messages, and the addresses that not every server takes.</remarks>
    static (IReadOnlyList<SharedAddress> Shared, int Copies, IReadOnlyList<string> BeyondAscii) Looked(
        SqliteConnection c,
        DropRow drop,
        IReadOnlyList<Column> columns,
        PackageComposer composer,
        RunPlan plan
    )
    {
        var copies = 0;
        var beyond = new List<string>();
        var sent = c.Query<string>(
                "SELECT m.address FROM run_mail m JOIN run u ON u.id = m.run_id WHERE u.drop_id = @Id AND m.state IN ('sent', "
                    + "'doubt') AND m.address <> ''",
                new { drop.Id }
            )
            .GroupBy(a => a.ToLowerInvariant())
            .ToDictionary(g => g.Key, g => g.Count());
        var pieces = plan
            .Pieces.Select(p => p.RecipientId)
            .Chunk(5000)
            .SelectMany(ids => DropStore.Recipients(c, drop, columns, ids))
            .Select(r =>
            {
                var address = composer.AddressOf(r);
                copies += composer.CopiesOf(r);
                if (address is not null && !System.Text.Ascii.IsValid(address))
                    beyond.Add(address);
                return (
                    Address: address?.ToLowerInvariant(),
                    Piece: new SharedPiece(r.PieceNumber, RecipientLabel.Of(columns, i => r.Values[i]).Name)
                );
            })
            .Where(r => r.Address is not null)
            .ToList();
        IReadOnlyList<SharedAddress> shared =
        [
            .. pieces
                .GroupBy(r => r.Address!)
                .Where(g => g.Count() + sent.GetValueOrDefault(g.Key) > 1)
                .Select(g => new SharedAddress(g.Key, [.. g.Select(r => r.Piece).Take(20)], sent.GetValueOrDefault(g.Key)))
                .OrderByDescending(s => s.Pieces.Count + s.Sent)
                .Take(100),
        ];
        return (shared, copies, beyond);
    }

    MailSample Sample(DropRecipient r, string name, ComposedPackage composed)
    {
        var mail = composed.Mail!;
        try
        {
            var message = Trial(r, composed, null);
            return new(
                r.PieceNumber,
                name,
                $"{mail.From}",
                $"{mail.To}",
                mail.Subject,
                FilesOf(mail, message),
                MessageMaker.Bytes(message).Length,
                null
            );
        }
        catch (Exception e) when (e is ConflictException or InvalidOperationException)
        {
            return new(
                r.PieceNumber,
                name,
                $"{mail.From}",
                $"{mail.To}",
                mail.Subject,
                [],
                0,
                e is ConflictException ? e.Message : mail.Issues.Select(d => d.Message).FirstOrDefault() ?? e.Message
            );
        }
    }

    /// <summary>What is attached to a message, as it was made.</summary>
    public static IReadOnlyList<MailFileView> FilesOf(ComposedMail mail, MimeMessage message) =>
        [
            .. message
                .Attachments.OfType<MimePart>()
                .Zip(
                    mail.Attachments,
                    (part, a) =>
                        new MailFileView(a.FileName, part.Content is { } content ? content.Stream!.Length : 0, a.Password is not null)
                ),
        ];

    /// <summary>A recipient's message as it would be now, outside of any run.</summary>
    /// <param name="to">Where it goes instead, as a test; null for a look at it alone.</param>
    public MimeMessage Trial(DropRecipient r, ComposedPackage composed, MailParty? to)
    {
        var mail = composed.Mail ?? throw new ConflictException("This recipient gets no email.");
        if (to is not null)
            mail = mail with { To = to, Cc = [], Bcc = [] };
        var domain = mail.From?.Address.Split('@')[^1] ?? "bandeja.invalid";
        var identity = new MessageIdentity(
            $"{(to is null ? "look" : "test")}.{r.PieceNumber:0000}.{Guid.NewGuid():N}@{domain}",
            time.GetLocalNow(),
            to is null ? null : address.Unsubscribe + "test",
            to is not null
        );
        return messages.Make(
            mail,
            identity,
            design => composed.Bound.ToList().FindIndex(b => b.Design.DesignId == design) is >= 0 and var at ? composed.Pieces[at] : null,
            $"piece {r.PieceNumber:0000}",
            time.GetLocalNow(),
            settings.Organization().ToLocale().Tag,
            System.Security.Cryptography.RandomNumberGenerator.GetBytes(32)
        );
    }

    BoundEmail? Email(SqliteConnection c, DropRow drop) =>
        letters.Package(c, drop).Select(p => p.Bound).OfType<BoundEmail>().FirstOrDefault();

    /// <summary>What a run of a drop's messages would freeze, and what is in its way.</summary>
    /// <param name="real">True where it is sent to recipients and not to the practice post office or into files.</param>
    public MailSealing Sealing(SqliteConnection c, DropRow drop, bool real)
    {
        var package = letters.Package(c, drop);
        var (design, bound) = package.FirstOrDefault(p => p.Design.IsEmail);
        if (bound is not BoundEmail email)
            return new([], "", false, "This drop's package has no email. Add one under What.");
        var attached = email.AttachedDesigns.Where(a => package.Any(p => p.Design.DesignId == a)).ToList();
        var fixedFrom = email.FromIsFixed ? MailAddresses.One(email.Design.FromAddress) : null;
        string? objection = null,
            setting = null;
        var mistaken = package
            .Where(p => p.Bound.Errors.Count > 0 && (p.Design.DesignId == design.DesignId || attached.Contains(p.Design.DesignId)))
            .Select(p => (p.Design.Name, p.Bound.Errors[0].Error.Message))
            .ToList();
        if (mistaken.Count > 0)
            objection = $"“{mistaken[0].Name}” has an error. Fix it before sending: {mistaken[0].Message}";
        else if (email.AttachedDesigns.Count > attached.Count)
            objection =
                $"The email attaches “{DesignStore.NameOf(c, email.AttachedDesigns.First(a => !attached.Contains(a)))}”, which is "
                + "not in the package. Add it under What, or remove it from the email.";
        else if (email.Design.Unsubscribe && string.IsNullOrWhiteSpace(settings.Organization().PostalAddress))
            (objection, setting) = (
                "The email’s footer needs your postal address, and none is set. Enter it in Settings.",
                "postal-address"
            );
        else if (real && email.Design.Unsubscribe && address.Objection is { } unreachable)
            (objection, setting) = (unreachable, "public-address");
        return new(
            [design.DesignId, .. attached],
            fixedFrom?.Address.Split('@')[^1] ?? "bandeja.invalid",
            email.HasPasswords,
            objection,
            setting
        );
    }
}
