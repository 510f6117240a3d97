using Bandeja.Core.Composition;
using Bandeja.Core.Language;

namespace Bandeja.Core.Drops;

/// <summary>What kind of doubt a finding is.</summary>
public enum FindingKind { Blank, WrongType, OutOfRange, UnknownField, RunsOver, TooWide, MissingGlyph, MissingPicture, CoarsePicture, TooLarge }

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

    /// <summary>All findings of a composed letter, each once.</summary>
    public static IReadOnlyList<Finding> Of(ComposedLetter letter, int? maxPages)
    {
        var findings = new List<Finding>();
        void Add(FindingKind kind, string subject, string detail, string message)
        {
            var finding = new Finding(kind, subject, detail, message);
            if (!findings.Any(f => f.Key == finding.Key)) findings.Add(finding);
        }
        foreach (var p in letter.Problems)
            Add(p.Kind switch
            {
                ProblemKind.Blank => FindingKind.Blank,
                ProblemKind.WrongType => FindingKind.WrongType,
                ProblemKind.OutOfRange => FindingKind.OutOfRange,
                _ => FindingKind.UnknownField,
            }, p.Field, p.Value ?? "", p.Place is null ? p.Message : $"{p.Message} It stands in {p.Place}.");
        if (letter.Notes.MissingGlyphs.Distinct().OrderBy(r => r.Value).ToList() is { Count: > 0 } missing)
            Add(FindingKind.MissingGlyph, "characters", string.Join(' ', missing.Select(r => $"{r.Value:X4}")),
                $"No typeface here has {(missing.Count == 1 ? "the character" : "the characters")} {string.Join(' ', missing.Take(12))}{(missing.Count > 12 ? " …" : "")} (U+{missing[0].Value:X4}{(missing.Count > 1 ? " …" : "")}). A box is printed instead.");
        foreach (var (word, place) in letter.Notes.TooWide.Distinct())
            Add(FindingKind.TooWide, "line", word, $"“{(word.Length > 40 ? word[..39] + "…" : word)}” is wider than a line{(place.Length > 0 ? $" in {place}" : "")} and was cut.");
        foreach (var picture in letter.Notes.Pictures.Distinct())
        {
            if (picture.Doubt == PictureDoubt.Missing) Add(FindingKind.MissingPicture, picture.Subject, picture.Detail, $"There is no picture “{(picture.Detail.Length > 40 ? picture.Detail[..39] + "…" : picture.Detail)}” for {picture.Place}; nothing is printed there.");
            else Add(FindingKind.CoarsePicture, picture.Subject, picture.Detail, $"The picture in {picture.Place} has {picture.Detail} pixels to the inch at its printed size; under {FlowMaker.LeastResolution} it looks coarse.");
        }
        foreach (var sentence in letter.Notes.TooLarge.Distinct()) Add(FindingKind.TooLarge, "layout", sentence, sentence);
        if (maxPages is { } max && letter.Pages.Count > max)
            Add(FindingKind.RunsOver, "letter", $"{letter.Pages.Count}", $"The letter runs to {letter.Pages.Count} pages; it is to keep to {(max == 1 ? "one page" : $"{max} pages")}.");
        return findings;
    }
}
