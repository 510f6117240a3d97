using System.Diagnostics;
using System.Globalization;
using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Drops;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Server;
using Bandeja.Store;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Store.Runs;
using Bandeja.Work.Announcing;
using Bandeja.Work.Composition;
using Bandeja.Work.Freezing;
using Bandeja.Work.Hosting;
using Bandeja.Work.Jobs;
using Bandeja.Work.Production;
using Microsoft.AspNetCore.Builder;
using Microsoft.Data.Sqlite;
using Microsoft.Extensions.DependencyInjection;

namespace Bandeja.Bench;

/// <summary>Production at its size: a package for ten thousand, the proof set over a hundred thousand, ten thousand PDFs in a ZIP,
/// memory.</summary>
static class ProductionBench
{
    internal static readonly Actor By = Actor.Person("Bench", DateTimeOffset.UtcNow);
    static readonly Column[] Columns =
    [
        new(1, "First", ColumnType.Text, Role.GivenName),
        new(2, "Last", ColumnType.Text, Role.FamilyName),
        new(3, "Street", ColumnType.Text, Role.Street),
        new(4, "City", ColumnType.Text, Role.City),
        new(5, "State", ColumnType.Text, Role.Region),
        new(6, "ZIP", ColumnType.Text, Role.PostalCode),
        new(7, "Amount due", ColumnType.Number, Role.None),
        new(8, "Renewal date", ColumnType.Date, Role.None),
        new(9, "Level", ColumnType.Text, Role.None),
        new(10, "Note", ColumnType.Text, Role.None),
    ];

    static string?[] Row(int i) =>
        [
            i % 97 == 5 ? null : $"Given{i % 977}",
            $"Family{i % 7919}",
            $"{i % 2400} Lantern Row",
            "Fernquay",
            "OR",
            $"97{400 + i % 90}",
            $"{i % 1000}.50",
            $"2027-{1 + i % 12:00}-{1 + i % 28:00}",
            i % 3 == 0 ? "Guardian" : "Friend",
            i % 50 == 0 ? $"remark {i}" : null,
        ];

    static JsonObject Paragraph(string text) =>
        new() { ["type"] = "paragraph", ["content"] = new JsonArray(new JsonObject { ["type"] = "text", ["text"] = text }) };

    static JsonObject Letter(bool address)
    {
        var content = new JsonArray(
            Paragraph("Dear {First | else \"friend\"} {Last},"),
            Paragraph("your membership as {Level | lower} ends on {Renewal date | date long}; {Amount due | money} keeps it.")
        );
        if (address)
            content.Insert(0, Paragraph("{Delivery address}"));
        for (var i = 0; i < 12; i++)
            content.Add(
                Paragraph(
                    "The glasshouse is quieter without you; the riverside path asks after you, every day of the week and all the year."
                )
            );
        return new JsonObject { ["content"] = content };
    }

    static JsonObject Envelope =>
        new()
        {
            ["kind"] = "envelope",
            ["format"] = "no10",
            ["boxes"] = new JsonArray(
                new JsonObject
                {
                    ["id"] = "r",
                    ["use"] = "return",
                    ["x"] = 12,
                    ["y"] = 10,
                    ["width"] = 80,
                    ["height"] = 20,
                    ["content"] = new JsonArray(Paragraph("Fernquay Botanic Garden")),
                },
                new JsonObject
                {
                    ["id"] = "d",
                    ["use"] = "delivery",
                    ["x"] = 105,
                    ["y"] = 48,
                    ["width"] = 100,
                    ["height"] = 30,
                    ["content"] = new JsonArray(Paragraph("{Delivery address}")),
                }
            ),
        };

    static JsonObject Labels =>
        new()
        {
            ["kind"] = "labels",
            ["stock"] = "letter-3x10",
            ["boxes"] = new JsonArray(
                new JsonObject
                {
                    ["id"] = "d",
                    ["use"] = "delivery",
                    ["x"] = 3,
                    ["y"] = 3,
                    ["width"] = 60,
                    ["height"] = 19,
                    ["content"] = new JsonArray(Paragraph("{Delivery address}")),
                }
            ),
        };

