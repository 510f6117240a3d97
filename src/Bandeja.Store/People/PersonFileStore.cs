using Bandeja.Core.Composition;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.People;

/// <summary>A document that is kept with a recipient.</summary>
public sealed record PersonFileRow
{
    public long Id { get; init; }
    public long ListId { get; init; }
    public string ListName { get; init; } = "";
    public long RecipientId { get; init; }
    public string Name { get; init; } = "";

    /// <summary>What its bytes are, such as <c>application/pdf</c>.</summary>
    public string MediaType { get; init; } = "";

    /// <summary>Bytes.</summary>
    public long Size { get; init; }
    public long Pages { get; init; }
    public string At { get; init; } = "";
    public string By { get; init; } = "";
}

/// <summary>A document to keep.</summary>
/// <param name="Sha256">The digest of its bytes as they came.</param>
/// <param name="Picture">How it is drawn; its asset is the id of the file that is drawn.</param>
public sealed record NewPersonFile(string Name, string Sha256, string MediaType, long Size, PictureFacts Picture);

/// <summary>Documents that are kept with recipients. Their bytes lie beside the database.</summary>
public sealed class PersonFileStore(Database database)
{
    /// <summary>The most documents of one recipient.</summary>
    public const int Most = 100;

    const string RowSql = """
        SELECT f.id, f.list_id, l.name AS list_name, f.recipient_id, f.name, f.media_type, f.size, f.pages, f.at, f.by
        FROM person_file f JOIN list l ON l.id = f.list_id
        """;

    /// <summary>The documents of a recipient, and of the same person on other lists, the newest first.</summary>
    public IReadOnlyList<PersonFileRow> Of(long recipientId)
    {
        using var c = database.Open();
        var ids = PeopleStore.Recipients(c, recipientId);
        return [.. c.Query<PersonFileRow>(RowSql + " WHERE f.recipient_id IN @ids ORDER BY f.id DESC", new { ids })];
    }

    /// <summary>One document, with the digest of its bytes.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public (PersonFileRow Row, string Sha256) Get(long fileId)
    {
        using var c = database.Open();
        var row =
            c.QuerySingleOrDefault<PersonFileRow>(RowSql + " WHERE f.id = @fileId", new { fileId })
            ?? throw new NotFoundException("This document no longer exists.");
        return (row, c.QuerySingle<string>("SELECT sha256 FROM person_file WHERE id = @fileId", new { fileId }));
    }

    /// <summary>Keeps a document with a recipient. One of the same name is kept as well: the newest holds where the name is used.</summary>
    /// <exception cref="NotFoundException">The recipient is not on the list.</exception>
    /// <exception cref="ConflictException">They have too many.</exception>
    public long Add(long listId, long recipientId, NewPersonFile file, Actor actor) =>
        database.Write(c =>
        {
            ListStore.Get(c, listId);
            if (RowTable.Values(c, RowTable.Columns(c, listId), listId, recipientId, onTheList: true) is null)
                throw new NotFoundException("This recipient is not on the list.");
            if (c.QuerySingle<long>("SELECT count(*) FROM person_file WHERE recipient_id = @recipientId", new { recipientId }) >= Most)
                throw new ConflictException($"A recipient can have {Most} documents. Remove one first.");
            return c.QuerySingle<long>(
                """
                INSERT INTO person_file (list_id, recipient_id, name, sha256, media_type, size, picture, width, height, drawing,
                    pages, written, at, by)
                VALUES (@listId, @recipientId, @name, @Sha256, @MediaType, @Size, @Asset, @Width, @Height, @IsDrawing, @Pages,
                    @Written, @Stamp, @by) RETURNING id
                """,
                new
                {
                    listId,
                    recipientId,
                    name = file.Name,
                    file.Sha256,
                    file.MediaType,
                    file.Size,
                    file.Picture.Asset,
                    file.Picture.Width,
                    file.Picture.Height,
                    file.Picture.IsDrawing,
                    file.Picture.Pages,
                    file.Picture.Written,
                    actor.Stamp,
                    by = actor.Name,
                }
            );
        });

    /// <summary>Removes a document for good.</summary>
    public void Remove(long fileId) =>
        database.Write(c =>
        {
            if (c.Execute("DELETE FROM person_file WHERE id = @fileId", new { fileId }) == 0)
                throw new NotFoundException("This document no longer exists.");
        });

    /// <summary>The names of all files that are still wanted: digests, and ids of pictures.</summary>
    public IReadOnlySet<string> Wanted()
    {
        using var c = database.Open();
        return c.Query<string>("SELECT sha256 FROM person_file UNION SELECT picture FROM person_file").ToHashSet();
    }

    /// <summary>The document of a name that a recipient has; null where they have none.</summary>
    /// <param name="asOf">The newest document that counts.</param>
    public OwnDocument? Find(long recipientId, string name, long asOf)
    {
        using var c = database.Open();
        var f = c.QueryFirstOrDefault<Stored>(
            """
            SELECT name, sha256, media_type, size, picture, width, height, drawing, pages, written FROM person_file
            WHERE recipient_id = @recipientId AND name = @name COLLATE NOCASE AND id <= @asOf ORDER BY id DESC LIMIT 1
            """,
            new
            {
                recipientId,
                name,
                asOf,
            }
        );
        return f is null
            ? null
            : new(
                f.Sha256,
                f.Name,
                f.Size,
                new(f.Picture, f.Width, f.Height, f.Drawing, f.MediaType == "application/pdf", (int)f.Pages, f.Written)
            );
    }

    sealed record Stored
    {
        public string Name { get; init; } = "";
        public string Sha256 { get; init; } = "";
        public string MediaType { get; init; } = "";
        public long Size { get; init; }
        public string Picture { get; init; } = "";
        public double Width { get; init; }
        public double Height { get; init; }
        public bool Drawing { get; init; }
        public long Pages { get; init; }
        public long Written { get; init; }
    }

    /// <summary>The number of the newest document of all.</summary>
    public static long Newest(SqliteConnection c) => c.QuerySingle<long>("SELECT coalesce(max(id), 0) FROM person_file");

    /// <summary>A mark that changes with the documents of a list's recipients.</summary>
    public static string Mark(SqliteConnection c, long listId) =>
        c.QuerySingle<string>(
            "SELECT count(*) || '/' || coalesce(max(id), 0) || '/' || coalesce(sum(id), 0) FROM person_file WHERE list_id = @listId",
            new { listId }
        );
}
