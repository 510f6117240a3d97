using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Language;
using Bandeja.Core.Mail;

namespace Bandeja.Core.Drops;

/// <summary>What a piece can have an issue with.</summary>
public enum PieceIssueKind
{
    Blank,
    WrongType,
    OutOfRange,
    UnknownField,
    RunsOver,
    TooWide,
    MissingGlyph,
    MissingPicture,
    CoarsePicture,
    TooLarge,
    Address,
    AddressTooLong,
    DoesNotFit,
    InClearZone,
    Window,
    Barcode,
    OneOff,
    EmailAddress,
    EmailHeader,
    Attachment,
    EmailTooLarge,
    Password,
    ButtonLink,
    Refused,
    Channel,
    Design,
    NothingPrinted,
    HeavyPicture,
    Postal,
    FormRequired,
    FormTooLong,
    FormNotOffered,
    SampleText,
    LooksLikeField,
}

/// <summary>Something about one recipient's piece that needs a person's look.</summary>
/// <param name="Kind">The kind.</param>
/// <param name="Subject">The column or the part of the piece it is about.</param>
/// <param name="Detail">What makes this one different from others alike: the value, the number of pages.</param>
/// <param name="Message">A sentence for the coordinator.</param>
public sealed record PieceIssue(PieceIssueKind Kind, string Subject, string Detail, string Message)
{
    /// <summary>Identity. An acceptance holds for this very issue, not for another value or another number of pages.</summary>
    public string Key => $"{Group}|{Detail}";

    /// <summary>Issues alike: same kind, same subject.</summary>
    public string Group => $"{Kind}|{Subject}";

