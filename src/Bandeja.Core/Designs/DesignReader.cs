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

    static PieceKind KindOf(JsonObject? root) =>
        root?["kind"] is JsonValue v && v.TryGetValue<string>(out var kind)
            ? kind switch
            {
                "envelope" => PieceKind.Envelope,
                "labels" => PieceKind.Labels,
                "email" => PieceKind.Email,
                _ => PieceKind.Letter,
            }
            : PieceKind.Letter;

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
        if (kind == PieceKind.Letter)
            LetterReader.Read(json);
        else if (kind == PieceKind.Email)
            EmailReader.Read(root!);
        else
            SurfaceReader.Read(root!);
        return kind;
    }

    /// <summary>A design as a letter of nothing but its texts, one below the other, for a comparison.</summary>
    /// <exception cref="LetterFormatException">It cannot be read.</exception>
    public static LetterDesign AsText(string json)
    {
        var root = Parsed(json);
        if (KindOf(root) == PieceKind.Letter)
            return LetterReader.Read(json);
        if (KindOf(root) == PieceKind.Email)
        {
            var email = EmailReader.Read(root!);
            var plain = new ParagraphStyle(TextAlign.Left, 1, 0);
            return new(
                new(612, 792, 0, 0, 0, 0),
                [
                    .. email
                        .Headers.Where(h => h.Text.Length > 0)
                        .Select(h => new Paragraph(plain, [new TextInline($"[{h.Name}] {h.Text}", email.Type)], email.Type)),
                    .. email.Blocks,
                    .. email.Attachments.Select(a => new Paragraph(
                        plain,
                        [new TextInline($"[attached] {a.Name}", email.Type)],
                        email.Type
                    )),
                ],
                null,
                Letterhead.None
            );
        }
        var surface = SurfaceReader.Read(root!);
        return new(new(surface.Width, surface.Height, 0, 0, 0, 0), [.. surface.Boxes.SelectMany(b => b.Blocks)], null, Letterhead.None);
    }

    /// <summary>Reads a design and binds it to a list.</summary>
    /// <exception cref="LetterFormatException">It cannot be read.</exception>
    public static IBoundDesign Bind(string json, LetterSetting setting)
    {
        var root = Parsed(json);
        return KindOf(root) switch
        {
            PieceKind.Letter => new BoundLetter(LetterReader.Read(json), setting),
            PieceKind.Email => new BoundEmail(EmailReader.Read(root!), setting),
            _ => new BoundSurface(SurfaceReader.Read(root!), setting),
        };
    }
}
