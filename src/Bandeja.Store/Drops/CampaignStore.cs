using Dapper;

namespace Bandeja.Store.Drops;

/// <summary>A campaign.</summary>
public sealed record CampaignRow
{
    public long Id { get; init; }
    public string Name { get; init; } = "";
    public string CreatedAt { get; init; } = "";
}

/// <summary>Campaigns.</summary>
public sealed class CampaignStore(Database database)
{
    /// <summary>All campaigns, the newest first.</summary>
    public IReadOnlyList<CampaignRow> All()
    {
        using var c = database.Open();
        return [.. c.Query<CampaignRow>("SELECT id, name, created_at FROM campaign ORDER BY id DESC")];
    }

    /// <summary>Begins a campaign.</summary>
    public long Create(string name, Actor actor) =>
        database.Write(c =>
            c.QuerySingle<long>(
                "INSERT INTO campaign (name, created_at, created_by) VALUES (@name, @Stamp, @Name) RETURNING id",
                new
                {
                    name,
                    actor.Stamp,
                    actor.Name,
                }
            )
        );
}
