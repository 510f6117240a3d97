using Bandeja.Core.Addressing;
using Bandeja.Core.Formulas;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using FsCheck;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>Names in the forms the trade uses, and the salutations' ladders.</summary>
public sealed class NameFormTests
{
    static string Form(string values, string form)
    {
        var (columns, row) = AddressTableTests.Of(values);
        var parsed = FieldParser.ParseExpression(form, new Names(columns));
        Assert.Empty(parsed.Errors);
        return Evaluator
            .Evaluate(parsed.Expression, new EvaluationContext(columns, OrganizationLocale.UnitedStates, new(2027, 3, 3)).For(row, 1))
            .Print(OrganizationLocale.UnitedStates);
    }

    public static TheoryData<string, string, string, string, string, string> Names =>
        new()
        {
            // values, name in full, given and family, title and family, family first, household
            {
                "T=Dr.;G=Ana;M=M.;F=Okafor;X=Jr.",
                "Dr. Ana M. Okafor Jr.",
                "Ana Okafor",
                "Dr. Okafor",
                "Okafor, Ana M.",
                "Dr. Ana M. Okafor Jr."
            },
            { "G=Ana;F=Okafor", "Ana Okafor", "Ana Okafor", "", "Okafor, Ana", "Ana Okafor" },
            { "T=Ms.;G=Ana", "Ms. Ana", "Ana", "", "Ana", "Ms. Ana" },
            { "T=Ms.;F=Okafor", "Ms. Okafor", "Okafor", "Ms. Okafor", "Okafor", "Ms. Okafor" },
            { "F=Okafor", "Okafor", "Okafor", "", "Okafor", "Okafor" },
            { "G=Luis;F=Ortega;X=III", "Luis Ortega III", "Luis Ortega", "", "Ortega, Luis", "Luis Ortega III" },
            { "G=Luis;F=Ortega;X=MD", "Luis Ortega, MD", "Luis Ortega", "", "Ortega, Luis", "Luis Ortega, MD" },
            { "G=Saskia;F=van Dijk", "Saskia van Dijk", "Saskia van Dijk", "", "van Dijk, Saskia", "Saskia van Dijk" },
            { "G=Mei;F=Lin;L=zh", "Lin Mei", "Lin Mei", "", "Lin Mei", "Lin Mei" },
            { "G=Haruki;F=Ono;L=Japanese", "Ono Haruki", "Ono Haruki", "", "Ono Haruki", "Ono Haruki" },
            { "G=Anna;F=Kovács;L=hu-HU", "Kovács Anna", "Kovács Anna", "", "Kovács Anna", "Kovács Anna" },
            { "G=Minh;M=Văn;F=Trần;L=vi", "Trần Minh Văn", "Trần Minh", "", "Trần Minh Văn", "Trần Minh Văn" },
            { "G=Mei;F=Lin;L=en", "Mei Lin", "Mei Lin", "", "Lin, Mei", "Mei Lin" },
            { "G=Ana;F=Ortega;PG=Luis", "Ana Ortega", "Ana Ortega", "", "Ortega, Ana", "Ana and Luis Ortega" },
            { "G=Ana;F=Ortega;PG=Luis;PF=Ortega", "Ana Ortega", "Ana Ortega", "", "Ortega, Ana", "Ana and Luis Ortega" },
            { "G=Ana;F=Okafor;PG=Luis;PF=Ortega", "Ana Okafor", "Ana Okafor", "", "Okafor, Ana", "Ana Okafor and Luis Ortega" },
            {
                "T=Dr.;G=Ana;F=Ortega;PT=Mr.;PG=Luis;PF=Ortega",
                "Dr. Ana Ortega",
                "Ana Ortega",
                "Dr. Ortega",
                "Ortega, Ana",
                "Dr. Ana and Mr. Luis Ortega"
            },
            { "G=Ana;F=Ortega;PG=Luis;L=es", "Ana Ortega", "Ana Ortega", "", "Ortega, Ana", "Ana y Luis Ortega" },
            { "G=Jonas;F=Adler;PG=Greta;L=de", "Jonas Adler", "Jonas Adler", "", "Adler, Jonas", "Jonas und Greta Adler" },
            { "PG=Luis;PF=Ortega", "", "", "", "", "Luis Ortega" },
            { "", "", "", "", "", "" },
        };

