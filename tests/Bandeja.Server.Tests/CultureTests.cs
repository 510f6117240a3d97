using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using UglyToad.PdfPig;

namespace Bandeja.Server.Tests;

/// <summary>What comes out does not depend on the language and country of the machine that the server runs on.</summary>
public sealed class CultureTests
{
    sealed class World : ServerProcess
    {
        readonly StringBuilder said = new();

        async Task Say(string path) =>
            said.AppendLine(
                Regex.Replace(await http.GetStringAsync(path), @"\d{4}-\d\d-\d\dT[\d:.]+Z?|""(sha256|jobId)"":""?[0-9a-f]*""?", "(at)")
            );

        async Task Say(string path, object body)
        {
            var response = await http.PostAsJsonAsync(path, body);
            said.AppendLine($"{(int)response.StatusCode} {await response.Content.ReadAsStringAsync()}");
        }

        /// <summary>A small mailing with numbers, dates, money, measures and mistakes in it; answers everything that was said and
        /// printed.</summary>
        public async Task<string> Mailing(string culture)
        {
            await Start(culture);
            var text =
                "Given,Family,Street,City,ZIP,Amount due,Since,INFO\r\n"
                + string.Concat(
                    Enumerable
                        .Range(1, 1300)
                        .Select(i =>
                            $"Ingrid{i},Iversen,{i} Quay "
                            + $"Road,Fernquay,{2000 + i:00000},\"{i % 140 + 1},{i % 1000:000}.50\",{i % 12 + 1}/{i % 28 + 1}/2026,i "
                            + "I \u0131 \u0130\r\n"
                        )
                );
            var upload = JsonNode.Parse(
                await (
                    await http.PostAsync("/api/uploads?name=m.csv", new ByteArrayContent(Encoding.UTF8.GetBytes(text)))
                ).Content.ReadAsStringAsync()
            )!;
            var look = await Post($"/api/uploads/{upload["id"]}/look", new { });
            said.AppendLine(look.ToJsonString());
            var columns = new JsonArray(
                [
                    .. look["columns"]!
                        .AsArray()
                        .Select(
                            (c, i) =>
                            {
                                var o = c!.DeepClone().AsObject();
                                o["position"] = i;
                                return (JsonNode)o;
                            }
                        ),
                ]
            );
            var job = await Post(
                $"/api/uploads/{upload["id"]}/list",
                new JsonObject
                {
                    ["name"] = "Members",
                    ["width"] = columns.Count,
                    ["columns"] = columns,
                    ["options"] = new JsonObject
                    {
                        ["headingRow"] = 0,
                        ["encoding"] = "utf-8",
                        ["delimiter"] = ",",
                    },
                }
            );
            await Until($"/api/jobs/{job["jobId"]}", j => (string)j["state"]! == "done");
            await Until("/api/lists/1", l => !(bool)l["checking"]!);
            await Say("/api/lists/1");
            await Say("/api/lists/1/checks");
            await Say("/api/lists/1/recipients?limit=40&sorts=-6&search=INGRID&where=" + Uri.EscapeDataString("Amount due > 1250.5"));
            await Say("/api/lists/1/export.csv");
            await Post(
                "/api/designs",
                new
                {
                    name = "Letter",
                    listId = 1,
                    document = Api.Letter(
                        "Dear {Given},",
                        "{Amount due | money} and {round(Amount due) | words} since {Since | date long}, {upper(INFO)} "
                            + "{lower(INFO)}, {round(Amount due / 7, 3)}",
                        "{Delivery address}"
                    ),
                }
            );
            await Post(
                "/api/drops",
                new
                {
                    name = "Notice",
                    listId = 1,
                    designIds = new[] { 1 },
                    campaignName = "Renewal",
                }
            );
            await Until("/api/drops/1", d => !(bool)d["checking"]!);
            await Say("/api/drops/1");
            await Say("/api/drops/1/recipients?limit=30");
            await Say("/api/drops/1/plan", new { output = "one", postage = "Single letters" });
            await Until("/api/drops/1", d => !(bool)d["checking"]!);
            var run = await Post("/api/drops/1/runs", new { output = "one", pieces = "1-60" });
            await Until($"/api/runs/{run["id"]}", r => (string)r["state"]! == "done");
            using var pdf = PdfDocument.Open(await http.GetByteArrayAsync($"/api/runs/{run["id"]}/files/1"));
            foreach (var page in pdf.GetPages())
                said.AppendLine(string.Join(' ', page.Letters.Take(400).Select(l => $"{l.Value}{l.StartBaseLine.X:0.0}")));
            await Say($"/api/runs/{run["id"]}/detail");
            await Say("/api/ledger.csv");
            await Say("/api/lists/1/recipients", new { rows = new[] { new[] { new { columnId = 6, value = "1.250,5" } } } });
            await Say(
                "/api/lists/1/set",
                new
                {
                    columnId = 6,
                    value = "lots",
                    recipients = new[] { 1 },
                }
            );
            await Say(
                "/api/lists",
                new { name = "x", columns = Enumerable.Range(0, 3000).Select(i => new { name = $"c{i}", role = "None" }) }
            );
            await Say(
                "/api/lists/1/set",
                new
                {
                    columnId = 8,
                    value = "x",
                    recipients = Enumerable.Range(1, 1300),
                }
            );
            return said.ToString();
        }
    }

    [Theory]
    [InlineData("tr_TR.UTF-8")]
    [InlineData("de_CH.UTF-8")]
    public async Task A_mailing_is_the_same_on_a_machine_of_another_country(string culture)
    {
        using var here = new World();
        using var there = new World();
        var (expected, actual) = (await here.Mailing("en_US.UTF-8"), await there.Mailing(culture));
        Assert.Contains("for 1,300 recipients", expected);
        Assert.Equal(Lines(expected), Lines(actual));
        static List<string> Lines(string text) => [.. text.Split('\n')];
    }
}
