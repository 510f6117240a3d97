using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Designs;

/// <summary>What was written, and what it is based on.</summary>
/// <param name="BasedOn">The number of the version.</param>
/// <param name="Revision">Which save of that version.</param>
/// <param name="Beside">True to save it after what somebody else saved meanwhile: both stay among the versions.</param>
public sealed record WrittenDesign(long DesignId, long BasedOn, long Revision, string Document, bool Beside = false);

/// <summary>Saves a design's document.</summary>
[Act("design.save", Permission.Designs, "Wrote a design")]
public sealed class SaveDesign(DesignStore designs) : Act<WrittenDesign, DesignVersionRow>
{
    /// <inheritdoc/>
    protected internal override DesignVersionRow Do(WrittenDesign order, Deed deed)
    {
        var kind = DesignGiven.Kind(order.Document);
        if (kind != designs.Get(order.DesignId).Kind)
            throw new BadInputException("A design stays what it is: a letter, a form, an envelope, a label sheet, or an email.");
        deed.Changed(Matter.Design, order.DesignId);
        return designs.Save(order.DesignId, order.BasedOn, order.Revision, order.Document, deed.Actor, order.Beside);
    }
}
