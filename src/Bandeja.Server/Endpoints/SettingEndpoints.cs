using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Core.Language;
using Bandeja.Server.Composition;
using Bandeja.Server.Events;
using Bandeja.Server.Hosting;
using Bandeja.Server.Jobs;
using Bandeja.Server.Web;
using Bandeja.Store;

namespace Bandeja.Server.Endpoints;

/// <summary>The organisation's settings, and what can be chosen and how much is allowed.</summary>
public sealed record SettingsView(
    Organisation Organisation,
    IReadOnlyList<string> Locales,
    IReadOnlyList<string> Families,
    IReadOnlyList<string> Sheets,
    IReadOnlyList<string> Encodings,
    IReadOnlyList<Formats.Lists.ListFormat> ListFormats,
    long MaxUpload,
    long MaxPicture,
    DateOnly Today,
    int KeepFilesDays
);

/// <summary>For how many days runs' files are kept.</summary>
public sealed record KeepFiles(int Days);

static class SettingEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet(
                "/settings",
                (SettingStore settings, Letters letters) =>
                    new SettingsView(
                        settings.Organisation(),
                        OrganisationLocale.Known,
                        letters.Fonts.Families,
                        [.. LetterReader.Sheets.Keys],
                        Formats.Lists.Encodings.Known,
                        Formats.Lists.ListFormats.All,
                        ServerOptions.MaxUpload,
                        ServerOptions.MaxPicture,
                        letters.Today,
                        settings.KeepFilesDays()
                    )
            )
            .WithSummary("The organisation's settings, choices and limits")
            .OfRecord(c => c.Part<SettingStore>().Organisation());

        api.MapPut(
                "/settings/organisation",
                (Organisation organisation, SettingStore settings, CheckRequests checks) =>
                {
                    if (!OrganisationLocale.Known.Contains(organisation.Locale))
                        throw new BadInputException($"There is no locale “{organisation.Locale}” to choose.");
                    if (organisation.Currency is not { Length: 3 } currency || !currency.All(char.IsAsciiLetterUpper))
                        throw new BadInputException("A currency is three capitals, for instance USD.");
                    settings.Set(organisation with { Name = organisation.Name.Trim() });
                    checks.All();
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Set the organisation's name, locale and currency")
            .OfRecord(c => c.Part<SettingStore>().Organisation());

        api.MapGet("/settings/prices", (SettingStore settings) => settings.Prices())
            .WithSummary("What paper, envelopes and postage weigh and cost")
            .OfRecord(c => c.Part<SettingStore>().Prices());
        api.MapPut(
                "/settings/prices",
                (PriceTable prices, SettingStore settings) =>
                {
                    if (prices.Mistakes() is [var first, ..])
                        throw new BadInputException(first);
                    settings.SetPrices(prices);
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Set what they weigh and cost")
            .OfRecord(c => c.Part<SettingStore>().Prices());
        api.MapPut(
                "/settings/keep-files",
                (KeepFiles order, SettingStore settings) =>
                {
                    if (order.Days is < 1 or > 3650)
                        throw new BadInputException("Files are kept for 1 to 3,650 days.");
                    settings.SetKeepFilesDays(order.Days);
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Set for how long runs' files are kept");

        api.MapGet("/jobs", (JobStore jobs) => jobs.Recent()).WithSummary("Long work: what is going on and what ended last");
        api.MapGet("/jobs/{id:long}", (long id, JobStore jobs) => jobs.Get(id)).WithSummary("One piece of long work");
        api.MapPost(
                "/jobs/{id:long}/cancel",
                (long id, JobRunner runner, HttpContext context) =>
                {
                    runner.Cancel(id, context.Actor());
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Cancel long work");
        api.MapGet("/events", (HttpContext context, EventHub hub) => hub.Listen(context.Response, context.RequestAborted))
            .ExcludeFromDescription();
    }
}
