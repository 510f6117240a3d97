using System.Text.Json.Nodes;
using Bandeja.Core.Designs;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Documents;

namespace Bandeja.Acts.Designs;

/// <summary>A newer PDF for a form.</summary>
/// <param name="BasedOn">The number of the version that it replaces; a newer one in between is a conflict.</param>
/// <param name="Password">What opens it where it is locked; null for none.</param>
public sealed record NewerForm(long DesignId, long BasedOn, string File, byte[] Data, string? Password = null);

/// <summary>Makes a newer PDF the newest version of a form: fields of the same name keep their answers, and boxes their places.</summary>
[Act("form.renew", Permission.Designs, "Replaced a form with a newer file")]
public sealed class RenewForm(FormFiles forms, DesignStore designs, Database database) : Act<NewerForm, DesignVersionRow>
{
    /// <inheritdoc/>
    protected internal override bool IsOneTransaction => false;

    /// <inheritdoc/>
    protected internal override DesignVersionRow Do(NewerForm order, Deed deed)
    {
        var design = designs.Get(order.DesignId);
        if (!design.Kind.Rules().IsFile)
            throw new BadInputException("Only a form can be replaced with a PDF.");
        var file = Path.GetFileName(order.File);
        var before = JsonNode.Parse(designs.Newest(order.DesignId).DocumentJson)!.AsObject();
        var document = forms.Document(file, order.Data, order.Password, design.ListId, before, deed.Actor, deed.Cancel);
        DesignGiven.Kind(document);
        var version = database.Write(_ =>
            designs.Newest(order.DesignId) is var now && now.Number != order.BasedOn
                ? throw new StaleException(
                    $"{now.By} has since saved version {now.Number} of this form. Review it, then replace the file again."
                )
                : designs.Begin(order.DesignId, document, deed.Actor)
        );
        deed.Says($"Replaced the form “{design.Name}” with {file}");
        deed.Changed(Matter.Design, order.DesignId);
        return version;
    }
}
