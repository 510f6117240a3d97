using Bandeja.Store;

namespace Bandeja.Work.Announcing;

/// <summary>Asks for the long work that follows from changes of a list: checking it, computing columns, looking for duplicates.</summary>
public sealed class ListWork(JobStore jobs, JobBells bells, TimeProvider time)
{
    /// <summary>Checks a list as soon as may be.</summary>
    public void Check(long listId) => Ask(JobNames.ListCheck, listId, "Checking the list");

    /// <summary>Computes all computed columns of a list.</summary>
    public void Compute(long listId) => Ask(JobNames.Compute, listId, "Computing columns");

    /// <summary>Looks for duplicates and households.</summary>
    public void FindDuplicates(long listId) => Ask(JobNames.Duplicates, listId, "Looking for duplicates");

    void Ask(string kind, long listId, string label)
    {
        jobs.AddOnce(kind, listId, label, Actor.Rule(time.GetUtcNow()));
        bells.Ring(kind);
    }
}
