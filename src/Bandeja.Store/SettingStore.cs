using System.Text.Json;
using Bandeja.Core.Addressing;
using Bandeja.Core.Contact;
using Bandeja.Core.Drops;
using Bandeja.Core.Language;
using Bandeja.Core.Places;
using Bandeja.Core.Returns;
using Bandeja.Core.Starters;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store;

/// <summary>What is set for the organization.</summary>
/// <param name="PostalAddress">Its own, a line each; stands in the foot of emails.</param>
/// <param name="PublicAddress">The address under which recipients reach this server, such as <c>https://mail.example.org</c>; blank where
/// they do not.</param>
/// <param name="Country">Where it is, ISO 3166-1 alpha-2; blank where it was never set. Its paper follows from it.</param>
/// <param name="Signer">Who signs letters; blank where nobody is set.</param>
/// <param name="SignerTitle">What stands under the signer's name.</param>
/// <param name="Email">The address that emails come from at first; blank where none is set.</param>
/// <param name="TimeZone">By which its days and hours are counted, a name of the IANA time zone database; blank for the server's
/// own.</param>
/// <param name="Units">How lengths and weights of paper are shown.</param>
public sealed record Organization(
    string Name,
    string Locale,
    string Currency,
    CountryLine CountryLine = CountryLine.Abroad,
    string PostalAddress = "",
    string PublicAddress = "",
    string Country = "",
    string Signer = "",
    string SignerTitle = "",
    string Email = "",
    string TimeZone = "",
    Units Units = Units.ByCountry
)
{
    /// <summary>What designs that are ready made say of it.</summary>
    public StarterWords Words() =>
        new(
            Name.Trim(),
            PostalAddress.Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries),
            Signer.Trim(),
            SignerTitle.Trim(),
            Email.Trim(),
            Sheet
        );

    /// <summary>The paper of its country, a key of <see cref="Core.Composition.LetterReader.Sheets"/>.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public string Sheet => Customs.Sheet;

    CountryCustoms Customs => CountryCustoms.Of(Country.Length > 0 ? Country : Locale[3..]);

    /// <summary>How it writes numbers and dates.</summary>
    public OrganizationLocale ToLocale() => new(Locale, Currency) { InInches = InInches };

    /// <summary>Whether it measures in inches.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool InInches =>
        Units switch
        {
            Units.Inches => true,
            Units.Millimeters => false,
            _ => Customs.InInches,
        };
}

/// <summary>What the sample is made of, so that it can be removed again.</summary>
public sealed record SampleParts(long ListId, long DropId, IReadOnlyList<long> DesignIds);

/// <summary>Settings as keys and values.</summary>
public sealed class SettingStore(Database database)
{
    /// <summary>The organization; what was never set has its first value.</summary>
    public Organization Organization()
    {
        using var c = database.Open();
        var all = c.Query<(string Key, string Value)>("SELECT key, value FROM setting").ToDictionary(s => s.Key, s => s.Value);
        return new(
            all.GetValueOrDefault("organization", ""),
            all.GetValueOrDefault("locale", "en-US"),
            all.GetValueOrDefault("currency", "USD"),
            Enum.TryParse<CountryLine>(all.GetValueOrDefault("country line"), out var line) ? line : CountryLine.Abroad,
            all.GetValueOrDefault("postal address", ""),
            all.GetValueOrDefault("public address", ""),
            all.GetValueOrDefault("country", ""),
            all.GetValueOrDefault("signer", ""),
            all.GetValueOrDefault("signer title", ""),
            all.GetValueOrDefault("email", ""),
            all.GetValueOrDefault("time zone", ""),
            Enum.TryParse<Units>(all.GetValueOrDefault("units"), out var units) ? units : Units.ByCountry
        );
    }

    /// <summary>How days are said to the people who work with the program.</summary>
    public static DayWords Days(SqliteConnection c) =>
        DayWords.For(c.QuerySingleOrDefault<string?>("SELECT value FROM setting WHERE key = 'locale'") ?? "en-US");

    /// <summary>The organization's time zone by its name; the server's own where none was set, or where this machine does not know it any
    /// more.</summary>
    public static TimeZoneInfo Zone(string name, TimeZoneInfo own) =>
        name.Length > 0 && TimeZoneInfo.TryFindSystemTimeZoneById(name, out var found) ? found : own;

    /// <summary>The day that a moment was in the organization's time zone; in the server's where none was set.</summary>
    public static DateOnly DayOf(SqliteConnection c, DateTimeOffset at) => DaysOf(c)(at);

