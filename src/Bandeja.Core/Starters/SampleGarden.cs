using Bandeja.Core.Lists;

namespace Bandeja.Core.Starters;

/// <summary>Forty made-up members of a garden to practice on, with the mistakes that real lists have: a name in capitals, a ZIP Code that
/// lost its leading zero, a missing street, a blank first name, the same person twice.</summary>
public static class SampleGarden
{
    /// <summary>What the list, the campaign, and the organization in its letter are called.</summary>
    public const string Name = "Sample garden";

    /// <summary>The columns of the list.</summary>
    public static IReadOnlyList<Column> Columns { get; } =
    [
        new(1, "No.", ColumnType.Text, Role.Key),
        new(2, "First name", ColumnType.Text, Role.GivenName),
        new(3, "Last name", ColumnType.Text, Role.FamilyName),
        new(4, "Street", ColumnType.Text, Role.Street),
        new(5, "City", ColumnType.Text, Role.City),
        new(6, "State", ColumnType.Text, Role.Region),
        new(7, "ZIP", ColumnType.Text, Role.PostalCode),
        new(8, "Email", ColumnType.Text, Role.Email),
        new(9, "Amount due", ColumnType.Number, Role.None),
    ];

    static readonly string[] Given = [.. "Ana Bo Cleo Dev Ema Finn Gia Hugo Ines Joss".Split(' ')];
    static readonly string[] Family = [.. "Alder Birch Cedar Dogwood Elm Fir Gorse Hazel Ivy Juniper".Split(' ')];
    static readonly (string City, string State, string Zip)[] Places =
    [
        ("Fernquay", "OR", "97412"),
        ("Alder Point", "OR", "97415"),
        ("Cambridge", "MA", "02139"),
        ("Port Ansel", "CA", "94110"),
    ];

    /// <summary>The recipients, each a value for every column.</summary>
    public static IReadOnlyList<string?[]> Rows { get; } = [.. Enumerable.Range(0, 40).Select(Row)];

    static string?[] Row(int i)
    {
        var (city, state, zip) = Places[i % Places.Length];
        // Each pair of names once; the last recipient is the first again, under another number.
        var (given, family) = i == 39 ? (Given[0], Family[0]) : (Given[i % 10], Family[(i / 10 + i) % 10]);
        var street = i == 39 ? "10 Garden Lane" : $"{10 + i} Garden Lane";
        if (i == 39)
            (city, state, zip) = Places[0];
        return
        [
            $"G-{i + 1:000}",
            i == 11 ? null
            : i == 17 ? given.ToUpperInvariant()
            : given,
            i == 17 ? family.ToUpperInvariant() : family,
            i == 23 ? null : street,
            city,
            state,
            i == 6 ? "2139" : zip,
            $"{given.ToLowerInvariant()}.{family.ToLowerInvariant()}{i + 1}@example.org",
            $"{20 + i % 5 * 10}",
        ];
    }
}