    [Theory, MemberData(nameof(Names))]
    public void A_name_comes_in_the_forms_of_the_trade(
        string values,
        string full,
        string givenAndFamily,
        string titleAndFamily,
        string familyFirst,
        string household
    )
    {
        Assert.Equal(full, Form(values, "Name in full"));
        Assert.Equal(givenAndFamily, Form(values, "Given and family name"));
        Assert.Equal(titleAndFamily, Form(values, "Title and family name"));
        Assert.Equal(familyFirst, Form(values, "Family name first"));
        Assert.Equal(household, Form(values, "Household name"));
    }

    [Theory]
    [InlineData("en-US", "Dear Dr. Okafor,", 2, "T=Dr.;G=Ana;F=Okafor")]
    [InlineData("en-US", "Dear Ana,", 3, "G=Ana;F=Okafor")]
    [InlineData("en-US", "Dear Ana,", 3, "T=Dr.;G=Ana")]
    [InlineData("en-US", "Dear Okafor Ceramics,", 6, "O=Okafor Ceramics;F=Okafor")]
    [InlineData("en-US", "Dear friend,", 7, "")]
    [InlineData("en-US", "Dear friend,", 7, "F=Okafor")]
    [InlineData("en-US", "Dear Dr. Okafor and Mr. Ortega,", 0, "T=Dr.;F=Okafor;PT=Mr.;PF=Ortega;G=Ana;PG=Luis")]
    [InlineData("en-US", "Dear Ana and Luis,", 1, "F=Okafor;G=Ana;PG=Luis")]
    [InlineData("en-GB", "Dear Ana,", 3, "G=Ana")]
    [InlineData("es-MX", "Hola, Ana:", 3, "G=Ana")]
    [InlineData("es-ES", "Hola, Ana y Luis:", 1, "G=Ana;PG=Luis")]
    [InlineData("es-MX", "Hola:", 7, "")]
    [InlineData("de-DE", "Guten Tag Frau Adler,", 2, "T=Frau;F=Adler")]
    [InlineData("de-CH", "Guten Tag,", 7, "")]
    [InlineData("fr-FR", "Bonjour Mme Moreau,", 2, "T=Mme;F=Moreau")]
    [InlineData("it-IT", "Buongiorno Chiara,", 3, "G=Chiara")]
    [InlineData("nl-NL", "Beste Saskia,", 1, "G=Saskia")]
    [InlineData("pt-BR", "Olá, João,", 3, "G=João")]
    [InlineData("sv-SE", "Hej Elin,", 1, "G=Elin")]
    [InlineData("da-DK", "Kære ven,", 5, "")]
    [InlineData("nb-NO", "Kjære Kari,", 1, "G=Kari")]
    [InlineData("fi-FI", "Hyvä Aino,", 1, "G=Aino")]
    [InlineData("pl-PL", "Dzień dobry, Zofia,", 0, "G=Zofia")]
    [InlineData("cs-CZ", "Dobrý den,", 0, "G=Petr")]
    [InlineData("tr-TR", "Sayın Deniz Yılmaz,", 0, "G=Deniz;F=Yılmaz")]
    [InlineData("tr-TR", "Merhaba,", 2, "G=Deniz")]
    [InlineData("el-GR", "Dear Ελένη,", 3, "G=Ελένη")]
    [InlineData("en-US", "Hola, Ana:", 3, "G=Ana;L=es")]
    [InlineData("en-US", "Bonjour Inès,", 3, "G=Inès;L=French")]
    [InlineData("en-US", "Dear Ms. Okafor,", 2, "T=Ms.;G=Ana;M=Maria;F=Okafor;X=Jr.")]
    [InlineData("en-US", "Dear Prof. van Dijk,", 2, "T=Prof.;F=van Dijk;O=Weston Nursery")]
    [InlineData("en-US", "Dear Ana,", 3, "G= Ana ;F= ")]
    [InlineData("en-US", "Dear Ana and Luis,", 1, "T=Dr.;G=Ana;F=Okafor;PG=Luis")]
    [InlineData("en-US", "Dear Dr. Okafor,", 2, "T=Dr.;G=Ana;F=Okafor;PF=Ortega")]
    [InlineData("en-US", "Dear Ana,", 3, "G=Ana;PF=Ortega")]
    [InlineData("en-CA", "Dear Rosa,", 3, "G=Rosa")]
    [InlineData("en-AU", "Dear Talia,", 3, "G=Talia;F=Reed")]
    [InlineData("en-NZ", "Dear Hana,", 3, "G=Hana;F=Ngata")]
    [InlineData("en-IE", "Dear Aoife and Conor,", 1, "G=Aoife;PG=Conor")]
    [InlineData("es-ES", "Hola, Sra. Soto:", 2, "T=Sra.;G=Pilar;F=Soto")]
    [InlineData("es-US", "Hola, Viveros Soto:", 6, "O=Viveros Soto")]
    [InlineData("es-MX", "Hola, Sr. Ríos y Sra. Paz:", 0, "T=Sr.;F=Ríos;PT=Sra.;PF=Paz")]
    [InlineData("de-DE", "Guten Tag Greta und Jonas,", 1, "G=Greta;PG=Jonas")]
    [InlineData("de-AT", "Guten Tag Huber & Co,", 6, "O=Huber & Co")]
    [InlineData("de-DE", "Guten Tag Dr. Adler und Frau Adler,", 0, "T=Dr.;F=Adler;PT=Frau;PF=Adler")]
    [InlineData("fr-FR", "Bonjour Inès et Luc,", 1, "G=Inès;PG=Luc")]
    [InlineData("fr-CA", "Bonjour,", 7, "F=Tremblay")]
    [InlineData("fr-CH", "Bonjour Atelier Rochat,", 6, "O=Atelier Rochat")]
    [InlineData("it-IT", "Buongiorno Dott.ssa Riva,", 2, "T=Dott.ssa;F=Riva")]
    [InlineData("it-IT", "Buongiorno Chiara e Marco,", 1, "G=Chiara;PG=Marco")]
    [InlineData("nl-NL", "Beste Saskia en Daan,", 0, "G=Saskia;PG=Daan")]
    [InlineData("nl-NL", "Beste lezer,", 5, "T=Mevr.;F=van Dijk")]
    [InlineData("pt-PT", "Olá, Dr. Lobo,", 2, "T=Dr.;F=Lobo")]
    [InlineData("pt-BR", "Olá, João e Ana,", 1, "G=João;PG=Ana")]
    [InlineData("sv-SE", "Hej Elin och Per,", 0, "G=Elin;PG=Per")]
    [InlineData("sv-SE", "Hej Dahls Trädgård,", 4, "O=Dahls Trädgård")]
    [InlineData("da-DK", "Kære Åse og Bo,", 0, "G=Åse;PG=Bo")]
    [InlineData("nb-NO", "Kjære venn,", 5, "T=Dr.;F=Moen")]
    [InlineData("fi-FI", "Hyvä Aino ja Eero,", 0, "G=Aino;PG=Eero")]
    [InlineData("pl-PL", "Dzień dobry,", 1, "F=Król")]
    [InlineData("cs-CZ", "Dobrý den,", 0, "")]
    [InlineData("tr-TR", "Merhaba,", 2, "F=Yılmaz")]
    [InlineData("vi-VN", "Dear Minh,", 3, "G=Minh;F=Trần")]
    [InlineData("en-US", "Guten Tag Jonas,", 3, "G=Jonas;L=de")]
    [InlineData("en-US", "Buongiorno,", 7, "L=Italian")]
    [InlineData("en-US", "Dear Ana,", 3, "G=Ana;L=Klingon")]
    [InlineData("en-US", "Dear O'Neill & Sons,", 6, "O=O'Neill & Sons")]
    [InlineData("en-US", "Dear محمد,", 3, "G=محمد")]
    public void The_first_form_whose_parts_are_there_is_taken(string locale, string text, int rung, string values)
    {
        var (columns, row) = AddressTableTests.Of(values);
        var context = new EvaluationContext(columns, new(locale, "USD"), default).For(row, 1);
        var taken = new Salutation(columns, SalutationLadders.First).Of(row, context.Locale);
        Assert.Equal((rung, text), (taken.Rung, taken.Text));
    }

