using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Documents;
using Bandeja.Core.Drops;
using Bandeja.Core.Starters;
using Bandeja.Core.Surfaces;
using Bandeja.Store.Drops;

namespace Bandeja.Work.Composition;

/// <summary>What is to be said of one recipient's pieces taken together.</summary>
public static class PackagePieces
{
    /// <summary>How many pages the package's letters have, those left out of it not counted; 1 where it has no letter.</summary>
    public static int Pages(IReadOnlyList<(PackageDesign Design, IBoundDesign Bound)> package, IReadOnlyList<ComposedPiece> composed) =>
        package.Any(p => p.Bound.Kind.Rules().HasPages)
            ? package.Zip(composed).Where(p => p.First.Bound.Kind.Rules().HasPages).Sum(p => p.Second.Pages.Count)
            : 1;

    /// <summary>All issues, those between a letter and the window of its envelope included.</summary>
    public static IReadOnlyList<PieceIssue> Issues(
        IReadOnlyList<(PackageDesign Design, IBoundDesign Bound)> package,
        IReadOnlyList<ComposedPiece> composed
    )
    {
        // A mistake in a design is told once and by what it is; that a field with it gives nothing follows from it.
        var issues = package
            .Zip(composed)
            .SelectMany(p =>
                PieceIssue
                    .Of(p.Second, p.First.Bound.MaxPages, p.First.Bound.Kind)
                    .Where(f => f.Kind != PieceIssueKind.UnknownField || p.First.Bound.Errors.Count == 0)
                    .Concat(
                        p.First.Bound.Errors.Take(5)
                            .Select(e => new PieceIssue(
                                PieceIssueKind.Design,
                                p.First.Design.Name,
                                $"{e.Source}|{e.Error.Position}",
                                $"{p.First.Design.Name}: {e.Error.Message}"
                            ))
                    )
            );
        issues = issues.Concat(
            package
                .Zip(composed)
                .Where(p => !p.Second.Omitted)
                .SelectMany(p => SampleTexts(p.First.Design.Name, p.First.Bound).Concat(LooseFields(p.First.Design.Name, p.First.Bound)))
        );
        if (
            package.Any(p => p.Bound.Kind.Rules().HasPages)
            && package.Zip(composed).Where(p => p.First.Bound.Kind.Rules().HasPages).All(p => p.Second.Omitted)
        )
            issues = issues.Append(
                new(
                    PieceIssueKind.NothingPrinted,
                    "package",
                    "",
                    "No letter of the package has anything to print for this recipient. Hold the recipient, or add what they are to read."
                )
            );
        if (Window(package) is var (envelope, window) && Letter(package) is { } letter && composed[letter].Pages.Count > 0)
        {
            var locale = package[letter].Bound.Setting.Locale;
            issues = issues.Concat(
                PieceIssue.OfWindow(WindowCheck.Of(composed[letter].Pages[0], window, envelope.Width, envelope.Height, locale))
            );
        }
        return PieceIssue.Joined(issues);
    }

    static IEnumerable<PieceIssue> SampleTexts(string name, IBoundDesign design) =>
        SampleText
            .In(design)
            .Select(text => new PieceIssue(
                PieceIssueKind.SampleText,
                $"“{text}”{design.Kind.Rules().Where}",
                "",
                $"{name} still has the sample text “{text}”. Replace it with your own before it goes out."
            ));

    /// <summary>What looks like a field in a design's text and is none; every piece of it has these issues.</summary>
    /// <param name="name">How the design is called.</param>
    public static IEnumerable<PieceIssue> LooseFields(string name, IBoundDesign design) =>
        LooseTags
            .In(design)
            .Select(tag => new PieceIssue(
                PieceIssueKind.LooksLikeField,
                // A bar divides an issue's key.
                $"“{tag.Written.Replace('|', '¦')}”{design.Kind.Rules().Where}",
                "",
                $"{name} prints “{tag.Written}” as it is, for every recipient. {tag.Advice}"
            ));

    /// <summary>The package's envelope with a window, where it has one.</summary>
    static (SurfaceDesign Envelope, EnvelopeWindow Window)? Window(IReadOnlyList<(PackageDesign Design, IBoundDesign Bound)> package) =>
        package.Select(p => p.Bound.Windowed()).FirstOrDefault(d => d is not null) is { } design ? (design, design.Window!) : null;

    static int? Letter(IReadOnlyList<(PackageDesign Design, IBoundDesign Bound)> package)
    {
        for (var i = 0; i < package.Count; i++)
            if (package[i].Bound.Kind.Rules().HasPages)
                return i;
        return null;
    }

    /// <summary>Where the window stands over the first page of the package's letter; null where there is none or the letter does not
    /// fit.</summary>
    public static Area? WindowOnLetter(IReadOnlyList<(PackageDesign Design, IBoundDesign Bound)> package) =>
        Window(package) is var (envelope, window) && Letter(package) is { } at && package[at].Bound.Size is var (width, height)
            ? WindowCheck.OnLetter(window, envelope.Width, envelope.Height, width, height)
            : null;
}
