using Bandeja.Core.Lists;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Store.People;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Returns;

/// <summary>The addresses that a person has on other lists: where they moved from the one that a piece came back from, a new address
/// belongs there, too.</summary>
static class AddressElsewhere
{
    /// <summary>The same person on other lists, with whether their address there is the one of this list.</summary>
    public static IReadOnlyList<OtherAddress> Of(
        SqliteConnection c,
        IReadOnlyList<Column> columns,
        IReadOnlyList<string?> values,
        long recipientId
    ) =>
        [
            .. PeopleStore
                .Others(c, recipientId)
                .Where(o => o.OnTheList)
                .Select(o =>
                {
                    var there = RowTable.Columns(c, o.ListId);
                    var at = PieceFinder.Values(c, there, o.ListId, o.RecipientId);
                    return new OtherAddress(o, IsSame(columns, values, there, at), PieceFinder.Open(c, o.RecipientId, o.ListId, but: null));
                }),
        ];

    /// <summary>What a new address changes on another list, where its columns have the same roles; and the column that is missing there,
    /// or is computed, and then nothing is changed.</summary>
    /// <param name="address">The new cells, by the column's id of the list that they were typed for.</param>
    public static (IReadOnlyList<CellEdit> Edits, string? Missing) Edits(
        SqliteConnection c,
        IReadOnlyList<Column> columns,
        IReadOnlyDictionary<int, string?> address,
        PersonOnList other
    )
    {
        var there = RowTable.Columns(c, other.ListId);
        var edits = new List<CellEdit>();
        foreach (var (id, value) in address)
        {
            var column = columns.First(x => x.Id == id);
            var text = string.IsNullOrWhiteSpace(value) ? null : value.Trim();
            if (there.FirstOrDefault(x => x.Role == column.Role) is { Kind: not ColumnKind.Computed } same)
                edits.Add(new(other.RecipientId, same.Id, text));
            else if (text is not null)
                return ([], column.Name);
        }
        return (edits, null);
    }

    /// <summary>Says that a new address could not go to another list, and what to do.</summary>
    public static string Kept(PersonOnList other, string missing) =>
        $"The old address stays on “{other.ListName}”: that list has no editable column for {missing}. Correct it there.";

    /// <summary>Whether two rows have the same address, however it is written: capitals, punctuation, and a ZIP+4 make no difference.
    /// A part that one of the lists has no column for must be blank in the other; the country need not be.</summary>
    static bool IsSame(IReadOnlyList<Column> columns, IReadOnlyList<string?> values, IReadOnlyList<Column> there, IReadOnlyList<string?> at)
    {
        var (here, other) = (Parts(columns, values), Parts(there, at));
        string Of(Dictionary<Role, string> parts, Role role) => parts.GetValueOrDefault(role, "");
        var isWhole =
            Of(here, Role.WholeAddress).Length > 0
            || Of(here, Role.Street).Length > 0 && (Of(here, Role.PostalCode).Length > 0 || Of(here, Role.City).Length > 0);
        return isWhole
            && PieceFinder.AddressRoles.All(role =>
                role switch
                {
                    Role.Country when !here.ContainsKey(role) || !other.ContainsKey(role) => true,
                    Role.PostalCode => Begins(Of(here, role), Of(other, role)) || Begins(Of(other, role), Of(here, role)),
                    _ => Of(here, role) == Of(other, role),
                }
            );
    }

    static bool Begins(string whole, string part) =>
        (part.Length > 0 || whole.Length == 0) && whole.StartsWith(part, StringComparison.Ordinal);

    static Dictionary<Role, string> Parts(IReadOnlyList<Column> columns, IReadOnlyList<string?> values)
    {
        var parts = new Dictionary<Role, string>();
        for (var i = 0; i < columns.Count; i++)
            if (PieceFinder.AddressRoles.Contains(columns[i].Role))
                parts.TryAdd(columns[i].Role, string.Concat((values[i] ?? "").Where(char.IsLetterOrDigit)).ToUpperInvariant());
        return parts;
    }
}
