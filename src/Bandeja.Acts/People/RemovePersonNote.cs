using Bandeja.Store.People;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.People;

/// <summary>A note about a recipient that is there.</summary>
public sealed record KnownPersonNote(long NoteId);

/// <summary>Removes a note about a recipient; it can be put back.</summary>
[Act("person-note.remove", Permission.Lists, "Removed a note about a recipient")]
public sealed class RemovePersonNote(PersonNotes notes) : Act<KnownPersonNote>
{
    /// <inheritdoc/>
    protected override void Carry(KnownPersonNote order, Deed deed)
    {
        notes.Remove(order.NoteId, deed.Actor);
        deed.Changed(Matter.List, notes.Get(order.NoteId).ListId);
    }
}
