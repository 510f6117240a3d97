using System.Text;
using Bandeja.Core.Checks;
using Bandeja.Core.Formulas;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Lists;

/// <summary>What the rules of a list depend on beside its own data.</summary>
/// <param name="Locale">How the organization writes numbers and dates; its region is the home country.</param>
/// <param name="Today">The day it is.</param>
/// <param name="HasGlyph">True where a typeface of ours can print a character.</param>
public sealed record ListSurroundings(OrganizationLocale Locale, DateOnly Today, Func<Rune, bool> HasGlyph)
{
    /// <summary>The organization's country.</summary>
    public Country Home => Countries.Named(Locale.Tag[3..]) ?? Countries.Named("US")!;

    /// <summary>What checks need to know.</summary>
    public CheckSettings Checks => new(Home, Today, HasGlyph);
}

/// <summary>A list's columns with everything that follows from them: what is computed, what is checked, its sets of detail rows. Serves one
/// thread and one transaction.</summary>
public sealed class ListShape
{
    readonly Dictionary<int, int> positions;
    readonly DetailReader details;

    ListShape(SqliteConnection c, long listId, ListSurroundings surroundings)
    {
        ListId = listId;
        Surroundings = surroundings;
        Columns = RowTable.Columns(c, listId);
        positions = Columns.Select((x, i) => (x.Id, i)).ToDictionary(x => x.Id, x => x.i);
        Details = DetailStore.Sets(c, listId);
        Computed = new(Columns, surroundings.Locale, surroundings.Today, Details);
        Checker = new(Columns, surroundings.Checks);
        details = new(c, Details, Computed.DetailSets);
    }

    /// <summary>Reads it.</summary>
    /// <exception cref="ComputedColumnException">A computed column cannot be computed.</exception>
    public static ListShape Of(SqliteConnection c, long listId, ListSurroundings surroundings) => new(c, listId, surroundings);

    public long ListId { get; }
    public ListSurroundings Surroundings { get; }
    public IReadOnlyList<Column> Columns { get; }
    public IReadOnlyList<DetailSet> Details { get; }
    public ComputedColumns Computed { get; }
    public RowChecker Checker { get; }

    /// <summary>A mark that changes when the list must be checked anew.</summary>
    public string CheckMark => $"{RowChecker.Rules}|{Surroundings.Locale.Tag}|{string.Join('|', Columns)}";

    /// <summary>The position of a column, or -1.</summary>
    public int Position(int columnId) => positions.GetValueOrDefault(columnId, -1);

    /// <summary>The column of an id.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public Column Column(int columnId) =>
        Position(columnId) is >= 0 and var at ? Columns[at] : throw new NotFoundException("This column is no longer in the list.");

    /// <summary>Computes a row's computed columns in place; what could not be computed is answered.</summary>
    public List<(int Column, string Message)> Compute(long recipientId, string?[] values) =>
        Computed.Compute(values, set => details.Rows(recipientId, set));

    /// <summary>A filter over this list.</summary>
    /// <exception cref="ConflictException">It has a mistake.</exception>
    public Filter Filter(string text) =>
        Core.Formulas.Filter.Parse(text, Columns, Surroundings.Today, Surroundings.Locale, out var errors, Details)
        ?? throw new ConflictException($"The filter cannot be used: {errors[0].Message}");
}

/// <summary>Reads the detail rows of one recipient after another.</summary>
public sealed class DetailReader
{
    readonly Dictionary<int, (SqliteCommand Command, int Width)> commands = [];
    (long Recipient, int Set, IReadOnlyList<IRow> Rows) last = (-1, -1, []);

    /// <summary>Prepares for the sets that will be asked for.</summary>
    public DetailReader(SqliteConnection c, IReadOnlyList<DetailSet> sets, IReadOnlyList<int> wanted)
    {
        foreach (var set in wanted)
        {
            var command = c.CreateCommand();
            command.CommandText =
                $"SELECT {string.Join(", ", sets[set].Columns.Select(x => RowTable.Cell(x.Id)))} FROM "
                + $"{DetailStore.Table(sets[set].Id)} WHERE recipient_id = $id ORDER BY n";
            command.Parameters.Add("$id", SqliteType.Integer);
            commands[set] = (command, sets[set].Columns.Count);
        }
    }

    /// <summary>A recipient's rows of a set, in the order of the file.</summary>
    public IReadOnlyList<IRow> Rows(long recipientId, int set)
    {
        if (last.Recipient == recipientId && last.Set == set)
            return last.Rows;
        if (!commands.TryGetValue(set, out var wanted))
            return [];
        wanted.Command.Parameters[0].Value = recipientId;
        var rows = new List<IRow>();
        using var reader = wanted.Command.ExecuteReader();
        while (reader.Read())
            rows.Add(new ArrayRow(RowTable.Cells(reader, 0, wanted.Width)));
        last = (recipientId, set, rows);
        return rows;
    }
}
