using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;

namespace Bandeja.Core.Documents;

/// <summary>Finds what a placeholder's name means: a heading, a built-in value, a column with the role of that name, or the most similar
/// heading.</summary>
public sealed class PlaceholderMatching(PlaceholderSetting setting)
{
    /// <summary>Of two names this share of the characters may differ.</summary>
    const double MostDifference = 0.25;

    const int ShortestSimilar = 4;

    static readonly Dictionary<string, string> BuiltIns = new()
    {
        ["today"] = "Today | date long",
        ["date"] = "Today | date long",
        ["todays date"] = "Today | date long",
        ["today s date"] = "Today | date long",
        ["current date"] = "Today | date long",
        ["letter date"] = "Today | date long",
        ["full name"] = "Given and family name",
        ["name"] = "Given and family name",
        ["name in full"] = "Name in full",
        ["sender"] = "Sender",
        ["piece number"] = "Piece number",
    };

    /// <summary>Words that stand beside “address” where the whole of it is meant.</summary>
    static readonly HashSet<string> Whole =
    [
        "address",
        "block",
        "lines",
        "full",
        "complete",
        "delivery",
        "mailing",
        "inside",
        "name",
        "and",
    ];

    static string? BuiltIn(string plain)
    {
        if (BuiltIns.TryGetValue(plain, out var known))
            return known;
        var words = plain.Split(' ');
        if (words.Any(w => w is "salutation" or "greeting"))
            return "Salutation";
        return words.Length > 1 && words.Contains("address") && words.All(Whole.Contains) ? "Delivery address" : null;
    }

    static string Plain(string name) => RoleRecognizer.Plain(name);

    /// <summary>The set of detail rows of that name; null where there is none.</summary>
    public DetailSet? Rows(string name)
    {
        var plain = Plain(name);
        return setting.Details.FirstOrDefault(d => Plain(d.Name) == plain)
            ?? setting.Details.FirstOrDefault(d => Singular(Plain(d.Name)) == Singular(plain))
            ?? Similar(setting.Details, d => d.Name, plain);
    }

    static string Singular(string word) => word.EndsWith('s') ? word[..^1] : word;

    /// <summary>True for a name that the list or the letter itself knows by its heading, its role, or as a built-in value.</summary>
    public bool IsKnown(string name) =>
        name.Length > 0
        && (Match(name, null).By is MatchedBy.Heading or MatchedBy.Role || setting.Details.Any(d => Plain(d.Name) == Plain(name)));

    /// <summary>What a name means.</summary>
    /// <param name="within">The detail rows around it, whose columns come first.</param>
    public (PlaceholderAnswer? Answer, MatchedBy By) Match(string name, DetailSet? within)
    {
        var plain = Plain(name);
        if (plain.Length == 0)
            return (null, MatchedBy.Nothing);
        if (within is not null && Column(within.Columns, plain) is { } row)
            return (Field(row.Column.Name), row.By);
        if (setting.Columns.FirstOrDefault(c => Plain(c.Name) == plain) is { } same)
            return (Field(same.Name), MatchedBy.Heading);
        if (BuiltIn(plain) is { } builtIn && BuiltInFits(builtIn))
            return (new(AnswerKind.Field, builtIn), MatchedBy.Role);
        var roles = RoleRecognizer.Candidates(name);
        foreach (var role in roles)
            if (setting.Columns.FirstOrDefault(c => c.Role == role) is { } meant)
                return (Field(meant.Name), MatchedBy.Role);
        // A name that means something to the trade is not met by a column that merely shares a word with it.
        if (Similar(setting.Columns, c => c.Name, plain, roles.Count == 0) is { } similar)
            return (Field(similar.Name), MatchedBy.Similarity);
        return (null, MatchedBy.Nothing);
    }

    /// <summary>A whole name in one column is meant by “name” where there is one.</summary>
    bool BuiltInFits(string builtIn) =>
        builtIn != "Given and family name"
        || !setting.Columns.Any(c => c.Role == Role.FullName) && setting.Columns.Any(c => c.Role is Role.GivenName or Role.FamilyName);

    static (Column Column, MatchedBy By)? Column(IReadOnlyList<Column> columns, string plain) =>
        columns.FirstOrDefault(c => Plain(c.Name) == plain) is { } same ? (same, MatchedBy.Heading)
        : Similar(columns, c => c.Name, plain) is { } similar ? (similar, MatchedBy.Similarity)
        : null;

    /// <summary>The one thing whose name is nearly the same, or has the same words and one more; null where there is none or
    /// several.</summary>
    /// <param name="shared">True where it is enough that one name has all words of the other.</param>
    static T? Similar<T>(IReadOnlyList<T> things, Func<T, string> name, string plain, bool shared = true)
        where T : class
    {
        if (plain.Length < ShortestSimilar)
            return null;
        var words = plain.Split(' ');
        var near = things
            .Select(t => (Thing: t, Name: Plain(name(t))))
            .Where(t => t.Name.Length >= ShortestSimilar)
            .Select(t =>
                (
                    t.Thing,
                    Difference: Quickenshtein.Levenshtein.GetDistance(t.Name.Replace(" ", ""), plain.Replace(" ", ""))
                        / (double)Math.Max(t.Name.Length, plain.Length),
                    Holds: shared && (words.All(t.Name.Split(' ').Contains) || t.Name.Split(' ').All(words.Contains))
                )
            )
            .Where(t => t.Difference <= MostDifference || t.Holds)
            .OrderBy(t => t.Difference)
            .ToList();
        return near switch
        {
            [] => null,
            [var only] => only.Thing,
            [var first, var second, ..] => first.Difference < second.Difference && first.Difference <= MostDifference ? first.Thing : null,
        };
    }

    PlaceholderAnswer Field(string heading) => new(AnswerKind.Field, Quoted(heading));

    /// <summary>A heading as the field language takes it: in backticks where it would be read as something else.</summary>
    public static string Quoted(string heading) =>
        heading.Length > 0
        && char.IsLetter(heading[0])
        && heading.All(c => char.IsLetterOrDigit(c) || c == ' ')
        && !Reserved.Overlaps(heading.ToLowerInvariant().Split(' '))
            ? heading
            : $"`{heading.Replace("`", "")}`";

    static readonly HashSet<string> Reserved =
    [
        "and",
        "or",
        "not",
        "is",
        "blank",
        "contains",
        "starts",
        "ends",
        "with",
        "between",
        "one",
        "of",
        "when",
        "each",
        "end",
        "otherwise",
        "if",
        "yes",
        "no",
    ];
}
