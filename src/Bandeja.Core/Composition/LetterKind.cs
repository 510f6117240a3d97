using System.Text.Json.Nodes;

namespace Bandeja.Core.Composition;

/// <summary>Letters.</summary>
public sealed class LetterKind : DesignKind
{
    /// <inheritdoc/>
    public override PieceKind Kind => PieceKind.Letter;

    /// <inheritdoc/>
    public override string Word => "letter";

    // A letter's issues keep the names they had when there was nothing but letters: acceptances hold by them.
    /// <inheritdoc/>
    public override string Where => "";

    /// <inheritdoc/>
    public override bool HasPages => true;

    /// <inheritdoc/>
    public override bool IsText => true;

    /// <inheritdoc/>
    public override void Validate(string json, JsonObject? root) => LetterReader.Read(json);

    /// <inheritdoc/>
    public override LetterDesign AsText(string json, JsonObject? root) => LetterReader.Read(json);

    /// <inheritdoc/>
    public override IBoundDesign Bind(string json, JsonObject? root, LetterSetting setting) =>
        new BoundLetter(LetterReader.Read(json), setting);
}
