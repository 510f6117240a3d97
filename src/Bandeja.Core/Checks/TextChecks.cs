using System.Text;
using System.Text.RegularExpressions;
using Bandeja.Core.Lists;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Checks;

/// <summary>Checks on what a cell's text looks like: spaces, capitals, garbled letters, placeholders, length, glyphs.</summary>
sealed partial class TextChecks(IReadOnlyList<Column> columns, CheckSettings settings)
{
    readonly int[] limits =
    [
        .. columns.Select(c =>
            c.Role switch
            {
                Role.Title => 20,
                Role.GivenName or Role.FamilyName or Role.City => 40,
                Role.FullName or Role.PartnerFullName or Role.Organization or Role.Street or Role.Street2 or Role.Street3 => 60,
                Role.Region => 40,
                Role.PostalCode => 12,
                Role.Email => 254,
                Role.Phone => 30,
                Role.None => int.MaxValue,
                _ => CheckedRow.LongestCell,
            }
        ),
    ];

    public void Check(IReadOnlyList<string?> values, List<CheckIssue> issues)
    {
        for (var i = 0; i < columns.Count; i++)
        {
            var value = values[i];
            if (string.IsNullOrEmpty(value) || columns[i].Kind == ColumnKind.Computed)
                continue;
            var column = columns[i];
            if (HasStraySpace(value, out var multiline))
                issues.Add(CheckIssue.With(CheckKind.Spaces, i, $"{column.Name} has extra spaces.", Tidy(value, multiline)));
            if (IsPlaceholder(value, column))
            {
                issues.Add(CheckIssue.With(CheckKind.Placeholder, i, $"{column.Name} is “{value}”, which is a placeholder.", null));
                continue;
            }
            if (column.Role is not (Role.None or Role.Key) && value.Length <= 14 && Placeholders.IsDitto(value.AsSpan().Trim()))
            {
                issues.Add(
                    CheckIssue.Of(
                        CheckKind.Placeholder,
                        i,
                        $"{column.Name} is “{value}”, which points to the row above. Copy the value from there."
                    )
                );
                continue;
            }
            if (column.Type == ColumnType.Text && IsCutShort(value))
            {
                issues.Add(
                    CheckIssue.Of(
                        CheckKind.DigitsLost,
                        i,
                        $"{column.Name} is “{value}”: a spreadsheet has rounded a long number. Format the column as text there, and "
                            + "import the file again."
                    )
                );
                continue;
            }
            if (ProgramMarks.Of(value, column) is var (message, clean))
                issues.Add(CheckIssue.With(CheckKind.Garbled, i, message, clean is null ? null : Mojibake.Restore(clean) ?? clean));
            else if (!Ascii.IsValid(value))
                Foreign(value, i, issues);
            if (Capitals(value, column) is { } capitals)
                issues.Add(
                    CheckIssue.With(
                        CheckKind.Capitals,
                        i,
                        $"{column.Name} is all {(value.Any(char.IsUpper) ? "uppercase" : "lowercase")}.",
                        capitals
                    )
                );
            if (value.Length > limits[i])
                issues.Add(CheckIssue.Of(CheckKind.TooLong, i, $"{column.Name} has {value.Length} characters; the limit is {limits[i]}."));
        }
    }

    /// <summary>True for a value that stands for none.</summary>
    internal static bool IsPlaceholder(string value, Column column)
    {
        if (value.Length > 14 || column.Role == Role.Key)
            return false;
        var trimmed = value.AsSpan().Trim();
        if (trimmed is "0")
            return column.Type == ColumnType.Text && column.Kind == ColumnKind.Source;
        // A note may well be a lone word; a name called Test or Null is rare enough to be looked at.
        return Placeholders.Contains(trimmed)
            || column.Role is Role.FullName or Role.GivenName or Role.FamilyName or Role.AddressedTo && Placeholders.IsNobody(trimmed);
    }

    /// <summary>True for a number as spreadsheets show long ones, its last digits lost: 1.23457E+12.</summary>
    internal static bool IsCutShort(string value) =>
        value.Length is >= 5 and <= 24 && value.Contains("E+", StringComparison.OrdinalIgnoreCase) && Rounded().IsMatch(value);

    [GeneratedRegex(@"^\s*[-+]?\d(?:[.,]\d+)?E\+\d{1,3}\s*$", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Rounded();

    static bool HasStraySpace(string value, out bool multiline)
    {
        multiline = false;
        var stray = IsSpace(value[0]) || IsSpace(value[^1]);
        for (var i = 1; i < value.Length; i++)
        {
            var c = value[i];
            if (c == '\n')
                multiline = true;
            if (c == '\u00A0' || c == '\t' || c == ' ' && value[i - 1] == ' ')
                stray = true;
        }
        return stray;
    }

    static bool IsSpace(char c) => c is ' ' or '\u00A0' or '\t' or '\r' or '\n' or '\u2007' or '\u202F' or '\u3000' or '\u200B' or '\uFEFF';

    static string? Tidy(string value, bool multiline)
    {
        var lines = multiline ? value.Split('\n') : [value];
        var tidy = string.Join(
                '\n',
                lines.Select(line =>
                    string.Join(
                        ' ',
                        line.Split(
                            [' ', '\u00A0', '\t', '\r', '\u2007', '\u202F', '\u3000', '\u200B', '\uFEFF', '\n'],
                            StringSplitOptions.RemoveEmptyEntries
                        )
                    )
                )
            )
            .Trim('\n');
        return tidy.Length == 0 ? null : tidy;
    }

    void Foreign(string value, int column, List<CheckIssue> issues)
    {
        if (Mojibake.Restore(value) is { } restored)
        {
            issues.Add(CheckIssue.With(CheckKind.Garbled, column, $"“{value}” is garbled because of a wrong encoding.", restored));
            return;
        }
        if (value.Contains('\uFFFD'))
        {
            issues.Add(CheckIssue.Of(CheckKind.Garbled, column, $"“{value}” is missing a character."));
            return;
        }
        foreach (var rune in value.EnumerateRunes())
        {
            if (rune.IsAscii || Rune.IsControl(rune) || Rune.IsWhiteSpace(rune) || settings.HasGlyph(rune))
                continue;
            issues.Add(
                CheckIssue.Of(
                    CheckKind.NoGlyph,
                    column,
                    $"{columns[column].Name} has “{rune}” (U+{rune.Value:X4}), which is not in any available font."
                )
            );
            return;
        }
    }

    static string? Capitals(string value, Column column)
    {
        if (
            column.Role
            is not (
                Role.GivenName
                or Role.MiddleName
                or Role.FamilyName
                or Role.FullName
                or Role.PartnerGivenName
                or Role.PartnerFamilyName
                or Role.PartnerFullName
                or Role.Street
                or Role.Street2
                or Role.Street3
                or Role.City
            )
        )
            return null;
        int upper = 0,
            lower = 0;
        foreach (var c in value)
        {
            if (char.IsUpper(c))
                upper++;
            else if (char.IsLower(c))
                lower++;
            if (upper > 0 && lower > 0)
                return null;
        }
        // Initials such as JD and short words such as NE are nothing to lower.
        if (upper + lower < 3)
            return null;
        var proposal = column.Role is Role.Street or Role.Street2 or Role.Street3 ? StreetCase.Of(value) : Texts.NameCase.Of(value);
        return proposal == value ? null : proposal;
    }
}
