using System.Text.Json.Serialization;

namespace Bandeja.Store.Devices;

/// <summary>How far a job of a practice printer is.</summary>
public enum PracticeJobState
{
    /// <summary>Others come before it.</summary>
    [JsonStringEnumMemberName("waiting")]
    Waiting,

    /// <summary>Its sheets come out.</summary>
    [JsonStringEnumMemberName("printing")]
    Printing,

    /// <summary>Somebody stopped it; it keeps its place.</summary>
    [JsonStringEnumMemberName("held")]
    Held,

    /// <summary>All sheets are out.</summary>
    [JsonStringEnumMemberName("done")]
    Done,

    /// <summary>It was ended; what was out stays out.</summary>
    [JsonStringEnumMemberName("cancelled")]
    Cancelled,
}
