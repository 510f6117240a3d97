using System.Text;

namespace Bandeja.Core.Lists;

/// <summary>What the values of a column are. Values are stored as text in the canonical form of their type.</summary>
public enum ColumnType
{
    /// <summary>Anything, exactly as it came. Postal codes, telephones and member numbers are text.</summary>
    Text,

    /// <summary>A decimal number, canonical form <c>-1234.50</c> (invariant, no grouping).</summary>
    Number,

    /// <summary>A calendar date, canonical form ISO 8601 <c>yyyy-MM-dd</c>.</summary>
    Date,

    /// <summary>Canonical form <c>yes</c> or <c>no</c>.</summary>
    YesNo,
}

/// <summary>One column of a list.</summary>
/// <param name="Id">Identity that survives renaming; unique within its list.</param>
/// <param name="Name">The heading, unique within its list without regard to case.</param>
/// <param name="Type">How its values are typed.</param>
/// <param name="Role">Its meaning, where known.</param>
/// <param name="Kind">Where its values come from.</param>
/// <param name="Expression">For a computed column: what it is computed by, in the field language.</param>
/// <param name="Format">For numbers: how they print where a field names no format, see <see cref="UsualFormat"/>; null prints them as they
/// are stored.</param>
public sealed record Column(
    int Id,
    string Name,
    ColumnType Type,
    Role Role,
    ColumnKind Kind = ColumnKind.Source,
    string? Expression = null,
    string? Format = null
)
{
    // What a drop was checked and signed off for is kept as text, in which columns stand so. One without a format stands as it did before
    // columns had any: nothing lapses because of that.
    bool PrintMembers(StringBuilder text)
    {
        text.Append($"Id = {Id}, Name = {Name}, Type = {Type}, Role = {Role}, Kind = {Kind}, Expression = {Expression}");
        if (Format is not null)
            text.Append($", Format = {Format}");
        return true;
    }
}

/// <summary>Where the values of a column come from.</summary>
public enum ColumnKind
{
    /// <summary>The file that the list was brought in from.</summary>
    Source,

    /// <summary>Made here and filled by hand: a mark, a note. Loading the list again leaves it alone.</summary>
    Hand,

    /// <summary>Computed from the other columns.</summary>
    Computed,
}

/// <summary>Rows of a second table that belong to recipients: a member's gifts, a customer's visits.</summary>
/// <param name="Id">Its identity.</param>
/// <param name="Name">What it is called in expressions.</param>
/// <param name="Columns">Its columns.</param>
public sealed record DetailSet(long Id, string Name, IReadOnlyList<Column> Columns);
