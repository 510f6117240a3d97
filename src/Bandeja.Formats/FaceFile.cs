using Bandeja.Core.Composition;
using Bandeja.Formats.Pdf;

namespace Bandeja.Formats;

/// <summary>A typeface file that somebody brings: looked at, and tried, before it is taken.</summary>
public static class FaceFile
{
    const string Sample = "Hamburgefonstiv 0123456789 ÄÖÜß";

    /// <summary>What a font says of itself, once it has set a line and was cut down as it will be for each file.</summary>
    /// <param name="name">What the file is called, for messages.</param>
    /// <exception cref="FontFileException">It cannot be used; the sentence says why.</exception>
    public static FontFacts Accept(byte[] data, string name)
    {
        var facts = FontFile.Read(data, name);
        try
        {
            using var font = new PaperFont(facts.Family, facts.Bold, facts.Italic, data);
            var word = font.Shape(Sample);
            if (word.Advance <= 0 || !font.Has('A') && !word.Glyphs.Any(g => g.Id > 0))
                throw new FontFileException($"“{name}” has none of the letters that a mailing needs.");
            FontSubset.Program(data, word.Glyphs.Select(g => g.Id).Distinct().Order());
        }
        catch (ArgumentException)
        {
            throw new FontFileException($"“{name}” is damaged. Get the font file again from its source.");
        }
        return facts;
    }
}
