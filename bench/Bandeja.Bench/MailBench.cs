using System.Diagnostics;
using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Formats.Mail;
using Bandeja.Server;
using Bandeja.Store;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Designs;
using Bandeja.Store.Devices;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Store.Mail;
using Bandeja.Store.Runs;
using Bandeja.Work.Composition;
using Bandeja.Work.Freezing;
using Bandeja.Work.Hosting;
using Bandeja.Work.Jobs;
using Bandeja.Work.Mail;
using Bandeja.Work.Production;
using Microsoft.AspNetCore.Builder;
using Microsoft.Extensions.DependencyInjection;
using MimeKit;

namespace Bandeja.Bench;

/// <summary>Email at its size: 5,000 messages with a PDF made for each, to the practice post office; its inbox with 50,000.</summary>
static class MailBench
{
    const int People = 5000,
        Connections = 4;
    static readonly Actor By = Actor.Person("Bench", DateTimeOffset.UtcNow);
    static readonly Column[] Columns =
    [
        new(1, "First", ColumnType.Text, Role.GivenName),
        new(2, "Last", ColumnType.Text, Role.FamilyName),
        new(3, "Email", ColumnType.Text, Role.Email),
        new(4, "No.", ColumnType.Text, Role.Key),
    ];

    static JsonObject Paragraph(string text) =>
        new() { ["type"] = "paragraph", ["content"] = new JsonArray(new JsonObject { ["type"] = "text", ["text"] = text }) };

    /// <summary>A letter whose PDF has about 60 KB: some text in two faces, and a photograph.</summary>
    static JsonObject Letter(string picture)
    {
        var content = new JsonArray(
            new JsonObject
            {
                ["type"] = "picture",
                ["attrs"] = new JsonObject
                {
                    ["asset"] = picture,
                    ["width"] = 38,
                    ["aspect"] = 1.5,
                },
            },
            Paragraph("Dear {First} {Last},")
        );
        for (var i = 0; i < 10; i++)
            content.Add(
                Paragraph(
                    "The glasshouse is quieter without you, number {No.}; the riverside path asks after you, every day of the week "
                        + "and all the year."
                )
            );
        return new JsonObject { ["content"] = content };
    }

    sealed class World : IAsyncDisposable
    {
        readonly string folder = Directory.CreateTempSubdirectory("bandeja-bench").FullName;
        readonly WebApplication app;
        readonly long list,
            letter,
            email;
        int drops;

        public World(int people)
        {
            app = Application.Build(new ServerOptions(folder, Port: 0));
            app.StartAsync().GetAwaiter().GetResult();
            Get<SettingStore>().Set(new("Fernquay Botanic Garden", "en-US", "USD", PostalAddress: "18 Quay Road\nFernquay OR 97412"));
            var writer = new RowWriter(Get<Database>(), "Members", "members.csv", null, Columns, By);
            for (var i = 1; i <= people; i++)
                writer.Add([$"Given{i % 977}", $"Family{i % 7919}", $"member{i}@example.org", $"F-{i:00000}"]);
            writer.Finish([], null);
            list = writer.ListId;
            var picture = Get<PictureFiles>().Add("photo.jpg", Photograph(), By).Id;
            letter = Get<DesignStore>().Create("Letter", list, Letter(picture).ToJsonString(), By);
            email = Get<DesignStore>()
                .Create(
                    "Email",
                    list,
                    new JsonObject
                    {
                        ["kind"] = "email",
                        ["subject"] = "Your letter, {First}",
                        ["fromName"] = "Fernquay Botanic Garden",
                        ["fromAddress"] = "office@example.org",
                        ["content"] = new JsonArray(Paragraph("Dear {First} {Last},"), Paragraph("your letter is attached.")),
                        ["attachments"] = new JsonArray(
                            new JsonObject
                            {
                                ["kind"] = "design",
                                ["designId"] = letter,
                                ["name"] = "Letter {No.}",
                            }
                        ),
                    }.ToJsonString(),
                    By,
                    PieceKind.Email
                );
        }

        public T Get<T>()
            where T : notnull => app.Services.GetRequiredService<T>();

