using Bandeja.Core.Drops;
using Bandeja.Store.Designs;
using Bandeja.Store.Lists;
using Bandeja.Store.People;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Editing;

/// <summary>What removing something would do.</summary>
/// <param name="Name">What is to be removed.</param>
/// <param name="Refusal">Why it cannot be; null where it can.</param>
/// <param name="Affects">What goes with it, and what stays and changes, a sentence each.</param>
public sealed record RemovalView(string Name, string? Refusal, IReadOnlyList<string> Affects);

/// <summary>
/// Removes lists, designs, and drops of which nothing was produced, and erases the people of a list. What was produced stays in the ledger:
/// that a piece was made and mailed on a day is kept; who it was for can be erased.
/// </summary>
public sealed class Removals(Database database)
{
    /// <summary>True for a drop of which anything was made, or may have been: a run that is not over, a piece, a serial number given
    /// out.</summary>
    const string WasProduced = """
        (EXISTS (SELECT 1 FROM run r WHERE r.drop_id = d.id AND (r.state NOT IN ('cancelled', 'failed')
            OR EXISTS (SELECT 1 FROM mail_serial s WHERE s.run_id = r.id)))
        OR EXISTS (SELECT 1 FROM drop_event e WHERE e.drop_id = d.id AND e.run_id IS NOT NULL))
        """;

    /// <summary>What removing a drop would do.</summary>
    public RemovalView OfDrop(long dropId)
    {
        using var c = database.Open();
        return OfDrop(c, dropId);
    }

    static RemovalView OfDrop(SqliteConnection c, long dropId)
    {
        var (name, campaign, people, produced, alone, step) = c.QuerySingleOrDefault<(string, string, long, bool, bool, bool)>(
            $"""
            SELECT d.name, k.name, (SELECT count(*) FROM drop_recipient WHERE drop_id = d.id), {WasProduced}, k.mode = 'Drops'
                AND NOT EXISTS (SELECT 1 FROM mail_drop o WHERE o.campaign_id = d.campaign_id AND o.id <> d.id), d.step_id IS NOT NULL
            FROM mail_drop d JOIN campaign k ON k.id = d.campaign_id WHERE d.id = @dropId
            """,
            new { dropId }
        );
        if (name is null)
            throw new NotFoundException("This drop no longer exists.");
        var affects = new List<string> { $"{People(people)} {(people == 1 ? "stays" : "stay")} on the list." };
        if (alone)
            affects.Add($"The campaign {campaign} has no other drop, so it is also removed.");
        return new(
            name,
            produced ? "Pieces of this drop were produced, or are being produced, so it stays in the ledger."
                : step ? $"This drop is a step of {campaign}. Remove or skip the step in the campaign."
                : null,
            affects
        );
    }

    /// <summary>Removes a drop.</summary>
    /// <returns>The runs whose files are to be removed.</returns>
    /// <exception cref="ConflictException">Something of it was produced.</exception>
    public IReadOnlyList<long> RemoveDrop(long dropId) =>
        database.Write(c =>
        {
            if (OfDrop(c, dropId).Refusal is { } refusal)
                throw new ConflictException(refusal);
            return RemoveDrop(c, dropId);
        });

