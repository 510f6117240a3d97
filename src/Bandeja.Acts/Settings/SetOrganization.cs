using Bandeja.Core.Language;
using Bandeja.Core.Mail;
using Bandeja.Core.Places;
using Bandeja.Store;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Settings;

/// <summary>Sets the organization's name, addresses, locale, and currency.</summary>
[Act("settings.organization", Permission.Settings, "Changed the organization")]
public sealed class SetOrganization(SettingStore settings) : Act<Organization>
{
    /// <inheritdoc/>
    protected override void Carry(Organization order, Deed deed)
    {
        if (!OrganizationLocale.Known.Contains(order.Locale))
            throw new BadInputException($"“{order.Locale}” is not a known number and date format.");
        if (order.Currency is not { Length: 3 } currency || !currency.All(char.IsAsciiLetterUpper))
            throw new BadInputException("The currency must be a three-letter code in capitals, such as USD.");
        if (order.Country.Length > 0 && Countries.Named(order.Country)?.Code != order.Country)
            throw new BadInputException($"“{order.Country}” is not a two-letter country code.");
        if (order.TimeZone.Length > 0 && !TimeZoneInfo.TryFindSystemTimeZoneById(order.TimeZone, out _))
            throw new BadInputException($"“{order.TimeZone}” is not a known time zone. Use a name such as America/New_York.");
        if (order.Email.Trim() is { Length: > 0 } email && MailAddresses.One(email) is null)
            throw new BadInputException($"“{email}” is not an email address.");
        settings.Set(
            order with
            {
                Name = order.Name.Trim(),
                Signer = order.Signer.Trim(),
                SignerTitle = order.SignerTitle.Trim(),
                Email = order.Email.Trim(),
            }
        );
        deed.Changed(Matter.Settings);
    }
}
