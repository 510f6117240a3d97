using Bandeja.Core.Addressing;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Core.Recognition;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Tests.Corpus;

/// <summary>Two hundred made-up lists from twenty countries in ten kinds of mess, with the roles that their columns have.</summary>
public static class RoleCorpus
{
    /// <summary>A list.</summary>
    /// <param name="Accepted">For each column, the roles that are right; the first is meant where several are.</param>
    public sealed record Sample(
        string Name,
        Country Home,
        IReadOnlyList<string> Headings,
        IReadOnlyList<string?[]> Rows,
        IReadOnlyList<Role[]> Accepted
    )
    {
        /// <summary>The roles that are recognized.</summary>
        public IReadOnlyList<RoleGuess> Recognized() => RoleEvidence.Of(Headings, c => Rows.Select(r => r[c]), Home);
    }

    /// <summary>What came out for all lists.</summary>
    /// <param name="Wrong">A line for each column whose role is not right.</param>
    /// <param name="Lost">A line for each list whose addresses lack a part that stands in a column with a heading.</param>
    public sealed record Outcome(int Lists, int Columns, IReadOnlyList<string> Wrong, IReadOnlyList<string> Lost)
    {
        /// <summary>The share of columns whose role is right.</summary>
        public double Right => 1 - (double)Wrong.Count / Columns;
    }

    static readonly Role[] AddressRoles =
    [
        Role.Street,
        Role.Street2,
        Role.Street3,
        Role.HouseNumber,
        Role.Unit,
        Role.City,
        Role.PostalCode,
        Role.WholeAddress,
    ];

    /// <summary>Recognizes all lists and holds the outcome against what they are.</summary>
    public static Outcome Measure()
    {
        var (columns, wrong, lost, lists) = (0, new List<string>(), new List<string>(), All());
        foreach (var list in lists)
        {
            var guesses = list.Recognized();
            for (var c = 0; c < guesses.Count; c++, columns++)
                if (!list.Accepted[c].Contains(guesses[c].Role))
                    wrong.Add($"{list.Name}: “{list.Headings[c]}” ({list.Rows[0][c]}) is {guesses[c].Role}, not {list.Accepted[c][0]}");
            Column[] made = [.. guesses.Select((g, c) => new Column(c + 1, list.Headings[c], ColumnType.Text, g.Role))];
            var address = new DeliveryAddress(made, list.Home.Code);
            foreach (var row in list.Rows.Take(20))
            {
                var printed = FoldedText.Of(string.Join(' ', address.Write(new ArrayRow(row)).Select(l => l.Text)));
                var missing = Enumerable
                    .Range(0, made.Length)
                    .Where(c =>
                        AddressRoles.Contains(list.Accepted[c][0])
                        && !list.Accepted[c].Contains(Role.None)
                        && row[c] is { } value
                        && !FoldedText.Of(value).Split([' ', ',', '\n'], StringSplitOptions.RemoveEmptyEntries).All(printed.Contains)
                    )
                    .ToList();
                if (missing.Count == 0)
                    continue;
                lost.Add($"{list.Name}: {string.Join(", ", missing.Select(c => $"“{list.Headings[c]}” {row[c]}"))} is not in “{printed}”");
                break;
            }
        }
        return new(lists.Count, columns, wrong, lost);
    }

    /// <summary>All lists.</summary>
    public static IReadOnlyList<Sample> All()
    {
        using var reader = new StreamReader(typeof(RoleCorpus).Assembly.GetManifestResourceStream("RoleCorpus.tsv")!);
        var countries = reader
            .ReadToEnd()
            .Split('\n')
            .Where(l => l.Length > 0 && l[0] != '#')
            .Select(l => l.Split('\t'))
            .GroupBy(r => r[0])
            .Select(g => (Home: Countries.Named(g.Key)!, Words: g.ToDictionary(r => r[1], r => r[2].Split('|'))));
        return [.. countries.SelectMany(c => Enumerable.Range(0, 10).Select(mess => Made(c.Home, c.Words, mess)))];
    }

    sealed class Maker(Dictionary<string, string[]> words, int variant, Random random)
    {
        public List<(string Heading, Role[] Accepted, Func<int, string?> Value)> Columns { get; } = [];

        public string Heading(Role role) => words[role.ToString()][variant];

        public string Of(string kind, int row) => words[kind][row % words[kind].Length];

        public bool Has(Role role) => words.ContainsKey(role.ToString());

        public void Add(string heading, Role role, Func<int, string?> value) => Columns.Add((heading, [role], value));

        public void Name()
        {
            Add(Heading(Role.GivenName), Role.GivenName, r => Of("given", r));
            Add(Heading(Role.FamilyName), Role.FamilyName, r => Of("family", r / 2));
        }

        public void Street() => Add(Heading(Role.Street), Role.Street, r => Of("street", r));

        public void Place()
        {
            if (Heading(Role.PostalCode) is var code)
                Add(code, Role.PostalCode, r => Of("code", r));
            Add(Heading(Role.City), Role.City, r => Of("city", r));
            if (Has(Role.Region))
                Add(Heading(Role.Region), Role.Region, r => Of("region", r));
        }

