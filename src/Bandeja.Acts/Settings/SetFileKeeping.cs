using Bandeja.Store;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Settings;

/// <summary>For how many days runs' files are kept.</summary>
public sealed record KeepFiles(int Days);

/// <summary>Sets for how long runs' files are kept.</summary>
[Act("settings.keep-files", Permission.Settings, "Changed for how long files are kept")]
public sealed class SetFileKeeping(SettingStore settings) : Act<KeepFiles>
{
    const int Most = 3650;

    /// <inheritdoc/>
    protected override void Carry(KeepFiles order, Deed deed)
    {
        if (order.Days is < 1 or > Most)
            throw new BadInputException($"Files are kept for 1 to {Most:N0} days.");
        settings.SetKeepFilesDays(order.Days);
        deed.To(Matter.Settings, 0);
    }
}
