using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using static Bandeja.Core.Tests.Doc;

namespace Bandeja.Core.Tests;

public sealed class ProofSetTests
{
    static readonly BoundLetter Renewal = Bound(
        Letter(
            [
                P("{Salutation}"),
                P("{First | else \"friend\"} {Last}, {City}"),
                P(
                    "{when Amount > 100}Thank you for so large a gift.{or when Amount is blank}Any sum helps.{otherwise}You gave "
                        + "{Amount | money}.{end}"
                ),
                P("{each Gifts}{Plant}; {end}"),
                P("{if(Last = \"Okafor\", \"cousin\", \"neighbor\")}"),
                P("{Delivery address}"),
            ]
        )
    );

    static ProofSet Of(
        IReadOnlyList<IRow> rows,
        Func<int, int>? pages = null,
        Func<int, IEnumerable<(PieceIssueKind, string)>>? issues = null,
        IReadOnlyList<IBoundDesign>? package = null
    )
    {
        var maker = new ProofSetMaker(package ?? [Renewal], new(2027, 3, 12));
        for (var i = 0; i < rows.Count; i++)
            maker.Add(100 + i, i + 1, rows[i], pages?.Invoke(i) ?? 1, issues?.Invoke(i) ?? []);
        return maker.Finish();
    }

    static string Reasons(ProofSet set, int piece) =>
        string.Join("; ", set.Members.Single(m => m.PieceNumber == piece).Reasons.Select(r => r.Text));

    static VariationSeen Seen(ProofSet set, string text) => set.Variations.Single(v => v.Variation.Text == text);

    [Fact]
    public void The_broken_fortieth_is_a_member_and_says_why()
    {
        var rows = Enumerable.Range(0, 50).Select(i => i == 39 ? Person(first: null, amount: "320") : Person()).ToList();
        var set = Of(rows);
        Assert.Contains("no First", Reasons(set, 40));
        Assert.Contains("“Amount > 100” is met", Reasons(set, 40));
        Assert.Equal([40, 1], set.Members.Select(m => m.PieceNumber).OrderDescending());
        Assert.Equal(50, set.Population);
        Assert.Equal(1, Seen(set, "no First").Recipients);
        Assert.Equal(139, Seen(set, "no First").SeenIn);
    }

    [Fact]
    public void What_nobody_has_is_told_too()
    {
        var set = Of([Person(), Person(last: "Marsh")]);
        Assert.Equal(0, Seen(set, "no City").Recipients);
        Assert.Null(Seen(set, "no City").SeenIn);
        Assert.Equal(0, Seen(set, "“Amount > 100” is met").Recipients);
        Assert.Equal(0, Seen(set, "salutation “Dear friend”").Recipients);
        Assert.Equal(2, Seen(set, "salutation “Dear {Given name}”").Recipients);
        Assert.Equal((1, 1), (Seen(set, "“Last = \"Okafor\"” is met").Recipients, Seen(set, "“Last = \"Okafor\"” is not met").Recipients));
    }

    [Fact]
    public void Rows_countries_pages_issues_and_borrowed_characters_are_variations()
    {
        (string?, string?)[] seven = [.. Enumerable.Range(0, 7).Select(i => ((string?)$"Fern {i}", (string?)"5"))];
        var rows = new[]
        {
            Person(),
            Person(gifts: [("Fern", "5")]),
            Person(gifts: seven),
            Person(country: "Japan"),
            Person(last: "שלום"),
            Person(),
            Person(),
        };
        var set = Of(rows, i => i == 5 ? 2 : 1, i => i == 6 ? [(PieceIssueKind.RunsOver, "letter")] : []);
        Assert.Contains("most of Gifts: 7", Reasons(set, 3));
        Assert.Contains("Japan", Reasons(set, 4));
        Assert.Contains("“ש”", Reasons(set, 5));
        Assert.Contains("2 pages", Reasons(set, 6));
        Assert.StartsWith("Over the page limit", Reasons(set, 7));
        Assert.Equal(5, Seen(set, "no Gifts").Recipients - 0);
    }

    [Fact]
    public void A_field_within_each_is_measured_over_all_rows()
    {
        var set = Of([Person(gifts: [("Fern", "1"), ("A very long name of a rare plant", "2")]), Person(gifts: [("Ivy", "1")])]);
        Assert.Equal(100, Seen(set, "longest Plant").SeenIn);
        Assert.Equal(101, Seen(set, "shortest Plant").SeenIn);
    }

    [Fact]
    public void Everybody_alike_is_one_member_and_nobody_is_none()
    {
        Assert.Single(Of([.. Enumerable.Repeat(Person(), 30)]).Members);
        var none = Of([]);
        Assert.Empty(none.Members);
        Assert.Equal(0, none.Population);
        Assert.All(none.Variations, v => Assert.Equal(0, v.Recipients));
    }

    [Fact]
    public void A_photograph_for_everybody_does_not_make_everybody_a_member()
    {
        var album = Bound(
            Letter(
                [
                    Node(
                        "picture",
                        new
                        {
                            source = "Photo",
                            width = 20,
                            height = 20,
                        }
                    ),
                ]
            )
        );
        var set = Of([.. Enumerable.Range(0, 500).Select(i => Person(photo: $"p{i}.png"))], package: [album]);
        Assert.InRange(set.Members.Count, 40, 42);
    }

