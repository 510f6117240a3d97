using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Language;
using Bandeja.Core.Mail;

namespace Bandeja.Core.Drops;

/// <summary>What kind of doubt a finding is.</summary>
public enum FindingKind
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
    Refused,
    Channel,
    Design,
    NothingPrinted,
    HeavyPicture,
    Postal,
}

/// <summary>Something about one recipient's piece that needs a person's look.</summary>
/// <param name="Kind">The kind.</param>
/// <param name="Subject">The column or the part of the piece it is about.</param>
/// <param name="Detail">What makes this one different from others alike: the value, the number of pages.</param>
/// <param name="Message">A sentence for the coordinator.</param>
public sealed record Finding(FindingKind Kind, string Subject, string Detail, string Message)
{
    /// <summary>Identity. An acceptance holds for this very finding, not for another value or another number of pages.</summary>
    public string Key => $"{Group}|{Detail}";

    /// <summary>Findings alike: same kind, same subject.</summary>
    public string Group => $"{Kind}|{Subject}";

    /// <summary>All findings of a composed piece, each once.</summary>
    /// <param name="kind">What the piece is. What is found about its layout names it, so that the letter's and the envelope's are told
    /// apart; doubts about values are the same for both.</param>
    public static IReadOnlyList<Finding> Of(ComposedPiece letter, int? maxPages, PieceKind kind = PieceKind.Letter)
    {
        var findings = new List<Finding>();
        var where = kind.Rules().Where;
        void Add(FindingKind kind, string subject, string detail, string message)
        {
            var finding = new Finding(kind, subject, detail, message);
            if (!findings.Any(f => f.Key == finding.Key))
                findings.Add(finding);
        }
        foreach (var p in letter.Problems)
            Add(
                p.Kind switch
                {
                    ProblemKind.Blank => FindingKind.Blank,
                    ProblemKind.WrongType => FindingKind.WrongType,
                    ProblemKind.OutOfRange => FindingKind.OutOfRange,
                    ProblemKind.Address => FindingKind.Address,
                    _ => FindingKind.UnknownField,
                },
                p.Field,
                p.Value ?? "",
                p.Place is null ? p.Message : $"{p.Message} It stands in {p.Place}."
            );
        if (letter.Notes.MissingGlyphs.Distinct().OrderBy(r => r.Value).ToList() is { Count: > 0 } missing)
            Add(
                FindingKind.MissingGlyph,
                "characters",
                string.Join(' ', missing.Select(r => $"{r.Value:X4}")),
                $"No typeface here has {(missing.Count == 1 ? "the character" : "the characters")} "
                    + $"{string.Join(' ', missing.Take(12))}{(missing.Count > 12 ? " …" : "")} "
                    + $"(U+{missing[0].Value:X4}{(missing.Count > 1 ? " …" : "")}). A box is printed instead."
            );
        foreach (var (word, place) in letter.Notes.TooWide.Distinct())
            Add(
                FindingKind.TooWide,
                $"line{where}",
                word,
                $"“{(word.Length > 40 ? word[..39] + "…" : word)}” is wider than a line{(place.Length > 0 ? $" in {place}" : "")} "
                    + "and was cut."
            );
        foreach (var picture in letter.Notes.Pictures.Distinct())
        {
            if (picture.Doubt == PictureDoubt.Heavy)
                Add(
                    FindingKind.HeavyPicture,
                    $"{picture.Subject}{where}",
                    picture.Detail,
                    $"The picture in {picture.Place} adds {picture.Detail} MB to every piece. Simplify the drawing, or save it as a "
                        + "picture with 300 pixels to the inch."
                );
            else if (picture.Doubt == PictureDoubt.Missing)
                Add(
                    FindingKind.MissingPicture,
                    picture.Subject,
                    picture.Detail,
                    $"There is no picture “{(picture.Detail.Length > 40 ? picture.Detail[..39] + "…" : picture.Detail)}” for "
                        + $"{picture.Place}; nothing is printed there."
                );
            else
                Add(
                    FindingKind.CoarsePicture,
                    picture.Subject,
                    picture.Detail,
                    $"The picture in {picture.Place} has {picture.Detail} pixels to the inch at its printed size; under "
                        + $"{FlowMaker.LeastResolution} it looks coarse."
                );
        }
        foreach (var sentence in letter.Notes.TooLarge.Distinct())
            Add(FindingKind.TooLarge, $"layout{where}", sentence, sentence);
        foreach (var line in letter.Notes.LongLines.Distinct())
            Add(
                FindingKind.AddressTooLong,
                $"address{where}",
                line,
                $"“{(line.Length > 60 ? line[..59] + "…" : line)}” is too long for its place in the address{where}, also with the "
                    + "post's abbreviations and at its smallest size."
            );
        foreach (var box in letter.Notes.Overfull.Distinct())
            Add(FindingKind.DoesNotFit, $"{box}{where}", "", $"{char.ToUpperInvariant(box[0])}{box[1..]}{where} does not fit its place.");
        foreach (var (what, zone) in letter.Notes.InZones.Distinct())
            Add(
                FindingKind.InClearZone,
                $"{what} in {zone}",
                "",
                zone.StartsWith("the edge", StringComparison.Ordinal)
                    ? $"{char.ToUpperInvariant(what[0])}{what[1..]} reaches over {zone}."
                    : $"{char.ToUpperInvariant(what[0])}{what[1..]} stands in {zone}, which the post wants clear."
            );
        foreach (var (what, sentence) in letter.Notes.Postal.Distinct())
            Add(FindingKind.Postal, $"{what}{where}", "", sentence);
        foreach (var sentence in letter.Notes.Barcodes.Distinct())
            Add(FindingKind.Barcode, $"barcode{where}", sentence, sentence);
        foreach (var doubt in letter.Mail?.Doubts ?? [])
            Add(
                doubt.Kind switch
                {
                    MailDoubtKind.Address => FindingKind.EmailAddress,
                    MailDoubtKind.Header => FindingKind.EmailHeader,
                    MailDoubtKind.Attachment => FindingKind.Attachment,
                    MailDoubtKind.Password => FindingKind.Password,
                    MailDoubtKind.Picture => FindingKind.MissingPicture,
                    _ => FindingKind.EmailTooLarge,
                },
                doubt.Subject,
                doubt.Detail,
                doubt.Message
            );
        if (letter.Notes.NothingPrinted)
            Add(
                FindingKind.NothingPrinted,
                $"letter{where}",
                "",
                "No condition of the letter is met and its fields are blank, so a blank sheet would be printed. Add an “otherwise”, "
                    + "or leave the letter out of the package when it prints nothing (page setup)."
            );
        if (maxPages is { } max && letter.Pages.Count > max)
            Add(
                FindingKind.RunsOver,
                "letter",
                $"{letter.Pages.Count}",
                $"The letter runs to {letter.Pages.Count} pages; it is to keep to {(max == 1 ? "one page" : $"{max} pages")}."
            );
        return findings;
    }