    /// <summary>All issues of a composed piece, each once.</summary>
    /// <param name="kind">What the piece is. What is found about its layout names it, so that the letter's and the envelope's are told
    /// apart; issues about values are the same for both.</param>
    public static IReadOnlyList<PieceIssue> Of(ComposedPiece letter, int? maxPages, PieceKind kind = PieceKind.Letter)
    {
        var issues = new List<PieceIssue>();
        var where = kind.Rules().Where;
        void Add(PieceIssueKind kind, string subject, string detail, string message)
        {
            var issue = new PieceIssue(kind, subject, detail, message);
            if (!issues.Any(f => f.Key == issue.Key))
                issues.Add(issue);
        }
        foreach (var p in letter.Problems)
            Add(
                p.Kind switch
                {
                    ProblemKind.Blank => PieceIssueKind.Blank,
                    ProblemKind.WrongType => PieceIssueKind.WrongType,
                    ProblemKind.OutOfRange => PieceIssueKind.OutOfRange,
                    ProblemKind.Address => PieceIssueKind.Address,
                    _ => PieceIssueKind.UnknownField,
                },
                p.Field,
                p.Value ?? "",
                p.Place is null ? p.Message : $"{p.Message} Location: {p.Place}."
            );
        if (letter.Notes.MissingGlyphs.Distinct().OrderBy(r => r.Value).ToList() is { Count: > 0 } missing)
            Add(
                PieceIssueKind.MissingGlyph,
                "characters",
                string.Join(' ', missing.Select(r => $"{r.Value:X4}")),
                $"No available font has {(missing.Count == 1 ? "the character" : "the characters")} "
                    + $"{string.Join(' ', missing.Take(12))}{(missing.Count > 12 ? " …" : "")} "
                    + $"(U+{missing[0].Value:X4}{(missing.Count > 1 ? " …" : "")}). A box will print instead."
            );
        foreach (var (word, place) in letter.Notes.TooWide.Distinct())
            Add(
                PieceIssueKind.TooWide,
                $"line{where}",
                word,
                $"“{(word.Length > 40 ? word[..39] + "…" : word)}” is wider than a line{(place.Length > 0 ? $" in {place}" : "")} "
                    + "and was cut off."
            );
        foreach (var picture in letter.Notes.Pictures.Distinct())
        {
            if (picture.Issue == PictureIssue.Heavy)
                Add(
                    PieceIssueKind.HeavyPicture,
                    $"{picture.Subject}{where}",
                    picture.Detail,
                    $"The picture in {picture.Place} adds {picture.Detail} MB to every piece. Simplify the drawing, or save it as a "
                        + "picture with 300 pixels to the inch."
                );
            else if (picture.Issue == PictureIssue.Missing)
                Add(
                    PieceIssueKind.MissingPicture,
                    picture.Subject,
                    picture.Detail,
                    $"The picture “{(picture.Detail.Length > 40 ? picture.Detail[..39] + "…" : picture.Detail)}” for "
                        + $"{picture.Place}; nothing is printed there."
                );
            else
                Add(
                    PieceIssueKind.CoarsePicture,
                    picture.Subject,
                    picture.Detail,
                    $"The picture in {picture.Place} has {picture.Detail} pixels per inch at its printed size. Below "
                        + $"{FlowMaker.LeastResolution} it looks blurry."
                );
        }
        foreach (var sentence in letter.Notes.TooLarge.Distinct())
            Add(PieceIssueKind.TooLarge, $"layout{where}", sentence, sentence);
        foreach (var line in letter.Notes.LongLines.Distinct())
            Add(
                PieceIssueKind.AddressTooLong,
                $"address{where}",
                line,
                $"“{(line.Length > 60 ? line[..59] + "…" : line)}” is too long for its place in the address{where}, also with the "
                    + "postal abbreviations and the smallest font size."
            );
        foreach (var box in letter.Notes.Overfull.Distinct())
            Add(
                PieceIssueKind.DoesNotFit,
                $"{box}{where}",
                "",
                $"{char.ToUpperInvariant(box[0])}{box[1..]}{where} does not fit in its box."
            );
        foreach (var (what, zone) in letter.Notes.InZones.Distinct())
            Add(
                PieceIssueKind.InClearZone,
                $"{what} in {zone}",
                "",
                zone.StartsWith("the edge", StringComparison.Ordinal)
                    ? $"{char.ToUpperInvariant(what[0])}{what[1..]} extends past {zone}."
                    : $"{char.ToUpperInvariant(what[0])}{what[1..]} is in {zone}, which must be kept clear for the postal service."
            );
        foreach (var (what, sentence) in letter.Notes.Postal.Distinct())
            Add(PieceIssueKind.Postal, $"{what}{where}", "", sentence);
        foreach (var (detail, sentence) in letter.Notes.Barcodes.Distinct())
            Add(PieceIssueKind.Barcode, $"barcode{where}", detail, sentence);
        foreach (var note in letter.Notes.Form.Distinct())
            Add(
                note.Issue switch
                {
                    FormIssue.Required => PieceIssueKind.FormRequired,
                    FormIssue.TooLong => PieceIssueKind.FormTooLong,
                    _ => PieceIssueKind.FormNotOffered,
                },
                note.Column ?? note.Field,
                note.Detail,
                note.Issue switch
                {
                    FormIssue.Required => $"The form requires “{note.Field}”, and it is blank.",
                    FormIssue.TooLong =>
                        $"“{note.Field}” has {note.Detail.Replace(" of ", " characters; there is room for ", StringComparison.Ordinal)}.",
                    _ => $"“{Evaluator.Short(note.Detail)}” is not one of the choices of “{note.Field}”.",
                }
            );
        foreach (var issue in letter.Mail?.Issues ?? [])
            Add(
                issue.Kind switch
                {
                    MailIssueKind.Address => PieceIssueKind.EmailAddress,
                    MailIssueKind.Header => PieceIssueKind.EmailHeader,
                    MailIssueKind.Attachment => PieceIssueKind.Attachment,
                    MailIssueKind.Password => PieceIssueKind.Password,
                    MailIssueKind.Picture => PieceIssueKind.MissingPicture,
                    MailIssueKind.Link => PieceIssueKind.ButtonLink,
                    _ => PieceIssueKind.EmailTooLarge,
                },
                issue.Subject,
                issue.Detail,
                issue.Message
            );
        if (letter.Notes.NothingPrinted)
            Add(
                PieceIssueKind.NothingPrinted,
                $"letter{where}",
                "",
                "No condition of the letter is met and its fields are blank, so a blank sheet would be printed. Add an “otherwise”, "
                    + "or leave the letter out of the package when it prints nothing (page setup)."
            );
        if (maxPages is { } max && letter.Pages.Count > max)
            Add(
                PieceIssueKind.RunsOver,
                "letter",
                $"{letter.Pages.Count}",
                $"The letter is {letter.Pages.Count} pages long. The limit is {(max == 1 ? "1 page" : $"{max} pages")}."
            );
        return issues;
    }

