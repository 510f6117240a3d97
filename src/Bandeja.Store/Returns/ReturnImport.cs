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
/// <param name="NotCorrected">Other lists on which somebody keeps the old address, a sentence each with the row of the file.</param>
/// <param name="Wrong">Lines of which nothing was recorded, each with the reason.</param>
/// <param name="Batch">By which the returns are taken back together; null where none was recorded.</param>
/// <param name="Lists">Lists whose addresses changed: the drop's, and others that the same people are on.</param>
public sealed record ReturnImported(
    int Returned,
    int Corrected,
    int WithoutAddress,
    IReadOnlyList<string> NotCorrected,
    IReadOnlyList<string> Wrong,
    long? Batch,
    IReadOnlyList<long> Drops,
    IReadOnlyList<long> Lists
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
            var (returned, corrected, bare, kept, wrong) = (0, 0, 0, new List<string>(), new List<string>());
            var drops = new HashSet<long> { dropId };
            var lists = new HashSet<long>();
            var alone = new List<CellEdit>();
            var elsewhere = new List<(long ListId, CellEdit Edit)>();
            for (var i = 0; i < lines.Count; i++)
            {
                // What a line did before it was found wrong is undone, and nothing else.
                c.Execute("SAVEPOINT line");
                try
                {
                    var line = lines[i];
                    var recipient = who.Find(line.Code);
                    var now = PieceFinder.Values(c, columns, drop.ListId, recipient);
                    var address = Address(columns, line, now);
                    if (string.IsNullOrWhiteSpace(line.Reason))
                    {
                        if (address.Count == 0)
                            throw new BadInputException("it has no reason, and its address is the one on the list.");
                        alone.AddRange(address.Select(a => new CellEdit(recipient, a.Key, a.Value)));
                        foreach (var other in AddressElsewhere.Of(c, columns, now, recipient).Where(o => o.SameAddress))
                        {
                            var (edits, missing) = AddressElsewhere.Edits(c, columns, address, other.Person);
                            elsewhere.AddRange(edits.Select(e => (other.Person.ListId, e)));
                            if (missing is not null)
                                kept.Add($"Row {i + 1}, {Short(line.Code)}: {AddressElsewhere.Kept(other.Person, missing)}");
                        }
                    }
                    else
                    {
                        var reason =
                            ReturnReasons.Read(line.Reason)
                            ?? throw new BadInputException($"“{Short(line.Reason)}” is not a known reason, such as “moved” or “vacant”.");
                        if (line.On > today)
                            throw new BadInputException($"{SettingStore.Days(c).Of(line.On.Value)} is in the future.");
                        var (follow, isBare) = FollowUp(rules[reason], address.Count > 0);
                        var entry = new ReturnEntry(dropId, recipient, reason, follow, line.On ?? today, follow.Corrects() ? address : []);
                        var outcome = returns.Record(entry, actor, batch);
                        returned++;
                        bare += isBare ? 1 : 0;
                        corrected += outcome.CorrectedLists.Count > 0 ? 1 : 0;
                        drops.UnionWith(outcome.OpenDrops);
                        lists.UnionWith(outcome.CorrectedLists);
                        kept.AddRange(outcome.NotCorrected.Select(said => $"Row {i + 1}, {Short(line.Code)}: {said}"));
                        if (outcome.Row.RemailDropId is { } remail)
                            drops.Add(remail);
                    }
                }
                catch (Exception e) when (e is BadInputException or ConflictException or NotFoundException)
                {
                    c.Execute("ROLLBACK TO line");
                    wrong.Add($"Row {i + 1}, {Short(lines[i].Code)}: {e.Message}");
                }
                c.Execute("RELEASE line");
            }
            // One act for each list, so that one Undo there takes all of them back.
            foreach (var list in alone.Select(e => (drop.ListId, e)).Concat(elsewhere).GroupBy(e => e.Item1, e => e.Item2))
            {
                var people = list.Select(e => e.RecipientId).Distinct().Count();
                editor.Edit(
                    list.Key,
                    [.. list],
                    people == 1 ? "Corrected an address from a file" : $"Corrected {people:N0} addresses from a file",
                    actor
                );
                corrected += list.Key == drop.ListId ? people : 0;
                lists.Add(list.Key);
            }
            return new ReturnImported(returned, corrected, bare, kept, wrong, returned > 0 ? batch : null, [.. drops], [.. lists]);
        });

    static string Short(string text) => text.Length <= 60 ? text : text[..57] + "…";

    /// <summary>What follows from a return of a file, and whether it should bring a new address and does not. A new address is never
    /// taken from whoever is to get no mail at all: files repeat the old one in every row.</summary>
    static (ReturnFollowUp FollowUp, bool IsBare) FollowUp(ReturnFollowUp rule, bool hasAddress) =>
        rule switch
        {
            ReturnFollowUp.Correct or ReturnFollowUp.Remail when !hasAddress => (ReturnFollowUp.Record, true),
            ReturnFollowUp.Record or ReturnFollowUp.Hold when hasAddress => (ReturnFollowUp.Correct, false),
            _ => (rule, false),
        };

    /// <summary>The cells of an address that are other than what the list has.</summary>
    static Dictionary<int, string?> Address(IReadOnlyList<Column> columns, ReturnLine line, string?[] now)
    {
        var cells = new Dictionary<int, string?>();
        void Set(Role role, string? value, string name)
        {
            if (string.IsNullOrWhiteSpace(value))
                return;
            if (value.Length > LongestValue)
                throw new BadInputException($"a part of an address can have {LongestValue} characters.");
            var at = columns.ToList().FindIndex(x => x.Role == role);
            if (at < 0)
                throw new BadInputException($"the list has no column for the {name} of an address.");
            if (columns[at].Kind == ColumnKind.Computed)
                throw new ConflictException($"{columns[at].Name} is computed: change the columns that it reads.");
            if (value.Trim() != now[at])
                cells[columns[at].Id] = value.Trim();
        }
        Set(Role.Street, line.Street, "street");
        // Another street is another address: what the file does not have of the old one is not kept beside it.
        var moved = cells.Count > 0;
        Set(Role.Street2, line.Street2, "second line");
        Set(Role.City, line.City, "city");
        Set(Role.Region, line.Region, "state");
        Set(Role.PostalCode, line.PostalCode, "ZIP code");
        if (moved && string.IsNullOrWhiteSpace(line.Street2))
            for (var i = 0; i < columns.Count; i++)
                if (
                    columns[i].Role is Role.Street2 or Role.Street3 or Role.Unit
                    && columns[i].Kind != ColumnKind.Computed
                    && now[i] is not null
                )
                    cells[columns[i].Id] = null;
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
                throw new ConflictException("The returns in this file were already undone.");
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
                return own.Count == 1 ? own[0] : throw new ConflictException("more than one recipient has this number.");
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
            throw new NotFoundException("no recipient of this drop has this number.");
        }
    }
}
