namespace Bandeja.Core.Drops;

/// <summary>A design in the version that was signed off.</summary>
public sealed record SignedDesign(long DesignId, string Name, long VersionId, long Number);

/// <summary>Exactly what a sign-off speaks of. When any of it changes, the sign-off has lapsed.</summary>
/// <param name="Designs">The package.</param>
/// <param name="ListChange">The number of the list's last change.</param>
/// <param name="Columns">A mark of the list's columns and detail rows.</param>
/// <param name="Recipients">How many recipients the drop has.</param>
/// <param name="Filter">The segment's filter, with who was ticked by hand; empty for the whole list.</param>
/// <param name="Rules">A mark of what designs follow beside the list: the organization, its language, how addresses are written and people
/// greeted, the pictures.</param>
/// <param name="OneOffs">A mark of the letters that were changed for one recipient.</param>
public sealed record SignOffSubject(
    IReadOnlyList<SignedDesign> Designs,
    long ListChange,
    string Columns,
    int Recipients,
    string Filter,
    string Rules,
    string OneOffs
)
{
    /// <summary>What has changed since the sign-off, a sentence each; empty where it still holds.</summary>
    /// <param name="now">What the drop would send now.</param>
    /// <param name="valuesChanged">How many recipients' values were changed since.</param>
    public IReadOnlyList<string> ChangedSince(SignOffSubject now, int valuesChanged)
    {
        var changes = new List<string>();
        foreach (var design in Designs)
        {
            if (now.Designs.FirstOrDefault(d => d.DesignId == design.DesignId) is not { } present)
                changes.Add($"{design.Name} is no longer in the package.");
            else if (present.VersionId != design.VersionId)
                changes.Add($"{present.Name} is now version {present.Number}, but version {design.Number} was signed off.");
        }
        foreach (var design in now.Designs.Where(d => Designs.All(o => o.DesignId != d.DesignId)))
            changes.Add($"{design.Name} was added to the package.");
        if (Filter != now.Filter)
            changes.Add("The segment or its filter changed.");
        if (now.Recipients > Recipients)
            changes.Add(
                now.Recipients - Recipients == 1
                    ? "1 recipient was added to the list."
                    : $"{now.Recipients - Recipients:N0} recipients were added to the list."
            );
        if (Columns != now.Columns)
            changes.Add("The list’s columns or detail rows changed.");
        if (ListChange != now.ListChange && valuesChanged > 0)
            changes.Add(
                valuesChanged == 1
                    ? "The values of 1 recipient were changed."
                    : $"The values of {valuesChanged:N0} recipients were changed."
            );
        else if (ListChange != now.ListChange && changes.Count == 0)
            changes.Add("The list was changed.");
        if (Rules != now.Rules)
            changes.Add("The organization settings, salutation rules, or pictures changed.");
        if (OneOffs != now.OneOffs)
            changes.Add("A letter was changed, or changed back, for one recipient.");
        return changes;
    }
}