    /// <summary>Tells of moments the day that each was in the organization's time zone.</summary>
    public static Func<DateTimeOffset, DateOnly> DaysOf(SqliteConnection c)
    {
        var name = c.QuerySingleOrDefault<string?>("SELECT value FROM setting WHERE key = 'time zone'") ?? "";
        var zone = Zone(name, TimeZoneInfo.Local);
        return at => DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(at, zone).DateTime);
    }

    string? timeZone;

    /// <summary>The organization's time zone, an IANA name; blank for the server's own. Kept in memory: every look at the clock
    /// asks.</summary>
    public string TimeZone
    {
        get
        {
            // Whoever read it just before it was set must not put the former one back.
            if (Volatile.Read(ref timeZone) is null)
                Interlocked.CompareExchange(ref timeZone, Organization().TimeZone, null);
            return timeZone!;
        }
    }

    const string SampleKey = "sample";

    /// <summary>The sample that is here to practice on; null where there is none.</summary>
    public SampleParts? Sample() => Value(SampleKey) is { Length: > 0 } json ? JsonSerializer.Deserialize<SampleParts>(json) : null;

    /// <summary>Remembers what the sample is made of; null once it is removed.</summary>
    public void SetSample(SampleParts? sample) =>
        database.Write(c => c.Execute(Upsert, new { Key = SampleKey, Value = sample is null ? "" : JsonSerializer.Serialize(sample) }));

    const string ReturnsKey = "returns";

    /// <summary>What follows from a return, for each reason in the order of their keys.</summary>
    public IReadOnlyDictionary<ReturnReason, ReturnFollowUp> ReturnRules()
    {
        using var c = database.Open();
        var json = c.QuerySingleOrDefault<string?>("SELECT value FROM setting WHERE key = @ReturnsKey", new { ReturnsKey });
        var set = json is null ? [] : JsonSerializer.Deserialize<Dictionary<ReturnReason, ReturnFollowUp>>(json)!;
        return ReturnReasons.All.ToDictionary(r => r, r => set.TryGetValue(r, out var follow) ? follow : r.Usual());
    }

    /// <summary>Says what follows from a return; a reason that is not named keeps its rule.</summary>
    public void SetReturnRules(IReadOnlyDictionary<ReturnReason, ReturnFollowUp> rules)
    {
        var all = ReturnRules().ToDictionary(r => r.Key, r => rules.TryGetValue(r.Key, out var follow) ? follow : r.Value);
        database.Write(c =>
            c.Execute(
                "INSERT INTO setting (key, value) VALUES (@ReturnsKey, @json) ON CONFLICT (key) DO UPDATE SET value = excluded.value",
                new { ReturnsKey, json = JsonSerializer.Serialize(all) }
            )
        );
    }

    const string ContactKey = "contact limits";

    /// <summary>How much mail somebody gets at most; none where nothing is limited.</summary>
    public IReadOnlyList<ContactLimit> ContactLimits()
    {
        using var c = database.Open();
        return ContactLimits(c);
    }

    /// <inheritdoc cref="ContactLimits()"/>
    public static IReadOnlyList<ContactLimit> ContactLimits(SqliteConnection c) =>
        c.QuerySingleOrDefault<string?>("SELECT value FROM setting WHERE key = @ContactKey", new { ContactKey }) is { } json
            ? JsonSerializer.Deserialize<ContactLimit[]>(json)!
            : [];

    /// <summary>Sets how much mail somebody gets at most.</summary>
    public void SetContactLimits(IReadOnlyList<ContactLimit> limits) =>
        database.Write(c => c.Execute(Upsert, new { Key = ContactKey, Value = JsonSerializer.Serialize(limits) }));

    const string LaddersKey = "salutations";

    /// <summary>The salutations' forms by language.</summary>
    public SalutationLadders Ladders()
    {
        using var c = database.Open();
        var json = c.QuerySingleOrDefault<string?>("SELECT value FROM setting WHERE key = @LaddersKey", new { LaddersKey });
        return json is null
            ? SalutationLadders.First
            : new(
                JsonSerializer
                    .Deserialize<Dictionary<string, string[]>>(json)!
                    .ToDictionary(l => l.Key, l => (IReadOnlyList<string>)l.Value)
            );
    }

    /// <summary>Sets the salutations' forms.</summary>
    public void SetLadders(SalutationLadders ladders) =>
        database.Write(c => c.Execute(Upsert, new { Key = LaddersKey, Value = JsonSerializer.Serialize(ladders.ByLanguage) }));

    /// <summary>How the organization addresses and greets.</summary>
    public AddressingRules Addressing() => new(Organization().CountryLine, Ladders());

    const string PricesKey = "prices",
        KeepKey = "keep files";

    string? Value(string key)
    {
        using var c = database.Open();
        return c.QuerySingleOrDefault<string?>("SELECT value FROM setting WHERE key = @key", new { key });
    }

    /// <summary>What paper, envelopes and postage weigh and cost.</summary>
    public PriceTable Prices() => Value(PricesKey) is { } json ? JsonSerializer.Deserialize<PriceTable>(json)! : PriceTable.First;

    /// <summary>Sets what they cost.</summary>
    public void SetPrices(PriceTable prices) =>
        database.Write(c => c.Execute(Upsert, new { Key = PricesKey, Value = JsonSerializer.Serialize(prices) }));

    /// <summary>For how many days runs' files are kept.</summary>
    public int KeepFilesDays() => int.TryParse(Value(KeepKey), out var days) ? days : 60;

    /// <summary>Sets for how long runs' files are kept.</summary>
    public void SetKeepFilesDays(int days) =>
        database.Write(c =>
            c.Execute(Upsert, new { Key = KeepKey, Value = days.ToString(System.Globalization.CultureInfo.InvariantCulture) })
        );

    const string Upsert = "INSERT INTO setting VALUES (@Key, @Value) ON CONFLICT (key) DO UPDATE SET value = excluded.value";

    /// <summary>Sets the organization.</summary>
    public void Set(Organization organization) =>
        database.Write(c =>
        {
            database.AfterCommit(() => Volatile.Write(ref timeZone, organization.TimeZone));
            c.Execute(
                Upsert,
                new[]
                {
                    new { Key = "organization", Value = organization.Name },
                    new { Key = "locale", Value = organization.Locale },
                    new { Key = "currency", Value = organization.Currency },
                    new { Key = "country line", Value = organization.CountryLine.ToString() },
                    new { Key = "postal address", Value = organization.PostalAddress },
                    new { Key = "public address", Value = organization.PublicAddress },
                    new { Key = "country", Value = organization.Country },
                    new { Key = "signer", Value = organization.Signer },
                    new { Key = "signer title", Value = organization.SignerTitle },
                    new { Key = "email", Value = organization.Email },
                    new { Key = "time zone", Value = organization.TimeZone },
                    new { Key = "units", Value = organization.Units.ToString() },
                }
            );
        });
}