        public void Extras()
        {
            Add(Heading(Role.Key), Role.Key, r => (123 + r * 7).ToString("000000"));
            Add("Amount", Role.None, r => (20 + r * 1.37).ToString("0.00", System.Globalization.CultureInfo.InvariantCulture));
            Add("Joined", Role.None, r => $"20{10 + r % 16}{1 + r % 12:00}{1 + r % 28:00}");
            Add("Internal", Role.None, r => (1000 + random.Next(8999)).ToString());
            Add("Active", Role.None, r => r % 3 == 0 ? "No" : "Yes");
        }
    }

    static Sample Made(Country home, Dictionary<string, string[]> words, int mess)
    {
        var random = new Random(mess * 100 + home.Code[0]);
        var maker = new Maker(words, mess % 5, random);
        var rows = mess == 4 ? 400 : 24;
        switch (mess)
        {
            case 0:
                maker.Name();
                maker.Street();
                maker.Place();
                maker.Add("Email", Role.Email, r => $"p{r}@example.org");
                break;
            case 1:
                maker.Extras();
                maker.Name();
                maker.Street();
                maker.Place();
                break;
            case 2:
                maker.Name();
                maker.Extras();
                maker.Street();
                maker.Place();
                maker.Add("Phone", Role.Phone, r => $"+1 541 555 01{r % 90 + 10}");
                break;
            case 3:
                maker.Add("Title", Role.None, r => r % 2 == 0 ? "Director" : "Treasurer");
                maker.Name();
                maker.Street();
                maker.Place();
                break;
            case 4:
                maker.Extras();
                maker.Name();
                maker.Street();
                maker.Place();
                maker.Add("Country", Role.Country, _ => home.Name);
                break;
            case 5:
                maker.Extras();
                maker.Name();
                maker.Street();
                maker.Place();
                maker.Add("Email", Role.Email, r => $"p{r}@example.org");
                break;
            case 6:
                maker.Add("Name", Role.FullName, r => $"{maker.Of("given", r)} {maker.Of("family", r / 2)}");
                maker.Extras();
                maker.Street();
                maker.Place();
                break;
            case 7:
                maker.Name();
                if (home.Code is "JP")
                {
                    maker.Add(maker.Heading(Role.PostalCode), Role.PostalCode, r => maker.Of("code", r));
                    maker.Add("住所", Role.Street, r => maker.Of("region", r) + maker.Of("city", r) + maker.Of("street", r));
                }
                else
                    maker.Add(
                        maker.Heading(Role.Street),
                        Role.WholeAddress,
                        r =>
                            home.Code switch
                            {
                                "US" or "CA" or "AU" =>
                                    $"{maker.Of("street", r)}, {maker.Of("city", r)}, {maker.Of("region", r)} {maker.Of("code", r)}",
                                "GB" => $"{maker.Of("street", r)}, {maker.Of("city", r)}, {maker.Of("code", r)}",
                                _ => $"{maker.Of("street", r)}\n{maker.Of("code", r)} {maker.Of("city", r)}",
                            }
                    );
                break;
            case 8:
                maker.Name();
                maker.Add("Address Line 1", Role.Street, r => maker.Of("street", r));
                maker.Add("Address Line 2", Role.Street2, r => r % 3 == 0 ? $"Building {r % 5 + 1}" : null);
                maker.Add("Address Line 3", Role.Street3, r => r % 4 == 0 ? "East Wing" : null);
                maker.Place();
                break;
            default:
                maker.Name();
                maker.Add("Partner First Name", Role.PartnerGivenName, r => r % 2 == 0 ? maker.Of("given", r + 3) : null);
                maker.Add("Company", Role.Organization, r => r % 4 == 0 ? "Okafor Ceramics" : null);
                maker.Street();
                if (home.Code is "DE" or "AT" or "NL" or "BE")
                    maker.Add(
                        home.Code is "DE" or "AT" ? "Hausnummer" : "Huisnummer",
                        Role.HouseNumber,
                        r => $"{r % 40 + 1}{(r % 5 == 0 ? "a" : "")}"
                    );
                else
                    maker.Add("Apt", Role.Unit, r => r % 3 == 0 ? $"Apt {r + 1}" : null);
                maker.Place();
                break;
        }
        if (mess is 2 or 6)
            for (var i = maker.Columns.Count - 1; i > 0; i--)
            {
                var j = random.Next(i + 1);
                (maker.Columns[i], maker.Columns[j]) = (maker.Columns[j], maker.Columns[i]);
            }
        var columns = maker.Columns;
        var headings = Headings
            .Clean(
                [
                    .. columns.Select(
                        (c, i) =>
                            mess switch
                            {
                                5 => null,
                                3 => $" {c.Heading.ToUpperInvariant()}: ",
                                _ => c.Heading,
                            }
                    ),
                ]
            )
            .Names;
        // Without headings a role may stay open; it may not be wrong.
        Role[][] accepted =
        [
            .. columns.Select(c =>
                mess == 5 ? [.. c.Accepted, Role.None, .. c.Accepted[0] == Role.FamilyName ? new[] { Role.GivenName } : []] : c.Accepted
            ),
        ];
        var made = Enumerable
            .Range(0, rows)
            .Select(r => columns.Select(c => mess == 2 && random.Next(5) == 0 ? null : c.Value(r)).ToArray())
            .ToList();
        return new($"{home.Code}-{mess}", home, headings, made, accepted);
    }
}
