using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Core.Matching;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Store.Runs;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Work.Production;

/// <summary>A piece and whose it is.</summary>
public sealed record PieceOf(int Piece, string Name);

/// <summary>Two recipients that may be one person, and why they may be.</summary>
public sealed record PiecePair(PieceOf A, PieceOf B, DuplicateReason Reason);

/// <summary>Recipients of a run that may be one person, who would get two pieces.</summary>
/// <param name="Searched">False where the list has changed since it was searched for duplicates: there may be others.</param>
/// <param name="Open">How many open pairs the list has.</param>
/// <param name="Pairs">How many of them are of the run.</param>
/// <param name="First">The surest of them.</param>
public sealed record PossibleDuplicates(bool Searched, int Open, int Pairs, IReadOnlyList<PiecePair> First)
{
    const int Shown = 3;

    /// <summary>Pairs of which one is in the run, and the other is, too, or got a piece of the drop before, or may have got one.</summary>
    public static PossibleDuplicates Of(SqliteConnection c, DropRow drop, RunPlan plan)
    {
        var open = DuplicateStore.OpenPairsOf(c, drop.ListId);
        var searched = DuplicateStore.IsSearched(c, drop.ListId);
        if (open.Count == 0)
            return new(searched, 0, 0, []);
        var now = plan.Pieces.Select(p => p.RecipientId).ToHashSet();
        var before = c.Query<long>(
                "SELECT recipient_id FROM drop_recipient WHERE drop_id = @Id AND tray IN ('Produced', 'Mailed', 'Returned') "
                    + "UNION SELECT recipient_id FROM piece_doubt WHERE drop_id = @Id",
                new { drop.Id }
            )
            .ToHashSet();
        var pairs = open.Where(p =>
                now.Contains(p.A) && (now.Contains(p.B) || before.Contains(p.B)) || now.Contains(p.B) && before.Contains(p.A)
            )
            .ToList();
        var shown = pairs.Take(Shown).ToList();
        var columns = RowTable.Columns(c, drop.ListId);
        var rows = DropStore
            .Recipients(c, drop, columns, [.. shown.SelectMany(p => (long[])[p.A, p.B]).Distinct()])
            .ToDictionary(r => r.Id, r => new PieceOf(r.PieceNumber, RecipientLabel.Of(columns, i => r.Values[i]).Name));
        return new(
            searched,
            open.Count,
            pairs.Count,
            [.. shown.Where(p => rows.ContainsKey(p.A) && rows.ContainsKey(p.B)).Select(p => new PiecePair(rows[p.A], rows[p.B], p.Reason))]
        );
    }
}