    /// <summary>Removes a drop of which nothing was produced, within the caller's transaction.</summary>
    internal static IReadOnlyList<long> RemoveDrop(SqliteConnection c, long dropId)
    {
        var runs = c.Query<long>("SELECT id FROM run WHERE drop_id = @dropId", new { dropId }).ToList();
        // The ledger is only ever added to; a drop that has no part in it is the exception.
        c.Execute("INSERT INTO removing (drop_id) VALUES (@dropId)", new { dropId });
        foreach (
            var table in (string[])
                ["run_file", "run_design", "run_one_off", "run_log", "run_batch", "run_mail", "run_detail", "piece_code", "run_piece"]
        )
            c.Execute($"DELETE FROM {table} WHERE run_id IN (SELECT id FROM run WHERE drop_id = @dropId)", new { dropId });
        c.Execute("DELETE FROM job WHERE kind IN ('run', 'print', 'send', 'remake') AND subject_id IN @runs", new { runs });
        c.Execute("DELETE FROM job WHERE kind = 'check' AND subject_id = @dropId AND state <> 'running'", new { dropId });
        foreach (
            var table in (string[])
                [
                    "run",
                    "piece_issue",
                    "drop_event",
                    "drop_recipient",
                    "drop_design",
                    "proof_look",
                    "proof_own",
                    "sign_off",
                    "one_off",
                    "mail_refusal",
                    "mail_report",
                ]
        )
            c.Execute($"DELETE FROM {table} WHERE drop_id = @dropId", new { dropId });
        // What was done at the bench names people; what it changed in the list is the list's.
        c.Execute("UPDATE action SET undone_by = NULL, undoes = NULL WHERE drop_id = @dropId AND list_id IS NULL", new { dropId });
        c.Execute("DELETE FROM action WHERE drop_id = @dropId AND list_id IS NULL", new { dropId });
        c.Execute("UPDATE act_log SET text = 'Erased' WHERE about = 'Drop' AND about_id = @dropId", new { dropId });
        var campaign = c.QuerySingle<long>("SELECT campaign_id FROM mail_drop WHERE id = @dropId", new { dropId });
        c.Execute("DELETE FROM mail_drop WHERE id = @dropId", new { dropId });
        c.Execute(
            "DELETE FROM campaign WHERE id = @campaign AND mode = 'Drops' AND NOT EXISTS (SELECT 1 FROM mail_drop WHERE "
                + "campaign_id = @campaign)",
            new { campaign }
        );
        c.Execute("DELETE FROM removing WHERE drop_id = @dropId", new { dropId });
        return runs;
    }

    /// <summary>What removing a design would do.</summary>
    public RemovalView OfDesign(long designId)
    {
        using var c = database.Open();
        return OfDesign(c, designId);
    }

    static RemovalView OfDesign(SqliteConnection c, long designId)
    {
        var name =
            c.QuerySingleOrDefault<string>("SELECT name FROM design WHERE id = @designId", new { designId })
            ?? throw new NotFoundException("This design no longer exists.");
        var produced = c.ExecuteScalar<bool>(
            """
            SELECT EXISTS (SELECT 1 FROM run_design r JOIN design_version v ON v.id = r.design_version_id WHERE v.design_id = @designId)
                OR EXISTS (SELECT 1 FROM one_off WHERE design_id = @designId)
            """,
            new { designId }
        );
        var users = c.Query<string>(
                """
                SELECT 'the drop ' || d.name FROM drop_design p JOIN mail_drop d ON d.id = p.drop_id WHERE p.design_id = @designId
                UNION
                SELECT 'the step ' || s.name FROM campaign_step s, json_each(s.designs) j WHERE j.value = @designId
                    AND NOT EXISTS (SELECT 1 FROM mail_drop d WHERE d.step_id = s.id)
                UNION ALL
                SELECT 'the email ' || o.name FROM design o JOIN design_version v ON v.design_id = o.id
                WHERE o.id <> @designId AND o.kind = 'email' AND v.number = (SELECT max(number) FROM design_version WHERE design_id = o.id)
                    AND EXISTS (SELECT 1 FROM json_tree(v.document_json) t WHERE t.key = 'designId' AND t.value = @designId)
                """,
                new { designId }
            )
            .ToList();
        var versions = c.ExecuteScalar<long>("SELECT count(*) FROM design_version WHERE design_id = @designId", new { designId });
        return new(
            name,
            produced ? "Pieces were produced with this design, so it cannot be removed. Archive it instead."
                : users.Count > 0 ? $"This design is used in {string.Join(", ", users)}. Remove it there first."
                : null,
            [
                versions == 1 ? "Its only version is also removed." : $"All {versions:N0} versions are also removed.",
                "Its pictures are kept, because other designs may use them.",
            ]
        );
    }

    /// <summary>Removes a design.</summary>
    /// <exception cref="ConflictException">It is used, or something was produced with it.</exception>
    public void RemoveDesign(long designId) =>
        database.Write(c =>
        {
            if (OfDesign(c, designId).Refusal is { } refusal)
                throw new ConflictException(refusal);
            RemoveDesign(c, designId);
        });

    static void RemoveDesign(SqliteConnection c, long designId)
    {
        DesignFiles.Forget(c, designId);
        foreach (var table in (string[])["design_match", "design_rows_match", "design_version"])
            c.Execute($"DELETE FROM {table} WHERE design_id = @designId", new { designId });
        c.Execute("DELETE FROM design WHERE id = @designId", new { designId });
    }

    /// <summary>What removing a list would do.</summary>
    public RemovalView OfList(long listId)
    {
        using var c = database.Open();
        return OfList(c, listId);
    }

