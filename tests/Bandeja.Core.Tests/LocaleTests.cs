using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Tests;

/// <summary>Numbers, money, dates, words, ordinals and telephones as each language and country writes them.</summary>
public sealed class LocaleTests
{
    static readonly Column[] Columns =
    [
        new(1, "Amount", ColumnType.Number, Role.None),
        new(2, "Date", ColumnType.Date, Role.None),
        new(3, "Phone", ColumnType.Text, Role.Phone),
        new(4, "Language", ColumnType.Text, Role.Language),
    ];

    static (string Text, IReadOnlyList<Problem> Problems) Print(
        string text,
        string amount,
        OrganizationLocale locale,
        string? language = null,
        string? phone = null
    )
    {
        var template = Template.Parse(text, new Names(Columns));
        Assert.Empty(template.Errors);
        var context = new EvaluationContext(Columns, locale, new(2027, 3, 12)).For(
            new ArrayRow([amount, "2027-03-03", phone, language]),
            1
        );
        return (template.Print(context).Replace('\u00a0', ' ').Replace('\u202f', ' '), [.. context.Problems]);
    }

    [Theory]
    [InlineData("en-US", "USD", "$1,250.50 March 3, 2027 3/3/2027")]
    [InlineData("en-GB", "GBP", "£1,250.50 3 March 2027 03/03/2027")]
    [InlineData("en-AU", "AUD", "$1,250.50 3 March 2027 3/3/2027")]
    [InlineData("de-DE", "EUR", "1.250,50 € 3. März 2027 03.03.27")]
    [InlineData("fr-FR", "EUR", "1 250,50 € 3 mars 2027 03/03/2027")]
    [InlineData("es-ES", "EUR", "1250,50 € 3 de marzo de 2027 03/03/2027")]
    [InlineData("nl-NL", "EUR", "€ 1.250,50 3 maart 2027 03-03-2027")]
    [InlineData("sv-SE", "SEK", "1 250,50 SEK 3 mars 2027 2027-03-03")]
    [InlineData("pl-PL", "PLN", "1250,50 PLN 3 marca 2027 3.03.2027")]
    [InlineData("pt-BR", "BRL", "BRL 1.250,50 3 de março de 2027 03/03/2027")]
    public void Money_and_dates_are_written_as_there(string tag, string currency, string expected)
    {
        var (text, problems) = Print("{Amount | money} {Date | date long} {Date | date short}", "1250.5", new(tag, currency));
        // Spanish and Polish group from five digits on; the data of the system may know that or not.
        Assert.Equal(expected.Replace(" ", ""), text.Replace(" ", "").Replace("1.250,50€3de", "1250,50€3de"));
        Assert.Empty(problems);
    }

    [Theory]
    [InlineData("en-US", "21", "twenty-one 21st")]
    [InlineData("en-US", "12", "twelve 12th")]
    [InlineData("en-GB", "103", "one hundred and three 103rd")]
    [InlineData("en-US", "-2", "minus two -2nd")]
    [InlineData("es-MX", "21", "veintiuno 21.º")]
    [InlineData("de-DE", "21", "einundzwanzig 21.")]
    [InlineData("fr-FR", "1", "un 1er")]
    [InlineData("fr-FR", "80", "quatre-vingts 80e")]
    [InlineData("it-IT", "3", "tre 3º")]
    [InlineData("nl-NL", "3", "drie 3e")]
    [InlineData("sv-SE", "21", "tjugoett 21:a")]
    [InlineData("sv-SE", "12", "tolv 12:e")]
    public void Numbers_are_spelled_out_and_counted(string tag, string number, string expected) =>
        Assert.Equal(expected, Print("{Amount | words} {Amount | ordinal}", number, new(tag, "EUR")).Text);

    [Theory]
    [InlineData("1.5", "not a whole number")]
    [InlineData("99999999999999", "too large a number to spell out")]
    public void What_cannot_be_spelled_is_told(string number, string why)
    {
        var (text, problems) = Print("a{Amount | words}b", number, OrganizationLocale.UnitedStates);
        Assert.Equal("ab", text);
        Assert.Contains(why, Assert.Single(problems).Message);
    }

    [Theory]
    [InlineData("money", "$1,250.50")]
    [InlineData("money 0", "$1,251")]
    [InlineData("money code", "1,250.50 USD")]
    [InlineData("money 0 code", "1,251 USD")]
    [InlineData("money 3", "$1,250.500")]
    public void Money_takes_decimals_and_the_code(string format, string expected) =>
        Assert.Equal(expected, Print($"{{Amount | {format}}}", "1250.5", OrganizationLocale.UnitedStates).Text);

    [Theory]
    [InlineData("money 11")]
    [InlineData("money euro")]
    [InlineData("money 2 2")]
    [InlineData("words 3")]
    [InlineData("phone us")]
    public void What_a_format_does_not_take_is_told(string format) =>
        Assert.Single(Template.Parse($"{{Amount | {format}}}", new Names(Columns)).Errors);

    [Theory]
    [InlineData("en-US", "5415550160", "(541) 555-0160")]
    [InlineData("en-US", "+44 20 7946 0018", "+44 20 7946 0018")]
    [InlineData("en-GB", "02079460018", "020 7946 0018")]
    [InlineData("en-GB", "+1 541 555 0160", "+1 541-555-0160")]
    [InlineData("en-US", "call the gate", "call the gate")]
    [InlineData("en-US", "12", "12")]
    public void Telephones_are_written_as_at_home(string tag, string phone, string expected) =>
        Assert.Equal(expected, Print("{Phone | phone}", "1", new(tag, "USD"), phone: phone).Text);

    [Theory]
    [InlineData("es", "es-US")]
    [InlineData("ES-mx", "es-MX")]
    [InlineData("es_ES", "es-ES")]
    [InlineData("Spanish", "es-US")]
    [InlineData("español", "es-US")]
    [InlineData("de", "de-DE")]
    [InlineData("Deutsch", "de-DE")]
    [InlineData("en", "en-US")]
    [InlineData("fr-BE", "fr-FR")]
    [InlineData("tiếng việt", "vi-VN")]
    public void A_language_is_known_by_tag_and_by_name(string language, string tag)
    {
        var locale = OrganizationLocale.ForLanguage(language, OrganizationLocale.UnitedStates)!;
        Assert.Equal((tag, "USD", "US"), (locale.Tag, locale.Currency, locale.Country));
    }

    [Fact]
    public void A_language_that_is_not_known_is_told_once_and_only_where_it_matters()
    {
        Assert.Single(Print("{Amount | money} {Date | date long}", "5", OrganizationLocale.UnitedStates, "Quenya").Problems);
        Assert.Empty(Print("no field", "5", OrganizationLocale.UnitedStates, "Quenya").Problems);
        Assert.Null(OrganizationLocale.ForLanguage("", OrganizationLocale.UnitedStates));
    }

    [Fact]
    public void Every_locale_prints_every_format()
    {
        foreach (var tag in OrganizationLocale.Known)
        {
            var (text, problems) = Print(
                "{Amount | money} {Amount | number 2} {Amount | percent} {Amount | words} {Amount | ordinal} {Date} {Date | date "
                    + "long} {Date | date short} {Date | date \"EEEE d MMMM yyyy\"}",
                "41",
                new(tag, "EUR")
            );
            Assert.Empty(problems);
            Assert.DoesNotContain("  ", text);
            Assert.Contains("2027", text);
        }
    }
}
