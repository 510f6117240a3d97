using System.Text.RegularExpressions;
using Bandeja.Core.Addressing;
using Bandeja.Core.Lists;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Checks;

/// <summary>Checks on names: missing, divided wrongly, swapped, more than one, a title that does not fit.</summary>
sealed partial class PersonChecks
{
    // Given names that are hardly ever family names, from many cultures: only their certainty counts, not their completeness.
    static readonly HashSet<string> GivenNames = new(
        (
            "maria josé ana ines inês luis luís elena beatriz fatima aisha mohammed ahmed yusuf omar elizabeth katherine catherine "
            + "margaret susan linda patricia jennifer jessica amanda melissa michelle "
            + "stephanie rebecca heather nicole emily olivia sophia isabella christopher matthew joshua andrew kevin brian timothy "
            + "jeffrey gregory nicholas jonathan stephen sigrid ingrid astrid bjorn björn lars sven johan katarina ulrike "
            + "wolfgang jürgen heinrich dieter giovanni giuseppe francesca chiara sergei dmitri olga svetlana natasha tatiana chidi "
            + "ngozi amara kwame priya meera ananya rajesh sanjay anil sunita hiroshi yuki emi kenji sakura akira "
            + "mei xiu ling thuy linh declan siobhan niamh aoife eoin zeynep elif mehmet ayse rachel hannah deborah esther miriam "
            + "jacqueline françoise genevieve thierry guillaume agnieszka malgorzata zofia pawel persephone guadalupe"
        )
            .Split(' ')
            .Select(FoldedText.Of)
    );

    static readonly HashSet<string> Particles = new(StringComparer.OrdinalIgnoreCase)
    {
        "van",
        "von",
        "de",
        "del",
        "della",
        "di",
        "da",
        "dos",
        "du",
        "la",
        "le",
        "el",
        "al",
        "bin",
        "ibn",
        "ter",
        "ten",
        "den",
        "der",
        "st",
        "st.",
        "san",
        "y",
    };

    /// <summary>True for a name that is well known as a given name and hardly ever a family name.</summary>
    public static bool IsGivenName(string word) => GivenNames.Contains(FoldedText.Of(word));

    readonly int gender;

    public PersonChecks(IReadOnlyList<Column> columns) =>
        gender = columns
            .ToList()
            .FindIndex(c => FoldedText.Of(c.Name) is "gender" or "sex" or "geschlecht" or "sexo" or "genero" or "genre" or "sexe");

    public void Check(CheckedRow row)
    {
        var (given, family, full, organization) = (row[Role.GivenName], row[Role.FamilyName], row[Role.FullName], row[Role.Organization]);
        if (given is not null && Several().IsMatch(given))
            People(row, Role.GivenName, given);
        else if (full is not null && Several().IsMatch(full) && NameParts.Of(full).Organization is null)
            People(row, Role.FullName, full);
        else if (given is not null || family is not null)
            Divided(row, given, family, organization);
        else if (full is null && organization is null && (row.Has(Role.FamilyName) || row.Has(Role.FullName) || row.Has(Role.Organization)))
            row.Add(
                CheckKind.NoName,
                row.Has(Role.FamilyName) ? Role.FamilyName
                    : row.Has(Role.FullName) ? Role.FullName
                    : Role.Organization,
                "This recipient has no name and no organization."
            );
        Title(row);
    }

    static void People(CheckedRow row, Role role, string value) =>
        row.Add(
            CheckKind.SeveralPeople,
            role,
            $"{row.Heading(role)} is “{value}”, which names more than one person. Keep "
                + "it as a household name, or split it into two recipients."
        );

