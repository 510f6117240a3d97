namespace Bandeja.Work.Mail;

/// <summary>A file of a message.</summary>
/// <param name="Size">Bytes, as the file has them.</param>
public sealed record MailFileView(string Name, long Size, bool Protected);

/// <summary>A message of a planned run, made in full.</summary>
/// <param name="Size">Bytes, as the message goes out.</param>
/// <param name="Problem">Why it cannot be made; null where it can.</param>
public sealed record MailSample(
    int Piece,
    string Name,
    string From,
    string To,
    string Subject,
    IReadOnlyList<MailFileView> Files,
    long Size,
    string? Problem
);

/// <summary>What a run's messages are like: the first, one in the middle, the last.</summary>
/// <param name="Objection">Why none may be sent; null where they may.</param>
/// <param name="Setting">The field in Settings that would change that: postal-address or public-address; null where it is not
/// there.</param>
/// <param name="Shared">Addresses that would get more than one message of the drop.</param>
/// <param name="Copies">How many copies go out beside the recipients' own messages.</param>
public sealed record MailPlanView(
    IReadOnlyList<MailSample> Samples,
    string? Objection,
    IReadOnlyList<string> Remarks,
    IReadOnlyList<SharedAddress> Shared,
    int Copies,
    string? Setting = null
);

/// <summary>An address that several recipients of a drop have.</summary>
/// <param name="Pieces">Who would be sent a message now.</param>
/// <param name="Sent">How many messages of the drop it was sent already.</param>
public sealed record SharedAddress(string Address, IReadOnlyList<SharedPiece> Pieces, int Sent);

/// <summary>A recipient who has an address that another one has, too.</summary>
public sealed record SharedPiece(int Piece, string Name);
