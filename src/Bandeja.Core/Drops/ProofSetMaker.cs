using Bandeja.Core.Composition;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;

namespace Bandeja.Core.Drops;

/// <summary>
/// Goes through the recipients of a drop and notes in which ways each one's pieces come out; then chooses the few in whom every way
/// is seen. Fields and conditions are evaluated, nothing is laid out: page counts and issues come from the check that did.
/// Serves one thread.
/// </summary>
public sealed class ProofSetMaker
{
    // More pictures or borrowed characters than this are not each a variation of their own: a photograph for every recipient would
    // make everybody a member of the set.
    const int MostOfAKind = 40;

    readonly List<Variation> variations = [];
    readonly Dictionary<Variation, int> bitOf = [];
    readonly Dictionary<string, FieldWatch> fields = [];
    readonly List<Measure> measures = [];
    readonly List<(int Design, ProofWatch Watch)> watches = [];
    readonly FontLibrary fonts;
    readonly Dictionary<string, int> countryBits = [];
    readonly Dictionary<(string, int), int> greetingBits = [];
    readonly Dictionary<string, int> pictureBits = new(StringComparer.OrdinalIgnoreCase);
    readonly Dictionary<(PaperFont, int), int> characterBits = [];
    readonly Dictionary<string, int> charactersOf = [];
    readonly Dictionary<int, int> pageBits = [];
    readonly Dictionary<(PieceIssueKind, string), int> issueBits = [];
    AddressWatch? address;
    GreetingWatch? greeting;

    readonly List<(long Id, int Piece)> people = [];
    readonly BitSets sets = new();
    readonly List<int> setOf = [];
    int rowsDeep;

    /// <summary>Begins, for the designs of a package, all bound to one list.</summary>
    /// <param name="today">The day for which values are evaluated.</param>
    public ProofSetMaker(IReadOnlyList<IBoundDesign> package, DateOnly today)
    {
        Context = package[0].NewContext(today);
        Context.Page = (1, 1);
        fonts = package[0].Setting.Fonts;
        for (var i = 0; i < package.Count; i++)
        {
            var design = package[i];
            watches.AddRange(
                Watches(design.Parts)
                    .Concat(design.Unprinted.SelectMany(e => OfField(e, e.ToString()!, null)))
                    .Concat(design.Tests.Select(OfTest))
                    .Select(w => (i, w))
            );
            if (design.Mailers.Count > 0)
                watches.Add((i, AddressOf(fonts.Fonts[0])));
        }
    }

    internal EvaluationContext Context { get; }
    internal int At => people.Count;
    internal bool InRows => rowsDeep > 0;

    internal void Set(int bit) => sets.Set(bit);

    internal void Each(int set, Action act)
    {
        rowsDeep++;
        Context.ForEach(set, act);
        rowsDeep--;
    }

    int Bit(Variation v)
    {
        if (bitOf.TryGetValue(v, out var known))
            return known;
        variations.Add(v);
        return bitOf[v] = variations.Count - 1;
    }

    Measure Measured(Func<int, Variation> most, Func<int, Variation>? least)
    {
        var measure = new Measure(most, least);
        measures.Add(measure);
        return measure;
    }

    List<ProofWatch> Watches(IEnumerable<TemplatePart> parts) => [.. parts.SelectMany(Watch)];

