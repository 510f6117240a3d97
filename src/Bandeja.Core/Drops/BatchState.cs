using System.Text.Json.Serialization;

namespace Bandeja.Core.Drops;

/// <summary>How far a batch of a printed run is.</summary>
public enum BatchState
{
    /// <summary>It waits for its turn.</summary>
    [JsonStringEnumMemberName("waiting")]
    Waiting,

    /// <summary>It is being handed to the printer, which may have it already.</summary>
    [JsonStringEnumMemberName("handing")]
    Handing,

    /// <summary>The printer has it.</summary>
    [JsonStringEnumMemberName("printing")]
    Printing,

    /// <summary>All of its sheets are out.</summary>
    [JsonStringEnumMemberName("out")]
    Out,

    /// <summary>The rest of it is not printed; other batches have its pieces.</summary>
    [JsonStringEnumMemberName("given up")]
    GivenUp,

    /// <summary>It may be out, or not: somebody has to look.</summary>
    [JsonStringEnumMemberName("doubt")]
    Doubt,
}

/// <summary>How states of batches are stored.</summary>
public static class BatchStates
{
    /// <summary>A state that was stored.</summary>
    /// <exception cref="ArgumentException">It is none.</exception>
    public static BatchState Read(string stored) =>
        Enum.Parse<BatchState>(stored.Replace(" ", "", StringComparison.Ordinal), ignoreCase: true);
}
