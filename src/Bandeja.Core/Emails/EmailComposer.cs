using System.Text;
using Bandeja.Core.Composition;
using Bandeja.Core.Formulas;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Mail;

namespace Bandeja.Core.Emails;

/// <summary>Composes recipients' emails, one after another. Not safe to share between threads.</summary>
public sealed class EmailComposer : IPieceComposer
{
    /// <summary>The most bytes of a password that count (ISO 32000-2, section 7.6.4.3.3).</summary>
    const int MostPasswordBytes = 127;
    readonly BoundEmail email;
    readonly EvaluationContext context;
    readonly FlowMaker maker;

    /// <summary>Begins composing.</summary>
    /// <param name="today">The day of the run.</param>
    public EmailComposer(BoundEmail email, DateOnly today)
    {
        this.email = email;
        context = email.NewContext(today);
        maker = new(email.Setting.Fonts, context, email.Setting.Pictures);
    }

    /// <inheritdoc/>
    public ComposedPiece Compose(IRow row, int pieceNumber, Func<string, long>? serial = null)
    {
        context.For(row, pieceNumber, serial);
        var (design, issues, found) = (email.Design, new List<MailIssue>(), new LayoutNotes());
        string Header(Template template, string place)
        {
            context.Place = $"the {place}";
            return HeaderText.Clean(template.Print(context));
        }
        var subject = Header(email.Subject, "subject");
        var preheader = Header(email.Preheader, "preview text");
        var fromName = Header(email.FromName, "sender's name");
        var fromText = Header(email.FromAddress, "sender's address");
        var from = MailAddresses.One(fromText) is { } sender ? new MailParty(fromName, sender.Address) : null;
        if (from is null && fromText.Length > 0)
            issues.Add(
                new(MailIssueKind.Header, "sender's address", fromText, $"“{Evaluator.Short(fromText)}” is not a valid sender address.")
            );
        IReadOnlyList<MailParty> Several(Template template, string place)
        {
            // Who is copied may well be blank for most: a blank field there is no issue.
            var before = context.Problems.Count;
            var text = Header(template, place);
            context.Problems.RemoveAll(p => context.Problems.IndexOf(p) >= before && p.Kind == ProblemKind.Blank);
            var (parties, wrong) = MailAddresses.Read(text);
            foreach (var w in wrong)
                issues.Add(new(MailIssueKind.Header, place, w, $"“{Evaluator.Short(w)}” in the {place} is not an email address."));
            return parties;
        }
        var (replyTo, cc, bcc) = (Several(email.ReplyTo, "reply-to"), Several(email.Cc, "Cc"), Several(email.Bcc, "Bcc"));
        var to = Recipient(row, issues);

        var html = new MailHtml(maker, context, found);
        var body = html.Write(email.Body, design.Type);
        var attachments = Attachments(row, pieceNumber, issues);
        var foot = design.Unsubscribe ? MailFoot.Of(email.Setting) : null;
        var notes = new LayoutNotes();
        foreach (var picture in found.Pictures.Concat(email.SharedNotes.Pictures).Where(p => p.Issue == PictureIssue.Missing))
            notes.Pictures.Add(picture);
        notes.Barcodes.AddRange(found.Barcodes);
        foreach (var p in design.Plain ? [] : html.Pictures)
            if (p.Asset is { } asset && email.Setting.Pictures?.Invoke(asset) is { IsPage: true })
                issues.Add(
                    new(
                        MailIssueKind.Picture,
                        "picture",
                        asset,
                        "Email programs cannot show a PDF page in a message. Save it as a picture, or attach the PDF."
                    )
                );
        foreach (var says in html.DeadButtons)
            issues.Add(
                new(
                    MailIssueKind.Link,
                    "button",
                    says,
                    $"The button “{Evaluator.Short(says)}” has no web address for this recipient, so it will not be shown."
                )
            );
        var mail = new ComposedMail(
            subject,
            preheader,
            from,
            to,
            replyTo,
            cc,
            bcc,
            design.Plain ? null : MailFrame.Of(subject, preheader, body.Html, foot, context.Locale.Tag, design.Type),
            body.Text.TrimEnd() + "\n" + (foot is null ? "" : MailFoot.Plain(foot)),
            design.Plain ? [] : html.Pictures,
            attachments,
            design.Unsubscribe,
            issues
        )
        {
            CopiesWhole = design.CopiesWhole,
        };
        return new([], context.Problems.Count == 0 ? [] : [.. context.Problems.Distinct()], notes) { Mail = mail };
    }