    static readonly Gen<IRow> AnyPerson =
        from first in Gen.Elements(null, "Ana", "Bartholomew", "  ", "ש")
        from last in Gen.Elements("Okafor", "Li", "Abernathy-Fairweather", "{", "O'Neill", "\u202eevil", "漢字")
        from amount in Gen.Elements(null, "5", "100", "101", "abc")
        from country in Gen.Elements(null, "Japan", "Ireland", "Nowhere")
        from gifts in Gen.Choose(0, 3)
        select Person(first, last, amount, gifts: [.. Enumerable.Repeat(((string?)"Fern", (string?)"5"), gifts)], country: country);

    /// <summary>What a person shows, told from the row alone and without the code under test.</summary>
    static IEnumerable<string> Shows(IRow row, int longest, int shortest)
    {
        yield return string.IsNullOrWhiteSpace(row[0]) ? "first blank" : "first there";
        // What is no number prints as what is blank does; only the check tells them apart.
        if (row[4] == "abc")
            yield return "no number";
        yield return decimal.TryParse(row[4], out var n)
            ? n > 100
                ? "large"
                : "small"
            : "no sum";
        yield return $"country {row[7]}";
        yield return row.Details(0).Count switch
        {
            0 => "no gift",
            1 => "one gift",
            var k => $"{k} gifts",
        };
        if (row[1]!.Length == longest)
            yield return "longest";
        if (row[1]!.Length == shortest)
            yield return "shortest";
        yield return row[1] == "Okafor" ? "cousin" : "neighbor";
        foreach (var c in $"{row[0]}{row[1]}".Where(c => c is 'ש' or '漢' or '字'))
            yield return $"character {c}";
    }

    [Property(MaxTest = 60)]
    public Property Everything_that_a_search_through_all_finds_is_seen_in_a_member() =>
        Prop.ForAll(
            AnyPerson.ListOf().ToArbitrary(),
            people =>
            {
                var rows = people.ToList();
                var set = Of(rows, null, i => rows[i][4] == "abc" ? [(PieceIssueKind.WrongType, "Amount")] : []);
                // Widths are measured by the typeface, so that only the extremes by a clear margin can be told from the text.
                var longest = rows.Any(r => r[1] == "Abernathy-Fairweather") ? 21 : -1;
                var most = rows.Count == 0 ? 0 : rows.Max(r => r.Details(0).Count);
                bool Wanted(string s) => !(s.EndsWith(" gifts", StringComparison.Ordinal) && s != $"{most} gifts");
                var all = rows.SelectMany(r => Shows(r, longest, -1)).Where(Wanted).ToHashSet();
                var seen = set.Members.SelectMany(m => Shows(rows[m.PieceNumber - 1], longest, -1)).ToHashSet();
                return (
                    all.IsSubsetOf(seen)
                    && set.Variations.All(v => v.Recipients == 0 == v.SeenIn is null)
                    && set.Members.All(m => m.Reasons.Count > 0)
                    && set.Members.Select(m => m.RecipientId)
                        .SequenceEqual(
                            Of(rows, null, i => rows[i][4] == "abc" ? [(PieceIssueKind.WrongType, "Amount")] : [])
                                .Members.Select(m => m.RecipientId)
                        )
                ).Label($"not seen: {string.Join(", ", all.Except(seen))}");
            }
        );

    [Property(MaxTest = 60)]
    public Property No_member_could_be_left_out_and_few_are_more_than_the_least() =>
        Prop.ForAll(
            Gen.Choose(0, 255).Select(n => (byte)n).ListOf().ToArbitrary(),
            masks =>
            {
                // Abstract: eight variations, recipients with any of them; the least number is found by trying all sets.
                var people = masks.Where(m => m != 0).Take(9).ToList();
                var issues = Enumerable.Range(0, 8).Select(b => (PieceIssueKind.Blank, $"v{b}")).ToArray();
                var plain = Bound(Letter([P("Hello")]));
                var set = Of([.. people.Select(_ => Person())], null, i => issues.Where((_, b) => (people[i] >> b & 1) == 1), [plain]);
                var all = people.Aggregate(0, (a, m) => a | m);
                var least =
                    people.Count == 0
                        ? 0
                        : Enumerable
                            .Range(1, (1 << people.Count) - 1)
                            .Where(s => people.Select((m, i) => (s >> i & 1) == 1 ? m : 0).Aggregate(0, (a, m) => a | m) == all)
                            .Min(s => System.Numerics.BitOperations.PopCount((uint)s));
                int Union(IEnumerable<ProofMember> members) => members.Aggregate(0, (a, m) => a | people[m.PieceNumber - 1]);
                return Union(set.Members) == all
                    && set.Members.Count <= Math.Max(least * 2, least + 1)
                    && set.Members.All(m => Union(set.Members.Where(o => o != m)) != all || people.Count == 1);
            }
        );
}
