using System.Globalization;
using System.Text.Json.Serialization;
using Bandeja.Core.Composition;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Designs;

/// <summary>A design without its text.</summary>
public sealed record DesignRow
{
    public long Id { get; init; }
    public string Name { get; init; } = "";
    public PieceKind Kind { get; init; }
    public long? ListId { get; init; }
    public string CreatedAt { get; init; } = "";
    public long Version { get; init; }
    public string UpdatedAt { get; init; } = "";
    public string By { get; init; } = "";
    public string Description { get; init; } = "";
    public string TagsJson { get; init; } = "[]";
    public bool Archived { get; init; }
}

/// <summary>A version of a design.</summary>
public sealed record DesignVersionRow
{
    public long Id { get; init; }
    public long DesignId { get; init; }
    public long Number { get; init; }
    public string DocumentJson { get; init; } = "";
    public string CreatedAt { get; init; } = "";
    public string UpdatedAt { get; init; } = "";
    public string By { get; init; } = "";
    public bool Sealed { get; init; }

    /// <summary>Goes up with every save within the version.</summary>
    public long Revision { get; init; }
    public long? RestoredFrom { get; init; }
    public bool Produced { get; init; }
}

/// <summary>A picture that designs use.</summary>
public sealed record PictureRow
{
    public string Id { get; init; } = "";
    public string Name { get; init; } = "";
    public string MediaType { get; init; } = "";
    public long Width { get; init; }
    public long Height { get; init; }
    public long Size { get; init; }

    /// <summary>For a PDF: how many pages it has.</summary>
    public long Pages { get; init; }

    /// <summary>How many bytes it adds to each piece that has it; 0 where that was not looked at yet.</summary>
    public long Written { get; init; }

    /// <summary>The password that opens it, encrypted; null for none.</summary>
    [JsonIgnore]
    public string? Secret { get; init; }
}

/// <summary>Designs, their versions and their pictures.</summary>
public sealed class DesignStore(Database database)
{
    /// <summary>Writing that goes on after a pause this long begins a new version.</summary>
    static readonly TimeSpan Pause = TimeSpan.FromMinutes(10);

    const string DesignSql = """
        SELECT d.id, d.name, d.kind, d.list_id, d.created_at, d.description, d.tags_json, d.archived, v.number AS version, v.updated_at,
            v.by
        FROM design d JOIN design_version v ON v.design_id = d.id AND v.number = (SELECT max(number) FROM design_version
            WHERE design_id = d.id)
        """;

    const string VersionSql = """
        SELECT v.id, v.design_id, v.number, v.document_json, v.created_at, v.updated_at, v.by, v.sealed, v.restored_from, v.revision,
               EXISTS (SELECT 1 FROM run_design WHERE design_version_id = v.id) AS produced
        FROM design_version v
        """;

    /// <summary>All designs, the one changed last first.</summary>
    public IReadOnlyList<DesignRow> All()
    {
        using var c = database.Open();
        return [.. c.Query<DesignRow>(DesignSql + " ORDER BY v.updated_at DESC")];
    }

    /// <summary>One design.</summary>
    /// <exception cref="NotFoundException">There is none.</exception>
    public DesignRow Get(long id)
    {
        using var c = database.Open();
        return c.QuerySingleOrDefault<DesignRow>(DesignSql + " WHERE d.id = @id", new { id })
            ?? throw new NotFoundException("This design no longer exists.");
    }

    /// <summary>Begins a design with its first version.</summary>
    public long Create(string name, long? listId, string documentJson, Actor actor, PieceKind kind = PieceKind.Letter) =>
        database.Write(c =>
        {
            var id = c.QuerySingle<long>(
                "INSERT INTO design (name, kind, list_id, created_at, created_by) VALUES (@name, @kind, @listId, @Stamp, @Name) "
                    + "RETURNING id",
                new
                {
                    name,
                    kind = kind.Stored(),
                    listId,
                    actor.Stamp,
                    actor.Name,
                }
            );
            Insert(c, id, 1, documentJson, actor, null);
            return id;
        });

