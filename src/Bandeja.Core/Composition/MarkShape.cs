using System.Text.Json.Serialization;

namespace Bandeja.Core.Composition;

/// <summary>A mark in a box of a form.</summary>
[JsonConverter(typeof(JsonStringEnumConverter<MarkShape>))]
public enum MarkShape
{
    [JsonStringEnumMemberName("check")]
    Check,

    [JsonStringEnumMemberName("cross")]
    Cross,

    [JsonStringEnumMemberName("circle")]
    Circle,

    [JsonStringEnumMemberName("square")]
    Square,

    [JsonStringEnumMemberName("diamond")]
    Diamond,

    [JsonStringEnumMemberName("star")]
    Star,
}
