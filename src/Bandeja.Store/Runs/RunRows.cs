using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Store.Drops;

namespace Bandeja.Store.Runs;

/// <summary>A run.</summary>
public sealed record RunRow
{
    public long Id { get; init; }
    public long DropId { get; init; }
    public long Number { get; init; }
    public RunState State { get; init; }
    public long Pieces { get; init; }
    public long Pages { get; init; }
    public long AsOfChange { get; init; }
    public DateOnly Today { get; init; }
    public string Chosen { get; init; } = "";
    public string CreatedAt { get; init; } = "";
    public string CreatedBy { get; init; } = "";
    public string? FinishedAt { get; init; }
    public string? Message { get; init; }

    /// <summary>What it makes.</summary>
    public RunOutput Output { get; init; }

    /// <summary>True where it makes or sends messages.</summary>
    public bool IsEmail => Output.IsMail();

    /// <summary>The kind of work that makes it.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public string Work =>
        Output switch
        {
            RunOutput.Print => "print",
            RunOutput.Email => "send",
            RunOutput.One or RunOutput.Parts or RunOutput.Each or RunOutput.Docx or RunOutput.DocxEach or RunOutput.Eml or RunOutput.Mbox =>
                "run",
        };

    /// <summary>The account that sends.</summary>
    public long? AccountId { get; init; }

    /// <summary>It does not begin before this moment; null for at once.</summary>
    public string? NotBefore { get; init; }

    /// <summary>piece, postal, or columns' ids.</summary>
    public string Sort { get; init; } = "piece";
    public string SettingsJson { get; init; } = "{}";

    /// <summary>Encrypted; null where no file is protected. Never sent to a browser.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public string? Secret { get; init; }

    [System.Text.Json.Serialization.JsonIgnore]
    public string? FrozenJson { get; init; }
    public bool Protected => Secret is not null;
    public long? ReprintOf { get; init; }

    /// <summary>For a reprint: true where it takes corrections made since, false where it prints the pieces as they were.</summary>
    public bool Corrected { get; init; }

    /// <summary>The number of the run that it repeats.</summary>
    public long? ReprintOfNumber { get; init; }
    public long? DeviceId { get; init; }
    public string? FilesGoneAt { get; init; }
    public long Waiting { get; init; }
    public long Mailed { get; init; }
    public long HeldBack { get; init; }
    public long Printed { get; init; }
    public long CorrectedSince { get; init; }
    public long? JobId { get; init; }
    public string? PrinterJson { get; init; }

    /// <summary>What it makes of, in the package's order.</summary>
    public IReadOnlyList<RunDesign> Designs { get; init; } = [];

    /// <summary>What it made; empty until it is done.</summary>
    public IReadOnlyList<RunFile> Files { get; init; } = [];
}

/// <summary>A design of a run in its version.</summary>
public sealed record RunDesign
{
    public long RunId { get; init; }
    public long Position { get; init; }
    public long DesignId { get; init; }
    public string Name { get; init; } = "";
    public PieceKind Kind { get; init; }
    public long DesignVersionId { get; init; }
    public long DesignVersion { get; init; }
    public long Pages { get; init; }
    public string? StartJson { get; init; }
}

/// <summary>A file that a run made.</summary>
public sealed record RunFile
{
    public long RunId { get; init; }
    public long Number { get; init; }
    public string Name { get; init; } = "";

    /// <summary>Which design it holds, from 1; 0 for all of the package.</summary>
    public long Position { get; init; }
    public long FirstPiece { get; init; }
    public long LastPiece { get; init; }
    public long Pages { get; init; }
    public long Size { get; init; }
    public string? Sha256 { get; init; }
}

/// <summary>What a run is asked to make beside who.</summary>
public sealed record RunAsk
{
    /// <summary>For label sheets, by the design: where on the first sheet they begin, as JSON.</summary>
    public IReadOnlyDictionary<long, string>? Starts { get; init; }

    /// <summary>How the printer takes envelopes and sheets; null for none.</summary>
    public string? PrinterJson { get; init; }

    /// <summary>Mailer identifiers of the package's barcodes: each piece gets a serial number for each.</summary>
    public IReadOnlyList<string>? Mailers { get; init; }

    /// <summary>How many pages or sheets each design comes to, and what all of it costs, where that is known before.</summary>
    public Func<RunPlan, (IReadOnlyDictionary<long, int> Pages, decimal Cost)>? Counted { get; init; }

