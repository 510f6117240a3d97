namespace Bandeja.Store.Tests;

/// <summary>An empty database of the present schema. It is made by all migrations once; each test begins with a copy.</summary>
static class FreshDatabase
{
    static readonly Lazy<byte[]> Made = new(() =>
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-fresh").FullName;
        try
        {
            var path = Path.Combine(folder, "fresh.sqlite");
            new Database(path).Dispose();
            return File.ReadAllBytes(path);
        }
        finally
        {
            Directory.Delete(folder, true);
        }
    });

    /// <summary>The path of the database in a folder; a copy is put there where there is none yet.</summary>
    public static string In(string folder)
    {
        var path = Path.Combine(folder, "bandeja.sqlite");
        if (!File.Exists(path))
            File.WriteAllBytes(path, Made.Value);
        return path;
    }
}
