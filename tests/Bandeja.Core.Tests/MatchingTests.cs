using Bandeja.Core.Lists;
using Bandeja.Core.Matching;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>Who is the same, who lives together, who is who in a newer file.</summary>
public sealed class MatchingTests
{
    static readonly Column[] Columns =
    [
        new(1, "No", ColumnType.Text, Role.Key),
        new(2, "First", ColumnType.Text, Role.GivenName),
        new(3, "Last", ColumnType.Text, Role.FamilyName),
        new(4, "Street", ColumnType.Text, Role.Street),
        new(5, "Zip", ColumnType.Text, Role.PostalCode),
        new(6, "Email", ColumnType.Text, Role.Email),
    ];
    static readonly MatchKeys Keys = new(Columns);

    static List<MatchRow> Rows(params string?[][] rows) => [.. rows.Select((r, i) => Keys.Of(i + 1, r))];

    static (long, long, DuplicateReason)[] Pairs(params string?[][] rows) =>
        [.. Duplicates.Find(Rows(rows)).Pairs.Select(p => (p.A, p.B, p.Reason))];

    [Theory]
    [InlineData(
        "Ana",
        "Okafor",
        "9 Tide Street Apt 4",
        "97412",
        "ANA",
        "Okafor",
        "9 tide st. #4",
        "97412-1234",
        DuplicateReason.SameNameAndAddress
    )]
    [InlineData(
        "Inês",
        "Sousa",
        "12 North Quay Road",
        "97412",
        "Ines",
        "Sousa",
        "12 N. Quay Rd",
        "97412",
        DuplicateReason.SameNameAndAddress
    )]
    [InlineData("Okafor", "Ana", "9 Tide St", "97412", "Ana", "Okafor", "9 Tide St", "97412", DuplicateReason.SameNameAndAddress)]
    [InlineData("Katherine", "Abernathy", "9 Tide St", "97412", "Katharine", "Abernathy", "9 Tide St", "97412", DuplicateReason.Near)]
    [InlineData(
        "Katherine",
        "Abernathy",
        "9 Tide Street",
        "97412",
        "Katherine",
        "Abernathy",
        "9 Tyde Street",
        "97412",
        DuplicateReason.Near
    )]
    [InlineData("Ana M", "Okafor", "9 Tide St", "97412", "Ana", "Okafor", "9 Tide St", "97412", DuplicateReason.Near)]
    public void The_same_person(
        string g1,
        string f1,
        string s1,
        string z1,
        string g2,
        string f2,
        string s2,
        string z2,
        DuplicateReason reason
    ) => Assert.Equal([(1, 2, reason)], Pairs([null, g1, f1, s1, z1, null], [null, g2, f2, s2, z2, null]));

    [Theory]
    [InlineData("Ana", "Ortega", "9 Tide St", "97412", "Ina", "Ortega", "9 Tide St", "97412")]
    [InlineData("Ana", "Okafor", "9 Tide St", "97412", "Ana", "Okafor", "9 Tide St", "97413")]
    [InlineData("Katherine", "Abernathy", "9 Tide St", "97412", "Katherine", "Abernathy", "19 Tide St", "97412")]
    [InlineData("Luis", "Ortega", "9 Tide St", "97412", "Rosa", "Ortega", "9 Tide St", "97412")]
    public void Different_people(string g1, string f1, string s1, string z1, string g2, string f2, string s2, string z2) =>
        Assert.Empty(Pairs([null, g1, f1, s1, z1, null], [null, g2, f2, s2, z2, null]));

    [Fact]
    public void Keys_and_email_addresses_count_and_what_was_settled_is_not_asked_again()
    {
        Assert.Equal(
            [(1, 2, DuplicateReason.SameKey)],
            Pairs(["M-1", "Ana", "Okafor", null, null, null], ["m-1 ", "Per", "Nowak", null, null, null])
        );
        Assert.Equal(
            [(1, 2, DuplicateReason.SameEmail)],
            Pairs(
                [null, "Katherine", "Abernathy", "1 A St", "97412", "k@example.org"],
                [null, "Katharine", "Abernathy", "2 B St", "10001", "K@example.org"]
            )
        );
        Assert.Empty(
            Pairs([null, "Luis", "Ortega", null, null, "home@example.org"], [null, "Rosa", "Ortega", null, null, "home@example.org"])
        );
        var rows = Rows(["M-1", "Ana", null, null, null, null], ["M-1", "Ana", null, null, null, null]);
        Assert.Empty(Duplicates.Find(rows, new HashSet<(long, long)> { (1, 2) }).Pairs);
    }