        /// <summary>A photograph of noise, which no compression makes smaller.</summary>
        static byte[] Photograph()
        {
            using var bitmap = new SkiaSharp.SKBitmap(390, 260);
            var random = new Random(7);
            for (var y = 0; y < 260; y++)
            for (var x = 0; x < 390; x++)
                bitmap.SetPixel(x, y, new((byte)random.Next(256), (byte)random.Next(256), (byte)random.Next(256)));
            using var data = bitmap.Encode(SkiaSharp.SKEncodedImageFormat.Jpeg, 60);
            return data.ToArray();
        }

        /// <summary>A checked drop and a run of it that is about to be made.</summary>
        public RunRow Begin(RunOutput output)
        {
            var drop = Get<DropStore>()
                .CreateDrop(Get<CampaignStore>().Create($"Campaign {++drops}", By), "Drop", list, [letter, email], null, By);
            Get<DropChecker>().CheckAll(drop, By, (_, _) => { }, CancellationToken.None);
            // Begun in the store and not through the queue, which would take it up at once: what is timed is the sending itself.
            var account = Get<MailAccounts>().All()[0];
            Get<MailAccounts>().Save(account with { Connections = Connections }, By);
            return Get<RunPlanner>()
                .Begin(
                    drop,
                    output switch
                    {
                        RunOutput.Email => new SendOrder { AccountId = account.Id, NotBefore = DateTimeOffset.UtcNow.AddDays(1) },
                        RunOutput.Eml => new MessageFilesOrder(),
                        _ => new MessageBoxOrder(),
                    },
                    By
                );
        }

        public void Send(RunRow run)
        {
            var job = Get<JobStore>().Get(run.JobId!.Value);
            app.Services.GetServices<IJobKind>().OfType<SendJob>().Single().Work(job, (_, _) => { }, CancellationToken.None);
            if (Get<RunMails>().Counts(run.Id).Sent != run.Pieces)
                throw new InvalidOperationException("Not all were sent.");
        }

        /// <summary>The same messages, ready-made.</summary>
        public List<MimeMessage> Ready(RunRow run)
        {
            var all = new List<MimeMessage>((int)run.Pieces);
            using var c = Get<Database>().Open();
            var frozen = new FrozenMail(new FrozenRun(c, Get<Letters>(), run), Get<Messages>(), null, Get<PublicAddress>());
            var due = Get<RunMails>().All(run.Id);
            foreach (var piece in Get<RunStore>().Pieces(run, frozen.Run.Drop.ListId, frozen.Run.Setting.Columns))
                all.Add(frozen.Make(piece, due[piece.RecipientId], DateTimeOffset.UtcNow).Message!);
            return all;
        }

        /// <summary>MailKit alone: as many connections, each sending its share.</summary>
        public void Plain(List<MimeMessage> messages)
        {
            var next = -1;
            Task.WaitAll(
                [
                    .. Enumerable
                        .Range(0, Connections)
                        .Select(_ =>
                            Task.Factory.StartNew(
                                () =>
                                {
                                    using var client = new MailKit.Net.Smtp.SmtpClient();
                                    var socket = new System.Net.Sockets.Socket(
                                        System.Net.Sockets.SocketType.Stream,
                                        System.Net.Sockets.ProtocolType.Tcp
                                    )
                                    {
                                        NoDelay = true,
                                    };
                                    socket.Connect("127.0.0.1", Get<PostOffice>().Port);
                                    client.Connect(socket, "127.0.0.1", Get<PostOffice>().Port, MailKit.Security.SecureSocketOptions.None);
                                    for (int i; (i = Interlocked.Increment(ref next)) < messages.Count; )
                                        client.Send(messages[i]);
                                    client.Disconnect(true);
                                },
                                TaskCreationOptions.LongRunning
                            )
                        ),
                ]
            );
        }

        public async ValueTask DisposeAsync()
        {
            await app.StopAsync();
            await app.DisposeAsync();
            Directory.Delete(folder, true);
        }
    }

