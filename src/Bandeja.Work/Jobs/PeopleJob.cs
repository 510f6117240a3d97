using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.People;
using Bandeja.Work.Announcing;
using Bandeja.Work.Hosting;

namespace Bandeja.Work.Jobs;

/// <summary>Recognizes the people of a list across all lists.</summary>
public sealed class PeopleJob(PeopleRecognition people, Announcements announcements) : IJobKind
{
    /// <inheritdoc/>
    public string Kind => JobNames.People;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        if (people.Look(job.SubjectId, (done, total) => progress(done, total), cancel))
            announcements.Changed(Matter.People);
        return null;
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, RunState state, string? message) { }
}
