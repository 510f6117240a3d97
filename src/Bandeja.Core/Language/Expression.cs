using System.Globalization;

namespace Bandeja.Core.Language;

/// <summary>An expression of the field language. <c>ToString</c> writes it so that it parses to the same expression.</summary>
public abstract record Expression
{
    /// <summary>The expressions it is made of.</summary>
    public virtual IEnumerable<Expression> Parts() => [];

    /// <summary>The positions of the columns it reads.</summary>
    public virtual IEnumerable<int> Columns() => Parts().SelectMany(p => p.Columns());

    /// <summary>The positions of the sets of detail rows it reads.</summary>
    public virtual IEnumerable<int> DetailSets() => Parts().SelectMany(p => p.DetailSets());

    /// <summary>True where a date is written in it.</summary>
    public bool HasDates() => this is Literal { Value.Kind: ValueKind.Date } || Parts().Any(p => p.HasDates());

    /// <summary>True where its value changes from one day to the next.</summary>
    public virtual bool ReadsToday => Parts().Any(p => p.ReadsToday);

    /// <summary>Strength of binding, used to write brackets only where they are needed.</summary>
    internal virtual int Level => Levels.Primary;

    /// <summary>Writes an operand, in brackets where it binds less than <paramref name="atLeast"/>.</summary>
    internal string Operand(int atLeast) => Level < atLeast ? $"({this})" : ToString()!;
}

static class Levels
{
    public const int Piped = 0,
        Or = 1,
        And = 2,
        Not = 3,
        Compare = 4,
        Join = 5,
        Add = 6,
        Multiply = 7,
        Negate = 8,
        Primary = 9;
}

/// <summary>Text in double quotes, a number, a date (written ISO 8601), or yes/no.</summary>
public sealed record Literal(Value Value) : Expression
{
    /// <inheritdoc/>
    public override string ToString() =>
        Value.Kind switch
        {
            ValueKind.Text => Quote(Value.Text),
            ValueKind.YesNo => Value.Bool ? "yes" : "no",
            ValueKind.Date => Value.ToString(),
            _ => Value.Number.ToString(CultureInfo.InvariantCulture),
        };

    internal static string Quote(string text) => "\"" + text.Replace("\\", "\\\\").Replace("\"", "\\\"") + "\"";
}

/// <summary>A column, by its position; <paramref name="Name"/> is its heading.</summary>
public sealed record ColumnReference(int Index, string Name) : Expression
{
    /// <inheritdoc/>
    public override IEnumerable<int> Columns() => [Index];

    /// <inheritdoc/>
    public override string ToString() => $"`{Name}`";
}

/// <summary>The values that every recipient has without a column.</summary>
public enum BuiltIn
{
    /// <summary>The day the piece is produced.</summary>
    Today,

    /// <summary>The recipient's number within the drop.</summary>
    PieceNumber,

    /// <summary>The lines of the recipient's address, from the columns' roles.</summary>
    DeliveryAddress,

    /// <summary>How the recipient is greeted, from the columns' roles.</summary>
    Salutation,

    /// <summary>The organization's name.</summary>
    Sender,

    /// <summary>Within <c>each</c>: which row it is, from 1.</summary>
    RowNumber,

    /// <summary>In a header or footer: which page of the letter it is, from 1.</summary>
    PageNumber,

    /// <summary>In a header or footer: how many pages the letter has.</summary>
    PageCount,

    /// <summary>How many lines the delivery address has.</summary>
    AddressLines,

    /// <summary>The longest line of the delivery address.</summary>
    LongestAddressLine,

    /// <summary>Title, given, middle and family name, suffix.</summary>
    NameInFull,

    /// <summary>Given and family name, in the order of the recipient's language.</summary>
    GivenAndFamilyName,

    /// <summary>Title and family name.</summary>
    TitleAndFamilyName,

    /// <summary>The family name first, with a comma.</summary>
    FamilyNameFirst,

    /// <summary>Both people of a household, or the one.</summary>
    HouseholdName,
}

/// <summary>A built-in value.</summary>
public sealed record BuiltInReference(BuiltIn Which) : Expression
{
    /// <inheritdoc/>
    public override bool ReadsToday => Which == BuiltIn.Today;

