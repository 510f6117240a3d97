using Bandeja.Core.Composition;
using Bandeja.Core.Language;
using Bandeja.Server.Composition;
using Bandeja.Server.Jobs;
using Bandeja.Server.Web;
using Bandeja.Store;

namespace Bandeja.Server.Endpoints;

/// <summary>The organisation's settings, and what can be chosen and how much is allowed.</summary>
public sealed record SettingsView(Organisation Organisation, IReadOnlyList<string> Locales, IReadOnlyList<string> Families, IReadOnlyList<string> Sheets, IReadOnlyList<string> Encodings, long MaxUpload, long MaxPicture, DateOnly Today);

static class SettingEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/settings", (SettingStore settings, Letters letters) =>
            new SettingsView(settings.Organisation(), OrganisationLocale.Known, letters.Fonts.Families, [.. LetterReader.Sheets.Keys], Formats.Lists.Encodings.Known, ServerOptions.MaxUpload, ServerOptions.MaxPicture, letters.Today))
            .WithSummary("The organisation's settings, choices and limits");

        api.MapPut("/settings/organisation", (Organisation organisation, SettingStore settings, CheckRequests checks) =>
        {
            if (!OrganisationLocale.Known.Contains(organisation.Locale)) throw new BadInputException($"There is no locale “{organisation.Locale}” to choose.");
            if (organisation.Currency is not { Length: 3 } currency || !currency.All(char.IsAsciiLetterUpper)) throw new BadInputException("A currency is three capitals, for instance USD.");
            settings.Set(organisation with { Name = organisation.Name.Trim() });
            checks.All();
            return TypedResults.NoContent();
        }).WithSummary("Set the organisation's name, locale and currency");

        api.MapGet("/jobs", (JobStore jobs) => jobs.Recent()).WithSummary("Long work: what is going on and what ended last");
        api.MapGet("/jobs/{id:long}", (long id, JobStore jobs) => jobs.Get(id)).WithSummary("One piece of long work");
        api.MapPost("/jobs/{id:long}/cancel", (long id, JobRunner runner, HttpContext context) =>
        {
            runner.Cancel(id, context.Actor());
            return TypedResults.NoContent();
        }).WithSummary("Cancel long work");
        api.MapGet("/events", (HttpContext context, EventHub hub) => hub.Listen(context.Response, context.RequestAborted)).ExcludeFromDescription();
    }
}
