using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Designs;

/// <summary>A document that becomes a letter.</summary>
public sealed record DocumentToStart(string UploadId, string Name, DocumentChoices Choices);

/// <summary>Starts a letter from a word processor document; answers its id.</summary>
[Act("design.bring", Permission.Designs, "Started a letter from a document")]
public sealed class StartFromDocument(DocumentLetter maker, DesignStore designs, Database database) : Act<DocumentToStart, long>
{
    /// <inheritdoc/>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected internal override long Do(DocumentToStart order, Deed deed)
    {
        var name = DesignGiven.Name(order.Name);
        var ready = maker.Make(order.UploadId, order.Choices, deed);
        var kind = DesignGiven.Kind(ready.Letter);
        var id = database.Write(_ =>
        {
            var created = designs.Create(name, order.Choices.ListId, ready.Letter, deed.Actor, kind);
            maker.Note(ready, created, 1, order.Choices, deed);
            return created;
        });
        maker.Done(ready);
        deed.Says($"Started the letter “{name}” from {ready.Upload.Name}");
        deed.Changed(Matter.DesignCard, id);
        return id;
    }
}