    static long Insert(SqliteConnection c, long designId, long number, string documentJson, Actor actor, long? restoredFrom) =>
        c.QuerySingle<long>(
            "INSERT INTO design_version (design_id, number, document_json, created_at, updated_at, by, restored_from) VALUES "
                + "(@designId, @number, @documentJson, @Stamp, @Stamp, @Name, @restoredFrom) RETURNING id",
            new
            {
                designId,
                number,
                documentJson,
                actor.Stamp,
                actor.Name,
                restoredFrom,
            }
        );

    /// <summary>The newest version.</summary>
    public static DesignVersionRow Newest(SqliteConnection c, long designId) =>
        c.QueryFirstOrDefault<DesignVersionRow>(
            VersionSql + " WHERE v.design_id = @designId ORDER BY v.number DESC LIMIT 1",
            new { designId }
        ) ?? throw new NotFoundException("This design no longer exists.");

    /// <summary>A design's name; null where there is none.</summary>
    public static string? NameOf(SqliteConnection c, long designId) =>
        c.QuerySingleOrDefault<string?>("SELECT name FROM design WHERE id = @designId", new { designId });

    /// <inheritdoc cref="Newest(SqliteConnection, long)"/>
    public DesignVersionRow Newest(long designId)
    {
        using var c = database.Open();
        return Newest(c, designId);
    }

    /// <summary>A version by its id.</summary>
    public static DesignVersionRow Version(SqliteConnection c, long versionId) =>
        c.QuerySingle<DesignVersionRow>(VersionSql + " WHERE v.id = @versionId", new { versionId });

    /// <summary>All versions, the newest first.</summary>
    public IReadOnlyList<DesignVersionRow> Versions(long designId)
    {
        using var c = database.Open();
        return [.. c.Query<DesignVersionRow>(VersionSql + " WHERE v.design_id = @designId ORDER BY v.number DESC", new { designId })];
    }

    /// <summary>
    /// Saves what was written: into the newest version while the same person goes on writing, else as a new version. A sealed
    /// version is never changed.
    /// </summary>
    /// <param name="basedOn">The number of the version that the writer had before them.</param>
    /// <param name="revision">Which save of that version it was.</param>
    /// <param name="beside">True to save beside what somebody else saved meanwhile: as a version of its own after it, so that both are
    /// kept.</param>
    /// <exception cref="StaleException">Somebody else, or another window, saved meanwhile.</exception>
    public DesignVersionRow Save(long designId, long basedOn, long revision, string documentJson, Actor actor, bool beside = false) =>
        database.Write(c =>
        {
            var newest = Newest(c, designId);
            if (newest.DocumentJson == documentJson)
                return newest;
            var stale = newest.Number != basedOn || newest.Revision != revision;
            if (stale && !beside)
                throw new StaleException(
                    $"{newest.By} has since saved version {newest.Number} of this design. Both versions are kept. Merge them or choose one."
                );
            var idle = actor.At - DateTimeOffset.Parse(newest.UpdatedAt, CultureInfo.InvariantCulture) > Pause;
            if (stale || newest.Sealed || idle || newest.By != actor.Name)
            {
                c.Execute("UPDATE design_version SET sealed = 1 WHERE id = @Id AND sealed = 0", new { newest.Id });
                Insert(c, designId, newest.Number + 1, documentJson, actor, null);
            }
            else
                c.Execute(
                    "UPDATE design_version SET document_json = @documentJson, updated_at = @Stamp, revision = revision + 1 WHERE id = @Id",
                    new
                    {
                        documentJson,
                        actor.Stamp,
                        newest.Id,
                    }
                );
            return Newest(c, designId);
        });

    /// <summary>Begins a version after the newest one, which stays as it is.</summary>
    public DesignVersionRow Begin(long designId, string documentJson, Actor actor) =>
        database.Write(c =>
        {
            var newest = Newest(c, designId);
            c.Execute("UPDATE design_version SET sealed = 1 WHERE id = @Id AND sealed = 0", new { newest.Id });
            Insert(c, designId, newest.Number + 1, documentJson, actor, null);
            return Newest(c, designId);
        });

