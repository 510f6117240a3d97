using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;
using Bandeja.Work.Jobs;

namespace Bandeja.Acts.Lists;

/// <summary>What of a newer file is applied.</summary>
public sealed record AppliedFile(long ReloadId, ReloadChoice Choice);

/// <summary>Applies what was chosen of a newer file; the list gets a new version.</summary>
[Act("list.apply", Permission.Lists, "Applied a newer file")]
public sealed class ApplyNewerFile(ReloadStore reloads, NewerFiles newer, CheckIssues issues, ListWork work) : Act<AppliedFile, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(AppliedFile order, Deed deed)
    {
        var reload = reloads.Get(order.ReloadId);
        var columns = newer.NewColumns(reload).ToDictionary(c => c.Id);
        var outcome = reloads.Take(order.ReloadId, order.Choice, columns, deed.Actor);
        issues.Outdated(reload.ListId);
        work.Check(reload.ListId);
        deed.Says($"Applied {reload.SourceName} to the list");
        deed.ChangedList(reload.ListId);
        return outcome;
    }
}
