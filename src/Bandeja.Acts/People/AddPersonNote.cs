using Bandeja.Store;
using Bandeja.Store.People;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.People;

/// <summary>A note about a recipient.</summary>
public sealed record NewPersonNote(long ListId, long RecipientId, string Text);

/// <summary>Notes something about a recipient; answers the note's id.</summary>
[Act("person-note.add", Permission.Lists, "Added a note about a recipient")]
public sealed class AddPersonNote(PersonNotes notes) : Act<NewPersonNote, long>
{
    const int Longest = 4000;

    /// <inheritdoc/>
    protected internal override long Do(NewPersonNote order, Deed deed)
    {
        var text = order.Text?.Trim() ?? "";
        if (text.Length == 0)
            throw new BadInputException("Enter the note.");
        if (text.Length > Longest)
            throw new BadInputException($"A note can have {Longest:N0} characters.");
        var id = notes.Add(order.ListId, order.RecipientId, text, deed.Actor);
        deed.Changed(Matter.List, order.ListId);
        return id;
    }
}
