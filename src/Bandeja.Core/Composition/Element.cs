namespace Bandeja.Core.Composition;

/// <summary>What a part of a letter is to a reader (the standard structure types of ISO 32000-1, 14.8.4).</summary>
public enum ElementKind
{
    Paragraph,
    Heading1,
    Heading2,
    Heading3,
    Quote,
    Note,
    List,
    ListItem,
    Table,
    Row,
    HeadingCell,
    Cell,
    Figure,
}

/// <summary>A part of a letter's structure, so that a screen reader can follow it. Two elements are the same only if they are one
/// object.</summary>
/// <param name="parent">What it is a part of; null for the letter itself.</param>
/// <param name="alt">For a figure, what it shows.</param>
public sealed class Element(ElementKind kind, Element? parent = null, string? alt = null)
{
    /// <summary>What it is.</summary>
    public ElementKind Kind => kind;

    /// <summary>What it is a part of.</summary>
    public Element? Parent => parent;

    /// <summary>For a figure, what it shows.</summary>
    public string? Alt => alt;

    /// <summary>For a cell, how many columns it goes over.</summary>
    public int ColumnSpan { get; init; } = 1;

    /// <summary>For a cell, how many rows it goes over.</summary>
    public int RowSpan { get; init; } = 1;
}
