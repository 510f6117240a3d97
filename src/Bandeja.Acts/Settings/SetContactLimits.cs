using Bandeja.Core.Contact;
using Bandeja.Store;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Settings;

/// <summary>How much mail somebody gets at most; empty for no limit.</summary>
public sealed record NewContactLimits(IReadOnlyList<ContactLimit> Limits);

/// <summary>Sets how much mail somebody gets at most, over all lists and campaigns.</summary>
[Act("settings.contact-limits", Permission.Settings, "Changed the contact limits")]
public sealed class SetContactLimits(SettingStore settings) : Act<NewContactLimits>
{
    const int Most = 6;

    /// <inheritdoc/>
    protected override void Carry(NewContactLimits order, Deed deed)
    {
        if (order.Limits.Count > Most)
            throw new BadInputException($"There can be {Most} contact limits.");
        if (order.Limits.Select(l => l.Objection).FirstOrDefault(o => o is not null) is { } objection)
            throw new BadInputException(objection);
        settings.SetContactLimits(order.Limits);
        deed.To(Matter.Settings, 0);
    }
}
