using Bandeja.Work.Jobs;

namespace Bandeja.Acts.Lists;

/// <summary>A file that arrived.</summary>
/// <param name="Id">What it is called in the folder of uploads.</param>
/// <param name="Name">What its owner calls it.</param>
public sealed record ArrivedFile(string Id, string Name);

/// <summary>Takes a file that arrived among those from which lists are read.</summary>
[Act("upload.keep", Permission.Lists, "Uploaded a file")]
public sealed class KeepUpload(Uploads uploads) : Act<ArrivedFile, UploadView>
{
    /// <summary>A file is looked into; all that is written is its row.</summary>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected internal override UploadView Do(ArrivedFile order, Deed deed)
    {
        var kept = uploads.Keep(order.Id, order.Name, deed.Actor, deed.Cancel);
        deed.Says($"Uploaded {kept.Name}");
        return kept;
    }
}