    static RemovalView OfList(SqliteConnection c, long listId)
    {
        var list = c.QuerySingleOrDefault<(string Name, long Rows)>("SELECT name, row_count FROM list WHERE id = @listId", new { listId });
        if (list.Name is null)
            throw new NotFoundException("This list no longer exists.");
        var drops = c.Query<(string Name, bool Produced)>(
                $"SELECT d.name, {WasProduced} FROM mail_drop d WHERE d.list_id = @listId ORDER BY d.id",
                new { listId }
            )
            .ToList();
        var affects = new List<string> { $"{People(list.Rows)} and all changes made to them." };
        if (drops.Count > 0)
            affects.Add(
                $"{Words(drops.Count, "drop", "drops")} that {(drops.Count == 1 ? "was" : "were")} never produced: "
                    + $"{string.Join(", ", drops.Select(d => d.Name))}."
            );
        void Goes(string sql, string one, string many)
        {
            if (c.ExecuteScalar<long>(sql, new { listId }) is > 0 and var n)
                affects.Add($"{Words(n, one, many)}.");
        }
        Goes("SELECT count(*) FROM campaign WHERE list_id = @listId", "campaign with its steps", "campaigns with their steps");
        Goes("SELECT count(*) FROM segment WHERE list_id = @listId", "segment", "segments");
        Goes("SELECT count(*) FROM detail_set WHERE list_id = @listId", "set of detail rows", "sets of detail rows");
        Goes("SELECT count(*) FROM design WHERE list_id = @listId", "design is kept without a list", "designs are kept without a list");
        return new(
            list.Name,
            drops.Any(d => d.Produced)
                ? $"Pieces were produced for this list in {string.Join(", ", drops.Where(d => d.Produced).Select(d => d.Name))}, so it "
                    + "cannot be removed. You can erase its recipients instead."
                : null,
            affects
        );
    }

    static string People(long n) => Words(n, "recipient", "recipients");

    static string Words(long n, string one, string many) => $"{n:N0} {(n == 1 ? one : many)}";

    /// <summary>Removes a list, and the drops that were planned for it.</summary>
    /// <returns>The runs whose files are to be removed.</returns>
    /// <exception cref="ConflictException">Something was produced for it, or work on it is under way.</exception>
    public IReadOnlyList<long> RemoveList(long listId) =>
        database.Write(c =>
        {
            if (OfList(c, listId).Refusal is { } refusal)
                throw new ConflictException(refusal);
            return RemoveList(c, listId);
        });

    /// <summary>Removes the list of the sample with all that was done with it to practice, the ledger too; and its designs, where nothing
    /// else uses them.</summary>
    /// <returns>The runs whose files are to be removed.</returns>
    /// <exception cref="ConflictException">A run of it is under way.</exception>
    public IReadOnlyList<long> RemoveSample(SampleParts sample) =>
        database.Write(c =>
        {
            IReadOnlyList<long> runs = [];
            if (c.ExecuteScalar<long>("SELECT count(*) FROM list WHERE id = @ListId", new { sample.ListId }) > 0)
            {
                if (
                    c.ExecuteScalar<long>(
                        "SELECT count(*) FROM run r JOIN mail_drop d ON d.id = r.drop_id WHERE d.list_id = @ListId "
                            + "AND r.state IN ('queued', 'running', 'paused')",
                        new { sample.ListId }
                    ) > 0
                )
                    throw new ConflictException("A run of the sample is in progress. Wait until it is done, or cancel it.");
                runs = RemoveList(c, sample.ListId);
            }
            foreach (var design in sample.DesignIds)
                if (
                    c.ExecuteScalar<long>("SELECT count(*) FROM design WHERE id = @design", new { design }) > 0
                    && OfDesign(c, design).Refusal is null
                )
                    RemoveDesign(c, design);
            return runs;
        });

    static IReadOnlyList<long> RemoveList(SqliteConnection c, long listId)
    {
        MustRest(c, listId);
        var runs = c.Query<long>("SELECT id FROM mail_drop WHERE list_id = @listId", new { listId })
            .ToList()
            .SelectMany(d => RemoveDrop(c, d))
            .ToList();
        RemoveCampaigns(c, listId);
        RemoveHistory(c, listId);
        c.Execute("UPDATE design SET list_id = NULL WHERE list_id = @listId", new { listId });
        c.Execute("DELETE FROM column_change WHERE list_id = @listId", new { listId });
        c.Execute("UPDATE action SET undone_by = NULL, undoes = NULL WHERE list_id = @listId", new { listId });
        c.Execute("DELETE FROM action WHERE list_id = @listId", new { listId });
        RowTable.Remove(c, listId);
        c.Execute("DELETE FROM list WHERE id = @listId", new { listId });
        return runs;
    }

