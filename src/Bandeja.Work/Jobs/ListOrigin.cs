using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;
using Bandeja.Formats.Lists;

namespace Bandeja.Work.Jobs;

/// <summary>A column of a list that came from a file.</summary>
/// <param name="Name">What it is called now.</param>
/// <param name="Source">What it was called in the file, or when it was made of another column.</param>
/// <param name="Removed">True where somebody removed it.</param>
/// <param name="Division">How it was divided after it came in; null where it was not.</param>
public sealed record OriginColumn(int Id, string Name, string Source, bool Removed, Division? Division = null);

/// <summary>
/// How a list was read the first time and what its columns were called in the file; which columns of a newer file are which of the list's.
/// A column of the list is known by what it was called in the file, so that neither a new name here nor a new heading there loses what is
/// made of it.
/// </summary>
/// <param name="first">How the list was imported; null for one that was typed.</param>
/// <param name="ofFiles">Its columns that came from files, removed ones among them, in their order.</param>
/// <param name="columns">All its columns.</param>
public sealed class ListOrigin(ImportOrder? first, IReadOnlyList<OriginColumn> ofFiles, IReadOnlyList<Column> columns)
{
    static readonly StringComparer Headings = StringComparer.OrdinalIgnoreCase;

    /// <summary>Whether rows with totals were left out.</summary>
    public bool LeavesTotals => first?.LeaveOut is { Count: > 0 };

    /// <summary>How a column of the list was imported the first time; null for one that came otherwise.</summary>
    public ImportColumn? Imported(int? columnId) =>
        ofFiles.FirstOrDefault(c => c.Id == columnId) is { } own
            ? first?.Columns.FirstOrDefault(c => Headings.Equals(c.Name.Trim(), own.Source.Trim()))
            : null;

    /// <summary>How a column of the list is divided, since it came in or from the first; null where it is not, or where all its parts were
    /// removed.</summary>
    public Division? DividedAs(int? columnId)
    {
        var division =
            ofFiles.FirstOrDefault(c => c.Id == columnId)?.Division
            ?? (Imported(columnId) is { Divide: true } whole ? new(whole.Role, whole.FamilyFirst) : null);
        return division is not null && NamesOf(division).SelectMany(CalledAs).Any(c => !c.Removed) ? division : null;
    }

    static IEnumerable<string> NamesOf(Division division) => CellParts.RolesOf(division.Whole).Select(CellParts.NameOf);

    /// <summary>Which column of the list each column of the file is, by its heading.</summary>
    public IReadOnlyList<int?> Matched(SourceLook look)
    {
        var here = ofFiles.Where(c => !c.Removed).ToList();
        var byName = here.GroupBy(c => c.Source, Headings).ToDictionary(g => g.Key, g => g.First().Id, Headings);
        foreach (var c in here)
            byName.TryAdd(c.Name, c.Id);
        var taken = new HashSet<int>();
        return [.. look.Columns.Select(x => byName.TryGetValue(x.Name, out var at) && taken.Add(at) ? at : (int?)null)];
    }

    /// <summary>The list's columns that are made of others: no column of a file is theirs, and none is missing because of them.</summary>
    public IReadOnlyList<int> Made => [.. ofFiles.SelectMany(c => MadeOf(c.Id)).Where(c => !c.Removed).Select(c => c.Id).Distinct()];

    IEnumerable<OriginColumn> MadeOf(int columnId)
    {
        var own = ofFiles.First(c => c.Id == columnId);
        var names = DividedAs(columnId) is { } division ? NamesOf(division) : [];
        if (columns.Any(c => c.Id == columnId && c.Type == ColumnType.Date))
            names = names.Append(TimesOfDay.NameOf(own.Source));
        return names.SelectMany(CalledAs).Where(c => c.Id != columnId);
    }

    /// <summary>Those that were called so when they were made of another, removed ones last; a number stands behind the name where it was
    /// taken.</summary>
    IEnumerable<OriginColumn> CalledAs(string name) =>
        ofFiles
            .Where(c =>
                c.Source.StartsWith(name, StringComparison.OrdinalIgnoreCase)
                && (
                    c.Source.Length == name.Length
                    || c.Source[name.Length] == ' ' && c.Source.AsSpan(name.Length + 1).IndexOfAnyExceptInRange('0', '9') < 0
                )
                && first?.Columns.Any(x => Headings.Equals(x.Name.Trim(), c.Source.Trim())) != true
            )
            .OrderBy(c => c.Removed);

    /// <summary>Whether it is proposed to keep the times of day of a column of the file: where the list does, or where people set them and
    /// nobody said otherwise.</summary>
    /// <param name="columnId">The column of the list that it is; null for a new one.</param>
    public bool KeepsTimes(int? columnId, SourceColumn inFile)
    {
        if (columns.FirstOrDefault(c => c.Id == columnId) is not { } own)
            return inFile.KeepTimes;
        if (own.Type != ColumnType.Date)
            return false;
        var times = ofFiles.FirstOrDefault(c => c.Id == own.Id) is { } origin ? CalledAs(TimesOfDay.NameOf(origin.Source)).ToList() : [];
        return times.Count > 0 ? !times[0].Removed : inFile.KeepTimes && Imported(columnId) is not { Time: not null, KeepTimes: false };
    }

    /// <summary>The columns of a newer file as they are read, with the ids of the list's; those that the list does not have get ids below
    /// zero. Null where a column is made of another and was removed here, or is one of the file's now.</summary>
    /// <param name="ofFile">The file's columns that are taken, then those made of them.</param>
    /// <param name="made">Which are made of others.</param>
    /// <param name="ids">For each that is taken the list's column, or null for a new one.</param>
    internal IReadOnlyList<Column?> Matched(IReadOnlyList<Column> ofFile, IReadOnlyList<MadeColumn> made, IReadOnlyList<int?> ids)
    {
        var taken = ids.OfType<int>().ToHashSet();
        // A role that another column of the list has is not taken from it.
        var roles = columns.Select(c => c.Role).ToHashSet();
        var matched = new Column?[ofFile.Count];
        for (var i = 0; i < ofFile.Count; i++)
        {
            var column = ofFile[i];
            var id = i < ids.Count ? ids[i] : null;
            if (made.FirstOrDefault(m => m.At == i) is { } origin)
            {
                var name = origin.Part is { } part
                    ? CellParts.NameOf(part)
                    : TimesOfDay.NameOf(SourceOf(ids[origin.Of]) ?? ofFile[origin.Of].Name);
                var here = CalledAs(name).ToList();
                if (here.FirstOrDefault(c => !taken.Contains(c.Id)) is { } free)
                {
                    taken.Add(free.Id);
                    if (free.Removed)
                        continue;
                    id = free.Id;
                }
                else if (here.Count > 0)
                    continue;
                column = column with { Name = name };
            }
            matched[i] =
                id is { } known ? column with { Id = known }
                : roles.Add(column.Role) || column.Role == Role.None ? column with { Id = -(i + 1) }
                : column with { Id = -(i + 1), Role = Role.None };
        }
        return matched;
    }

    string? SourceOf(int? columnId) => ofFiles.FirstOrDefault(c => c.Id == columnId)?.Source;
}
