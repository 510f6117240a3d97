namespace Bandeja.Core.Matching;

/// <summary>How one piece is addressed to a household.</summary>
public enum HouseholdForm
{
    /// <summary><c>Ana and Luis Ortega</c>; with two family names, <c>Ana Okafor and Luis Ortega</c>.</summary>
    GivenNames,

    /// <summary><c>The Ortega family</c>; with two family names, <c>The Okafor and Ortega family</c>.</summary>
    Family,
}

/// <summary>Composes the name of a household.</summary>
public static class HouseholdName
{
    /// <summary>The name, in the order of the people given; people without any name are passed over.</summary>
    /// <param name="people">Given and family names.</param>
    /// <param name="form">The form.</param>
    /// <param name="language">A BCP 47 tag: the words come in English, Spanish, German or French.</param>
    public static string Of(IReadOnlyList<(string? Given, string? Family)> people, HouseholdForm form, string language)
    {
        var and = language[..Math.Min(2, language.Length)] switch
        {
            "es" => "y",
            "de" => "und",
            "fr" => "et",
            _ => "and",
        };
        var named = people.Where(p => p.Given is not null || p.Family is not null).ToList();
        var families = named.Select(p => p.Family).OfType<string>().Distinct(StringComparer.OrdinalIgnoreCase).ToList();
        if (form == HouseholdForm.Family && families.Count > 0)
            return string.Format(
                System.Globalization.CultureInfo.InvariantCulture,
                and switch
                {
                    "y" => "Familia {0}",
                    "und" => "Familie {0}",
                    "et" => "Famille {0}",
                    _ => "The {0} family",
                },
                List(families, and)
            );
        if (families.Count == 1 && named.All(p => p.Given is not null))
            return $"{List([.. named.Select(p => p.Given!)], and)} {families[0]}";
        return List([.. named.Select(p => $"{p.Given} {p.Family}".Trim())], and);
    }

    static string List(List<string> names, string and) =>
        names.Count < 2 ? names.FirstOrDefault() ?? "" : $"{string.Join(", ", names.Take(names.Count - 1))} {and} {names[^1]}";
}
