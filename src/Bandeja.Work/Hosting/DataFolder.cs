using System.Globalization;

namespace Bandeja.Work.Hosting;

/// <summary>Why a server cannot start; each has its own exit code (docs/security.md).</summary>
public enum StartFault
{
    /// <summary>The data folder cannot be created or written to.</summary>
    Folder = 10,

    /// <summary>Another server uses the data folder.</summary>
    InUse = 11,

    /// <summary>The port is used by another program.</summary>
    Port = 12,

    /// <summary>The database is damaged.</summary>
    Damaged = 13,

    /// <summary>The database is that of another program.</summary>
    Foreign = 14,

    /// <summary>The database is of a newer version.</summary>
    Newer = 15,

    /// <summary>The database can only be read.</summary>
    ReadOnly = 16,

    /// <summary>The certificate cannot be used.</summary>
    Certificate = 17,
}

/// <summary>A server cannot start. The message says what to do.</summary>
public sealed class StartException(StartFault fault, string message) : Exception(message)
{
    /// <summary>Why.</summary>
    public StartFault Fault => fault;
}

/// <summary>The data folder while a server uses it: nobody else reads it, and no second server writes to it.</summary>
public sealed class DataFolder : IDisposable
{
    readonly FileStream held;
    readonly string note;

    /// <summary>Takes the folder.</summary>
    /// <exception cref="StartException">It cannot be used, or another server uses it.</exception>
    public DataFolder(string path)
    {
        try
        {
            Directory.CreateDirectory(path);
            PrivateFolder.Make(path);
        }
        catch (Exception e) when (e is UnauthorizedAccessException or IOException)
        {
            throw new StartException(
                StartFault.Folder,
                $"The data folder “{path}” cannot be used: {e.Message} Choose another: --data FOLDER"
            );
        }
        var name = Path.Combine(path, "server.lock");
        note = Path.Combine(path, "server.pid");
        try
        {
            // The system lets go of it with the process, however that ends (flock(2)).
            held = new FileStream(name, FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None);
        }
        catch (UnauthorizedAccessException e)
        {
            throw new StartException(
                StartFault.Folder,
                $"The data folder “{path}” cannot be written to: {e.Message} Choose another: --data FOLDER"
            );
        }
        catch (IOException e) when (StorageTrouble.Is(e))
        {
            throw new StartException(StartFault.Folder, $"The data folder “{path}” cannot be written to: {e.Message}");
        }
        catch (IOException)
        {
            throw new StartException(
                StartFault.InUse,
                $"Another Bandeja server uses the data folder “{path}”{Other(note)}. Stop it, or choose another folder: --data FOLDER"
            );
        }
        WasLeftOpen = File.Exists(note);
        File.WriteAllText(note, Environment.ProcessId.ToString(CultureInfo.InvariantCulture));
    }

    /// <summary>True where the server before this one did not end as it should: what it wrote last is looked through.</summary>
    public bool WasLeftOpen { get; }

    static string Other(string note)
    {
        try
        {
            return int.TryParse(File.ReadAllText(note), out var process) ? $" (process {process})" : "";
        }
        catch (IOException)
        {
            return "";
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        if (!held.CanWrite)
            return;
        File.Delete(note);
        held.Dispose();
    }
}