    /// <summary>Brings an old version back as the newest one; nothing in between is lost.</summary>
    public DesignVersionRow Restore(long designId, long number, Actor actor) =>
        database.Write(c =>
        {
            var old =
                c.QuerySingleOrDefault<DesignVersionRow>(
                    VersionSql + " WHERE v.design_id = @designId AND v.number = @number",
                    new { designId, number }
                ) ?? throw new NotFoundException($"This letter has no version {number}.");
            var newest = Newest(c, designId);
            c.Execute("UPDATE design_version SET sealed = 1 WHERE id = @Id AND sealed = 0", new { newest.Id });
            Insert(c, designId, newest.Number + 1, old.DocumentJson, actor, old.Number);
            return Newest(c, designId);
        });

    /// <summary>Changes what is said about a design, or the list it is written with; null leaves a thing as it is.</summary>
    public void Change(
        long id,
        string? name = null,
        long? listId = null,
        string? description = null,
        string? tagsJson = null,
        bool? archived = null
    ) =>
        database.Write(c =>
        {
            if (
                c.Execute(
                    """
                    UPDATE design SET name = coalesce(@name, name), list_id = coalesce(@listId, list_id),
                        description = coalesce(@description, description), tags_json = coalesce(@tagsJson, tags_json),
                        archived = coalesce(@archived, archived)
                    WHERE id = @id
                    """,
                    new
                    {
                        id,
                        name,
                        listId,
                        description,
                        tagsJson,
                        archived,
                    }
                ) == 0
            )
                throw new NotFoundException("This design no longer exists.");
        });

    /// <summary>A design like another, from its newest version, with what is said and remembered about it.</summary>
    public long Duplicate(long id, string name, Actor actor) =>
        database.Write(c =>
        {
            var newest = Newest(c, id);
            var copy = c.QuerySingle<long>(
                "INSERT INTO design (name, kind, list_id, created_at, created_by, description, tags_json) SELECT @name, kind, "
                    + "list_id, @Stamp, @By, description, tags_json FROM design WHERE id = @id RETURNING id",
                new
                {
                    id,
                    name,
                    actor.Stamp,
                    By = actor.Name,
                }
            );
            Insert(c, copy, 1, newest.DocumentJson, actor, null);
            c.Execute(
                "INSERT INTO design_match (design_id, list_id, name, column_id, how) SELECT @copy, list_id, name, column_id, how "
                    + "FROM design_match WHERE design_id = @id; INSERT INTO design_rows_match (design_id, list_id, name, field, "
                    + "target) SELECT @copy, list_id, name, field, target FROM design_rows_match WHERE design_id = @id",
                new { copy, id }
            );
            return copy;
        });

    /// <summary>Remembers that a name of a letter stands for a column of a list, or, with null, forgets it.</summary>
    public void Match(long designId, long listId, string name, long? columnId, string how) =>
        database.Write(c => DesignMatches.Set(c, designId, listId, name, columnId, how));

    /// <summary>Remembers that a name of a letter stands for detail rows of a list, or for a column within them; with null it is
    /// forgotten.</summary>
    public void MatchRows(long designId, long listId, string name, string? field, string? target) =>
        database.Write(c => DesignMatches.SetRows(c, designId, listId, name, field, target));

    /// <summary>The envelopes that go out together with a design, those of the newest drop first.</summary>
    public static IReadOnlyList<long> EnvelopesWith(SqliteConnection c, long designId) =>
        [
            .. c.Query<long>(
                """
                SELECT e.design_id FROM drop_design l JOIN drop_design e ON e.drop_id = l.drop_id JOIN design g ON g.id = e.design_id
                WHERE l.design_id = @designId AND g.kind = 'envelope' GROUP BY e.design_id ORDER BY max(e.drop_id) DESC
                """,
                new { designId }
            ),
        ];

