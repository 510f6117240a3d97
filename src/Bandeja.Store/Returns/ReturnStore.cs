using Bandeja.Core.Campaigns;
using Bandeja.Core.Designs;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Core.Returns;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Store.People;
using Bandeja.Store.Runs;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Returns;

/// <summary>What is entered at the returns desk: that a piece came back and why, the new address, and what follows from it; each as one
/// act that can be taken back as a whole.</summary>
public sealed class ReturnStore(Database database, ListEditor editor, BenchStore bench)
{
    /// <summary>The suppression list on which returns put people and addresses.</summary>
    const string ListName = "Returned mail";

    const string RowSql = """
        SELECT r.id, r.drop_id, k.name AS campaign, m.name AS "drop", r.recipient_id, r.piece_number AS piece, r.reason, r.follow_up,
            r.remail_drop_id, r.at, r.by, r.undone_at IS NOT NULL AS undone, r.action_id
        FROM piece_return r JOIN mail_drop m ON m.id = r.drop_id JOIN campaign k ON k.id = m.campaign_id
        """;

    /// <summary>The returns entered last, the newest first.</summary>
    public IReadOnlyList<ReturnRow> Last(int most)
    {
        using var c = database.Open();
        return [.. c.Query<Stored>(RowSql + " ORDER BY r.id DESC LIMIT @most", new { most }).ToList().Select(r => Named(c, r))];
    }

    /// <summary>How many were entered from a moment on, and are not taken back.</summary>
    public long CountSince(string since)
    {
        using var c = database.Open();
        return c.QuerySingle<long>("SELECT count(*) FROM piece_return WHERE at >= @since AND undone_at IS NULL", new { since });
    }

    /// <summary>As it is stored: enumerations by their names.</summary>
    sealed record Stored
    {
        public long Id { get; init; }
        public long DropId { get; init; }
        public string Campaign { get; init; } = "";
        public string Drop { get; init; } = "";
        public long RecipientId { get; init; }
        public long Piece { get; init; }
        public string Reason { get; init; } = "";
        public string FollowUp { get; init; } = "";
        public long? RemailDropId { get; init; }
        public string At { get; init; } = "";
        public string By { get; init; } = "";
        public bool Undone { get; init; }
        public long ActionId { get; init; }
    }

    /// <summary>With the recipient's name, which stands nowhere but in their list.</summary>
    static ReturnRow Named(SqliteConnection c, Stored r)
    {
        var list = c.QuerySingle<long>("SELECT list_id FROM mail_drop WHERE id = @DropId", new { r.DropId });
        var columns = RowTable.Columns(c, list);
        var values = RowTable.Values(c, columns, list, r.RecipientId);
        return new()
        {
            Id = r.Id,
            DropId = r.DropId,
            Campaign = r.Campaign,
            Drop = r.Drop,
            RecipientId = r.RecipientId,
            Piece = r.Piece,
            Name = values is null ? "" : RecipientLabel.Of(columns, i => values[i]).Name,
            Reason = Enum.Parse<ReturnReason>(r.Reason),
            FollowUp = Enum.Parse<ReturnFollowUp>(r.FollowUp),
            RemailDropId = r.RemailDropId,
            At = r.At,
            By = r.By,
            Undone = r.Undone,
            AlsoOn = [.. CorrectedLists(c, r.ActionId).Where(l => l.Id != list).Select(l => l.Name)],
        };
    }

    static IEnumerable<(long Id, string Name)> CorrectedLists(SqliteConnection c, long action) =>
        c.Query<(long, string)>(
            "SELECT id, name FROM list WHERE id IN (SELECT list_id FROM cell_change WHERE action_id = @action) ORDER BY name",
            new { action }
        );

    /// <summary>The drops that have another piece for the person whose piece came back.</summary>
    static IReadOnlyList<long> OpenDrops(SqliteConnection c, DropRow drop, long recipientId) =>
        [
            .. PieceFinder.Open(c, recipientId, drop.ListId, drop.Id).Select(o => o.DropId),
            .. PeopleStore
                .Others(c, recipientId)
                .SelectMany(o => PieceFinder.Open(c, o.RecipientId, o.ListId, but: null))
                .Select(o => o.DropId),
        ];

