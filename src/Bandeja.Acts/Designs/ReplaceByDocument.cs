using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Designs;

/// <summary>A newer file for a letter.</summary>
/// <param name="BasedOn">The number of the version that the differences were shown against; a newer one in between is a conflict.</param>
public sealed record NewerDocument(string UploadId, long DesignId, long BasedOn, DocumentChoices Choices);

/// <summary>Makes a newer file of a word processor the newest version of a letter; the versions before stay.</summary>
[Act("design.renew", Permission.Designs, "Replaced a letter with a newer file")]
public sealed class ReplaceByDocument(DocumentLetter maker, DesignStore designs, Database database) : Act<NewerDocument, DesignVersionRow>
{
    /// <inheritdoc/>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected internal override DesignVersionRow Do(NewerDocument order, Deed deed)
    {
        var design = designs.Get(order.DesignId);
        if (!design.Kind.Rules().IsText)
            throw new BadInputException("Only a letter can be replaced with a word processor file.");
        var ready = maker.Make(order.UploadId, order.Choices with { ListId = design.ListId }, deed);
        DesignGiven.Kind(ready.Letter);
        var version = database.Write(_ =>
        {
            if (designs.Newest(order.DesignId) is var now && now.Number != order.BasedOn)
                throw new StaleException(
                    $"{now.By} has since saved version {now.Number} of this letter. Review the differences, then replace it again."
                );
            var begun = designs.Begin(order.DesignId, ready.Letter, deed.Actor);
            maker.Note(ready, order.DesignId, begun.Number, order.Choices, deed);
            return begun;
        });
        maker.Done(ready);
        deed.Says($"Replaced the letter “{design.Name}” with {ready.Upload.Name}");
        deed.Changed(Matter.Design, order.DesignId);
        return version;
    }
}
