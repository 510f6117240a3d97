using Bandeja.Core.Lists;
using Bandeja.Core.Returns;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Returns;

/// <summary>A line of a file of returns, or of corrected addresses.</summary>
/// <param name="Code">The piece number, a barcode of the piece, or the recipient's own number.</param>
/// <param name="Reason">As the file has it; blank for a correction of the address alone.</param>
/// <param name="On">When it came back; null for today.</param>
public sealed record ReturnLine(
    string Code,
    string? Reason = null,
    DateOnly? On = null,
    string? Street = null,
    string? Street2 = null,
    string? City = null,
    string? Region = null,
    string? PostalCode = null
);

/// <summary>What became of the file.</summary>
/// <param name="Returned">Returns that were recorded.</param>
/// <param name="Corrected">Addresses that were corrected, with a return or alone.</param>
/// <param name="WithoutAddress">Returns whose reason asks for a new address that the file does not have: they are recorded only.</param>
/// <param name="Wrong">Lines of which nothing was recorded, each with the reason.</param>
/// <param name="Batch">By which the returns are taken back together; null where none was recorded.</param>
public sealed record ReturnImported(
    int Returned,
    int Corrected,
    int WithoutAddress,
    IReadOnlyList<string> Wrong,
    long? Batch,
    IReadOnlyList<long> Drops
);

/// <summary>Records a file of returns and corrected addresses, as if each had been typed at the desk; and takes one back.</summary>
public sealed class ReturnImport(Database database, ReturnStore returns, ListEditor editor)
{
    /// <summary>A file with more is to be divided.</summary>
    public const int MostLines = 20_000;

    const int LongestValue = 500;

    /// <summary>Records the lines; one that cannot be recorded is passed over, and said.</summary>
    /// <param name="dropId">The drop that they come from.</param>
    /// <param name="rules">What follows from each reason.</param>
    public ReturnImported Record(
        long dropId,
        IReadOnlyList<ReturnLine> lines,
        IReadOnlyDictionary<ReturnReason, ReturnFollowUp> rules,
        DateOnly today,
        Actor actor
    ) =>
        database.Write(c =>
        {
            if (lines.Count > MostLines)
                throw new BadInputException($"A file can have {MostLines:N0} returns. Divide it.");
            var drop = DropStore.Drop(c, dropId);
            var who = new Recipients(c, drop);
            var columns = RowTable.Columns(c, drop.ListId);
            var batch = c.QuerySingle<long>("SELECT coalesce(max(batch), 0) + 1 FROM piece_return");
            var (returned, corrected, bare, wrong) = (0, 0, 0, new List<string>());
            var drops = new HashSet<long> { dropId };
            for (var i = 0; i < lines.Count; i++)
            {
                // What a line did before it was found wrong is undone, and nothing else.
                c.Execute("SAVEPOINT line");
                try
                {
                    var line = lines[i];
                    var recipient = who.Find(line.Code);
                    var address = Address(columns, line);
                    if (string.IsNullOrWhiteSpace(line.Reason))
                    {
                        if (address.Count == 0)
                            throw new BadInputException("there is neither a reason nor an address in this line.");
                        editor.Edit(
                            drop.ListId,
                            [.. address.Select(a => new CellEdit(recipient, a.Key, a.Value))],
                            "Corrected an address from a file",
                            actor
                        );
                        corrected++;
                    }
                    else
                    {
                        var reason =
                            ReturnReasons.Read(line.Reason)
                            ?? throw new BadInputException(
                                $"“{Short(line.Reason)}” is no reason that is known, such as “moved” or “vacant”."
                            );
                        if (line.On > today)
                            throw new BadInputException($"{line.On:MMM d, yyyy} is in the future.");
                        var follow = rules[reason];
                        if (follow.Corrects() && address.Count == 0)
                        {
                            follow = ReturnFollowUp.Record;
                            bare++;
                        }
                        else if (address.Count > 0 && !follow.Corrects())
                            follow = ReturnFollowUp.Correct;
                        var outcome = returns.Record(new(dropId, recipient, reason, follow, line.On ?? today, address), actor, batch);
                        returned++;
                        corrected += outcome.Corrected ? 1 : 0;
                        drops.UnionWith(outcome.OpenDrops);
                        if (outcome.Row.RemailDropId is { } remail)
                            drops.Add(remail);
                    }
                }
                catch (Exception e) when (e is BadInputException or ConflictException or NotFoundException)
                {
                    c.Execute("ROLLBACK TO line");
                    wrong.Add($"Line {i + 1}: {e.Message}");
                }
                c.Execute("RELEASE line");
            }
            return new ReturnImported(returned, corrected, bare, wrong, returned > 0 ? batch : null, [.. drops]);
        });

    /// <summary>The list of a drop.</summary>
    public long ListOf(long dropId)
    {
        using var c = database.Open();
        return DropStore.Drop(c, dropId).ListId;
    }

    static string Short(string text) => text.Length <= 60 ? text : text[..57] + "…";

