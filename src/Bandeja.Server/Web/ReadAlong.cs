using Bandeja.Core.Drops;

namespace Bandeja.Server.Web;

/// <summary>Sends a file while it is still being written: what is in it never changes, only more comes.</summary>
public static class ReadAlong
{
    static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(50);

    /// <summary>Copies the file until its run is done; where the run ends otherwise, the connection is broken off, so that nobody takes a
    /// part for the whole.</summary>
    /// <param name="state">The state of the run.</param>
    public static async Task Copy(string path, Stream target, Func<RunState> state, HttpContext context)
    {
        var cancel = context.RequestAborted;
        while (!File.Exists(path))
        {
            if (!state().IsUnderWay())
            {
                context.Abort();
                return;
            }
            await Task.Delay(Pause, cancel);
        }
        // It gets another name when it is whole; who has it open reads on.
        await using var file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete);
        var buffer = new byte[1 << 16];
        while (true)
        {
            var before = state();
            var read = await file.ReadAsync(buffer, cancel);
            if (read > 0)
            {
                await target.WriteAsync(buffer.AsMemory(0, read), cancel);
                continue;
            }
            if (before == RunState.Done)
                return;
            if (!before.IsUnderWay())
            {
                context.Abort();
                return;
            }
            await target.FlushAsync(cancel);
            await Task.Delay(Pause, cancel);
        }
    }
}
