using Bandeja.Store.Mail;

namespace Bandeja.Acts.Mail;

/// <summary>A folder of files to attach.</summary>
public sealed record NewMailFolder(string Name);

/// <summary>Creates a folder of files to attach; answers its id.</summary>
[Act("mail-folder.start", Permission.Designs, "Created a folder of files to attach")]
public sealed class StartMailFolder(MailFiles files) : Act<NewMailFolder, long>
{
    /// <inheritdoc/>
    protected internal override long Do(NewMailFolder order, Deed deed) => files.Folder(Given.Name(order.Name, "folder"), deed.Actor);
}
