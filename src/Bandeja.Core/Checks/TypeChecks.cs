using System.Globalization;
using System.Text.RegularExpressions;
using Bandeja.Core.Lists;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Checks;

/// <summary>Checks on values that are not of their column's type, and on dates that can hardly be meant.</summary>
sealed partial class TypeChecks
{
    readonly IReadOnlyList<Column> columns;
    readonly CheckSettings settings;
    readonly bool[] past;

    public TypeChecks(IReadOnlyList<Column> columns, CheckSettings settings)
    {
        (this.columns, this.settings) = (columns, settings);
        past = [.. columns.Select(c => c.Type == ColumnType.Date && Past().IsMatch(FoldedText.Of(c.Name)))];
    }

    public void Check(IReadOnlyList<string?> values, List<CheckIssue> issues)
    {
        for (var i = 0; i < columns.Count; i++)
        {
            if (
                columns[i].Type == ColumnType.Text
                || columns[i].Kind == ColumnKind.Computed
                || values[i] is not { } value
                || string.IsNullOrWhiteSpace(value)
                // That it stands for no value is said of it once, with the offer to clear it.
                || TextChecks.IsPlaceholder(value, columns[i])
            )
                continue;
            switch (columns[i].Type)
            {
                case ColumnType.Number when !IsNumber(value):
                    Number(i, value, issues);
                    break;
                case ColumnType.Date:
                    Date(i, value, issues);
                    break;
                case ColumnType.YesNo when value is not ("yes" or "no"):
                    YesNo(i, value, issues);
                    break;
            }
        }
    }

    static bool IsNumber(string value)
    {
        foreach (var c in value)
            if (!char.IsAsciiDigit(c) && c is not ('.' or '-'))
                return false;
        return decimal.TryParse(value, NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out _);
    }

    void Number(int column, string value, List<CheckIssue> issues)
    {
        var message = $"{columns[column].Name} is “{value}”, which is text and cannot be used in calculations.";
        issues.Add(
            // A fix would take the sign of another currency away, and the amount would print in the organization's.
            !IsForeign(column, value) && NumberText.Read(value) is { } number
                ? CheckIssue.With(CheckKind.NotANumber, column, message, number.ToString(CultureInfo.InvariantCulture))
                : CheckIssue.Of(CheckKind.NotANumber, column, message)
        );
    }

    bool IsForeign(int column, string value) =>
        UsualFormat.Of(columns[column].Format)?.Look == NumberLook.Money && WrittenValue.CurrenciesOf(value).Count > 0;

    void YesNo(int column, string value, List<CheckIssue> issues)
    {
        var proposal = FoldedText.Of(value.Trim()) switch
        {
            "x" or "1" or "✓" or "✔" or "wahr" or "vrai" or "verdadero" or "on" or "t" => "yes",
            "0" or "falsch" or "faux" or "falso" or "off" or "f" => "no",
            _ => null,
        };
        var message = $"{columns[column].Name} is “{value}”, which is not yes or no.";
        issues.Add(
            proposal is null
                ? CheckIssue.Of(CheckKind.NotYesNo, column, message)
                : CheckIssue.With(CheckKind.NotYesNo, column, message, proposal)
        );
    }

    void Date(int column, string value, List<CheckIssue> issues)
    {
        var name = columns[column].Name;
        if (DateOnly.TryParseExact(value, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var date))
        {
            if (date.Year < 1900)
                issues.Add(CheckIssue.Of(CheckKind.DateFar, column, $"{name} is {value}, more than a lifetime ago."));
            else if (past[column] && date > settings.Today)
                issues.Add(CheckIssue.Of(CheckKind.DateFar, column, $"{name} is {value}, which is in the future."));
            else if (date.Year > settings.Today.Year + 20)
                issues.Add(CheckIssue.Of(CheckKind.DateFar, column, $"{name} is {value}, far in the future."));
            return;
        }
        var readings = DateText.Readings(value, settings.Today);
        if (readings.Count == 1)
            issues.Add(
                CheckIssue.With(
                    CheckKind.NotADate,
                    column,
                    $"{name} is “{value}”, which does not use the " + "date format of this column.",
                    Iso(readings[0])
                )
            );
        else if (readings.Count > 1)
            issues.Add(
                CheckIssue.Of(
                    CheckKind.AmbiguousDate,
                    column,
                    $"{name} is “{value}”: "
                        + $"{string.Join(" or ", readings.Select(r => r.ToString("MMMM d, yyyy", CultureInfo.InvariantCulture)))}."
                )
            );
        else
            issues.Add(CheckIssue.Of(CheckKind.NotADate, column, $"{name} is “{value}”, which is not a date."));
    }

    static string Iso(DateOnly date) => date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    [GeneratedRegex(
        @"\b(birth|born|joined|since|last|gift|paid|visited|member from|geburt\w*|seit|nacimiento|alta|naissance|depuis)\b",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex Past();
}
