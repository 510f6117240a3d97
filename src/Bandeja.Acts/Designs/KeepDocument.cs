using Bandeja.Acts.Lists;
using Bandeja.Work.Composition;
using Bandeja.Work.Documents;
using Bandeja.Work.Jobs;

namespace Bandeja.Acts.Designs;

/// <summary>Takes a word processor document that arrived among the uploads, so that it can be looked at.</summary>
[Act("document.keep", Permission.Designs, "Uploaded a document")]
public sealed class KeepDocument(Uploads uploads, BroughtLetters letters) : Act<ArrivedFile, UploadView>
{
    /// <summary>A file is looked into; all that is written is its row.</summary>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected internal override UploadView Do(ArrivedFile order, Deed deed)
    {
        var kept = uploads.Keep(order.Id, order.Name, deed.Actor, (_, name) => letters.Read(order.Id, name, deed.Cancel));
        deed.Says($"Uploaded {kept.Name}");
        return kept;
    }
}
