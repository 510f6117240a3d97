namespace Bandeja.Core.Texts;

/// <summary>What people write into a cell for which they have no value.</summary>
static class Placeholders
{
    static readonly HashSet<string> Words = new(StringComparer.OrdinalIgnoreCase)
    {
        "n/a",
        "n.a.",
        "#n/a",
        "#ref!",
        "#value!",
        "#name?",
        "#div/0!",
        "#num!",
        "#null!",
        "#spill!",
        "#calc!",
        "#error!",
        "none",
        "null",
        "nil",
        "test",
        "xxx",
        "xx",
        "-",
        "--",
        "---",
        "–",
        "—",
        ".",
        "..",
        "...",
        "?",
        "??",
        "???",
        "unknown",
        "tbd",
        "tba",
        "keine",
        "unbekannt",
        "ninguno",
        "desconocido",
        "s/n/a",
        "inconnu",
        "not available",
        "not applicable",
        "no data",
        "(blank)",
        "(none)",
        "asdf",
        "undefined",
        "nan",
    };

    static readonly HashSet<string> Dittos = new(StringComparer.OrdinalIgnoreCase)
    {
        "same",
        "same as above",
        "as above",
        "see above",
        "ditto",
        "idem",
        "\"",
        "''",
        "“",
        "”",
        "″",
        "〃",
        "\" \"",
        "^",
        "↑",
    };

    static readonly HashSet<string> Nobodies = new(StringComparer.OrdinalIgnoreCase)
    {
        "vacant",
        "vacancy",
        "unoccupied",
        "no name",
        "no tenant",
        "anonymous",
        "name withheld",
        "not given",
    };

    /// <summary>True for what stands in the place of a name where there is nobody to write to.</summary>
    public static bool IsNobody(ReadOnlySpan<char> value) => Nobodies.GetAlternateLookup<ReadOnlySpan<char>>().Contains(value);

    /// <summary>True for what people write to repeat the row above: once rows are sorted, or printed one by one, it says nothing.</summary>
    public static bool IsDitto(ReadOnlySpan<char> value) => Dittos.GetAlternateLookup<ReadOnlySpan<char>>().Contains(value);

    /// <summary>True for one of them, without regard to capitals; spaces around it are not among it.</summary>
    public static bool Contains(ReadOnlySpan<char> value) => Words.GetAlternateLookup<ReadOnlySpan<char>>().Contains(value);
}
