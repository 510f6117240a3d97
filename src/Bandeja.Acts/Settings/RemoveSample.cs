using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Work.Announcing;
using Bandeja.Work.Production;

namespace Bandeja.Acts.Settings;

/// <summary>Removes the sample with all that was done with it, what was produced and mailed of it too.</summary>
[Act("sample.remove", Permission.Lists, "Removed the sample garden")]
public sealed class RemoveSample(SettingStore settings, Removals removals, RemovedFiles files) : Act<SampleOrder>
{
    /// <inheritdoc/>
    protected override void Carry(SampleOrder order, Deed deed)
    {
        var sample = settings.Sample() ?? throw new NotFoundException("There is no sample garden to remove.");
        files.Later(removals.RemoveSample(sample));
        settings.SetSample(null);
        deed.Says("Removed the sample garden");
        deed.Changed(Matter.List, sample.ListId);
        deed.Changed(Matter.Drop, sample.DropId);
        deed.Changed(Matter.Settings);
    }
}