    /// <summary>Records a return and does what follows from it.</summary>
    /// <exception cref="ConflictException">The piece was not mailed, came back already, or nothing was corrected where that was
    /// said.</exception>
    /// <param name="batch">The file that it came with; null where it was typed.</param>
    public ReturnOutcome Record(ReturnEntry entry, Actor actor, long? batch = null) =>
        database.Write(c =>
        {
            var drop = DropStore.Drop(c, entry.DropId);
            var state =
                DropEvents.States(c, drop.Id, [entry.RecipientId]).GetValueOrDefault(entry.RecipientId) ?? throw new NotFoundException(
                    "This recipient is not in the drop."
                );
            var piece = c.QuerySingle<long>(
                "SELECT piece_number FROM drop_recipient WHERE drop_id = @DropId AND recipient_id = @RecipientId",
                new { entry.DropId, entry.RecipientId }
            );
            if (state.Objection(DropEventKind.Returned) is { } objection)
                throw new ConflictException($"Piece {piece:0000} {objection}.");
            if ((state.MailedOn ?? state.EmailedOn) is { } mailed && mailed > entry.Date)
                throw new BadInputException(
                    $"Piece {piece:0000} was mailed on {SettingStore.Days(c).Short(mailed)}, so it cannot have been returned before then."
                );
            // A corrected address stands in the list's log, too.
            var list = entry.Address.Count > 0 ? drop.ListId : (long?)null;
            var action = Actions.Begin(c, list, drop.Id, $"Recorded return of piece {piece:0000}: {entry.Reason.Words()}", actor);
            DropEvents.Append(
                c,
                drop.Id,
                [(entry.RecipientId, new(DropEventKind.Returned, entry.Reason.Words(), Date: entry.Date))],
                actor,
                action
            );
            var (corrected, notCorrected) = Correct(c, drop, entry, actor, action);
            if (entry.FollowUp.Corrects() && !corrected)
                throw new BadInputException("Nothing of the address was changed. Type the new one, or choose what else is to follow.");
            // With a new address they get the steps that come.
            if (corrected && drop.StepId is not null)
                Leaves.Undo(c, drop.CampaignId, [entry.RecipientId], Actor.Rule(actor.At), [LeaveReason.Undeliverable]);
            AutoHolds.SweepHouseholds(c, drop.Id, [entry.RecipientId], editor.Surroundings, actor);
            AutoHolds.SweepSteps(c, drop.Id, [entry.RecipientId], editor.Surroundings, actor);
            var (suppressionList, suppression) = Suppress(c, drop, entry, piece, actor);
            var remail = entry.FollowUp == ReturnFollowUp.Remail ? Remail(c, drop, entry.RecipientId, actor) : (long?)null;
            var id = c.QuerySingle<long>(
                """
                INSERT INTO piece_return (drop_id, recipient_id, piece_number, reason, follow_up, action_id, suppression_id, remail_drop_id,
                    at, by, batch)
                VALUES (@DropId, @RecipientId, @piece, @reason, @follow, @action, @suppression, @remail, @Stamp, @Name, @batch)
                RETURNING id
                """,
                new
                {
                    entry.DropId,
                    entry.RecipientId,
                    piece,
                    reason = entry.Reason.ToString(),
                    follow = entry.FollowUp.ToString(),
                    action,
                    suppression,
                    remail,
                    actor.Stamp,
                    actor.Name,
                    batch,
                }
            );
            return new ReturnOutcome(
                Row(c, id),
                [.. CorrectedLists(c, action).Select(l => l.Id)],
                suppressionList,
                OpenDrops(c, drop, entry.RecipientId),
                notCorrected
            );
        });

