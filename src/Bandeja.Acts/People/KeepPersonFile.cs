using Bandeja.Work.Announcing;
using Bandeja.Work.People;

namespace Bandeja.Acts.People;

/// <summary>A document that is to be kept with a recipient.</summary>
public sealed record ArrivedPersonFile(long ListId, long RecipientId, string Name, byte[] Data);

/// <summary>Keeps a document with a recipient; answers its id.</summary>
[Act("person-file.add", Permission.Lists, "Added a document to a recipient")]
public sealed class KeepPersonFile(PersonFiles files) : Act<ArrivedPersonFile, long>
{
    /// <summary>The file is looked through and written, which may take a while.</summary>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected internal override long Do(ArrivedPersonFile order, Deed deed)
    {
        var id = files.Add(order.ListId, order.RecipientId, order.Name, order.Data, deed.Actor, deed.Cancel);
        deed.Changed(Matter.List, order.ListId);
        return id;
    }
}
