using Bandeja.Core.Lists;

namespace Bandeja.Core.Addressing;

/// <summary>Where a list has what names and addresses are made of: the first column of each role.</summary>
public sealed class RecipientRoles
{
    readonly int[] positions = new int[Enum.GetValues<Role>().Length];

    /// <summary>Looks through a list's columns once.</summary>
    public RecipientRoles(IReadOnlyList<Column> columns)
    {
        Array.Fill(positions, -1);
        for (var i = columns.Count - 1; i >= 0; i--)
            positions[(int)columns[i].Role] = i;
        positions[(int)Role.None] = -1;
    }

    /// <summary>True where the list has a column of the role.</summary>
    public bool Has(Role role) => positions[(int)role] >= 0;

    /// <summary>The value of a role, trimmed; empty where it is blank or the list has no such column.</summary>
    public string Of(IRow row, Role role)
    {
        var at = positions[(int)role];
        return at < 0 || row[at] is not { } value ? ""
            : value.Length > 0 && (char.IsWhiteSpace(value[0]) || char.IsWhiteSpace(value[^1])) ? value.Trim()
            : value;
    }
}
