using Bandeja.Core.Campaigns;
using Bandeja.Core.Contact;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Mail;
using Bandeja.Store;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Store.People;
using Bandeja.Store.Sequences;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Bench;

/// <summary>People over all lists at size: who is who among a million, what a correction costs then, and what contact limits
/// cost.</summary>
static class PeopleBench
{
    const int Many = 1_000_000,
        Corrected = 1000,
        InDrop = 10_000,
        Drops = 12;
    static readonly DateOnly Today = new(2027, 3, 1);
    static readonly Actor By = Actor.Person("Bench", new DateTimeOffset(Today.ToDateTime(new(9, 0)), TimeSpan.Zero));

    static ListSurroundings Surroundings => new(OrganizationLocale.UnitedStates, Today, _ => true);

    public static void All()
    {
        var (tenth, tenthCorrected) = Recognize(Many / 10, limits: false);
        var (whole, corrected) = Recognize(Many, limits: true);
        Bench.Line(
            $"people of {Many:N0} recipients on two lists recognized, against ten times as long as {Many / 10:N0} take",
            Bench.Time(whole),
            Bench.Time(10 * tenth),
            Bench.Ratio(whole / (10 * tenth)),
            "at most 1.5×",
            whole <= 15 * tenth
        );
        Bench.Line(
            $"{Corrected:N0} corrected of {Many:N0}, against {Corrected:N0} of {Many / 10:N0}",
            Bench.Time(corrected),
            Bench.Time(tenthCorrected),
            Bench.Ratio(corrected / tenthCorrected),
            "at most 1.5×",
            corrected <= 1.5 * tenthCorrected
        );
    }