    /// <summary>What the recipient's email cell holds.</summary>
    public CellVerdict Cell(IRow row) =>
        MailAddresses
            .Cell(
                email.To is { } to ? to.Print(context.For(row, 0))
                : email.AddressColumn >= 0 ? row[email.AddressColumn]
                : null
            )
            .Verdict;

    /// <summary>The address to which a recipient's message goes; null where there is not exactly one.</summary>
    public string? Address(IRow row) =>
        MailAddresses.Cell(
            email.To is { } to ? to.Print(context.For(row, 0))
            : email.AddressColumn >= 0 ? row[email.AddressColumn]
            : null
        )
            is
            (CellVerdict.Good, { } party)
            ? party.Address
            : null;

    /// <summary>How many copies of a recipient's message go out, seen and blind.</summary>
    public int Copies(IRow row)
    {
        if (email.Design.Cc.Length + email.Design.Bcc.Length == 0)
            return 0;
        context.For(row, 0);
        return new[] { email.Cc, email.Bcc }
            .SelectMany(t => MailAddresses.Read(HeaderText.Clean(t.Print(context))).Parties)
            .DistinctBy(p => p.Address, StringComparer.OrdinalIgnoreCase)
            .Count();
    }

    MailParty? Recipient(IRow row, List<MailIssue> issues)
    {
        var (subject, text) = ("recipient's address", "");
        if (email.To is { } to)
        {
            context.Place = "the recipient's address";
            text = to.Print(context);
            if (to.Parts.OfType<FieldPart>().FirstOrDefault() is { } field)
                subject = Evaluator.FieldName(field.Field, context);
        }
        else if (email.AddressColumn >= 0)
            (subject, text) = (email.Setting.Columns[email.AddressColumn].Name, row[email.AddressColumn] ?? "");
        var (verdict, party) = MailAddresses.Cell(text);
        var shown = Evaluator.Short(HeaderText.Clean(text));
        switch (verdict)
        {
            case CellVerdict.Good:
                return party! with { Name = NameOf(row) };
            // A field that is blank is told as that already.
            case CellVerdict.Blank
                when email.To is not null && context.Problems.Any(p => p.Kind == ProblemKind.Blank && p.Field == subject):
                return null;
            case CellVerdict.Blank:
                issues.Add(new(MailIssueKind.Address, subject, "", $"{subject} is blank, so no email can be sent."));
                break;
            case CellVerdict.Several:
                issues.Add(
                    new(
                        MailIssueKind.Address,
                        subject,
                        text,
                        $"{subject} has more than one address: “{shown}”. Keep only the one to send to."
                    )
                );
                break;
            default:
                issues.Add(new(MailIssueKind.Address, subject, text, $"“{shown}” is not an email address."));
                break;
        }
        return null;
    }

    string NameOf(IRow row)
    {
        if (HeaderText.Clean(RoleText(row, Role.AddressedTo)) is { Length: > 0 } household)
            return household;
        var name = HeaderText.Clean(
            context.BuiltInValue(BuiltIn.GivenAndFamilyName) is { IsBlank: false } v ? v.Text : RoleText(row, Role.FullName)
        );
        return name.Length > 0 ? name : HeaderText.Clean(RoleText(row, Role.Organization));
    }

    string RoleText(IRow row, Role role) =>
        email.Setting.Columns.ToList().FindIndex(c => c.Role == role) is >= 0 and var at ? row[at] ?? "" : "";