    static void Divided(CheckedRow row, string? given, string? family, string? organization)
    {
        if (!row.Has(Role.GivenName) || !row.Has(Role.FamilyName))
            return;
        if (given is null)
        {
            var words = family!.Split(' ', StringSplitOptions.RemoveEmptyEntries);
            if (words.Length > 1 && GivenNames.Contains(FoldedText.Of(words[0])))
                InOneCell(row, Role.FamilyName, words[0], string.Join(' ', words[1..]));
            else if (family.Split(',') is [var before, var after] && after.Trim().Length > 0)
                InOneCell(row, Role.FamilyName, after.Trim(), before.Trim());
            else if (organization is null)
                row.Add(CheckKind.NoName, Role.GivenName, $"{family} has no given name.");
            return;
        }
        if (family is null)
        {
            // Or Current Resident: nobody's name.
            if (NameParts.Of(given).Organization is not null)
                return;
            var words = given.Split(' ', StringSplitOptions.RemoveEmptyEntries);
            if (given.Split(',') is [var before, var after] && after.Trim().Length > 0)
                InOneCell(row, Role.GivenName, after.Trim(), before.Trim());
            else if (words.Length == 2)
                InOneCell(row, Role.GivenName, words[0], words[1]);
            else if (words.Length > 2)
            {
                var split = Array.FindIndex(words, 1, Particles.Contains);
                InOneCell(
                    row,
                    Role.GivenName,
                    string.Join(' ', words[..(split > 0 ? split : ^1)]),
                    string.Join(' ', words[(split > 0 ? split : ^1)..])
                );
            }
            return;
        }
        if (
            GivenNames.Contains(FoldedText.Of(family.Trim()))
            && !GivenNames.Contains(FoldedText.Of(given.Trim().Split(' ')[0]))
            && !given.Contains(' ')
            && given.Trim().Length > 2
        )
            row.Issues.Add(
                new(
                    CheckKind.NamesSwapped,
                    row.At(Role.GivenName),
                    $"“{given} {family}”: {family} is rarely a family name.",
                    [new(row.At(Role.GivenName), family), new(row.At(Role.FamilyName), given)]
                )
            );
        else if (given.EndsWith(','))
            row.Issues.Add(
                new(
                    CheckKind.NamesSwapped,
                    row.At(Role.GivenName),
                    $"“{given} {family}” has the family name first.",
                    [new(row.At(Role.GivenName), family), new(row.At(Role.FamilyName), given.TrimEnd(',', ' '))]
                )
            );
    }

    static void InOneCell(CheckedRow row, Role where, string given, string family) =>
        row.Issues.Add(
            new(
                CheckKind.NamesInOneCell,
                row.At(where),
                $"{row.Heading(where)} contains both the given name “{given}” and the family name “{family}”.",
                [new(row.At(Role.GivenName), given), new(row.At(Role.FamilyName), family)]
            )
        );

    void Title(CheckedRow row)
    {
        if (gender < 0 || row[Role.Title] is not { } title || row.Values[gender] is not { } is_)
            return;
        var word = FoldedText.Of(title.Trim().TrimEnd('.'));
        var titleIs =
            word is "mr" or "herr" or "sr" or "senor" or "m" or "monsieur" or "sir" ? 'm'
            : word is "mrs" or "ms" or "miss" or "frau" or "sra" or "senora" or "srta" or "mme" or "madame" or "lady" ? 'f'
            : '?';
        var personIs = FoldedText.Of(is_.Trim()) switch
        {
            "m" or "male" or "man" or "mann" or "hombre" or "homme" or "masculino" or "mannlich" => 'm',
            "f" or "female" or "woman" or "w" or "frau" or "mujer" or "femme" or "femenino" or "weiblich" => 'f',
            _ => '?',
        };
        if (titleIs == '?' || personIs == '?' || titleIs == personIs)
            return;
        var proposal = word switch
        {
            "mr" => "Ms",
            "mrs" or "ms" or "miss" => "Mr",
            "herr" => "Frau",
            "frau" => "Herr",
            "sr" or "senor" => "Sra.",
            "sra" or "srta" or "senora" => "Sr.",
            "m" or "monsieur" => "Mme",
            "mme" or "madame" => "M.",
            _ => null,
        };
        var message = $"The title is “{title}”, and {row.Columns[gender].Name} says “{is_}”.";
        if (proposal is null)
            row.Add(CheckKind.TitleContradicts, Role.Title, message);
        else
            row.Add(CheckKind.TitleContradicts, Role.Title, message, proposal);
    }

    [GeneratedRegex(@"\p{L}.*(\s(&|\+|and|und|y|et)\s|\s?/\s?|\s?&\s?).*\p{L}", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Several();
}
