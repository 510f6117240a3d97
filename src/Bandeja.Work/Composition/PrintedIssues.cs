using Bandeja.Core.Checks;
using Bandeja.Core.Lists;
using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Dapper;

namespace Bandeja.Work.Composition;

/// <summary>A recipient with an issue on the list, and the value that it is about.</summary>
public sealed record PrintedIssue(int Piece, string Name, string? Value);

/// <summary>Open issues of one kind.</summary>
/// <param name="Title">What the check is called.</param>
/// <param name="Recipients">How many recipients have one.</param>
/// <param name="First">The first of them by their pieces.</param>
public sealed record PrintedIssueGroup(CheckKind Kind, string Title, int Recipients, IReadOnlyList<PrintedIssue> First);

/// <summary>The list's open issues in values that the ready pieces of a drop print: what makes a piece wrong before what is only
/// written in another form, and the most frequent kind first.</summary>
/// <param name="Recipients">How many ready recipients have at least one.</param>
public sealed record PrintedIssuesView(int Recipients, IReadOnlyList<PrintedIssueGroup> Groups);

/// <summary>
/// Finds what the list's checks have found in values that a drop prints. An issue of the list keeps no piece from being ready, because the
/// value prints as it is written; it is to be seen before anything is produced.
/// </summary>
public sealed class PrintedIssues(Database database, Letters letters)
{
    const int Shown = 2;

    /// <summary>The issues of a drop's ready recipients.</summary>
    public PrintedIssuesView Of(long dropId)
    {
        using var c = database.Open();
        var drop = DropStore.Drop(c, dropId);
        var columns = RowTable.Columns(c, drop.ListId);
        var printed = letters.Package(c, drop).SelectMany(p => p.Bound.UsedColumns).ToHashSet();
        if (printed.Count == 0)
            return new(0, []);
        var ids = string.Join(',', printed.Select(i => columns[i].Id));
        var ready = $"""
            FROM check_issue d JOIN drop_recipient p ON p.drop_id = @dropId AND p.recipient_id = d.recipient_id AND p.tray = 'Ready'
            WHERE d.list_id = @ListId AND d.column_id IN ({ids})
            """;
        var given = new { dropId, drop.ListId };
        var recipients = c.QuerySingle<int>($"SELECT count(DISTINCT d.recipient_id) {ready}", given);
        if (recipients == 0)
            return new(0, []);
        var kinds = c.Query<(string Kind, int Recipients)>(
                $"SELECT d.kind, count(DISTINCT d.recipient_id) AS n {ready} GROUP BY d.kind ORDER BY n DESC, d.kind",
                given
            )
            .OrderBy(k => CheckText.IsOfForm(Enum.Parse<CheckKind>(k.Kind)))
            .ToList();
        var first = c.Query<(string Kind, long Recipient, int Column)>(
                $"""
                SELECT kind, recipient_id, column_id FROM (
                    SELECT d.kind, d.recipient_id, min(d.column_id) AS column_id,
                        row_number() OVER (PARTITION BY d.kind ORDER BY p.piece_number) AS place
                    {ready} GROUP BY d.kind, d.recipient_id)
                WHERE place <= {Shown} ORDER BY place
                """,
                given
            )
            .ToLookup(f => f.Kind);
        var rows = DropStore
            .Recipients(c, drop, columns, [.. first.SelectMany(f => f.Select(x => x.Recipient)).Distinct()])
            .ToDictionary(r => r.Id);
        PrintedIssue One((string Kind, long Recipient, int Column) x)
        {
            var r = rows[x.Recipient];
            var at = columns.ToList().FindIndex(y => y.Id == x.Column);
            return new(r.PieceNumber, RecipientLabel.Of(columns, i => r.Values[i]).Name, at < 0 ? null : r.Values[at]);
        }
        return new(
            recipients,
            [
                .. kinds.Select(k =>
                {
                    var kind = Enum.Parse<CheckKind>(k.Kind);
                    return new PrintedIssueGroup(
                        kind,
                        CheckText.Of(kind).Title,
                        k.Recipients,
                        [.. first[k.Kind].Where(x => rows.ContainsKey(x.Recipient)).Select(One)]
                    );
                }),
            ]
        );
    }
}
