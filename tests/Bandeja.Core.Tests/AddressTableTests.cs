using Bandeja.Core.Addressing;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;

namespace Bandeja.Core.Tests;

/// <summary>The addresses of <c>Addresses.tsv</c> come to the lines that the postal guides named there ask for.</summary>
public sealed class AddressTableTests
{
    static readonly Dictionary<string, Role> Keys = new()
    {
        ["T"] = Role.Title,
        ["G"] = Role.GivenName,
        ["M"] = Role.MiddleName,
        ["F"] = Role.FamilyName,
        ["X"] = Role.Suffix,
        ["O"] = Role.Organization,
        ["A"] = Role.Attention,
        ["S"] = Role.Street,
        ["2"] = Role.Street2,
        ["3"] = Role.Street3,
        ["U"] = Role.Unit,
        ["H"] = Role.HouseNumber,
        ["V"] = Role.Locality,
        ["D"] = Role.District,
        ["C"] = Role.City,
        ["R"] = Role.Region,
        ["Z"] = Role.PostalCode,
        ["K"] = Role.Country,
        ["L"] = Role.Language,
        ["PT"] = Role.PartnerTitle,
        ["PG"] = Role.PartnerGivenName,
        ["PF"] = Role.PartnerFamilyName,
        ["W"] = Role.WholeAddress,
    };
    static readonly Column[] Columns = [.. Keys.Values.Select((r, i) => new Column(i + 1, r.ToString(), ColumnType.Text, r))];
    static readonly Role[] Order = [.. Keys.Values];

    static IReadOnlyList<string[]> Rows { get; } = Read();

    static List<string[]> Read()
    {
        using var reader = new StreamReader(typeof(AddressTableTests).Assembly.GetManifestResourceStream("Addresses.tsv")!);
        return [.. reader.ReadToEnd().Split('\n').Where(l => l.Length > 0 && l[0] != '#').Select(l => l.Split('\t'))];
    }

    /// <summary>A row of values by their keys: <c>G=Ana;F=Okafor</c>.</summary>
    internal static (Column[] Columns, ArrayRow Row) Of(string values)
    {
        var row = new string?[Order.Length];
        foreach (var part in values.Split(';', StringSplitOptions.RemoveEmptyEntries))
            row[Array.IndexOf(Order, Keys[part[..part.IndexOf('=')]])] = part[(part.IndexOf('=') + 1)..];
        return (Columns, new(row));
    }

    internal static readonly Dictionary<string, string> Tongues = new()
    {
        ["FR"] = "fr-FR",
        ["DE"] = "de-DE",
        ["ES"] = "es-ES",
        ["IT"] = "it-IT",
        ["NL"] = "nl-NL",
        ["PT"] = "pt-PT",
    };

    public static TheoryData<int> All => [.. Enumerable.Range(0, Rows.Count)];

    [Theory, MemberData(nameof(All))]
    public void An_address_has_its_countrys_lines(int number)
    {
        var row = Rows[number];
        var (columns, values) = Of(row[1]);
        var address = new DeliveryAddress(
            columns,
            row[0],
            CountryLine.Abroad,
            row[3].Contains("sender's language") ? Tongues[row[0]] : "en"
        );
        Assert.Equal(row[2], string.Join('|', address.Write(values).Select(l => l.Text)));
    }

    [Fact]
    public void The_table_is_as_large_as_it_must_be()
    {
        Assert.True(Rows.Count >= 150);
        // Each country of the table of formats is tried, and each country that is known has a format.
        var tried = Rows.Select(r => r[1].Split(";K=") is [_, var k] ? Countries.Named(k.Split(';')[0])?.Code : r[0]).ToHashSet();
        Assert.True(AddressFormat.Countries.Count(tried.Contains) >= 45);
        Assert.All(Countries.All, c => Assert.Contains(c.Code, AddressFormat.Countries));
        Assert.True(AddressFormat.Countries.Count >= 249);
        Assert.All(AddressFormat.Countries, c => Assert.False(string.IsNullOrWhiteSpace(AddressFormat.Of(c).Source)));
    }

    [Theory]
    [InlineData(CountryLine.Abroad, "US", "US", null)]
    [InlineData(CountryLine.Abroad, "DE", "US", "GERMANY")]
    [InlineData(CountryLine.Always, "US", "US", "UNITED STATES")]
    [InlineData(CountryLine.Always, "", "US", "UNITED STATES")]
    [InlineData(CountryLine.Always, "DE", "US", "GERMANY")]
    [InlineData(CountryLine.Never, "DE", "US", null)]
    [InlineData(CountryLine.Never, "Atlantis", "US", null)]
    [InlineData(CountryLine.Abroad, "Atlantis", "US", "ATLANTIS")]
    public void The_country_stands_last_as_it_was_asked_for(CountryLine when, string country, string home, string? line)
    {
        var (columns, row) = Of($"G=Ana;F=Adler;S=Lindenstraße 12;C=Köln;Z=50667{(country.Length > 0 ? $";K={country}" : "")}");
        var lines = new DeliveryAddress(columns, home, when).Write(row);
        Assert.Equal(line, lines[^1].Kind == AddressLineKind.Country ? lines[^1].Text : null);
    }

