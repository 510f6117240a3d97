using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Store;
using Bandeja.Store.Lists;
using Bandeja.Store.Sequences;
using Bandeja.Work.Composition;

namespace Bandeja.Work.Campaigns;

/// <summary>A campaign's report to print, by the composition that makes letters: the numbers on the first page, the curve and the shares
/// on the second.</summary>
public sealed class ReportPdf(Database database, Letters letters, CampaignReports reports)
{
    // What fits the second page below the curve, and the table of the first.
    const int MostShares = 14,
        MostSteps = 24,
        Lines = 3;
    const double ChartLeft = 96,
        ChartTop = 118,
        ChartWidth = 400,
        ChartHeight = 190;
    const string Ink = "25332c";

    /// <summary>How curves differ without color: how much of each day's stretch is drawn.</summary>
    static readonly (string Color, double Drawn, int Every)[] Looks = [("1f5c4a", 1, 1), ("b4531f", 1, 2), ("4a5f80", 0.4, 1)];

    /// <summary>The report as a PDF.</summary>
    public byte[] Of(long campaignId, ReportBy by, int? columnId)
    {
        var report = reports.Of(campaignId);
        var shares = reports.By(campaignId, by, columnId);
        return letters.ToPdf([First(report), Second(report, shares, Heading(campaignId, by, columnId))], $"Report of {report.Name}");
    }

    string Heading(long campaignId, ReportBy by, int? columnId)
    {
        if (by != ReportBy.Column)
            return by switch
            {
                ReportBy.Segment => "By segment",
                ReportBy.Version => "By design version",
                _ => "By channel",
            };
        using var c = database.Open();
        var list = Store.Campaigns.CampaignStore.Get(c, campaignId).ListId;
        return list is { } id && RowTable.Columns(c, id).FirstOrDefault(x => x.Id == columnId) is { } column
            ? $"By {column.Name}"
            : "By column";
    }

    ComposedPiece First(CampaignReport r)
    {
        var steps = r.Steps.Count <= MostSteps ? r.Steps : [.. r.Steps.Take(MostSteps)];
        var days = letters.Locale.Days;
        return Compose(
            [
                Node("heading", new { level = 1 }, Text(r.Name)),
                Paragraph(
                    r is { From: { } from, To: { } to }
                        ? $"Mailed {days.Long(from)} to {days.Long(to)}. Counted on {days.Long(letters.Today)}."
                        : "Nothing has been mailed yet."
                ),
                Paragraph(ReportWords.Sentence(r)),
                Table(
                    [130, 70, 88, 100, 66, 92, 0],
                    ["Step", "Mailed", "Returned", "Responded", "Rate", "Cost", "Received"],
                    [
                        .. steps
                            .Append(r.Whole)
                            .Select(s =>
                                (string[])
                                    [
                                        s.Name,
                                        $"{s.Mailed:N0}",
                                        $"{s.Returned:N0}",
                                        $"{s.Responses:N0}",
                                        ReportWords.Rate(s.Responses, s.Mailed),
                                        s.Cents is { } cents ? ReportWords.Money(cents, r.Currency)
                                        : s.Mailed == 0 ? "–"
                                        : "not known",
                                        ReportWords.Money(s.Received, r.Currency),
                                    ]
                            ),
                    ]
                ),
                .. (
                    r.Steps.Count > MostSteps
                        ? (JsonNode[])[Paragraph($"And {r.Steps.Count - MostSteps} more steps, counted in the whole campaign.")]
                        : []
                ),
                Paragraph(
                    $"A response counts for the last piece mailed to that recipient within {r.Window} days before it. "
                        + (
                            r.NotCredited == 0
                                ? ""
                                : $"{r.NotCredited:N0} {(r.NotCredited == 1 ? "response counts" : "responses count")} for no piece."
                        )
                ),
                Paragraph(ReportWords.Returns(r)),
            ]
        );
    }

    ComposedPiece Second(CampaignReport r, IReadOnlyList<ReportShare> shares, string heading)
    {
        var spaces = Enumerable.Repeat(0, 13).Select(_ => (JsonNode)Paragraph(" "));
        var piece = Compose(
            [
                Node("heading", new { level = 2 }, Text("Responded, by days since mailing")),
                .. spaces,
                Node("heading", new { level = 2 }, Text(heading)),
                Table(
                    [240, 80, 80, 0],
                    ["", "Mailed", "Responded", "Rate"],
                    [
                        .. shares
                            .Take(MostShares)
                            .Select(s =>
                                (string[])[s.Name, $"{s.Mailed:N0}", $"{s.Responded:N0}", ReportWords.Rate(s.Responded, s.Mailed)]
                            ),
                    ]
                ),
            ]
        );
        return piece with { Pages = [WithChart(piece.Pages[0], r), .. piece.Pages.Skip(1)] };
    }

