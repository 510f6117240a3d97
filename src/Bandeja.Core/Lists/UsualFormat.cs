using System.Collections.Frozen;
using System.Globalization;

namespace Bandeja.Core.Lists;

/// <summary>What stands with a printed number.</summary>
public enum NumberLook
{
    /// <summary>Nothing but what divides thousands.</summary>
    Number,

    /// <summary>The organization's currency.</summary>
    Money,

    /// <summary>A percent sign; 0.125 is 12.5%.</summary>
    Percent,
}

/// <summary>
/// How the numbers of a column print where a field names no format. It is written as a format of the field language is (<c>money</c>,
/// <c>money 0</c>, <c>number 2</c>, <c>percent</c>), but cuts nothing off: a value with more decimals prints them, so that no amount is
/// rounded without anybody having asked for it.
/// </summary>
/// <param name="Decimals">The fewest decimals. Money that has any has at least two.</param>
public sealed record UsualFormat(NumberLook Look, int Decimals)
{
    /// <summary>The most decimals that can be asked for.</summary>
    public const int MostDecimals = 6;

    static readonly FrozenDictionary<string, UsualFormat> Known = Enum.GetValues<NumberLook>()
        .SelectMany(look => Enumerable.Range(0, MostDecimals + 1).Select(decimals => new UsualFormat(look, decimals)))
        .ToFrozenDictionary(f => f.ToString());

    static int Unsaid(NumberLook look) => look == NumberLook.Money ? 2 : 0;

    /// <summary>Reads a format as it is written; null where there is none, or it is not one that a column can have.</summary>
    public static UsualFormat? Of(string? written) => written is null ? null : Known.GetValueOrDefault(written);

    /// <inheritdoc/>
    public override string ToString()
    {
        var word = Look.ToString().ToLowerInvariant();
        return Decimals == Unsaid(Look) ? word : string.Create(CultureInfo.InvariantCulture, $"{word} {Decimals}");
    }
}
