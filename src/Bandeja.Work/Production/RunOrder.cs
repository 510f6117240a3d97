using System.Text.Json.Serialization;
using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Formats.Pdf;
using Bandeja.Work.Composition;
using Bandeja.Work.Freezing;

namespace Bandeja.Work.Production;

/// <summary>Who is to be made, in which order, and as what: what a run makes is one of these types, each with its own settings only. Of
/// pieces, recipients and segment at most one is given; without any, everyone who is Ready.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "output")]
[JsonDerivedType(typeof(OneFileOrder), "one")]
[JsonDerivedType(typeof(PartsOrder), "parts")]
[JsonDerivedType(typeof(EachOrder), "each")]
[JsonDerivedType(typeof(DocxOrder), "docx")]
[JsonDerivedType(typeof(DocxEachOrder), "docxeach")]
[JsonDerivedType(typeof(PrintOrder), "print")]
[JsonDerivedType(typeof(SendOrder), "email")]
[JsonDerivedType(typeof(MessageFilesOrder), "eml")]
[JsonDerivedType(typeof(MessageBoxOrder), "mbox")]
public abstract record RunOrder
{
    /// <summary>Ranges such as <c>1-200, 350</c>.</summary>
    public string? Pieces { get; init; }

    /// <summary>The selected recipients.</summary>
    public IReadOnlyList<long>? Recipients { get; init; }

    /// <summary>A segment of the drop's list.</summary>
    public long? SegmentId { get; init; }

    /// <summary>For beginning a run: how many pieces the plan said; another number is refused.</summary>
    public int? Expected { get; init; }

    /// <summary>piece, postal, or columns' ids divided by commas, each with a minus for descending; null for piece.</summary>
    public string? Sort { get; init; }

    /// <summary>What it makes.</summary>
    [JsonIgnore]
    public abstract RunOutput Output { get; }

    /// <summary>True to make pieces again that were produced, under the same numbers.</summary>
    [JsonIgnore]
    public virtual bool IsReprint => false;

    /// <summary>What is wrong with its settings, in a sentence; null where nothing.</summary>
    public virtual string? Objection(DateTimeOffset now) =>
        new[] { Pieces is not null, Recipients is not null, SegmentId is not null }.Count(x => x) > 1
            ? "Choose a range of pieces, the selected recipients, or a segment. You can choose only one."
            : null;
}

/// <summary>Where each piece is a file of its own, what it is called.</summary>
public interface INamedFiles
{
    /// <summary>The name without its ending, in the field language; null for piece number and name.</summary>
    string? NameBy { get; }

    /// <summary>The ending, with its dot.</summary>
    string Ending { get; }
}

/// <summary>Pieces on paper.</summary>
public abstract record PaperOrder : RunOrder
{
    /// <summary>For label sheets: where on a partly used sheet each design begins.</summary>
    public IReadOnlyList<SheetOrder>? Sheets { get; init; }

    /// <summary>The printer whose feed and offsets hold; null for none.</summary>
    public long? PrinterId { get; init; }

    /// <summary>Both sides, each piece on a sheet of its own.</summary>
    public bool Duplex { get; init; }

    /// <summary>The postage class for mail within the organization's own country.</summary>
    public string? Postage { get; init; }

    /// <summary>The postage class for mail to other countries.</summary>
    public string? PostageAbroad { get; init; }

    /// <inheritdoc cref="RunOrder.IsReprint"/>
    public bool Reprints { get; init; }

    /// <summary>For reprints: true for the values of now, false for those with which the pieces were produced; must be said where they
    /// differ.</summary>
    public bool? Corrected { get; init; }

    /// <summary>For reprints: only these designs, as where an envelope alone was spoiled; null for all.</summary>
    public IReadOnlyList<long>? Designs { get; init; }

    /// <inheritdoc/>
    [JsonIgnore]
    public override bool IsReprint => Reprints;

    /// <summary>How its pages and sheets come out.</summary>
    [JsonIgnore]
    public virtual PlanLayout Layout => new(Output, Duplex: Duplex);

    /// <inheritdoc/>
    public override string? Objection(DateTimeOffset now) =>
        base.Objection(now)
        ?? (
            Corrected is not null && !Reprints
                ? "Only a reprint chooses between pieces as they were and with corrections; a run takes the values of now."
            : Designs is not null && !Reprints ? "A run produces the whole package. Only reprints can use single designs."
            : null
        );
}

/// <summary>Pieces as PDFs.</summary>
public abstract record PdfOrder : PaperOrder
{
    /// <summary>The passwords that they open with; null for none.</summary>
    public PasswordOrder? Passwords { get; init; }

    /// <inheritdoc/>
    public override string? Objection(DateTimeOffset now) => base.Objection(now) ?? (Passwords is { } p ? OfPasswords(p) : null);

