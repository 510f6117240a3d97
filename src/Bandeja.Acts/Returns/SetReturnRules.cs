using Bandeja.Core.Returns;
using Bandeja.Store;

namespace Bandeja.Acts.Returns;

/// <summary>What follows from a return, by its reason; a reason that is not named keeps its rule.</summary>
public sealed record ReturnRules(IReadOnlyDictionary<ReturnReason, ReturnFollowUp> Rules);

/// <summary>Says what follows from a return, by its reason.</summary>
[Act("return.rules", Permission.Settings, "Set what follows from returns")]
public sealed class SetReturnRules(SettingStore settings) : Act<ReturnRules>
{
    /// <inheritdoc/>
    protected override void Carry(ReturnRules order, Deed deed) => settings.SetReturnRules(order.Rules);
}
