using Dapper;

namespace Bandeja.Store.Tests;

/// <summary>One writer, one transaction, and whoever is told of it afterwards.</summary>
public sealed class WriteTests : IDisposable
{
    readonly World world = new(1);

    public void Dispose() => world.Dispose();

    long Campaigns()
    {
        using var c = world.Database.Open();
        return c.QuerySingle<long>("SELECT count(*) FROM campaign");
    }

    void Add(string name) => new Campaigns.CampaignStore(world.Database).Create(name, world.By());

    [Fact]
    public void What_writes_within_a_transaction_joins_it_and_is_seen_there()
    {
        var before = Campaigns();
        world.Database.Write(_ =>
        {
            Add("First");
            Add("Second");
            Assert.Equal(before + 2, Campaigns());
        });
        Assert.Equal(before + 2, Campaigns());
    }

    [Fact]
    public void What_fails_takes_all_of_it_back_and_tells_nobody()
    {
        var before = Campaigns();
        var told = new List<string>();
        Assert.Throws<InvalidOperationException>(() =>
            world.Database.Write(_ =>
            {
                Add("First");
                world.Database.AfterCommit(() => told.Add("of the first"));
                throw new InvalidOperationException();
            })
        );
        Assert.Equal(before, Campaigns());
        world.Database.Write(_ => world.Database.AfterCommit(() => told.Add("of the next")));
        Assert.Equal(["of the next"], told);
    }

    [Fact]
    public void Whoever_is_told_sees_what_was_written_and_others_do_not_see_it_before()
    {
        var before = Campaigns();
        long seenThen = -1,
            seenBefore = -1;
        world.Database.Write(_ =>
        {
            Add("First");
            world.Database.AfterCommit(() => seenThen = Campaigns());
            // Another thread is another reader.
            var other = new Thread(() => seenBefore = Campaigns());
            other.Start();
            other.Join();
        });
        Assert.Equal((before, before + 1), (seenBefore, seenThen));
        // Outside a transaction there is nothing to wait for.
        var told = false;
        world.Database.AfterCommit(() => told = true);
        Assert.True(told);
    }
}
