using Bandeja.Store.Mail;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Mail;

/// <summary>A file of a folder.</summary>
public sealed record MailFileOf(long FolderId, string Name);

/// <summary>Takes a file out of a folder.</summary>
[Act("mail-file.remove", Permission.Designs, "Removed a file to attach")]
public sealed class RemoveMailFile(MailFiles files) : Act<MailFileOf>
{
    /// <inheritdoc/>
    protected override void Carry(MailFileOf order, Deed deed)
    {
        files.Remove(order.FolderId, order.Name, deed.Actor);
        deed.Says($"Removed {order.Name} to attach");
        deed.Changed(Matter.Files);
    }
}
