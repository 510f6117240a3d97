using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Documents;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>What was meant as a field and prints as it is, is found; ordinary text in brackets is not.</summary>
public sealed class LooseTagsTests
{
    static readonly Column[] Columns =
    [
        new(1, "First", ColumnType.Text, Role.GivenName),
        new(2, "Last", ColumnType.Text, Role.FamilyName),
        new(3, "City", ColumnType.Text, Role.City),
        new(4, "Gift (2026)", ColumnType.Number, Role.None),
        new(5, "Org", ColumnType.Text, Role.Organization),
    ];

    static string Found(string text) =>
        string.Join("; ", LooseTags.Find(text, new(Columns, [], OrganizationLocale.UnitedStates)).Select(t => $"{t.Written} {t.Field}"));

    [Theory]
    [InlineData("Dear [First Name],", "[First Name] First")]
    [InlineData("Dear [FIRST],", "[FIRST] First")]
    [InlineData("Dear <First name>,", "<First name> First")]
    [InlineData("Dear <<Nickname>>,", "<<Nickname>> ")]
    [InlineData("Dear [[first_name]] of [[Town]]", "[[first_name]] First; [[Town]] City")]
    [InlineData("Dear «First»,", "«First» First")]
    [InlineData("<<if City>>x<<end>>", "<<if City>> ; <<end>> ")]
    [InlineData("Dear %City%,", "%City% City")]
    [InlineData("[Date]", "[Date] Today | date long")]
    [InlineData("[Name], you gave [Gift (2026)].", "[Name] Given and family name; [Gift (2026)] `Gift (2026)`")]
    [InlineData("[insert date here] and <Enter amount>", "[insert date here] ; <Enter amount> ")]
    [InlineData("[Your name]", "[Your name] ")]
    [InlineData("[City] and [City]", "[City] City")]
    [InlineData("<<member.city>> [ Org ]", "<<member.city>> City; [ Org ] Org")]
    [InlineData("Dear \uFFFC},", "} ")]
    public void What_was_meant_as_a_field_is_found(string text, string found) => Assert.Equal(found, Found(text));

    [Theory]
    [InlineData("")]
    [InlineData("Dear friend [sic], see note [1] and [a].")]
    [InlineData("He said «gracias» and «muchas gracias».")]
    [InlineData("Write to Ana <ana@example.org> or [anyone at the office].")]
    [InlineData("Growth of 5% to 10% and 3 < 4 > 2")]
    [InlineData("Yes [ ] No [ ] <- tick one ->")]
    [InlineData("(First) (City)")]
    [InlineData("Write to <ana@example.org>, [ana@example.org], <<ana@example.org>>, or see <https://example.org>.")]
    [InlineData("Page [1.City] and <b.city>")]
    [InlineData("First, City, Last")]
    [InlineData("a set {1, 2} and a brace } alone")]
    [InlineData("\uFFFC City [\uFFFC]")]
    public void Ordinary_text_is_not(string text) => Assert.Equal("", Found(text));

    static JsonObject Node(string type, params JsonNode[] content) => new() { ["type"] = type, ["content"] = new JsonArray(content) };

    static JsonObject Text(string text, bool bold = false) =>
        bold
            ? new()
            {
                ["type"] = "text",
                ["text"] = text,
                ["marks"] = new JsonArray(new JsonObject { ["type"] = "bold" }),
            }
            : new() { ["type"] = "text", ["text"] = text };

    static JsonObject Field(string source) =>
        new()
        {
            ["type"] = "field",
            ["attrs"] = new JsonObject { ["source"] = source },
        };

    static IEnumerable<string> In(JsonObject letter) =>
        LooseTags
            .In(DesignReader.Bind(letter.ToJsonString(), new LetterSetting(Columns, new("en-US", "USD"), TestFonts.Library)))
            .Select(t => t.Written);

    [Fact]
    public void It_is_found_wherever_text_stands_and_over_changes_of_its_look()
    {
        var letter = new JsonObject
        {
            ["content"] = new JsonArray(
                Node("paragraph", Text("Dear ["), Text("First", bold: true), Text(" name], your {First}")),
                Node("paragraph", Text("[Field ended"), Field("Last"), Text("]")),
                Node("bulletList", Node("listItem", Node("paragraph", Text("[City]")))),
                Node("table", Node("tableRow", Node("tableCell", Node("paragraph", Text("<<Plot>>"))))),
                Node("paragraph", Text("[Last")),
                Node("paragraph", Text("]"))
            ),
            ["footer"] = new JsonArray(Node("paragraph", Text("[Date]"))),
        };
        Assert.Equal(["<<Plot>>", "[City]", "[Date]", "[First name]"], In(letter).Order(StringComparer.Ordinal));
    }

    [Property(MaxTest = 300)]
    public void Whatever_the_text_what_is_found_stands_in_it(string? text)
    {
        var all = LooseTags.Find(text ?? "", new(Columns, [], OrganizationLocale.UnitedStates));
        Assert.All(all, t => Assert.Contains(t.Written, text));
    }
}
