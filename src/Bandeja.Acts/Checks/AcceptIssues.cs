using Bandeja.Acts.Lists;
using Bandeja.Core.Checks;
using Bandeja.Store;
using Bandeja.Store.Editing;

namespace Bandeja.Acts.Checks;

/// <summary>Accepts issues as they are.</summary>
[Act("check.accept", Permission.Lists, "Accepted issues as is")]
public sealed class AcceptIssues(CheckIssues issues) : Act<OnIssues, ActOutcome>
{
    /// <inheritdoc/>
    protected internal override ActOutcome Do(OnIssues order, Deed deed)
    {
        deed.Says($"Accepted as is: {CheckText.Of(order.Kind).Title}");
        deed.ChangedList(order.ListId);
        return issues.Leave(order.ListId, new(order.Kind, order.Recipients), deed.Actor);
    }
}
