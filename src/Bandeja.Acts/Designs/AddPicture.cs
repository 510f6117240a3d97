using Bandeja.Store.Designs;
using Bandeja.Work.Composition;

namespace Bandeja.Acts.Designs;

/// <summary>A picture that arrived.</summary>
public sealed record ArrivedPicture(string Name, byte[] Data);

/// <summary>Adds a picture.</summary>
[Act("picture.add", Permission.Designs, "Added a picture")]
public sealed class AddPicture(PictureFiles pictures) : Act<ArrivedPicture, PictureRow>
{
    /// <inheritdoc/>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected internal override PictureRow Do(ArrivedPicture order, Deed deed)
    {
        var added = pictures.Add(Path.GetFileName(order.Name), order.Data, deed.Actor, deed.Cancel);
        deed.Says($"Added the picture {added.Name}");
        return added;
    }
}
