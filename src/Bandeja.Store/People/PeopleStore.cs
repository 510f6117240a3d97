using Bandeja.Core.Lists;
using Bandeja.Core.Matching;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.People;

/// <summary>A recipient who is the same person as another one, or was taken for that.</summary>
/// <param name="Why">Why they are, in words.</param>
/// <param name="OnTheList">False where they were taken off their list.</param>
public sealed record PersonOnList(long RecipientId, long ListId, string ListName, string Name, string Place, string Why, bool OnTheList);

/// <summary>A person over all lists.</summary>
/// <param name="Others">The other recipients that they are.</param>
/// <param name="Different">Recipients of whom somebody said that they are somebody else.</param>
/// <param name="Looking">True while lists are still looked through.</param>
public sealed record PersonView(IReadOnlyList<PersonOnList> Others, IReadOnlyList<PersonOnList> Different, bool Looking);

/// <summary>People over all lists, and what somebody said of who is the same.</summary>
public sealed class PeopleStore(Database database, PeopleRecognition recognition)
{
    /// <summary>The most recipients of one person that are shown or counted.</summary>
    const int Most = 100;

    /// <summary>Who a recipient is.</summary>
    public PersonView Of(long listId, long recipientId)
    {
        using var c = database.Open();
        var others = Others(c, recipientId);
        var different = c.Query<long>(
                "SELECT CASE WHEN a = @recipientId THEN b ELSE a END FROM not_same_person WHERE a = @recipientId OR b = @recipientId",
                new { recipientId }
            )
            .Except(others.Select(o => o.RecipientId))
            .Take(Most)
            .ToList();
        return new(others, [.. different.Select(id => On(c, id, recipientId)).OfType<PersonOnList>()], recognition.IsStale(listId));
    }

    /// <summary>The other recipients that a recipient is.</summary>
    public static IReadOnlyList<PersonOnList> Others(SqliteConnection c, long recipientId) =>
        [
            .. Recipients(c, recipientId)
                .Where(id => id != recipientId)
                .Take(Most)
                .Select(id => On(c, id, recipientId))
                .OfType<PersonOnList>(),
        ];

    /// <summary>Recipients of all lists whose names have all the words of a text, or whose email address, or a document of theirs, holds
    /// it.</summary>
    public IReadOnlyList<PersonOnList> Find(string text)
    {
        const int shown = 20;
        var words = MatchKeys.Words(text).Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var email = text.Trim().ToLowerInvariant();
        if (words.Length is 0 or > 10 || email.Length > 200)
            return [];
        using var c = database.Open();
        var parameters = new DynamicParameters(new { email, shown });
        for (var i = 0; i < words.Length; i++)
            parameters.Add($"w{i}", words[i]);
        return
        [
            // A document is found also before its recipient is recognized.
            .. c.Query<(long Id, long ListId)>(
                    $"""
                    SELECT * FROM (SELECT recipient_id, list_id FROM person_row
                        WHERE ({string.Join(" AND ", words.Select((_, i) => $"instr(name, @w{i}) > 0"))})
                            OR (instr(@email, '@') > 0 AND instr(email, @email) > 0) ORDER BY name, recipient_id LIMIT @shown)
                    UNION
                    SELECT * FROM (SELECT recipient_id, list_id FROM person_file
                        WHERE length(@email) > 2 AND instr(lower(name), @email) > 0 ORDER BY id DESC LIMIT @shown)
                    LIMIT @shown
                    """,
                    parameters
                )
                .ToList()
                .Select(f => On(c, f.Id, f.ListId, f.Id))
                .OfType<PersonOnList>(),
        ];
    }

    /// <summary>All recipients that are the same person as one, and that one.</summary>
    public static IReadOnlyList<long> Recipients(SqliteConnection c, long recipientId) =>
        [
            .. c.Query<long>(
                """
                SELECT @recipientId UNION SELECT recipient_id FROM person_row
                    WHERE person_id = (SELECT person_id FROM person_row WHERE recipient_id = @recipientId) LIMIT 1000
                """,
                new { recipientId }
            ),
        ];