    [Theory]
    [InlineData("G=Ana;C=Fernquay;Z=97412", "NoStreet")]
    [InlineData("G=Ana;S=14 Quay Road", "NoPlace")]
    [InlineData("S=14 Quay Road;C=Fernquay", "NoAddressee")]
    [InlineData("O=Okafor Ceramics;S=14 Quay Road;C=Fernquay", "")]
    [InlineData("G=Ana;S=1 Road;C=Here;K=Atlantis", "UnknownCountry Atlantis")]
    [InlineData("G=Ana;S=17 MAPLE CRESCENT;C=NELSON BC CANADA", "CountryInCity NELSON BC CANADA")]
    [InlineData("G=Ana;S=17 Maple Crescent;C=Nelson, Canada;K=Canada", "CountryInCity Nelson, Canada")]
    [InlineData("G=Ana;S=1 Road;C=Ciudad de México;K=Mexico", "")]
    [InlineData("G=Ana;S=1 Road;C=Fernquay, OR;Z=97412", "")]
    [InlineData("G=Ana;S=1 Road;C=Luxembourg;K=Luxembourg", "")]
    [InlineData("G=Ana;S=1 Road;C=New Holland;Z=17557", "")]
    [InlineData("G=Ana", "")]
    public void What_is_wrong_is_told(string values, string problems)
    {
        var (columns, row) = Of(values);
        var address = new DeliveryAddress(columns, "US");
        address.Write(row);
        Assert.Equal(problems, string.Join('|', address.Problems.Select(p => $"{p.Issue} {p.Value}".Trim())));
    }

    [Theory]
    [InlineData("Street", "US", "14 Northeast Lake View Boulevard", 26, "14 NE Lake View Blvd")]
    [InlineData("Street", "US", "14 Quay Road Apartment 3", 22, "14 Quay Rd Apartment 3")]
    [InlineData("Street", "US", "14 Quay Road Apartment 3", 18, "14 Quay Rd Apt 3")]
    [InlineData("Street", "US", "14 Quay Road", 40, "14 Quay Road")]
    [InlineData("Street", "US", "14 QUAY ROAD", 11, "14 QUAY RD")]
    [InlineData("Street", "FR", "22 boulevard de la Résidence", 20, "22 bd de la Res")]
    [InlineData("Street", "DE", "An der alten Lindenstraße 12", 26, "An der alten Lindenstr. 12")]
    [InlineData("Street", "NL", "Grote Kerkstraat 7", 17, "Grote Kerkstr. 7")]
    [InlineData("Street", "ES", "Avenida de la Constitución 5", 27, "Avda. de la Constitución 5")]
    [InlineData("Organization", "US", "Fernquay Horticultural Society and Association", 38, "Fernquay Horticultural Society & Assn")]
    [InlineData("Organization", "US", "American Trading Company", 21, "American Trading Co")]
    [InlineData("Name", "US", "Ana Maria Guadalupe Okafor", 24, "Ana Maria G. Okafor")]
    [InlineData("Name", "US", "Ana Maria Guadalupe Okafor", 17, "Ana M. G. Okafor")]
    [InlineData("Place", "US", "Fernquay-upon-the-Estuary OR 97412", 10, "Fernquay-upon-the-Estuary OR 97412")]
    public void Lines_are_abbreviated_only_as_far_as_they_must_be(string kind, string country, string line, int room, string shortened) =>
        Assert.Equal(
            shortened.ToLowerInvariant(),
            AddressAbbreviations.Shorten(new(Enum.Parse<AddressLineKind>(kind), line), country, t => t.Length <= room).ToLowerInvariant()
        );

    [Theory]
    [InlineData("510 Northeast Tide Street Apt 3", "510|NE|Tide|St||Apt 3")]
    [InlineData("14 Lake View Road", "14||Lake View|Rd||")]
    [InlineData("210 Quay Ave SW", "210||Quay|Ave|SW|")]
    [InlineData("210 North Court Street", "210|N|Court|St||")]
    [InlineData("88 Broadway", "88||Broadway|||")]
    [InlineData("PO Box 12", "PO Box 12|||||")]
    [InlineData("42nd Street", "||42nd|St||")]
    [InlineData("9 East Way # 4", "9||East|Way||# 4")]
    [InlineData("Harbor Building", "||Harbor Building|||")]
    [InlineData("", "|||||")]
    public void The_parts_of_a_street_line_are_recognized(string line, string parts)
    {
        var street = StreetLine.Of(line);
        Assert.Equal(parts, string.Join('|', street.Number, street.Before, street.Name, street.Suffix, street.After, street.Unit));
    }
}