    /// <summary>What is wrong between a letter and the window of its envelope.</summary>
    public static IReadOnlyList<PieceIssue> OfWindow(IReadOnlyList<(string Detail, string Message)> found) =>
        [.. found.Select(f => new PieceIssue(PieceIssueKind.Window, "window", f.Detail, f.Message))];

    /// <summary>What issues alike are called, for instance “No Given name”.</summary>
    public static string Title(PieceIssueKind kind, string subject) =>
        kind switch
        {
            PieceIssueKind.Blank => $"{Upper(subject)} is blank",
            PieceIssueKind.WrongType => $"{Upper(subject)} has the wrong type of value",
            PieceIssueKind.OutOfRange => $"{subject} cannot be computed",
            PieceIssueKind.UnknownField => $"No column “{subject}”",
            PieceIssueKind.RunsOver => "Over the page limit",
            PieceIssueKind.TooWide => "Word wider than the line",
            PieceIssueKind.MissingPicture => "Missing picture",
            PieceIssueKind.CoarsePicture => "Low-resolution picture",
            PieceIssueKind.TooLarge => "Larger than the page",
            PieceIssueKind.Address => $"Address issue: {subject}",
            PieceIssueKind.AddressTooLong => $"Line too long{subject.Replace("address", "", StringComparison.Ordinal)}",
            PieceIssueKind.DoesNotFit => $"{Upper(subject)} does not fit",
            PieceIssueKind.InClearZone => Upper(subject),
            PieceIssueKind.Window => "Address not visible in window",
            PieceIssueKind.Barcode => $"No {subject}",
            PieceIssueKind.EmailAddress => $"No valid email address: {subject}",
            PieceIssueKind.EmailHeader => $"Check {subject}",
            PieceIssueKind.Attachment => $"No file to attach: {subject}",
            PieceIssueKind.EmailTooLarge => "Email too large",
            PieceIssueKind.Password => "No password for the attachment",
            PieceIssueKind.ButtonLink => "Button without a link",
            PieceIssueKind.Refused => "Rejected by the mail server",
            PieceIssueKind.Channel => $"No channel: {subject}",
            PieceIssueKind.Design => $"Error in {subject}",
            PieceIssueKind.NothingPrinted => "Nothing to print",
            PieceIssueKind.Postal => Upper(subject),
            PieceIssueKind.FormRequired => $"{Upper(subject)} is required",
            PieceIssueKind.FormTooLong => $"{Upper(subject)} is too long",
            PieceIssueKind.FormNotOffered => $"{Upper(subject)}: not one of the choices",
            PieceIssueKind.SampleText => $"Sample text {subject}",
            PieceIssueKind.LooksLikeField => $"Not a field: {subject}",
            PieceIssueKind.HeavyPicture => $"Picture file too large: {subject}",
            PieceIssueKind.OneOff => "Changed for this recipient, and the design has changed since",
            _ => "Characters not in any font",
        };

    static string Upper(string text) => text.Length == 0 ? text : char.ToUpperInvariant(text[0]) + text[1..];

    /// <summary>Issues of several pieces of one recipient, each once.</summary>
    public static IReadOnlyList<PieceIssue> Joined(IEnumerable<PieceIssue> issues) => [.. issues.DistinctBy(f => f.Key)];
}
