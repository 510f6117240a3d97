using Bandeja.Store.People;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.People;

/// <summary>Puts back a note about a recipient that was removed.</summary>
[Act("person-note.restore", Permission.Lists, "Restored a note about a recipient")]
public sealed class RestorePersonNote(PersonNotes notes) : Act<KnownPersonNote>
{
    /// <inheritdoc/>
    protected override void Carry(KnownPersonNote order, Deed deed)
    {
        notes.Restore(order.NoteId, deed.Actor);
        deed.Changed(Matter.List, notes.Get(order.NoteId).ListId);
    }
}
