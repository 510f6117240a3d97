namespace Bandeja.Core.Lists;

/// <summary>A recipient's values, by position of their column. Null is blank.</summary>
public interface IRow
{
    /// <summary>The canonical text of a column's value, or null where it is blank.</summary>
    string? this[int column] { get; }

    /// <summary>The recipient's rows of a set of detail rows, by the set's position.</summary>
    IReadOnlyList<IRow> Details(int set) => [];

    /// <summary>Whose values they are; 0 where that is nobody on a list.</summary>
    long Recipient => 0;
}

/// <summary>A row held in memory.</summary>
/// <param name="values">Its values.</param>
/// <param name="details">Finds its detail rows by the set's position, where they are wanted.</param>
/// <param name="recipient">Whose values they are; 0 for nobody.</param>
public sealed class ArrayRow(string?[] values, Func<int, IReadOnlyList<IRow>>? details = null, long recipient = 0) : IRow
{
    /// <inheritdoc/>
    public long Recipient => recipient;

    /// <inheritdoc/>
    public IReadOnlyList<IRow> Details(int set) => details?.Invoke(set) ?? [];

    /// <inheritdoc/>
    public string? this[int column] => column < values.Length ? values[column] : null;
}
