using Bandeja.Core.Lists;

namespace Bandeja.Core.Campaigns;

/// <summary>What a condition can ask about a recipient beside their list: earlier steps, and whether they responded.</summary>
/// <param name="MailedOn">When each earlier step was mailed to them, or is to be; null where they do not get it.</param>
/// <param name="Returned">Whether it came back.</param>
public sealed record StepFacts(IReadOnlyList<DateOnly?> MailedOn, IReadOnlyList<bool> Returned, DateOnly? RespondedOn, decimal Amount);

/// <summary>
/// The columns that a campaign adds to its list in conditions: for each step before, <c>Mailed First notice</c> (a date),
/// <c>Days since First notice</c> (a number), and <c>Returned First notice</c>; and <c>Responded</c>, <c>Responded on</c>,
/// <c>Amount received</c>. A condition knows steps before its own only, so that no two can depend on each other. A column of the list
/// with the same name is meant first.
/// </summary>
public sealed class StepFields
{
    const int PerStep = 3;
    readonly int steps;

    /// <summary>Makes them.</summary>
    /// <param name="list">The list's own columns.</param>
    /// <param name="before">The names of the steps before, in order.</param>
    public StepFields(IReadOnlyList<Column> list, IReadOnlyList<string> before)
    {
        steps = before.Count;
        var taken = list.Select(x => x.Name).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var id = -1;
        Column Field(string name, ColumnType type)
        {
            var free = name;
            for (var n = 2; !taken.Add(free); n++)
                free = n == 2 ? $"{name} in campaign" : $"{name} in campaign {n - 1}";
            return new(id--, free, type, Role.None);
        }
        Own =
        [
            .. before.SelectMany(name =>
                (Column[])
                    [
                        Field($"Mailed {name}", ColumnType.Date),
                        Field($"Days since {name}", ColumnType.Number),
                        Field($"Returned {name}", ColumnType.YesNo),
                    ]
            ),
            Field("Responded", ColumnType.YesNo),
            Field("Responded on", ColumnType.Date),
            Field("Amount received", ColumnType.Number),
        ];
        Columns = [.. list, .. Own];
    }

    /// <summary>The campaign's own.</summary>
    public IReadOnlyList<Column> Own { get; }

    /// <summary>The list's columns, then the campaign's.</summary>
    public IReadOnlyList<Column> Columns { get; }

    /// <summary>A recipient's values: the list's, then the campaign's.</summary>
    /// <param name="asOf">The day for which it is asked: days are counted up to it.</param>
    public string?[] Values(string?[] list, StepFacts facts, DateOnly asOf)
    {
        var values = new string?[Columns.Count];
        list.CopyTo(values, 0);
        var at = list.Length;
        for (var i = 0; i < steps; i++, at += PerStep)
        {
            values[at] = Iso(facts.MailedOn[i]);
            values[at + 1] = facts.MailedOn[i] is { } on
                ? (asOf.DayNumber - on.DayNumber).ToString(System.Globalization.CultureInfo.InvariantCulture)
                : null;
            values[at + 2] = facts.Returned[i] ? "yes" : "no";
        }
        values[at] = facts.RespondedOn is null ? "no" : "yes";
        values[at + 1] = Iso(facts.RespondedOn);
        values[at + 2] = facts.Amount.ToString(System.Globalization.CultureInfo.InvariantCulture);
        return values;
    }

    static string? Iso(DateOnly? day) => day?.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
}
