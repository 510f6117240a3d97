using Bandeja.Core.Lists;
using Bandeja.Server.Events;
using Bandeja.Server.Web;
using Bandeja.Store;

namespace Bandeja.Server.Endpoints;

/// <summary>A value to set in a cell; null or nothing but spaces is blank.</summary>
/// <param name="Was">What the cell held when it was read: where it holds something else now, nothing is changed. Null to set it whatever it
/// holds.</param>
public sealed record CellValue(long RecipientId, int ColumnId, string? Value = null, FormerValue? Was = null);

/// <summary>Values to set as one act.</summary>
public sealed record CellValues(IReadOnlyList<CellValue> Cells);

/// <summary>A value to set in a column for several recipients.</summary>
/// <param name="DropId">The drop at whose findings it was done, so that its undo takes it back; null for none.</param>
public sealed record ColumnValue(int ColumnId, IReadOnlyList<long> Recipients, string? Value = null, long? DropId = null);

/// <summary>Values of a recipient to add, by the columns' ids.</summary>
public sealed record NewRecipients(IReadOnlyList<IReadOnlyList<NewCell>> Rows);

/// <summary>A value of a new recipient.</summary>
public sealed record NewCell(int ColumnId, string? Value = null);

/// <summary>Recipients to take off the list, and why.</summary>
public sealed record Removal(IReadOnlyList<long> Recipients, string? Reason = null);

/// <summary>What to find and what to put in its place.</summary>
/// <param name="Columns">In which columns; all that can be edited where there are none.</param>
/// <param name="Recipients">For which recipients; all where there are none.</param>
public sealed record Replacement(
    string Find,
    string With,
    bool MatchCase = false,
    bool WholeCell = false,
    IReadOnlyList<int>? Columns = null,
    IReadOnlyList<long>? Recipients = null
);