    static SalutationLadders Ladder(params string[] forms) => new(new Dictionary<string, IReadOnlyList<string>> { ["en"] = forms });

    [Theory]
    [InlineData("Dear {Title} {Family name},|Dear {Given name},|Dear friend of the garden,", "G=Ana", 1, "Dear Ana,")]
    [InlineData("Dear {Title} {Family name},|Dear {Given name},|Dear friend of the garden,", "F=Okafor", 2, "Dear friend of the garden,")]
    [InlineData("{Given name | upper}!", "G=Ana", 0, "ANA!")]
    [InlineData("Dear {Given name | else \"neighbor\"}", "", 0, "Dear neighbor,")]
    [InlineData("Dear {when Title is not blank}{Title} {end}{Family name}", "F=Okafor", 0, "Dear Okafor,")]
    [InlineData("Good day in {City}:", "C=Fernquay", 0, "Good day in Fernquay:")]
    [InlineData("Dear {Given name},", "", Salutation.NoRung, "")]
    [InlineData("Dear {Frist name},|Dear friend", "", 1, "Dear friend,")]
    [InlineData("{Given name}", "G=Ana", 0, "Ana,")]
    public void A_ladder_is_the_organizations_own(string forms, string values, int rung, string text)
    {
        var (columns, row) = AddressTableTests.Of(values);
        var taken = new Salutation(
            columns,
            Ladder(forms.Split('|', StringSplitOptions.None) is var f && forms.Contains(" | ") ? [forms] : f)
        ).Of(row, OrganizationLocale.UnitedStates);
        Assert.Equal((rung, text), (taken.Rung, taken.Text));
    }

