using System.Text.Json.Serialization;

namespace Bandeja.Core.Drops;

/// <summary>Whether somebody signed a drop off, and whether it is still what they saw.</summary>
public enum SignOffState
{
    /// <summary>Nobody did.</summary>
    [JsonStringEnumMemberName("none")]
    None,

    /// <summary>It is what they saw.</summary>
    [JsonStringEnumMemberName("valid")]
    Valid,

    /// <summary>Something has changed since.</summary>
    [JsonStringEnumMemberName("lapsed")]
    Lapsed,
}
