namespace Bandeja.Core.Texts;

/// <summary>What people write into a cell for which they have no value.</summary>
static class Placeholders
{
    static readonly HashSet<string> Words = new(StringComparer.OrdinalIgnoreCase)
    {
        "n/a",
        "n.a.",
        "#n/a",
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

    /// <summary>True for one of them, without regard to capitals; spaces around it are not among it.</summary>
    public static bool Contains(ReadOnlySpan<char> value) => Words.GetAlternateLookup<ReadOnlySpan<char>>().Contains(value);
}