    /// <inheritdoc/>
    public override string ToString() => Names.Of(Which);
}

/// <summary>A name that is neither a column nor built in. It never evaluates: the parse has an error for it.</summary>
public sealed record UnknownName(string Name) : Expression
{
    /// <inheritdoc/>
    public override string ToString() => $"`{Name}`";
}

/// <summary>Detail rows that the list does not have. It never evaluates: the parse has an error for it.</summary>
public sealed record UnknownRows(string Name) : Expression
{
    /// <inheritdoc/>
    public override string ToString() => $"`{Name}`";
}

/// <summary>A field with a mistake in it. It never evaluates, and prints nothing: neither as it was typed nor in part.</summary>
public sealed record Broken(string Source) : Expression
{
    /// <inheritdoc/>
    public override string ToString() => Source;
}

/// <summary>Minus.</summary>
public sealed record Negation(Expression Inner) : Expression
{
    /// <inheritdoc/>
    public override IEnumerable<Expression> Parts() => [Inner];

    internal override int Level => Levels.Negate;

    /// <inheritdoc/>
    public override string ToString() => $"-{Inner.Operand(Levels.Negate)}";
}

/// <summary>Not.</summary>
public sealed record LogicalNot(Expression Inner) : Expression
{
    /// <inheritdoc/>
    public override IEnumerable<Expression> Parts() => [Inner];

    internal override int Level => Levels.Not;

    /// <inheritdoc/>
    public override string ToString() => $"not {Inner.Operand(Levels.Not)}";
}

/// <summary>The operators between two expressions.</summary>
public enum Operator
{
    Add,
    Subtract,
    Multiply,
    Divide,
    Join,
    Equal,
    NotEqual,
    Less,
    LessOrEqual,
    Greater,
    GreaterOrEqual,
    And,
    Or,
    Contains,
    StartsWith,
    EndsWith,
}

/// <summary>Two expressions and an operator.</summary>
public sealed record Binary(Operator Operator, Expression Left, Expression Right) : Expression
{
    static readonly string[] Signs =
    [
        "+",
        "-",
        "*",
        "/",
        "&",
        "=",
        "<>",
        "<",
        "<=",
        ">",
        ">=",
        "and",
        "or",
        "contains",
        "starts with",
        "ends with",
    ];

    /// <inheritdoc/>
    public override IEnumerable<Expression> Parts() => [Left, Right];

    internal override int Level =>
        Operator switch
        {
            Operator.Add or Operator.Subtract => Levels.Add,
            Operator.Multiply or Operator.Divide => Levels.Multiply,
            Operator.Join => Levels.Join,
            Operator.And => Levels.And,
            Operator.Or => Levels.Or,
            _ => Levels.Compare,
        };

    /// <inheritdoc/>
    public override string ToString()
    {
        var left = Left.Operand(Level == Levels.Compare ? Levels.Compare + 1 : Level);
        return $"{left} {Signs[(int)Operator]} {Right.Operand(Level + 1)}";
    }
}

/// <summary><c>is blank</c>, or with <paramref name="Not"/> <c>is not blank</c>.</summary>
public sealed record BlankTest(Expression Inner, bool Not) : Expression
{
    /// <inheritdoc/>
    public override IEnumerable<Expression> Parts() => [Inner];

    internal override int Level => Levels.Compare;

    /// <inheritdoc/>
    public override string ToString() => $"{Inner.Operand(Levels.Compare + 1)} is {(Not ? "not " : "")}blank";
}

/// <summary><c>is one of (a, b, c)</c>.</summary>
public sealed record OneOf(Expression Inner, EquatableList<Expression> Choices) : Expression
{
    /// <inheritdoc/>
    public override IEnumerable<Expression> Parts() => [Inner, .. Choices];

    internal override int Level => Levels.Compare;

    /// <inheritdoc/>
    public override string ToString() =>
        $"{Inner.Operand(Levels.Compare + 1)} is one of ({string.Join(", ", Choices.Select(c => c.Operand(Levels.Join)))})";
}

