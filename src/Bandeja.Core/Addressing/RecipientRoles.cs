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

    /// <summary>The value of a role, trimmed; empty where it is blank or the list has no such column. A ZIP Code has its add-on from
    /// another column: 97412-0012.</summary>
    public string Of(IRow row, Role role)
    {
        if (role == Role.PostalCode && Has(Role.PostalCodeAddOn))
            return ZipPlusFour(Cell(row, role), Cell(row, Role.PostalCodeAddOn));
        return Cell(row, role);
    }

    /// <summary>Spreadsheets drop the zeros with which an add-on begins; whatever is none is left out, as the mail arrives without
    /// it (USPS Publication 28, 212).</summary>
    static string ZipPlusFour(string code, string addOn) =>
        code.Length == 5
        && code.All(char.IsAsciiDigit)
        && addOn.Length is >= 1 and <= 4
        && addOn.All(char.IsAsciiDigit)
        && addOn.AsSpan().ContainsAnyExcept('0')
            ? $"{code}-{addOn.PadLeft(4, '0')}"
            : code;

    string Cell(IRow row, Role role)
    {
        var at = positions[(int)role];
        return at < 0 || row[at] is not { } value ? ""
            : value.Length > 0 && (char.IsWhiteSpace(value[0]) || char.IsWhiteSpace(value[^1])) ? value.Trim()
            : value;
    }
}
