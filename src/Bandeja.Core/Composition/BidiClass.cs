namespace Bandeja.Core.Composition;

/// <summary>Bidirectional character types (UAX #9, table 4), by the names that the standard gives them.</summary>
enum BidiClass : byte
{
    L,
    R,
    AL,
    EN,
    ES,
    ET,
    AN,
    CS,
    NSM,
    BN,
    B,
    S,
    WS,
    ON,
    LRE,
    LRO,
    RLE,
    RLO,
    PDF,
    LRI,
    RLI,
    FSI,
    PDI,
}
