namespace Bandeja.Acts.Drops;

/// <summary>Recipients of a drop, and why something is done to them.</summary>
public sealed record OnRecipients(long DropId, IReadOnlyList<long> Recipients, string? Reason = null);
