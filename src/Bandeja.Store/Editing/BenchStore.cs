using System.Text.Json;
using Bandeja.Core.Drops;
using Bandeja.Core.Mail;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Store.Runs;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Editing;

/// <summary>What a coordinator does at the bench: hold, release, accept, correct, take back, undo.</summary>
public sealed class BenchStore(Database database, ListEditor editor)
{
    /// <summary>Does one kind of act to some recipients; those for whom it makes no sense are skipped and told.</summary>
    /// <exception cref="ConflictException">It makes no sense for any of them.</exception>
    public ActOutcome Act(
        long dropId,
        IReadOnlyList<long> recipientIds,
        DropEventKind kind,
        string? note,
        DateOnly? date,
        string label,
        Actor actor
    ) =>
        database.Write(c =>
        {
            DropStore.Drop(c, dropId);
            return Act(c, dropId, recipientIds, kind, note, date, label, actor);
        });

    /// <param name="email">Which piece is spoken of: true for the email, false for what is on paper, null for the one there is.</param>
    ActOutcome Act(
        SqliteConnection c,
        long dropId,
        IReadOnlyList<long> recipientIds,
        DropEventKind kind,
        string? note,
        DateOnly? date,
        string label,
        Actor actor,
        bool? email = null
    )
    {
        var states = DropEvents.States(c, dropId, recipientIds);
        var objections = new Dictionary<string, int>();
        var events = new List<(long, DropEvent)>();
        foreach (var (id, state) in states)
        {
            var ofPiece = kind is DropEventKind.TakenBack or DropEventKind.Mailed or DropEventKind.MailUndone;
            var leg = ofPiece && (email ?? (state.ProducedRun is null && state.EmailRun is not null));
            if (state.Objection(kind, leg) is { } objection)
                objections[objection] = objections.GetValueOrDefault(objection) + 1;
            else
                events.Add(
                    (
                        id,
                        new(
                            kind,
                            kind == DropEventKind.Released ? state.HoldReason : note,
                            DropEvent.KeysOf(leg),
                            ofPiece ? state.RunOf(leg) : null,
                            kind == DropEventKind.MailUndone ? state.OutOn(leg) : date
                        )
                    )
                );
        }
        List<string> skipped = [.. objections.Select(o => o.Value == 1 ? $"1 recipient {o.Key}." : $"{o.Value:N0} recipients: {o.Key}.")];
        if (events.Count == 0)
            throw new ConflictException(
                skipped.Count > 0
                    ? $"Nothing was changed. {string.Join(" ", skipped)}"
                    : "Nothing was changed because no recipients are selected."
            );
        label = $"{label} {(events.Count == 1 ? "1 recipient" : $"{events.Count:N0} recipients")}";
        DropEvents.Append(c, dropId, events, actor, Actions.Begin(c, null, dropId, label, actor));
        if (kind is DropEventKind.Held or DropEventKind.Released or DropEventKind.TakenBack or DropEventKind.Returned)
            AutoHolds.SweepHouseholds(c, dropId, [.. events.Select(e => e.Item1)], editor.Surroundings, actor);
        if (kind is DropEventKind.Returned or DropEventKind.ReturnUndone or DropEventKind.MailUndone)
            AutoHolds.SweepSteps(c, dropId, [.. events.Select(e => e.Item1)], editor.Surroundings, actor);
        return new(label, events.Count, skipped);
    }

