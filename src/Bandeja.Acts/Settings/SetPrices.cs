using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Settings;

/// <summary>Sets what paper, envelopes, and postage weigh and cost.</summary>
[Act("settings.prices", Permission.Settings, "Changed the prices")]
public sealed class SetPrices(SettingStore settings) : Act<PriceTable>
{
    /// <inheritdoc/>
    protected override void Carry(PriceTable order, Deed deed)
    {
        if (order.Mistakes() is [var first, ..])
            throw new BadInputException(first);
        settings.SetPrices(order);
        deed.To(Matter.Settings, 0);
    }
}
