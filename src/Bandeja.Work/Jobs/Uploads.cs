using Bandeja.Core.Formulas;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Core.Recognition;
using Bandeja.Formats.Lists;
using Bandeja.Store;
using Bandeja.Work.Hosting;
using Bandeja.Work.Reading;
using Dapper;

namespace Bandeja.Work.Jobs;

/// <summary>A file that was uploaded.</summary>
public sealed record UploadView(string Id, string Name, long Size);

/// <summary>Files that people brought, from which lists are read.</summary>
public sealed class Uploads(Database database, ServerOptions server, SettingStore settings, FileReader files)
{
    const int LongestName = 200;

    /// <summary>Where a file lies.</summary>
    public string PathOf(string id) => Path.Combine(server.Folder("uploads"), id);

    /// <summary>A file that was uploaded.</summary>
    /// <exception cref="NotFoundException">It is not there (any more).</exception>
    public UploadView Get(string id)
    {
        using var c = database.Open();
        var row = c.QuerySingleOrDefault<(string Id, string Name, long Size)>(
            "SELECT id, name, size FROM upload WHERE id = @id",
            new { id }
        );
        return row.Id is null
            ? throw new NotFoundException("This file is no longer on the server. Import it again.")
            : new(row.Id, row.Name, row.Size);
    }

    /// <summary>Takes a file that lies in the folder among the uploads.</summary>
    /// <exception cref="ListFileException">No list can be read from it.</exception>
    public UploadView Keep(string id, string name, Actor actor, CancellationToken cancel) =>
        Keep(id, name, actor, (path, own) => files.Accept(path, own, cancel));

    /// <summary>Takes a file that lies in the folder among the uploads.</summary>
    /// <param name="accept">Looks into the file, by its path and its name, and throws where it cannot be used.</param>
    public UploadView Keep(string id, string name, Actor actor, Action<string, string> accept)
    {
        name = Path.GetFileName(name.Replace('\\', '/'));
        if (name.Length > LongestName)
            name = name[^LongestName..];
        accept(PathOf(id), name);
        var size = new FileInfo(PathOf(id)).Length;
        database.Write(c =>
            c.Execute(
                "INSERT INTO upload (id, name, size, at, by) VALUES (@id, @name, @size, @Stamp, @Name)",
                new
                {
                    id,
                    name,
                    size,
                    actor.Stamp,
                    actor.Name,
                }
            )
        );
        return new(id, name, size);
    }

    /// <summary>An upload's rows, read elsewhere.</summary>
    public IListFile File(UploadView upload, CancellationToken cancel) => files.List(PathOf(upload.Id), upload.Name, cancel);

    /// <summary>The first rows of an upload as they would be read.</summary>
    public SourceLook Look(UploadView upload, SourceOptions options, CancellationToken cancel)
    {
        var locale = settings.Organization().ToLocale();
        return files.Look(
            PathOf(upload.Id),
            upload.Name,
            options,
            new(
                TypedValue.DateOrderOf(locale) is DateOrder.MonthDayYear ? DateOrder.MonthDayYear : DateOrder.DayMonthYear,
                Countries.Named(locale.Country)!,
                locale.Currency
            ),
            cancel
        );
    }

    /// <summary>Refuses columns that cannot be read.</summary>
    /// <exception cref="BadInputException">Something about them cannot be; the sentence says what.</exception>
    public static void Check(int width, IReadOnlyList<ImportColumn> columns)
    {
        if (columns.Count == 0)
            throw new BadInputException("Choose at least one column.");
        if (columns.Count > SourceFile.MaxColumns)
            throw new BadInputException($"A list can have up to {SourceFile.MaxColumns:N0} columns.");
        if (columns.Any(c => string.IsNullOrWhiteSpace(c.Name) || c.Name.Length > Headings.MaxLength))
            throw new BadInputException($"Every column needs a heading of at most {Headings.MaxLength} characters.");
        if (columns.Any(c => c.Position < 0 || c.Position >= width) || width > SourceFile.MaxColumns)
            throw new BadInputException("One of the chosen columns is not in the file.");
        if (columns.Any(c => c.Name.IndexOfAny(['{', '}', '`']) >= 0))
            throw new BadInputException("A heading cannot contain braces or backticks because fields use them.");
        if (columns.FirstOrDefault(c => c.Format is not null && UsualFormat.Of(c.Format) is null) is { } odd)
            throw new BadInputException($"“{odd.Format}” is not a format that the numbers of a column can have.");
        if (columns.Any(c => c.Divide && CellParts.RolesOf(c.Role).Count == 0))
            throw new BadInputException("Only a full name or a full address can be split.");
        if (columns.GroupBy(c => c.Name, StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } twice)
            throw new BadInputException($"Two columns are named “{twice.Key}”. Change one of the headings.");
    }
}
