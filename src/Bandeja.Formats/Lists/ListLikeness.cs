using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;

namespace Bandeja.Formats.Lists;

/// <summary>How much a sheet or a table looks like a list of people: by its headings, its width, and how many rows it has.</summary>
static class ListLikeness
{
    /// <summary>How many rows are looked at.</summary>
    public const int Rows = 60;

    static readonly HashSet<Role> Telling =
    [
        Role.GivenName,
        Role.FamilyName,
        Role.FullName,
        Role.Organization,
        Role.Street,
        Role.City,
        Role.PostalCode,
        Role.Email,
        Role.WholeAddress,
    ];

    /// <summary>The likeness of the first rows; 0 where there is nothing.</summary>
    public static double Of(IReadOnlyList<string?[]> rows)
    {
        var filled = rows.Where(r => r.Any(c => !string.IsNullOrWhiteSpace(c))).ToList();
        if (filled.Count == 0)
            return 0;
        var width = filled.Max(r => r.Count(c => !string.IsNullOrWhiteSpace(c)));
        var heading = Headings.FindRow(rows);
        var known =
            heading < 0
                ? 0
                : rows[heading]
                    .Where(c => c is not null)
                    .Select(c => RoleRecognizer.FromHeading(c!))
                    .Where(Telling.Contains)
                    .Distinct()
                    .Count();
        var body = filled.Count - (heading < 0 ? 0 : 1);
        var emails = filled.Count(r => r.Any(c => c is not null && Core.Checks.EmailAddress.IsValid(c.Trim())));
        return 8 * known
            + (width > 1 ? Math.Min(width, 8) : 0)
            + 4 * Math.Log2(1 + body)
            + (emails > filled.Count / 2 ? 8 : 0)
            - (body < 2 ? 10 : 0);
    }
}
