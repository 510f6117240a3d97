using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Addressing;

/// <summary>How a recipient is greeted, from the columns' roles, so that nobody reads “Dear  ,”: title and family name, else the given name, else a form without a name.</summary>
public static class Salutation
{
    // Greetings that need not know a person's sex, with the sign that ends them in that language.
    static readonly Dictionary<string, (string Greeting, string End, string Nameless)> Forms = new()
    {
        ["en"] = ("Dear", ",", "Dear friend,"), ["es"] = ("Hola,", ":", "Hola:"), ["de"] = ("Guten Tag", ",", "Guten Tag,"), ["fr"] = ("Bonjour", ",", "Bonjour,"),
        ["it"] = ("Buongiorno", ",", "Buongiorno,"), ["nl"] = ("Beste", ",", "Beste lezer,"), ["pt"] = ("Olá", ",", "Olá,"), ["sv"] = ("Hej", ",", "Hej,"),
        ["da"] = ("Kære", ",", "Kære ven,"), ["nb"] = ("Kjære", ",", "Kjære venn,"), ["fi"] = ("Hyvä", ",", "Hyvä ystävä,"),
    };

    /// <summary>The salutation with its closing sign.</summary>
    public static string Of(IReadOnlyList<Column> columns, IRow row, OrganisationLocale locale)
    {
        string? By(Role role)
        {
            for (var i = 0; i < columns.Count; i++) if (columns[i].Role == role) return string.IsNullOrWhiteSpace(row[i]) ? null : row[i]!.Trim();
            return null;
        }
        var (greeting, end, nameless) = Forms.GetValueOrDefault(locale.Tag[..2], Forms["en"]);
        var name = By(Role.Title) is { } title && By(Role.FamilyName) is { } family ? $"{title} {family}"
            : By(Role.GivenName) ?? By(Role.FullName) ?? By(Role.Organisation);
        return name is null ? nameless : $"{greeting} {name}{end}";
    }
}
