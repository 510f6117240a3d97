namespace Bandeja.Core.Documents;

/// <summary>How well a part of a document came over.</summary>
public enum Carried
{
    /// <summary>As it was.</summary>
    Whole,

    /// <summary>It looks somewhat different.</summary>
    Different,

    /// <summary>It is not in the letter.</summary>
    Left,
}

/// <summary>What is said of a part of a document that was brought in.</summary>
/// <param name="Text">For the user, a sentence or a part of one.</param>
/// <param name="Block">Zero-based number of the block of the letter's text where it stands; null where it has no one place.</param>
public sealed record ReportLine(Carried Carried, string Text, int? Block = null);

/// <summary>A typeface that a document names, and the one that prints it.</summary>
/// <param name="SameWidths">True where every letter is as wide as it was, so that lines break where they did.</param>
public sealed record FaceUse(string Named, string Printed, bool SameWidths);

/// <summary>
/// A word processor's document as a letter whose placeholders are not matched yet. Its content is that of a letter's stored form
/// (<c>docs/letter-format.md</c>), with one kind of node more: <c>code</c>, a placeholder that the file itself marks as one
/// (<see cref="FieldCodes"/>). Typed placeholders are still text.
/// </summary>
/// <param name="Letter">The letter, as JSON.</param>
/// <param name="Pages">How many pages the program that wrote it counted; 0 where it did not say.</param>
public sealed record BroughtDocument(string Letter, IReadOnlyList<ReportLine> Report, IReadOnlyList<FaceUse> Faces, int Pages)
{
    /// <summary>The parts of a letter in its stored form, its text first.</summary>
    public static IReadOnlyList<string> Bands { get; } =
    ["content", "header", "footer", "firstHeader", "firstFooter", "evenHeader", "evenFooter"];
}
