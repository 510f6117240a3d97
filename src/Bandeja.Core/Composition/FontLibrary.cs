using System.Collections.Concurrent;
using System.Text;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Composition;

/// <summary>The families that ship, and the choice of a font for a text.</summary>
public sealed class FontLibrary
{
    const int DigitsTogether = 3;
    readonly IReadOnlyCollection<string>? onlyForMissing;
    readonly Dictionary<(string, bool, bool), PaperFont> byStyle = [];

    /// <summary>Those that ship, which lend characters to the others.</summary>
    readonly IReadOnlyList<PaperFont> shipped;
    volatile IReadOnlyList<PaperFont> fonts;
    int version;
    readonly IReadOnlyList<FontLender> lenders;
    readonly ConcurrentDictionary<(int Rune, bool Bold, HanForm Form), PaperFont?> lent = new();

    /// <summary>Collects the fonts; the first family is the one used where a design names none that ships.</summary>
    /// <exception cref="ArgumentException">There is no font.</exception>
    /// <param name="onlyForMissing">Families that are not to choose from: they lend their glyphs where the others have none.</param>
    /// <param name="lenders">Fonts that are opened only where a text needs them.</param>
    public FontLibrary(
        IEnumerable<PaperFont> fonts,
        IReadOnlyCollection<string>? onlyForMissing = null,
        IReadOnlyList<FontLender>? lenders = null
    )
    {
        this.fonts = shipped = [.. fonts];
        this.lenders = lenders ?? [];
        this.onlyForMissing = onlyForMissing;
        if (this.fonts.Count == 0)
            throw new ArgumentException("At least one font is needed.", nameof(fonts));
        Families = Named();
    }

    IReadOnlyList<string> Named() => [.. fonts.Select(f => f.Family).Distinct().Where(f => onlyForMissing?.Contains(f) != true)];

    /// <summary>The families' names, in order of preference.</summary>
    public IReadOnlyList<string> Families { get; private set; }

    /// <summary>True for a family that ships, those that only lend characters included.</summary>
    public bool Ships(string family) => shipped.Any(f => f.Family.Equals(family, StringComparison.OrdinalIgnoreCase));

    /// <summary>Changes when a font is added or taken away: what was laid out before may look otherwise.</summary>
    public int Version => Volatile.Read(ref version);

    /// <summary>Adds a font, in the place of one of its family and cut.</summary>
    public void Add(PaperFont font) => Change([.. fonts.Where(f => !IsSame(f, font.Family, font.Bold, font.Italic)), font]);

    /// <summary>Takes a font away. What was laid out with it keeps it.</summary>
    public void Remove(string family, bool bold, bool italic) => Change([.. fonts.Where(f => !IsSame(f, family, bold, italic))]);

    static bool IsSame(PaperFont f, string family, bool bold, bool italic) => f.Family == family && f.Bold == bold && f.Italic == italic;

    void Change(IReadOnlyList<PaperFont> now)
    {
        lock (byStyle)
        {
            fonts = now;
            byStyle.Clear();
            lent.Clear();
            Families = Named();
            Interlocked.Increment(ref version);
        }
    }

    /// <summary>All fonts.</summary>
    public IReadOnlyList<PaperFont> Fonts => fonts;

    /// <summary>The family's font nearest to the style. A face is never slanted or thickened by machine: where it is missing, the nearest
    /// cut is used.</summary>
    public PaperFont Find(string family, bool bold, bool italic)
    {
        lock (byStyle)
        {
            if (byStyle.TryGetValue((family, bold, italic), out var known))
                return known;
            var own = fonts.Where(f => f.Family == family).DefaultIfEmpty(fonts[0]).ToList();
            if (own.Count == 1 && own[0].Family != family)
                own = [.. fonts.Where(f => f.Family == Families[0])];
            return byStyle[(family, bold, italic)] = own.OrderBy(f => (f.Bold == bold ? 0 : 2) + (f.Italic == italic ? 0 : 1)).First();
        }
    }

    /// <summary>
    /// Shapes a text with a font; characters that it lacks are taken from the other families. What no family has stays with
    /// the first font, and <paramref name="notes"/> collect it.
    /// </summary>
    /// <param name="backwards">True where the text is read from right to left; then the pieces come in that order, too.</param>
    /// <param name="form">Which form of Han characters is wanted.</param>
    public void Shape(
        PaperFont font,
        ReadOnlySpan<char> text,
        List<ShapedWord> target,
        LayoutNotes? notes,
        bool backwards = false,
        HanForm form = HanForm.None
    )
    {
        // Piece numbers, postal codes: of parts that come again and again, instead of each number anew.
        if (text.Length > DigitsTogether && !backwards && font.DigitsStandAlone && text.IndexOfAnyExceptInRange('0', '9') < 0)
        {
            for (var from = 0; from < text.Length; from += DigitsTogether)
                target.Add(font.Shape(text.Slice(from, Math.Min(DigitsTogether, text.Length - from))));
            return;
        }
        var whole = font.Shape(text, backwards);
        if (!whole.HasMissing)
        {
            target.Add(whole);
            return;
        }
        PaperFont? runFont = null;
        int runStart = 0,
            at = 0;
        foreach (var rune in text.EnumerateRunes())
        {
            var best =
                IsIgnorable(rune) && runFont is not null ? runFont
                : font.Has(rune.Value) ? font
                : Fallback(font, rune, form);
            if (best is null && !IsIgnorable(rune))
                notes?.MissingGlyphs.Add(rune);
            best ??= font;
            if (runFont is not null && best != runFont)
            {
                target.Add(runFont.Shape(text[runStart..at], backwards));
                runStart = at;
            }
            runFont = best;
            at += rune.Utf16SequenceLength;
        }
        if (runFont is not null)
            target.Add(runFont.Shape(text[runStart..], backwards));
    }

    /// <summary>Which font lends a character that another lacks: null where none has it. False for what prints nothing anyhow.</summary>
    public bool Lender(PaperFont font, Rune rune, out PaperFont? lender)
    {
        lender = IsIgnorable(rune) ? null : Fallback(font, rune, HanForm.None);
        return !IsIgnorable(rune);
    }

    /// <summary>True where some font has a glyph for a character.</summary>
    public bool Prints(Rune rune) => shipped.Any(f => f.Has(rune.Value)) || Lent(rune.Value, false, HanForm.None) is not null;

    PaperFont? Fallback(PaperFont font, Rune rune, HanForm form) =>
        shipped
            .Where(f => f.Family != font.Family && f.Has(rune.Value))
            .OrderBy(f => (f.Bold == font.Bold ? 0 : 2) + (f.Italic == font.Italic ? 0 : 1))
            .FirstOrDefault()
        ?? Lent(rune.Value, font.Bold, form);

    PaperFont? Lent(int rune, bool bold, HanForm form) =>
        lent.GetOrAdd(
            (rune, bold, form),
            key =>
                lenders
                    .Where(l => l.MayHave(key.Rune))
                    .OrderBy(l => l.Form == HanForm.None ? 0 : HanForms.Rank(l.Form, key.Form))
                    .ThenBy(l => l.Bold == key.Bold ? 0 : 1)
                    .FirstOrDefault(l => l.Font.Has(key.Rune))
                    ?.Font
        );

    /// <summary>Characters that are there for their effect and print nothing: joiners, direction marks, variation selectors,
    /// controls.</summary>
    static bool IsIgnorable(Rune rune) =>
        Rune.GetUnicodeCategory(rune) is System.Globalization.UnicodeCategory.Format or System.Globalization.UnicodeCategory.Control
        || rune.Value is >= 0xFE00 and <= 0xFE0F;
}
