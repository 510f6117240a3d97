using System.Text.Json.Serialization;

namespace Bandeja.Core.Composition;

/// <summary>What becomes of a form's fields in the finished file.</summary>
[JsonConverter(typeof(JsonStringEnumConverter<FormOutput>))]
public enum FormOutput
{
    /// <summary>Values are drawn into the page.</summary>
    [JsonStringEnumMemberName("printed")]
    Printed,

    /// <summary>Fields stay and can be filled in further.</summary>
    [JsonStringEnumMemberName("fillable")]
    Fillable,

    /// <summary>Fields stay, but nobody can change them.</summary>
    [JsonStringEnumMemberName("readonly")]
    ReadOnly,
}