    /// <summary>Removes the campaigns whose steps go to a list, once their drops are removed; what else is in them stays.</summary>
    static void RemoveCampaigns(SqliteConnection c, long listId)
    {
        foreach (var campaign in c.Query<long>("SELECT id FROM campaign WHERE list_id = @listId", new { listId }).ToList())
        {
            foreach (var table in (string[])["campaign_leave", "campaign_person", "campaign_step"])
                c.Execute($"DELETE FROM {table} WHERE campaign_id = @campaign", new { campaign });
            c.Execute(
                """
                UPDATE campaign SET mode = 'Drops', list_id = NULL WHERE id = @campaign;
                DELETE FROM campaign WHERE id = @campaign AND NOT EXISTS (SELECT 1 FROM mail_drop WHERE campaign_id = @campaign)
                """,
                new { campaign }
            );
        }
    }

    static void MustRest(SqliteConnection c, long listId)
    {
        var working = c.QueryFirstOrDefault<string>(
            """
            SELECT label FROM job WHERE state IN ('queued', 'running') AND (
                kind IN ('listcheck', 'compute', 'duplicates', 'reload', 'details') AND subject_id = @listId
                OR kind IN ('run', 'print', 'send', 'remake')
                    AND subject_id IN (SELECT r.id FROM run r JOIN mail_drop d ON d.id = r.drop_id WHERE d.list_id = @listId))
            """,
            new { listId }
        );
        if (working is not null)
            throw new ConflictException(
                $"“{working}” is still running for this list. Wait until it has finished, or cancel it, and try again."
            );
        if (
            c.ExecuteScalar<bool>(
                "SELECT EXISTS (SELECT 1 FROM run r JOIN mail_drop d ON d.id = r.drop_id WHERE d.list_id = @listId AND r.state = 'paused')",
                new { listId }
            )
        )
            throw new ConflictException("A run for this list is paused. Resume or cancel it, and try again.");
    }

    /// <summary>What was ever noted about the people of a list, and is no part of the ledger.</summary>
    static void RemoveHistory(SqliteConnection c, long listId)
    {
        PeopleRecognition.Forget(c, listId);
        c.Execute("DELETE FROM person_file WHERE list_id = @listId; DELETE FROM person_note WHERE list_id = @listId;", new { listId });
        foreach (var set in c.Query<long>("SELECT id FROM detail_set WHERE list_id = @listId", new { listId }).ToList())
            DetailStore.Drop(c, set);
        foreach (
            var table in (string[])
                [
                    "cell_change",
                    "source_value",
                    "reload",
                    "check_issue",
                    "accepted_issue",
                    "duplicate",
                    "not_duplicate",
                    "household_found",
                    "household_change",
                    "household_person",
                    "household",
                ]
        )
            c.Execute($"DELETE FROM {table} WHERE list_id = @listId", new { listId });
        c.Execute("DELETE FROM response WHERE list_id = @listId AND drop_id IS NULL", new { listId });
        c.Execute("UPDATE response SET note = NULL WHERE list_id = @listId", new { listId });
        c.Execute(
            "UPDATE campaign_leave SET note = NULL WHERE campaign_id IN (SELECT id FROM campaign WHERE list_id = @listId)",
            new { listId }
        );
        c.Execute(
            """
            DELETE FROM upload WHERE id = (SELECT upload_id FROM list WHERE id = @listId)
                OR id IN (SELECT u.id FROM upload u JOIN job j ON instr(j.payload_json, u.id) > 0 WHERE j.subject_id = @listId
                    AND j.kind IN ('reload', 'details'))
            """,
            new { listId }
        );
        c.Execute(
            """
            UPDATE job SET payload_json = '{}' WHERE state NOT IN ('queued', 'running') AND (kind IN ('reload', 'details')
                AND subject_id = @listId
                OR kind = 'import' AND message LIKE '%"listId":' || @listId || '}')
            """,
            new { listId }
        );
        c.Execute("UPDATE list_version SET order_json = NULL, report_json = '[]' WHERE list_id = @listId", new { listId });
        c.Execute("UPDATE list SET report_json = '[]', upload_id = NULL WHERE id = @listId", new { listId });
        c.Execute("UPDATE act_log SET text = 'Erased' WHERE about = 'List' AND about_id = @listId", new { listId });
    }

