using Bandeja.Core.Lists;

namespace Bandeja.Core.Mail;

/// <summary>How a recipient's pieces go out. The names are stored; never rename one.</summary>
[Flags]
public enum Channel
{
    /// <summary>By post.</summary>
    Paper = 1,

    /// <summary>By mail server.</summary>
    Email = 2,

    /// <summary>Both: a piece of each.</summary>
    Both = Paper | Email,
}

/// <summary>What decides about the channel. The names are stored; never rename one.</summary>
public enum ChannelBy
{
    /// <summary>Everybody by what the package holds: paper, email, or both.</summary>
    Package,

    /// <summary>By email where there is one good address, else on paper.</summary>
    Address,

    /// <summary>A column says so; where it is blank, as <see cref="Address"/>.</summary>
    Column,
}

/// <summary>Who of a drop gets their pieces in which way.</summary>
/// <param name="By">What decides.</param>
/// <param name="ColumnId">The column that says so, for <see cref="ChannelBy.Column"/>.</param>
public sealed record ChannelRule(ChannelBy By = ChannelBy.Package, int? ColumnId = null)
{
    static readonly string[] Paper = ["paper", "post", "letter", "mail", "print", "p"],
        Email = ["email", "e-mail", "electronic", "digital", "e"],
        Both = ["both", "paper and email", "email and paper", "all"];

    /// <summary>The words that a column may say it in, for people.</summary>
    public const string Words = "“email”, “paper” or “both”";

    /// <summary>The channel of a recipient, and, where the column says something else than a channel, that.</summary>
    /// <param name="package">What the package holds: nobody gets what is not in it.</param>
    /// <param name="columns">The list's columns.</param>
    /// <param name="address">What the recipient's email cell holds.</param>
    public (Channel Channel, string? Unknown) Of(Channel package, IReadOnlyList<Column> columns, IRow row, CellVerdict address)
    {
        if (package != Channel.Both || By == ChannelBy.Package)
            return (package, null);
        // Where there are several addresses somebody must choose one; that is told, and it is not quietly sent on paper.
        var byAddress = address is CellVerdict.Good or CellVerdict.Several ? Channel.Email : Channel.Paper;
        if (By == ChannelBy.Address)
            return (byAddress, null);
        var at = Position(columns);
        var said = at < 0 ? "" : (row[at] ?? "").Trim().ToLowerInvariant();
        if (said.Length == 0)
            return (byAddress, null);
        if (Both.Contains(said))
            return (Channel.Both, null);
        if (Email.Contains(said))
            return (Channel.Email, null);
        return Paper.Contains(said) ? (Channel.Paper, null) : (byAddress, row[at]!.Trim());
    }

    /// <summary>The position of the column that decides; -1 where none does or it is gone.</summary>
    public int Position(IReadOnlyList<Column> columns) => By != ChannelBy.Column ? -1 : columns.ToList().FindIndex(c => c.Id == ColumnId);
}