    /// <summary>Chooses by hand how some recipients' pieces go out; what came back is then tried again that way.</summary>
    /// <param name="channel">The way; null for what the drop's rule says.</param>
    public ActOutcome GoBy(long dropId, IReadOnlyList<long> recipientIds, Channel? channel, Actor actor) =>
        database.Write(c =>
        {
            var drop = DropStore.Drop(c, dropId);
            if (channel is { } way && (drop.Ways & way) != way)
                throw new ConflictException(way == Channel.Paper ? "The package has no paper designs." : "The package has no email.");
            var states = DropEvents.States(c, dropId, recipientIds);
            var inRun = RunStore.InRun(c, dropId);
            // What came back is tried another way: by the way that it went there would be nothing to make, and no return any more.
            bool IsTried(RecipientState s) =>
                s.ReturnReason is null
                || channel is null
                || !s.After(new(DropEventKind.GoesBy, channel.Value.ToString(), [DropEvent.ByHand])).IsOut;
            var going = states
                .Where(s => s.Value.Objection(DropEventKind.GoesBy) is null && IsTried(s.Value) && !inRun.Contains(s.Key))
                .ToList();
            if (going.Count == 0)
                throw new ConflictException(
                    "Nothing was done: these have everything already, came back by this same channel, are in doubt until you say what "
                        + "became of their pieces, or are in a run that is not finished."
                );
            var inWords = channel switch
            {
                Channel.Paper => "paper",
                Channel.Email => "email",
                Channel.Both => "paper and email",
                null => "the drop’s rule",
            };
            var label = $"Set channel to {inWords}: {(going.Count == 1 ? "1 recipient" : $"{going.Count:N0} recipients")}";
            var action = Actions.Begin(c, null, dropId, label, actor);
            // What it was stands behind the key, for whoever takes it back.
            DropEvents.Append(
                c,
                dropId,
                [
                    .. going.Select(s =>
                        (
                            s.Key,
                            channel is { } w
                                ? new DropEvent(DropEventKind.GoesBy, w.ToString(), Before(DropEvent.ByHand, s.Value))
                                : new DropEvent(DropEventKind.GoesBy, s.Value.Channel.ToString(), Before("rule", s.Value))
                        )
                    ),
                ],
                actor,
                action
            );
            editor.Recheck(c, dropId, [.. going.Select(s => s.Key)], actor, action);
            // Whose piece came back, and is tried another way, is in the campaign again.
            var again = going.Where(s => channel is not null && s.Value.ReturnReason is not null).Select(s => s.Key).ToList();
            AutoHolds.SweepSteps(c, dropId, again, editor.Surroundings, actor);
            var left = recipientIds.Count - going.Count;
            return new ActOutcome(
                label,
                going.Count,
                left == 0 ? [] : [$"{left:N0} already have every piece, came back by this channel, or are in an unfinished run."]
            );

            static string[] Before(string key, RecipientState s) =>
                [
                    key,
                    s.Channel.ToString(),
                    s.ChannelByHand ? DropEvent.ByHand : "rule",
                    .. s.ReturnReason is { } back ? new[] { back } : [],
                ];
        });

    /// <summary>Accepts issues as they are: one recipient's, or all alike.</summary>
    /// <param name="recipientId">The recipient, or null for everybody who has an issue alike.</param>
    public ActOutcome Accept(long dropId, long? recipientId, string alike, Actor actor) =>
        database.Write(c =>
        {
            DropStore.Drop(c, dropId);
            if (alike.StartsWith($"{PieceIssueKind.Design}|", StringComparison.Ordinal))
                throw new ConflictException(
                    "An error in a design cannot be accepted because it would be in every piece. Fix it in the design."
                );
            var open = c.Query<(long Id, string Key)>(
                    """
                    SELECT f.recipient_id, f.key FROM piece_issue f JOIN drop_recipient r
                        ON r.drop_id = f.drop_id AND r.recipient_id = f.recipient_id
                    WHERE f.drop_id = @dropId AND f.alike = @alike AND (@recipientId IS NULL OR f.recipient_id = @recipientId)
                      AND NOT EXISTS (SELECT 1 FROM json_each(r.accepted_json) WHERE value = f.key)
                    """,
                    new
                    {
                        dropId,
                        alike,
                        recipientId,
                    }
                )
                .GroupBy(f => f.Id)
                .ToList();
            if (open.Count == 0)
                throw new ConflictException("This issue no longer exists.");
            var label = $"Accepted an issue for {(open.Count == 1 ? "1 recipient" : $"{open.Count:N0} recipients")}";
            DropEvents.Append(
                c,
                dropId,
                [.. open.Select(g => (g.Key, new DropEvent(DropEventKind.Accepted, Keys: [.. g.Select(f => f.Key)])))],
                actor,
                Actions.Begin(c, null, dropId, label, actor)
            );
            return new ActOutcome(label, open.Count, []);
        });

