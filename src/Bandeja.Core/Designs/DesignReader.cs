using System.Text.Json;
using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Emails;
using Bandeja.Core.Surfaces;

namespace Bandeja.Core.Designs;

/// <summary>Reads and binds designs of every kind by what their stored form says they are.</summary>
public static class DesignReader
{
    /// <summary>What a stored design is.</summary>
    public static PieceKind KindOf(string json) => KindOf(Parsed(json));

    // A document that says nothing is a letter: those are the oldest.
    static PieceKind KindOf(JsonObject? root)
    {
        if (root?["kind"] is not JsonValue said || !said.TryGetValue<string>(out var name))
            return PieceKind.Letter;
        foreach (var kind in Enum.GetValues<PieceKind>())
            if (kind.Stored() == name)
                return kind;
        throw new LetterFormatException($"There is no kind of design called “{name}”.");
    }

    static JsonObject? Parsed(string json)
    {
        try
        {
            return JsonNode.Parse(json, documentOptions: new JsonDocumentOptions { MaxDepth = 512 }) as JsonObject;
        }
        catch (JsonException)
        {
            return null; // told by the reader of letters
        }
    }

    /// <summary>Reads a design to see that it can be.</summary>
    /// <exception cref="LetterFormatException">It cannot.</exception>
    public static PieceKind Validate(string json)
    {
        var root = Parsed(json);
        var kind = KindOf(root);
        _ = kind switch
        {
            PieceKind.Letter => (object)LetterReader.Read(json),
            PieceKind.Envelope or PieceKind.Labels => SurfaceReader.Read(root!),
            PieceKind.Email => EmailReader.Read(root!),
        };
        return kind;
    }

    /// <summary>A design as a letter of nothing but its texts, one below the other, for a comparison.</summary>
    /// <exception cref="LetterFormatException">It cannot be read.</exception>
    public static LetterDesign AsText(string json)
    {
        var root = Parsed(json);
        return KindOf(root) switch
        {
            PieceKind.Letter => LetterReader.Read(json),
            PieceKind.Envelope or PieceKind.Labels => AsText(SurfaceReader.Read(root!)),
            PieceKind.Email => AsText(EmailReader.Read(root!)),
        };
    }

    static LetterDesign AsText(SurfaceDesign surface) =>
        new(new(surface.Width, surface.Height, 0, 0, 0, 0), [.. surface.Boxes.SelectMany(b => b.Blocks)], null, Letterhead.None);

    static LetterDesign AsText(EmailDesign email)
    {
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

    /// <summary>Reads a design and binds it to a list.</summary>
    /// <exception cref="LetterFormatException">It cannot be read.</exception>
    public static IBoundDesign Bind(string json, LetterSetting setting)
    {
        var root = Parsed(json);
        return KindOf(root) switch
        {
            PieceKind.Letter => new BoundLetter(LetterReader.Read(json), setting),
            PieceKind.Envelope or PieceKind.Labels => new BoundSurface(SurfaceReader.Read(root!), setting),
            PieceKind.Email => new BoundEmail(EmailReader.Read(root!), setting),
        };
    }
}
