using Bandeja.Acts.Lists;
using Bandeja.Server.Web;
using Bandeja.Store.Editing;

namespace Bandeja.Server.Endpoints;

/// <summary>Values to set as one act.</summary>
public sealed record CellValues(IReadOnlyList<CellValue> Cells);

/// <summary>A value to set in a column for several recipients.</summary>
/// <param name="DropId">The drop at whose issues it was done, so that its undo takes it back; null for none.</param>
public sealed record ColumnValue(int ColumnId, IReadOnlyList<long> Recipients, string? Value = null, long? DropId = null);

/// <summary>Values of a recipient to add, by the columns' ids.</summary>
public sealed record NewRecipients(IReadOnlyList<IReadOnlyList<NewCell>> Rows);

/// <summary>Recipients to take off the list, and why.</summary>
public sealed record Removal(IReadOnlyList<long> Recipients, string? Reason = null);

/// <summary>What replacing would do: how many cells, and the first of them.</summary>
public sealed record ReplacementPreview(int Cells, int Recipients, IReadOnlyList<CellBeforeAfter> First);

/// <summary>A list's log, a part of it.</summary>
public sealed record LogView(IReadOnlyList<LogRow> Acts);

static class ListEditEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapPost(
                "/lists/{id:long}/cells",
                (long id, CellValues order, SetCells act, Caller caller) => caller.Does(act, new(id, order.Cells))
            )
            .WithSummary("Set values of cells, as one act");

        api.MapPost(
                "/lists/{id:long}/set",
                (long id, ColumnValue order, SetColumn act, Caller caller) =>
                    caller.Does(act, new(id, order.ColumnId, order.Recipients, order.Value, order.DropId))
            )
            .WithSummary("Set a column for a selection");

        api.MapPost(
                "/lists/{id:long}/recipients",
                (long id, NewRecipients order, AddRecipients act, Caller caller) => caller.Does(act, new(id, order.Rows))
            )
            .WithSummary("Add recipients by hand; returns their IDs");

        api.MapPost(
                "/lists/{id:long}/recipients/remove",
                (long id, Removal order, RemoveRecipients act, Caller caller) => caller.Does(act, new(id, order.Recipients, order.Reason))
            )
            .WithSummary("Remove recipients from the list; drops hold them, and you can undo this");

        api.MapPost(
                "/lists/{id:long}/replace/preview",
                (long id, Replacement order, ReplacementSearch search) =>
                {
                    var found = search.Find(id, order).ToList();
                    return new ReplacementPreview(found.Count, found.Select(f => f.RecipientId).Distinct().Count(), [.. found.Take(50)]);
                }
            )
            .WithSummary("What find and replace would change");
        api.MapPost(
                "/lists/{id:long}/replace",
                (long id, Replacement order, ReplaceValues act, Caller caller) => caller.Does(act, new(id, order))
            )
            .WithSummary("Find and replace, as one act");

        api.MapPost("/lists/{id:long}/undo", (long id, UndoInList act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Undo the last act on a list");
        api.MapPost("/lists/{id:long}/redo", (long id, RedoInList act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Redo the last undone act");
        api.MapGet(
                "/lists/{id:long}/log",
                (long id, ListUndo undo, int offset = 0, int limit = 100) => new LogView(undo.Log(id, offset, Math.Clamp(limit, 1, 500)))
            )
            .WithSummary("A list's log: who did what, when and why");
        api.MapGet("/lists/{id:long}/log/{actionId:long}", (long id, long actionId, ListUndo undo) => undo.Changes(id, actionId, 200))
            .WithSummary("The values that an act changed, the first 200");
        api.MapPost(
                "/lists/{id:long}/log/{actionId:long}/undo",
                (long id, long actionId, UndoInList act, Caller caller) => caller.Does(act, new(id, actionId))
            )
            .WithSummary("Undo any act in the log");
    }
}
