using System.Text;
using Bandeja.Core.Checks;
using Bandeja.Core.Formulas;
using Bandeja.Core.Lists;
using Bandeja.Core.Texts;
using Dapper;
using Microsoft.Data.Sqlite;
using SQLitePCL;

namespace Bandeja.Store.Lists;

/// <summary>A list without its recipients.</summary>
public sealed record ListRow
{
    public long Id { get; init; }
    public string Name { get; init; } = "";
    public long RowCount { get; init; }
    public string? SourceName { get; init; }
    public string ReportJson { get; init; } = "[]";
    public string CreatedAt { get; init; } = "";
    public string CreatedBy { get; init; } = "";
    public long Revision { get; init; }
    public long Version { get; init; }
    public DateOnly? ComputedOn { get; init; }
}

/// <summary>What is looked for in a list.</summary>
/// <param name="Search">Words that must all stand somewhere in the row, without regard to case and accents.</param>
/// <param name="Where">A filter in the field language.</param>
/// <param name="Sorts">Columns' ids in the order they count, divided by commas, a minus before those that descend; empty for the order in
/// which the list came.</param>
/// <param name="Issue">Only recipients about whom a check has this issue.</param>
/// <param name="SegmentId">A segment whose ticks count on top of the filter.</param>
public sealed record ListSearch(
    string? Search = null,
    string? Where = null,
    string Sorts = "",
    CheckKind? Issue = null,
    long? SegmentId = null
)
{
    /// <summary>The sorts as ids and directions; what is no number is passed over.</summary>
    public IEnumerable<(int ColumnId, bool Descending)> SortColumns =>
        Sorts
            .Split(',', StringSplitOptions.RemoveEmptyEntries)
            .Select(s => int.TryParse(s.TrimStart('-'), out var id) ? (id, s.StartsWith('-')) : (0, false))
            .Where(s => s.Item1 > 0)
            .Take(8);
}

/// <summary>A recipient with all values.</summary>
public sealed record RecipientRow(long Id, long Number, string?[] Values);

/// <summary>A change of one value.</summary>
public sealed record CellChange
{
    public long Id { get; init; }
    public long ColumnId { get; init; }
    public string? Old { get; init; }
    public string? New { get; init; }
    public string At { get; init; } = "";
    public string By { get; init; } = "";
}

/// <summary>Lists and their recipients.</summary>
public sealed class ListStore(Database database)
{
    // Scrolling asks for one part of the same answer after another: the order is found once and kept for a while.
    const int KeptOrders = 12;

    // The first rows are what is looked at most, and while somebody types a filter nothing else.
    const int FirstRows = 400;
    readonly LinkedList<(string Key, long[] Ids)> orders = new();

    const string Sql =
        "SELECT id, name, row_count, source_name, report_json, created_at, created_by, revision, computed_on, (SELECT max(number) "
        + "FROM list_version WHERE list_id = list.id) AS version FROM list";

    /// <summary>All lists that can be seen, the newest first.</summary>
    public IReadOnlyList<ListRow> All()
    {
        using var c = database.Open();
        return [.. c.Query<ListRow>(Sql + " WHERE state = 'ready' ORDER BY id DESC")];
    }

    /// <summary>One list.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public ListRow Get(long listId)
    {
        using var c = database.Open();
        return Get(c, listId);
    }

    internal static ListRow Get(SqliteConnection c, long listId) =>
        c.QuerySingleOrDefault<ListRow>(Sql + " WHERE id = @listId AND state = 'ready'", new { listId })
        ?? throw new NotFoundException("This list no longer exists.");

    /// <summary>A list's columns.</summary>
    public IReadOnlyList<Column> Columns(long listId)
    {
        using var c = database.Open();
        return RowTable.Columns(c, listId);
    }

    /// <summary>The number of the last change of a value in a list; 0 for none. A number stands for the values of that moment.</summary>
    public static long LastChange(SqliteConnection c, long listId) =>
        c.QuerySingle<long>("SELECT coalesce(max(id), 0) FROM cell_change WHERE list_id = @listId", new { listId });

    /// <summary>Gives a list another name.</summary>
    public void Rename(long listId, string name) =>
        database.Write(c =>
        {
            Get(c, listId);
            c.Execute("UPDATE list SET name = @name WHERE id = @listId", new { name, listId });
        });

    /// <summary>A part of the recipients that a search finds, and how many there are.</summary>
    /// <param name="filter">The parsed form of <see cref="ListSearch.Where"/>.</param>
    public (IReadOnlyList<RecipientRow> Rows, int Total) Page(long listId, ListSearch search, Filter? filter, int offset, int limit)
    {
        using var c = database.Open();
        var columns = RowTable.Columns(c, listId);
        var key = OrderKey(c, listId, search);
        var ids = KnownOrder(key);
        if (ids is null && offset + limit <= FirstRows)
        {
            var (first, total) = FindOrder(c, listId, columns, search, filter, FirstRows);
            if (total <= FirstRows)
                Keep(key, first);
            return (ByIds(c, listId, columns, Part(first, offset, limit)), total);
        }
        if (ids is null)
            Keep(key, ids = FindOrder(c, listId, columns, search, filter, null).Ids);
        return (ByIds(c, listId, columns, Part(ids, offset, limit)), ids.Length);
    }

