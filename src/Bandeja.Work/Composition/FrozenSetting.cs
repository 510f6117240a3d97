using System.Text.Json;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Store;

namespace Bandeja.Work.Composition;

/// <summary>What a run's designs met when it began beside its values and versions: whatever is set otherwise later, the run is made, and
/// made again, as it was.</summary>
/// <param name="Ladders">Salutations' forms by language.</param>
/// <param name="Matches">By the design: names that stand for a column, with its position.</param>
/// <param name="Details">The sets of detail rows; null for a run of an earlier version, which printed the rows of now.</param>
/// <param name="Rows">By the design: names that stand for detail rows.</param>
/// <param name="AsOfPicture">The newest naming of a picture at that moment; null for a run of an earlier version, which prints what names
/// mean now.</param>
/// <param name="AsOfOwn">The newest document kept with a recipient at that moment; null for a run of an earlier version, which had
/// none.</param>
/// <param name="AsOfFile">The newest file to attach at that moment; null for a run of an earlier version, which attached none.</param>
public sealed record FrozenSetting(
    Organization Organization,
    IReadOnlyDictionary<string, IReadOnlyList<string>> Ladders,
    IReadOnlyList<Column> Columns,
    IReadOnlyDictionary<long, IReadOnlyDictionary<string, int>> Matches,
    long? AsOfFile = null,
    IReadOnlyList<DetailSet>? Details = null,
    IReadOnlyDictionary<long, IReadOnlyList<RowsMatch>>? Rows = null,
    long? AsOfPicture = null,
    long? AsOfOwn = null
)
{
    /// <summary>How the organization addressed and greeted.</summary>
    public AddressingRules Addressing() => new(Organization.CountryLine, new(Ladders));

    /// <summary>The stored form.</summary>
    public string ToJson() => JsonSerializer.Serialize(this);

    /// <summary>Reads the stored form; null where a run of an earlier version kept none.</summary>
    public static FrozenSetting? Read(string? json) => json is null ? null : JsonSerializer.Deserialize<FrozenSetting>(json);
}