    /// <summary>
    /// Erases the people of a list: their values, everything that was ever noted about them, and what was printed for them. What was made
    /// and mailed stays as numbers: pieces, days, counts. They must have been removed from the list before, so that no drop goes on with
    /// them. It cannot be undone.
    /// </summary>
    /// <returns>The runs whose files are to be removed, and the addresses that messages went to.</returns>
    /// <exception cref="ConflictException">Work on the list is under way.</exception>
    public (IReadOnlyList<long> Runs, IReadOnlyList<string> MessageIds) ErasePeople(long listId, Actor actor) =>
        database.Write(c =>
        {
            MustRest(c, listId);
            var name =
                c.QuerySingleOrDefault<string>("SELECT name FROM list WHERE id = @listId", new { listId })
                ?? throw new NotFoundException("This list no longer exists.");
            RemoveHistory(c, listId);
            var cells = c.Query<int>("SELECT id FROM list_column WHERE list_id = @listId", new { listId });
            c.Execute($"UPDATE {RowTable.Name(listId)} SET find = ''{string.Concat(cells.Select(id => $", {RowTable.Cell(id)} = NULL"))}");
            c.Execute("UPDATE action SET label = 'Erased', by_itself = 1 WHERE list_id = @listId", new { listId });
            c.Execute(
                "UPDATE action SET label = 'Erased', by_itself = 1 WHERE drop_id IN (SELECT id FROM mail_drop WHERE list_id = @listId)",
                new { listId }
            );
            const string Drops = "(SELECT id FROM mail_drop WHERE list_id = @listId)",
                Runs = "(SELECT r.id FROM run r JOIN mail_drop d ON d.id = r.drop_id WHERE d.list_id = @listId)";
            var runs = c.Query<long>($"SELECT id FROM run WHERE id IN {Runs}", new { listId }).ToList();
            var messages = c.Query<string>($"SELECT message_id FROM run_mail WHERE run_id IN {Runs}", new { listId }).ToList();
            c.Execute($"INSERT INTO removing (drop_id) SELECT id FROM mail_drop WHERE list_id = @listId", new { listId });
            c.Execute($"UPDATE drop_event SET note = NULL, keys_json = NULL WHERE drop_id IN {Drops}", new { listId });
            c.Execute($"DELETE FROM removing WHERE drop_id IN {Drops}", new { listId });
            c.Execute(
                "UPDATE drop_recipient SET hold_reason = CASE WHEN hold_reason IS NULL THEN NULL ELSE 'Erased' END, return_reason "
                    + $"= NULL, accepted_json = NULL, rule_note = NULL WHERE drop_id IN {Drops}",
                new { listId }
            );
            foreach (var table in (string[])["piece_issue", "one_off", "mail_refusal", "proof_own"])
                c.Execute($"DELETE FROM {table} WHERE drop_id IN {Drops}", new { listId });
            c.Execute($"UPDATE proof_look SET note = NULL WHERE drop_id IN {Drops}", new { listId });
            c.Execute($"UPDATE mail_report SET address = '', words = '' WHERE drop_id IN {Drops}", new { listId });
            c.Execute(
                "UPDATE run_piece SET printed_name = NULL, printed_address = NULL, barcodes = NULL, file_name = NULL WHERE run_id "
                    + $"IN {Runs}",
                new { listId }
            );
            c.Execute($"UPDATE run_mail SET address = NULL, words = NULL WHERE run_id IN {Runs}", new { listId });
            foreach (var table in (string[])["run_one_off", "run_detail", "piece_code"])
                c.Execute($"DELETE FROM {table} WHERE run_id IN {Runs}", new { listId });
            c.Execute($"DELETE FROM run_log WHERE run_id IN {Runs}", new { listId });
            c.Execute($"UPDATE run SET files_gone_at = @Stamp, message = NULL WHERE id IN {Runs}", new { listId, actor.Stamp });
            c.Execute($"UPDATE act_log SET text = 'Erased' WHERE about = 'Drop' AND about_id IN {Drops}", new { listId });
            c.Execute("UPDATE list SET name = @name, source_name = NULL WHERE id = @listId", new { listId, name = $"{name} (erased)" });
            return ((IReadOnlyList<long>)runs, (IReadOnlyList<string>)messages);
        });
}