    internal sealed class World : IDisposable
    {
        readonly string folder = Directory.CreateTempSubdirectory("bandeja-bench").FullName;
        readonly WebApplication app;

        public World(int people, params JsonObject[] package)
        {
            app = Application.Build(new ServerOptions(folder, Port: 0));
            var writer = new RowWriter(Get<Database>(), "Members", "members.csv", null, Columns, By);
            for (var i = 1; i <= people; i++)
                writer.Add(Row(i));
            writer.Finish([], null);
            List = writer.ListId;
            Designs =
            [
                .. package.Select(
                    (p, n) =>
                        Get<DesignStore>().Create($"Design {n + 1}", List, p.ToJsonString(), By, DesignReader.KindOf(p.ToJsonString()))
                ),
            ];
        }

        public long List { get; }
        public long[] Designs { get; }

        public T Get<T>()
            where T : notnull => app.Services.GetRequiredService<T>();

        /// <summary>A drop that has been checked: without that nothing is produced, and the check is not what is measured.</summary>
        public long Drop()
        {
            var drops = Get<DropStore>();
            var drop = drops.CreateDrop(new CampaignStore(Get<Database>()).Create("Bench", By), "Bench", List, Designs, null, By);
            Get<DropChecker>().CheckAll(drop, By, (_, _) => { }, CancellationToken.None);
            return drop;
        }

        public RunRow Begin(long drop, RunOrder order) => Get<RunPlanner>().Begin(drop, order, By);

        public void Make() => Make((_, _) => { });

        public void Make(JobProgress progress) =>
            app
                .Services.GetServices<IJobKind>()
                .OfType<RunJob>()
                .Single()
                .Work(Get<JobStore>().Next(JobNames.Run, By)!, progress, CancellationToken.None);

        /// <summary>The bytes of the largest file that was made.</summary>
        public long LargestFile() =>
            Directory
                .EnumerateFiles(folder, "*", SearchOption.AllDirectories)
                .Where(f => Path.GetRelativePath(folder, f).StartsWith("runs", StringComparison.Ordinal))
                .Select(f => new FileInfo(f).Length)
                .DefaultIfEmpty(0)
                .Max();

        public void Dispose()
        {
            ((IDisposable)app).Dispose();
            SqliteConnection.ClearAllPools();
            Directory.Delete(folder, true);
        }
    }

    /// <summary>From Produce to finished files with the ledger written, against composing the same pieces and nothing else.</summary>
    public static void Package()
    {
        const int people = 10_000;
        using var world = new World(people, Letter(false), Envelope, Labels);
        var (run, compose, written) = (new List<double>(), new List<double>(), new List<double>());
        for (var round = 0; round < 5; round++)
        {
            var drop = world.Drop();
            RunRow? row = null;
            var ours = Bench.Seconds(() =>
            {
                row = world.Begin(drop, new OneFileOrder { Sort = "postal" });
                world.Make();
            });
            var alone = Bench.Seconds(() =>
            {
                using var c = world.Get<Database>().Open();
                var frozen = new FrozenRun(c, world.Get<Letters>(), row!);
                for (var d = 0; d < row!.Designs.Count; d++)
                    foreach (var piece in world.Get<RunStore>().Pieces(row, world.List, frozen.Setting.Columns))
                        frozen.Compose(piece, d);
            });
            var files = Bench.Seconds(() => world.Get<RunFiles>().Make(row!, (_, _) => { }, () => { }));
            if (world.Get<DropStore>().Trays(drop)[Tray.Produced] != people)
                throw new InvalidOperationException("not everybody was produced");
            if (round == 0)
                continue;
            run.Add(ours);
            compose.Add(alone);
            written.Add(files);
        }
        var (a, b, w) = (Bench.Median(run), Bench.Median(compose), Bench.Median(written));
        Bench.Line(
            "10,000 recipients, letter + envelope + labels, from Produce to files and ledger",
            Bench.Time(a),
            $"{Bench.Time(b)}, composing alone",
            Bench.Ratio(a / b),
            "at most 1.5×",
            a / b <= 1.5
        );
        Bench.Line("the same against composing the three PDFs alone", Bench.Time(a), Bench.Time(w), Bench.Ratio(a / w), "", a / w <= 1.5);
    }

