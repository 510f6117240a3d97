using Dapper;

namespace Bandeja.Store.Devices;

/// <summary>How a printer takes envelopes, and where what it prints comes to sit. Offsets in millimetres move what is printed to the right
/// and down, as it is read.</summary>
public sealed record PrinterRow
{
    public long Id { get; init; }
    public string Name { get; init; } = "";

    /// <summary>The edge that goes in first: short or long.</summary>
    public string EnvelopeEdge { get; init; } = "short";

    /// <summary>The side that is printed on: up or down.</summary>
    public string EnvelopeFace { get; init; } = "up";

    /// <summary>0, or 180 where the flap goes in the other way round.</summary>
    public long EnvelopeTurn { get; init; }
    public double EnvelopeRight { get; init; }
    public double EnvelopeDown { get; init; }
    public double SheetRight { get; init; }
    public double SheetDown { get; init; }

    /// <summary>paper: only known how paper goes in; practice: the practice printer; queue: a queue of this machine.</summary>
    public string Kind { get; init; } = "paper";
    public string? Queue { get; init; }
}

/// <summary>The printers that are known.</summary>
public sealed class PrinterStore(Database database)
{
    /// <summary>All printers, by name.</summary>
    public IReadOnlyList<PrinterRow> All()
    {
        using var c = database.Open();
        return [.. c.Query<PrinterRow>("SELECT * FROM printer ORDER BY name")];
    }

    /// <summary>One printer.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public PrinterRow Get(long id)
    {
        using var c = database.Open();
        return c.QuerySingleOrDefault<PrinterRow>("SELECT * FROM printer WHERE id = @id", new { id })
            ?? throw new NotFoundException("This printer no longer exists.");
    }

    /// <summary>Adds a printer, where its id is 0, or changes one.</summary>
    /// <exception cref="ConflictException">Another has the name.</exception>
    public long Save(PrinterRow printer) =>
        database.Write(c =>
        {
            if (c.QuerySingle<bool>("SELECT EXISTS (SELECT 1 FROM printer WHERE name = @Name COLLATE NOCASE AND id <> @Id)", printer))
                throw new ConflictException($"There is already a printer named “{printer.Name}”.");
            if (printer.Id == 0)
                return c.QuerySingle<long>(
                    """
                    INSERT INTO printer (name, envelope_edge, envelope_face, envelope_turn, envelope_right, envelope_down, sheet_right,
                        sheet_down, kind, queue)
                    VALUES (@Name, @EnvelopeEdge, @EnvelopeFace, @EnvelopeTurn, @EnvelopeRight, @EnvelopeDown, @SheetRight, @SheetDown,
                        @Kind, @Queue) RETURNING id
                    """,
                    printer
                );
            if (
                c.Execute(
                    """
                    UPDATE printer SET name = @Name, envelope_edge = @EnvelopeEdge, envelope_face = @EnvelopeFace,
                        envelope_turn = @EnvelopeTurn, envelope_right = @EnvelopeRight, envelope_down = @EnvelopeDown,
                        sheet_right = @SheetRight, sheet_down = @SheetDown, kind = @Kind, queue = @Queue WHERE id = @Id
                    """,
                    printer
                ) == 0
            )
                throw new NotFoundException("This printer no longer exists.");
            return printer.Id;
        });

    /// <summary>Removes a printer; runs that were made for it stay as they were.</summary>
    /// <exception cref="ConflictException">A run is being printed on it.</exception>
    public void Remove(long id) =>
        database.Write(c =>
        {
            if (
                c.QuerySingle<bool>(
                    "SELECT EXISTS (SELECT 1 FROM run WHERE device_id = @id AND state IN ('queued', 'running', 'paused'))",
                    new { id }
                )
            )
                throw new ConflictException("A run is printing on this printer. Wait until it is done, or cancel it.");
            c.Execute("DELETE FROM printer WHERE id = @id", new { id });
        });
}
