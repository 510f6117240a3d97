using Bandeja.Core.Addressing;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Core.Recognition;

namespace Bandeja.Core.Tests;

/// <summary>Names as rolls of owners have them: the family name first, several owners, and how they hold.</summary>
public sealed class NameOrderTests
{
    static readonly Country Home = Countries.Named("US")!;

    static readonly string[] Roll =
    [
        "SMITH JOHN A & MARY B TR",
        "OKAFOR FAMILY TRUST",
        "HARBOR VIEW LLC",
        "DE LA CRUZ MARIA ELENA",
        "LINDQVIST PER",
        "CITY OF FERNQUAY",
        "BRANDT ROBERT L JR",
    ];

    [Fact]
    public void A_roll_of_owners_has_the_family_name_first()
    {
        Assert.True(NameOrder.IsFamilyFirst(Roll));
        Assert.True(CellParts.IsFamilyFirst(Role.FullName, Roll));
        Assert.False(CellParts.IsFamilyFirst(Role.WholeAddress, Roll));
        Assert.True(NameOrder.IsFamilyFirst(["SMITH JOHN A & MARY B TR", "NGUYEN, THANH ET AL", "DE LA CRUZ MARIA ELENA (LE)"]));
    }

    [Theory]
    [InlineData("John A. Smith", "Mary Okafor", "Robert Brandt", "Per Lindqvist")]
    [InlineData("SMITH, JOHN", "OKAFOR, MARY", "BRANDT, ROBERT")]
    [InlineData("SMITH JOHN A", "OKAFOR MARY")]
    [InlineData("Maria de la Cruz", "Jan van der Berg", "Ana Okafor")]
    [InlineData("Mr. John Smith", "Dr. Mary A. Okafor", "Mrs. Jane Lind")]
    [InlineData("SMITH JOHN A", "OKAFOR MARY", "Robert Brandt", "Maria Haas", "LINDQVIST PER")]
    [InlineData("Acme LLC", "City of Salem", "Okafor Family Trust", null, "")]
    [InlineData("James Taylor", "Jordan Thomas", "Ashley Morgan")]
    public void Other_names_do_not(params string?[] names) => Assert.False(NameOrder.IsFamilyFirst(names));

    [Theory]
    [InlineData("SMITH JOHN A", "JOHN A", "SMITH", null, null, null, null)]
    [InlineData("DE LA CRUZ MARIA ELENA", "MARIA ELENA", "DE LA CRUZ", null, null, null, null)]
    [InlineData("VAN DYKE PETER", "PETER", "VAN DYKE", null, null, null, null)]
    [InlineData("BRANDT ROBERT L JR", "ROBERT L", "BRANDT", "JR", null, null, null)]
    [InlineData("BRANDT JR ROBERT", "ROBERT", "BRANDT", "JR", null, null, null)]
    [InlineData("SMITH JOHN A & MARY B TR", "JOHN A", "SMITH", null, "MARY B", "SMITH", null)]
    [InlineData("MCDONALD-O'BRIEN PATRICK J JR & SUSAN", "PATRICK J", "MCDONALD-O'BRIEN", "JR", "SUSAN", "MCDONALD-O'BRIEN", null)]
    [InlineData("SMITH JOHN & OKAFOR MARY", "JOHN", "SMITH", null, "MARY", "OKAFOR", null)]
    [InlineData("NGUYEN THANH ET AL", "THANH", "NGUYEN", null, null, null, null)]
    [InlineData("NGUYEN, THANH ET AL", "THANH", "NGUYEN", null, null, null, null)]
    [InlineData("DE LA CRUZ MARIA (LE)", "MARIA", "DE LA CRUZ", null, null, null, null)]
    [InlineData("John A Smith", "John A", "Smith", null, null, null, null)]
    [InlineData("HARBOR VIEW LLC", null, null, null, null, null, "HARBOR VIEW LLC")]
    [InlineData("SMITH JOHN REV TR", null, null, null, null, null, "SMITH JOHN REV TR")]
    [InlineData("OKAFOR", null, "OKAFOR", null, null, null, null)]
    public void Such_a_name_is_divided(
        string name,
        string? given,
        string? family,
        string? suffix,
        string? partner,
        string? partnerFamily,
        string? organization
    )
    {
        var parts = NameParts.Of(name, familyFirst: true);
        Assert.Equal(
            (given, family, suffix, partner, partnerFamily, organization),
            (parts.Given, parts.Family, parts.Suffix, parts.PartnerGiven, parts.PartnerFamily, parts.Organization)
        );
    }

