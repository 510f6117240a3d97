using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using Bandeja.Formats.Lists;
using Bandeja.Formats.Pdf;
using Bandeja.Reader;

namespace Bandeja.Work.Reading;

/// <summary>
/// One order that a process of the pool carries out. Beside it a watch looks at what the process takes; it is ended where that is too
/// much, and where whoever asked has gone.
/// </summary>
sealed class OneReading : IDisposable
{
    static readonly TimeSpan Look = TimeSpan.FromMilliseconds(100);

    enum Ended
    {
        No,
        Memory,
        Time,
    }

    readonly ReaderPool pool;
    readonly ReaderProcess process;
    readonly ILogger log;
    readonly string what;
    readonly CancellationToken cancel;
    readonly CancellationTokenRegistration leaving;
    readonly Timer watch;
    readonly Lock looking = new();
    long frames,
        // The first look notes where the process stands: it may have read other files before.
        seen = -1;
    TimeSpan since;
    Ended ended;
    bool whole,
        over;

    /// <param name="what">What it is called in messages.</param>
    public OneReading(ReaderPool pool, Order order, ReadOnlySpan<byte> bytes, string what, ILogger log, CancellationToken cancel)
    {
        (this.pool, this.log, this.what, this.cancel) = (pool, log, what, cancel);
        process = pool.Take(cancel);
        leaving = cancel.UnsafeRegister(_ => process.Kill(), null);
        watch = new(_ => Watch(), null, Look, Look);
        try
        {
            process.Give(order, bytes);
        }
        catch (IOException)
        {
            // It ended as it was asked; the first answer says so.
        }
    }

    void Watch()
    {
        lock (looking)
        {
            if (over || process.HasEnded)
                return;
            try
            {
                var time = process.Time;
                if (Interlocked.Read(ref frames) != seen)
                    (seen, since) = (Interlocked.Read(ref frames), time);
                if (time - since > pool.Limits.Silence)
                    End(Ended.Time);
                else if (process.Memory > pool.Limits.Heap + pool.Limits.Heap / 2)
                    End(Ended.Memory);
            }
            catch (InvalidOperationException)
            {
                // It ended between the question and the answer.
            }
        }
    }

    void End(Ended why)
    {
        ended = why;
        process.Kill();
    }

    /// <summary>The next frame.</summary>
    /// <exception cref="OperationCanceledException">Whoever asked has gone.</exception>
    /// <exception cref="ListFileException">It cannot be read as a list, or took too much.</exception>
    /// <exception cref="PictureException">It cannot be used as a picture.</exception>
    /// <exception cref="FontFileException">It cannot be used as a typeface.</exception>
    public (Frame Kind, byte[] Content) Next()
    {
        (Frame Kind, byte[] Content)? next = null;
        try
        {
            next = process.Next();
        }
        catch (Exception e) when (e is IOException or InvalidDataException or OutOfMemoryException)
        {
            log.LogWarning(e, "The reader of {What} answered with something else", what);
        }
        Interlocked.Increment(ref frames);
        cancel.ThrowIfCancellationRequested();
        if (next is not { } frame)
            throw Failed();
        if (frame.Kind is not Frame.Refusal)
            return frame;
        var refusal = Wire.Value<Refusal>(frame.Content);
        // After a failure that nobody foresaw, or without memory, a process may not be itself.
        whole =
            refusal.Kind is RefusalKind.List or RefusalKind.Picture or RefusalKind.Locked or RefusalKind.Document or RefusalKind.Typeface;
        switch (refusal.Kind)
        {
            case RefusalKind.List:
                throw new ListFileException(refusal.Message);
            case RefusalKind.Picture:
                throw new PictureException(refusal.Message);
            case RefusalKind.Locked:
                throw new LockedPdfException(refusal.Message);
            case RefusalKind.Document:
                throw new DocumentException(refusal.Message);
            case RefusalKind.Typeface:
                throw new FontFileException(refusal.Message);
            case RefusalKind.Memory:
                throw TooMuch();
            case RefusalKind.Unforeseen:
                log.LogError("Reading {What} failed: {Message}", what, refusal.Message);
                throw NotUnderstood();
        }
        throw new InvalidDataException("The reader refused for no reason that there is.");
    }

    /// <summary>Says that the answer is complete.</summary>
    public void Complete() => whole = true;

    ListFileException Failed()
    {
        if (ended is Ended.Time)
            return new(
                $"Reading “{what}” was stopped because it took more than {pool.Limits.Silence.TotalSeconds:N0} seconds of computing. "
                    + "Save it in a simpler format and import that."
            );
        if (ended is Ended.Memory || process.Words.Contains("OutOfMemory", StringComparison.Ordinal))
            return TooMuch();
        log.LogError("The reader of {What} crashed: {Words}", what, process.Words);
        return NotUnderstood();
    }

    ListFileException TooMuch() =>
        new(
            $"Reading “{what}” takes more than {pool.Limits.Heap >> 20:N0} MB of memory. Divide it, or save it in a simpler form "
                + "such as CSV, and "
                + "bring that in."
        );

    ListFileException NotUnderstood() =>
        new(
            $"“{what}” is damaged or in a form that cannot be read. Open it in the program that created it, save it again, and "
                + "bring that in."
        );

    /// <inheritdoc/>
    public void Dispose()
    {
        leaving.Dispose();
        lock (looking)
            over = true;
        watch.Dispose();
        pool.Return(process, whole && ended is Ended.No && !cancel.IsCancellationRequested);
    }
}
