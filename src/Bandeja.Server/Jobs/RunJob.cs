using Bandeja.Core.Composition;
using Bandeja.Core.Lists;
using Bandeja.Core.Surfaces;
using Bandeja.Server.Composition;
using Bandeja.Store;

namespace Bandeja.Server.Jobs;

/// <summary>
/// Makes a run's files, one for each design of the package, all in the same order with the same piece numbers. They get their names
/// only when all are whole and on the disk, and only then are the pieces recorded as produced, all in one transaction. Killed at any instant, the run begins anew from what was frozen, and makes the same.
/// </summary>
public sealed class RunJob(Database database, RunStore runs, Letters letters, ServerOptions server, EventHub hub, TimeProvider time) : IJobKind
{
    /// <summary>The kind's name.</summary>
    public const string Name = "run";

    /// <inheritdoc/>
    public string Kind => Name;

    /// <summary>Where a file of a run is.</summary>
    /// <param name="position">Which design of the package, from 1.</param>
    public static string FileOf(ServerOptions server, long runId, long position) => Path.Combine(server.Folder("runs"), position == 1 ? $"run-{runId}.pdf" : $"run-{runId}-{position}.pdf");

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        var run = runs.Get(job.SubjectId);
        runs.Start(run.Id);
        var pages = new List<int>();
        foreach (var design in run.Designs)
        {
            using var file = new FileStream(FileOf(server, run.Id, design.Position) + ".part", FileMode.Create, FileAccess.Write, FileShare.None, 1 << 16);
            pages.Add(Make(run, design, file, (done, total) => progress(pages.Count * run.Pieces + done, run.Designs.Count * run.Pieces), cancel));
            file.Flush(flushToDisk: true);
        }
        cancel.ThrowIfCancellationRequested();
        foreach (var design in run.Designs) File.Move(FileOf(server, run.Id, design.Position) + ".part", FileOf(server, run.Id, design.Position), overwrite: true);
        var files = run.Designs.Zip(pages, (d, count) => (d.Position, new FileInfo(FileOf(server, run.Id, d.Position)).Length, count)).ToList();
        if (!runs.Complete(run.Id, files, new(run.CreatedBy, time.GetUtcNow()))) throw new OperationCanceledException();
        hub.Tell("drop", new { Id = run.DropId });
        return null;
    }

    int Make(RunRow run, RunDesign design, Stream file, JobProgress progress, CancellationToken cancel)
    {
        using var c = database.Open();
        var drop = DropStore.Drop(c, run.DropId);
        var bound = letters.Bind(c, DesignStore.Version(c, design.DesignVersionId).DocumentJson, design.DesignId, drop.ListId);
        var details = Letters.Details(c, bound);
        var composer = bound.Composer(run.Today);
        var title = $"{drop.CampaignName}, {drop.Name}, run {run.Number}";
        var writer = letters.Writer(file, run.Designs.Count == 1 ? title : $"{title}, {design.Name}", DateTimeOffset.Parse(run.CreatedAt, System.Globalization.CultureInfo.InvariantCulture));
        var serials = runs.Serials(run.Id);
        var feed = FeedOrder.Read(run.PrinterJson);
        var sheets = bound is BoundSurface { Design.Labels: { } labels } ? new LabelSheets(labels, FeedOrder.ReadStart(design.StartJson)) : null;
        var full = new List<LaidOutPage>();
        var done = 0;
        // A serial number for each piece, in the order of the run.
        var pieces = runs.Pieces(run, drop.ListId, bound.Setting.Columns).Select((piece, number) =>
            (piece, composer.Compose(Letters.Row(piece.RecipientId, piece.Values, details), piece.PieceNumber, mailer => serials.TryGetValue(mailer, out var s) ? (s.First + number) % s.All : piece.PieceNumber)));
        foreach (var (piece, composed) in Ahead.Of(pieces))
        {
            if ((done & 63) == 0) cancel.ThrowIfCancellationRequested();
            if (sheets is null) writer.Add($"{piece.PieceNumber:0000} {RecipientLabel.Of(bound.Setting.Columns, i => piece.Values[i]).Name}", feed is not null && bound.Kind == PieceKind.Envelope ? [.. composed.Pages.Select(feed.Envelope)] : composed.Pages);
            else
            {
                sheets.Add(composed, full);
                Write();
            }
            progress(++done, run.Pieces);
        }
        if (sheets?.Finish() is { } last) full.Add(last);
        Write();
        void Write()
        {
            foreach (var page in full) writer.Add(null, [feed?.Sheet(page) ?? page]);
            full.Clear();
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
        foreach (var design in run.Designs) File.Delete(FileOf(server, run.Id, design.Position) + ".part");
        hub.Tell("drop", new { Id = run.DropId });
    }
}
