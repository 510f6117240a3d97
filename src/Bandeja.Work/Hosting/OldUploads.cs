using Bandeja.Store;
using Dapper;

namespace Bandeja.Work.Hosting;

/// <summary>Removes files that were brought in to be read: what was read of them is in the database, and nothing asks for them
/// again.</summary>
public sealed class OldUploads(Database database, ServerOptions server)
{
    /// <summary>How long a file stays, so that somebody can finish an import that they began.</summary>
    public static readonly TimeSpan Kept = TimeSpan.FromDays(1);

    /// <summary>Removes what is older, but for what work in the queue still reads.</summary>
    public int Sweep(DateTimeOffset now)
    {
        var before = now - Kept;
        var old = database.Write(c =>
        {
            var ids = c.Query<string>(
                    "SELECT id FROM upload u WHERE at < @Stamp AND NOT EXISTS (SELECT 1 FROM job WHERE state IN ('queued', "
                        + "'running') AND instr(payload_json, u.id) > 0)",
                    new { Stamp = Actor.StampOf(before) }
                )
                .ToList();
            foreach (var id in ids)
                c.Execute("DELETE FROM upload WHERE id = @id", new { id });
            return ids;
        });
        var folder = server.Folder("uploads");
        foreach (var id in old)
            File.Delete(Path.Combine(folder, id));
        return old.Count;
    }

    /// <summary>A file whose rows are in the database is not needed anymore.</summary>
    public void Used(string id)
    {
        database.Write(c => c.Execute("DELETE FROM upload WHERE id = @id", new { id }));
        File.Delete(Path.Combine(server.Folder("uploads"), id));
    }

    /// <summary>Removes files without a row: left by a process that ended, or by a list that was removed. One that is just arriving has no
    /// row either, and is left alone.</summary>
    /// <param name="before">Files that were written to since then may be arriving.</param>
    public void RemoveOrphans(DateTimeOffset before)
    {
        using var view = database.Open();
        var known = view.Query<string>("SELECT id FROM upload").ToHashSet();
        foreach (var file in Directory.EnumerateFiles(server.Folder("uploads")))
            if (!known.Contains(Path.GetFileName(file)) && File.GetLastWriteTimeUtc(file) <= before.UtcDateTime)
                File.Delete(file);
    }
}