    /// <summary>Opens accepted issues of a recipient again.</summary>
    public ActOutcome Reopen(long dropId, long recipientId, string key, Actor actor) =>
        database.Write(c =>
        {
            var state =
                DropEvents.States(c, dropId, [recipientId]).GetValueOrDefault(recipientId) ?? throw new NotFoundException(
                    "This recipient is not in the drop."
                );
            if (!state.Accepted.Contains(key))
                throw new ConflictException("This issue is not accepted.");
            const string label = "Opened an issue again for 1 recipient";
            DropEvents.Append(
                c,
                dropId,
                [(recipientId, new(DropEventKind.Reopened, Keys: [key]))],
                actor,
                Actions.Begin(c, null, dropId, label, actor)
            );
            return new ActOutcome(label, 1, []);
        });

    /// <summary>
    /// Corrects a value of a recipient, from the bench of a drop or, where <paramref name="dropId"/> is null, from the list.
    /// Every drop in which their piece is not made yet is checked again.
    /// </summary>
    public ActOutcome Correct(
        long listId,
        long? dropId,
        long recipientId,
        int columnId,
        string? value,
        Actor actor,
        FormerValue? was = null
    )
    {
        string name;
        using (var c = database.Open())
            name =
                RowTable.Columns(c, listId).FirstOrDefault(x => x.Id == columnId)?.Name ?? throw new NotFoundException(
                    "This column is not in the list."
                );
        return editor.Edit(listId, [new(recipientId, columnId, value, was)], $"Corrected {name}", actor, dropId);
    }

    /// <summary>The act that <see cref="Undo"/> would take back, or null.</summary>
    public ActionRow? NextUndo(long dropId)
    {
        using var c = database.Open();
        return Actions.LastToUndo(c, dropId);
    }

    /// <summary>Takes back the last act in a drop, by events that undo it: the ledger keeps both.</summary>
    /// <exception cref="ConflictException">There is nothing to take back, or something has happened since that stands in the
    /// way.</exception>
    public ActOutcome Undo(long dropId, Actor actor) =>
        database.Write(c =>
        {
            var action = Actions.LastToUndo(c, dropId) ?? throw new ConflictException("There is nothing to undo.");
            Actions.NotOfReturns(c, action);
            return Undo(c, dropId, action, actor);
        });

    /// <summary>Takes back a certain act within the caller's transaction.</summary>
    /// <exception cref="ConflictException">It was taken back already, or something has happened since that stands in the way.</exception>
    internal ActOutcome UndoAction(SqliteConnection c, long dropId, long actionId, Actor actor) =>
        Undo(c, dropId, Actions.ToUndo(c, actionId) ?? throw new ConflictException("This was already undone."), actor);