    [Fact]
    public void Households_are_people_at_one_address_and_get_a_name()
    {
        var found = Duplicates.Find(
            Rows(
                [null, "Luis", "Ortega", "9 Tide St", "97412", null],
                [null, "Rosa", "Ortega", "9 Tide Street", "97412", null],
                [null, "Per", "Nowak", "1 A St", "97412", null]
            )
        );
        Assert.Equal([1L, 2L], Assert.Single(found.Households).Members);
        (string?, string?)[] ortegas = [("Luis", "Ortega"), ("Rosa", "Ortega")];
        Assert.Equal("Luis and Rosa Ortega", HouseholdName.Of(ortegas, HouseholdForm.GivenNames, "en-US"));
        Assert.Equal("The Ortega family", HouseholdName.Of(ortegas, HouseholdForm.Family, "en-US"));
        Assert.Equal("Luis und Rosa Ortega", HouseholdName.Of(ortegas, HouseholdForm.GivenNames, "de-DE"));
        Assert.Equal("Familia Ortega", HouseholdName.Of(ortegas, HouseholdForm.Family, "es-ES"));
        Assert.Equal(
            "Ana Okafor, Luis Ortega and Rosa",
            HouseholdName.Of([("Ana", "Okafor"), ("Luis", "Ortega"), ("Rosa", null), (null, null)], HouseholdForm.GivenNames, "en-US")
        );
    }

    [Fact]
    public void A_crowded_postal_code_is_compared_with_neighbors_only()
    {
        var rows = Enumerable
            .Range(0, 6000)
            .Select(i => Keys.Of(i, [$"M-{i}", $"Given{i % 1201}", $"Family{i % 997}", $"{i % 3} Tide Street", "97412", null]))
            .ToList();
        rows.Add(Keys.Of(9001, [null, "Persephone", "Whitcombe", "1 Tide Street", "97412", null]));
        rows.Add(Keys.Of(9002, [null, "Persefone", "Whitcombe", "1 Tide Street", "97412", null]));
        Assert.Contains(Duplicates.Find(rows).Pairs, p => (p.A, p.B, p.Reason) == (9001, 9002, DuplicateReason.Near));
    }

    [Fact]
    public void A_newer_files_rows_find_their_recipients_once()
    {
        var known = Rows(
            ["M-1", "Ana", "Okafor", "9 Tide St", "97412", null],
            ["M-2", "Per", "Nowak", "1 A St", "97412", null],
            ["M-2", "Zoë", "Nowak", "2 A St", "97412", null]
        );
        var matcher = new RowMatcher(known, byKey: true);
        Assert.Equal(1, matcher.Take(Keys.Of(0, ["m-1"]), out var remark));
        Assert.Null(remark);
        Assert.Null(matcher.Take(Keys.Of(0, ["M-1"]), out remark));
        Assert.Contains("repeats a key in the file", remark);
        Assert.Equal(2, matcher.Take(Keys.Of(0, ["M-2"]), out remark));
        Assert.Contains("more than one recipient", remark);
        Assert.Null(matcher.Take(Keys.Of(0, ["M-9"]), out remark));
        Assert.Null(matcher.Take(Keys.Of(0, [null]), out remark));
        Assert.Equal(1, new RowMatcher(known, byKey: false).Take(Keys.Of(0, [null, "ANA", "Okafor", "9 Tide Street", "97412"]), out _));
    }

    [Theory]
    [InlineData("a", "a", "mended", CellOutcome.Stays)]
    [InlineData("b", "a", "a", CellOutcome.Changed)]
    [InlineData("b", "a", "mended", CellOutcome.ChangedInBoth)]
    [InlineData("mended", "a", "mended", CellOutcome.Stays)]
    [InlineData(null, "a", "a", CellOutcome.Changed)]
    public void Cells_of_a_newer_file(string? file, string? before, string? here, CellOutcome outcome) =>
        Assert.Equal(outcome, CellMerge.Of(file, before, here));

    [Property(MaxTest = 200)]
    public void Any_rows_can_be_matched(string?[][] rows)
    {
        var found = Duplicates.Find([.. rows.Where(r => r is not null).Select((r, i) => Keys.Of(i, r))]);
        Assert.All(found.Pairs, p => Assert.True(p.A < p.B && p.Likeness is >= 0 and <= 100));
    }
}

/// <summary>What is no family.</summary>
public sealed class OrganizationNameTests
{
    [Theory]
    [InlineData("Haas Library", true)]
    [InlineData("Ortega & Sons Ltd", true)]
    [InlineData("Stadtbibliothek Haas", false)]
    [InlineData("Bibliothek Haas", true)]
    [InlineData("Ana Ortega", false)]
    [InlineData("Luis Inca", false)]
    [InlineData("", false)]
    [InlineData(null, false)]
    public void An_organization_is_known_by_a_whole_word_of_its_name(string? name, bool organization) =>
        Assert.Equal(organization, Bandeja.Core.Matching.OrganizationName.Is(name));
}