    /// <summary>Where designs are used, as design and a name for people.</summary>
    public IReadOnlyList<(long DesignId, string Use)> Uses()
    {
        using var c = database.Open();
        return
        [
            .. c.Query<(long, string)>(
                "SELECT p.design_id, k.name || ', drop ' || d.number FROM drop_design p JOIN mail_drop d ON d.id = p.drop_id JOIN "
                    + "campaign k ON k.id = d.campaign_id ORDER BY d.id"
            ),
        ];
    }

    /// <summary>Keeps a picture's description; the bytes are a file.</summary>
    public void AddPicture(PictureRow picture, Actor actor) =>
        database.Write(c =>
            c.Execute(
                """
                INSERT INTO picture (id, name, media_type, width, height, size, pages, written, secret, at)
                    VALUES (@Id, @Name, @MediaType, @Width, @Height, @Size, @Pages, @Written, @Secret, @Stamp)
                    ON CONFLICT (id) DO UPDATE SET secret = excluded.secret WHERE excluded.secret IS NOT NULL;
                INSERT INTO picture_naming (name, picture_id, at) SELECT @Name, @Id, @Stamp
                WHERE @Id IS NOT (SELECT picture_id FROM picture_naming WHERE name = @Name ORDER BY id DESC LIMIT 1);
                """,
                new
                {
                    picture.Id,
                    picture.Name,
                    picture.MediaType,
                    picture.Width,
                    picture.Height,
                    picture.Size,
                    picture.Pages,
                    picture.Written,
                    picture.Secret,
                    actor.Stamp,
                }
            )
        );

    /// <summary>Keeps what was found out about a picture.</summary>
    public void MeasuredPicture(PictureRow picture) =>
        database.Write(c =>
            c.Execute(
                "UPDATE picture SET pages = @Pages, written = @Written WHERE id = @Id",
                new
                {
                    picture.Pages,
                    picture.Written,
                    picture.Id,
                }
            )
        );

    /// <summary>All pictures, the newest first.</summary>
    public IReadOnlyList<PictureRow> Pictures()
    {
        using var c = database.Open();
        return
        [
            .. c.Query<PictureRow>(
                "SELECT p.id, n.name, p.media_type, p.width, p.height, p.size, p.pages, p.written FROM picture_naming n JOIN "
                    + "picture p ON p.id = n.picture_id WHERE n.id IN (SELECT max(id) FROM picture_naming GROUP BY name) ORDER BY "
                    + "n.id DESC LIMIT 500"
            ),
        ];
    }

    /// <summary>A mark that changes whenever a name comes to mean another picture, and never comes back to what it was.</summary>
    public string PicturesMark()
    {
        using var c = database.Open();
        return c.QuerySingle<string>("SELECT count(*) || ' ' || coalesce(max(at), '') FROM picture_naming");
    }

    /// <summary>The number of the newest naming of a picture.</summary>
    public static long NewestNaming(SqliteConnection c) => c.QuerySingle<long>("SELECT coalesce(max(id), 0) FROM picture_naming");

    /// <summary>The newest picture of a name, with or without its ending and whatever its capitals, or null.</summary>
    /// <param name="asOf">The newest naming that counts; null for all of them.</param>
    public PictureRow? PictureNamed(string name, long? asOf = null)
    {
        using var c = database.Open();
        return c.QueryFirstOrDefault<PictureRow>(
            """
            SELECT p.id, n.name, p.media_type, p.width, p.height, p.size, p.pages, p.written FROM picture_naming n JOIN picture p
                ON p.id = n.picture_id
            WHERE n.name IN (@name, @name || '.png', @name || '.jpg', @name || '.jpeg', @name || '.svg') AND (@asOf IS NULL
                OR n.id <= @asOf) ORDER BY n.id DESC LIMIT 1
            """,
            new { name, asOf }
        );
    }

    /// <summary>A picture's description, or null.</summary>
    public PictureRow? Picture(string id)
    {
        using var c = database.Open();
        return c.QuerySingleOrDefault<PictureRow>(
            "SELECT id, name, media_type, width, height, size, pages, written, secret FROM picture WHERE id = @id",
            new { id }
        );
    }
}
