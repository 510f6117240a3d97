using System.Collections.Concurrent;
using Microsoft.Extensions.Logging;

namespace Bandeja.Server.Tests;

/// <summary>What the server logged as an error, so that a failing test tells what went wrong inside.</summary>
sealed class ServerLog : ILoggerProvider, ILogger
{
    readonly ConcurrentQueue<string> errors = [];

    public string Text => string.Join("\n", errors);

    public ILogger CreateLogger(string categoryName) => this;

    public IDisposable? BeginScope<TState>(TState state)
        where TState : notnull => null;

    public bool IsEnabled(LogLevel logLevel) => logLevel >= LogLevel.Error;

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

    public void Dispose() { }
}
