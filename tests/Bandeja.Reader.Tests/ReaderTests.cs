using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Formats.Lists;
using Bandeja.Work.Reading;
using Microsoft.Extensions.Logging;
using Microsoft.Extensions.Logging.Abstractions;

namespace Bandeja.Reader.Tests;

/// <summary>What all of these tests read with: a pool of their own, and what was logged.</summary>
public abstract class ReaderTests : IDisposable
{
    internal Made Files { get; } = new();
    private protected readonly LogBook log = new();

    private protected FileReader Reader(ReaderPool pool) => new(pool, log);

    internal FileReader Shared => Reader(ReaderPool.Shared);

    public virtual void Dispose()
    {
        Files.Dispose();
        GC.SuppressFinalize(this);
    }

    internal static CancellationToken Cancel => TestContext.Current.CancellationToken;

    internal SourceLook Look(string path, SourceOptions? options = null, FileReader? reader = null) =>
        (reader ?? Shared).Look(path, Path.GetFileName(path), options ?? new(), ListCustoms.UnitedStates, Cancel);

    internal List<string?[]> Rows(string path, SourceOptions? options = null, FileReader? reader = null)
    {
        options ??= OptionsOf(Look(path, null, reader));
        using var rows = (reader ?? Shared).List(path, Path.GetFileName(path), Cancel).Rows(options);
        var all = new List<string?[]>();
        while (rows.Read())
            all.Add(rows.Cells());
        return all;
    }

    internal static SourceOptions OptionsOf(SourceLook look) =>
        new(look.Sheet, look.HeadingRow, look.Encoding, look.Delimiter, look.HeadingSpan, look.Query);

    internal string Refused(Action act)
    {
        var message = Assert.ThrowsAny<Exception>(act) switch
        {
            ListFileException e => e.Message,
            Formats.Pdf.PictureException e => e.Message,
            var other => throw other,
        };
        // A refusal that a format gives by itself leaves the process sound; nothing was unforeseen.
        Assert.Empty(log.Lines);
        return message;
    }
}

/// <summary>Keeps what is logged.</summary>
sealed class LogBook : ILogger<FileReader>
{
    readonly List<string> lines = [];

    public IReadOnlyList<string> Lines
    {
        get
        {
            lock (lines)
                return [.. lines];
        }
    }

    public IDisposable? BeginScope<TState>(TState state)
        where TState : notnull => NullLogger.Instance.BeginScope(state);

    public bool IsEnabled(LogLevel level) => true;

    public void Log<TState>(LogLevel level, EventId id, TState state, Exception? e, Func<TState, Exception?, string> write)
    {
        lock (lines)
            lines.Add(write(state, e));
    }
}
