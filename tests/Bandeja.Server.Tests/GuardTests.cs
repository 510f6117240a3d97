using System.Net;
using System.Net.Http.Json;
using Bandeja.Work.Hosting;

namespace Bandeja.Server.Tests;

public sealed class GuardTests : ServerTests
{
    async Task<HttpStatusCode> Status(Action<HttpRequestMessage> change, HttpMethod? method = null, string path = "/api/campaigns")
    {
        using var request = new HttpRequestMessage(method ?? HttpMethod.Get, path);
        if (method == HttpMethod.Post)
            request.Content = JsonContent.Create(new { name = "x" });
        change(request);
        return (await api.Client.SendAsync(request)).StatusCode;
    }

    [Theory]
    [InlineData("Sec-Fetch-Site", "cross-site")]
    [InlineData("Sec-Fetch-Site", "same-site")]
    [InlineData("Origin", "https://elsewhere.example")]
    [InlineData("Origin", "null")]
    [InlineData("Host", "elsewhere.example")]
    [InlineData("Host", "127.0.0.1.elsewhere.example")]
    public async Task Requests_from_other_sites_and_to_other_names_are_refused(string header, string value)
    {
        Assert.Equal(HttpStatusCode.Forbidden, await Status(r => r.Headers.TryAddWithoutValidation(header, value)));
        Assert.Equal(HttpStatusCode.Forbidden, await Status(r => r.Headers.TryAddWithoutValidation(header, value), HttpMethod.Post));
    }

    [Fact]
    public async Task Our_own_pages_and_scripts_are_served()
    {
        Assert.Equal(HttpStatusCode.OK, await Status(r => r.Headers.Add("Sec-Fetch-Site", "same-origin")));
        Assert.Equal(
            HttpStatusCode.OK,
            await Status(r => r.Headers.Add("Origin", api.Client.BaseAddress!.GetLeftPart(UriPartial.Authority)), HttpMethod.Post)
        );
        Assert.Equal(HttpStatusCode.OK, await Status(r => r.Headers.Host = $"localhost:{api.Client.BaseAddress!.Port}"));
    }

    [Fact]
    public async Task Every_answer_carries_the_policy()
    {
        var response = await api.Client.GetAsync("/api/campaigns");
        var policy = response.Headers.GetValues("Content-Security-Policy").Single();
        Assert.Contains("default-src 'self'", policy);
        Assert.DoesNotContain("unsafe-eval", policy);
        Assert.DoesNotContain("script-src", policy);
        Assert.Equal("nosniff", response.Headers.GetValues("X-Content-Type-Options").Single());
        Assert.False(response.Headers.Contains("Server"));
    }

    [Fact]
    public void It_listens_on_the_loopback_unless_told_otherwise() => Assert.Equal("127.0.0.1", new ServerOptions("x").Listen);
}
