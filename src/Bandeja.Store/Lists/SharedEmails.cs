using Bandeja.Core.Checks;
using Bandeja.Core.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Lists;

/// <summary>
/// The one check that needs more than a row: recipients of a list who have the same email address, so that one mailbox would get two
/// messages. It is kept up to date address by address, with an index over them, so that an edit costs the same in a list of any size.
/// </summary>
static class SharedEmails
{
    static readonly string Kind = nameof(CheckKind.SameEmail);

    static Column? EmailOf(ListShape shape) => shape.Columns.FirstOrDefault(x => x.Role == Role.Email);

    static string Address(Column email, string alias) => $"lower(trim({alias}{RowTable.Cell(email.Id)}))";

    /// <summary>Looks at a whole list.</summary>
    public static void All(SqliteConnection c, ListShape shape)
    {
        c.Execute("DELETE FROM check_issue WHERE list_id = @ListId AND kind = @Kind", new { shape.ListId, Kind });
        if (EmailOf(shape) is { } email)
            Insert(
                c,
                shape,
                email,
                $"SELECT {Address(email, "")} FROM {RowTable.Name(shape.ListId)} WHERE gone IS NULL AND {RowTable.Cell(email.Id)} "
                    + "IS NOT NULL GROUP BY 1 HAVING count(*) > 1"
            );
    }

    /// <summary>Looks at some addresses again: those that a change took away, and those that it brought.</summary>
    public static void Of(SqliteConnection c, ListShape shape, IReadOnlySet<string> addresses)
    {
        if (addresses.Count == 0 || EmailOf(shape) is not { } email)
            return;
        foreach (var batch in addresses.Chunk(400))
        {
            var list = string.Join(',', batch.Select(a => $"'{a.Replace("'", "''", StringComparison.Ordinal)}'"));
            c.Execute(
                "DELETE FROM check_issue WHERE list_id = @ListId AND kind = @Kind AND recipient_id IN (SELECT id FROM "
                    + $"{RowTable.Name(shape.ListId)} WHERE {Address(email, "")} IN ({list}))",
                new { shape.ListId, Kind }
            );
            Insert(
                c,
                shape,
                email,
                $"SELECT {Address(email, "")} FROM {RowTable.Name(shape.ListId)} WHERE gone IS NULL AND {Address(email, "")} IN "
                    + $"({list}) GROUP BY 1 HAVING count(*) > 1"
            );
        }
    }

    /// <summary>An address as it is compared; null where it is blank.</summary>
    public static string? Key(string? value) => string.IsNullOrWhiteSpace(value) ? null : value.Trim().ToLowerInvariant();

    static void Insert(SqliteConnection c, ListShape shape, Column email, string addresses)
    {
        c.Execute(
            $"CREATE INDEX IF NOT EXISTS {RowTable.Name(shape.ListId)}_mail{email.Id} ON "
                + $"{RowTable.Name(shape.ListId)}({Address(email, "")})"
        );
        c.Execute(
            $"""
            INSERT OR IGNORE INTO check_issue (list_id, recipient_id, kind, column_id, message)
            SELECT @ListId, r.id, @Kind, @Id, 'Another recipient has the same address: ' || (SELECT count(*) FROM {RowTable.Name(
                shape.ListId
            )} o WHERE {Address(email, "o.")} = {Address(email, "r.")} AND o.gone IS NULL) || ' recipients share ' || trim(r.{RowTable.Cell(
                email.Id
            )}) || '.'
            FROM {RowTable.Name(shape.ListId)} r
            WHERE r.gone IS NULL AND {Address(email, "r.")} IN ({addresses}) AND trim(r.{RowTable.Cell(email.Id)}) <> ''
              AND NOT EXISTS (SELECT 1 FROM accepted_issue l WHERE l.list_id = @ListId AND l.recipient_id = r.id AND l.kind = @Kind
                  AND l.column_id = @Id AND l.value = r.{RowTable.Cell(
                email.Id
            )})
            """,
            new
            {
                shape.ListId,
                Kind,
                email.Id,
            }
        );
    }
}