    ActOutcome Undo(SqliteConnection c, long dropId, ActionRow action, Actor actor)
    {
        var label = $"Undone: {action.Label}";
        var undo = Actions.Begin(c, action.ListId, dropId, label, actor, action.Id);
        c.Execute("UPDATE action SET undone_by = @undo WHERE id = @Id", new { undo, action.Id });
        var changed = UndoEvents(c, dropId, action, undo, actor);
        foreach (
            var list in c.Query<(long ListId, long RecipientId, long ColumnId, string? Old, string? New)>(
                    "SELECT list_id, recipient_id, column_id, old, new FROM cell_change WHERE action_id = @Id ORDER BY id",
                    new { action.Id }
                )
                .GroupBy(x => x.ListId)
                .ToList()
        )
        {
            var shape = ListShape.Of(c, list.Key, editor.Surroundings);
            // Only the first and the last state of a cell within the act matter; what is computed follows by itself.
            var cells = list.GroupBy(x => (x.RecipientId, Column: (int)x.ColumnId))
                .Where(x => !(shape.Position(x.Key.Column) is >= 0 and var at && shape.Columns[at].Kind == Core.Lists.ColumnKind.Computed))
                .ToList();
            foreach (var column in cells.GroupBy(x => x.Key.Column))
            {
                var cell = column.Key == ListEditor.OnTheList ? "CASE WHEN gone IS NULL THEN 'yes' END" : RowTable.Cell(column.Key);
                var now = column
                    .Select(x => x.Key.RecipientId)
                    .Chunk(5000)
                    .SelectMany(ids =>
                        c.Query<(long Id, string? Value)>(
                            $"SELECT id, {cell} FROM {RowTable.Name(list.Key)} WHERE id {IdSet.In}",
                            new { ids = IdSet.Json(ids) }
                        )
                    )
                    .ToDictionary(x => x.Id, x => x.Value);
                if (column.Any(x => now.GetValueOrDefault(x.Key.RecipientId) != x.Last().New))
                    throw new ConflictException($"“{action.Label}” cannot be undone: the value was changed again since.");
            }
            changed += editor.Apply(
                c,
                shape,
                [.. cells.Select(x => new CellEdit(x.Key.RecipientId, x.Key.Column, x.First().Old))],
                actor,
                undo
            );
        }
        return new ActOutcome(label, changed, []);
    }

    /// <summary>Adds the events that undo those of an act. All are looked at before any is written, and all are written at once: an act for
    /// 50,000 is undone in about the time it took.</summary>
    int UndoEvents(SqliteConnection c, long dropId, ActionRow action, long undo, Actor actor)
    {
        var done = c.Query<(long RecipientId, string Kind, string? Note, string? Keys, long? RunId, DateOnly? Date)>(
                "SELECT recipient_id, kind, note, keys_json, run_id, date FROM drop_event WHERE action_id = @Id AND drop_id = "
                    + "@dropId ORDER BY id DESC",
                new { action.Id, dropId }
            )
            .ToList();
        var states = DropEvents.States(c, dropId, [.. done.Select(e => e.RecipientId).Distinct()]);
        var events = new List<(long, DropEvent)>();
        var again = new List<long>();
        // Whoever came back did so on the day of then, not on the day of the undo.
        var returnedOn = new Lazy<Dictionary<long, DateOnly?>>(() =>
            c.Query<(long Id, long Event, DateOnly? Date)>(
                    $"""
                    SELECT recipient_id, max(id), date FROM drop_event WHERE drop_id = @dropId AND kind = '{nameof(
                    DropEventKind.Returned
                )}' AND recipient_id {IdSet.In} GROUP BY recipient_id
                    """,
                    new { dropId, ids = IdSet.Json(done.Select(e => e.RecipientId)) }
                )
                .ToDictionary(r => r.Id, r => r.Date)
        );
        foreach (var e in done)
        {
            var keys = e.Keys is null ? null : JsonSerializer.Deserialize<string[]>(e.Keys);
            DropEvent? inverse = Enum.Parse<DropEventKind>(e.Kind) switch
            {
                DropEventKind.Held => new(DropEventKind.Released, e.Note),
                DropEventKind.Released => new(DropEventKind.Held, e.Note),
                DropEventKind.Accepted => new(DropEventKind.Reopened, Keys: keys),
                DropEventKind.Reopened => new(DropEventKind.Accepted, Keys: keys),
                DropEventKind.TakenBack => new(DropEventKind.Produced, "moved back to Ready by mistake", keys, e.RunId),
                DropEventKind.Mailed => new(
                    DropEventKind.MailUndone,
                    "undone: marked by mistake",
                    Keys: keys,
                    RunId: e.RunId,
                    Date: e.Date
                ),
                DropEventKind.MailUndone => new(DropEventKind.Mailed, Keys: keys, RunId: e.RunId, Date: e.Date),
                DropEventKind.GoesBy when keys is [_, var former, ..] => new(
                    DropEventKind.GoesBy,
                    former,
                    keys is [_, _, DropEvent.ByHand, ..] ? [DropEvent.ByHand] : null
                ),
                DropEventKind.Returned => new(DropEventKind.ReturnUndone, "undone: recorded by mistake"),
                DropEventKind.ReturnUndone => new(DropEventKind.Returned, e.Note, Date: e.Date),
                _ => null, // corrections are undone by their values; checks follow from them
            };
            if (inverse is null)
                continue;
            var state = states[e.RecipientId];
            if (state.Objection(inverse.Kind, inverse.IsEmail) is { } objection)
                throw new ConflictException($"“{action.Label}” cannot be undone: a recipient {objection} since.");
            if (inverse.Kind == DropEventKind.Produced && state.RunOf(inverse.IsEmail) is not null)
                throw new ConflictException($"“{action.Label}” cannot be undone: a piece was produced again since.");
            events.Add((e.RecipientId, inverse));
            states[e.RecipientId] = state.After(inverse);
            if (inverse.Kind != DropEventKind.GoesBy)
                continue;
            again.Add(e.RecipientId);
            // What came back, and was to be tried another way, has come back again.
            if (keys is [_, _, _, var back])
                events.Add((e.RecipientId, new(DropEventKind.Returned, back, Date: returnedOn.Value.GetValueOrDefault(e.RecipientId))));
        }
        DropEvents.Append(c, dropId, events, actor, undo);
        // Another way is another set of pieces, with issues of its own.
        if (again.Count > 0)
            editor.Recheck(c, dropId, again, actor, undo);
        AutoHolds.SweepHouseholds(c, dropId, [.. events.Select(e => e.Item1).Distinct()], editor.Surroundings, actor);
        var moved = events.Where(e => e.Item2.Kind is DropEventKind.Returned or DropEventKind.ReturnUndone or DropEventKind.MailUndone);
        AutoHolds.SweepSteps(c, dropId, [.. moved.Select(e => e.Item1).Distinct()], editor.Surroundings, actor);
        return events.Count;
    }

