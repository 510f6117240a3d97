using System.Net.Http.Json;
using System.Text.Json;
using Bandeja.Acts;
using Bandeja.Acts.Drops;
using Bandeja.Acts.Lists;
using Bandeja.Acts.Settings;
using Bandeja.Store;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;

namespace Bandeja.Server.Tests;

/// <summary>What holds of everything that can be done.</summary>
[TestClass(DisableParallelization = true)]
public sealed class ActTests(Api api) : IClassFixture<Api>
{
    /// <summary>What is asked with a body and changes nothing.</summary>
    static readonly string[] Questions =
    [
        "/api/campaigns/{id:long}/condition",
        "/api/campaigns/{id:long}/steps/look",
        "/api/designs/find",
        "/api/designs/form/match",
        "/api/designs/preview",
        "/api/designs/print",
        "/api/designs/sheet",
        "/api/designs/{id:long}/merge",
        "/api/documents/{id}/look",
        "/api/drops/{id:long}/plan",
        "/api/lists/{id:long}/expression",
        "/api/lists/{id:long}/filter",
        "/api/lists/{id:long}/reload/look",
        "/api/lists/{id:long}/replace/preview",
        "/api/lists/{id:long}/salutations",
        "/api/returns/check",
        "/api/segments/{id:long}/effect",
        "/api/stocks/check",
        "/api/uploads/{id}/look",
        "/api/uploads/{id}/survey",
    ];

    /// <summary>What stands in for the world outside is turned and filled like a real device, not by acts.</summary>
    static bool IsOutside(string path) =>
        path.StartsWith("/api/post-office", StringComparison.Ordinal) || path.Contains("/practice", StringComparison.Ordinal);

    [Fact]
    public async Task Whatever_changes_something_is_an_act()
    {
        await using var app = Application.Build(new(Directory.CreateTempSubdirectory("bandeja-acts").FullName, Port: 0));
        await app.StartAsync();
        var writing = app
            .Services.GetServices<EndpointDataSource>()
            .SelectMany(s => s.Endpoints)
            .OfType<RouteEndpoint>()
            .Where(e => e.Metadata.GetMetadata<HttpMethodMetadata>()?.HttpMethods.All(m => m is "GET" or "HEAD") == false)
            .ToList();
        Assert.True(writing.Count > 90);
        var acts = ActRegistry.All.Select(a => a.Act).ToHashSet();
        var without = writing
            .Where(e => !e.Metadata.GetMetadata<System.Reflection.MethodInfo>()!.GetParameters().Any(p => acts.Contains(p.ParameterType)))
            .Select(e => e.RoutePattern.RawText!)
            .Where(p => !IsOutside(p))
            .Distinct()
            .Order(StringComparer.Ordinal);
        Assert.Equal(Questions, without);
    }

    [Fact]
    public void Every_act_says_what_it_is_called_and_what_it_needs_and_its_order_is_plain()
    {
        Assert.True(ActRegistry.All.Count > 70);
        Assert.Distinct(ActRegistry.All.Select(a => a.Name));
        Assert.All(
            ActRegistry.All,
            a =>
            {
                Assert.Matches("^[a-z]+(-[a-z]+)*\\.[a-z]+(-[a-z]+)*$", a.Name);
                Assert.Matches("^[A-Z].*[a-z0-9]$", a.Log);
                // A routine and a command line carry orders as JSON.
                Assert.NotNull(JsonSerializerOptions.Default.GetTypeInfo(a.Order));
            }
        );
    }

    [Fact]
    public async Task An_act_is_done_by_whoever_has_it_done_and_stands_in_the_log()
    {
        var name = $"By a key {Guid.NewGuid():N}";
        var at = new DateTimeOffset(2027, 3, 1, 9, 0, 0, TimeSpan.Zero);
        var campaign = api.Part<Performer>()
            .Perform(api.Part<StartCampaign>(), new NewCampaign(name), new(ActorKind.Key, "Nightly import", at));
        Assert.Contains((await api.Get("/api/campaigns")).AsArray(), c => (long)c!["id"]! == campaign && (string)c["name"]! == name);
        var row = (await api.Get("/api/acts")).AsArray().First(r => ((string)r!["text"]!).Contains(name))!;
        Assert.Equal(("campaign.start", "Key", "Nightly import"), ((string)row["act"]!, (string)row["actorKind"]!, (string)row["actor"]!));
    }