    /// <summary>What is wrong between a letter and the window of its envelope.</summary>
    public static IReadOnlyList<Finding> OfWindow(IReadOnlyList<string> sentences) =>
        [.. sentences.Select(s => new Finding(FindingKind.Window, "window", s, s))];

    /// <summary>What findings alike are called, for instance “No Given name”.</summary>
    public static string Title(FindingKind kind, string subject) =>
        kind switch
        {
            FindingKind.Blank => $"No {subject}",
            FindingKind.WrongType => $"{subject} does not fit",
            FindingKind.OutOfRange => $"{subject} cannot be computed",
            FindingKind.UnknownField => $"No column “{subject}”",
            FindingKind.RunsOver => "Runs over its page",
            FindingKind.TooWide => "A word wider than its line",
            FindingKind.MissingPicture => "A picture that is not there",
            FindingKind.CoarsePicture => "A picture too coarse for print",
            FindingKind.TooLarge => "Larger than its page",
            FindingKind.Address => $"Address issue: {subject}",
            FindingKind.AddressTooLong => $"Too long a line{subject.Replace("address", "", StringComparison.Ordinal)}",
            FindingKind.DoesNotFit => $"{Upper(subject)} does not fit",
            FindingKind.InClearZone => Upper(subject),
            FindingKind.Window => "Letter and window",
            FindingKind.Barcode => $"No {subject}",
            FindingKind.EmailAddress => $"No email address to send to: {subject}",
            FindingKind.EmailHeader => $"Check {subject}",
            FindingKind.Attachment => $"No file to attach: {subject}",
            FindingKind.EmailTooLarge => "Email too large",
            FindingKind.Password => "No password for the attachment",
            FindingKind.Refused => "Refused by the mail server",
            FindingKind.Channel => $"Neither paper nor email: {subject}",
            FindingKind.Design => $"A mistake in {subject}",
            FindingKind.NothingPrinted => "Nothing to print",
            FindingKind.Postal => Upper(subject),
            FindingKind.HeavyPicture => $"A picture that is too heavy: {subject}",
            FindingKind.OneOff => "Changed for this one, and the design has changed since",
            _ => "Characters no typeface has",
        };

    static string Upper(string text) => text.Length == 0 ? text : char.ToUpperInvariant(text[0]) + text[1..];

    /// <summary>Findings of several pieces of one recipient, each once.</summary>
    public static IReadOnlyList<Finding> Joined(IEnumerable<Finding> findings) => [.. findings.DistinctBy(f => f.Key)];
}