    /// <summary>Refuses what was planned, by throwing.</summary>
    public Action<RunPlan>? Refuse { get; init; }

    /// <summary>one, parts, each or print for paper; email, eml or mbox for messages.</summary>
    public RunOutput Output { get; init; }

    /// <summary>The account that sends.</summary>
    public long? AccountId { get; init; }

    /// <summary>When it begins; null for at once.</summary>
    public DateTimeOffset? NotBefore { get; init; }

    /// <summary>The designs of the package that it makes; null for all that are on paper.</summary>
    public IReadOnlyList<long>? Makes { get; init; }

    /// <summary>For messages: the part of a Message-ID behind the @, by piece number.</summary>
    public Func<DropRecipient, string>? MessageIdOf { get; init; }

    /// <summary>The order: piece, postal, or columns' ids divided by commas.</summary>
    public string Sort { get; init; } = "piece";

    /// <summary>How it is made, for who looks later.</summary>
    public string SettingsJson { get; init; } = "{}";

    /// <summary>Passwords, encrypted.</summary>
    public string? Secret { get; init; }

    /// <summary>What the designs meet.</summary>
    public string? FrozenJson { get; init; }

    /// <summary>True to produce pieces again, in the version of the run that produced them.</summary>
    public bool Reprints { get; init; }

    /// <summary>For reprints: true for the values of now, false for those of then; null where nobody chose, which is refused when a
    /// correction was made since.</summary>
    public bool? Corrected { get; init; }

    /// <summary>Which of some recipients had a value corrected, since a run produced their pieces, that its designs print.</summary>
    public Func<Microsoft.Data.Sqlite.SqliteConnection, RunRow, IReadOnlyList<long>, IReadOnlyList<long>>? CorrectedSince { get; init; }

    /// <summary>The name and address that stand on a recipient's piece.</summary>
    public Func<string?[], (string Name, string Address)>? AddresseeOf { get; init; }

    /// <summary>The list's sets of detail rows that the designs read, with their positions: the rows are frozen with the run.</summary>
    public IReadOnlyList<(int Position, Core.Lists.DetailSet Set)> Details { get; init; } = [];

    /// <summary>For reprints: only these designs of the package; null for all.</summary>
    public IReadOnlyCollection<long>? Only { get; init; }

    /// <summary>The device that prints.</summary>
    public long? DeviceId { get; init; }

    /// <summary>Names a file for each recipient; called in the order of the run.</summary>
    public Func<DropRecipient, string>? NameOf { get; init; }

    /// <summary>Refuses where the drop wants a sign-off and has none; called within the transaction.</summary>
    public Action<Microsoft.Data.Sqlite.SqliteConnection>? Guard { get; init; }

    /// <summary>Pieces of a batch, for a run that prints; 0 = one batch.</summary>
    public int BatchOf { get; init; }
}

/// <summary>One piece of a run with the values it is made with.</summary>
/// <param name="Position">Its place in the run, from 0.</param>
/// <param name="Serial">Which of the run's serial numbers it has.</param>
/// <param name="FileName">The name of its own file; null where it has none.</param>
public sealed record RunPiece(long RecipientId, int PieceNumber, int Position, long Serial, string? FileName, string?[] Values);

/// <summary>A line of a run's log.</summary>
public sealed record RunLogLine
{
    public long Id { get; init; }
    public string At { get; init; } = "";
    public string Text { get; init; } = "";
}

/// <summary>A piece of a run as its page lists it.</summary>
public sealed record RunPieceRow
{
    public long RecipientId { get; init; }
    public long PieceNumber { get; init; }
    public long Position { get; init; }
    public string? FileName { get; init; }
    public string? PrintedAt { get; init; }
    public long OutMask { get; init; }
    public string Tray { get; init; } = "";
    public long? RunId { get; init; }
    public string? HoldReason { get; init; }
    public DateOnly? MailedOn { get; init; }

    /// <summary>For a message: its state, the server's last words, when it is tried again.</summary>
    public MailState? MailState { get; init; }
    public string? Words { get; init; }
    public string? NextAt { get; init; }
    public string? SentAt { get; init; }
    public string? Address { get; init; }

    /// <summary>What the barcodes on the piece say, one a line.</summary>
    public string? Barcodes { get; init; }
}
