using System.Text.Json.Serialization;

namespace Bandeja.Core.Composition;

/// <summary>What a design is, in the order in which designs lie in a package.</summary>
public enum PieceKind
{
    /// <summary>A letter.</summary>
    [JsonStringEnumMemberName("letter")]
    Letter,

    /// <summary>A PDF that is filled in.</summary>
    [JsonStringEnumMemberName("form")]
    Form,

    /// <summary>An envelope.</summary>
    [JsonStringEnumMemberName("envelope")]
    Envelope,

    /// <summary>A sheet of labels.</summary>
    [JsonStringEnumMemberName("labels")]
    Labels,

    /// <summary>An email.</summary>
    [JsonStringEnumMemberName("email")]
    Email,
}

/// <summary>How kinds of designs are stored.</summary>
public static class PieceKinds
{
    /// <summary>A kind that was stored.</summary>
    public static PieceKind Read(string stored) => Enum.Parse<PieceKind>(stored, ignoreCase: true);

    /// <summary>As it is stored.</summary>
    public static string Stored(this PieceKind kind) => kind.ToString().ToLowerInvariant();
}
