using System.Text.Json.Serialization;

namespace Bandeja.Core.Drops;

/// <summary>How far a message of a run is that sends.</summary>
public enum MailState
{
    /// <summary>It waits for its turn.</summary>
    [JsonStringEnumMemberName("waiting")]
    Waiting,

    /// <summary>It is being handed to the server, which may have it already.</summary>
    [JsonStringEnumMemberName("handing")]
    Handing,

    /// <summary>The server asked to try it again later.</summary>
    [JsonStringEnumMemberName("later")]
    Later,

    /// <summary>It may have gone out, or not: somebody has to look.</summary>
    [JsonStringEnumMemberName("doubt")]
    Doubt,

    /// <summary>The server took it.</summary>
    [JsonStringEnumMemberName("sent")]
    Sent,

    /// <summary>The server refused it for good.</summary>
    [JsonStringEnumMemberName("refused")]
    Refused,

    /// <summary>It was not to be sent any more when its turn came.</summary>
    [JsonStringEnumMemberName("excluded")]
    Excluded,
}
