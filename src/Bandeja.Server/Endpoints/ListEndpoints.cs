using System.Text.Json;
using Bandeja.Acts.Drops;
using Bandeja.Acts.Lists;
using Bandeja.Core.Checks;
using Bandeja.Core.Lists;
using Bandeja.Formats.Ledger;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;
using Dapper;

namespace Bandeja.Server.Endpoints;

/// <summary>A list with its columns.</summary>
/// <param name="Report">What was found when it was brought in.</param>
/// <param name="Revision">Goes up with every change.</param>
/// <param name="Version">The number of its last load.</param>
/// <param name="Checking">True while the checks are going through it.</param>
/// <param name="IssueCells">How many cells are wrong.</param>
/// <param name="Undo">What would be taken back next, or null.</param>
/// <param name="Redo">What would be done again next, or null.</param>
/// <param name="Reload">A newer file that was held against the list and waits for a decision, or null.</param>
public sealed record ListView(
    long Id,
    string Name,
    long Recipients,
    string? SourceName,
    string CreatedAt,
    string CreatedBy,
    IReadOnlyList<string> Report,
    IReadOnlyList<Column> Columns,
    long Revision,
    long Version,
    bool Checking,
    int IssueCells,
    int IssueRecipients,
    string? Undo,
    string? Redo,
    long? Reload
);

/// <summary>An issue about a cell of a recipient in the table.</summary>
/// <param name="Fix">What the cell would become; null where nothing is proposed for this cell, empty for blank.</param>
public sealed record CellIssue(int ColumnId, CheckKind Kind, string Message, string? Fix, bool Fixable);

/// <summary>When and with what somebody was mailed last.</summary>
public sealed record LastMailedView(DateOnly On, string With, string Tray);

/// <summary>A recipient in a list's table.</summary>
/// <param name="Ticked">In a segment: true or false where they were ticked or unticked by hand, else null.</param>
public sealed record RecipientView(
    long Id,
    long Number,
    IReadOnlyList<string?> Values,
    LastMailedView? LastMailed,
    IReadOnlyList<CellIssue> Issues,
    bool? Ticked
);

/// <summary>A part of a list's recipients.</summary>
public sealed record RecipientPage(int Total, IReadOnlyList<RecipientView> Rows);

/// <summary>A recipient's own page.</summary>
public sealed record RecipientDetail(
    long Id,
    long Number,
    string Name,
    string Place,
    IReadOnlyList<string?> Values,
    IReadOnlyList<CellChange> Changes,
    IReadOnlyList<MailSoFar> Mail,
    IReadOnlyList<EventRow> Events
);

/// <summary>What a column's values are like.</summary>
public sealed record ColumnFacts(long Blank, string? Longest, string? Example);

/// <summary>A new name.</summary>
public sealed record Renaming(string Name);

/// <summary>A value to set; null or nothing but spaces is blank.</summary>
/// <param name="Was">What was seen in the cell; where it holds something else now, nothing is changed.</param>
public sealed record ValueChange(string? Value = null, FormerValue? Was = null);

