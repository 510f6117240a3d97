namespace Bandeja.Core.Language;

/// <summary>
/// What evaluating one field may cost: so many steps, and so many characters written on the way. Both are charged before the work is done,
/// so
/// that a few words of an expression never ask for hours or gigabytes. One budget serves one thread.
/// </summary>
public sealed class EvaluationBudget
{
    /// <summary>Steps of a field: an operation each, and one for each detail row that is looked at.</summary>
    public const long MostSteps = 1_000_000;

    /// <summary>Characters that a field may write on the way to its result, together.</summary>
    public const long MostCharacters = 10_000_000;

    long steps,
        characters;
    int depth;
    bool told;

    /// <summary>True once a field has asked for more than there is; what is left of it comes to nothing.</summary>
    public bool IsSpent => steps > MostSteps || characters > MostCharacters;

    /// <summary>Begins with a recipient, whatever went on before.</summary>
    internal void Reset() => (depth, steps, characters, told) = (0, 0, 0, false);

    /// <summary>Enters an expression; the outermost one has a budget of its own.</summary>
    internal void Enter()
    {
        if (depth++ == 0)
            (steps, characters, told) = (0, 0, false);
        steps++;
    }

    internal void Leave() => depth--;

    /// <summary>Takes steps.</summary>
    /// <returns>False where there are not so many left: the work must not be done.</returns>
    internal bool TakeSteps(long n)
    {
        steps += n;
        return !IsSpent;
    }

    /// <summary>Takes characters.</summary>
    /// <inheritdoc cref="TakeSteps"/>
    internal bool TakeCharacters(long n)
    {
        characters += n;
        return !IsSpent;
    }

    /// <summary>Says that the field costs too much.</summary>
    /// <returns>True the first time.</returns>
    internal bool Tell() => !told && (told = true);
}