    /// <summary>How many recipients a search finds.</summary>
    public int Count(long listId, ListSearch search, Filter? filter)
    {
        using var c = database.Open();
        return FindOrder(c, listId, RowTable.Columns(c, listId), search, filter, 0).Total;
    }

    /// <summary>The ids of all recipients that a search finds, in its order.</summary>
    public IReadOnlyList<long> Ids(long listId, ListSearch search, Filter? filter)
    {
        using var c = database.Open();
        var key = OrderKey(c, listId, search);
        if (KnownOrder(key) is { } known)
            return known;
        var ids = FindOrder(c, listId, RowTable.Columns(c, listId), search, filter, null).Ids;
        Keep(key, ids);
        return ids;
    }

    static string OrderKey(SqliteConnection c, long listId, ListSearch search)
    {
        long Issues() =>
            c.QuerySingle<long>(
                "SELECT count(*) FROM check_issue WHERE list_id = @listId AND kind = @kind",
                new { listId, kind = search.Issue?.ToString() }
            );
        var marks = search.Issue is null && search.SegmentId is null ? "" : $"{Issues()}|{SegmentStore.Mark(c, search.SegmentId)}";
        return $"{listId}|{Get(c, listId).Revision}|{marks}|{search}";
    }

    static ReadOnlySpan<long> Part(long[] ids, int offset, int limit) =>
        ids.AsSpan(Math.Min(offset, ids.Length), Math.Max(0, Math.Min(limit, ids.Length - offset)));

    long[]? KnownOrder(string key)
    {
        lock (orders)
        {
            for (var node = orders.First; node is not null; node = node.Next)
            {
                if (node.Value.Key != key)
                    continue;
                orders.Remove(node);
                orders.AddFirst(node);
                return node.Value.Ids;
            }
        }
        return null;
    }

    void Keep(string key, long[] ids)
    {
        lock (orders)
        {
            orders.AddFirst((key, ids));
            if (orders.Count > KeptOrders)
                orders.RemoveLast();
        }
    }

    /// <summary>The ids that a search finds, in order, and how many there are; with a limit, only the first of them, which SQLite finds
    /// without sorting the rest; with 0, only how many.</summary>
    static (long[] Ids, int Total) FindOrder(
        SqliteConnection c,
        long listId,
        IReadOnlyList<Column> columns,
        ListSearch search,
        Filter? filter,
        int? limit
    )
    {
        var sql = new StringBuilder($"SELECT r.id FROM {RowTable.Name(listId)} r");
        using var command = c.CreateCommand();
        List<string> conditions = ["r.gone IS NULL", .. SearchConditions(command, search.Search)];
        if (search.Issue is { } issue)
        {
            conditions.Add("EXISTS (SELECT 1 FROM check_issue d WHERE d.list_id = $list AND d.kind = $issue AND d.recipient_id = r.id)");
            command.Parameters.AddWithValue("$list", listId);
            command.Parameters.AddWithValue("$issue", issue.ToString());
        }
        var passed = new int[1];
        var ticks = search.SegmentId is not null;
        if (filter is not null)
        {
            RegisterFilter(
                c,
                filter,
                columns.Count,
                passed,
                filter.DetailSets.Count == 0 ? null : new DetailReader(c, DetailStore.Sets(c, listId), filter.DetailSets)
            );
            if (!ticks && FilterHint.Of(filter.Expression, columns) is { } hint)
                conditions.Add(hint);
            var passes = $"passes(r.id{string.Concat(filter.Columns.Select(i => ", r." + RowTable.Cell(columns[i].Id)))})";
            conditions.Add(
                ticks ? $"({passes} OR r.id IN (SELECT recipient_id FROM segment_tick WHERE segment_id = $segment AND ticked = 1))" : passes
            );
        }
        if (ticks)
        {
            conditions.Add("r.id NOT IN (SELECT recipient_id FROM segment_tick WHERE segment_id = $segment AND ticked = 0)");
            command.Parameters.AddWithValue("$segment", search.SegmentId);
        }
        // The filter is last, so that it is only asked, and only counts, where the search has found something.
        var where = " WHERE " + string.Join(" AND ", conditions);
        if (limit == 0)
        {
            command.CommandText = $"SELECT count(*) FROM {RowTable.Name(listId)} r{where}";
            return ([], Convert.ToInt32(command.ExecuteScalar(), System.Globalization.CultureInfo.InvariantCulture));
        }
        sql.Append(where).Append(" ORDER BY ").Append(filter is null ? "" : "+").Append(OrderBy(columns, search));
        if (limit is not null)
            sql.Append(" LIMIT ").Append(limit);
        command.CommandText = sql.ToString();
        var ids = new List<long>();
        using var reader = command.ExecuteReader();
        while (reader.Read())
            ids.Add(reader.GetInt64(0));
        reader.Close();
        if (limit is null || ids.Count < limit)
            return ([.. ids], ids.Count);
        // Every row had to be asked for the order, so the filter has counted them; without one, counting is a question of its own.
        if (filter is not null && !ticks)
            return ([.. ids], passed[0]);
        command.CommandText = $"SELECT count(*) FROM {RowTable.Name(listId)} r{where}";
        return ([.. ids], Convert.ToInt32(command.ExecuteScalar(), System.Globalization.CultureInfo.InvariantCulture));
    }

