using System.Collections.Frozen;

namespace Bandeja.Core.Documents;

/// <summary>Which face prints a typeface that a document names (<c>Faces.tsv</c>).</summary>
public static class FaceTable
{
    /// <summary>The faces that ship, with the height of their lines as a multiple of the type size (the ascender, descender, and line gap
    /// of the table hhea, or of OS/2 where the font says that those count).</summary>
    static readonly FrozenDictionary<string, double> Shipped = new Dictionary<string, double>(StringComparer.OrdinalIgnoreCase)
    {
        ["Carlito"] = 1.2207,
        ["Caladea"] = 1.15,
        ["Arimo"] = 1.1499,
        ["Tinos"] = 1.1499,
        ["Cousine"] = 1.1328,
        ["Gelasio"] = 1.2695,
        ["Source Serif 4"] = 1.371,
        ["Source Sans 3"] = 1.424,
        ["Courier Prime"] = 1.123,
        ["Caveat"] = 1.26,
    }.ToFrozenDictionary(StringComparer.OrdinalIgnoreCase);

    static readonly FrozenDictionary<string, (string Face, bool Same)> Known = Read();

    static FrozenDictionary<string, (string, bool)> Read()
    {
        using var stream = typeof(FaceTable).Assembly.GetManifestResourceStream("Faces.tsv")!;
        using var reader = new StreamReader(stream);
        return reader
            .ReadToEnd()
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Where(l => !l.StartsWith('#'))
            .Select(l => l.TrimEnd('\r').Split('\t'))
            .ToFrozenDictionary(p => p[0], p => (p[1], p[2] == "same"), StringComparer.OrdinalIgnoreCase);
    }

    /// <summary>True for a face that ships.</summary>
    public static bool Ships(string face) => Shipped.ContainsKey(face.Trim());

    /// <summary>The table: names in documents, and what ships in their place.</summary>
    public static IEnumerable<FaceUse> All =>
        Known.OrderBy(k => k.Key, StringComparer.OrdinalIgnoreCase).Select(k => new FaceUse(k.Key, k.Value.Face, k.Value.Same));

    /// <summary>The face that prints a typeface.</summary>
    /// <param name="serif">What to fall back on: true for a face with serifs.</param>
    public static FaceUse Of(string named, bool? serif = null)
    {
        var own = named.Trim();
        if (Shipped.ContainsKey(own))
            return new(own, Shipped.Keys.First(k => k.Equals(own, StringComparison.OrdinalIgnoreCase)), true);
        if (Known.TryGetValue(own, out var known))
            return new(own, known.Face, known.Same);
        // The cuts of a family are often families of their own.
        var space = own.LastIndexOf(' ');
        if (space > 0 && Known.TryGetValue(own[..space], out known))
            return new(own, known.Face, false);
        var sans =
            serif is false
            || serif is null
                && (own.Contains("Sans", StringComparison.OrdinalIgnoreCase) || own.Contains("Gothic", StringComparison.OrdinalIgnoreCase));
        return new(own, sans ? "Source Sans 3" : "Source Serif 4", false);
    }

    /// <summary>What a face is called in files that are opened elsewhere: the usual face that it is as wide as, which most computers
    /// have.</summary>
    public static string Elsewhere(string face) =>
        face switch
        {
            "Carlito" => "Calibri",
            "Caladea" => "Cambria",
            "Arimo" => "Arial",
            "Tinos" => "Times New Roman",
            "Cousine" => "Courier New",
            "Gelasio" => "Georgia",
            _ => face,
        };

    /// <summary>The height of a face's lines as a multiple of the type size, where a document says “single”.</summary>
    public static double LineHeight(string face) => Shipped.GetValueOrDefault(face, 1.2);
}
