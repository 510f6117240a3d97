using System.Text;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;

namespace Bandeja.Core.Checks;

/// <summary>What checks need to know beside the row.</summary>
/// <param name="Home">The organization's country, for recipients without one.</param>
/// <param name="Today">The day it is.</param>
/// <param name="HasGlyph">True where a typeface of ours can print a character.</param>
public sealed record CheckSettings(Country Home, DateOnly Today, Func<Rune, bool> HasGlyph);

/// <summary>One row under inspection: its values by role, its country, and the issues so far.</summary>
sealed class CheckedRow(IReadOnlyList<Column> columns, CheckSettings settings)
{
    readonly int[] byRole =
    [
        .. Enum.GetValues<Role>().Select(role => role == Role.None ? -1 : columns.ToList().FindIndex(c => c.Role == role)),
    ];

    public IReadOnlyList<Column> Columns => columns;
    public CheckSettings Settings => settings;
    public IReadOnlyList<string?> Values { get; private set; } = [];
    public List<CheckIssue> Issues { get; private set; } = [];

    /// <summary>The recipient's country; null where what stands there is not known.</summary>
    public Country? Country { get; private set; }

    /// <summary>Longer than any name, address, or number: what stands in such a cell is told as too long, and nothing else is read into
    /// the row. Some rules take a time that grows with the square of a cell's length.</summary>
    public const int LongestCell = 1_000;

    /// <summary>False where a cell of a role is longer than <see cref="LongestCell"/>.</summary>
    public bool IsReadable { get; private set; }

    public void Turn(IReadOnlyList<string?> values, List<CheckIssue> issues)
    {
        (Values, Issues) = (values, issues);
        IsReadable = byRole.All(at => at < 0 || values[at] is not { Length: > LongestCell });
        var country = this[Role.Country];
        Country = country is null ? settings.Home : Countries.Named(country);
    }

    /// <summary>Position of the column with a role, or -1.</summary>
    public int At(Role role) => byRole[(int)role];

    public bool Has(Role role) => At(role) >= 0;

    public string? this[Role role] => At(role) is >= 0 and var at && !string.IsNullOrWhiteSpace(Values[at]) ? Values[at] : null;

    public string Heading(Role role) => Columns[At(role)].Name;

    public void Add(CheckKind kind, Role role, string message) => Issues.Add(CheckIssue.Of(kind, At(role), message));

    public void Add(CheckKind kind, Role role, string message, string? value) =>
        Issues.Add(CheckIssue.With(kind, At(role), message, value));
}