    [Fact]
    public void An_own_salutation_wins_and_a_ladder_without_a_last_form_is_told()
    {
        Column[] columns = [new(1, "First", ColumnType.Text, Role.GivenName), new(2, "Greeting", ColumnType.Text, Role.OwnSalutation)];
        var salutation = new Salutation(columns, SalutationLadders.First);
        Assert.Equal(
            (Salutation.OwnRung, "Dearest Mum"),
            (
                salutation.Of(new ArrayRow(["Ana", " Dearest Mum "]), OrganizationLocale.UnitedStates).Rung,
                salutation.Of(new ArrayRow(["Ana", " Dearest Mum "]), OrganizationLocale.UnitedStates).Text
            )
        );
        Assert.Equal("Dear Ana,", salutation.Of(new ArrayRow(["Ana", "  "]), OrganizationLocale.UnitedStates).Text);
        // Who has an own one is counted with the ladder that the others of their language take.
        Assert.Equal("en", salutation.Of(new ArrayRow(["Ελένη", "Αγαπητή Ελένη"]), new("el-GR", "EUR")).Language);
        var context = new EvaluationContext(
            columns,
            OrganizationLocale.UnitedStates,
            default,
            addressing: new(CountryLine.Abroad, Ladder("Dear {Given name},"))
        ).For(new ArrayRow([null, null]), 1);
        Assert.Equal("", Evaluator.Print(FieldParser.ParseExpression("Salutation", new Names(columns)).Expression, context));
        Assert.Contains("last rule", Assert.Single(context.Problems).Message);
    }

