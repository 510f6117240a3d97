using Bandeja.Core.Formulas;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Store;

namespace Bandeja.Acts.Lists;

/// <summary>Values as people type them, for the columns of a list. One that does not fit its column is refused; among many it is kept
/// as it is and counted, to be shown among the checks.</summary>
sealed class TypedCells(IReadOnlyList<Column> columns, OrganizationLocale locale, bool isLenient)
{
    /// <summary>How many characters a value can have.</summary>
    public const int Longest = 100_000;

    readonly Dictionary<int, Column> byId = columns.ToDictionary(c => c.Id);

    /// <summary>How many values did not fit so far.</summary>
    public int Misfits { get; private set; }

    /// <summary>A column of the list.</summary>
    public Column this[int columnId] =>
        byId.GetValueOrDefault(columnId) ?? throw new NotFoundException("This column is no longer in the list.");

    /// <summary>The canonical form of a typed value.</summary>
    public string? Read(int columnId, string? value)
    {
        if (value?.Length > Longest)
            throw new BadInputException($"A value can have {Longest:N0} characters.");
        if (TypedValue.Read(this[columnId], value, locale, out var canonical) is not { } problem)
            return canonical;
        if (!isLenient)
            throw new BadInputException(problem);
        Misfits++;
        return canonical;
    }

    /// <summary>Says of an outcome what did not fit.</summary>
    public ActOutcome Of(ActOutcome outcome) =>
        Misfits switch
        {
            0 => outcome,
            1 => outcome with { Skipped = ["1 value does not match its column type. It was kept as is and is listed under Checks."] },
            _ => outcome with
            {
                Skipped = [$"{Misfits:N0} values do not match their column types. They were kept as is and are listed under Checks."],
            },
        };
}
