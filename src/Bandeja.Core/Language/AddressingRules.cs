using Bandeja.Core.Addressing;

namespace Bandeja.Core.Language;

/// <summary>How an organization addresses and greets.</summary>
/// <param name="CountryLine">When the country stands on an address's last line.</param>
/// <param name="Ladders">The salutations' forms.</param>
public sealed record AddressingRules(CountryLine CountryLine, SalutationLadders Ladders)
{
    /// <summary>What holds until something else is set.</summary>
    public static readonly AddressingRules First = new(CountryLine.Abroad, SalutationLadders.First);
}
