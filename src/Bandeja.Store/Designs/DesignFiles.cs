using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Designs;

/// <summary>The word processor file that a version of a letter was imported from.</summary>
public sealed record DesignFileRow
{
    public long DesignId { get; init; }

    /// <summary>The version's number.</summary>
    public long Version { get; init; }

    /// <summary>What the file is called in its folder: the digest of its bytes.</summary>
    public string Digest { get; init; } = "";
    public string Name { get; init; } = "";
    public long Size { get; init; }

    /// <summary>The marks around placeholders that were chosen.</summary>
    public string MarksJson { get; init; } = "[]";

    /// <summary>What was chosen for placeholders, by their keys.</summary>
    public string AnswersJson { get; init; } = "{}";
    public string At { get; init; } = "";
    public string By { get; init; } = "";
}

/// <summary>Which files letters were made of.</summary>
public sealed class DesignFiles(Database database)
{
    /// <summary>The file a letter was imported from last; null for one that was written here.</summary>
    public DesignFileRow? Newest(long designId)
    {
        using var c = database.Open();
        return c.QuerySingleOrDefault<DesignFileRow>(
            "SELECT * FROM design_file WHERE design_id = @designId ORDER BY id DESC LIMIT 1",
            new { designId }
        );
    }

    /// <summary>Notes the file of a version.</summary>
    public void Add(DesignFileRow file) =>
        database.Write(c =>
            c.Execute(
                "INSERT INTO design_file (design_id, version, digest, name, size, marks_json, answers_json, at, by) VALUES "
                    + "(@DesignId, @Version, @Digest, @Name, @Size, @MarksJson, @AnswersJson, @At, @By)",
                file
            )
        );

    /// <summary>The digests of all files that letters were made of.</summary>
    public IReadOnlySet<string> Digests()
    {
        using var c = database.Open();
        return c.Query<string>("SELECT DISTINCT digest FROM design_file").ToHashSet();
    }

    /// <summary>Forgets the files of a design that is removed.</summary>
    internal static void Forget(SqliteConnection c, long designId) =>
        c.Execute("DELETE FROM design_file WHERE design_id = @designId", new { designId });
}