    /// <summary>The proof set, against one evaluation of all the letter's fields and conditions for everybody.</summary>
    public static void ProofSet()
    {
        const int people = 100_000;
        var text = new[]
        {
            "{First} {Last}",
            "{Street}",
            "{City}, {State} {ZIP}",
            "{Amount due | money}",
            "{Renewal date | date long}",
            "{Level | lower}",
            "{Note | else \"none\"}",
            "{when Amount due > 500}much{end}",
            "{when Level = \"Guardian\"}a{otherwise}b{end}",
            "{when Note is blank}c{end}",
            "{when Renewal date > \"2027-06-30\"}d{end}",
        };
        var letter = new BoundLetter(
            LetterReader.Read(new JsonObject { ["content"] = new JsonArray([.. text.Select(Paragraph)]) }.ToJsonString()),
            Columns,
            OrganizationLocale.UnitedStates,
            Bandeja.Formats.FontFolder.Load()
        );
        var rows = Enumerable.Range(1, people).Select(i => new ArrayRow(Row(i))).ToList();
        var expressions = letter.Expressions().ToList();
        var members = 0;
        var (ours, bare) = Bench.InTurn(
            () =>
            {
                var maker = new ProofSetMaker([letter], new(2027, 3, 1));
                for (var i = 0; i < rows.Count; i++)
                    maker.Add(i + 1, i + 1, rows[i], 1, []);
                members = maker.Finish().Members.Count;
            },
            () =>
            {
                var context = letter.NewContext(new(2027, 3, 1));
                for (var i = 0; i < rows.Count; i++)
                {
                    context.For(rows[i], i + 1);
                    foreach (var e in expressions)
                        Evaluator.Print(e, context);
                }
            }
        );
        Bench.Line(
            $"proof set of {members} over 100,000, ten fields, four conditions",
            Bench.Time(ours),
            $"{Bench.Time(bare)}, evaluating them once",
            Bench.Ratio(ours / bare),
            "at most 3×",
            ours / bare <= 3
        );
    }

    /// <summary>A PDF for each of ten thousand in a ZIP.</summary>
    public static void Zip()
    {
        const int people = 10_000;
        using var world = new World(people, Letter(true));
        var times = new List<double>();
        long size = 0;
        for (var round = 0; round < 4; round++)
        {
            var row = world.Begin(world.Drop(), new EachOrder());
            var seconds = Bench.Seconds(world.Make);
            size = world.Get<RunStore>().Get(row.Id).Files[0].Size;
            if (round > 0)
                times.Add(seconds);
        }
        var rate = people / Bench.Median(times);
        Bench.Line(
            "10,000 single PDFs in a ZIP",
            $"{rate:N0} a second",
            "1,500 a second",
            Bench.Ratio(rate / 1500),
            "at least 1,500 a second",
            rate >= 1500
        );
        Bench.Line(
            "size of each",
            $"{size / people:N0} bytes",
            "12,288 bytes",
            Bench.Ratio(size / (double)people / 12288),
            "at most 12 KB",
            size / people <= 12288
        );
        Memory("each", "a PDF each for 40,000, peak memory beside 10,000", 10_000, 40_000, 1.25, "flat (at most 1.25×)");
    }