    IEnumerable<ProofWatch> Watch(TemplatePart part)
    {
        switch (part)
        {
            case FieldPart f:
                return
                [
                    .. OfField(f.Field, f.Source.Trim(), f.Thing as TextStyle ?? (f.Thing as LinkedStyle)?.Style),
                    .. f.Thing is LinkedStyle l ? Watches(l.Link.Parts) : [],
                ];
            case WhenPart w:
                return
                [
                    new WhenWatch(
                        [
                            .. w.Branches.Select(b =>
                                b.Test is null
                                    ? (null, -1, -1, Watches(b.Parts))
                                    : (
                                        (Expression?)b.Test,
                                        Bit(Variation.Met(Plain(b.Test), true)),
                                        Bit(Variation.Met(Plain(b.Test), false)),
                                        (IReadOnlyList<ProofWatch>)Watches(b.Parts)
                                    )
                            ),
                        ]
                    ),
                ];
            case EachPart e:
                var name = Context.Details[e.Set].Name;
                return
                [
                    new EachWatch(
                        e.Set,
                        Bit(Variation.Rows(name, "none", $"no {name}")),
                        Bit(Variation.Rows(name, "one", $"one of {name}")),
                        Measured(n => Variation.Rows(name, "most", $"most of {name}: {n}"), null),
                        Watches(e.Parts)
                    ),
                ];
            case PlainPart { Thing: LinkedStyle linked }:
                return Watches(linked.Link.Parts);
            case PlainPart { Thing: BoundParagraph b }:
                return Watches(b.Parts);
            case PlainPart { Thing: BoundQuote b }:
                return Watches(b.Parts);
            case PlainPart { Thing: BoundBox b }:
                return Watches(b.Parts);
            case PlainPart { Thing: BoundColumns b }:
                return Watches(b.Parts);
            case PlainPart { Thing: BoundNote b }:
                return Watches(b.Parts);
            case PlainPart { Thing: BoundList b }:
                return Watches(b.Items);
            case PlainPart { Thing: BoundItem b }:
                return Watches(b.Parts);
            case PlainPart { Thing: BoundTable b }:
                return Watches(b.Rows);
            case PlainPart { Thing: BoundRow b }:
                return Watches(b.Cells.SelectMany(c => c.Cell.Parts));
            case PlainPart { Thing: BoundPicture { Source: { } s } }:
                return [OfPicture(s)];
            case PlainPart { Thing: BoundPictureInline { Source: { } s } }:
                return [OfPicture(s)];
            case PlainPart { Thing: BoundBarcode { Source: { } s } }:
                return OfField(s, s.ToString()!.Replace("`", ""), null);
            default:
                return [];
        }
    }

    PictureWatch OfPicture(Expression source) => new(source, Bit(Variation.Blank(Plain(source), Plain(source))));

    IfWatch OfTest(DesignTest test) => new(test, Bit(Variation.Met(Plain(test.When), true)), Bit(Variation.Met(Plain(test.When), false)));

    static string Plain(Expression e) => e.ToString()!.Replace("`", "");

    IEnumerable<ProofWatch> OfField(Expression field, string name, TextStyle? style)
    {
        var font = style is null ? fonts.Fonts[0] : fonts.Find(style.Family, style.Bold, style.Italic);
        foreach (var test in Tests(field))
            yield return OfTest(new(test, Evaluator.IsYes));
        var made = Made(field).ToHashSet();
        if (made.Overlaps([BuiltIn.DeliveryAddress, BuiltIn.AddressLines, BuiltIn.LongestAddressLine]))
            yield return AddressOf(font);
        if (made.Contains(BuiltIn.Salutation))
            yield return greeting ??= new();
        if (field is BuiltInReference { Which: BuiltIn.DeliveryAddress } || !Varies(field))
            yield break;
        var key = Plain(WithoutElse(field));
        if (!fields.TryGetValue(key, out var watch))
        {
            // Whether it is blank has nothing to do with how it is written: the same value in two formats is one.
            var value = Plain(Unformatted(field));
            var called = value.Length > 48 ? value[..47] + "…" : value;
            fields[key] = watch = new(
                field,
                font,
                Bit(Variation.Blank(value, called)),
                Bit(Variation.Filled(value, called)),
                Measured(_ => Variation.Longest(key, called), _ => Variation.Shortest(key, called))
            );
        }
        yield return watch;
    }

    AddressWatch AddressOf(PaperFont font) =>
        address ??= new(
            font,
            Measured(
                n => Variation.Of(VariationKind.Extreme, "delivery address", "most lines", $"longest delivery address, {n} lines"),
                n =>
                    Variation.Of(
                        VariationKind.Extreme,
                        "delivery address",
                        "fewest lines",
                        n == 1 ? "shortest delivery address, 1 line" : $"shortest delivery address, {n} lines"
                    )
            ),
            Measured(_ => Variation.Of(VariationKind.Extreme, "delivery address", "widest line", "widest line of an address"), null)
        );

