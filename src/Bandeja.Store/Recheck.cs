using Microsoft.Data.Sqlite;

namespace Bandeja.Store;

/// <summary>Composes and checks recipients of a drop again, within the caller's transaction.</summary>
public delegate void Recheck(SqliteConnection connection, long dropId, IReadOnlyList<long> recipientIds, Actor actor, long? actionId);
