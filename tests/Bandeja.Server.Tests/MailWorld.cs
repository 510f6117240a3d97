using System.Net.Http.Json;
using System.Text.Json.Nodes;
using MimeKit;

namespace Bandeja.Server.Tests;

/// <summary>A drop by paper and email, as a script would set it up; and the practice post office as one looks into it.</summary>
public sealed class MailWorld(Api api)
{
    public const string List =
        "First,Last,Street,City,ZIP,Email,Member no.,Certificate\r\nAna,Okafor,1 Quay "
        + "Road,Fernquay,97412,ana@example.org,F-1,ana.pdf\r\nBea,Marsh,2 Quay "
        + "Road,Fernquay,97412,bea@example.org,F-2,bea.pdf\r\nCem,Tan,3 Quay Road,Fernquay,97412,,F-3,\r\nDot,Quint,4 Quay "
        + "Road,Fernquay,97412,dot@example.net,F-4,dot.pdf\r\n";

    public long Members { get; private set; }
    public long Letter { get; private set; }
    public long Email { get; private set; }

    public static JsonObject Design(object? more = null, params string[] paragraphs)
    {
        var root = new JsonObject
        {
            ["kind"] = "email",
            ["subject"] = "Your letter, {First}",
            ["fromName"] = "Fernquay Botanic Garden",
            ["fromAddress"] = "office@example.org",
            ["content"] = Api.Letter(paragraphs.Length > 0 ? paragraphs : ["Dear {First} {Last},", "your letter is attached."])[
                "content"
            ]!.DeepClone(),
        };
        if (more is not null)
            foreach (var p in System.Text.Json.JsonSerializer.SerializeToNode(more)!.AsObject())
                root[p.Key] = p.Value?.DeepClone();
        return root;
    }

    /// <summary>A drop of letter and email, by email where there is an address; the letter is attached, protected by the member's
    /// number.</summary>
    public async Task<long> Drop(string list = List, object? more = null, string by = "Address")
    {
        await api.Client.PutAsJsonAsync(
            "/api/settings/organization",
            new
            {
                name = "Fernquay Botanic Garden",
                locale = "en-US",
                currency = "USD",
                countryLine = "Abroad",
                postalAddress = "18 Quay Road\nFernquay OR 97412",
                publicAddress = "https://mail.example.org",
            }
        );
        Members = await api.BringIn("members.csv", list);
        Letter = (long)
            await api.Post(
                "/api/designs",
                new JsonObject
                {
                    ["name"] = "Letter",
                    ["listId"] = Members,
                    ["document"] = Api.Letter("Dear {First} {Last},", "your number is {Member no.}."),
                }
            );
        Email = (long)
            await api.Post(
                "/api/designs",
                new JsonObject
                {
                    ["name"] = "Email",
                    ["listId"] = Members,
                    ["document"] = Design(
                        more
                            ?? new
                            {
                                attachments = new object[]
                                {
                                    new
                                    {
                                        kind = "design",
                                        designId = Letter,
                                        name = "{Last} letter",
                                        password = "{Member no.}",
                                    },
                                },
                            }
                    ),
                }
            );
        var drop = (long)
            await api.Post(
                "/api/drops",
                new
                {
                    name = "Notice",
                    listId = Members,
                    designIds = new[] { Letter, Email },
                    campaignName = "Renewal",
                }
            );
        await api.Checked(drop);
        await api.Put($"/api/drops/{drop}/channels", new { by });
        await api.Checked(drop);
        return drop;
    }

    public async Task<long> Account(object? change = null)
    {
        var account = (await api.Get("/api/mail-accounts"))[0]!;
        var order = new JsonObject
        {
            ["name"] = "Practice post office",
            ["host"] = "127.0.0.1",
            ["port"] = 0,
            ["tls"] = "none",
            ["connections"] = 2,
            ["firstWait"] = 1,
        };
        foreach (var p in System.Text.Json.JsonSerializer.SerializeToNode(change ?? new { })!.AsObject())
            order[p.Key] = p.Value?.DeepClone();
        await api.Put($"/api/mail-accounts/{account["id"]}", order);
        return (long)account["id"]!;
    }

    public Task<JsonNode> Tell(string kind, string address, int? times = null) =>
        api.Post(
            "/api/post-office/behaviors",
            new
            {
                kind,
                address,
                times,
            }
        );

    public async Task<JsonNode> Begin(long drop, object? more = null)
    {
        var order = new JsonObject { ["output"] = "email", ["accountId"] = await Account() };
        foreach (var p in System.Text.Json.JsonSerializer.SerializeToNode(more ?? new { })!.AsObject())
            order[p.Key] = p.Value?.DeepClone();
        return await api.Post($"/api/drops/{drop}/runs", order);
    }

    /// <summary>Waits until a run has come to a state.</summary>
    public Task<JsonNode> Until(JsonNode run, params string[] states) =>
        api.Until($"/api/runs/{run["id"]}/detail", detail => states.Contains((string)detail["run"]!["state"]!));

    public async Task<List<MimeMessage>> Inbox()
    {
        var all = new List<MimeMessage>();
        foreach (var row in (await api.Get("/api/post-office/messages?limit=1000"))["rows"]!.AsArray().Reverse())
            all.Add(
                MimeMessage.Load(new MemoryStream(await api.Client.GetByteArrayAsync($"/api/post-office/messages/{row!["id"]}/source.eml")))
            );
        return all;
    }

    public async Task<Dictionary<int, string>> Pieces(JsonNode run) =>
        (await api.Get($"/api/runs/{run["id"]}/pieces?limit=1000"))["rows"]!
            .AsArray()
            .ToDictionary(p => (int)p!["piece"]!, p => (string)p!["state"]!);

    public static byte[] Bytes(MimeEntity part)
    {
        using var data = new MemoryStream();
        ((MimePart)part).Content!.DecodeTo(data);
        return data.ToArray();
    }
}