    /// <summary>A DOCX for each of ten thousand in a ZIP, against cloning a template with the SDK and replacing its texts; and one DOCX of
    /// all.</summary>
    public static void Documents()
    {
        const int people = 10_000,
            cloned = 1_000;
        using var world = new World(people, Letter(true));
        var template = world.Get<Letters>().AsDocument(Letter(true).ToJsonString(), "Template");
        var (ours, plain, one) = (new List<double>(), new List<double>(), new List<double>());
        for (var round = 0; round < 4; round++)
        {
            world.Begin(world.Drop(), new DocxEachOrder());
            var each = people / Bench.Seconds(world.Make);
            var clone = cloned / Bench.Seconds(() => Clones(template, cloned));
            world.Begin(world.Drop(), new DocxOrder());
            var whole = people / Bench.Seconds(world.Make);
            if (round == 0)
                continue;
            ours.Add(each);
            plain.Add(clone);
            one.Add(whole);
        }
        var (a, b) = (Bench.Median(ours), Bench.Median(plain));
        Bench.Line(
            "10,000 letters as a DOCX each in a ZIP",
            $"{a:N0} a second",
            $"{b:N0} a second",
            Bench.Ratio(a / b),
            "at least 3×",
            a / b >= 3
        );
        Bench.Line("the same", $"{a:N0} a second", "1,500 a second", Bench.Ratio(a / 1500), "at least 1,500 a second", a >= 1500);
        Bench.Line(
            "10,000 letters in one DOCX",
            $"{Bench.Median(one):N0} a second",
            $"{a:N0} a second, each",
            Bench.Ratio(Bench.Median(one) / a),
            "",
            true
        );
        Memory("docxeach", "a DOCX each for 40,000, peak memory beside 10,000", 10_000, 40_000, 1.25, "flat (at most 1.25×)");
        Memory("docx", "one DOCX of 40,000, peak memory beside 10,000", 10_000, 40_000, 1.25, "flat (at most 1.25×)");
        Reading(world);
    }

    /// <summary>The plain way: the template opened with the SDK, its texts replaced, saved, each into a ZIP.</summary>
    static void Clones(byte[] template, int count)
    {
        using var zip = new System.IO.Compression.ZipArchive(Stream.Null, System.IO.Compression.ZipArchiveMode.Create);
        for (var i = 0; i < count; i++)
        {
            using var memory = new MemoryStream();
            memory.Write(template);
            using (var document = DocumentFormat.OpenXml.Packaging.WordprocessingDocument.Open(memory, true))
            {
                foreach (var text in document.MainDocumentPart!.Document!.Descendants<DocumentFormat.OpenXml.Wordprocessing.Text>())
                    if (text.Text.Contains('{'))
                        text.Text = text.Text.Replace("{First | else \"friend\"}", $"Given{i}").Replace("{Last}", $"Family{i}");
                document.Save();
            }
            using var entry = zip.CreateEntry($"{i}.docx", System.IO.Compression.CompressionLevel.NoCompression).Open();
            memory.WriteTo(entry);
        }
    }

    /// <summary>A document of forty pages read as a letter, against the SDK walking its paragraphs.</summary>
    static void Reading(World world)
    {
        const int paragraphs = 40 * 40;
        var content = new JsonArray();
        for (var i = 0; i < paragraphs; i++)
            content.Add(Paragraph($"Paragraph {i} for {{First}}: the glasshouse is quieter without you, every day of the week."));
        var path = Path.Combine(Path.GetTempPath(), $"bandeja-bench-{Environment.ProcessId}.docx");
        File.WriteAllBytes(path, world.Get<Letters>().AsDocument(new JsonObject { ["content"] = content }.ToJsonString(), "Forty pages"));
        try
        {
            var (ours, sdk) = Bench.InTurn(
                () =>
                    Core.Documents.Placing.Of(
                        Formats.Documents.DocumentFile.Read(path, "x.docx").Document,
                        Core.Documents.PlaceholderSetting.None
                    ),
                () =>
                {
                    using var document = DocumentFormat.OpenXml.Packaging.WordprocessingDocument.Open(path, false);
                    _ = document
                        .MainDocumentPart!.Document!.Body!.Descendants<DocumentFormat.OpenXml.Wordprocessing.Paragraph>()
                        .Sum(p => p.InnerText.Length);
                }
            );
            Bench.Line(
                "a DOCX of 40 pages becomes a letter",
                Bench.Time(ours),
                $"{Bench.Time(sdk)}, the SDK reading its text",
                Bench.Ratio(ours / sdk),
                "under 1 s",
                ours < 1
            );
        }
        finally
        {
            File.Delete(path);
        }
    }

