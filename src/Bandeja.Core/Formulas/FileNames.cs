using System.Globalization;
using System.Text;
using Bandeja.Core.Language;

namespace Bandeja.Core.Formulas;

/// <summary>
/// Names of files for recipients, written in the field language and made so that every system takes them: no sign that Windows, macOS
/// or Linux refuses, no device's name, no more characters than a ZIP's reader and a long path leave room for. Two files never have
/// names that differ in nothing but capitals: the later ones are numbered.
/// </summary>
public sealed class FileNames
{
    /// <summary>The most characters of a name, its ending included.</summary>
    public const int Longest = 120;

    // Windows takes none of these as a name, whatever the ending (Microsoft, "Naming Files, Paths, and Namespaces").
    static readonly HashSet<string> Devices = new(
        ["CON", "PRN", "AUX", "NUL", .. Enumerable.Range(0, 10).SelectMany(i => (string[])[$"COM{i}", $"LPT{i}"])],
        StringComparer.OrdinalIgnoreCase
    );
    const string Forbidden = "<>:\"/\\|?*";

    readonly Template template;
    readonly EvaluationContext context;
    readonly string ending;
    readonly HashSet<string> taken = new(StringComparer.OrdinalIgnoreCase);

    /// <summary>Begins naming.</summary>
    /// <param name="template">A name without its ending, such as <c>{Piece number} {Last}</c>, parsed without errors.</param>
    /// <param name="context">A context of the list; it serves one thread.</param>
    /// <param name="ending">With its full stop.</param>
    public FileNames(Template template, EvaluationContext context, string ending = ".pdf") =>
        (this.template, this.context, this.ending) = (template, context, ending);

    /// <summary>How many names had to be numbered because another file has the same.</summary>
    public int Numbered { get; private set; }

    /// <summary>The name of a recipient's file.</summary>
    public string Of(Lists.IRow row, int pieceNumber)
    {
        context.For(row, pieceNumber);
        var safe = Safe(
            template.PrintPlain(context),
            pieceNumber.ToString("0000", CultureInfo.InvariantCulture),
            Longest - ending.Length - 6
        );
        if (taken.Add(safe))
            return safe + ending;
        Numbered++;
        for (var n = 2; ; n++)
            if (taken.Add($"{safe} ({n})"))
                return $"{safe} ({n}){ending}";
    }

    /// <summary>A name that every system takes.</summary>
    /// <param name="otherwise">What is taken where nothing is left.</param>
    /// <param name="longest">The most UTF-16 units.</param>
    public static string Safe(string name, string otherwise, int longest = Longest)
    {
        var text = new StringBuilder(name.Length);
        // One form for letters with accents: systems differ in which they keep, and would see two files where people see one.
        foreach (var rune in Whole(name).Normalize(NormalizationForm.FormC).EnumerateRunes())
        {
            var category = Rune.GetUnicodeCategory(rune);
            if (
                category
                is UnicodeCategory.Control
                    or UnicodeCategory.Format
                    or UnicodeCategory.Surrogate
                    or UnicodeCategory.PrivateUse
                    or UnicodeCategory.OtherNotAssigned
            )
                continue;
            if (category is UnicodeCategory.LineSeparator or UnicodeCategory.ParagraphSeparator or UnicodeCategory.SpaceSeparator)
                text.Append(' ');
            else if (rune.Value < 0x80 && Forbidden.Contains((char)rune.Value))
                text.Append('-');
            else
                text.Append(rune.ToString());
        }
        var parts = string.Join(' ', text.ToString().Split(' ', StringSplitOptions.RemoveEmptyEntries));
        // A leading full stop hides a file, a trailing one is lost on Windows; so is a trailing space.
        var safe = Cut(parts.TrimStart('.', ' ', '-'), longest).TrimEnd('.', ' ');
        if (safe.Length == 0)
            safe = otherwise;
        var stem = safe.Split('.')[0].TrimEnd();
        return Devices.Contains(stem) ? "_" + safe : safe;
    }

    /// <summary>Half of a pair of surrogates is no character, and cannot be normalized.</summary>
    static string Whole(string text)
    {
        if (!text.Any(char.IsSurrogate))
            return text;
        return string.Concat(text.EnumerateRunes().Select(r => r.ToString()));
    }

    static string Cut(string text, int longest)
    {
        if (text.Length <= longest)
            return text;
        var end = longest;
        // Never between the halves of a character, nor before an accent that belongs to it.
        while (
            end > 0 && (char.IsLowSurrogate(text[end]) || CharUnicodeInfo.GetUnicodeCategory(text, end) == UnicodeCategory.NonSpacingMark)
        )
            end--;
        return text[..end];
    }
}
