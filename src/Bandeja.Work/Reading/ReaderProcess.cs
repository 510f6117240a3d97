using System.Diagnostics;
using System.Globalization;
using System.Runtime.InteropServices;
using System.Text;
using Bandeja.Reader;

namespace Bandeja.Work.Reading;

/// <summary>One process that reads files of strangers, seen from here.</summary>
sealed class ReaderProcess : IDisposable
{
    const int KeptWords = 4000;

    readonly Process process;
    readonly Stream orders,
        answers;
    readonly StringBuilder words = new();

    /// <summary>How many orders it has had.</summary>
    public int Orders { get; private set; }

    /// <summary>Begins a process, and waits until it is ready.</summary>
    /// <exception cref="InvalidOperationException">It does not begin.</exception>
    public ReaderProcess(Limits limits)
    {
        var start = new ProcessStartInfo(Host)
        {
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            WorkingDirectory = "/",
        };
        start.ArgumentList.Add(Path.Combine(AppContext.BaseDirectory, "Bandeja.Reader.dll"));
        start.ArgumentList.Add(limits.Data.ToString(CultureInfo.InvariantCulture));
        start.ArgumentList.Add(limits.Database.ToString(CultureInfo.InvariantCulture));
        // It gets what it needs to begin, and no secret that may stand in this process's surroundings.
        foreach (var name in start.Environment.Keys.Where(k => !Passed.Contains(k)).ToList())
            start.Environment.Remove(name);
        start.Environment["DOTNET_GCHeapHardLimit"] = limits.Heap.ToString("x", CultureInfo.InvariantCulture);
        start.Environment["DOTNET_EnableDiagnostics"] = "0";
        start.Environment["DOTNET_TieredPGO"] = "0";
        process = Process.Start(start) ?? throw new InvalidOperationException("The reader of files could not be started.");
        (orders, answers) = (process.StandardInput.BaseStream, process.StandardOutput.BaseStream);
        process.ErrorDataReceived += (_, e) =>
        {
            lock (words)
                if (words.Length < KeptWords && e.Data is { } line)
                    words.AppendLine(line);
        };
        process.BeginErrorReadLine();
        if (Wire.Read(answers) is not { Kind: Frame.Ready })
        {
            Dispose();
            throw new InvalidOperationException($"The reader of files did not begin: {Words}");
        }
    }

    static readonly HashSet<string> Passed =
    [
        "PATH",
        "HOME",
        "TMPDIR",
        "TZ",
        "LANG",
        "LC_ALL",
        "LD_LIBRARY_PATH",
        "DOTNET_ROOT",
        "DOTNET_SYSTEM_GLOBALIZATION_INVARIANT",
    ];

    /// <summary>The program that runs this one: the reader needs the same.</summary>
    static readonly string Host =
        Environment.ProcessPath is { } path && Path.GetFileNameWithoutExtension(path) == "dotnet"
            ? path
            : Path.GetFullPath(Path.Combine(RuntimeEnvironment.GetRuntimeDirectory(), "..", "..", "..", "dotnet"));

    /// <summary>What it printed where nobody should have to look: the last words of a process that crashed.</summary>
    public string Words
    {
        get
        {
            lock (words)
                return words.ToString();
        }
    }

    /// <summary>The system's number for it.</summary>
    public int Id => process.Id;

    /// <summary>Processor time that it has taken so far.</summary>
    public TimeSpan Time
    {
        get
        {
            process.Refresh();
            return process.TotalProcessorTime;
        }
    }

    /// <summary>Memory that it holds now, bytes.</summary>
    public long Memory
    {
        get
        {
            process.Refresh();
            return process.WorkingSet64;
        }
    }

    /// <summary>True where it has ended.</summary>
    public bool HasEnded => process.HasExited;

    /// <summary>Gives an order.</summary>
    /// <exception cref="IOException">It has ended.</exception>
    public void Give(Order order, ReadOnlySpan<byte> bytes)
    {
        Orders++;
        Wire.WriteValue(orders, Frame.Json, order);
        Wire.Write(orders, Frame.Bytes, bytes);
    }

    /// <summary>The next frame of the answer; null where it has ended.</summary>
    public (Frame Kind, byte[] Content)? Next() => Wire.Read(answers);

    /// <summary>Ends it at once, whatever it does.</summary>
    public void Kill()
    {
        try
        {
            process.Kill();
        }
        catch (Exception e) when (e is InvalidOperationException or System.ComponentModel.Win32Exception)
        {
            // it has ended already
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        Kill();
        process.WaitForExit();
        process.Dispose();
    }
}
