using System.Text.Json.Nodes;

namespace Bandeja.Core.Composition;

/// <summary>
/// Everything that distinguishes a kind of design from the others. Whoever deals with designs asks these questions, and never which kind
/// it is: a new kind answers them, and is done.
/// </summary>
public abstract class DesignKind
{
    /// <summary>The kind.</summary>
    public abstract PieceKind Kind { get; }

    /// <summary>What one of its pieces is called, within a sentence.</summary>
    public abstract string Word { get; }

    /// <summary>What an issue's place is followed by, so that a letter's and an envelope's are told apart.</summary>
    public virtual string Where => $" of the {Word}";

    /// <summary>True where it is printed; false where it is sent.</summary>
    public virtual bool IsPaper => true;

    /// <summary>What a printer's tray must hold for it: letter, envelope, or labels.</summary>
    public virtual string Stock => HasPages ? PieceKind.Letter.Stored() : Kind.Stored();

    /// <summary>True where it has pages of ordinary paper: it can be printed on both sides, and stand after a separator sheet.</summary>
    public virtual bool HasPages => false;

    /// <summary>True where it is text that flows over its pages: it can be edited elsewhere.</summary>
    public virtual bool IsText => false;

    /// <summary>True where it can be changed for one recipient alone.</summary>
    public virtual bool ChangesForOne => IsText;

    /// <summary>True where it is a PDF that was imported, and can be replaced with a newer one.</summary>
    public virtual bool IsFile => false;

    /// <summary>True where several pieces lie on one sheet, so that all of a run's are one batch.</summary>
    public virtual bool SharesSheets => false;

    /// <summary>True where printers take it each in its own way.</summary>
    public virtual bool HasFeed => false;

    /// <summary>True where a package can hold only one: two would reach the same person twice.</summary>
    public virtual bool IsOnlyOne => false;

    /// <summary>True where its documents name files of the server's folder.</summary>
    public virtual bool NamesFiles => false;

    /// <summary>Reads a document to see that it can be.</summary>
    /// <param name="json">The document as it is stored.</param>
    /// <param name="root">The same, parsed; null where it is no JSON object.</param>
    /// <exception cref="LetterFormatException">It cannot be read.</exception>
    public abstract void Validate(string json, JsonObject? root);

    /// <summary>A document as a letter of nothing but its texts, one below the other, for a comparison.</summary>
    /// <inheritdoc cref="Validate"/>
    public abstract LetterDesign AsText(string json, JsonObject? root);

    /// <summary>Reads a document and binds it to a list.</summary>
    /// <inheritdoc cref="Validate"/>
    public abstract IBoundDesign Bind(string json, JsonObject? root, LetterSetting setting);
}
