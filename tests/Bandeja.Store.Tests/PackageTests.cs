using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Store.Designs;
using Bandeja.Store.Devices;
using Bandeja.Store.Drops;
using Bandeja.Store.Runs;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Tests;

/// <summary>Packages of a drop, the files of a run, serial numbers, printers, and that what older versions stored stays.</summary>
public sealed class PackageTests
{
    const string Envelope = """{"kind":"envelope","format":"no10","boxes":[]}""";
    const string Labels = """{"kind":"labels","stock":"letter-3x10","boxes":[]}""";

    static long Design(World w, string name, string document, PieceKind kind) =>
        new DesignStore(w.Database).Create(name, w.List, document, w.By(), kind);

    [Fact]
    public void A_package_stands_in_the_order_in_which_it_is_put_together()
    {
        using var w = new World();
        var (labels, envelope) = (Design(w, "Labels", Labels, PieceKind.Labels), Design(w, "Envelope", Envelope, PieceKind.Envelope));
        w.Drops.SetPackage(w.Drop, [labels, envelope, w.Design]);
        var drop = w.Drops.Drop(w.Drop);
        Assert.Equal([PieceKind.Letter, PieceKind.Envelope, PieceKind.Labels], drop.Package.Select(p => p.Kind));
        Assert.Equal("Letter + Envelope + Labels", drop.DesignName);
        Assert.Equal(drop.Package, w.Drops.Drops().Single(d => d.Id == w.Drop).Package);
        Assert.Contains(new DesignStore(w.Database).Uses(), u => u.DesignId == envelope);
        Assert.Throws<ConflictException>(() => w.Drops.SetPackage(w.Drop, []));
        Assert.Throws<ConflictException>(() => w.Drops.SetPackage(w.Drop, [envelope, envelope]));
        Assert.Throws<NotFoundException>(() => w.Drops.SetPackage(w.Drop, [envelope, 999]));
        // A refusal leaves the package as it was.
        Assert.Equal(3, w.Drops.Drop(w.Drop).Package.Count);
    }

    [Fact]
    public void A_run_has_a_file_for_each_design_and_a_package_stays_while_it_is_made()
    {
        using var w = new World();
        var envelope = Design(w, "Envelope", Envelope, PieceKind.Envelope);
        w.Drops.SetPackage(w.Drop, [w.Design, envelope]);
        var run = w.Freezing.Begin(
            w.Drop,
            _ => true,
            "",
            "all Ready",
            null,
            new(2027, 3, 5),
            w.By(),
            new() { PrinterJson = "{}", Counted = _ => (new Dictionary<long, int> { [envelope] = 8 }, 12.5m) }
        );
        Assert.Equal([PieceKind.Letter, PieceKind.Envelope], run.Designs.Select(d => d.Kind));
        Assert.Equal("{}", run.PrinterJson);
        Assert.Contains("in progress", Assert.Throws<ConflictException>(() => w.Drops.SetPackage(w.Drop, [w.Design])).Message);
        w.Life.Start(run.Id);
        Assert.True(w.Life.Complete(run.Id, [World.File(1000, 9), World.File(500, 8, 2)], w.By()));
        var done = w.Runs.Get(run.Id);
        Assert.Equal((17, 500), (done.Pages, done.Files[1].Size));
        w.Drops.SetPackage(w.Drop, [w.Design]);
        // The ledger says what was sent then, not what would be sent now.
        var row = w.Ledger.Rows(w.Drop).First(r => r[10] == "1");
        Assert.Equal(("Letter + Envelope", "1 + 1"), (row[7], row[8]));
        Assert.True(new DesignStore(w.Database).Versions(envelope)[0].Produced);
    }

    [Fact]
    public void Serial_numbers_go_on_from_run_to_run_and_none_comes_again_within_45_days()
    {
        using var w = new World();
        RunRow Begin(string mailer, int days)
        {
            var run = w.Freezing.Begin(
                w.Drop,
                _ => true,
                "",
                "all Ready",
                null,
                new(2027, 3, 5),
                w.By() with
                {
                    At = w.By().At.AddDays(days),
                },
                new() { Mailers = [mailer] }
            );
            w.Life.Stop(run.Id, RunState.Cancelled, null, w.By());
            return run;
        }
        var pieces = (int)Begin("901234567", 0).Pieces;
        IReadOnlyDictionary<string, (long First, long All)> Serials(long run)
        {
            using var c = w.Database.Open();
            return MailerSerials.Of(c, run);
        }
        long First(RunRow run, string mailer) => Serials(run.Id)[mailer].First;
        // Also a run that came to nothing has used its numbers: a part of it may be in somebody's hands.
        Assert.Equal(pieces, First(Begin("901234567", 1), "901234567"));
        Assert.Equal(0, First(Begin("123456", 1), "123456"));
        Assert.Equal(1_000_000_000, Serials(Begin("123456", 2).Id)["123456"].All);
        // Nearly all given out: they go round.
        w.Database.Write(c =>
            c.Execute(
                "UPDATE mail_serial SET first = 999990, count = 8 WHERE id = (SELECT max(id) FROM mail_serial WHERE mailer = '901234567')"
            )
        );
        Assert.Equal(999_998, First(Begin("901234567", 3), "901234567"));
        Assert.Equal((999_998 + pieces) % 1_000_000, First(Begin("901234567", 4), "901234567"));
        // All given out within 45 days: refused; later they are free again.
        w.Database.Write(c =>
            c.Execute("UPDATE mail_serial SET count = 999999 WHERE id = (SELECT min(id) FROM mail_serial WHERE mailer = '901234567')")
        );
        Assert.Contains("would repeat some", Assert.Throws<ConflictException>(() => Begin("901234567", 40)).Message);
        Assert.True(First(Begin("901234567", 60), "901234567") < 1_000_000);
        Assert.Empty(Serials(999));
    }