/// <summary>One cell before and after.</summary>
public sealed record CellBeforeAfter(long RecipientId, long Number, int ColumnId, string Before, string? After);

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
                (long id, CellValues order, ListEditor editor, ListStore lists, EventHub hub, HttpContext context) =>
                {
                    if (order.Cells.Count is 0 or > 200_000)
                        throw new BadInputException("Set 1 to 200,000 cells at once.");
                    var columns = lists.Columns(id).ToDictionary(c => c.Id);
                    var misfits = 0;
                    var edits = order
                        .Cells.Select(cell =>
                        {
                            var column =
                                columns.GetValueOrDefault(cell.ColumnId)
                                ?? throw new NotFoundException("The list has no such column (any more).");
                            return new CellEdit(
                                cell.RecipientId,
                                cell.ColumnId,
                                Canonical(column, cell.Value, editor, order.Cells.Count > 1, ref misfits),
                                cell.Was
                            );
                        })
                        .ToList();
                    var label = edits.Count == 1 ? $"Changed {columns[edits[0].ColumnId].Name}" : $"Pasted {edits.Count:N0} cells";
                    var outcome = Told(hub, id, editor.Edit(id, edits, label, context.Actor()));
                    return misfits == 0
                        ? outcome
                        : outcome with
                        {
                            Skipped =
                            [
                                misfits == 1
                                    ? "1 value does not fit its column; it is kept as it is and shown among the checks."
                                    : $"{misfits:N0} values do not fit their columns; they are kept as they are and shown among the "
                                        + "checks.",
                            ],
                        };
                }
            )
            .WithSummary("Set values of cells, as one act");

        api.MapPost(
                "/lists/{id:long}/set",
                (long id, ColumnValue order, ListEditor editor, ListStore lists, EventHub hub, HttpContext context) =>
                {
                    var column =
                        lists.Columns(id).FirstOrDefault(c => c.Id == order.ColumnId) ?? throw new NotFoundException(
                            "The list has no such column (any more)."
                        );
                    var none = 0;
                    var value = Canonical(column, order.Value, editor, false, ref none);
                    var who = order.Recipients.Count == 1 ? "1 recipient" : $"{order.Recipients.Count:N0} recipients";
                    return Told(
                        hub,
                        id,
                        editor.Edit(
                            id,
                            [.. order.Recipients.Select(r => new CellEdit(r, order.ColumnId, value))],
                            $"Set {column.Name} to {value ?? "blank"} for {who}",
                            context.Actor(),
                            order.DropId
                        )
                    );
                }
            )
            .WithSummary("Set a column for a selection");

        api.MapPost(
                "/lists/{id:long}/recipients",
                (long id, NewRecipients order, ListEditor editor, ListStore lists, EventHub hub, HttpContext context) =>
                {
                    if (order.Rows.Count is 0 or > 100_000)
                        throw new BadInputException("Add 1 to 100,000 recipients at once.");
                    var columns = lists.Columns(id).ToDictionary(c => c.Id);
                    var misfits = 0;
                    var ids = editor.AddRecipients(
                        id,
                        [
                            .. order.Rows.Select(row =>
                                (IReadOnlyDictionary<int, string?>)
                                    row.ToDictionary(
                                        c => c.ColumnId,
                                        c =>
                                            Canonical(
                                                columns.GetValueOrDefault(c.ColumnId)
                                                    ?? throw new NotFoundException("The list has no such column (any more)."),
                                                c.Value,
                                                editor,
                                                true,
                                                ref misfits
                                            )
                                    )
                            ),
                        ],
                        context.Actor()
                    );
                    hub.List(id);
                    hub.Tell("drop", new { Id = 0 });
                    return ids;
                }
            )
            .WithSummary("Add recipients by hand; answers their ids");

        api.MapPost(
                "/lists/{id:long}/recipients/remove",
                (long id, Removal order, ListEditor editor, EventHub hub, HttpContext context) =>
                {
                    var who = order.Recipients.Count == 1 ? "1 recipient" : $"{order.Recipients.Count:N0} recipients";
                    var reason = string.IsNullOrWhiteSpace(order.Reason) ? "" : $": {order.Reason.Trim()}";
                    return Told(
                        hub,
                        id,
                        editor.Edit(
                            id,
                            [.. order.Recipients.Select(r => new CellEdit(r, ListEditor.OnTheList, null))],
                            $"Took {who} off the list{reason}",
                            context.Actor()
                        )
                    );
                }
            )
            .WithSummary("Take recipients off the list; drops hold them, and it can be taken back");

        api.MapPost(
                "/lists/{id:long}/replace/preview",
                (long id, Replacement order, ListStore lists) =>
                {
                    var found = Find(id, order, lists).ToList();
                    return new ReplacementPreview(found.Count, found.Select(f => f.RecipientId).Distinct().Count(), [.. found.Take(50)]);
                }
            )
            .WithSummary("What finding and replacing would change");
        api.MapPost(
                "/lists/{id:long}/replace",
                (long id, Replacement order, ListStore lists, ListEditor editor, EventHub hub, HttpContext context) =>
                {
                    var columns = lists.Columns(id).ToDictionary(c => c.Id);
                    var misfits = 0;
                    var edits = Find(id, order, lists)
                        .Select(f => new CellEdit(
                            f.RecipientId,
                            f.ColumnId,
                            Canonical(columns[f.ColumnId], f.After, editor, true, ref misfits)
                        ))
                        .ToList();
                    if (edits.Count == 0)
                        throw new ConflictException($"“{order.Find}” is nowhere to be found.");
                    return Told(
                        hub,
                        id,
                        editor.Edit(
                            id,
                            edits,
                            $"Replaced “{Short(order.Find)}” with “{Short(order.With)}” in "
                                + $"{(edits.Count == 1 ? "1 cell" : $"{edits.Count:N0} cells")}",
                            context.Actor()
                        )
                    );
                }
            )
            .WithSummary("Find and replace, as one act");

        api.MapPost(
                "/lists/{id:long}/undo",
                (long id, ListUndo undo, EventHub hub, HttpContext context) => Told(hub, id, undo.UndoLast(id, context.Actor()))
            )
            .WithSummary("Take back the last act on a list");
        api.MapPost(
                "/lists/{id:long}/redo",
                (long id, ListUndo undo, EventHub hub, HttpContext context) => Told(hub, id, undo.Redo(id, context.Actor()))
            )
            .WithSummary("Do again what was taken back last");
        api.MapGet(
                "/lists/{id:long}/log",
                (long id, ListUndo undo, int offset = 0, int limit = 100) => new LogView(undo.Log(id, offset, Math.Clamp(limit, 1, 500)))
            )
            .WithSummary("A list's log: who did what, when and why");
        api.MapGet("/lists/{id:long}/log/{actionId:long}", (long id, long actionId, ListUndo undo) => undo.Changes(id, actionId, 200))
            .WithSummary("The values that an act changed, the first 200");
        api.MapPost(
                "/lists/{id:long}/log/{actionId:long}/undo",
                (long id, long actionId, ListUndo undo, EventHub hub, HttpContext context) =>
                    Told(hub, id, undo.Undo(id, actionId, context.Actor()))
            )
            .WithSummary("Take back any act of the log");
    }

    /// <summary>The canonical form of a typed value. One that does not fit is refused, or, among many, kept as it is and counted.</summary>
    static string? Canonical(Column column, string? value, ListEditor editor, bool lenient, ref int misfits)
    {
        if (value?.Length > 100_000)
            throw new BadInputException("A value can have 100,000 characters.");
        if (TypedValue.Read(column, value, editor.Surroundings.Locale, out var canonical) is not { } problem)
            return canonical;
        if (!lenient)
            throw new BadInputException(problem);
        misfits++;
        return canonical;
    }

    static IEnumerable<CellBeforeAfter> Find(long id, Replacement order, ListStore lists)
    {
        if (order.Find.Length == 0)
            throw new BadInputException("Say what to find.");
        var columns = lists.Columns(id);
        var among = Enumerable
            .Range(0, columns.Count)
            .Where(i => columns[i].Kind != ColumnKind.Computed && (order.Columns is null || order.Columns.Contains(columns[i].Id)))
            .ToList();
        var comparison = order.MatchCase ? StringComparison.Ordinal : StringComparison.OrdinalIgnoreCase;
        foreach (var row in lists.Rows(id, order.Recipients ?? lists.Ids(id, new(), null)))
        foreach (var i in among)
        {
            if (row.Values[i] is not { } before)
                continue;
            if (order.WholeCell ? !before.Equals(order.Find, comparison) : !before.Contains(order.Find, comparison))
                continue;
            var after = order.WholeCell ? order.With : before.Replace(order.Find, order.With, comparison);
            if (after != before)
                yield return new(row.Id, row.Number, columns[i].Id, before, string.IsNullOrWhiteSpace(after) ? null : after);
        }
    }

    static string Short(string text) => text.Length <= 40 ? text : text[..39] + "…";

    /// <summary>Tells open browsers that a list and, with it, its drops changed.</summary>
    internal static ActOutcome Told(EventHub hub, long listId, ActOutcome outcome)
    {
        hub.List(listId);
        hub.Tell("drop", new { Id = 0 });
        return outcome;
    }
}
