using System.Collections.Concurrent;
using Microsoft.Extensions.Logging;

namespace Bandeja.TestServers;

/// <summary>What the server logged as an error, so that a failing test tells what went wrong inside.</summary>
public sealed class ServerLog : ILoggerProvider, ILogger
{
    readonly ConcurrentQueue<string> errors = [];

    /// <summary>All of it, in its order; empty where nothing went wrong.</summary>
    public string Text => string.Join("\n", errors);

    /// <inheritdoc/>
    public ILogger CreateLogger(string categoryName) => this;

    /// <inheritdoc/>
    public IDisposable? BeginScope<TState>(TState state)
        where TState : notnull => null;

    /// <inheritdoc/>
    public bool IsEnabled(LogLevel logLevel) => logLevel >= LogLevel.Error;

    /// <inheritdoc/>
    public void Log<TState>(
        LogLevel logLevel,
        EventId eventId,
        TState state,
        Exception? exception,
        Func<TState, Exception?, string> formatter
    )
    {
        if (IsEnabled(logLevel))
            errors.Enqueue($"{formatter(state, exception)}\n{exception}");
    }

    /// <inheritdoc/>
    public void Dispose() { }
}
