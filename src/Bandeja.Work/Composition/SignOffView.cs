using Bandeja.Core.Drops;
using Bandeja.Store.Drops;
using Bandeja.Store.Proofs;
using Microsoft.Data.Sqlite;

namespace Bandeja.Work.Composition;

/// <summary>Whether a drop is signed off.</summary>
/// <param name="Changes">What has changed since, where it has lapsed.</param>
public sealed record SignOffView(SignOffState State, string? By, string? At, string? Note, IReadOnlyList<string> Changes, bool Needed)
{
    internal static SignOffView Of(SqliteConnection c, DropRow drop, string rules)
    {
        if (ProofStore.LastSignOff(c, drop.Id) is not { } last)
            return new(SignOffState.None, null, null, null, [], drop.NeedsSignOff);
        var changes = ProofStore.ChangedSince(c, drop, last, rules);
        return new(changes.Count == 0 ? SignOffState.Valid : SignOffState.Lapsed, last.By, last.At, last.Note, changes, drop.NeedsSignOff);
    }
}
