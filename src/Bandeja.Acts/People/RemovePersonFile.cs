using Bandeja.Store.People;
using Bandeja.Work.Announcing;
using Bandeja.Work.People;

namespace Bandeja.Acts.People;

/// <summary>A document that is kept with a recipient.</summary>
public sealed record KeptPersonFile(long FileId);

/// <summary>Removes a document of a recipient for good.</summary>
[Act("person-file.delete", Permission.Lists, "Removed a document of a recipient")]
public sealed class RemovePersonFile(PersonFileStore store, PersonFiles files) : Act<KeptPersonFile>
{
    /// <summary>A file is removed, which no transaction takes back.</summary>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected override void Carry(KeptPersonFile order, Deed deed)
    {
        var (row, _) = store.Get(order.FileId);
        files.Remove(order.FileId);
        deed.Changed(Matter.List, row.ListId);
    }
}