    [Theory]
    [InlineData("1,000 Friends of Harbor, Inc.")]
    [InlineData("First Baptist Church Trustees")]
    [InlineData("Board of Trustees")]
    [InlineData("ACME,INC")]
    public void An_organization_keeps_its_name_as_it_is(string name)
    {
        foreach (var familyFirst in (bool[])[false, true])
        {
            var parts = NameParts.Of(name, familyFirst);
            Assert.Equal(name, parts.Organization ?? parts.Family);
            Assert.Null(parts.Given);
        }
    }

    [Theory]
    [InlineData("Klein, Mr. & Mrs.", null, "Klein", "Mrs.", null)]
    [InlineData("Klein, Ed & Mrs.", "Ed", "Klein", "Mrs.", null)]
    public void A_title_alone_is_no_given_name(string name, string? given, string family, string partnerTitle, string? partnerGiven)
    {
        var parts = NameParts.Of(name);
        Assert.Equal((given, family, partnerTitle, partnerGiven), (parts.Given, parts.Family, parts.PartnerTitle, parts.PartnerGiven));
    }

    [Theory]
    [InlineData("John Smith et al", "John", "Smith")]
    [InlineData("John and Mary Smith Trustees", "John", "Smith")]
    [InlineData("John Smith TR", "John", "Smith")]
    [InlineData("Ana Tr", "Ana", "Tr")]
    [InlineData("Jan Etal", "Jan", "Etal")]
    [InlineData("Smith , John ,", "John", "Smith")]
    public void How_somebody_owns_is_no_part_of_the_name(string name, string given, string family) =>
        Assert.Equal((given, family), (NameParts.Of(name).Given, NameParts.Of(name).Family));

    [Theory]
    [InlineData("12 Quay Road, Fernquay, OR 97412, USA", "12 Quay Road", "Fernquay", "OR", "97412", "USA")]
    [InlineData("75007 PARIS FRANCE", null, "PARIS", null, "75007", "FRANCE")]
    [InlineData("9 Rue de Bac, 75007 Paris, France", "9 Rue de Bac", "Paris", null, "75007", "France")]
    [InlineData("Victoria BC V8W 1N6 Canada", null, "Victoria", "BC", "V8W 1N6", "Canada")]
    [InlineData("12 Quay Road, West Jordan, UT 84084", "12 Quay Road", "West Jordan", "UT", "84084", null)]
    [InlineData("12 Quay Road, Fernquay, OR, 97412", "12 Quay Road", "Fernquay", "OR", "97412", null)]
    [InlineData("SALEM,OR,97301-1234", null, "SALEM", "OR", "97301-1234", null)]
    [InlineData("BEND OR 977010000", null, "BEND", "OR", "977010000", null)]
    [InlineData("FERNQUAY OR", null, "FERNQUAY", "OR", null, null)]
    [InlineData("12 Quay Road, Fernquay, OR", "12 Quay Road", "Fernquay", "OR", null, null)]
    [InlineData("Lebanon OR 97355", null, "Lebanon", "OR", "97355", null)]
    [InlineData("no address known in France", "no address known in France", null, null, null, null)]
    public void A_country_behind_an_address_is_a_part_of_its_own(
        string whole,
        string? street,
        string? city,
        string? region,
        string? code,
        string? country
    ) => Assert.Equal([street, city, region, code, country], CellParts.Divide(whole, Role.WholeAddress, Home));

    [Fact]
    public void Any_name_is_divided_without_losing_a_word_that_is_of_it()
    {
        var words = (string[])["SMITH", "JOHN", "MARY", "DE", "LA", "CRUZ", "A", "JR", "&", "TR", "ET", "AL", ",", "DR", "LLC", "(LE)"];
        var random = new Random(7);
        for (var n = 0; n < 20_000; n++)
        {
            var name = string.Join(' ', Enumerable.Range(0, random.Next(1, 8)).Select(_ => words[random.Next(words.Length)]));
            foreach (var familyFirst in (bool[])[false, true])
            {
                var parts = CellParts.Divide(name, Role.FullName, Home, familyFirst);
                Assert.All(parts.OfType<string>(), p => Assert.False(string.IsNullOrWhiteSpace(p), name));
                var kept = string.Join(' ', parts.OfType<string>());
                // A name that can be told apart keeps who it is of.
                Assert.True(!name.Contains("JOHN") || kept.Contains("JOHN"), $"{name}: {kept}");
                Assert.True(!name.Contains("CRUZ") || kept.Contains("CRUZ"), $"{name}: {kept}");
            }
        }
    }
}
