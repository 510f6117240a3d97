using Bandeja.Core.Drops;
using Bandeja.Store;

namespace Bandeja.Acts;

/// <summary>Texts that people give with an order.</summary>
static class Given
{
    const int LongestName = 120,
        LongestReason = 500,
        LongestCondition = 4000;

    /// <summary>A name without spaces around it, cut where it is too long.</summary>
    /// <exception cref="BadInputException">It is blank.</exception>
    public static string Name(string? text, string what) =>
        string.IsNullOrWhiteSpace(text)
            ? throw new BadInputException($"Enter a name for the {what}.")
            : text.Trim()[..Math.Min(text.Trim().Length, LongestName)];

    /// <summary>A reason or a note without spaces around it; null where there is none.</summary>
    /// <exception cref="BadInputException">It is too long.</exception>
    public static string? Reason(string? text, string what = "reason") =>
        text?.Length > LongestReason ? throw new BadInputException($"A {what} can have {LongestReason} characters.")
        : string.IsNullOrWhiteSpace(text) ? null
        : text.Trim();

    /// <summary>A condition without spaces around it; empty for none.</summary>
    /// <exception cref="BadInputException">It is too long.</exception>
    public static string Condition(string? text) =>
        text?.Length > LongestCondition
            ? throw new BadInputException($"A condition can have {LongestCondition:N0} characters.")
            : (text ?? "").Trim();

    /// <summary>Piece numbers and ranges of them, such as <c>1-300, 312</c>; null for nothing said.</summary>
    /// <exception cref="BadInputException">It cannot be read.</exception>
    public static PieceRange? Pieces(string? text) =>
        text is null ? null : PieceRange.Parse(text, out var error) ?? throw new BadInputException(error!);

    /// <summary>How many recipients, in words.</summary>
    public static string Recipients(int count) => count == 1 ? "1 recipient" : $"{count:N0} recipients";
}