    /// <summary>Marks pieces of a run as mailed: all that are made, not held and not mailed yet, or some of them.</summary>
    /// <param name="range">Only those in it.</param>
    /// <param name="upTo">Only those up to and with this piece, in the order of the run.</param>
    /// <param name="without">All but those: they were pulled out of the pile, and are held by it.</param>
    public ActOutcome MarkMailed(long runId, DateOnly date, PieceRange? range, Actor actor, int? upTo = null, PieceRange? without = null) =>
        database.Write(c =>
        {
            var run = RunStore.Get(c, runId);
            if (run.Output == RunOutput.Email)
                throw new ConflictException("Email is marked as mailed automatically when the mail server accepts it.");
            if (run.State is not (RunState.Done or RunState.Cancelled or RunState.Paused))
                throw new ConflictException("Only a run that is done can be marked as mailed.");
            var end = upTo is null
                ? int.MaxValue
                : c.QuerySingleOrDefault<int?>(
                    "SELECT position FROM run_piece WHERE run_id = @runId AND piece_number = @upTo",
                    new { runId, upTo }
                ) ?? throw new ConflictException($"Piece {upTo:0000} is not in this run.");
            var made = c.Query<(long Id, long Piece, long Position)>(
                    "SELECT d.recipient_id, d.piece_number, p.position FROM drop_recipient d JOIN run_piece p ON p.run_id = @runId "
                        + "AND p.recipient_id = d.recipient_id WHERE d.drop_id = @DropId AND @runId IN (d.run_id, d.email_run_id) "
                        + "ORDER BY p.position",
                    new { run.DropId, runId }
                )
                .ToList();
            var pulled = made.Where(p => without?.Contains((int)p.Piece) == true).Select(p => p.Id).ToList();
            var pieces = made.Where(p => p.Position <= end && range?.Contains((int)p.Piece) != false && !pulled.Contains(p.Id))
                .Select(p => p.Id)
                .ToList();
            if (pieces.Count == 0)
                throw new ConflictException(
                    range is null && without is null
                        ? "No pieces in this run are waiting. They were moved back to Ready."
                        : "No pieces in this run have these numbers."
                );
            if (without is not null && pulled.Count == 0)
                throw new ConflictException("The pieces pulled out are not in this run. Check their numbers.");
            var states = DropEvents.States(c, run.DropId, pulled);
            var outcome = Act(
                c,
                run.DropId,
                pieces,
                DropEventKind.Mailed,
                null,
                date,
                $"Marked as mailed on {SettingStore.Days(c).Of(date)}:",
                actor,
                run.IsEmail
            );
            // In the same act: what is pulled out does not stay among what waits to be mailed.
            DropEvents.Append(
                c,
                run.DropId,
                [
                    .. pulled
                        .Where(p => states[p].Objection(DropEventKind.Held) is null)
                        .Select(p => (p, new DropEvent(DropEventKind.Held, "pulled out of the mailing"))),
                ],
                actor,
                Actions.LastToUndo(c, run.DropId)?.Id
            );
            return outcome;
        });

