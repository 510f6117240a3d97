using Bandeja.Store.Lists;
using Dapper;

namespace Bandeja.Store.People;

/// <summary>What somebody noted about a recipient.</summary>
public sealed record PersonNote
{
    public long Id { get; init; }
    public long ListId { get; init; }
    public string ListName { get; init; } = "";
    public long RecipientId { get; init; }
    public string Text { get; init; } = "";
    public string At { get; init; } = "";
    public string By { get; init; } = "";
}

/// <summary>Notes about recipients. They are read wherever the same person is on a list, and printed nowhere.</summary>
public sealed class PersonNotes(Database database)
{
    /// <summary>The most notes about one recipient.</summary>
    public const int Most = 500;

    const string Sql = """
        SELECT n.id, n.list_id, l.name AS list_name, n.recipient_id, n.text, n.at, n.by
        FROM person_note n JOIN list l ON l.id = n.list_id
        """;

    /// <summary>The notes about a recipient, and about the same person on other lists, the newest first.</summary>
    public IReadOnlyList<PersonNote> Of(long recipientId)
    {
        using var c = database.Open();
        var ids = PeopleStore.Recipients(c, recipientId);
        return [.. c.Query<PersonNote>(Sql + " WHERE n.removed_at IS NULL AND n.recipient_id IN @ids ORDER BY n.id DESC", new { ids })];
    }

    /// <summary>One note, also where it was removed.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public PersonNote Get(long noteId)
    {
        using var c = database.Open();
        return c.QuerySingleOrDefault<PersonNote>(Sql + " WHERE n.id = @noteId", new { noteId })
            ?? throw new NotFoundException("This note no longer exists.");
    }

    /// <summary>Adds a note; answers its id.</summary>
    /// <exception cref="NotFoundException">The recipient is not on the list.</exception>
    /// <exception cref="ConflictException">They have too many.</exception>
    public long Add(long listId, long recipientId, string text, Actor actor) =>
        database.Write(c =>
        {
            ListStore.Get(c, listId);
            if (RowTable.Values(c, RowTable.Columns(c, listId), listId, recipientId) is null)
                throw new NotFoundException("This recipient is not on the list.");
            if (
                c.QuerySingle<long>(
                    "SELECT count(*) FROM person_note WHERE recipient_id = @recipientId AND removed_at IS NULL",
                    new { recipientId }
                ) >= Most
            )
                throw new ConflictException($"A recipient can have {Most} notes. Remove one first.");
            return c.QuerySingle<long>(
                "INSERT INTO person_note (list_id, recipient_id, text, at, by) VALUES (@listId, @recipientId, @text, @Stamp, @Name) "
                    + "RETURNING id",
                new
                {
                    listId,
                    recipientId,
                    text,
                    actor.Stamp,
                    actor.Name,
                }
            );
        });

    /// <summary>Removes a note, so that it can still be put back.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public void Remove(long noteId, Actor actor) =>
        Mark(noteId, "UPDATE person_note SET removed_at = @Stamp WHERE id = @noteId AND removed_at IS NULL", actor);

    /// <summary>Puts a removed note back.</summary>
    /// <exception cref="NotFoundException">There is none that was removed.</exception>
    public void Restore(long noteId, Actor actor) =>
        Mark(noteId, "UPDATE person_note SET removed_at = NULL WHERE id = @noteId AND removed_at IS NOT NULL", actor);

    void Mark(long noteId, string sql, Actor actor) =>
        database.Write(c =>
        {
            if (c.Execute(sql, new { noteId, actor.Stamp }) == 0)
                throw new NotFoundException("This note no longer exists.");
        });
}
