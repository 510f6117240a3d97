using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Documents;

/// <summary>How a placeholder was written in the file.</summary>
public enum PlaceholderSort
{
    /// <summary>As text between marks.</summary>
    Typed,

    /// <summary>As the file format's own code.</summary>
    Code,

    /// <summary>A condition, which follows from the values it compares.</summary>
    Condition,

    /// <summary>Something that looks like a sample of what every recipient has another of.</summary>
    Sample,
}

/// <summary>What a placeholder becomes.</summary>
public enum AnswerKind
{
    /// <summary>A field: a column, or any expression.</summary>
    Field,

    /// <summary>The same text for everyone.</summary>
    Text,

    /// <summary>Nothing.</summary>
    Remove,

    /// <summary>For a sample: it stays as it is.</summary>
    Keep,
}

/// <summary>What a placeholder becomes.</summary>
/// <param name="Value">The expression, or the text.</param>
public sealed record PlaceholderAnswer(AnswerKind Kind, string Value = "");

/// <summary>Where an answer comes from.</summary>
public enum MatchedBy
{
    Nothing,
    Heading,
    Role,
    Similarity,
    Hand,
}

/// <summary>A placeholder of a document, with what it becomes.</summary>
/// <param name="Key">What tells it from others: its name, and the rows it stands among.</param>
/// <param name="Written">How it was first written.</param>
/// <param name="Places">How often it stands in the document.</param>
/// <param name="Format">The format of its first place, as the field language writes it.</param>
/// <param name="IsRows">True where it names detail rows, not a value.</param>
/// <param name="Within">The detail rows around it; null for none.</param>
/// <param name="Block">The block of the letter's text where it first stands; null for headers and footers.</param>
/// <param name="Answer">What it becomes; null where nobody knows.</param>
public sealed record Placeholder(
    string Key,
    string Name,
    string Written,
    PlaceholderSort Sort,
    int Places,
    string Format,
    bool IsRows,
    string? Within,
    int? Block,
    PlaceholderAnswer? Answer,
    MatchedBy By
);

/// <summary>What a document's placeholders are held against.</summary>
/// <param name="Columns">The list's columns; none where there is no list yet.</param>
/// <param name="Details">Its sets of detail rows.</param>
public sealed record PlaceholderSetting(IReadOnlyList<Column> Columns, IReadOnlyList<DetailSet> Details, OrganizationLocale Locale)
{
    /// <summary>Without a list.</summary>
    public static readonly PlaceholderSetting None = new([], [], OrganizationLocale.UnitedStates);
}
