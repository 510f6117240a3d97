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
        Assert.Equal(SampleText.All.Where(s => shown.Contains($"\"{s}\"", StringComparison.Ordinal)).Order(), unset.Order());
        if (starter.Kind != PieceKind.Labels)
            Assert.NotEmpty(unset);
    }

    [Theory]
    [InlineData("""{"content":[{"type":"paragraph","content":[{"type":"text","text":"Your name will be on the list."}]}]}""", 0)]
    [InlineData("""{"content":[{"type":"paragraph","content":[{"type":"text","text":" Your name "}]}]}""", 1)]
    [InlineData(
        """{"content":[{"type":"bulletList","content":[{"type":"listItem","content":[{"type":"paragraph","content":[{"type":"text","text":"Your street"}]}]}]}]}""",
        1
    )]
    [InlineData(
        """{"content":[{"type":"paragraph"}],"footer":[{"type":"paragraph","content":[{"type":"text","text":"Your street"}]}]}""",
        1
    )]
    [InlineData(
        """{"content":[{"type":"table","content":[{"type":"tableRow","content":[{"type":"tableCell","content":[{"type":"paragraph","content":[{"type":"field","attrs":{"source":"First"}},{"type":"text","text":"Your street"}]}]}]}]}]}""",
        1
    )]
    public void It_is_found_where_it_stands_alone(string document, int found) =>
        Assert.Equal(found, In(JsonNode.Parse(document)!.AsObject()).Count);

    [Fact]
    public void What_the_editor_begins_boxes_with_is_known()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder.FullName, "Bandeja.slnx")))
            folder = folder.Parent!;
        var editor = File.ReadAllText(Path.Combine(folder.FullName, "web/src/surfaces/surface.ts"));
        Assert.All(
            SampleText.All.Where(t => t is not ("Your organization" or "Your name")),
            t => Assert.Contains(t, editor, StringComparison.Ordinal)
        );
    }
}