    static PersonOnList? On(SqliteConnection c, long id, long of) =>
        c.QueryFirstOrDefault<long?>("SELECT list_id FROM person_row WHERE recipient_id = @id", new { id }) is { } listId
            ? On(c, id, listId, of)
            : null;

    static PersonOnList? On(SqliteConnection c, long id, long listId, long of)
    {
        var listName = c.QuerySingle<string>("SELECT name FROM list WHERE id = @listId", new { listId });
        var columns = RowTable.Columns(c, listId);
        if (RowTable.Values(c, columns, listId, id) is not { } values)
            return null;
        var (reason, byHand) = c.QueryFirstOrDefault<(string?, bool)>(
            "SELECT reason, by_hand FROM same_person WHERE a = min(@id, @of) AND b = max(@id, @of)",
            new { id, of }
        );
        var label = RecipientLabel.Of(columns, i => values[i]);
        return new(
            id,
            listId,
            listName,
            label.Name,
            label.Place,
            id == of ? ""
                : byHand ? "marked as the same person"
                : reason is null ? "the same as another of them"
                : Enum.Parse<DuplicateReason>(reason).Words(),
            RowTable.Values(c, columns, listId, id, onTheList: true) is not null
        );
    }

    /// <summary>Says that a recipient is another person than some they were taken for.</summary>
    /// <exception cref="NotFoundException">One of them is not known.</exception>
    public void Separate(long recipientId, long otherId, Actor actor) =>
        database.Write(c =>
        {
            Known(c, recipientId);
            Known(c, otherId);
            if (recipientId == otherId)
                throw new BadInputException("This is one recipient. Choose another one.");
            var pair = new
            {
                a = Math.Min(recipientId, otherId),
                b = Math.Max(recipientId, otherId),
                actor.Stamp,
                actor.Name,
            };
            c.Execute("DELETE FROM same_person WHERE a = @a AND b = @b AND by_hand = 1", pair);
            c.Execute("INSERT OR IGNORE INTO not_same_person VALUES (@a, @b, @Stamp, @Name)", pair);
            PeopleRecognition.Said(c, [recipientId, otherId]);
        });

    /// <summary>Says that two recipients are one person, whatever was said before.</summary>
    /// <exception cref="NotFoundException">One of them is not known.</exception>
    public void Together(long recipientId, long otherId, Actor actor) =>
        database.Write(c =>
        {
            Known(c, recipientId);
            Known(c, otherId);
            if (recipientId == otherId)
                throw new BadInputException("This is one recipient. Choose another one.");
            var (own, others) = (string.Join(',', Recipients(c, recipientId)), string.Join(',', Recipients(c, otherId)));
            c.Execute($"DELETE FROM not_same_person WHERE a IN ({own}) AND b IN ({others}) OR a IN ({others}) AND b IN ({own})");
            c.Execute(
                """
                INSERT INTO same_person VALUES (min(@recipientId, @otherId), max(@recipientId, @otherId), 'SameKey', 1, @Stamp, @Name)
                ON CONFLICT (a, b) DO UPDATE SET by_hand = 1, at = excluded.at, by = excluded.by
                """,
                new
                {
                    recipientId,
                    otherId,
                    actor.Stamp,
                    actor.Name,
                }
            );
            PeopleRecognition.Said(c, [recipientId, otherId]);
        });

    static void Known(SqliteConnection c, long recipientId)
    {
        if (
            c.QuerySingleOrDefault<long?>("SELECT recipient_id FROM person_row WHERE recipient_id = @recipientId", new { recipientId })
            is null
        )
            throw new NotFoundException(
                "This recipient is not known yet. The lists are still being looked through; try again in a moment."
            );
    }
}
