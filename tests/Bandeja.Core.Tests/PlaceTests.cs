using Bandeja.Core.Addressing;
using Bandeja.Core.Checks;
using Bandeja.Core.Places;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>Countries, regions and postal codes.</summary>
public sealed class PlaceTests
{
    /// <summary>A right code, one in another form with what it becomes, and one that is none, for each country.</summary>
    [Theory]
    [InlineData("US", "97412", "97412 1234", "97412-1234", "ABCDE")]
    [InlineData("CA", "V8W 1N6", "v8w1n6", "V8W 1N6", "V8W 1NN")]
    [InlineData("GB", "SW1A 1AA", "sw1a1aa", "SW1A 1AA", "12345")]
    [InlineData("IE", "T12 X4P8", "t12x4p8", "T12 X4P8", "1234")]
    [InlineData("DE", "10115", "1 0115", "10115", "101156")]
    [InlineData("FR", "75001", "75 001", "75001", "7500A")]
    [InlineData("ES", "28001", "28-001", "28001", "280011")]
    [InlineData("IT", "00118", "00 118", "00118", "A0118")]
    [InlineData("PT", "1000-001", "1000001", "1000-001", "1000")]
    [InlineData("NL", "1012 AB", "1012ab", "1012 AB", "1012")]
    [InlineData("BE", "1000", "10-00", "1000", "100")]
    [InlineData("LU", "1009", "10 09", "1009", "10099")]
    [InlineData("CH", "8001", "80 01", "8001", "80011")]
    [InlineData("AT", "1010", "10 10", "1010", "101")]
    [InlineData("DK", "1050", "10 50", "1050", "DK")]
    [InlineData("SE", "211 19", "21119", "211 19", "2111")]
    [InlineData("NO", "0150", "01 50", "0150", "01500")]
    [InlineData("FI", "00100", "00 100", "00100", "AB100")]
    [InlineData("PL", "00-001", "00001", "00-001", "0000111")]
    [InlineData("CZ", "110 00", "11000", "110 00", "11A00")]
    [InlineData("GR", "105 57", "10557", "105 57", "1055")]
    [InlineData("TR", "34000", "34 000", "34000", "340000")]
    [InlineData("JP", "060-0042", "0600042", "060-0042", "060-004")]
    [InlineData("KR", "03187", "03 187", "03187", "031877")]
    [InlineData("CN", "100000", "100 000", "100000", "1000000")]
    [InlineData("IN", "110001", "110 001", "110001", "11000A")]
    [InlineData("BR", "01001-000", "01001000", "01001-000", "0100")]
    [InlineData("MX", "06000", "06 000", "06000", "060000")]
    [InlineData("AR", "C1002AAA", "c1002 aaa", "C1002AAA", "C10")]
    [InlineData("AU", "2000", "20 00", "2000", "200000")]
    [InlineData("NZ", "6011", "60-11", "6011", "601")]
    [InlineData("ZA", "8001", "80 01", "8001", "8")]
    public void Postal_codes_by_country(string country, string right, string other, string becomes, string wrong)
    {
        var rule = Countries.Named(country)!;
        Assert.Equal((PostalCodeState.Right, null), PostalCode.Judge(rule, right));
        Assert.Equal((PostalCodeState.OtherForm, becomes), PostalCode.Judge(rule, other));
        Assert.Contains(PostalCode.Judge(rule, wrong).State, new[] { PostalCodeState.Malformed, PostalCodeState.LostZero });
    }

    [Theory]
    [InlineData("US", "2139", "02139")]
    [InlineData("US", "501", "00501")]
    [InlineData("US", "21391234", "02139-1234")]
    [InlineData("DE", "1067", "01067")]
    [InlineData("ES", "8001", "08001")]
    [InlineData("MX", "6000", "06000")]
    [InlineData("NO", "150", "0150")]
    [InlineData("IT", "118", "00118")]
    public void Lost_zeros_come_back(string country, string value, string becomes) =>
        Assert.Equal((PostalCodeState.LostZero, becomes), PostalCode.Judge(Countries.Named(country)!, value));

    [Theory]
    [InlineData("OR", "97412", true)]
    [InlineData("OR", "98412", false)]
    [InlineData("MA", "02139", true)]
    [InlineData("MA", "05501", true)]
    [InlineData("NY", "00501", true)]
    [InlineData("WY", "82001", true)]
    [InlineData("TX", "88510", true)]
    public void American_prefixes(string region, string code, bool belongs) =>
        Assert.Equal(belongs, Countries.Named("US")!.RegionOf(region)!.HasCode(code));

    [Fact]
    public void Regions_and_countries_go_by_many_names()
    {
        Assert.Equal("QC", Countries.Named("Canada")!.RegionOf("québec")!.Code);
        Assert.True(Countries.Named("CA")!.RegionOf("BC")!.HasCode("V8W 1N6"));
        Assert.False(Countries.Named("CA")!.RegionOf("ON")!.HasCode("V8W 1N6"));
        Assert.True(Countries.Named("AU")!.RegionOf("ACT")!.HasCode("2600"));
        foreach (var name in (string[])["USA", "u.s.a.", "Estados Unidos", "us", "United States of America"])
            Assert.Equal("US", Countries.Named(name)!.Code);
        foreach (
            var (name, code) in (ValueTuple<string, string>[])
                [("Deutschland", "DE"), ("Espana", "ES"), ("日本", "JP"), ("Suède", "SE"), ("holland", "NL")]
        )
            Assert.Equal(code, Countries.Named(name)!.Code);
        Assert.Null(Countries.Named("Fernland"));
        Assert.True(Countries.All.Count(c => c.Masks.Count > 0) >= 40);
        Assert.Equal(Countries.All.Count, Countries.All.Select(c => c.Code).Distinct().Count());
    }

    [Theory]
    [InlineData("12 Quay Road, Fernquay, OR 97412", "12 Quay Road", "Fernquay", "OR", "97412")]
    [InlineData("Fernquay OR 97412-1234", null, "Fernquay", "OR", "97412-1234")]
    [InlineData("Victoria BC V8W 1N6", null, "Victoria", "BC", "V8W 1N6")]
    [InlineData("Lindenstrasse 12, 10115 Berlin", "Lindenstrasse 12", "Berlin", null, "10115")]
    [InlineData("3 Abbey Lane, Cork T12 X4P8", "3 Abbey Lane", "Cork", null, "T12 X4P8")]
    [InlineData("1 High Street\nLeeds\nLS1 4AP", "1 High Street", "Leeds", null, "LS1 4AP")]
    public void Addresses_in_one_cell(string text, string? street, string? city, string? region, string? code) =>
        Assert.Equal(new AddressParts(street, city, region, code), AddressParts.Of(text, null));

    [Property(MaxTest = 300)]
    public void Nothing_breaks_on_any_text(string text)
    {
        foreach (var country in Countries.All)
            PostalCode.Judge(country, text ?? "");
        AddressParts.Of(text ?? "", null);
        Countries.Named(text);
        Mojibake.Restore(text ?? "");
        NumberText.Read(text ?? "");
        DateText.Readings(text ?? "", new(2027, 3, 1));
        EmailAddress.IsValid(text ?? "");
    }
}
