using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using Bandeja.Acts.Runs;
using Bandeja.Acts.Settings;
using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Core.Language;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;
using Bandeja.Work.Hosting;

namespace Bandeja.Server.Endpoints;

/// <summary>The organization's settings, and what can be chosen and how much is allowed.</summary>
public sealed record SettingsView(
    Organization Organization,
    IReadOnlyList<string> Locales,
    IReadOnlyList<string> Families,
    IReadOnlyList<string> Sheets,
    IReadOnlyList<string> Encodings,
    IReadOnlyList<Formats.Lists.ListFormat> ListFormats,
    long MaxUpload,
    long MaxPicture,
    DateOnly Today,
    int KeepFilesDays,
    SampleParts? Sample,
    bool InInches,
    string TimeZone,
    string Sheet
);

static class SettingEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet(
                "/settings",
                (SettingStore settings, Letters letters, TimeProvider time) =>
                    new SettingsView(
                        settings.Organization(),
                        OrganizationLocale.Known,
                        letters.Fonts.Families,
                        [.. LetterReader.Sheets.Keys],
                        Formats.Lists.Encodings.Known,
                        Formats.Lists.ListFormats.All,
                        ServerOptions.MaxUpload,
                        ServerOptions.MaxPicture,
                        letters.Today,
                        settings.KeepFilesDays(),
                        settings.Sample(),
                        settings.Organization().InInches,
                        time.LocalTimeZone.Id,
                        settings.Organization().Sheet
                    )
            )
            .WithSummary("Organization settings, options, and limits")
            .OfRecord(c => c.Part<SettingStore>().Organization());

        api.MapPut(
                "/settings/organization",
                (Organization organization, SetOrganization act, Caller caller) => caller.Does(act, organization)
            )
            .WithSummary("Set the organization’s name, locale, and currency")
            .OfRecord(c => c.Part<SettingStore>().Organization());

        api.MapGet("/settings/prices", (SettingStore settings) => settings.Prices())
            .WithSummary("What paper, envelopes and postage weigh and cost")
            .OfRecord(c => c.Part<SettingStore>().Prices());
        api.MapPut("/settings/prices", (PriceTable prices, SetPrices act, Caller caller) => caller.Does(act, prices))
            .WithSummary("Set what they weigh and cost")
            .OfRecord(c => c.Part<SettingStore>().Prices());
        api.MapPut("/settings/keep-files", (KeepFiles order, SetFileKeeping act, Caller caller) => caller.Does(act, order))
            .WithSummary("Set for how long runs' files are kept");

        api.MapGet("/jobs", (JobStore jobs) => jobs.Recent()).WithSummary("Running and recent jobs");
        api.MapGet("/jobs/{id:long}", (long id, JobStore jobs) => jobs.Get(id)).WithSummary("One piece of long work");
        api.MapPost("/jobs/{id:long}/cancel", (long id, CancelWork act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Cancel long work");
        api.MapGet("/acts", (ActLog log, int limit = 100, long? before = null) => log.Last(Math.Clamp(limit, 1, 1000), before))
            .WithSummary("What was done, by whom and to what, the newest first");
        api.MapGet(
                "/events",
                (EventHub hub, IHostApplicationLifetime server, CancellationToken gone) =>
                    TypedResults.ServerSentEvents(Events(hub, server.ApplicationStopping, gone))
            )
            .ExcludeFromDescription();
    }

    /// <summary>What changes, as server-sent events (HTML Living Standard, section 9.2), until the browser goes away or the server stops:
    /// one that waited for its listeners would not stop before they do.</summary>
    static async IAsyncEnumerable<SseItem<string>> Events(
        EventHub hub,
        CancellationToken stopping,
        [EnumeratorCancellation] CancellationToken gone
    )
    {
        using var over = CancellationTokenSource.CreateLinkedTokenSource(stopping, gone);
        await foreach (var told in hub.Listen(over.Token))
            yield return new(told.Data, told.Kind);
    }
}
