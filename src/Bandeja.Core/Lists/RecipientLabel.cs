namespace Bandeja.Core.Lists;

/// <summary>How a recipient is called in a table: family name first, and the place their mail goes to.</summary>
/// <param name="Name">For instance <c>Okafor, Ana</c>; the organization where there is no name.</param>
/// <param name="Place">For instance <c>Alder Point OR 97412</c>; the address in one line where its parts have no columns.</param>
public sealed record RecipientLabel(string Name, string Place)
{
    /// <summary>Composes the label from the columns' roles; falls back to the first columns where a list has none.</summary>
    public static RecipientLabel Of(IReadOnlyList<Column> columns, Func<int, string?> value)
    {
        string? By(Role role)
        {
            for (var i = 0; i < columns.Count; i++)
                if (columns[i].Role == role)
                    return value(i);
            return null;
        }
        var (given, family, full, organization) = (By(Role.GivenName), By(Role.FamilyName), By(Role.FullName), By(Role.Organization));
        var hasNameParts = columns.Any(c => c.Role is Role.GivenName or Role.FamilyName);
        string name;
        if (given is not null || family is not null)
            name = given is null ? family! : $"{family ?? "—"}, {given}";
        else
            name =
                full
                ?? organization
                ?? (
                    hasNameParts ? By(Role.Email) ?? By(Role.Key)
                    : columns.Count > 0 ? value(0)
                    : null
                )
                ?? "no name";
        var place = string.Join(" ", new[] { By(Role.City), By(Role.Region), By(Role.PostalCode) }.Where(v => v is not null));
        // A list with the whole address in one column, or its last line in a line of the street, has its places there.
        if (place.Length == 0 && (By(Role.WholeAddress) ?? By(Role.Street3) ?? By(Role.Street2)) is { } lines)
            place = string.Join(", ", lines.Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries));
        var country = By(Role.Country);
        if (country is not null and not ("US" or "USA" or "United States"))
            place = place.Length == 0 ? country : $"{place} · {country}";
        return new(name, place);
    }
}
