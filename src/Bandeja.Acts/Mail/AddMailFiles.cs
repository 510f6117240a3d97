using Bandeja.Work.Announcing;
using Bandeja.Work.Mail;

namespace Bandeja.Acts.Mail;

/// <summary>A file to attach, or a ZIP archive of several.</summary>
/// <param name="FolderId">The folder; null for a file that is attached for everybody.</param>
public sealed record ArrivedMailFile(long? FolderId, string Name, byte[] Data);

/// <summary>Adds a file to attach; into a folder also all files of a ZIP archive.</summary>
[Act("mail-file.add", Permission.Designs, "Added files to attach")]
public sealed class AddMailFiles(AttachmentFiles attachments) : Act<ArrivedMailFile, IReadOnlyList<BroughtFile>>
{
    /// <summary>Files are written, which may take a while.</summary>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected internal override IReadOnlyList<BroughtFile> Do(ArrivedMailFile order, Deed deed)
    {
        // A ZIP archive begins with a local file header (APPNOTE 6.3.10, section 4.3.7).
        var isArchive = order.Data is [0x50, 0x4B, 0x03, 0x04, ..] && order.Name.EndsWith(".zip", StringComparison.OrdinalIgnoreCase);
        IReadOnlyList<BroughtFile> added =
            order.FolderId is { } folder && isArchive
                ? attachments.AddZip(folder, new MemoryStream(order.Data), deed.Actor)
                : [attachments.Add(order.FolderId, order.Name, order.Data, deed.Actor)];
        if (order.FolderId is not null)
            deed.Changed(Matter.Files);
        deed.Says(added.Count == 1 ? $"Added {added[0].Name} to attach" : $"Added {added.Count:N0} files to attach");
        return added;
    }
}
