using System.Text.Json;
using System.Text.Json.Nodes;
using Bandeja.Core.Composition;

namespace Bandeja.Core.Designs;

/// <summary>Reads and binds designs of every kind by what their stored form says they are.</summary>
public static class DesignReader
{
    /// <summary>What a stored design is.</summary>
    public static PieceKind KindOf(string json) => RulesOf(Parsed(json)).Kind;

    // A document that says nothing is a letter: those are the oldest.
    static DesignKind RulesOf(JsonObject? root)
    {
        if (root?["kind"] is not JsonValue said || !said.TryGetValue<string>(out var name))
            return PieceKind.Letter.Rules();
        return DesignKinds.All.FirstOrDefault(k => k.Kind.Stored() == name)
            ?? throw new LetterFormatException($"“{name}” is not a known kind of design.");
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
        var rules = RulesOf(root);
        rules.Validate(json, root);
        return rules.Kind;
    }

    /// <summary>A design as a letter of nothing but its texts, one below the other, for a comparison.</summary>
    /// <exception cref="LetterFormatException">It cannot be read.</exception>
    public static LetterDesign AsText(string json)
    {
        var root = Parsed(json);
        return RulesOf(root).AsText(json, root);
    }

    /// <summary>Reads a design and binds it to a list.</summary>
    /// <exception cref="LetterFormatException">It cannot be read.</exception>
    public static IBoundDesign Bind(string json, LetterSetting setting)
    {
        var root = Parsed(json);
        return RulesOf(root).Bind(json, root, setting);
    }
}