    [Fact]
    public async Task What_is_refused_is_not_done_not_logged_and_not_told()
    {
        // What other tests of this server set going is told as well, until it has ended.
        await api.Until("/api/jobs", j => j.AsArray().All(x => (string)x!["state"]! is not ("queued" or "running")));
        var before = api.Part<ActLog>().Last(1).FirstOrDefault()?.Id;
        var told = api.NextEvent;
        // The campaign would be started first; then the list does not exist.
        var order = new NewDrop("First notice", 999_999, [1], CampaignName: $"Never {Guid.NewGuid():N}");
        Assert.ThrowsAny<Exception>(() =>
            api.Part<Performer>().Perform(api.Part<StartDrop>(), order, Actor.Person("Tomás", DateTimeOffset.UtcNow))
        );
        Assert.Equal(before, api.Part<ActLog>().Last(1).FirstOrDefault()?.Id);
        Assert.DoesNotContain((await api.Get("/api/campaigns")).AsArray(), c => (string)c!["name"]! == order.CampaignName);
        Assert.False(told.IsCompleted);
    }

    [Fact]
    public void What_the_same_actor_repeats_right_away_is_one_row_of_the_log()
    {
        var log = api.Part<ActLog>();
        var at = new DateTimeOffset(2027, 3, 1, 9, 0, 0, TimeSpan.Zero);
        log.Add("design.save", Actor.Person("Ana", at), "Design", 7, "Wrote a design");
        log.Add("design.save", Actor.Person("Ana", at.AddMinutes(9)), "Design", 7, "Wrote a design");
        log.Add("design.save", Actor.Person("Ana", at.AddMinutes(18)), "Design", 7, "Wrote a design");
        var one = log.Last(1)[0];
        Assert.Equal((3L, "2027-03-01T09:00:00.000Z", "2027-03-01T09:18:00.000Z"), (one.Times, one.At, one.Until));
        log.Add("design.save", Actor.Person("Luis", at.AddMinutes(19)), "Design", 7, "Wrote a design");
        log.Add("design.save", Actor.Person("Ana", at.AddMinutes(20)), "Design", 7, "Wrote a design");
        Assert.Equal((1L, "Ana"), (log.Last(1)[0].Times, log.Last(1)[0].Actor));
    }

    [Fact]
    public async Task A_value_that_cannot_be_is_told_by_its_place_and_without_our_names()
    {
        var (status, detail) = await Api.Refusal(api.Client.PostAsJsonAsync("/api/drops/1/runs", new { output = "sheets" }));
        Assert.Equal(System.Net.HttpStatusCode.BadRequest, status);
        Assert.StartsWith("The request has a value at “output” that cannot be there", detail);
        Assert.DoesNotContain("Bandeja", detail);
        // Nor is it guessed what somebody wants who does not say.
        (status, detail) = await Api.Refusal(api.Client.PostAsJsonAsync("/api/drops/1/runs", new { pieces = "1" }));
        Assert.Equal(System.Net.HttpStatusCode.BadRequest, status);
        Assert.Contains("Set “output”", detail);
        // A setting that belongs to another output is refused, not passed over.
        (status, detail) = await Api.Refusal(api.Client.PostAsJsonAsync("/api/drops/1/runs", new { output = "one", batchOf = 5 }));
        Assert.Equal(System.Net.HttpStatusCode.BadRequest, status);
        Assert.Contains("“batchOf”", detail);
        // The number of a name is no name.
        (status, detail) = await Api.Refusal(api.Client.PostAsJsonAsync("/api/drops/1/runs", new { output = 3 }));
        Assert.Equal(System.Net.HttpStatusCode.BadRequest, status);
        Assert.StartsWith("The request has a value at “output”", detail);
    }

    [Fact]
    public void An_order_that_makes_no_sense_is_refused_whoever_gives_it()
    {
        var by = new Actor(ActorKind.Routine, "Every morning", DateTimeOffset.UtcNow);
        var performer = api.Part<Performer>();
        Assert.Throws<BadInputException>(() => performer.Perform(api.Part<SetFileKeeping>(), new(0), by));
        Assert.Throws<BadInputException>(() =>
            performer.Perform(api.Part<SetOrganization>(), new Organization("Nobody", "tlh-KX", "USD"), by)
        );
        Assert.Throws<NotFoundException>(() => performer.Perform(api.Part<RenameList>(), new(999_999, "Nobody's"), by));
    }
}