    [Fact]
    public void Printers_are_kept_with_their_feed_and_offsets()
    {
        using var w = new World();
        var printers = new PrinterStore(w.Database);
        var id = printers.Save(
            new()
            {
                Name = "Front office",
                EnvelopeEdge = "short",
                EnvelopeDown = -2,
            }
        );
        printers.Save(printers.Get(id) with { SheetRight = 0.5, EnvelopeTurn = 180 });
        Assert.Equal((-2, 0.5, 180), (printers.Get(id).EnvelopeDown, printers.Get(id).SheetRight, printers.Get(id).EnvelopeTurn));
        Assert.Throws<ConflictException>(() => printers.Save(new() { Name = "FRONT OFFICE" }));
        Assert.Throws<NotFoundException>(() => printers.Save(new() { Id = 99, Name = "Other" }));
        printers.Remove(id);
        Assert.Equal(["Practice printer"], printers.All().Select(p => p.Name));
        Assert.Throws<NotFoundException>(() => printers.Get(id));
    }

    [Fact]
    public void Ladders_and_the_country_line_are_kept()
    {
        using var w = new World();
        var settings = new SettingStore(w.Database);
        Assert.Equal(Core.Language.SalutationLadders.First, settings.Ladders());
        settings.SetLadders(
            new(new Dictionary<string, IReadOnlyList<string>> { ["en"] = ["Dear {Given name}", "Dear friend of the garden"] })
        );
        Assert.Equal(["Dear {Given name}", "Dear friend of the garden"], settings.Ladders().Of("en").Forms);
        Assert.Equal("de", settings.Ladders().Of("de").Language);
        settings.Set(settings.Organization() with { CountryLine = Core.Addressing.CountryLine.Always });
        Assert.Equal(Core.Addressing.CountryLine.Always, settings.Addressing().CountryLine);
    }

    [Fact]
    public void What_was_stored_before_there_were_packages_is_still_there()
    {
        var path = Path.Combine(Path.GetTempPath(), $"bandeja-{Guid.NewGuid():N}.sqlite");
        try
        {
            OlderDatabase.Make(
                path,
                "0004",
                """
                INSERT INTO list (id, name, state, created_at, created_by) VALUES (1, 'Members', 'ready', '2027-03-01', 'A');
                INSERT INTO design (id, name, kind, list_id, created_at, created_by)
                    VALUES (3, 'Notice', 'letter', 1, '2027-03-01', 'A');
                INSERT INTO design_version (id, design_id, number, document_json, created_at, updated_at, by, sealed)
                    VALUES (7, 3, 1, '{}', '2027-03-01', '2027-03-01', 'A', 1);
                INSERT INTO campaign VALUES (1, 'Renewal', '2027-03-01', 'A');
                INSERT INTO mail_drop (id, campaign_id, number, name, list_id, design_id, created_at, created_by)
                    VALUES (5, 1, 1, 'First', 1, 3, '2027-03-01', 'A');
                INSERT INTO run (id, drop_id, number, state, pieces, pages, design_version_id, as_of_change, today, chosen, created_at,
                    created_by, file_name, file_size) VALUES (9, 5, 1, 'done', 2, 3, 7, 0, '2027-03-02', 'all', '2027-03-02', 'A',
                    'renewal.pdf', 1234);
                INSERT INTO run_piece (run_id, piece_number, recipient_id) VALUES (9, 4, 1), (9, 2, 2);
                INSERT INTO drop_recipient (drop_id, recipient_id, piece_number, tray, run_id) VALUES (5, 1, 4, 'Produced', 9);
                """
            );
            using var database = new Database(path);
            var drop = new DropStore(database).Drop(5);
            Assert.Equal([new PackageDesign(3, "Notice", PieceKind.Letter)], drop.Package);
            var run = new RunStore(database).Get(9);
            var design = Assert.Single(run.Designs);
            Assert.Equal((1, 3, 7, 3), (design.Position, design.DesignId, design.DesignVersionId, design.Pages));
            var file = Assert.Single(run.Files);
            Assert.Equal(
                ("renewal.pdf", 1234, 2, 4, RunState.Done, RunOutput.One),
                (file.Name, file.Size, file.FirstPiece, file.LastPiece, run.State, run.Output)
            );
            Assert.True(new DesignStore(database).Versions(3)[0].Produced);
            Assert.Equal(PieceKind.Letter, new DesignStore(database).Get(3).Kind);
            using var check = database.Open();
            // What was stored before there was email goes on paper, and its pieces are what they were.
            Assert.Equal(
                [("Paper", 9L, 4L)],
                check.Query<(string, long, long)>(
                    "SELECT channel, run_id, piece_number FROM drop_recipient WHERE email_run_id IS NULL AND channel_by_hand = 0"
                )
            );
            Assert.Equal(nameof(Core.Mail.ChannelBy.Package), drop.ChannelBy);
            Assert.Equal(
                [(2, 0), (4, 1)],
                check.Query<(int, int)>("SELECT piece_number, position FROM run_piece WHERE run_id = 9 ORDER BY position")
            );
            Assert.Empty(check.Query("PRAGMA foreign_key_check"));
            Assert.Equal("ok", check.QuerySingle<string>("PRAGMA integrity_check"));
        }
        finally
        {
            foreach (var file in Directory.GetFiles(Path.GetTempPath(), Path.GetFileName(path) + "*"))
                File.Delete(file);
        }
    }
}