    static ReturnRow Row(SqliteConnection c, long id) =>
        Named(
            c,
            c.QuerySingleOrDefault<Stored>(RowSql + " WHERE r.id = @id", new { id })
                ?? throw new NotFoundException("This return is not there.")
        );

    /// <summary>Corrects the address, also where the same person has it on other lists.</summary>
    /// <returns>True where anything changed, and of each list that could not be corrected a sentence.</returns>
    (bool Corrected, IReadOnlyList<string> NotThere) Correct(SqliteConnection c, DropRow drop, ReturnEntry entry, Actor actor, long action)
    {
        if (entry.Address.Count == 0)
            return (false, []);
        var shape = ListShape.Of(c, drop.ListId, editor.Surroundings);
        foreach (var column in entry.Address.Keys)
            if (shape.Column(column).Kind == ColumnKind.Computed)
                throw new ConflictException($"{shape.Column(column).Name} is computed: change the columns that it reads.");
        CellEdit[] edits =
        [
            .. entry.Address.Select(a => new CellEdit(
                entry.RecipientId,
                a.Key,
                string.IsNullOrWhiteSpace(a.Value) ? null : a.Value.Trim()
            )),
        ];
        // As it was before the correction: who had this address elsewhere has moved there, too.
        var others = AddressElsewhere.Of(
            c,
            shape.Columns,
            PieceFinder.Values(c, shape.Columns, drop.ListId, entry.RecipientId),
            entry.RecipientId
        );
        if (entry.Also?.Except(others.Select(o => o.Person.RecipientId)).Any() == true)
            throw new BadInputException("Only the same person on another list can be corrected with this piece. Look up the piece again.");
        if (editor.Apply(c, shape, edits, actor, action) == 0)
            return (false, []);
        var notThere = new List<string>();
        foreach (var o in others.Where(o => entry.Also?.Contains(o.Person.RecipientId) ?? o.SameAddress))
        {
            var (there, missing) = AddressElsewhere.Edits(c, shape.Columns, entry.Address, o.Person);
            if (missing is not null && entry.Also is null)
                notThere.Add(AddressElsewhere.Kept(o.Person, missing));
            else if (missing is not null)
                throw new BadInputException(
                    $"“{o.Person.ListName}” has no editable column for {missing}. Clear its check box and correct the address "
                        + "on that list."
                );
            editor.Apply(c, ListShape.Of(c, o.Person.ListId, editor.Surroundings), there, actor, action);
        }
        return (true, notThere);
    }

    /// <summary>Puts the address, or the person, on the suppression list; answers the list and the entry.</summary>
    static (long? List, long? Entry) Suppress(SqliteConnection c, DropRow drop, ReturnEntry entry, long piece, Actor actor)
    {
        if (entry.FollowUp is not (ReturnFollowUp.Hold or ReturnFollowUp.Suppress))
            return (null, null);
        var columns = RowTable.Columns(c, drop.ListId);
        var values = PieceFinder.Values(c, columns, drop.ListId, entry.RecipientId);
        string? Of(Role role) => columns.Select((x, i) => (x, i)).Where(x => x.x.Role == role).Select(x => values[x.i]).FirstOrDefault();
        var name = Of(Role.FullName) ?? $"{Of(Role.GivenName)} {Of(Role.FamilyName)}".Trim();
        var list =
            c.QuerySingleOrDefault<long?>("SELECT id FROM suppression_list WHERE name = @ListName ORDER BY id LIMIT 1", new { ListName })
            ?? SuppressionStore.Create(c, ListName, actor);
        // An address is held only while it is the same: without the email and any number, a corrected one is another.
        var added = SuppressionStore.Add(
            c,
            list,
            [
                new(
                    name.Length == 0 ? Of(Role.Organization) : name,
                    Of(Role.Street) ?? Of(Role.WholeAddress),
                    Of(Role.City),
                    Of(Role.PostalCode),
                    entry.FollowUp == ReturnFollowUp.Suppress ? Of(Role.Email) : null,
                    Reason: $"{drop.CampaignName}, {drop.Name}, piece {piece:0000} returned: {entry.Reason.Words()}"
                ),
            ],
            actor
        );
        if (added.Added == 0)
            throw new ConflictException(
                "This recipient has no name with street and postal code by which they could be known elsewhere. Record the return "
                    + "alone, and hold them in the drops that are named."
            );
        return (list, c.QuerySingle<long>("SELECT max(id) FROM suppression"));
    }

