namespace Bandeja.Store;

/// <summary>What an act came to.</summary>
/// <param name="Label">What was done, for the undo.</param>
/// <param name="Changed">For how many recipients.</param>
/// <param name="Skipped">For how many it made no sense, and why.</param>
public sealed record ActOutcome(string Label, int Changed, IReadOnlyList<string> Skipped);