    /// <summary>Seconds for recognizing all of so many recipients, and for looking again after some were corrected.</summary>
    static (double All, double Corrected) Recognize(int recipients, bool limits)
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-bench").FullName;
        try
        {
            using var database = new Database(Path.Combine(folder, "bandeja.sqlite"));
            // Of the second list, every fifth is on the first, too; half of those are written a little otherwise.
            var first = Fill(database, "Members", Enumerable.Range(0, recipients / 2).Select(i => Row(i, false)));
            var second = Fill(
                database,
                "Donors",
                Enumerable.Range(0, recipients / 2).Select(i => i % 5 == 0 ? Row(i, i % 2 == 0) : Row(recipients + i, false))
            );
            var people = new PeopleRecognition(database);
            var all = Bench.Seconds(() =>
            {
                foreach (var list in (long[])[first, second])
                    people.Look(list, (_, _) => { }, CancellationToken.None);
            });
            using (var c = database.Open())
                if (c.QuerySingle<long>("SELECT count(DISTINCT person_id) FROM person_row") is var n && n > recipients * 0.91)
                    throw new InvalidOperationException($"{n:N0} people were found.");
            var editor = new ListEditor(database, () => Surroundings, (_, _, _, _, _) => { });
            var corrected = Bench.Median(
                Enumerable
                    .Range(0, 3)
                    .Select(round =>
                    {
                        List<long> ids;
                        using (var c = database.Open())
                            ids =
                            [
                                .. c.Query<long>(
                                    $"SELECT id FROM {RowTable.Name(first)} ORDER BY id LIMIT {Corrected} OFFSET {Corrected * round}"
                                ),
                            ];
                        editor.Edit(
                            first,
                            [.. ids.Select((id, i) => new CellEdit(id, 4, $"{i + 1} Juniper {Word(round)} Row"))],
                            "Another street",
                            By
                        );
                        return Bench.Seconds(() => people.Look(first, (_, _) => { }, CancellationToken.None));
                    })
            );
            if (limits)
                Limits(database, first);
            return (all, corrected);
        }
        finally
        {
            SqliteConnection.ClearAllPools();
            Directory.Delete(folder, true);
        }
    }

    /// <summary>What checking a drop costs with a limit for households, against the same without; its people got many other
    /// pieces.</summary>
    static void Limits(Database database, long list)
    {
        var design = new DesignStore(database).Create("Notice", list, "{}", By);
        var campaign = new CampaignStore(database).Create("Notices", By);
        var edits = new StepEdits(database, () => Surroundings);
        edits.Plan(campaign, new(list, CampaignMode.Together, Today.AddDays(-300), Entry.ByHand, "", "", 60), By);
        for (var s = 0; s <= Drops; s++)
            edits.Add(campaign, new($"Step {s + 1}", [design], new(After: 20)), null, By);
        var drops = database.Write(c =>
            c.Query<long>("SELECT id FROM mail_drop WHERE campaign_id = @campaign ORDER BY id", new { campaign }).ToList()
        );
        database.Write(c =>
        {
            foreach (var (drop, i) in drops.Select((d, i) => (d, i)))
                c.Execute(
                    $"""
                    INSERT INTO drop_recipient (drop_id, recipient_id, piece_number, tray, mailed_on)
                    SELECT @drop, id, n, @tray, @mailed FROM {RowTable.Name(list)} WHERE n <= @InDrop
                    """,
                    new
                    {
                        drop,
                        InDrop,
                        tray = i < Drops ? "Mailed" : "Ready",
                        mailed = i < Drops ? Today.AddDays(-20 * (Drops - i)).ToString("yyyy-MM-dd") : null,
                    }
                );
            c.Execute("UPDATE mail_drop SET mail_date = @day WHERE id = @id", new { id = drops[^1], day = Today.AddDays(1) });
        });
        var settings = new SettingStore(database);
        double Sweep() => Bench.Seconds(() => database.Write(c => AutoHolds.Sweep(c, drops[^1], null, Surroundings, By)));
        var (with, without) = (new List<double>(), new List<double>());
        for (var round = 0; round < 4; round++)
        {
            settings.SetContactLimits([]);
            var plain = Sweep();
            settings.SetContactLimits([new(Channel.Paper, 20, 366, ContactCount.Household)]);
            var limited = Sweep();
            if (round == 0)
                continue;
            without.Add(plain);
            with.Add(limited);
        }
        Bench.Line(
            $"{InDrop:N0} of a drop held against a limit for households, each with {Drops} pieces before, against no limit",
            Bench.Time(Bench.Median(with)),
            Bench.Time(Bench.Median(without)),
            Bench.Ratio(Bench.Median(with) / Bench.Median(without)),
            "at most 5×",
            Bench.Median(with) <= 5 * Bench.Median(without)
        );
    }

    static string Word(int n) => $"{(char)('a' + n % 26)}{(char)('a' + n / 26 % 26)}{(char)('a' + n / 676 % 26)}";

    /// <summary>Somebody: ten addresses for thirteen people.</summary>
    static string?[] Row(int i, bool otherwise)
    {
        var at = (int)(i * 10L / 13);
        var family = $"{(char)('A' + i * 11L % 26)}{Word((int)(i * 31L % 7919))}";
        return
        [
            $"F-{i}",
            $"Given{Word((int)(i * 7L % 977))}",
            $"{family}{(otherwise ? "sen" : "son")}",
            $"{at % 2400} {Word(at / 2400)} Row",
            $"{10_000 + at % 40_000}",
        ];
    }

    static long Fill(Database database, string name, IEnumerable<string?[]> rows)
    {
        var writer = new RowWriter(
            database,
            name,
            "list.csv",
            null,
            [
                new(1, "No.", ColumnType.Text, Role.None),
                new(2, "First", ColumnType.Text, Role.GivenName),
                new(3, "Last", ColumnType.Text, Role.FamilyName),
                new(4, "Street", ColumnType.Text, Role.Street),
                new(5, "ZIP", ColumnType.Text, Role.PostalCode),
            ],
            By
        );
        foreach (var row in rows)
            writer.Add(row);
        writer.Finish([], null);
        return writer.ListId;
    }
}
