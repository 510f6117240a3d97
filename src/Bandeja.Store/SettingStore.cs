using Bandeja.Core.Language;
using Dapper;

namespace Bandeja.Store;

/// <summary>What is set for the organisation.</summary>
public sealed record Organisation(string Name, string Locale, string Currency)
{
    /// <summary>How it writes numbers and dates.</summary>
    public OrganisationLocale ToLocale() => new(Locale, Currency);
}

/// <summary>Settings as keys and values.</summary>
public sealed class SettingStore(Database database)
{
    /// <summary>The organisation; what was never set has its first value.</summary>
    public Organisation Organisation()
    {
        using var c = database.Open();
        var all = c.Query<(string Key, string Value)>("SELECT key, value FROM setting").ToDictionary(s => s.Key, s => s.Value);
        return new(all.GetValueOrDefault("organisation", ""), all.GetValueOrDefault("locale", "en-US"), all.GetValueOrDefault("currency", "USD"));
    }

    /// <summary>Sets the organisation.</summary>
    public void Set(Organisation organisation) => database.Write(c => c.Execute("INSERT INTO setting VALUES (@Key, @Value) ON CONFLICT (key) DO UPDATE SET value = excluded.value",
        new[] { new { Key = "organisation", Value = organisation.Name }, new { Key = "locale", Value = organisation.Locale }, new { Key = "currency", Value = organisation.Currency } }));
}
