using Bandeja.Store;
using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Suppressions;

/// <summary>A suppression list to start.</summary>
public sealed record NewSuppressionList(string Name);

/// <summary>Starts a suppression list; answers its id.</summary>
[Act("suppression.start", Permission.Suppressions, "Started a suppression list")]
public sealed class StartSuppressionList(SuppressionStore store) : Act<NewSuppressionList, long>
{
    /// <inheritdoc/>
    protected internal override long Do(NewSuppressionList order, Deed deed)
    {
        if (string.IsNullOrWhiteSpace(order.Name))
            throw new BadInputException("Enter a name for the suppression list.");
        var id = store.Create(order.Name.Trim(), deed.Actor);
        deed.Says($"Started the suppression list “{order.Name.Trim()}”");
        deed.Changed(Matter.Suppression, id);
        return id;
    }
}
