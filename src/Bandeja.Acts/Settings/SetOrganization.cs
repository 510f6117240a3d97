using Bandeja.Core.Language;
using Bandeja.Store;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Settings;

/// <summary>Sets the organization's name, addresses, locale, and currency.</summary>
[Act("settings.organization", Permission.Settings, "Changed the organization")]
public sealed class SetOrganization(SettingStore settings) : Act<Organisation>
{
    /// <inheritdoc/>
    protected override void Carry(Organisation order, Deed deed)
    {
        if (!OrganisationLocale.Known.Contains(order.Locale))
            throw new BadInputException($"“{order.Locale}” is not a known number and date format.");
        if (order.Currency is not { Length: 3 } currency || !currency.All(char.IsAsciiLetterUpper))
            throw new BadInputException("The currency must be a three-letter code in capitals, such as USD.");
        settings.Set(order with { Name = order.Name.Trim() });
        deed.Changed(Matter.Settings);
    }
}