    string? OfPasswords(PasswordOrder p)
    {
        if (string.IsNullOrEmpty(p.Open) && string.IsNullOrEmpty(p.Owner))
            return "Enter at least one password, or turn off password protection.";
        foreach (var (password, by) in new[] { (p.Open, p.OpenBy), (p.Owner, p.OwnerBy) })
        {
            if (!by && System.Text.Encoding.UTF8.GetByteCount(password ?? "") > PdfProtection.MostPasswordBytes)
                return $"The password is longer than the limit of {PdfProtection.MostPasswordBytes} bytes.";
            if (by && (password ?? "").Length > 500)
                return "The password field is too long. The limit is 500 characters.";
            if (by && Output != RunOutput.Each)
                return "A different password for each recipient requires a PDF per recipient.";
        }
        return !string.IsNullOrEmpty(p.Open) && p.Open == p.Owner && p.OpenBy == p.OwnerBy
            ? "The two passwords are the same, so anyone who opens a file can also change its permissions. Enter different passwords."
            : null;
    }
}

/// <summary>One PDF for each design.</summary>
public sealed record OneFileOrder : PdfOrder
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override RunOutput Output => RunOutput.One;
}

/// <summary>PDFs of so many pieces each.</summary>
public sealed record PartsOrder : PdfOrder
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override RunOutput Output => RunOutput.Parts;

    /// <summary>Pieces of each file.</summary>
    public int? PartOf { get; init; }

    /// <inheritdoc/>
    [JsonIgnore]
    public override PlanLayout Layout => base.Layout with { PartOf = PartOf ?? 500 };

    /// <inheritdoc/>
    public override string? Objection(DateTimeOffset now) =>
        base.Objection(now) ?? (PartOf is >= 1 and <= 100_000 ? null : "Enter the number of pieces per file, from 1 to 100,000.");
}

/// <summary>A PDF for each recipient.</summary>
public sealed record EachOrder : PdfOrder, INamedFiles
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override RunOutput Output => RunOutput.Each;

    /// <inheritdoc/>
    public string? NameBy { get; init; }

    /// <summary>What becomes of forms' fields; null for what each form says.</summary>
    public FormOutput? Fields { get; init; }

    /// <inheritdoc/>
    [JsonIgnore]
    public string Ending => ".pdf";
}

/// <summary>The letters in one word processor document, the other designs as PDFs.</summary>
public sealed record DocxOrder : PaperOrder
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override RunOutput Output => RunOutput.Docx;
}

/// <summary>A word processor document for each recipient's letter; the other designs as a PDF beside it.</summary>
public sealed record DocxEachOrder : PaperOrder, INamedFiles
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override RunOutput Output => RunOutput.DocxEach;

    /// <inheritdoc/>
    public string? NameBy { get; init; }

    /// <inheritdoc/>
    [JsonIgnore]
    public string Ending => ".docx";
}

/// <summary>Sheets from a printer.</summary>
public sealed record PrintOrder : PaperOrder
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override RunOutput Output => RunOutput.Print;

    /// <summary>Pieces of each batch; 0 = one batch.</summary>
    public int BatchOf { get; init; }

    /// <summary>True for a separator sheet before each batch of letters.</summary>
    public bool BreakSheets { get; init; }

    /// <summary>Copies of each sheet.</summary>
    public int Copies { get; init; } = 1;

    /// <summary>True for Collate, false for sheet by sheet.</summary>
    public bool Collated { get; init; } = true;

    /// <inheritdoc/>
    [JsonIgnore]
    public override PlanLayout Layout => base.Layout with { BatchOf = BatchOf, Separators = BreakSheets, Copies = Copies };

    /// <inheritdoc/>
    public override string? Objection(DateTimeOffset now) =>
        base.Objection(now)
        ?? (
            PrinterId is null ? "Choose the printer."
            : Copies is < 1 or > 100 ? "The number of copies must be 1 to 100."
            : BatchOf is < 0 or > 100_000 ? "Batch size must be 0 (one batch) to 100,000 pieces."
            : null
        );
}

/// <summary>Messages.</summary>
public abstract record MessageOrder : RunOrder;

/// <summary>Messages that are sent.</summary>
public sealed record SendOrder : MessageOrder
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override RunOutput Output => RunOutput.Email;

    /// <summary>The account that sends.</summary>
    public long? AccountId { get; init; }

    /// <summary>When it begins; null for at once.</summary>
    public DateTimeOffset? NotBefore { get; init; }

    /// <inheritdoc/>
    public override string? Objection(DateTimeOffset now) =>
        base.Objection(now)
        ?? (
            AccountId is null ? "Choose the account to send with."
            : NotBefore is { } when && (when < now.AddMinutes(-2) || when > now.AddDays(366))
                ? "The time to send is in the past, or more than a year ahead."
            : null
        );
}

/// <summary>Messages as files (RFC 5322).</summary>
public sealed record MessageFilesOrder : MessageOrder, INamedFiles
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override RunOutput Output => RunOutput.Eml;

    /// <inheritdoc/>
    public string? NameBy { get; init; }

    /// <inheritdoc/>
    [JsonIgnore]
    public string Ending => ".eml";
}

/// <summary>Messages in one mailbox file (RFC 4155).</summary>
public sealed record MessageBoxOrder : MessageOrder
{
    /// <inheritdoc/>
    [JsonIgnore]
    public override RunOutput Output => RunOutput.Mbox;
}