/// <summary><c>between a and b</c>, both included.</summary>
public sealed record Between(Expression Inner, Expression Low, Expression High) : Expression
{
    /// <inheritdoc/>
    public override IEnumerable<Expression> Parts() => [Inner, Low, High];

    internal override int Level => Levels.Compare;

    /// <inheritdoc/>
    public override string ToString() =>
        $"{Inner.Operand(Levels.Compare + 1)} between {Low.Operand(Levels.Compare + 1)} and {High.Operand(Levels.Compare + 1)}";
}

/// <summary>A function and what stands in its brackets: <c>left(City, 3)</c>.</summary>
public sealed record Call(Function Function, EquatableList<Expression> Arguments) : Expression
{
    /// <inheritdoc/>
    public override IEnumerable<Expression> Parts() => Arguments;

    /// <inheritdoc/>
    public override bool ReadsToday => Function.Name == "age" || base.ReadsToday;

    /// <inheritdoc/>
    public override string ToString() => $"{Function.Name}({string.Join(", ", Arguments.Select(a => a.Operand(Levels.Or)))})";
}

/// <summary>The detail rows of a recipient, or one of their columns, within a function that sums them up: <c>count(Gifts)</c>,
/// <c>sum(Gifts.Amount)</c>.</summary>
/// <param name="Set">Position among the list's sets of detail rows.</param>
/// <param name="Column">Position of the column, or -1 for the rows themselves.</param>
/// <param name="Name">The set's name, with the column's heading after a full stop.</param>
public sealed record DetailReference(int Set, int Column, string Name) : Expression
{
    /// <inheritdoc/>
    public override IEnumerable<int> DetailSets() => [Set];

    /// <inheritdoc/>
    public override string ToString() =>
        Column < 0 ? $"`{Name}`" : $"`{Name[..Name.IndexOf('\u001f')]}`.`{Name[(Name.IndexOf('\u001f') + 1)..]}`";
}

/// <summary>A column of the row that <c>each</c> stands at.</summary>
/// <param name="Set">Position among the list's sets of detail rows.</param>
/// <param name="Column">Position of the column within the set.</param>
/// <param name="Name">The column's heading.</param>
public sealed record RowValueReference(int Set, int Column, string Name) : Expression
{
    /// <inheritdoc/>
    public override IEnumerable<int> DetailSets() => [Set];

    /// <inheritdoc/>
    public override string ToString() => $"`{Name}`";
}

/// <summary>A value and a format: <c>Amount due | money 0</c>.</summary>
public sealed record Formatted(Expression Inner, Format Format, string? Argument) : Expression
{
    /// <inheritdoc/>
    public override IEnumerable<Expression> Parts() => [Inner];

    internal override int Level => Levels.Piped;

    /// <inheritdoc/>
    public override string ToString()
    {
        var argument =
            Argument is null ? ""
            : Format == Format.Else || Format == Format.Date && Argument is not ("long" or "short") ? " " + Literal.Quote(Argument)
            : " " + Argument;
        return $"{Inner} | {Format.ToString().ToLowerInvariant()}{argument}";
    }
}

/// <summary>The formats that can stand after a bar.</summary>
public enum Format
{
    Else,
    Money,
    Number,
    Percent,
    Date,
    Ordinal,
    Words,
    Check,
    Phone,
    Upper,
    Lower,
    Title,
    Trim,
}

/// <summary>A list that equals another with equal members, so that expressions compare by what they say.</summary>
public sealed class EquatableList<T>(IReadOnlyList<T> items) : IReadOnlyList<T>, IEquatable<EquatableList<T>>
{
    /// <inheritdoc/>
    public T this[int index] => items[index];

    /// <inheritdoc/>
    public int Count => items.Count;

    /// <inheritdoc/>
    public IEnumerator<T> GetEnumerator() => items.GetEnumerator();

    System.Collections.IEnumerator System.Collections.IEnumerable.GetEnumerator() => GetEnumerator();

    /// <inheritdoc/>
    public bool Equals(EquatableList<T>? other) => other is not null && this.SequenceEqual(other);

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as EquatableList<T>);

    /// <inheritdoc/>
    public override int GetHashCode() => Count == 0 ? 0 : HashCode.Combine(Count, this[0]);
}