    static Expression WithoutElse(Expression e) =>
        e is not Formatted f ? e
        : f.Format == Format.Else ? WithoutElse(f.Inner)
        : f with { Inner = WithoutElse(f.Inner) };

    static Expression Unformatted(Expression e) => e is Formatted f ? Unformatted(f.Inner) : e;

    static IEnumerable<Expression> Tests(Expression e) =>
        (e is Call { Function.Name: "if" } call ? [call.Arguments[0]] : Enumerable.Empty<Expression>()).Concat(e.Parts().SelectMany(Tests));

    static IEnumerable<BuiltIn> Made(Expression e) =>
        (e is BuiltInReference b ? [b.Which] : Enumerable.Empty<BuiltIn>()).Concat(e.Parts().SelectMany(Made));

    /// <summary>True where a field's text differs between recipients by more than a number that counts them.</summary>
    static bool Varies(Expression e) =>
        e switch
        {
            ColumnReference or RowValueReference or DetailReference => true,
            BuiltInReference b => b.Which
                is not (
                    BuiltIn.Today
                    or BuiltIn.PieceNumber
                    or BuiltIn.Sender
                    or BuiltIn.RowNumber
                    or BuiltIn.PageNumber
                    or BuiltIn.PageCount
                ),
            _ => e.Parts().Any(Varies),
        };

    internal void CountryOf(string code) =>
        Set(Known(countryBits, code, () => Variation.Country(code, Countries.Named(code)?.Name ?? code)));

    internal void Greeted(string language, int rung)
    {
        if (!greetingBits.TryGetValue((language, rung), out var bit))
        {
            // The whole ladder counts as what could happen, so that a form that nobody gets can be told.
            var forms = Context.GreetingForms(language);
            for (var i = 0; i < forms.Count; i++)
                greetingBits[(language, i)] = Bit(Variation.Greeting(language, i, forms));
            if (rung < 0)
                greetingBits[(language, rung)] = Bit(Variation.Greeting(language, rung, forms));
            bit = greetingBits[(language, rung)];
        }
        Set(bit);
    }

    internal void Pictured(string name) =>
        Set(
            pictureBits.Count < MostOfAKind || pictureBits.ContainsKey(name)
                ? Known(pictureBits, name, () => Variation.Picture(name))
                : Bit(Variation.Of(VariationKind.Picture, "picture", "", "one of many other pictures"))
        );

    int Known<T>(Dictionary<T, int> bits, T key, Func<Variation> make)
        where T : notnull
    {
        if (!bits.TryGetValue(key, out var bit))
            bits[key] = bit = Bit(make());
        return bit;
    }

    /// <summary>Notes the characters that the font does not have: each borrowed one looks different from its neighbors.</summary>
    internal void Characters(string text, PaperFont font)
    {
        foreach (var c in text)
            if (c >= 0x80)
                goto beyond;
        return;
        beyond:
        foreach (var rune in text.EnumerateRunes())
        {
            if (rune.Value < 0x80)
                continue;
            if (!characterBits.TryGetValue((font, rune.Value), out var bit))
            {
                bit = -1;
                if (!font.Has(rune.Value) && fonts.Lender(font, rune, out var lender))
                {
                    var face = lender?.Family ?? "";
                    var count = charactersOf[face] = charactersOf.GetValueOrDefault(face) + 1;
                    bit = Bit(Variation.Character(count > MostOfAKind && lender is not null ? "" : rune.ToString(), lender?.Family));
                }
                characterBits[(font, rune.Value)] = bit;
            }
            if (bit >= 0)
                Set(bit);
        }
    }

