using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using System.Text.Json.Serialization.Metadata;
using Bandeja.Work.Hosting;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.Data.Sqlite;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Options;

namespace Bandeja.Server.Tests;

/// <summary>What keeps a server from starting: each has its sentence and its exit code, and changes nothing.</summary>
public sealed class StartTests : IDisposable
{
    readonly string data = Directory.CreateTempSubdirectory("bandeja-start").FullName;

    public void Dispose() => Directory.Delete(data, true);

    string Database => Path.Combine(data, "bandeja.sqlite");

    static async Task<(StartFault Fault, string Words)> Refused(params string[] arguments)
    {
        using var server = Process.Start(
            new ProcessStartInfo("dotnet", [Path.Combine(AppContext.BaseDirectory, "Bandeja.Server.dll"), .. arguments])
            {
                RedirectStandardError = true,
                RedirectStandardOutput = true,
            }
        )!;
        var words = await server.StandardError.ReadToEndAsync();
        await server.WaitForExitAsync();
        Assert.DoesNotContain("   at ", words);
        return ((StartFault)server.ExitCode, words.Trim());
    }

    Task<(StartFault Fault, string Words)> Refused() => Refused("--data", data, "--port", "0");

    /// <summary>A database as this version makes it.</summary>
    async Task Made()
    {
        await using var app = Application.Build(new(data, Port: 0));
    }

    void Execute(string sql)
    {
        using var connection = new SqliteConnection($"Data Source={Database};Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }

    [Fact]
    public async Task A_file_that_is_no_database_and_one_that_breaks_off()
    {
        await File.WriteAllTextAsync(Database, "This is no database at all, whatever it is called.");
        var (fault, words) = await Refused();
        Assert.Equal(StartFault.Damaged, fault);
        Assert.Contains("is damaged, so the server does not start", words);
        Assert.StartsWith("This is no database", await File.ReadAllTextAsync(Database));
    }

    [Fact]
    public async Task A_page_that_was_overwritten_is_found_after_a_server_that_did_not_end_as_it_should()
    {
        await Made();
        foreach (var left in new[] { Database + "-wal", Database + "-shm" })
            File.Delete(left);
        var bytes = await File.ReadAllBytesAsync(Database);
        new Random(1).NextBytes(bytes.AsSpan(bytes.Length / 2, 4096 * 4));
        await File.WriteAllBytesAsync(Database, bytes);
        await File.WriteAllTextAsync(Path.Combine(data, "server.pid"), "1");
        var (fault, words) = await Refused();
        Assert.True(fault == StartFault.Damaged, words);
        Assert.Equal(bytes, await File.ReadAllBytesAsync(Database));
    }

    [Fact]
    public async Task The_database_of_another_program()
    {
        Execute("CREATE TABLE photos (id INTEGER PRIMARY KEY)");
        var before = await File.ReadAllBytesAsync(Database);
        var (fault, words) = await Refused();
        Assert.Equal(StartFault.Foreign, fault);
        Assert.Contains("is the database of another program", words);
        Assert.Equal(before, await File.ReadAllBytesAsync(Database));
    }

    [Fact]
    public async Task The_database_of_a_newer_version()
    {
        await Made();
        Execute("INSERT INTO SchemaVersions (ScriptName, Applied) VALUES ('Bandeja.Store.Migrations.9999_later.sql', '2030-01-01')");
        var (fault, words) = await Refused();
        Assert.Equal(StartFault.Newer, fault);
        Assert.Contains("9999_later", words);
    }

    [Fact]
    public async Task A_database_that_cannot_be_written()
    {
        // A folder where the file should be: nobody can write that, whoever they are.
        Directory.CreateDirectory(Database);
        var (fault, words) = await Refused();
        Assert.Equal(StartFault.ReadOnly, fault);
        Assert.Contains("cannot be written to", words);
    }

    [Fact]
    public async Task A_folder_that_cannot_be_used()
    {
        var file = Path.Combine(data, "file");
        await File.WriteAllTextAsync(file, "");
        var (fault, words) = await Refused("--data", Path.Combine(file, "data"), "--port", "0");
        Assert.Equal(StartFault.Folder, fault);
        Assert.Contains("--data FOLDER", words);
    }

    [Fact]
    public async Task A_port_that_another_program_uses()
    {
        using var other = new TcpListener(IPAddress.Loopback, 0);
        other.Start();
        var (fault, words) = await Refused("--data", data, "--port", $"{((IPEndPoint)other.LocalEndpoint).Port}");
        Assert.Equal(StartFault.Port, fault);
        Assert.Contains("is used by another program", words);
    }

    [Fact]
    public async Task A_second_server_on_the_same_folder()
    {
        await using (var app = Application.Build(new(data, Port: 0)))
        {
            await app.StartAsync();
            var (fault, words) = await Refused();
            Assert.Equal(StartFault.InUse, fault);
            Assert.Contains($"(process {Environment.ProcessId})", words);
            await app.StopAsync();
        }
        // Once it has ended, the folder is free.
        await Made();
    }

    [Fact]
    public async Task A_certificate_that_cannot_be_used()
    {
        var (fault, words) = await Refused("--data", data, "--port", "0", "--certificate", Path.Combine(data, "none.pem"));
        Assert.Equal(StartFault.Certificate, fault);
        Assert.Contains("none.pem", words);
    }

    /// <summary>Packages put resolvers of their own into a server's options, and each server would then learn all types anew.</summary>
    [Fact]
    public async Task Servers_of_one_process_share_what_they_learned_of_types()
    {
        await using var one = Application.Build(new(data, Port: 0));
        await using var other = Application.Build(new(Path.Combine(data, "other"), Port: 0));
        static JsonTypeInfo Learned(WebApplication app)
        {
            var options = app.Services.GetRequiredService<IOptions<JsonOptions>>().Value.SerializerOptions;
            options.MakeReadOnly();
            return options.GetTypeInfo(typeof(ServerOptions));
        }
        Assert.Same(Learned(one), Learned(other));
    }
}
