using Bandeja.Core.Composition;
using Bandeja.Core.Lists;
using Bandeja.Server.Composition;
using Bandeja.Store;

namespace Bandeja.Server.Jobs;

/// <summary>
/// Makes a run's file. The file gets its name only when it is whole and on the disk, and only then are the pieces recorded as
/// produced, all in one transaction. Killed at any instant, the run begins anew from what was frozen, and makes the same.
/// </summary>
public sealed class RunJob(Database database, RunStore runs, Letters letters, ServerOptions server, EventHub hub, TimeProvider time) : IJobKind
{
    /// <summary>The kind's name.</summary>
    public const string Name = "run";

    /// <inheritdoc/>
    public string Kind => Name;

    /// <summary>Where a run's file is.</summary>
    public static string FileOf(ServerOptions server, long runId) => Path.Combine(server.Folder("runs"), $"run-{runId}.pdf");

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        var run = runs.Get(job.SubjectId);
        runs.Start(run.Id);
        var path = FileOf(server, run.Id);
        var part = path + ".part";
        int pages;
        using (var file = new FileStream(part, FileMode.Create, FileAccess.Write, FileShare.None, 1 << 16))
        {
            pages = Make(run, file, progress, cancel);
            file.Flush(flushToDisk: true);
        }
        cancel.ThrowIfCancellationRequested();
        File.Move(part, path, overwrite: true);
        if (!runs.Complete(run.Id, new FileInfo(path).Length, pages, new(run.CreatedBy, time.GetUtcNow()))) throw new OperationCanceledException();
        hub.Tell("drop", new { Id = run.DropId });
        return null;
    }

    int Make(RunRow run, Stream file, JobProgress progress, CancellationToken cancel)
    {
        using var c = database.Open();
        var drop = DropStore.Drop(c, run.DropId);
        var letter = letters.Bind(c, DesignStore.Version(c, run.DesignVersionId).DocumentJson, drop.DesignId, drop.ListId);
        var details = Letters.Details(c, letter);
        var composer = new LetterComposer(letter, run.Today);
        var writer = letters.Writer(file, $"{drop.CampaignName}, {drop.Name}, run {run.Number}", DateTimeOffset.Parse(run.CreatedAt, System.Globalization.CultureInfo.InvariantCulture));
        var done = 0;
        foreach (var piece in runs.Pieces(run, drop.ListId, letter.Columns))
        {
            if ((done & 63) == 0) cancel.ThrowIfCancellationRequested();
            var composed = composer.Compose(Letters.Row(piece.RecipientId, piece.Values, details), piece.PieceNumber);
            writer.Add($"{piece.PieceNumber:0000} {RecipientLabel.Of(letter.Columns, i => piece.Values[i]).Name}", composed.Pages);
            progress(++done, run.Pieces);
        }
        if (done != run.Pieces) throw new ConflictException($"{run.Pieces - done:N0} of {run.Pieces:N0} recipients are no longer on the list, so the run was not made.");
        writer.Finish();
        return writer.Pages;
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, string state, string? message)
    {
        var run = runs.Get(job.SubjectId);
        runs.Stop(run.Id, state, message, new(job.CreatedBy, time.GetUtcNow()));
        File.Delete(FileOf(server, run.Id) + ".part");
        hub.Tell("drop", new { Id = run.DropId });
    }
}
