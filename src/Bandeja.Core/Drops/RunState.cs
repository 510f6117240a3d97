using System.Text.Json.Serialization;

namespace Bandeja.Core.Drops;

/// <summary>How far a run is, or other long work, which is never paused.</summary>
public enum RunState
{
    /// <summary>It waits for its turn.</summary>
    [JsonStringEnumMemberName("queued")]
    Queued,

    /// <summary>It is being made.</summary>
    [JsonStringEnumMemberName("running")]
    Running,

    /// <summary>Somebody or something stopped it for a while; its pieces stay with it.</summary>
    [JsonStringEnumMemberName("paused")]
    Paused,

    /// <summary>All of it is made.</summary>
    [JsonStringEnumMemberName("done")]
    Done,

    /// <summary>Somebody ended it; what was imported from it by then stays made.</summary>
    [JsonStringEnumMemberName("cancelled")]
    Cancelled,

    /// <summary>It could not be made.</summary>
    [JsonStringEnumMemberName("failed")]
    Failed,
}

/// <summary>What states of runs have in common.</summary>
public static class RunStates
{
    /// <summary>True while it is made, or will be without anybody asking.</summary>
    public static bool IsUnderWay(this RunState state) => state is RunState.Queued or RunState.Running;

    /// <summary>True where nothing happens to it any more.</summary>
    public static bool IsOver(this RunState state) => state is RunState.Done or RunState.Cancelled or RunState.Failed;

    /// <summary>True where it ended without being made.</summary>
    public static bool IsBrokenOff(this RunState state) => state is RunState.Cancelled or RunState.Failed;

    /// <summary>A state that was stored.</summary>
    public static RunState Read(string stored) => Enum.Parse<RunState>(stored, ignoreCase: true);

    /// <summary>As it is stored.</summary>
    public static string Stored(this RunState state) => state.ToString().ToLowerInvariant();
}
