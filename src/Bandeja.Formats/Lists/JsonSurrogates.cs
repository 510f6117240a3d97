using System.Runtime.InteropServices;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace Bandeja.Formats.Lists;

/// <summary>
/// A string of JSON may hold half a character as an escape, which is no text (RFC 8259, section 8.2): .NET refuses to read it. Here it
/// becomes U+FFFD, so that one such string costs one character and not the file.
/// </summary>
static partial class JsonSurrogates
{
    // A backslash that is itself escaped begins no escape.
    [GeneratedRegex(@"(?<!\\)((?:\\\\)*)(?:(\\u[dD][89abAB][0-9a-fA-F]{2}\\u[dD][c-fC-F][0-9a-fA-F]{2})|\\u[dD][89a-fA-F][0-9a-fA-F]{2})")]
    private static partial Regex Escapes { get; }

    /// <summary>The value with every such half replaced; the value itself where there is none.</summary>
    public static JsonElement Sound(JsonElement value, out bool mended)
    {
        mended = false;
        if (value.ValueKind is not (JsonValueKind.Object or JsonValueKind.Array or JsonValueKind.String))
            return value;
        var raw = JsonMarshal.GetRawUtf8Value(value);
        if (raw.IndexOf("\\ud"u8) < 0 && raw.IndexOf("\\uD"u8) < 0)
            return value;
        var text = value.GetRawText();
        var sound = Escapes.Replace(text, m => m.Groups[2].Success ? m.Value : m.Groups[1].Value + "\\uFFFD");
        if (sound == text)
            return value;
        mended = true;
        using var document = JsonDocument.Parse(
            sound,
            new()
            {
                MaxDepth = 64,
                AllowTrailingCommas = true,
                CommentHandling = JsonCommentHandling.Skip,
            }
        );
        return document.RootElement.Clone();
    }
}
