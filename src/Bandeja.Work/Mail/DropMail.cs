using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Work.Composition;
using Microsoft.Data.Sqlite;

namespace Bandeja.Work.Mail;

/// <summary>A recipient's package as it would go out now.</summary>
public sealed class DropMail(Letters letters)
{
    /// <summary>The recipient, and everything that is made for them.</summary>
    /// <exception cref="NotFoundException">The recipient is not in the drop.</exception>
    public (DropRecipient Recipient, ComposedPackage Composed) Of(SqliteConnection c, long dropId, long recipientId)
    {
        var drop = DropStore.Drop(c, dropId);
        var recipient =
            DropStore.Recipients(c, drop, RowTable.Columns(c, drop.ListId), [recipientId]).FirstOrDefault() ?? throw new NotFoundException(
                "This recipient is not in the drop."
            );
        return (recipient, new PackageComposer(c, letters, drop).Compose(recipient));
    }
}