    /// <summary>Puts a recipient into the drop in which a drop's pieces are mailed again; answers it.</summary>
    long Remail(SqliteConnection c, DropRow drop, long recipientId, Actor actor)
    {
        // What was begun to be made is closed: the next piece goes into another.
        var open = c.QueryFirstOrDefault<long?>(
            """
            SELECT id FROM mail_drop m WHERE remails = @Id AND NOT EXISTS (SELECT 1 FROM run WHERE drop_id = m.id)
                AND NOT EXISTS (SELECT 1 FROM drop_recipient WHERE drop_id = m.id AND recipient_id = @recipientId) ORDER BY id DESC LIMIT 1
            """,
            new { drop.Id, recipientId }
        );
        var paper = drop.Package.Where(p => p.Kind.Rules().IsPaper).Select(p => p.DesignId).ToList();
        if (paper.Count == 0)
            throw new ConflictException("This drop’s package has nothing on paper, so there is nothing to mail again.");
        var target = open ?? DropStore.CreateRemail(c, drop, paper, actor);
        DropStore.Add(c, target, recipientId, editor.Surroundings, actor);
        return target;
    }

    /// <summary>Takes a return back with all that followed from it.</summary>
    /// <exception cref="ConflictException">It was taken back already, or something happened since that stands in the way.</exception>
    public ReturnOutcome Undo(long id, Actor actor) =>
        database.Write(c =>
        {
            var row = Row(c, id);
            if (row.Undone)
                throw new ConflictException("This return was already undone.");
            var (action, suppression) = c.QuerySingle<(long Action, long? Suppression)>(
                "SELECT action_id, suppression_id FROM piece_return WHERE id = @id",
                new { id }
            );
            var drop = DropStore.Drop(c, row.DropId);
            if (row.RemailDropId is { } remail && RemoveFromRemail(c, remail, row.RecipientId, actor) is { } why)
                throw new ConflictException(why);
            bench.UndoAction(c, row.DropId, action, actor);
            if (suppression is not null)
                c.Execute(
                    "UPDATE suppression SET removed_at = @Stamp, removed_by = @Name WHERE id = @suppression AND removed_at IS NULL",
                    new
                    {
                        actor.Stamp,
                        actor.Name,
                        suppression,
                    }
                );
            c.Execute("UPDATE piece_return SET undone_at = @Stamp WHERE id = @id", new { actor.Stamp, id });
            AutoHolds.SweepSteps(c, drop.Id, [row.RecipientId], editor.Surroundings, actor);
            return new ReturnOutcome(
                Row(c, id),
                [.. CorrectedLists(c, action).Select(l => l.Id)],
                suppression is null
                    ? null
                    : c.QuerySingle<long>("SELECT list_id FROM suppression WHERE id = @suppression", new { suppression }),
                OpenDrops(c, drop, row.RecipientId),
                []
            );
        });

    /// <summary>Holds a recipient in the drop that would mail their piece again; answers why it cannot be.</summary>
    static string? RemoveFromRemail(SqliteConnection c, long dropId, long recipientId, Actor actor)
    {
        if (DropEvents.States(c, dropId, [recipientId]).GetValueOrDefault(recipientId) is not { } state)
            return null;
        if (state.IsBegun || RunStore.IsInRun(c, dropId, recipientId))
            return "The remailed piece is already produced. Move it back to Ready first, then undo the return.";
        if (state.HoldReason is null)
            DropEvents.Append(c, dropId, [(recipientId, new(DropEventKind.Held, "the return was undone"))], actor, null);
        return null;
    }
}
