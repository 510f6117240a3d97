using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Runs;

/// <summary>Who would be in a run, in which order, and who is left out and why.</summary>
public sealed class RunPlanning(Database database)
{
    /// <summary>Plans a run without beginning it.</summary>
    /// <param name="sort">The order: piece, postal, or columns' ids divided by commas.</param>
    /// <param name="home">The organization's country, ISO 3166-1, by which pieces abroad are told; null where that does not matter.</param>
    /// <param name="email">True for emails, false for what is on paper.</param>
    public RunPlan Plan(
        long dropId,
        Func<PlanCandidate, bool> chosen,
        string notChosen,
        string sort = "piece",
        bool reprints = false,
        string? home = null,
        bool email = false
    )
    {
        using var c = database.Open();
        return Plan(c, dropId, chosen, notChosen, sort, reprints, home, email);
    }

    internal static RunPlan Plan(
        SqliteConnection c,
        long dropId,
        Func<PlanCandidate, bool> chosen,
        string notChosen,
        string sort,
        bool reprints,
        string? home,
        bool email
    )
    {
        var (wanted, otherWay) = email ? ("Email", "Sent on paper") : ("Paper", "Sent by email");
        var drop = DropStore.Drop(c, dropId);
        var columns = RowTable.Columns(c, drop.ListId);
        var country = columns.FirstOrDefault(x => x.Role == Role.Country);
        var abroad = new Dictionary<string, bool>();
        bool IsAbroad(string? value)
        {
            if (home is null || string.IsNullOrWhiteSpace(value))
                return false;
            // What is no country that is known here is not at home either: nobody pays too little because of a slip.
            if (!abroad.TryGetValue(value, out var known))
                abroad[value] = known = Core.Places.Countries.Named(value)?.Code != home;
            return known;
        }
        var doubts = PieceDoubts.Of(c, dropId);
        var rows = RowTable.Name(drop.ListId);
        var countryCell = country is null ? "NULL" : $"r.{RowTable.Cell(country.Id)}";
        // Who gets the piece one way only must not get it the other way instead, while the first may have gone out.
        var candidates = c.Query<(
            long Id,
            long Piece,
            string Tray,
            long Pages,
            string? Hold,
            bool InRun,
            long? Run,
            string? Country,
            string Channel,
            string? HoldRule
        )>(
                $"""
                SELECT d.recipient_id, d.piece_number, d.tray, d.pages, d.hold_reason,
                       EXISTS (SELECT 1 {RunStore.InRunSql} AND p.recipient_id = d.recipient_id AND u.drop_id = d.drop_id
                           AND (u.output IN ('email', 'eml', 'mbox')) = @email),
                       {(email ? "d.email_run_id" : "d.run_id")}, {countryCell}, d.channel, d.hold_rule
                FROM drop_recipient d JOIN {rows} r ON r.id = d.recipient_id
                WHERE d.drop_id = @dropId ORDER BY {OrderBy(columns, sort)}
                """,
                new { dropId, email },
                buffered: false
            )
            .Select(r => new PlanCandidate(
                r.Id,
                (int)r.Piece,
                Enum.Parse<Tray>(r.Tray),
                (int)r.Pages,
                r.Hold,
                r.InRun,
                r.Run,
                IsAbroad(r.Country),
                r.Channel == wanted || r.Channel == "Both" ? null : otherWay,
                doubts[r.Id].FirstOrDefault(d => d.Email == email || r.Channel != "Both")?.RunNumber,
                r.HoldRule
            ))
            .ToList();
        return RunPlan.Of(candidates, chosen, notChosen, reprints);
    }

    /// <summary>The order of a run's pieces in SQL; where it leaves two alike, their piece numbers decide.</summary>
    internal static string OrderBy(IReadOnlyList<Column> columns, string sort)
    {
        if (sort == "piece")
            return "d.piece_number";
        // Sorted as the post takes them: by country, then by postal code.
        var ids =
            sort == "postal"
                ? new[] { Role.Country, Role.PostalCode, Role.DeliveryPoint }
                    .Select(role => columns.FirstOrDefault(x => x.Role == role)?.Id)
                    .OfType<int>()
                : sort.Split(',').Select(s => int.TryParse(s.TrimStart('-'), out var id) ? id : 0);
        var by = ids.Select(id => columns.FirstOrDefault(x => x.Id == id)).OfType<Column>().ToList();
        if (by.Count == 0)
            throw new ConflictException(
                sort == "postal" ? "The list has no postal code column to sort by." : "The sort column is no longer in the list."
            );
        string By(Column x)
        {
            var cell = $"r.{RowTable.Cell(x.Id)}";
            var down = sort.Split(',').Contains($"-{x.Id}") ? " DESC" : "";
            if (x.Role == Role.Country)
                return $"{RowTable.CountryKey(x.Id)} COLLATE NAMES{down}, ";
            return $"{cell} IS NULL, {(x.Type == ColumnType.Number ? $"CAST({cell} AS REAL)" : $"{cell} COLLATE NAMES")}{down}, ";
        }
        return string.Concat(by.Select(By)) + "d.piece_number";
    }
}
