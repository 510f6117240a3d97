using Bandeja.Acts.Lists;
using Bandeja.Core.Checks;
using Bandeja.Store;
using Bandeja.Store.Editing;

namespace Bandeja.Acts.Checks;

/// <summary>Makes the proposed changes, for some or for all.</summary>
[Act("check.fix", Permission.Lists, "Applied proposed changes")]
public sealed class FixIssues(CheckIssues issues) : Act<OnIssues, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(OnIssues order, Deed deed)
    {
        deed.Says($"Applied the proposed changes: {CheckText.Of(order.Kind).Title}");
        deed.ChangedList(order.ListId);
        return issues.Fix(order.ListId, new(order.Kind, order.Recipients), deed.Actor);
    }
}
