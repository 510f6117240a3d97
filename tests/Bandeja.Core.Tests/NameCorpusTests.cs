using Bandeja.Core.Addressing;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;
using Bandeja.Core.Tests.Corpus;
using Bandeja.Core.Texts;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>Whole names come apart rightly, or are left alone; nobody greets a company or an estate by a first name.</summary>
public sealed class NameCorpusTests
{
    [Fact]
    public void Nearly_all_of_a_thousand_names_come_apart_rightly()
    {
        var all = NameCorpus.All();
        Assert.Equal((1000, 25), (all.Count, all.Select(n => n.Culture).Distinct().Count()));
        var wrong = all.Where(n => n.Parts is { } parts && NameParts.Of(n.Name) != parts)
            .Select(n => $"{n.Culture}: {n.Name} is {NameParts.Of(n.Name)}")
            .Distinct()
            .ToList();
        Assert.True(wrong.Count <= 20, $"{wrong.Count}\n{string.Join('\n', wrong)}");
    }

    static readonly Role[] Roles = [.. CellParts.RolesOf(Role.FullName)];
    static readonly Column[] Columns = [.. Roles.Select((r, i) => new Column(i + 1, r.ToString(), ColumnType.Text, r))];

    static (string Greeting, string Name) Of(string name)
    {
        var row = new ArrayRow(CellParts.Divide(name, Role.FullName, Places.Countries.Named("US")!));
        var address = new DeliveryAddress([.. Columns, new(50, "City", ColumnType.Text, Role.City)], "US").Write(
            new ArrayRow([.. CellParts.Divide(name, Role.FullName, Places.Countries.Named("US")!), "Fernquay"])
        );
        return (
            new Salutation(Columns, SalutationLadders.First).Of(row, OrganizationLocale.UnitedStates).Text,
            string.Join('|', address.Where(l => l.Kind is AddressLineKind.Name or AddressLineKind.Organization).Select(l => l.Text))
        );
    }

    [Theory]
    [InlineData("Acme Hardware, Inc.", "Dear Acme Hardware, Inc.,", "Acme Hardware, Inc.")]
    [InlineData("The Rivera Family Foundation", "Dear The Rivera Family Foundation,", "The Rivera Family Foundation")]
    [InlineData("Estate of Harold Whitcomb", "Dear Estate of Harold Whitcomb,", "Estate of Harold Whitcomb")]
    [InlineData("Current Resident", "Dear Current Resident,", "Current Resident")]
    [InlineData("Mr. and Mrs. John Q. Public III", "Dear Mr. Public and Mrs. Public,", "Mr. and Mrs. John Q. Public III")]
    [InlineData("Mr. & Mrs. Ed Klein", "Dear Mr. Klein and Mrs. Klein,", "Mr. and Mrs. Ed Klein")]
    [InlineData("O'Neill, Dr. Siobhan", "Dear Dr. O'Neill,", "Dr. Siobhan O'Neill")]
    [InlineData("Dr. Ana Okafor, PhD", "Dear Dr. Okafor,", "Dr. Ana Okafor, PhD")]
    [InlineData("Frank Church", "Dear Frank,", "Frank Church")]
    [InlineData("The Ortega Family", "Dear Ortega Family,", "The Ortega Family")]
    [InlineData("John E. Smith", "Dear John E.,", "John E. Smith")]
    [InlineData("Robert (Bob) Klein", "Dear Robert,", "Robert Klein")]
    [InlineData("Ana, Luis and Per Klein", "Dear friend,", "Ana, Luis and Per Klein")]
    [InlineData("Okafor,Ana", "Dear Ana,", "Ana Okafor")]
    [InlineData("Ortega y Gasset, José", "Dear José,", "José Ortega y Gasset")]
    [InlineData("Ana Okafor, Ph.D., R.N.", "Dear Ana,", "Ana Okafor, Ph.D., R.N.")]
    [InlineData("Jane Smith or Current Resident", "Dear friend,", "Jane Smith or Current Resident")]
    [InlineData("Acme Hardware or current occupant", "Dear Acme Hardware or current occupant,", "Acme Hardware or current occupant")]
    [InlineData("Herr und Frau Vogel", "Dear Herr Vogel and Frau Vogel,", "Herr and Frau Vogel")]
    public void A_whole_name_is_greeted_and_addressed(string name, string greeting, string addressed) =>
        Assert.Equal((greeting, addressed), Of(name));

    [Theory]
    [InlineData("Smith & Sons")]
    [InlineData("Whitcomb Living Trust")]
    [InlineData("Heirs of Ana Okafor")]
    [InlineData("First Church of Fernquay")]
    [InlineData("Grace Lutheran Church")]
    [InlineData("Bank of Fernquay")]
    [InlineData("Martin's Garden Center")]
    [InlineData("Stadtbücherei Köln")]
    [InlineData("Our Neighbor")]
    [InlineData("Rose City Books")]
    public void Companies_estates_and_nobody_have_no_first_name(string name)
    {
        var parts = NameParts.Of(name);
        Assert.True(parts.Given is null && (parts.Organization == name || !parts.IsCertain && parts.Family == name), parts.ToString());
    }

    [Property(MaxTest = 500)]
    public void Nothing_of_a_name_is_lost(string? name)
    {
        if (name is null)
            return;
        var parts = NameParts.Of(name);
        var said = FoldedText.Of(
            string.Join(
                ' ',
                parts.Title,
                parts.Given,
                parts.Family,
                parts.Suffix,
                parts.PartnerTitle,
                parts.PartnerGiven,
                parts.PartnerFamily,
                parts.Organization,
                parts.Household
            )
        );
        foreach (var word in FoldedText.Of(name).Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries))
            if (word.Length > 3 && word.All(char.IsLetterOrDigit))
                Assert.Contains(word, said);
    }
}
