using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Formats.Documents;

namespace Bandeja.Formats.Tests.Documents;

/// <summary>Documents brought in for the tests, held against a made-up list.</summary>
static class Brought
{
    public static readonly PlaceholderSetting Members = new(
        [
            new(1, "First name", ColumnType.Text, Role.GivenName),
            new(2, "Last name", ColumnType.Text, Role.FamilyName),
            new(3, "Street", ColumnType.Text, Role.Street),
            new(4, "City", ColumnType.Text, Role.City),
            new(5, "State", ColumnType.Text, Role.Region),
            new(6, "ZIP", ColumnType.Text, Role.PostalCode),
            new(7, "Amount due", ColumnType.Number, Role.None),
            new(8, "Level", ColumnType.Text, Role.None),
            new(9, "Renewal date", ColumnType.Date, Role.None),
            new(10, "Renewed", ColumnType.YesNo, Role.None),
        ],
        [new(1, "Visits", [new(1, "Visit date", ColumnType.Date, Role.None), new(2, "Guests", ColumnType.Number, Role.None)])],
        OrganizationLocale.UnitedStates
    );

    public static DocumentRead Read(byte[] file, string name = "letter.docx")
    {
        var path = Path.Combine(Path.GetTempPath(), $"bandeja-{Guid.NewGuid():N}.docx");
        try
        {
            File.WriteAllBytes(path, file);
            return DocumentFile.Read(path, name);
        }
        finally
        {
            File.Delete(path);
        }
    }

    public static DocumentRead Read(string body) => Read(new MadeDocx().Body(body).File());

    public static PlacedDocument Place(
        string body,
        PlaceholderSetting? setting = null,
        IReadOnlyList<TagMarks>? marks = null,
        IReadOnlyDictionary<string, PlaceholderAnswer>? answers = null
    ) => Placing.Of(Read(body).Document, setting ?? Members, marks, answers);

    /// <summary>The letter's text, fields and brackets in braces.</summary>
    public static IReadOnlyList<string> Lines(PlacedDocument placed) => LetterText.Lines(LetterReader.Read(placed.Letter));

    public static IReadOnlyList<string> Lines(string body, IReadOnlyDictionary<string, PlaceholderAnswer>? answers = null) =>
        Lines(Place(body, answers: answers));

    public static JsonArray Content(DocumentRead read) => JsonNode.Parse(read.Document.Letter)!["content"]!.AsArray();
}
