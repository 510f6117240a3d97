using System.Text.Json.Nodes;
using Bandeja.Core.Composition;

namespace Bandeja.Core.Emails;

/// <summary>Emails.</summary>
public sealed class EmailKind : DesignKind
{
    /// <inheritdoc/>
    public override PieceKind Kind => PieceKind.Email;

    /// <inheritdoc/>
    public override string Word => "email";

    /// <inheritdoc/>
    public override bool IsPaper => false;

    /// <inheritdoc/>
    public override bool IsOnlyOne => true;

    /// <inheritdoc/>
    public override bool NamesFiles => true;

    /// <inheritdoc/>
    public override void Validate(string json, JsonObject? root) => EmailReader.Read(root!);

    /// <inheritdoc/>
    public override LetterDesign AsText(string json, JsonObject? root)
    {
        var email = EmailReader.Read(root!);
        var plain = new ParagraphStyle(TextAlign.Left, 1, 0);
        Paragraph Line(string text) => new(plain, [new TextInline(text, email.Type)], email.Type);
        return new(
            new(612, 792, 0, 0, 0, 0),
            [
                .. email.Headers.Where(h => h.Text.Length > 0).Select(h => Line($"[{h.Name}] {h.Text}")),
                .. email.Blocks,
                .. email.Attachments.Select(a => Line($"[attached] {a.Name}")),
            ],
            null,
            Letterhead.None
        );
    }

    /// <inheritdoc/>
    public override IBoundDesign Bind(string json, JsonObject? root, LetterSetting setting) =>
        new BoundEmail(EmailReader.Read(root!), setting);
}
