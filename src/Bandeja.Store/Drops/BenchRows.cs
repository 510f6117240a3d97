using System.Text;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Drops;

/// <summary>What is looked for among a drop's recipients.</summary>
/// <param name="Alike">Only those with issues of this group.</param>
/// <param name="Sort">piece, name or place.</param>
/// <param name="InDoubt">Only those who may have been sent a piece already.</param>
/// <param name="Noted">Only those whose piece was produced before a rule would have held them.</param>
public sealed record BenchSearch(
    Tray? Tray = null,
    string? Search = null,
    string? Alike = null,
    string Sort = "piece",
    bool Descending = false,
    bool InDoubt = false,
    bool Noted = false
);

/// <summary>The recipients of a drop as the bench lists them: by tray, search, and issue, in an order.</summary>
public sealed class BenchRows(Database database)
{
    /// <summary>A part of the recipients that a search finds, how many there are, and their ids where <paramref name="limit"/> is
    /// 0.</summary>
    public (IReadOnlyList<DropRecipient> Rows, IReadOnlyList<PieceIssueRow> Issues, int Total) Page(
        long dropId,
        BenchSearch search,
        int offset,
        int limit
    )
    {
        using var c = database.Open();
        var drop = DropStore.Drop(c, dropId);
        var columns = RowTable.Columns(c, drop.ListId);
        using var command = c.CreateCommand();
        var where = Conditions(command, drop, search);
        var total = Count(c, command, drop, where);
        command.CommandText =
            $"SELECT {DropStore.ReadColumns}, {RowTable.CellList(columns)} {From(drop)} {where} ORDER BY {OrderBy(columns, search)} LIMIT "
            + $"{limit} OFFSET {offset}";
        var rows = DropStore.Read(c, drop.Id, command, columns.Count);
        return (rows, DropIssues.Of(c, dropId, [.. rows.Select(r => r.Id)]), total);
    }

    /// <summary>The ids of all recipients that a search finds, in its order.</summary>
    public IReadOnlyList<long> Ids(long dropId, BenchSearch search)
    {
        using var c = database.Open();
        var drop = DropStore.Drop(c, dropId);
        using var command = c.CreateCommand();
        var where = Conditions(command, drop, search);
        command.CommandText = $"SELECT d.recipient_id {From(drop)} {where} ORDER BY {OrderBy(RowTable.Columns(c, drop.ListId), search)}";
        var ids = new List<long>();
        using var reader = command.ExecuteReader();
        while (reader.Read())
            ids.Add(reader.GetInt64(0));
        return ids;
    }

    /// <summary>The place of a piece among all of a drop in the order of their numbers, from 0.</summary>
    /// <exception cref="NotFoundException">No recipient of the drop has it.</exception>
    public int PlaceOf(long dropId, long piece)
    {
        using var c = database.Open();
        return c.QuerySingle<int?>(
                "SELECT CASE WHEN EXISTS (SELECT 1 FROM drop_recipient WHERE drop_id = @dropId AND piece_number = @piece) THEN "
                    + "(SELECT count(*) FROM drop_recipient WHERE drop_id = @dropId AND piece_number < @piece) END",
                new { dropId, piece }
            ) ?? throw new NotFoundException($"This drop has no piece {piece:0000}.");
    }

    internal static string From(DropRow drop) => $"FROM drop_recipient d JOIN {RowTable.Name(drop.ListId)} r ON r.id = d.recipient_id";

    static int Count(SqliteConnection c, SqliteCommand like, DropRow drop, string where)
    {
        like.CommandText = $"SELECT count(*) {From(drop)} {where}";
        return Convert.ToInt32(like.ExecuteScalar(), System.Globalization.CultureInfo.InvariantCulture);
    }

    static string Conditions(SqliteCommand command, DropRow drop, BenchSearch search)
    {
        var text = new StringBuilder("WHERE d.drop_id = $drop");
        command.Parameters.AddWithValue("$drop", drop.Id);
        if (search.Tray is { } tray)
        {
            text.Append(" AND d.tray = $tray");
            command.Parameters.AddWithValue("$tray", tray.ToString());
        }
        if (search.InDoubt)
            text.Append(" AND d.recipient_id IN (SELECT recipient_id FROM piece_doubt WHERE drop_id = $drop)");
        if (search.Noted)
            text.Append(" AND d.rule_note IS NOT NULL");
        if (search.Alike is { } alike)
        {
            text.Append(
                " AND EXISTS (SELECT 1 FROM piece_issue f WHERE f.drop_id = d.drop_id AND f.recipient_id = d.recipient_id AND "
                    + "f.alike = $alike)"
            );
            command.Parameters.AddWithValue("$alike", alike);
        }
        if (search.Search?.Trim() is { Length: > 0 and < 8 } number && number.All(char.IsAsciiDigit))
        {
            text.Append(" AND (d.piece_number = $piece OR instr(r.find, $digits) > 0)");
            command.Parameters.AddWithValue("$piece", long.Parse(number, System.Globalization.CultureInfo.InvariantCulture));
            command.Parameters.AddWithValue("$digits", number);
        }
        else
            foreach (var condition in ListStore.SearchConditions(command, search.Search))
                text.Append(" AND ").Append(condition);
        return text.ToString();
    }

    static string OrderBy(IReadOnlyList<Column> columns, BenchSearch search)
    {
        Role[] roles = search.Sort switch
        {
            "name" => [Role.FamilyName, Role.FullName, Role.GivenName, Role.Organization],
            "place" => [Role.Country, Role.Region, Role.City, Role.PostalCode, Role.WholeAddress],
            _ => [],
        };
        var direction = search.Descending ? " DESC" : "";
        var keys = roles
            .SelectMany(role => columns.Where(x => x.Role == role))
            .Select(x => $"{(x.Role == Role.Country ? RowTable.CountryKey(x.Id) : $"r.{RowTable.Cell(x.Id)}")} COLLATE NAMES{direction}, ");
        return string.Concat(keys) + $"d.piece_number{direction}";
    }
}