    /// <summary>A PDF each with a password of the recipient's own, against the same without.</summary>
    public static void Locked()
    {
        const int people = 4_000;
        using var world = new World(people, Letter(true));
        double Rate(RunOrder order)
        {
            world.Begin(world.Drop(), order);
            return people / Bench.Seconds(world.Make);
        }
        var (locked, open) = (new List<double>(), new List<double>());
        for (var round = 0; round < 4; round++)
        {
            var (with, without) = (Rate(new EachOrder { Passwords = new("{Last}-{ZIP}-{Street}", OpenBy: true) }), Rate(new EachOrder()));
            if (round == 0)
                continue;
            locked.Add(with);
            open.Add(without);
        }
        Bench.Line(
            "4,000 locked PDFs (AES-256)",
            $"{Bench.Median(locked):N0} a second",
            $"{Bench.Median(open):N0} a second unlocked",
            Bench.Ratio(Bench.Median(locked) / Bench.Median(open)),
            "at least 1,000 a second",
            Bench.Median(locked) >= 1000
        );
    }

    /// <summary>Peak memory of a hundred thousand letters against ten thousand, each in a process of its own.</summary>
    public static void Large() =>
        Memory("one", "100,000 letters produced, peak memory beside 10,000", 10_000, 100_000, 1.5, "at most 1.5×");

    public static void Memory(string output, string name, int small, int large, double most, string goal)
    {
        double Peak(int people)
        {
            using var process = Process.Start(
                new ProcessStartInfo(
                    Environment.ProcessPath!,
                    [
                        .. Environment.GetCommandLineArgs()[0].EndsWith(".dll", StringComparison.Ordinal)
                            ? [Environment.GetCommandLineArgs()[0]]
                            : Array.Empty<string>(),
                        "peak",
                        output,
                        people.ToString(CultureInfo.InvariantCulture),
                    ]
                )
                {
                    RedirectStandardOutput = true,
                }
            )!;
            var text = process.StandardOutput.ReadToEnd();
            process.WaitForExit();
            return double.Parse(text.Trim().Split('\n')[^1], CultureInfo.InvariantCulture);
        }
        var (few, many) = (Peak(small), Peak(large));
        Bench.Line(name, $"{many:N0} MB", $"{few:N0} MB", Bench.Ratio(many / few), goal, many / few <= most);
    }

    /// <summary>Produces in this process and prints its peak memory in megabytes.</summary>
    public static void Peak(string output, int people)
    {
        using (var world = output == "form" ? FormBench.World(people, "printed") : new World(people, Letter(true)))
        {
            world.Begin(
                world.Drop(),
                output switch
                {
                    "each" => new EachOrder(),
                    "docxeach" => new DocxEachOrder(),
                    "docx" => new DocxOrder(),
                    _ => new OneFileOrder(),
                }
            );
            // What importing the list and checking the drop took is not the run's.
            Bench.GiveBack();
            var (peak, calls) = (Bench.OwnMegabytes(), 0);
            world.Make((_, _) => peak = calls++ % 100 == 0 ? Math.Max(peak, Bench.OwnMegabytes()) : peak);
            Console.WriteLine(peak.ToString(CultureInfo.InvariantCulture));
        }
    }
}