    /// <summary>Looks at a recipient.</summary>
    /// <param name="pages">How many pages the letters have, as the check counted them.</param>
    /// <param name="issues">What the check found.</param>
    /// <param name="changed">The names of the designs that were changed for this recipient alone.</param>
    /// <param name="gets">Which designs of the package the recipient gets, by position; null for all.</param>
    /// <param name="channel">How the pieces go out, where that differs between recipients; null where it does not.</param>
    public void Add(
        long recipientId,
        int pieceNumber,
        IRow row,
        int pages,
        IEnumerable<(PieceIssueKind Kind, string Subject)> issues,
        IEnumerable<string>? changed = null,
        Func<int, bool>? gets = null,
        Mail.Channel? channel = null
    )
    {
        sets.Begin();
        Context.For(row, pieceNumber);
        foreach (var (design, watch) in watches)
            if (gets is null || gets(design))
                watch.Look(this);
        if (channel is { } way)
            Set(Bit(Variation.GoesBy(way)));
        Set(Known(pageBits, pages, () => Variation.Pages(pages)));
        foreach (var (kind, subject) in issues)
            Set(Known(issueBits, (kind, subject), () => Variation.Of(kind, subject)));
        foreach (var design in changed ?? [])
            Set(Bit(Variation.OneOff(design)));
        setOf.Add(sets.End());
        people.Add((recipientId, pieceNumber));
    }

    /// <summary>Chooses the set. Of recipients who show the same, the one of the lowest piece number stands for all.</summary>
    public ProofSet Finish()
    {
        // What is longest is only known now: those who are get it added to what they show.
        var extremes = measures
            .Select(m => (Measure: m, m.Range))
            .Where(m => m.Range is not null)
            .Select(m =>
                (
                    m.Measure,
                    Range: m.Range!.Value,
                    Most: Bit(m.Measure.Most(m.Range!.Value.Largest)),
                    Least: m.Measure.Least(m.Range!.Value.Smallest) is { } least ? Bit(least) : -1
                )
            )
            .ToList();
        var chosen = new List<ProofCandidate>();
        var known = new Dictionary<(int, ulong, ulong), int>();
        var counts = new int[variations.Count];
        for (var i = 0; i < people.Count; i++)
        {
            var added = new List<int>();
            foreach (var (measure, range, most, least) in extremes)
            {
                if (measure.IsLargest(i, range.Largest))
                    added.Add(most);
                if (least >= 0 && measure.IsSmallest(i, range.Smallest))
                    added.Add(least);
            }
            foreach (var bit in sets.Bits(setOf[i]))
                counts[bit]++;
            foreach (var bit in added)
                counts[bit]++;
            // Who adds nothing to an earlier one of the same kind is no candidate.
            var mark = (setOf[i], added.Aggregate(0UL, (h, b) => h * 1099511628211UL + (ulong)b + 1), (ulong)added.Count);
            if (known.TryGetValue(mark, out var at) && people[chosen[at].Index].Piece <= people[i].Piece)
                continue;
            var candidate = new ProofCandidate(i, people[i].Id, people[i].Piece, [.. sets.Bits(setOf[i]), .. added]);
            if (known.TryGetValue(mark, out at))
                chosen[at] = candidate;
            else
            {
                known[mark] = chosen.Count;
                chosen.Add(candidate);
            }
        }
        return ProofSet.Cover(variations, counts, chosen, people.Count);
    }
}

/// <summary>Sets of small numbers of which many are alike: each distinct one is kept once.</summary>
sealed class BitSets
{
    readonly List<ulong[]> distinct = [];
    readonly Dictionary<ulong, List<int>> byHash = [];
    ulong[] now = new ulong[4];
    int high;

    public void Begin()
    {
        Array.Clear(now, 0, high);
        high = 0;
    }

    public void Set(int bit)
    {
        var word = bit >> 6;
        if (word >= now.Length)
            Array.Resize(ref now, word * 2);
        now[word] |= 1UL << (bit & 63);
        if (word >= high)
            high = word + 1;
    }

    public int End()
    {
        var hash = 14695981039346656037UL;
        for (var i = 0; i < high; i++)
            hash = (hash ^ now[i]) * 1099511628211UL;
        if (!byHash.TryGetValue(hash, out var alike))
            byHash[hash] = alike = [];
        foreach (var at in alike)
            if (distinct[at].AsSpan().SequenceEqual(now.AsSpan(0, high)))
                return at;
        alike.Add(distinct.Count);
        distinct.Add(now[..high]);
        return distinct.Count - 1;
    }

    public IEnumerable<int> Bits(int set)
    {
        var words = distinct[set];
        for (var w = 0; w < words.Length; w++)
        for (var rest = words[w]; rest != 0; rest &= rest - 1)
            yield return w * 64 + System.Numerics.BitOperations.TrailingZeroCount(rest);
    }
}
