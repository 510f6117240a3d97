using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Tests;

/// <summary>Letters written down in short, in the stored form that the editor works with, and what comes of them.</summary>
static class Doc
{
    public static readonly Column[] Columns =
    [
        new(1, "First", ColumnType.Text, Role.GivenName),
        new(2, "Last", ColumnType.Text, Role.FamilyName),
        new(3, "Street", ColumnType.Text, Role.Street),
        new(4, "City", ColumnType.Text, Role.City),
        new(5, "Amount", ColumnType.Number, Role.None),
        new(6, "Language", ColumnType.Text, Role.Language),
        new(7, "Photo", ColumnType.Text, Role.None),
        new(8, "Country", ColumnType.Text, Role.Country),
        new(9, "Date", ColumnType.Date, Role.None),
    ];
    public static readonly DetailSet[] Details =
    [
        new(1, "Gifts", [new(1, "Plant", ColumnType.Text, Role.None), new(2, "Gift", ColumnType.Number, Role.None)]),
    ];
    public const string Sentence = "The glasshouse is quieter without you; in nine years you have walked the riverside path with us. ";

    public static JsonObject Node(string type, object? attrs = null, params JsonNode[] content)
    {
        var node = new JsonObject { ["type"] = type };
        if (attrs is not null)
            node["attrs"] = System.Text.Json.JsonSerializer.SerializeToNode(attrs);
        if (content.Length > 0)
            node["content"] = new JsonArray([.. content.Select(c => c.Parent is null ? c : c.DeepClone())]);
        return node;
    }

    public static JsonObject T(string text, params string[] marks)
    {
        var node = new JsonObject { ["type"] = "text", ["text"] = text };
        if (marks.Length > 0)
            node["marks"] = new JsonArray([.. marks.Select(m => new JsonObject { ["type"] = m })]);
        return node;
    }

    public static JsonObject F(string source) => Node("field", new { source });

    public static JsonObject M(string source) => Node("marker", new { source });

    /// <summary>A paragraph of texts, in which braces are fields and brackets.</summary>
    public static JsonObject P(string text) => text.Length == 0 ? Node("paragraph") : Node("paragraph", null, T(text));

    public static JsonObject P(object attrs, params JsonNode[] content) => Node("paragraph", attrs, content);

    public static JsonObject H(int level, string text) => Node("heading", new { level }, T(text));

    public static JsonObject Cell(string text, bool heading = false, int colspan = 1, int rowspan = 1, string? shade = null) =>
        Node(
            heading ? "tableHeader" : "tableCell",
            new
            {
                colspan,
                rowspan,
                shade,
            },
            P(text)
        );

    public static JsonObject Row(params JsonNode[] cells) => Node("tableRow", null, cells);

    public static JsonObject RowIn(string bracket, params JsonNode[] cells) => Node("tableRow", new { bracket }, cells);

    public static JsonObject Table(params JsonNode[] rows) => Node("table", null, rows);

    public static string Letter(IEnumerable<JsonNode> content, JsonObject? with = null)
    {
        var letter = new JsonObject { ["content"] = new JsonArray([.. content.Select(c => c.Parent is null ? c : c.DeepClone())]) };
        foreach (var (key, value) in with ?? [])
            letter[key] = value?.DeepClone();
        return letter.ToJsonString();
    }

    public static BoundLetter Bound(string json, Func<string, PictureFacts?>? pictures = null) =>
        new(
            LetterReader.Read(json),
            new LetterSetting(
                Columns,
                OrganizationLocale.UnitedStates,
                TestFonts.Library,
                Details,
                null,
                pictures,
                "Fernquay Botanic Garden"
            )
        );

    public static IRow Person(
        string? first = "Ana",
        string? last = "Okafor",
        string? amount = "64",
        string? language = null,
        string? photo = null,
        (string? Plant, string? Gift)[]? gifts = null,
        string? country = null,
        string? date = "2027-02-28"
    ) =>
        new ArrayRow(
            [first, last, "2291 Lantern Row", "Alder Point", amount, language, photo, country, date],
            _ => [.. (gifts ?? []).Select(g => (IRow)new ArrayRow([g.Plant, g.Gift]))]
        );

    public static ComposedPiece Compose(string json, IRow? person = null) =>
        new LetterComposer(Bound(json), new(2027, 3, 12)).Compose(person ?? Person(), 12);

    /// <summary>The text of all pages, a line a line.</summary>
    public static string Text(ComposedPiece letter) => string.Join("\n", letter.Pages.Select(p => p.Text()));

    /// <summary>Everything on a page with its place on the sheet, shared parts resolved.</summary>
    public static IEnumerable<(PageItem Item, double X, double Y)> Items(LaidOutPage page) =>
        page.Items.SelectMany(i => i is SharedItem s ? s.Part.Items.Select(p => (p, s.X + p.X, s.Y + p.Y)) : [(i, i.X, i.Y)]);

    /// <summary>The lines of a page with the place of their baselines.</summary>
    public static IEnumerable<(string Text, double X, double Y, TextLine Line)> Lines(LaidOutPage page) =>
        Items(page)
            .Where(i => i.Item is LineItem)
            .Select(i =>
                (
                    string.Concat(((LineItem)i.Item).Line.Runs.SelectMany(r => r.Words).Select(w => w.Text)),
                    i.X + (((LineItem)i.Item).Line.Runs.FirstOrDefault()?.X ?? 0),
                    i.Y,
                    ((LineItem)i.Item).Line
                )
            );
}
