using Bandeja.Core.Addressing;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Core.Returns;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Returns;

/// <summary>Finds the piece that somebody holds in their hand.</summary>
public sealed class PieceFinder(Database database, ListEditor editor)
{
    const int Most = 20;

    internal static readonly Role[] AddressRoles =
    [
        Role.WholeAddress,
        Role.Street,
        Role.HouseNumber,
        Role.Unit,
        Role.Street2,
        Role.Street3,
        Role.DeliveryPoint,
        Role.District,
        Role.Locality,
        Role.City,
        Role.Region,
        Role.PostalCode,
        Role.Country,
    ];

    /// <summary>The pieces that have a number or a code and were made, those mailed last first; at most twenty.</summary>
    /// <param name="dropId">Only of that drop; null for all.</param>
    public IReadOnlyList<FoundPiece> Find(PieceCode code, long? dropId)
    {
        using var c = database.Open();
        const string made = "d.tray IN ('Produced', 'Mailed', 'Returned') AND (@dropId IS NULL OR d.drop_id = @dropId)";
        var found = code.Number is { } number
            // Each drop has its own index of numbers: the drops are few, and their pieces many.
            ? c.Query<(long Drop, long Recipient)>(
                $"""
                SELECT d.drop_id, d.recipient_id FROM mail_drop m
                CROSS JOIN drop_recipient d ON d.drop_id = m.id AND d.piece_number = @number
                WHERE {made} ORDER BY d.mailed_on IS NULL, d.mailed_on DESC, m.id DESC LIMIT @Most
                """,
                new
                {
                    number,
                    dropId,
                    Most,
                }
            )
            : c.Query<(long Drop, long Recipient)>(
                $"""
                SELECT DISTINCT d.drop_id, d.recipient_id FROM piece_code k JOIN run r ON r.id = k.run_id
                JOIN drop_recipient d ON d.drop_id = r.drop_id AND d.piece_number = k.piece_number
                WHERE k.code = @Code AND {made} ORDER BY d.mailed_on IS NULL, d.mailed_on DESC, d.drop_id DESC LIMIT @Most
                """,
                new
                {
                    code.Code,
                    dropId,
                    Most,
                }
            );
        // Who was erased has a place in the ledger, and nothing else.
        var country = new SettingStore(database).Addressing().CountryLine;
        return [.. found.ToList().Select(f => Piece(c, f.Drop, f.Recipient, country)).OfType<FoundPiece>()];
    }

    /// <summary>What the checks say of a recipient's address with other values, in sentences; none where nothing is wrong.</summary>
    /// <param name="cells">By the column's id.</param>
    public IReadOnlyList<string> Check(long listId, long recipientId, IReadOnlyDictionary<int, string?> cells)
    {
        using var c = database.Open();
        ListStore.Get(c, listId);
        var shape = ListShape.Of(c, listId, editor.Surroundings);
        var values = Values(c, shape.Columns, listId, recipientId);
        foreach (var (column, value) in cells)
            if (shape.Position(column) is >= 0 and var at)
                values[at] = string.IsNullOrWhiteSpace(value) ? null : value.Trim();
        var address = shape.Columns.Select((x, i) => (x, i)).Where(x => AddressRoles.Contains(x.x.Role)).Select(x => x.i).ToHashSet();
        return [.. shape.Checker.Check(values).Where(i => address.Contains(i.Column)).Select(i => i.Message).Distinct()];
    }

    FoundPiece? Piece(SqliteConnection c, long dropId, long recipientId, CountryLine country)
    {
        var drop = DropStore.Drop(c, dropId);
        var columns = RowTable.Columns(c, drop.ListId);
        if (RowTable.Values(c, columns, drop.ListId, recipientId) is not { } values)
            return null;
        var state = DropEvents.States(c, dropId, [recipientId])[recipientId];
        var piece = c.QuerySingle<long>(
            "SELECT piece_number FROM drop_recipient WHERE drop_id = @dropId AND recipient_id = @recipientId",
            new { dropId, recipientId }
        );
        return new(
            dropId,
            drop.CampaignName,
            drop.Name,
            drop.ListId,
            drop.ListName,
            recipientId,
            piece,
            RecipientLabel.Of(columns, i => values[i]).Name,
            state.MailedOn ?? state.EmailedOn,
            state.Tray,
            state.ReturnReason,
            state.Objection(DropEventKind.Returned),
            [
                .. columns
                    .Select((x, i) => new AddressCell(x.Id, x.Name, x.Role, values[i]))
                    .Where(x => AddressRoles.Contains(x.Role))
                    .OrderBy(x => Array.IndexOf(AddressRoles, x.Role)),
            ],
            Lines(columns, values, country),
            Open(c, recipientId, drop.ListId, dropId),
            AddressElsewhere.Of(c, columns, values, recipientId)
        );
    }

    /// <summary>The address below the name as it is written on a piece; none where there is none.</summary>
    string[] Lines(IReadOnlyList<Column> columns, string?[] values, CountryLine country)
    {
        var (home, locale) = (editor.Surroundings.Home, editor.Surroundings.Locale);
        var lines = new DeliveryAddress(columns, home.Code, country, locale.Tag).Write(new ArrayRow(values));
        return [.. lines.Where(l => l.Kind != AddressLineKind.Name).Select(l => l.Text)];
    }

    /// <summary>The drops of a list in which a recipient's piece has not left the building.</summary>
    internal static IReadOnlyList<OpenDrop> Open(SqliteConnection c, long recipientId, long listId, long? but) =>
        [
            .. c.Query<(long Id, string Campaign, string Name, string Tray)>(
                    """
                    SELECT m.id, k.name, m.name, d.tray FROM drop_recipient d JOIN mail_drop m ON m.id = d.drop_id
                    JOIN campaign k ON k.id = m.campaign_id WHERE d.recipient_id = @recipientId AND m.list_id = @listId AND m.id IS NOT @but
                        AND d.tray NOT IN ('Mailed', 'Returned') ORDER BY m.mail_date IS NULL, m.mail_date, m.id
                    """,
                    new
                    {
                        recipientId,
                        listId,
                        but,
                    }
                )
                .Select(d => new OpenDrop(d.Id, d.Campaign, d.Name, Enum.Parse<Tray>(d.Tray))),
        ];

    internal static string?[] Values(SqliteConnection c, IReadOnlyList<Column> columns, long listId, long recipientId) =>
        RowTable.Values(c, columns, listId, recipientId) ?? throw new NotFoundException("This recipient is not on the list.");
}
