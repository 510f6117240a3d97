using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Language;
using Bandeja.Core.Places;
using Bandeja.Core.Starters;

namespace Bandeja.Core.Tests;

/// <summary>Designs to start from, and what is usual in a country.</summary>
public sealed class StarterTests
{
    static readonly StarterWords Garden = new(
        "Fernquay Botanic Garden",
        ["14 Quay Road", "Fernquay OR 97412"],
        "Marisol Quint",
        "Keeper of Members",
        "office@example.org"
    );

    public static TheoryData<string> Ids => [.. Starter.All.Select(s => s.Id)];

    [Fact]
    public void There_are_ten_of_the_kinds_that_are_promised()
    {
        Assert.Equal(10, Starter.All.Count);
        Assert.Equal(10, Starter.All.Select(s => s.Id).Distinct().Count());
        Assert.Equal(10, Starter.All.Select(s => s.Name).Distinct().Count());
        Assert.Equal(6, Starter.All.Count(s => s.Kind == PieceKind.Letter));
        Assert.Single(Starter.All, s => s.Kind == PieceKind.Envelope);
        Assert.Single(Starter.All, s => s.Kind == PieceKind.Labels);
        Assert.Equal(2, Starter.All.Count(s => s.Kind == PieceKind.Email));
    }

    [Theory]
    [MemberData(nameof(Ids))]
    public void Each_can_be_read_and_speaks_for_the_organization(string id)
    {
        var starter = Starter.All.Single(s => s.Id == id);
        foreach (var sheet in (string[])["letter", "a4"])
        {
            var document = starter.Write(Garden with { Sheet = sheet }).ToJsonString();
            Assert.Equal(starter.Kind, DesignReader.KindOf(document));
            starter.Kind.Rules().Validate(document, System.Text.Json.Nodes.JsonNode.Parse(document)!.AsObject());
            if (starter.Kind == PieceKind.Letter)
                Assert.Contains($"\"sheet\":\"{sheet}\"", document);
            if (starter.Kind != PieceKind.Labels)
                Assert.Contains("Fernquay Botanic Garden", document);
        }
        // Where nothing is set, words stand that show what belongs there, and what is set in part is used in part.
        var bare = starter.Write(new("", [])).ToJsonString();
        Assert.DoesNotContain("\"text\":\"\"", bare);
        Assert.DoesNotContain("Fernquay", bare);
    }

    /// <summary>Fields ask for roles only, so that a starter fits any list.</summary>
    [Theory]
    [MemberData(nameof(Ids))]
    public void No_field_needs_a_column_of_a_certain_name(string id)
    {
        var document = Starter.All.Single(s => s.Id == id).Write(Garden).ToJsonString();
        foreach (
            System.Text.RegularExpressions.Match m in System.Text.RegularExpressions.Regex.Matches(document, "\"source\":\"([^\"]+)\"")
        )
            Assert.Contains(m.Groups[1].Value.Split(" | ")[0], (string[])["Delivery address", "Salutation", "Today", "Piece number"]);
    }

    [Theory]
    [InlineData("US", "en-US", "USD", "letter")]
    [InlineData("CA", "en-CA", "CAD", "letter")]
    [InlineData("DE", "de-DE", "EUR", "a4")]
    [InlineData("AT", "de-DE", "EUR", "a4")]
    [InlineData("MX", "es-MX", "MXN", "letter")]
    [InlineData("GB", "en-GB", "GBP", "a4")]
    [InlineData("ZZ", "en-GB", "USD", "a4")]
    public void What_is_usual_follows_from_the_country(string country, string locale, string currency, string sheet) =>
        Assert.Equal(new(locale, currency, sheet, InInches: country == "US"), CountryCustoms.Of(country));

    [Fact]
    public void What_is_usual_can_be_set_in_every_country()
    {
        foreach (var country in Countries.All)
        {
            var usual = CountryCustoms.Of(country.Code);
            Assert.Contains(usual.Locale, OrganizationLocale.Known);
            Assert.Matches("^[A-Z]{3}$", usual.Currency);
            Assert.True(LetterReader.Sheets.ContainsKey(usual.Sheet));
        }
    }
}