    public static void Send()
    {
        var world = new World(People);
        var ready = world.Ready(world.Begin(RunOutput.Email));
        var size = MessageMaker.Bytes(ready[0]).Length;
        var (ours, plain) = (new List<double>(), new List<double>());
        for (var round = 0; round < 4; round++)
        {
            world.Get<PostOfficeStore>().Remove(null);
            var run = world.Begin(RunOutput.Email);
            var a = Bench.Seconds(() => world.Send(run));
            world.Get<PostOfficeStore>().Remove(null);
            var b = Bench.Seconds(() => world.Plain(ready));
            if (round == 0)
                continue;
            ours.Add(a);
            plain.Add(b);
        }
        var (x, y) = (Bench.Median(ours), Bench.Median(plain));
        Bench.Line(
            $"{People:N0} messages of {size / 1024} KB, a PDF made for each, over {Connections} connections",
            $"{Bench.Time(x)}, {People / x:0} a second",
            $"{Bench.Time(y)}, MailKit alone with ready-made ones",
            Bench.Ratio(x / y),
            "at most 1.6×",
            x / y <= 1.6
        );
        world.DisposeAsync().AsTask().GetAwaiter().GetResult();
        // Each in a process of its own: what one needed at most is not what is left of the other.
        var (small, large) = (Peak(2000), Peak(10_000));
        Bench.Line(
            "the same for 10,000, peak memory",
            $"{large:0} MB",
            $"{small:0} MB, for 2,000",
            Bench.Ratio(large / small),
            "flat: at most 1.3×",
            large / small <= 1.3
        );
    }

    static double Peak(int people)
    {
        using var process = Process.Start(
            new ProcessStartInfo("dotnet", [typeof(MailBench).Assembly.Location, "peak", "mail", $"{people}"])
            {
                RedirectStandardOutput = true,
            }
        )!;
        var text = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return double.Parse(text.Trim().Split('\n')[^1], System.Globalization.CultureInfo.InvariantCulture);
    }

    public static void PeakOf(int people)
    {
        var world = new World(people);
        world.Send(world.Begin(RunOutput.Email));
        Console.WriteLine(Bench.PeakMegabytes().ToString("0.0", System.Globalization.CultureInfo.InvariantCulture));
        world.DisposeAsync().AsTask().GetAwaiter().GetResult();
    }

    public static void Inbox()
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-bench").FullName;
        using (var store = new PostOfficeStore(new Database(Path.Combine(folder, "post-office.sqlite"), PostOfficeStore.Migrations)))
        {
            var raw = new byte[4000];
            for (var i = 0; i < 50_000; i++)
                store.Add(
                    new(
                        "office@example.org",
                        $"member{i}@example.{(i % 3 == 0 ? "org" : "net")}",
                        "Fernquay Botanic Garden <office@example.org>",
                        $"Your renewal, Given{i % 977}",
                        $"{i}@example.org",
                        1,
                        $"Dear Given{i % 977} Family{i % 7919}, your membership ends on the {i % 28 + 1}th and the glasshouse would "
                            + "be quieter without you.",
                        raw
                    ),
                    DateTimeOffset.UtcNow
                );
            double Of(string? search, int offset) =>
                Bench.Median(Enumerable.Range(0, 15).Select(_ => Bench.Seconds(() => store.Page(search, offset, 100))));
            var all = new (string Name, double Seconds)[]
            {
                ("first page", Of(null, 0)),
                ("page at 40,000", Of(null, 40_000)),
                ("one address", Of("member40404@example.net", 0)),
                ("a word that all have", Of("glasshouse", 0)),
                ("two beginnings", Of("giv fam", 0)),
            };
            var bare = Bench.Median(Enumerable.Range(0, 15).Select(_ => Bench.Seconds(() => store.Behaviors())));
            var worst = all.MaxBy(a => a.Seconds);
            Bench.Line(
                "inbox of 50,000 listed and searched",
                string.Join(", ", all.Select(a => $"{a.Name} {Bench.Time(a.Seconds)}")),
                $"{Bench.Time(bare)}, an empty question",
                Bench.Ratio(worst.Seconds / bare),
                "each under 200 ms",
                worst.Seconds < 0.2
            );
        }
        Directory.Delete(folder, true);
    }
}
