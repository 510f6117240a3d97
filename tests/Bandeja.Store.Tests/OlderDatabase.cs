using DbUp;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Tests;

/// <summary>A database as an earlier version left it.</summary>
static class OlderDatabase
{
    /// <summary>Makes a database by the migrations before <paramref name="first"/> (four digits), and what
    /// <paramref name="content"/>, in SQL, puts into it.</summary>
    public static void Make(string path, string first, string content)
    {
        var connection = $"Data Source={path};Foreign Keys=True;Pooling=False";
        const string folder = ".Migrations.";
        var made = DeployChanges
            .To.SqliteDatabase(connection)
            .WithScriptsEmbeddedInAssembly(
                typeof(Database).Assembly,
                n =>
                    n.EndsWith(".sql", StringComparison.Ordinal)
                    && n.IndexOf(folder, StringComparison.Ordinal) is >= 0 and var at
                    && string.CompareOrdinal(n[(at + folder.Length)..][..4], first) < 0
            )
            .WithTransactionPerScript()
            .LogToNowhere()
            .Build()
            .PerformUpgrade();
        Assert.True(made.Successful, made.Error?.ToString());
        using var c = new SqliteConnection(connection);
        c.Open();
        using var command = c.CreateCommand();
        command.CommandText = content;
        command.ExecuteNonQuery();
    }
}
