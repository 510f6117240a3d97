using Bandeja.Core.Lists;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Recognition;

/// <summary>What a mark in a column with the role <see cref="Role.DoNotMail"/> or <see cref="Role.MayMail"/> says.</summary>
public static class MailMark
{
    const string No = "no n false 0 off nein non nej nee nei ei nie ne nao não いいえ 否 아니오";
    static readonly HashSet<string> Not = Words(No + " - -- none na n/a active alive living current ok okay");
    static readonly HashSet<string> Refused = Words(No + " inactive never out unsubscribed refused declined denied revoked");

    static HashSet<string> Words(string words) => [.. words.Split(' ').Select(FoldedText.Of)];

    /// <summary>True where the recipient is marked: by yes, a date, a reason; false where the cell is blank or says no.</summary>
    public static bool Says(string? value) => !string.IsNullOrWhiteSpace(value) && !Not.Contains(FoldedText.Of(value.Trim().TrimEnd('.')));

    /// <summary>True where a column that says who may be mailed says no.</summary>
    static bool Refuses(string? value) => !string.IsNullOrWhiteSpace(value) && Refused.Contains(FoldedText.Of(value.Trim().TrimEnd('.')));

    /// <summary>True where a cell of a column with such a role says that the recipient gets no piece.</summary>
    public static bool Says(Role role, string? value) =>
        role switch
        {
            Role.DoNotMail => Says(value),
            Role.MayMail => Refuses(value),
            _ => false,
        };

    /// <summary>Why a recipient gets no piece by the marks of the row, as “Deceased: yes”; null where nothing is marked.</summary>
    public static string? Of(IReadOnlyList<Column> columns, IReadOnlyList<string?> values)
    {
        for (var i = 0; i < columns.Count; i++)
            if (Says(columns[i].Role, values[i]))
                return $"{columns[i].Name}: {values[i]!.Trim()}";
        return null;
    }
}
