using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;
using Bandeja.Store;
using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Lists;

/// <summary>A list to be typed by hand.</summary>
public sealed record NewList(string Name, IReadOnlyList<NewColumn> Columns);

/// <summary>A column to make. With an expression it is computed.</summary>
public sealed record NewColumn(string Name, ColumnType Type = ColumnType.Text, Role Role = Role.None, string? Expression = null);

/// <summary>Starts a list that is typed by hand; answers its id.</summary>
[Act("list.start", Permission.Lists, "Started a list")]
public sealed class StartList(Database database, ListWork work) : Act<NewList, long>
{
    const int MostColumns = 1900;

    /// <inheritdoc/>
    protected internal override long Do(NewList order, Deed deed)
    {
        var name = Given.Name(order.Name, "list");
        var headings = Headings.Clean([.. order.Columns.Select(c => c.Name)]).Names;
        if (headings.Count is 0 or > MostColumns)
            throw new BadInputException($"A list has 1 to {MostColumns:N0} columns.");
        IReadOnlyList<Column> columns = [.. order.Columns.Select((c, i) => new Column(i + 1, headings[i], c.Type, c.Role))];
        var writer = new RowWriter(database, name, null, null, columns, deed.Actor);
        writer.Finish([], null);
        work.Check(writer.ListId);
        deed.Says($"Started the list “{name}”");
        deed.Changed(Matter.List, writer.ListId);
        return writer.ListId;
    }
}
