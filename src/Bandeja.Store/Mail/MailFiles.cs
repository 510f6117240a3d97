using Bandeja.Core.Mail;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Mail;

/// <summary>A folder of files to attach.</summary>
public sealed record MailFolderRow
{
    public long Id { get; init; }
    public string Name { get; init; } = "";
    public long Files { get; init; }
    public long Size { get; init; }
}

/// <summary>A file to attach.</summary>
public sealed record MailFileRow
{
    public long Id { get; init; }
    public string Name { get; init; } = "";
    public string Sha256 { get; init; } = "";
    public long Size { get; init; }
    public string At { get; init; } = "";
    public string By { get; init; } = "";
}

/// <summary>
/// Files to attach, by folder and name. Rows are only ever added: the newest of a name holds, so what held at any moment can be told by
/// the number of the last row then.
/// </summary>
public sealed class MailFiles(Database database)
{
    const string Present =
        "sha256 IS NOT NULL AND id = (SELECT max(id) FROM mail_file o WHERE o.folder_id IS f.folder_id AND o.name = f.name)";

    /// <summary>All folders.</summary>
    public IReadOnlyList<MailFolderRow> Folders()
    {
        using var c = database.Open();
        return
        [
            .. c.Query<MailFolderRow>(
                $"SELECT d.id, d.name, (SELECT count(*) FROM mail_file f WHERE f.folder_id = d.id AND {Present}) AS files, (SELECT "
                    + $"coalesce(sum(size), 0) FROM mail_file f WHERE f.folder_id = d.id AND {Present}) AS size FROM mail_folder d "
                    + "ORDER BY d.name COLLATE NAMES"
            ),
        ];
    }

    /// <summary>The files of a folder, by name.</summary>
    public IReadOnlyList<MailFileRow> Files(long folderId)
    {
        using var c = database.Open();
        return
        [
            .. c.Query<MailFileRow>(
                $"SELECT id, name, sha256, size, at, by FROM mail_file f WHERE folder_id = @folderId AND {Present} ORDER BY name "
                    + "COLLATE NAMES",
                new { folderId }
            ),
        ];
    }

    /// <summary>Begins a folder, or answers the one of that name.</summary>
    public long Folder(string name, Actor actor) =>
        database.Write(c =>
            c.QuerySingleOrDefault<long?>("SELECT id FROM mail_folder WHERE name = @name", new { name })
            ?? c.QuerySingle<long>(
                "INSERT INTO mail_folder (name, created_at, created_by) VALUES (@name, @Stamp, @Name) RETURNING id",
                new
                {
                    name,
                    actor.Stamp,
                    actor.Name,
                }
            )
        );

    /// <summary>Adds a file; in a folder it takes the place of one of the same name.</summary>
    /// <param name="folderId">Null for a file that is attached for everybody.</param>
    public void Add(long? folderId, string name, string sha256, long size, Actor actor) =>
        database.Write(c =>
        {
            if (
                folderId is not null
                && c.QuerySingleOrDefault<long?>("SELECT id FROM mail_folder WHERE id = @folderId", new { folderId }) is null
            )
                throw new NotFoundException("This folder no longer exists.");
            c.Execute(
                "INSERT INTO mail_file (folder_id, name, sha256, size, at, by) VALUES (@folderId, @name, @sha256, @size, @Stamp, @Name)",
                new
                {
                    folderId,
                    name,
                    sha256,
                    size,
                    actor.Stamp,
                    actor.Name,
                }
            );
        });

    /// <summary>Takes a name out of a folder; runs that began before keep its file.</summary>
    public void Remove(long folderId, string name, Actor actor) =>
        database.Write(c =>
            c.Execute(
                "INSERT INTO mail_file (folder_id, name, sha256, size, at, by) VALUES (@folderId, @name, NULL, 0, @Stamp, @Name)",
                new
                {
                    folderId,
                    name,
                    actor.Stamp,
                    actor.Name,
                }
            )
        );

    /// <summary>The file of a name in a folder as it was when row <paramref name="asOf"/> was the newest; null where there was
    /// none.</summary>
    public MailFileFacts? Find(long folderId, string name, long asOf = long.MaxValue)
    {
        using var c = database.Open();
        var row = c.QueryFirstOrDefault<(string Name, string? Sha, long Size)>(
            "SELECT name, sha256, size FROM mail_file WHERE folder_id = @folderId AND name = @name AND id <= @asOf ORDER BY id DESC "
                + "LIMIT 1",
            new
            {
                folderId,
                name,
                asOf,
            }
        );
        return row.Sha is { } sha ? new(sha, row.Name, row.Size) : null;
    }

    /// <summary>The number of the newest row.</summary>
    public static long Newest(SqliteConnection c) => c.QuerySingle<long>("SELECT coalesce(max(id), 0) FROM mail_file");

    /// <inheritdoc cref="Newest(SqliteConnection)"/>
    public long Newest()
    {
        using var c = database.Open();
        return Newest(c);
    }
}
