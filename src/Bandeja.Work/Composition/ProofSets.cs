using System.Collections.Concurrent;
using System.Security.Cryptography;
using System.Text;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Store.Proofs;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Work.Composition;

/// <summary>A drop's proof set, and a made-up recipient with everything at its longest.</summary>
public sealed record ChosenProofs(ProofSet Set, string?[] Longest, long? MostRows);

/// <summary>Chooses the proof sets of drops. A set is kept until something that it depends on has changed.</summary>
public sealed class ProofSets(Database database, Letters letters, DropDependencies dependencies)
{
    const int Kept = 16;

    // What was looked at stays looked at when the date goes on: marks are made for one day.
    static readonly DateOnly MarkDay = new(2000, 1, 1);
    readonly ConcurrentDictionary<long, (string Key, ChosenProofs Proofs)> chosen = [];

    /// <summary>The drop's proof set as things are now.</summary>
    public ChosenProofs Of(long dropId)
    {
        using var c = database.Open();
        var drop = DropStore.Drop(c, dropId);
        var key =
            $"{drop.CheckedMark}|{dependencies.Mark(c, drop)}|{ListStore.LastChange(c, drop.ListId)}|{OneOffs.Mark(c, dropId)}|"
            + $"{c.QuerySingle<long>("SELECT coalesce(max(id), 0) FROM drop_event WHERE drop_id = @dropId", new { dropId })}|"
            + $"{letters.Today:yyyyMMdd}";
        if (chosen.TryGetValue(dropId, out var known) && known.Key == key)
            return known.Proofs;
        var proofs = Choose(c, drop);
        if (chosen.Count >= Kept)
            chosen.Clear();
        chosen[dropId] = (key, proofs);
        return proofs;
    }

    ChosenProofs Choose(SqliteConnection c, DropRow drop)
    {
        var composer = new PackageComposer(c, letters, drop);
        var columns = composer.Package[0].Bound.Setting.Columns;
        var maker = new ProofSetMaker([.. composer.Package.Select(p => p.Bound)], letters.Today);
        // With one way for all there is nothing to tell apart.
        var both = drop.Ways == Core.Mail.Channel.Both;
        var issues = new Dictionary<long, List<(PieceIssueKind, string)>>();
        foreach (
            var (id, kind, subject) in c.Query<(long, string, string)>(
                "SELECT DISTINCT recipient_id, kind, subject FROM piece_issue WHERE drop_id = @Id",
                new { drop.Id }
            )
        )
            (issues.TryGetValue(id, out var list) ? list : issues[id] = []).Add((Enum.Parse<PieceIssueKind>(kind), subject));
        var longest = new string?[columns.Count];
        var sets = composer.Package[0].Bound.Setting.Details?.Count ?? 0;
        long? mostRows = null;
        var most = 0;
        // The detail rows are read on the same connection: what is read is finished first.
        foreach (var r in DropStore.InTheHouse(c, drop, columns))
        {
            var row = composer.Row(r);
            maker.Add(
                r.Id,
                r.PieceNumber,
                row,
                r.Pages,
                issues.GetValueOrDefault(r.Id) ?? [],
                composer.Alone(r.Id).Select(o => o.DesignName),
                both ? i => composer.Gets(r.Channel, composer.Package[i].Design) : null,
                both ? r.Channel : null
            );
            for (var i = 0; i < longest.Length; i++)
                if (r.Values[i] is { } value && value.Length > (longest[i]?.Length ?? 0))
                    longest[i] = value;
            var rows = 0;
            for (var s = 0; s < sets; s++)
                rows += row.Details(s).Count;
            if (rows <= most)
                continue;
            (most, mostRows) = (rows, r.Id);
        }
        return new(maker.Finish(), longest, mostRows);
    }

    /// <summary>A made-up recipient in whom every column has its longest value.</summary>
    public static IRow LongestRow(ChosenProofs proofs, PackageComposer composer) =>
        new ArrayRow(proofs.Longest, set => proofs.MostRows is { } id ? composer.Details.Rows(id, set) : []);

    /// <summary>A mark of what is on the pages of each recipient's package: the same mark, the same pages.</summary>
    public IReadOnlyDictionary<long, string> Marks(SqliteConnection c, DropRow drop, IReadOnlyList<DropRecipient> recipients)
    {
        var composer = new PackageComposer(c, letters, drop, MarkDay);
        return recipients.ToDictionary(
            r => r.Id,
            r =>
            {
                var composed = composer.Compose(r);
                letters.ToPdf(composed.Pieces, "", out var marks);
                var all = composed.Mail is { } mail ? marks.Append(mail.Mark) : marks;
                return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(string.Join('|', all))))[..32];
            }
        );
    }
}
