using Bandeja.Core.Composition;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Mail;

namespace Bandeja.Core.Emails;

/// <summary>An attachment with its texts parsed.</summary>
sealed record BoundAttach(MailAttach Attach, Template Name, Template? Password, Expression? Source);

/// <summary>
/// An email bound to a list's columns: its headers, its body and the names of what is attached are parsed once. Safe to share; an
/// <see cref="EmailComposer"/> serves one thread.
/// </summary>
public sealed class BoundEmail : IBoundDesign
{
    internal IReadOnlyList<TemplatePart> Body { get; }
    internal Template Subject { get; }
    internal Template Preheader { get; }
    internal Template FromName { get; }
    internal Template FromAddress { get; }
    internal Template ReplyTo { get; }
    internal Template? To { get; }
    internal Template Cc { get; }
    internal Template Bcc { get; }
    internal IReadOnlyList<BoundAttach> Attachments { get; }

    /// <summary>The position of the list's email column; -1 where it has none.</summary>
    internal int AddressColumn { get; }

    /// <summary>What is wrong with the body's pictures for everybody.</summary>
    internal LayoutNotes SharedNotes { get; }

    /// <summary>Binds a design.</summary>
    public BoundEmail(EmailDesign design, LetterSetting setting)
    {
        (Design, Setting) = (design, setting);
        var names = setting.Names;
        var errors = new List<DesignError>();
        var maker = new FlowMaker(setting.Fonts, NewContext(default), setting.Pictures, setting.Own);
        var binder = new BlockBinder(maker, errors);
        Body = binder.Bind(design.Blocks, names, new(0, design.Width, [], null, false, "the body"));
        SharedNotes = maker.SharedNotes;
        Template Parsed(string text, string place)
        {
            var template = Template.Parse(text, names);
            errors.AddRange(
                template.Errors.Select(e => new DesignError(0, text, e with { Message = $"{e.Message} Location: the {place}." }))
            );
            return template;
        }
        void Wrong(string text, string message) => errors.Add(new(0, text, new(0, text.Length, message)));
        Subject = Parsed(design.Subject, "subject");
        Preheader = Parsed(design.Preheader, "preview text");
        (FromName, FromAddress, ReplyTo) = (
            Parsed(design.FromName, "sender's name"),
            Parsed(design.FromAddress, "sender's address"),
            Parsed(design.ReplyTo, "reply-to")
        );
        (To, Cc, Bcc) = (
            design.To.Length == 0 ? null : Parsed(design.To, "recipient's address"),
            Parsed(design.Cc, "Cc"),
            Parsed(design.Bcc, "Bcc")
        );
        AddressColumn = setting.Columns.ToList().FindIndex(c => c.Role == Role.Email);
        if (design.Subject.Length == 0)
            Wrong("", "The email has no subject yet.");
        if (design.FromAddress.Length == 0)
            Wrong("", "The email has no sender address yet.");
        else if (FromAddress.Parts.All(p => p is PlainPart) && MailAddresses.One(design.FromAddress) is null)
            Wrong(design.FromAddress, $"“{design.FromAddress}” is not a valid sender address.");
        if (To is null && AddressColumn < 0 && setting.Columns.Count > 0)
            Wrong("", "The list has no email column. Choose the column that contains the address.");
        foreach (
            var (name, template, text) in new[] { ("Cc", Cc, design.Cc), ("Bcc", Bcc, design.Bcc), ("reply-to", ReplyTo, design.ReplyTo) }
        )
            if (template.Parts.All(p => p is PlainPart) && MailAddresses.Read(text).Wrong is [var wrong, ..])
                Wrong(text, $"“{wrong}” in the {name} is not an email address.");
        Attachments =
        [
            .. design.Attachments.Select(a =>
            {
                var password = a is DesignAttach { Password: { } p } ? Parsed(p, "password of an attachment") : null;
                // A word that is the same for everybody would stand in the design for all to read, and protect nothing.
                if (password is not null && password.Errors.Count == 0 && !password.Parts.Any(x => x is not PlainPart))
                    Wrong(((DesignAttach)a).Password!, "The attachment password must use a field, such as {Member no.}.");
                Expression? source = null;
                if (a is FolderAttach { Source: var text })
                {
                    var parsed = FieldParser.ParseExpression(text, names);
                    if (string.IsNullOrWhiteSpace(text))
                        Wrong(
                            "",
                            "Say what the recipient's own file is named by: a column, or an expression such as Member no. & \".pdf\"."
                        );
                    else
                        foreach (var error in parsed.Errors)
                            errors.Add(new(0, text, error));
                    source = parsed.Expression;
                }
                return new BoundAttach(a, Parsed(a.Name, "name of an attachment"), password, source);
            }),
        ];
        if (binder.Mailers.Count > 0)
            Wrong("", "An Intelligent Mail barcode works only on envelopes and labels. Remove it from the email.");
        Errors = errors;
        UsedColumns =
            DesignReading.Used(this.Expressions(), setting.Columns, false) is var used && To is null && AddressColumn >= 0
                ? [.. used.Append(AddressColumn).Distinct().Order()]
                : used;
    }

    /// <summary>The design.</summary>
    public EmailDesign Design { get; }

    /// <inheritdoc/>
    public LetterSetting Setting { get; }

    /// <inheritdoc/>
    public PieceKind Kind => PieceKind.Email;

    /// <inheritdoc/>
    public (double Width, double Height)? Size => null;

    /// <inheritdoc/>
    public IReadOnlyList<DesignError> Errors { get; }

    /// <inheritdoc/>
    public IReadOnlyList<int> UsedColumns { get; }

    /// <inheritdoc/>
    public int? MaxPages => null;

    /// <inheritdoc/>
    public IReadOnlyList<string> Mailers => [];

    /// <summary>What the recipients' address is called: the heading of its column, where it has one.</summary>
    public string AddressName =>
        To is { } to
            ? to.Parts.OfType<FieldPart>().SelectMany(f => f.Field.Columns()).Select(i => Setting.Columns[i].Name).FirstOrDefault()
            ?? "recipient's address"
        : AddressColumn >= 0 ? Setting.Columns[AddressColumn].Name
        : "recipient's address";

    /// <summary>True where everybody gets it from the same address.</summary>
    public bool FromIsFixed => FromAddress.Parts.All(p => p is PlainPart);

    /// <summary>True where an attachment is protected by a password.</summary>
    public bool HasPasswords => Attachments.Any(a => a.Password is not null);

    /// <summary>The designs whose PDFs are attached.</summary>
    public IReadOnlyList<long> AttachedDesigns => [.. Design.Attachments.OfType<DesignAttach>().Select(a => a.DesignId).Distinct()];

    IEnumerable<Template> Headers =>
        [
            Subject,
            Preheader,
            FromName,
            FromAddress,
            ReplyTo,
            .. To is null ? Array.Empty<Template>() : [To],
            Cc,
            Bcc,
            .. Attachments.Select(a => a.Name),
            .. Attachments.Select(a => a.Password).OfType<Template>(),
        ];

    /// <inheritdoc/>
    public IEnumerable<TemplatePart> Parts => Body.Concat(Headers.SelectMany(h => h.Parts));

    /// <inheritdoc/>
    public IEnumerable<Expression> Unprinted => Attachments.Select(a => a.Source).OfType<Expression>();

    /// <inheritdoc/>
    public IPieceComposer Composer(DateOnly today) => new EmailComposer(this, today);

    /// <inheritdoc/>
    public EvaluationContext NewContext(DateOnly today) =>
        new(Setting.Columns, Setting.Locale, today, Setting.Details, Setting.Sender, Setting.Addressing);
}
