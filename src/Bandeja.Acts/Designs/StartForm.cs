using Bandeja.Store.Designs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Documents;

namespace Bandeja.Acts.Designs;

/// <summary>A PDF that becomes a form.</summary>
/// <param name="File">What the file is called.</param>
/// <param name="Password">What opens it where it is locked; null for none.</param>
public sealed record FormToStart(string Name, string File, byte[] Data, long? ListId, string? Password = null);

/// <summary>Starts a form from a PDF, its fields matched with a list; answers its id.</summary>
[Act("form.start", Permission.Designs, "Started a form from a file")]
public sealed class StartForm(FormFiles forms, DesignStore designs) : Act<FormToStart, long>
{
    /// <inheritdoc/>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected internal override long Do(FormToStart order, Deed deed)
    {
        var name = DesignGiven.Name(order.Name);
        var file = Path.GetFileName(order.File);
        var document = forms.Document(file, order.Data, order.Password, order.ListId, null, deed.Actor, deed.Cancel);
        var id = designs.Create(name, order.ListId, document, deed.Actor, DesignGiven.Kind(document));
        deed.Says($"Started the form “{name}” from {file}");
        deed.Changed(Matter.DesignCard, id);
        return id;
    }
}