    /// <summary>Each word must stand somewhere in the row.</summary>
    internal static List<string> SearchConditions(SqliteCommand command, string? search)
    {
        var conditions = new List<string>();
        foreach (var word in (search ?? "").Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Take(8))
        {
            var name = $"$word{conditions.Count}";
            command.Parameters.AddWithValue(name, FoldedText.Of(word));
            conditions.Add($"instr(r.find, {name}) > 0");
        }
        return conditions;
    }

    /// <summary>The order of several columns, the first counting most: numbers by size, the rest by name, blank last in either
    /// direction.</summary>
    internal static string OrderBy(IReadOnlyList<Column> columns, ListSearch search)
    {
        var order = new StringBuilder();
        foreach (var (id, descending) in search.SortColumns)
        {
            if (columns.FirstOrDefault(x => x.Id == id) is not { } column)
                continue;
            var cell = "r." + RowTable.Cell(column.Id);
            order.Append(
                $"{cell} IS NULL, "
                    + $"{(column.Type == ColumnType.Number ? $"CAST({cell} AS REAL)" : $"{cell} COLLATE NAMES")}"
                    + $"{(descending ? " DESC" : "")}, "
            );
        }
        return order.Append("r.n").ToString();
    }

    /// <summary>Makes the filter a function of this connection, so that SQLite asks the one evaluator for each row.</summary>
    static void RegisterFilter(SqliteConnection c, Filter filter, int width, int[] passed, DetailReader? details)
    {
        var positions = filter.Columns.ToArray();
        var cells = new string?[width];
        var id = 0L;
        var row = new ArrayRow(cells, details is null ? null : set => details.Rows(id, set));
        raw.sqlite3_create_function(
            c.Handle,
            "passes",
            -1,
            null,
            (context, _, args) =>
            {
                id = raw.sqlite3_value_int64(args[0]);
                for (var i = 0; i < positions.Length; i++)
                    cells[positions[i]] =
                        raw.sqlite3_value_type(args[i + 1]) == raw.SQLITE_NULL
                            ? null
                            : raw.sqlite3_value_text(args[i + 1]).utf8_to_string();
                var passes = filter.Passes(row);
                if (passes)
                    passed[0]++;
                raw.sqlite3_result_int(context, passes ? 1 : 0);
            }
        );
    }

    /// <summary>Recipients by their ids, in the order of the ids.</summary>
    internal static IReadOnlyList<RecipientRow> ByIds(
        SqliteConnection c,
        long listId,
        IReadOnlyList<Column> columns,
        ReadOnlySpan<long> ids
    )
    {
        using var command = c.CreateCommand();
        command.CommandText = $"SELECT r.n, {RowTable.CellList(columns)} FROM {RowTable.Name(listId)} r WHERE r.id = $id";
        var parameter = command.Parameters.Add("$id", SqliteType.Integer);
        command.Prepare();
        var rows = new List<RecipientRow>(ids.Length);
        foreach (var id in ids)
        {
            parameter.Value = id;
            using var reader = command.ExecuteReader();
            if (reader.Read())
                rows.Add(new(id, reader.GetInt64(0), RowTable.Cells(reader, 1, columns.Count)));
        }
        return rows;
    }

    /// <summary>Recipients by their ids, one after another: a long list is never in memory as a whole.</summary>
    public IEnumerable<RecipientRow> Rows(long listId, IReadOnlyList<long> ids)
    {
        using var c = database.Open();
        var columns = RowTable.Columns(c, listId);
        foreach (var part in ids.Chunk(500))
        foreach (var row in ByIds(c, listId, columns, part))
            yield return row;
    }

    /// <summary>One recipient.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public RecipientRow Recipient(long listId, long recipientId)
    {
        using var c = database.Open();
        Get(c, listId);
        return Recipient(c, listId, RowTable.Columns(c, listId), recipientId);
    }

    /// <inheritdoc cref="Recipient(long, long)"/>
    public static RecipientRow Recipient(SqliteConnection c, long listId, IReadOnlyList<Column> columns, long recipientId) =>
        ByIds(c, listId, columns, [recipientId]).FirstOrDefault() ?? throw new NotFoundException("This recipient is not on the list.");

    /// <summary>The changes of a recipient's values, the newest first.</summary>
    public IReadOnlyList<CellChange> Changes(long recipientId)
    {
        using var c = database.Open();
        return
        [
            .. c.Query<CellChange>(
                "SELECT id, column_id, old, new, at, by FROM cell_change WHERE recipient_id = @recipientId ORDER BY id DESC",
                new { recipientId }
            ),
        ];
    }
}