static class ListEndpoints
{
    /// <summary>What of a list is changed as a whole: its name and its columns.</summary>
    internal static object Record(HttpContext context) =>
        new { context.Part<ListStore>().Get(context.Number("id")).Name, Columns = context.Part<ListStore>().Columns(context.Number("id")) };

    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/lists", (ListStore lists) => lists.All().Select(l => Plain(l, [])).ToList())
            .WithSummary("All lists, without their columns");
        api.MapGet("/lists/{id:long}", View).WithSummary("A list with its columns and its state").OfRecord(Record);
        api.MapGet("/lists/{id:long}/removal", (long id, Removals removals) => removals.OfList(id))
            .WithSummary("What removing a list would do");
        api.MapDelete("/lists/{id:long}", (long id, RemoveList act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Remove a list for which nothing was produced");
        api.MapPost(
                "/lists/{id:long}/erase",
                (long id, Renaming order, ErasePeople act, Caller caller) => caller.Does(act, new(id, order.Name))
            )
            .WithSummary("Erase the people of a list for good; what was mailed stays as numbers. The name confirms it");
        api.MapPost("/lists", (NewList order, StartList act, Caller caller) => caller.Does(act, order))
            .WithSummary("Create a list by hand; returns its ID");
        api.MapPatch(
                "/lists/{id:long}",
                (long id, Renaming change, RenameList act, Caller caller) => caller.Does(act, new(id, change.Name))
            )
            .WithSummary("Give a list another name")
            .OfRecord(Record);

        api.MapGet("/lists/{id:long}/recipients", Recipients).WithSummary("A part of a list's recipients, searched, filtered and sorted");

        api.MapGet(
                "/lists/{id:long}/recipients/{recipientId:long}",
                (long id, long recipientId, ListStore lists, DropStore drops, DropHistory history) =>
                {
                    var columns = lists.Columns(id);
                    var row = lists.Recipient(id, recipientId);
                    var label = RecipientLabel.Of(columns, i => row.Values[i]);
                    return new RecipientDetail(
                        row.Id,
                        row.Number,
                        label.Name,
                        label.Place,
                        row.Values,
                        lists.Changes(recipientId),
                        history.OfRecipient(recipientId),
                        history.Events(recipientId)
                    );
                }
            )
            .WithSummary("A recipient: values, corrections, mail so far");

        api.MapPut(
                "/lists/{id:long}/recipients/{recipientId:long}/values/{columnId:int}",
                (long id, long recipientId, int columnId, ValueChange change, CorrectValue act, Caller caller) =>
                    caller.Does(act, new(id, null, recipientId, columnId, change.Value, change.Was))
            )
            .WithSummary("Correct a value");

        api.MapGet(
                "/lists/{id:long}/columns/{columnId:int}/facts",
                (long id, int columnId, Database database, ListStore lists) =>
                {
                    if (lists.Columns(id).All(x => x.Id != columnId))
                        throw new NotFoundException("This column is not in the list.");
                    using var c = database.Open();
                    var cell = RowTable.Cell(columnId);
                    var (blank, longest, example) = c.QuerySingle<(long, string?, string?)>(
                        $"SELECT count(*) - count({cell}), (SELECT {cell} FROM {RowTable.Name(id)} ORDER BY length({cell}) DESC "
                            + $"LIMIT 1), (SELECT {cell} FROM {RowTable.Name(id)} WHERE {cell} IS NOT NULL ORDER BY n LIMIT 1) FROM "
                            + $"{RowTable.Name(id)}"
                    );
                    return new ColumnFacts(blank, longest, example);
                }
            )
            .WithSummary("How many are blank in a column, and its longest value");

        api.MapGet(
                "/lists/{id:long}/recipient-ids",
                (
                    long id,
                    ListStore lists,
                    Surroundings surroundings,
                    Database database,
                    SegmentStore segments,
                    string? search = null,
                    string? where = null,
                    string sorts = "",
                    CheckKind? issue = null,
                    long? segment = null
                ) =>
                {
                    var (filter, asked) = AskedRows.Of(database, surroundings, segments, id, new(search, where, sorts, issue, segment));
                    return lists.Ids(id, asked, filter);
                }
            )
            .WithSummary("The ids of all recipients that a search finds, in its order");
        MapExport(api);
    }

    static void MapExport(RouteGroupBuilder api)
    {
        foreach (
            var (format, type) in new[]
            {
                ("csv", "text/csv"),
                ("xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"),
                ("json", "application/json"),
            }
        )
            api.MapGet(
                    $"/lists/{{id:long}}/export.{format}",
                    (
                        long id,
                        ListStore lists,
                        DropStore drops,
                        DropHistory history,
                        Surroundings surroundings,
                        Database database,
                        SegmentStore segments,
                        HttpContext context,
                        string? search = null,
                        string? where = null,
                        string sorts = "",
                        CheckKind? issue = null,
                        long? segment = null,
                        string? columns = null,
                        bool ledger = false
                    ) =>
                    {
                        var (filter, asked) = AskedRows.Of(database, surroundings, segments, id, new(search, where, sorts, issue, segment));
                        var all = lists.Columns(id);
                        var wanted = columns is null
                            ? null
                            : columns.Split(',').Select(c => int.TryParse(c, out var n) ? n : 0).ToHashSet();
                        var shown = Enumerable.Range(0, all.Count).Where(i => wanted?.Contains(all[i].Id) != false).ToList();
                        if (shown.Count == 0)
                            throw new BadInputException("Choose at least one column.");
                        List<Column> headings = [.. shown.Select(i => all[i]), .. ledger ? LedgerColumns : []];
                        var rows = lists
                            .Rows(id, lists.Ids(id, asked, filter))
                            .Chunk(500)
                            .SelectMany(chunk =>
                                ExportRows(chunk, shown, ledger ? history.LastMailed([.. chunk.Select(r => r.Id)]) : null)
                            );
                        var name = string.Join(
                            '-',
                            lists.Get(id).Name.Split([.. Path.GetInvalidFileNameChars(), ' '], StringSplitOptions.RemoveEmptyEntries)
                        );
                        var file = new FileStream(
                            Path.GetTempFileName(),
                            FileMode.Create,
                            FileAccess.ReadWrite,
                            FileShare.None,
                            1 << 16,
                            FileOptions.DeleteOnClose
                        );
                        context.Response.RegisterForDispose(file);
                        if (format == "csv")
                            TableExport.Csv(file, [.. headings.Select(h => h.Name)], rows);
                        else if (format == "xlsx")
                            TableExport.Xlsx(file, "List", headings, rows);
                        else
                            TableExport.Json(file, headings, rows);
                        file.Position = 0;
                        return Results.Stream(file, type, $"{name}.{format}");
                    }
                )
                .WithSummary($"The recipients that a search finds as {format.ToUpperInvariant()}, with the ledger's columns on demand")
                .Produces(200, contentType: type);
    }

    static readonly Column[] LedgerColumns =
    [
        new(-1, "Last mailed", ColumnType.Date, Role.None),
        new(-2, "Mailed with", ColumnType.Text, Role.None),
        new(-3, "Tray", ColumnType.Text, Role.None),
    ];

    static IEnumerable<IReadOnlyList<string?>> ExportRows(
        RecipientRow[] rows,
        List<int> shown,
        IReadOnlyDictionary<long, MailSoFar>? mailed
    )
    {
        foreach (var row in rows)
        {
            var cells = shown.Select(i => row.Values[i]);
            var mail = mailed?.GetValueOrDefault(row.Id);
            yield return mailed is null
                ? [.. cells]
                :
                [
                    .. cells,
                    mail?.MailedOn?.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture),
                    mail is null ? null : $"{mail.DropName}, {mail.CampaignName}",
                    mail?.Tray,
                ];
        }
    }

