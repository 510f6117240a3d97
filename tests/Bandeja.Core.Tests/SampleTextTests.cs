using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Lists;
using Bandeja.Core.Starters;

namespace Bandeja.Core.Tests;

/// <summary>What a starter shows in the place of what the organization has not set is found again, wherever it stands.</summary>
public sealed class SampleTextTests
{
    static IReadOnlyList<string> In(JsonObject document) =>
        SampleText.In(
            DesignReader.Bind(
                document.ToJsonString(),
                new LetterSetting([new Column(1, "First", ColumnType.Text, Role.GivenName)], new("en-US", "USD"), TestFonts.Library)
            )
        );

    public static TheoryData<string, string> Starters =>
        [.. Starter.All.SelectMany(s => ((string[])["letter", "a4"]).Select(sheet => (s.Id, sheet)))];

    [Theory]
    [MemberData(nameof(Starters))]
    public void A_starter_of_an_organization_that_said_nothing_is_not_ready_to_print(string id, string sheet)
    {
        var starter = Starter.All.Single(s => s.Id == id);
        var unset = In(starter.Write(new("", [], Sheet: sheet)));
        var said = starter.Write(new("Meridian Garden", ["1 Quay Road"], "Ana Okafor", Sheet: sheet));
        Assert.Empty(In(said));
        var shown = starter.Write(new("", [], Sheet: sheet)).ToJsonString();
        Assert.Equal(SampleText.All.Where(s => shown.Contains(s, StringComparison.Ordinal)).Order(), unset.Order());
        if (starter.Kind != PieceKind.Labels)
            Assert.NotEmpty(unset);
    }

    static JsonObject Node(string type, params JsonNode[] content) => new() { ["type"] = type, ["content"] = new JsonArray(content) };

    static JsonObject Paragraph(string text) => Node("paragraph", new JsonObject { ["type"] = "text", ["text"] = text });

    static JsonObject Letter(JsonObject block) => new() { ["content"] = new JsonArray(block) };

    [Fact]
    public void It_is_found_where_it_stands_alone()
    {
        var field = new JsonObject
        {
            ["type"] = "field",
            ["attrs"] = new JsonObject { ["source"] = "First" },
        };
        Assert.Empty(In(Letter(Paragraph("Your name will be on the list."))));
        Assert.Equal(["Your name"], In(Letter(Paragraph(" Your name "))));
        Assert.Equal(["Your organization"], In(Letter(Paragraph("Keeper of Members, Your organization"))));
        Assert.Empty(In(Letter(Paragraph("Dear friend, Your organization has helped."))));
        Assert.Equal(["Your street"], In(Letter(Node("bulletList", Node("listItem", Paragraph("Your street"))))));
        var cell = Node("tableCell", Node("paragraph", field, new JsonObject { ["type"] = "text", ["text"] = "Your street" }));
        Assert.Equal(["Your street"], In(Letter(Node("table", Node("tableRow", cell)))));
        // As boxes began in an earlier version.
        Assert.Equal(["City, region, postal code"], In(Letter(Paragraph("City, region, postal code"))));
        var letter = Letter(Paragraph("Dear friends,"));
        letter["footer"] = new JsonArray(Paragraph("Your street"));
        Assert.Equal(["Your street"], In(letter));
    }

    [Fact]
    public void What_the_editor_begins_boxes_with_is_known()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder.FullName, "Bandeja.slnx")))
            folder = folder.Parent!;
        var editor = File.ReadAllText(Path.Combine(folder.FullName, "web/src/surfaces/surface.ts"));
        Assert.All(SampleText.OfBoxes, t => Assert.Contains(t, editor, StringComparison.Ordinal));
    }
}
