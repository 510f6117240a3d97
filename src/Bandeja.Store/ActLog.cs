using Dapper;

namespace Bandeja.Store;

/// <summary>Something that was done.</summary>
/// <param name="Act">The act's name.</param>
/// <param name="At">When it was done first.</param>
/// <param name="Until">When it was done last; the same, unless it was repeated.</param>
/// <param name="Times">How often, one right after the other.</param>
/// <param name="About">What kind of thing it was done to.</param>
public sealed record ActRow(
    long Id,
    string Act,
    string ActorKind,
    string Actor,
    string At,
    string Until,
    long Times,
    string? About,
    long? AboutId,
    string Text
);

/// <summary>The log of everything that was done.</summary>
public sealed class ActLog(Database database)
{
    static readonly TimeSpan Together = TimeSpan.FromMinutes(10);

    /// <summary>
    /// Writes down that something was done. What the same actor does to the same thing again within ten minutes, with nothing between,
    /// counts in the same row: a text that is being typed is saved every second.
    /// </summary>
    public void Add(string act, Actor actor, string? about, long? aboutId, string text) =>
        database.Write(c =>
        {
            var said = new
            {
                act,
                kind = actor.Kind.ToString(),
                actor.Name,
                actor.Stamp,
                about,
                aboutId,
                text,
                since = Actor.StampOf(actor.At - Together),
            };
            var same = c.Execute(
                """
                UPDATE act_log SET until = @Stamp, times = times + 1
                WHERE id = (SELECT max(id) FROM act_log) AND act = @act AND actor_kind = @kind AND actor = @Name
                    AND about IS @about AND about_id IS @aboutId AND text = @text AND until >= @since
                """,
                said
            );
            if (same == 0)
                c.Execute(
                    """
                    INSERT INTO act_log (act, actor_kind, actor, at, until, about, about_id, text)
                    VALUES (@act, @kind, @Name, @Stamp, @Stamp, @about, @aboutId, @text)
                    """,
                    said
                );
        });

    /// <summary>What was done last, the newest first.</summary>
    /// <param name="before">Only what is older than this row; null for the newest.</param>
    public IReadOnlyList<ActRow> Last(int limit, long? before = null)
    {
        using var c = database.Open();
        return
        [
            .. c.Query<ActRow>(
                """
                SELECT id, act, actor_kind, actor, at, until, times, about, about_id, text FROM act_log
                WHERE @before IS NULL OR id < @before ORDER BY id DESC LIMIT @limit
                """,
                new { limit, before }
            ),
        ];
    }
}
