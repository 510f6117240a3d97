using System.Text.Json.Nodes;
using Bandeja.Acts.Settings;
using Bandeja.Core.Composition;
using Bandeja.Core.Places;
using Bandeja.Core.Starters;
using Bandeja.Server.Web;
using Bandeja.Store;

namespace Bandeja.Server.Endpoints;

/// <summary>A country to choose, and what is usual there.</summary>
public sealed record CountryChoice(string Code, string Name, string Locale, string Currency, string Sheet, bool InInches);

/// <summary>A design that is ready made.</summary>
public sealed record StarterView(string Id, PieceKind Kind, string Name, string Description);

/// <summary>A starter's document, with the organization's words in it.</summary>
public sealed record StarterDocument(string Name, JsonObject Document);

/// <summary>What is asked for at the beginning: countries, and designs to start from.</summary>
static class SetupEndpoints
{
    // By region and city; names such as EST5EDT are there for old programs only.
    static readonly IReadOnlyList<string> Zones =
    [
        .. TimeZoneInfo
            .GetSystemTimeZones()
            .Select(z => z.Id)
            .Where(id => id.Contains('/', StringComparison.Ordinal) && !id.StartsWith("Etc/", StringComparison.Ordinal))
            .Order(StringComparer.Ordinal),
    ];

    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet(
                "/countries",
                () =>
                    Countries
                        .All.Select(c =>
                        {
                            var usual = CountryCustoms.Of(c.Code);
                            return new CountryChoice(c.Code, c.Name, usual.Locale, usual.Currency, usual.Sheet, usual.InInches);
                        })
                        .OrderBy(c => c.Name, StringComparer.Ordinal)
                        .ToList()
            )
            .WithSummary("Countries, with the usual number format, currency, and paper");
        api.MapGet("/time-zones", () => Zones).WithSummary("Time zones, by region and city");
        api.MapPost("/sample", (AddSample act, Caller caller) => caller.Does(act, new SampleOrder()))
            .WithSummary("Add a sample list, designs, and drop to practice on");
        api.MapDelete("/sample", (RemoveSample act, Caller caller) => caller.Does(act, new SampleOrder()))
            .WithSummary("Remove the sample with everything done with it");
        api.MapGet("/starters", () => Starter.All.Select(s => new StarterView(s.Id, s.Kind, s.Name, s.Description)).ToList())
            .WithSummary("Designs to start from");
        api.MapGet(
                "/starters/{id}",
                (string id, SettingStore settings) =>
                    Starter.All.FirstOrDefault(s => s.Id == id) is { } starter
                        ? new StarterDocument(starter.Name, starter.Write(settings.Organization().Words()))
                        : throw new NotFoundException("There is no such design to start from.")
            )
            .WithSummary("A starter’s document, with the organization’s name and address");
    }
}