    List<MailAttachment> Attachments(IRow row, int pieceNumber, List<MailIssue> issues)
    {
        var all = new List<MailAttachment>();
        var taken = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        string Named(BoundAttach a, string otherwise, string? ending)
        {
            context.Place = "the name of an attachment";
            var text = a.Attach.Name.Length == 0 ? "" : a.Name.PrintPlain(context);
            var own = ending ?? Ending(text);
            if (own.Length > 0 && text.EndsWith(own, StringComparison.OrdinalIgnoreCase))
                text = text[..^own.Length];
            // A name is never a path: whatever stands before the last slash is dropped, and what no system takes is replaced.
            var stem = FileNames.Safe(text, otherwise, FileNames.Longest - own.Length - 4);
            var name = stem + own;
            for (var n = 2; !taken.Add(name); n++)
                name = $"{stem} {n}{own}";
            return name;
        }
        // An ending tells programs what a file is: letters and digits only, else it is a part of the name.
        static string Ending(string name) =>
            Path.GetExtension(name) is { Length: > 1 and < 12 } e && e.Skip(1).All(char.IsAsciiLetterOrDigit) ? e : "";
        foreach (var bound in email.Attachments)
        {
            switch (bound.Attach)
            {
                case DesignAttach design:
                    string? password = null;
                    if (bound.Password is { } template)
                    {
                        context.Place = "the password of an attachment";
                        password = template.PrintPlain(context).Trim();
                        if (password.Length == 0)
                            issues.Add(
                                new(
                                    MailIssueKind.Password,
                                    "password",
                                    "",
                                    "The attachment password is blank, so the file cannot be protected."
                                )
                            );
                        else if (Encoding.UTF8.GetByteCount(password) > MostPasswordBytes)
                            issues.Add(
                                new(
                                    MailIssueKind.Password,
                                    "password",
                                    "long",
                                    $"The attachment password is longer than the limit of {MostPasswordBytes} bytes."
                                )
                            );
                    }
                    all.Add(
                        new(
                            Named(bound, $"{pieceNumber:0000}", design.AsDocument ? ".docx" : ".pdf"),
                            design.DesignId,
                            password,
                            null,
                            0,
                            true,
                            design.AsDocument
                        )
                    );
                    break;
                case FileAttach same:
                    all.Add(new(Named(bound, "attachment", null), null, null, same.File, same.Size));
                    break;
                case FolderAttach folder when bound.Source is { } source:
                    context.Place = "an attachment";
                    var before = context.Problems.Count;
                    var wanted = Evaluator.PrintPlain(source, context).Trim();
                    var subject = Evaluator.FieldName(source, context);
                    // Only the name counts: a path in a list leads nowhere. An ending alone names nothing.
                    var leaf = wanted[(wanted.LastIndexOfAny(['/', '\\']) + 1)..];
                    if (Path.GetFileNameWithoutExtension(leaf).AsSpan().Trim().IsEmpty)
                    {
                        // Told once, as the missing file that it is.
                        context.Problems.RemoveRange(before, context.Problems.Count - before);
                        issues.Add(new(MailIssueKind.Attachment, subject, "", $"{subject} is blank, so there is no file to attach."));
                        break;
                    }
                    var isOwn = folder.FolderId == FolderAttach.OwnDocuments;
                    var file = isOwn
                        ? email.Setting.Own?.Invoke(context.Row.Recipient, leaf) is { } kept
                            ? new MailFileFacts(kept.File, kept.Name, kept.Size)
                            : null
                        : email.Setting.Files?.Invoke(folder.FolderId, leaf);
                    if (file is not { } found)
                        issues.Add(
                            new(
                                MailIssueKind.Attachment,
                                subject,
                                leaf,
                                isOwn
                                    ? $"This recipient has no document named “{Evaluator.Short(leaf)}”."
                                    : $"The file “{Evaluator.Short(leaf)}” is not in the attachment folder."
                            )
                        );
                    else
                    {
                        var ending = Ending(found.Name);
                        var own =
                            folder.Name.Length > 0
                                ? Named(bound, Path.GetFileNameWithoutExtension(found.Name), ending)
                                : Named(
                                    bound with
                                    {
                                        Attach = folder with { Name = found.Name },
                                        Name = Template.Parse(Template.Escape(found.Name), new Names([])),
                                    },
                                    "attachment",
                                    ending
                                );
                        all.Add(new(own, null, null, found.File, found.Size, true));
                    }
                    break;
            }
        }
        // Base64 makes four bytes of three (RFC 2045, section 6.8); the text itself hardly counts beside files.
        var size = all.Sum(a => a.Size) * 4 / 3;
        if (size > email.Design.SizeLimit)
            issues.Add(
                new(
                    MailIssueKind.TooLarge,
                    "attachments",
                    $"{size}",
                    $"The attachments total {size / 1e6:0.0} MB. The limit is {email.Design.SizeLimit / 1e6:0.#} MB."
                )
            );
        return all;
    }
}
