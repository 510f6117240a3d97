using Bandeja.Core.Composition;

namespace Bandeja.Formats;

/// <summary>The fonts that ship, as they lie on the disk.</summary>
public static class FontFolder
{
    /// <summary>All fonts of a folder.</summary>
    /// <param name="root">The folder; null for the one beside the program.</param>
    public static FontLibrary Load(string? root = null)
    {
        root ??= Path.Combine(AppContext.BaseDirectory, "fonts");
        return PaperFonts.Load(path => Path.Combine(root, path) is var file && File.Exists(file) ? File.ReadAllBytes(file) : null);
    }
}
