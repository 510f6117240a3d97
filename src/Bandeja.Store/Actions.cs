using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store;

/// <summary>An act of a person that can be taken back as a whole.</summary>
public sealed record ActionRow
{
    public long Id { get; init; }
    public long? ListId { get; init; }
    public long? DropId { get; init; }
    public string Label { get; init; } = "";
    public string At { get; init; } = "";
    public string By { get; init; } = "";
}

static class Actions
{
    /// <summary>Begins an act; the events and changes that belong to it carry its id.</summary>
    public static long Begin(
        SqliteConnection c,
        long? listId,
        long? dropId,
        string label,
        Actor actor,
        long? undoes = null,
        bool byItself = false
    ) =>
        c.QuerySingle<long>(
            "INSERT INTO action (list_id, drop_id, label, at, by, undoes, by_itself) VALUES (@listId, @dropId, @label, @Stamp, "
                + "@Name, @undoes, @byItself) RETURNING id",
            new
            {
                listId,
                dropId,
                label,
                actor.Stamp,
                actor.Name,
                undoes,
                byItself,
            }
        );

    /// <summary>Refuses to take back at another place what was entered at the returns desk: more followed from it than events and
    /// values.</summary>
    /// <exception cref="ConflictException">It was entered there.</exception>
    public static void NotOfReturns(SqliteConnection c, ActionRow action)
    {
        if (c.QuerySingle<bool>("SELECT EXISTS (SELECT 1 FROM piece_return WHERE action_id = @Id)", new { action.Id }))
            throw new ConflictException(
                $"“{action.Label}” was entered on the Returns page. Undo it there, so that everything that followed from it is undone, too."
            );
    }

    /// <summary>An act that was not taken back; null where it was.</summary>
    public static ActionRow? ToUndo(SqliteConnection c, long id) =>
        c.QueryFirstOrDefault<ActionRow>(
            "SELECT id, list_id, drop_id, label, at, by FROM action WHERE id = @id AND undone_by IS NULL",
            new { id }
        );

    /// <summary>The last act in a drop that was not taken back and is not itself a taking back.</summary>
    public static ActionRow? LastToUndo(SqliteConnection c, long dropId) =>
        c.QueryFirstOrDefault<ActionRow>(
            "SELECT id, list_id, drop_id, label, at, by FROM action WHERE drop_id = @dropId AND undone_by IS NULL AND undoes IS "
                + "NULL ORDER BY id DESC LIMIT 1",
            new { dropId }
        );
}
