using Bandeja.Core.Addressing;
using Bandeja.Core.Texts;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>Capitals follow the language.</summary>
public sealed class CapitalsTests
{
    [Theory]
    [InlineData("el", "Αθήνα", "ΑΘΗΝΑ")]
    [InlineData("el", "ΑΘΉΝΑ", "ΑΘΗΝΑ")]
    [InlineData("el", "Μαΐου", "ΜΑΪΟΥ")]
    [InlineData("el", "άυλος", "ΑΫΛΟΣ")]
    [InlineData("el", "Ζωής", "ΖΩΗΣ")]
    [InlineData("en", "Πάτρα", "ΠΑΤΡΑ")]
    [InlineData("tr", "İzmir'in ışığı", "İZMİR'İN IŞIĞI")]
    [InlineData("lt", "i\u0307\u0301vairus", "ÍVAIRUS")]
    [InlineData("nl", "IJmuiden", "IJMUIDEN")]
    [InlineData("de", "Gießen", "GIESSEN")]
    [InlineData("fr", "Orléans", "ORLÉANS")]
    public void A_text_in_capitals(string language, string text, string capitals) =>
        Assert.Equal(capitals, Capitals.Upper(text, Capitals.Of(language)));

    [Theory]
    [InlineData("IJSBRAND", "IJsbrand")]
    [InlineData("ijmuiden", "IJmuiden")]
    [InlineData("ΝΙΚΟΣ", "Νικος")]
    public void Names_get_the_capitals_of_their_letters(string name, string right) => Assert.Equal(right, NameCase.Of(name));

    [Theory]
    [InlineData("Herr", "DE", "Herrn Jan Weiß")]
    [InlineData("Herr Dr.", "Österreich", "Herrn Dr. Jan Weiß")]
    [InlineData("Frau", "DE", "Frau Jan Weiß")]
    [InlineData("Herr", "Schweiz", "Herr Jan Weiß")]
    public void In_German_the_addressee_is_in_the_accusative(string title, string country, string line)
    {
        var (columns, row) = AddressTableTests.Of($"T={title};G=Jan;F=Weiß;S=Lindenstraße 12;C=Köln;Z=50667;K={country}");
        Assert.Equal(line, new DeliveryAddress(columns, "US").Write(row)[0].Text);
    }

    [Property]
    public void Any_text_has_capitals(string? text)
    {
        if (text is null || !text.IsNormalized())
            return;
        foreach (var language in (string[])["el", "tr", "lt", "nl", "en"])
            Assert.DoesNotContain(Capitals.Upper(text, Capitals.Of(language)), char.IsAsciiLetterLower);
    }
}
