using Bandeja.Core.Drops;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Mail;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Store.Runs;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Tests;

/// <summary>A database of its own with a list, a letter and a drop. The checker finds a blank first name and a message that was refused,
/// and nothing else.</summary>
sealed class World : IDisposable
{
    readonly string folder = Directory.CreateTempSubdirectory("bandeja-store").FullName;

    readonly Func<long, Channel> channelOf;

    /// <param name="channelOf">How the drop's rule lets a recipient's pieces go out; on paper where it is not given.</param>
    public World(int recipients = 10, Func<long, Channel>? channelOf = null)
    {
        this.channelOf = channelOf ?? (_ => Channel.Paper);
        Database = new(FreshDatabase.In(folder));
        Editor = new(Database, () => new(OrganizationLocale.UnitedStates, new(2027, 3, 1), _ => true), Check);
        Bench = new(Database, Editor);
        var writer = new RowWriter(Database, "Members", "members.csv", null, Columns, By());
        for (var i = 1; i <= recipients; i++)
            writer.Add([i % 5 == 0 ? null : $"Given{i}", $"Family{i:000}", $"{i}.50", i % 2 == 0 ? "Cork" : "Malmö"]);
        writer.Finish([], null);
        List = writer.ListId;
        Design = new DesignStore(Database).Create("Letter", List, Document, By());
        var campaign = new CampaignStore(Database).Create("Renewal", By());
        Drop = new DropStore(Database).CreateDrop(campaign, "First notice", List, [Design], new(2027, 3, 12), By());
        Database.Write(c => Check(c, Drop, Ids(), By(), null));
    }

    public const string Document = """{"content":[]}""";
    public static readonly Column[] Columns =
    [
        new(1, "First", ColumnType.Text, Role.GivenName),
        new(2, "Last", ColumnType.Text, Role.FamilyName),
        new(3, "Amount", ColumnType.Number, Role.None),
        new(4, "City", ColumnType.Text, Role.City),
    ];

    public Database Database { get; }
    public ListEditor Editor { get; }
    public BenchStore Bench { get; }
    public DropStore Drops => new(Database);
    public RunStore Runs => new(Database);
    public RunPlanning Planning => new(Database);
    public RunFreezing Freezing => new(Database);
    public RunLife Life => new(Database);
    public RunLog Log => new(Database);
    public LedgerExport Ledger => new(Database);
    public DropIssues Issues => new(Database);
    public BenchRows Rows => new(Database);
    public DropHistory History => new(Database);
    public RunMails Mails => new(Database, Editor.Recheck, () => Editor.Surroundings);
    public ListStore Lists => new(Database);
    public long List { get; }
    public long Design { get; }
    public long Drop { get; }
    public DateTimeOffset Now { get; set; } = new(2027, 3, 1, 9, 0, 0, TimeSpan.Zero);

    public Actor By(string name = "Marisol") => Actor.Person(name, Now);

    public List<long> Ids(Tray? tray = null) => [.. Rows.Ids(Drop, new(tray))];

    public IReadOnlyDictionary<Tray, int> Trays => Drops.Trays(Drop);

    void Check(SqliteConnection c, long dropId, IReadOnlyList<long> ids, Actor actor, long? actionId)
    {
        var drop = DropStore.Drop(c, dropId);
        var refused = RunMails.Refusals(c, dropId);
        DropEvents.ApplyCheck(
            c,
            dropId,
            [
                .. DropStore
                    .Recipients(c, drop, RowTable.Columns(c, drop.ListId), ids)
                    .Select(r => new CheckedPiece(r.Id, 1, channelOf(r.Id), [.. Found(r)])),
            ],
            actor,
            actionId
        );

        IEnumerable<PieceIssue> Found(DropRecipient r)
        {
            if (r.Values[0] is null)
                yield return new(PieceIssueKind.Blank, "First", "", "First is blank.");
            if (refused.TryGetValue(r.Id, out var refusal))
                yield return new(PieceIssueKind.Refused, "", "", refusal.Words);
        }
    }

    /// <summary>A file that a run made of its first design.</summary>
    public static RunFile File(long size, int pages, long position = 1) =>
        new()
        {
            Number = position,
            Position = position,
            Name = $"{position}.pdf",
            Size = size,
            Pages = pages,
        };

    public RunRow Produce(string? pieces = null)
    {
        var range = pieces is null ? null : PieceRange.Parse(pieces, out _);
        var run = Freezing.Begin(
            Drop,
            c => range?.Contains(c.PieceNumber) ?? true,
            "Not in this range",
            "all Ready",
            null,
            new(2027, 3, 2),
            By()
        );
        Life.Start(run.Id);
        Assert.True(Life.Complete(run.Id, [World.File(1000, (int)run.Pieces)], By()));
        return Runs.Get(run.Id);
    }

    /// <summary>What must hold at any time: the trays add up to the list, and are what the events alone say.</summary>
    public void MustAddUp()
    {
        Assert.Equal(Ids().Count, Trays.Values.Sum());
        using var c = Database.Open();
        var replayed = DropEvents.Replay(c, Drop);
        foreach (var tray in Enum.GetValues<Tray>())
            Assert.Equal(replayed.Where(r => r.Value == tray).Select(r => r.Key).Order(), Ids(tray).Order());
    }

    public void Dispose()
    {
        Database.Dispose();
        Directory.Delete(folder, true);
    }
}