    static ListView Plain(ListRow l, IReadOnlyList<Column> columns) =>
        new(
            l.Id,
            l.Name,
            l.RowCount,
            l.SourceName,
            l.CreatedAt,
            l.CreatedBy,
            JsonSerializer.Deserialize<string[]>(l.ReportJson)!,
            columns,
            l.Revision,
            l.Version,
            false,
            0,
            0,
            null,
            null,
            null
        );

    static ListView View(
        long id,
        ListStore lists,
        CheckIssues issues,
        ListUndo undo,
        ReloadStore reloads,
        ListWork work,
        Surroundings surroundings
    )
    {
        var list = lists.Get(id);
        var columns = lists.Columns(id);
        var stale = issues.IsStale(id);
        if (stale)
            work.Check(id);
        // What is computed from the day is computed anew each day.
        if (list.ComputedOn is { } on && on != surroundings.Now.Today && columns.Any(c => c.Kind == ColumnKind.Computed))
            work.Compute(id);
        var (cells, recipients) = issues.Totals(id);
        var (back, again) = undo.Next(id);
        return Plain(list, columns) with
        {
            Checking = stale,
            IssueCells = cells,
            IssueRecipients = recipients,
            Undo = back,
            Redo = again,
            Reload = reloads.OfList(id)?.Id,
        };
    }

    static RecipientPage Recipients(
        long id,
        ListStore lists,
        DropStore drops,
        DropHistory history,
        CheckIssues issues,
        SegmentStore segments,
        Database database,
        Surroundings surroundings,
        string? search = null,
        string? where = null,
        string sorts = "",
        CheckKind? issue = null,
        long? segment = null,
        int offset = 0,
        int limit = 100
    )
    {
        if (offset < 0 || limit is < 1 or > 1000)
            throw new BadInputException("The offset must be 0 or more, and the limit 1 to 1,000.");
        var (filter, asked) = AskedRows.Of(database, surroundings, segments, id, new(search, where, sorts, issue, segment));
        var (rows, total) = lists.Page(id, asked, filter, offset, limit);
        long[] ids = [.. rows.Select(r => r.Id)];
        var mailed = history.LastMailed(ids);
        var found = issues.Of(id, ids).ToLookup(d => d.RecipientId);
        var ticks = segment is { } s ? segments.Ticks(s, ids) : new Dictionary<long, bool>();
        return new(
            total,
            [
                .. rows.Select(r => new RecipientView(
                    r.Id,
                    r.Number,
                    r.Values,
                    mailed.GetValueOrDefault(r.Id) is { MailedOn: { } on } m ? new(on, $"{m.DropName}, {m.CampaignName}", m.Tray) : null,
                    [
                        .. found[r.Id]
                            .Select(d => new CellIssue(
                                d.ColumnId,
                                d.Kind,
                                d.Message,
                                d.Proposal.FirstOrDefault(p => p.ColumnId == d.ColumnId) is { } fix ? fix.After ?? "" : null,
                                d.Proposal.Count > 0
                            )),
                    ],
                    ticks.TryGetValue(r.Id, out var ticked) ? ticked : null
                )),
            ]
        );
    }
}
