using Bandeja.Core.Lists;

namespace Bandeja.Core.Checks;

/// <summary>Makes all checks on one row after another. What it finds depends on that row alone, so an edit needs only its own row checked
/// again. Serves one thread.</summary>
public sealed class RowChecker(IReadOnlyList<Column> columns, CheckSettings settings)
{
    /// <summary>
    /// The number of the rules. Raise it whenever a check finds anything else than before, so that lists checked by former rules are
    /// checked
    /// again; <c>CheckRulesTests</c> tells when that is.
    /// </summary>
    public const int Rules = 14;

    readonly CheckedRow row = new(columns, settings);
    readonly TextChecks texts = new(columns, settings);
    readonly PersonChecks people = new(columns);
    readonly TypeChecks types = new(columns, settings);

    /// <summary>The issues about a row. Never throws, whatever stands in it.</summary>
    public List<CheckIssue> Check(IReadOnlyList<string?> values)
    {
        var issues = new List<CheckIssue>();
        row.Turn(values, issues);
        texts.Check(values, issues);
        types.Check(values, issues);
        if (!row.IsReadable)
            return issues;
        people.Check(row);
        FullNameChecks.Check(row);
        AddressChecks.Check(row);
        ContactChecks.Check(row);
        return issues;
    }
}