    /// <summary>The curves of the steps that brought most, drawn as thin rectangles.</summary>
    LaidOutPage WithChart(LaidOutPage page, CampaignReport r)
    {
        var lines = r.Steps.Where(s => s.Mailed > 0).OrderByDescending(s => s.Responses).Take(Lines).ToList();
        var top = Math.Max(0.05, lines.SelectMany(l => l.Curve).DefaultIfEmpty().Max());
        var items = new List<PageItem>(page.Items);
        for (var i = 0; i <= 4; i++)
        {
            var y = ChartTop + ChartHeight * (1 - i / 4.0);
            items.Add(new RectangleItem(ChartLeft, y, ChartWidth, i == 0 ? 0.8 : 0.3, i == 0 ? Ink : "c9c2b4"));
            items.Add(Label($"{top * i / 4:0.#%}", ChartLeft - 34, y - 6));
        }
        foreach (var day in (int[])[0, (int)r.Window / 2, (int)r.Window])
            items.Add(
                Label(
                    day == (int)r.Window ? $"{day} days" : $"{day}",
                    ChartLeft + ChartWidth * day / Math.Max(1, (int)r.Window) - 4,
                    ChartTop + ChartHeight + 4
                )
            );
        for (var i = 0; i < lines.Count; i++)
        {
            var (curve, (color, drawn, every)) = (lines[i].Curve, Looks[i]);
            var step = ChartWidth / Math.Max(1, curve.Count - 1);
            double Y(int day) => ChartTop + ChartHeight * (1 - curve[day] / top);
            for (var day = 0; day < curve.Count - 1; day++)
            {
                if (day / 2 % every == 0)
                    items.Add(new RectangleItem(ChartLeft + day * step, Y(day) - 0.7, Math.Max(step * drawn, 0.8), 1.4, color));
                if (Y(day) - Y(day + 1) > 1.4)
                    items.Add(new RectangleItem(ChartLeft + (day + 1) * step - 0.35, Y(day + 1), 0.7, Y(day) - Y(day + 1), color));
            }
            items.Add(Label($"{lines[i].Name}, {curve[^1]:0.#%}", ChartLeft + ChartWidth - 90, Y(curve.Count - 1) - 15));
        }
        return page with { Items = items };
    }

    LineItem Label(string text, double x, double y)
    {
        var style = new TextStyle("Source Sans 3", 8.5, Color: Ink);
        return new(x, y, new ParagraphLayout(letters.Fonts).Set([new(text, style)], style, new(TextAlign.Left, 1, 0), 1000, new())[0]);
    }

    ComposedPiece Compose(IReadOnlyList<JsonNode> content)
    {
        var document = new JsonObject
        {
            ["page"] = new JsonObject { ["sheet"] = letters.Sheet },
            ["type"] = new JsonObject
            {
                ["family"] = "Source Sans 3",
                ["size"] = 10,
                ["lineSpacing"] = 1.3,
                ["spaceAfter"] = 6,
            },
            ["content"] = new JsonArray([.. content]),
        };
        return DesignReader
            .Bind(document.ToJsonString(), new LetterSetting([], OrganizationLocale.UnitedStates, letters.Fonts))
            .Composer(letters.Today)
            .Compose(new ArrayRow([]), 0);
    }

    static JsonObject Node(string type, object? attrs, params IEnumerable<JsonNode> content) =>
        new()
        {
            ["type"] = type,
            ["attrs"] = JsonSerializer.SerializeToNode(attrs ?? new { }),
            ["content"] = new JsonArray([.. content]),
        };

    // Names may hold braces, which are no fields here.
    static JsonObject Text(string text) => new() { ["type"] = "text", ["text"] = Template.Escape(text.Length == 0 ? " " : text) };

    static JsonObject Paragraph(string text) => Node("paragraph", null, Text(text));

    static JsonObject Table(int[] widths, string[] heads, IReadOnlyList<string[]> rows)
    {
        JsonNode Row(string kind, string[] cells) =>
            Node("tableRow", null, cells.Select((x, i) => (JsonNode)Node(kind, new { colwidth = new[] { widths[i] } }, Paragraph(x))));
        return Node("table", null, [Row("tableHeader", heads), .. rows.Select(r => Row("tableCell", r))]);
    }
}
