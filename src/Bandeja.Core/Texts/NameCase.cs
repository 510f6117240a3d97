using System.Text;

namespace Bandeja.Core.Texts;

/// <summary>Capitals for names: <c>ANA OKAFOR</c> becomes <c>Ana Okafor</c>, while McKay, O'Neill and van der Berg stay or become
/// right.</summary>
public static class NameCase
{
    static readonly HashSet<string> Particles = new(StringComparer.OrdinalIgnoreCase)
    {
        "van",
        "von",
        "der",
        "den",
        "de",
        "del",
        "della",
        "di",
        "da",
        "das",
        "do",
        "dos",
        "du",
        "la",
        "le",
        "ter",
        "ten",
        "zu",
        "zur",
        "af",
        "av",
        "al",
        "bin",
        "ibn",
        "y",
        "e",
        "und",
    };

    /// <summary>The name with capitals where they belong. A word that already mixes capitals and small letters is left as it is.</summary>
    public static string Of(string name)
    {
        var words = name.Split(' ');
        for (var i = 0; i < words.Length; i++)
        {
            var word = words[i];
            if (word.Length == 0 || word.Any(char.IsLower) && word.Skip(1).Any(char.IsUpper))
                continue;
            if (Particles.Contains(word) && words.Length > 1 && i < words.Length - 1)
                words[i] = i > 0 || word == word.ToLowerInvariant() ? word.ToLowerInvariant() : Capital(word);
            else
                words[i] = Capital(word);
        }
        return string.Join(' ', words);
    }

    static string Capital(string word)
    {
        var text = new StringBuilder(word.ToLowerInvariant());
        var start = true;
        for (var i = 0; i < text.Length; i++)
        {
            if (start && char.IsLetter(text[i]))
            {
                text[i] = char.ToUpperInvariant(text[i]);
                start = false;
                // Dutch ij is one letter; no other language begins names with it.
                if (text[i] == 'I' && i + 1 < text.Length && text[i + 1] == 'j')
                    text[++i] = 'J';
                // Mc is a prefix of its own; a name after it starts anew.
                if (text[i] == 'M' && i + 3 < text.Length && text[i + 1] == 'c')
                    start = ++i > 0;
            }
            else if (text[i] is '-' or '\'' or '’')
                start = i + 2 < text.Length && char.IsLetter(text[i + 2]);
        }
        // Greek ends its words with a sigma of their own.
        if (text.Length > 1 && text[^1] == 'σ')
            text[^1] = 'ς';
        return text.ToString();
    }
}
