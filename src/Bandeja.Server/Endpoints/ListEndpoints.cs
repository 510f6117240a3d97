using System.Text.Json;
using Bandeja.Core.Lists;
using Bandeja.Server.Composition;
using Bandeja.Server.Jobs;
using Bandeja.Server.Web;
using Bandeja.Store;
using Dapper;

namespace Bandeja.Server.Endpoints;

/// <summary>A list with its columns.</summary>
/// <param name="Report">What was found when it was brought in.</param>
public sealed record ListView(long Id, string Name, long Recipients, string? SourceName, string CreatedAt, string CreatedBy, IReadOnlyList<string> Report, IReadOnlyList<Column> Columns);

/// <summary>When and with what somebody was mailed last.</summary>
public sealed record LastMailedView(DateOnly On, string With, string Tray);

/// <summary>A recipient in a list's table.</summary>
public sealed record RecipientView(long Id, long Number, IReadOnlyList<string?> Values, LastMailedView? LastMailed);

/// <summary>A part of a list's recipients.</summary>
public sealed record RecipientPage(int Total, IReadOnlyList<RecipientView> Rows);

/// <summary>A recipient's own page.</summary>
public sealed record RecipientDetail(long Id, long Number, string Name, string Place, IReadOnlyList<string?> Values, IReadOnlyList<CellChange> Changes, IReadOnlyList<MailSoFar> Mail, IReadOnlyList<EventRow> Events);

/// <summary>What a column's values are like.</summary>
public sealed record ColumnFacts(long Blank, string? Longest, string? Example);

/// <summary>A new name.</summary>
public sealed record Renaming(string Name);

/// <summary>A value to set; null or nothing but spaces is blank.</summary>
public sealed record ValueChange(string? Value = null);

static class ListEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/lists", (ListStore lists) => lists.All().Select(l => View(l, [])).ToList()).WithSummary("All lists, without their columns");
        api.MapGet("/lists/{id:long}", (long id, ListStore lists) => View(lists.Get(id), lists.Columns(id))).WithSummary("A list with its columns");
        api.MapPatch("/lists/{id:long}", (long id, Renaming change, ListStore lists) =>
        {
            if (string.IsNullOrWhiteSpace(change.Name)) throw new BadInputException("Give the list a name.");
            lists.Rename(id, change.Name.Trim());
            return TypedResults.NoContent();
        }).WithSummary("Give a list another name");

        api.MapGet("/lists/{id:long}/recipients", Recipients).WithSummary("A part of a list's recipients, searched, filtered and sorted");

        api.MapGet("/lists/{id:long}/recipients/{recipientId:long}", (long id, long recipientId, ListStore lists, DropStore drops) =>
        {
            var columns = lists.Columns(id);
            var row = lists.Recipient(id, recipientId);
            var label = RecipientLabel.Of(columns, i => row.Values[i]);
            return new RecipientDetail(row.Id, row.Number, label.Name, label.Place, row.Values, lists.Changes(recipientId), drops.History(recipientId), drops.Events(recipientId));
        }).WithSummary("A recipient: values, corrections, mail so far");

        api.MapPut("/lists/{id:long}/recipients/{recipientId:long}/values/{columnId:int}", (long id, long recipientId, int columnId, ValueChange change, BenchStore bench, ListStore lists, EventHub hub, HttpContext context) =>
            Correct(bench, lists, hub, id, null, recipientId, columnId, change.Value, context)).WithSummary("Correct a value");

        api.MapGet("/lists/{id:long}/columns/{columnId:int}/facts", (long id, int columnId, Database database, ListStore lists) =>
        {
            if (lists.Columns(id).All(x => x.Id != columnId)) throw new NotFoundException("The list has no such column.");
            using var c = database.Open();
            var cell = RowTable.Cell(columnId);
            var (blank, longest, example) = c.QuerySingle<(long, string?, string?)>($"SELECT count(*) - count({cell}), (SELECT {cell} FROM {RowTable.Name(id)} ORDER BY length({cell}) DESC LIMIT 1), (SELECT {cell} FROM {RowTable.Name(id)} WHERE {cell} IS NOT NULL ORDER BY n LIMIT 1) FROM {RowTable.Name(id)}");
            return new ColumnFacts(blank, longest, example);
        }).WithSummary("How many are blank in a column, and its longest value");
    }

    static ListView View(ListRow l, IReadOnlyList<Column> columns) =>
        new(l.Id, l.Name, l.RowCount, l.SourceName, l.CreatedAt, l.CreatedBy, JsonSerializer.Deserialize<string[]>(l.ReportJson)!, columns);

    static RecipientPage Recipients(long id, ListStore lists, DropStore drops, Letters letters, SettingStore settings, string? search = null, string? where = null, int? sort = null, bool descending = false, int offset = 0, int limit = 100)
    {
        if (offset < 0 || limit is < 1 or > 1000) throw new BadInputException("The offset must be 0 or more, the limit 1 to 1000.");
        Filter? filter = null;
        if (!string.IsNullOrWhiteSpace(where))
        {
            filter = Filter.Parse(where, lists.Columns(id), letters.Today, settings.Organisation().ToLocale(), out var errors);
            if (filter is null) throw new BadInputException($"{errors[0].Message} (at character {errors[0].Position + 1} of the filter)");
        }
        var (rows, total) = lists.Page(id, new(search, where, sort, descending), filter, offset, limit);
        var mailed = drops.LastMailed([.. rows.Select(r => r.Id)]);
        return new(total, [.. rows.Select(r => new RecipientView(r.Id, r.Number, r.Values, mailed.GetValueOrDefault(r.Id) is { MailedOn: { } on } m ? new(on, $"{m.DropName}, {m.CampaignName}", m.Tray) : null))]);
    }

    /// <summary>Corrects a value, brought to the canonical form of its column's type where it has one.</summary>
    internal static ActOutcome Correct(BenchStore bench, ListStore lists, EventHub hub, long listId, long? dropId, long recipientId, int columnId, string? value, HttpContext context)
    {
        var column = lists.Columns(listId).FirstOrDefault(x => x.Id == columnId) ?? throw new NotFoundException("The list has no such column.");
        if (value?.Length > 100_000) throw new BadInputException("A value can have 100,000 characters.");
        if (!TypeGuesser.TryCanonical(value?.Trim(), column.Type, DateOrder.MonthDayYear, out var canonical) && !(column.Type == ColumnType.Date && TypeGuesser.TryCanonical(value?.Trim(), column.Type, DateOrder.YearMonthDay, out canonical)))
            throw new BadInputException(column.Type switch
            {
                ColumnType.Number => $"{column.Name} takes a number, for instance 1250.00.",
                ColumnType.Date => $"{column.Name} takes a date, for instance 2027-03-31.",
                _ => $"{column.Name} takes yes or no.",
            });
        var outcome = bench.Correct(listId, dropId, recipientId, columnId, canonical, context.Actor());
        hub.Tell("list", new { Id = listId });
        hub.Tell("drop", new { Id = 0 });
        return outcome;
    }
}
