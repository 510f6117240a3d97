using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;
using Bandeja.Store;
using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Lists;

/// <summary>A list to be typed by hand.</summary>
public sealed record NewList(string Name, IReadOnlyList<NewColumn> Columns);

/// <summary>A column to make. With an expression it is computed.</summary>
/// <param name="Format">How its numbers print where a field names no format; what is computed prints as the columns do that it is computed
/// from.</param>
public sealed record NewColumn(
    string Name,
    ColumnType Type = ColumnType.Text,
    Role Role = Role.None,
    string? Expression = null,
    string? Format = null
);

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
        if (order.Columns.FirstOrDefault(c => c.Format is not null && UsualFormat.Of(c.Format) is null) is { } odd)
            throw new BadInputException($"“{odd.Format}” is not a format that the numbers of a column can have.");
        IReadOnlyList<Column> columns =
        [
            .. order.Columns.Select((c, i) => new Column(i + 1, headings[i], c.Type, c.Role, Format: c.Format)),
        ];
        var writer = new RowWriter(database, name, null, null, columns, deed.Actor);
        writer.Finish([], null);
        work.Check(writer.ListId);
        deed.Says($"Started the list “{name}”");
        deed.Changed(Matter.List, writer.ListId);
        return writer.ListId;
    }
}
