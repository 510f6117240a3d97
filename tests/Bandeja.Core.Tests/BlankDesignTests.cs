using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Places;
using Bandeja.Core.Starters;
using Bandeja.Core.Surfaces;

namespace Bandeja.Core.Tests;

/// <summary>What a design begins with where no starter was chosen.</summary>
public sealed class BlankDesignTests
{
    static StarterWords In(string country) => new("Kiefernhof", ["Am Anger 3", "01067 Dresden"], Sheet: CountryCustoms.Of(country).Sheet);

    public static TheoryData<PieceKind> Kinds => [.. Enum.GetValues<PieceKind>()];

    [Theory]
    [MemberData(nameof(Kinds))]
    public void Each_kind_begins_with_itself_or_with_a_file(PieceKind kind)
    {
        foreach (var country in (string[])["US", "CA", "DE", "JP", "MX"])
            if (BlankDesign.Of(kind, In(country)) is { } blank)
                Assert.Equal(kind, DesignReader.Validate(blank.ToJsonString()));
            else
                Assert.True(kind.Rules().IsFile);
    }

    [Theory]
    [InlineData("US", 215.9, 279.4, 241.3, 104.775, 66.675)]
    [InlineData("CA", 215.9, 279.4, 241.3, 104.775, 66.675)]
    [InlineData("DE", 210, 297, 220, 110, 63.5)]
    [InlineData("GB", 210, 297, 220, 110, 63.5)]
    public void Paper_envelopes_and_labels_are_those_of_the_country(
        string country,
        double width,
        double height,
        double envelopeWidth,
        double envelopeHeight,
        double labelWidth
    )
    {
        var letter = LetterReader.Read(BlankDesign.Of(PieceKind.Letter, In(country))!.ToJsonString());
        Assert.Equal((width, height), (Math.Round(letter.Page.Width / 72 * 25.4, 1), Math.Round(letter.Page.Height / 72 * 25.4, 1)));
        var envelope = Surface(PieceKind.Envelope, country);
        Assert.Equal((envelopeWidth, envelopeHeight), (Millimeters(envelope.Width), Millimeters(envelope.Height)));
        Assert.Equal(labelWidth, Millimeters(Surface(PieceKind.Labels, country).Width));
    }

    static SurfaceDesign Surface(PieceKind kind, string country) =>
        SurfaceReader.Read(JsonNode.Parse(BlankDesign.Of(kind, In(country))!.ToJsonString())!.AsObject());

    static double Millimeters(double points) => Math.Round(points / 72 * 25.4, 3);
}
