using Bandeja.Core.Lists;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Recognition;

/// <summary>What a mark in a column with the role <see cref="Role.DoNotMail"/> says.</summary>
public static class MailMark
{
    static readonly HashSet<string> Not =
    [
        .. "no n false 0 - -- none na n/a nein non nej nee nei ei nie ne nao não off active alive living current ok okay いいえ 否 아니오"
            .Split(' ')
            .Select(FoldedText.Of),
    ];

    /// <summary>True where the recipient is marked: by yes, a date, a reason; false where the cell is blank or says no.</summary>
    public static bool Says(string? value) => !string.IsNullOrWhiteSpace(value) && !Not.Contains(FoldedText.Of(value.Trim().TrimEnd('.')));

    /// <summary>Why a recipient gets no piece by the marks of the row, as “Deceased: yes”; null where nothing is marked.</summary>
    public static string? Of(IReadOnlyList<Column> columns, IReadOnlyList<string?> values)
    {
        for (var i = 0; i < columns.Count; i++)
            if (columns[i].Role == Role.DoNotMail && Says(values[i]))
                return $"{columns[i].Name}: {values[i]!.Trim()}";
        return null;
    }
}