    [Fact]
    public void A_language_that_is_not_known_is_a_issue_only_where_something_is_written_by_it()
    {
        Column[] columns =
        [
            new(1, "First", ColumnType.Text, Role.GivenName),
            new(2, "Last", ColumnType.Text, Role.FamilyName),
            new(3, "Language", ColumnType.Text, Role.Language),
            new(4, "Due", ColumnType.Number, Role.None),
        ];
        var context = new EvaluationContext(columns, OrganizationLocale.UnitedStates, default);
        string Print(string field)
        {
            context.For(new ArrayRow(["Wei", "Chen", "zh", "12.5"]), 1);
            return Evaluator.Print(FieldParser.ParseExpression(field, new Names(columns)).Expression, context);
        }
        Assert.Equal("Chen Wei", Print("Name in full"));
        Assert.Empty(context.Problems);
        Assert.Equal("$12.50", Print("Due | money"));
        Assert.Equal(ProblemKind.WrongType, Assert.Single(context.Problems).Kind);
    }

    [Fact]
    public void A_computed_column_of_a_name_comes_after_the_parts_that_are_computed()
    {
        Column[] columns =
        [
            new(1, "Label", ColumnType.Text, Role.None, ColumnKind.Computed, "Name in full"),
            new(2, "Given", ColumnType.Text, Role.GivenName, ColumnKind.Computed, "title(Raw)"),
            new(3, "Raw", ColumnType.Text, Role.None),
            new(4, "Family", ColumnType.Text, Role.FamilyName),
        ];
        string?[] values = [null, null, "ana", "Okafor"];
        Assert.Empty(new ComputedColumns(columns, OrganizationLocale.UnitedStates, default, []).Compute(values));
        Assert.Equal("Ana Okafor", values[0]);
        Assert.Throws<ComputedColumnException>(() =>
            new ComputedColumns(
                [new(1, "Label", ColumnType.Text, Role.None, ColumnKind.Computed, "Address lines")],
                OrganizationLocale.UnitedStates,
                default,
                []
            )
        );
    }

    [Fact]
    public void Wrong_forms_are_told_at_their_place()
    {
        Assert.Empty(SalutationLadders.First.ByLanguage.Values.SelectMany(SalutationLadders.Mistakes));
        Assert.Contains("Rule 2", Assert.Single(SalutationLadders.Mistakes(["Dear friend", "Dear {Frist name}"])));
        Assert.Contains("empty", Assert.Single(SalutationLadders.Mistakes([" "])));
        Assert.Contains("at least one", Assert.Single(SalutationLadders.Mistakes([])));
        Assert.Contains("not closed", Assert.Single(SalutationLadders.Mistakes(["Dear {Given name"])));
    }

    [Property(MaxTest = 300)]
    public void Whatever_is_blank_no_greeting_has_a_gap(string? title, string? given, string? family, string? partner, bool whole)
    {
        static string? Letters(string? s) => s is null ? null : new string([.. s.Where(char.IsLetter).Take(12)]);
        Column[] columns =
        [
            new(1, "T", ColumnType.Text, Role.Title),
            new(2, "G", ColumnType.Text, Role.GivenName),
            new(3, "F", ColumnType.Text, whole ? Role.FullName : Role.FamilyName),
            new(4, "P", ColumnType.Text, Role.PartnerGivenName),
        ];
        var row = new ArrayRow([Letters(title), Letters(given), Letters(family), Letters(partner)]);
        foreach (var tag in OrganizationLocale.Known)
        {
            var (rung, _, text) = new Salutation(columns, SalutationLadders.First).Of(row, new(tag, "USD"));
            Assert.True(rung >= 0);
            Assert.DoesNotContain("  ", text);
            Assert.DoesNotMatch(" [,:]$", text);
        }
        foreach (
            var form in new[]
            {
                PersonName.Of(new(columns), row).Full,
                PersonName.Of(new(columns), row).FamilyFirstWithComma,
                PersonName.Household(PersonName.Of(new(columns), row), PersonName.PartnerOf(new(columns), row), "en"),
            }
        )
        {
            Assert.DoesNotContain("  ", form);
            Assert.Equal(form.Trim(' ', ','), form);
        }
    }
}