    /// <summary>Holds the pieces of a drop that were produced before a rule would have held them: they were pulled from the
    /// trays.</summary>
    /// <exception cref="ConflictException">There are none.</exception>
    public ActOutcome Pull(long dropId, Actor actor) =>
        database.Write(c =>
        {
            DropStore.Drop(c, dropId);
            var pieces = c.Query<long>(
                    "SELECT recipient_id FROM drop_recipient WHERE drop_id = @dropId AND rule_note IS NOT NULL AND tray = "
                        + "'Produced' ORDER BY "
                        + "piece_number",
                    new { dropId }
                )
                .ToList();
            if (pieces.Count == 0)
                throw new ConflictException("No piece of this drop has to be pulled.");
            return Act(c, dropId, pieces, DropEventKind.Held, "pulled from the trays", null, "Pulled", actor, false);
        });

    /// <summary>Takes back that pieces of a run were mailed, with a reason that stays in the ledger.</summary>
    public ActOutcome UnmarkMailed(long runId, string reason, PieceRange? range, Actor actor) =>
        database.Write(c =>
        {
            var run = RunStore.Get(c, runId);
            if (run.Output == RunOutput.Email)
                throw new ConflictException("Email accepted by the mail server cannot be undone.");
            var pieces = c.Query<(long Id, long Piece)>(
                    "SELECT recipient_id, piece_number FROM drop_recipient WHERE drop_id = @DropId AND (run_id = @runId AND "
                        + "mailed_on IS NOT NULL OR email_run_id = @runId AND emailed_on IS NOT NULL)",
                    new { run.DropId, runId }
                )
                .Where(p => range?.Contains((int)p.Piece) != false)
                .Select(p => p.Id)
                .ToList();
            if (pieces.Count == 0)
                throw new ConflictException(
                    range is null ? "No pieces in this run are marked as mailed." : "No mailed pieces in this run have these numbers."
                );
            return Act(c, run.DropId, pieces, DropEventKind.MailUndone, reason, null, "Undid mailing of", actor, run.IsEmail);
        });

    /// <summary>Takes a run's pieces back, those that were not mailed, so that they are made again.</summary>
    public ActOutcome TakeRunBack(long runId, string reason, Actor actor) =>
        database.Write(c =>
        {
            var run = RunStore.Get(c, runId);
            var pieces = c.Query<long>(
                    "SELECT recipient_id FROM drop_recipient WHERE drop_id = @DropId AND @runId IN (run_id, email_run_id)",
                    new { run.DropId, runId }
                )
                .ToList();
            return Act(
                c,
                run.DropId,
                pieces,
                DropEventKind.TakenBack,
                reason,
                null,
                $"Moved run {run.Number} back to Ready:",
                actor,
                run.IsEmail
            );
        });
}