    static Dictionary<int, string?> Address(IReadOnlyList<Column> columns, ReturnLine line)
    {
        var cells = new Dictionary<int, string?>();
        void Set(Role role, string? value, string name)
        {
            if (string.IsNullOrWhiteSpace(value))
                return;
            if (value.Length > LongestValue)
                throw new BadInputException($"a part of an address can have {LongestValue} characters.");
            var column =
                columns.FirstOrDefault(x => x.Role == role)
                ?? throw new BadInputException($"the list has no column for the {name} of an address.");
            if (column.Kind == ColumnKind.Computed)
                throw new ConflictException($"{column.Name} is computed: change the columns that it reads.");
            cells[column.Id] = value.Trim();
        }
        Set(Role.Street, line.Street, "street");
        Set(Role.Street2, line.Street2, "second line");
        Set(Role.City, line.City, "city");
        Set(Role.Region, line.Region, "state");
        Set(Role.PostalCode, line.PostalCode, "ZIP code");
        // An address in a file is whole: what it does not have of the old one is not kept beside the new street.
        if (cells.Count > 0 && line.Street is { Length: > 0 } && string.IsNullOrWhiteSpace(line.Street2))
            foreach (var old in columns.Where(x => x.Role is Role.Street2 or Role.Street3 or Role.Unit && x.Kind != ColumnKind.Computed))
                cells[old.Id] = null;
        return cells;
    }

    /// <summary>Takes back the returns of a file, the last first.</summary>
    /// <returns>How many were taken back, and which could not be.</returns>
    public (int Undone, IReadOnlyList<string> Kept, IReadOnlyList<ReturnOutcome> Outcomes) Undo(long batch, Actor actor) =>
        database.Write(c =>
        {
            var ids = c.Query<long>(
                    "SELECT id FROM piece_return WHERE batch = @batch AND undone_at IS NULL ORDER BY id DESC",
                    new { batch }
                )
                .ToList();
            if (ids.Count == 0)
                throw new ConflictException("The returns of this file were taken back already.");
            var (kept, outcomes) = (new List<string>(), new List<ReturnOutcome>());
            foreach (var id in ids)
            {
                c.Execute("SAVEPOINT line");
                try
                {
                    outcomes.Add(returns.Undo(id, actor));
                }
                catch (ConflictException e)
                {
                    c.Execute("ROLLBACK TO line");
                    kept.Add(e.Message);
                }
                c.Execute("RELEASE line");
            }
            return (outcomes.Count, (IReadOnlyList<string>)kept, (IReadOnlyList<ReturnOutcome>)outcomes);
        });

    /// <summary>Finds the recipients of a drop by the numbers that files name them by. Gone through once: a file has thousands of
    /// lines.</summary>
    sealed class Recipients
    {
        readonly SqliteConnection c;
        readonly long dropId;
        readonly Dictionary<long, long> byPiece;
        readonly ILookup<string, long> byKey;

        public Recipients(SqliteConnection c, DropRow drop)
        {
            (this.c, dropId) = (c, drop.Id);
            byPiece = c.Query<(long Piece, long Recipient)>(
                    "SELECT piece_number, recipient_id FROM drop_recipient WHERE drop_id = @Id",
                    new { drop.Id }
                )
                .ToDictionary(p => p.Piece, p => p.Recipient);
            byKey = (
                RowTable.Columns(c, drop.ListId).FirstOrDefault(x => x.Role == Role.Key) is { } key
                    ? c.Query<(string Key, long Recipient)>(
                        $"""
                        SELECT trim(r.{RowTable.Cell(key.Id)}), r.id FROM {RowTable.Name(drop.ListId)} r
                        JOIN drop_recipient d ON d.drop_id = @Id AND d.recipient_id = r.id WHERE r.{RowTable.Cell(key.Id)} IS NOT NULL
                        """,
                        new { drop.Id }
                    )
                    : []
            ).ToLookup(k => k.Key, k => k.Recipient, StringComparer.OrdinalIgnoreCase);
        }

        public long Find(string text)
        {
            var code = text.Trim();
            if (byKey[code].Take(2).ToList() is { Count: > 0 } own)
                return own.Count == 1 ? own[0] : throw new ConflictException($"more than one recipient has the number “{Short(code)}”.");
            if (PieceCode.Read(code) is { } read)
            {
                if (read.Number is { } number && byPiece.TryGetValue(number, out var recipient))
                    return recipient;
                if (read.Number is null)
                {
                    var found = c.Query<long>(
                            """
                            SELECT DISTINCT d.recipient_id FROM piece_code k JOIN run r ON r.id = k.run_id
                            JOIN drop_recipient d ON d.drop_id = r.drop_id AND d.piece_number = k.piece_number
                            WHERE k.code = @Code AND d.drop_id = @dropId LIMIT 2
                            """,
                            new { read.Code, dropId }
                        )
                        .ToList();
                    if (found.Count == 1)
                        return found[0];
                }
            }
            throw new NotFoundException($"nobody in this drop has the number “{Short(code)}”.");
        }
    }
}
