using System.Collections.Concurrent;
using System.Diagnostics;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Formats.Lists;
using Bandeja.Formats.Pdf;
using Bandeja.Work.Reading;

namespace Bandeja.Reader.Tests;

/// <summary>
/// Changed files of every format, read as the server reads them. Whatever a file is, it is read or refused with a sentence: nothing that
/// nobody foresaw, no crash, no limit of the process reached by a file of a few kilobytes, and no memory that grows from file to file.
/// </summary>
public sealed class FuzzTests : ReaderTests
{
    /// <summary>How many files the tests read; BANDEJA_FUZZ says another number (./bandeja fuzz).</summary>
    static readonly int Count = int.TryParse(Environment.GetEnvironmentVariable("BANDEJA_FUZZ"), out var count) ? count : 2000;

    /// <summary>Where to begin: another beginning gives other files.</summary>
    static readonly int First = int.TryParse(Environment.GetEnvironmentVariable("BANDEJA_FUZZ_FROM"), out var first) ? first : 1;

    [Fact]
    public void Whatever_a_file_is_it_is_read_or_refused_with_a_sentence()
    {
        var seeds = Seed.All(Files);
        var wrong = new ConcurrentQueue<string>();
        var (read, refused, most) = (0, 0, 0L);
        using var pool = new ReaderPool(Limits.Usual, 3);
        Parallel.For(
            0,
            Count,
            new ParallelOptions { MaxDegreeOfParallelism = 3, CancellationToken = Cancel },
            (i, state) =>
            {
                var number = First + i;
                var seed = seeds[number % seeds.Count];
                var data = Mutator.Changed(seed, new Random(number));
                var log = new LogBook();
                var began = Stopwatch.GetTimestamp();
                string? said = null;
                try
                {
                    One(new FileReader(pool, log), seed, data, number);
                    Interlocked.Increment(ref read);
                }
                catch (Exception e)
                    when (e is ListFileException or PictureException or DocumentException or LetterFormatException or FontFileException)
                {
                    said = e.Message;
                    Interlocked.Increment(ref refused);
                }
                var reached = said is not null && (said.Contains("MB of memory") || said.Contains("seconds of computing"));
                if (log.Lines.Count > 0 || reached || said is { Length: < 10 })
                {
                    var kept = Path.Combine(Path.GetTempPath(), $"bandeja-fuzz-{number}{Path.GetExtension(seed.Name)}");
                    File.WriteAllBytes(kept, data);
                    wrong.Enqueue($"{kept}: {said} {string.Join(' ', log.Lines)}");
                    if (wrong.Count > 20)
                        state.Stop();
                }
                foreach (var process in pool.Idle)
                    most = Math.Max(most, process.HasEnded ? 0 : process.Memory);
            }
        );
        TestContext.Current.SendDiagnosticMessage(
            $"{read:N0} read, {refused:N0} refused, at most {most >> 20} MB in a process without work"
        );
        Assert.True(wrong.IsEmpty, string.Join("\n\n", wrong));
        // Both happen: otherwise what is changed is too little, or too much.
        Assert.True(read > Count / 10 && refused > Count / 10, $"{read} read, {refused} refused");
    }

    void One(FileReader reader, Seed seed, byte[] data, int number)
    {
        switch (seed.Kind)
        {
            case SeedKind.Picture:
                reader.Picture(data, seed.Name, Cancel);
                break;
            case SeedKind.Report:
                reader.Report(data, "bounces@example.org", Cancel);
                break;
            case SeedKind.Document:
                var document = Files.Bytes($"{number}.docx", data);
                try
                {
                    // What the server does with what was read, too.
                    var brought = reader.Document(document, seed.Name, FaceBook.Shipped, Cancel);
                    LetterReader.Read(Placing.Of(brought.Document, PlaceholderSetting.None).Letter);
                }
                finally
                {
                    File.Delete(document);
                }
                break;
            case SeedKind.Typeface:
                // What was accepted is opened in the server, too, and sets text there.
                reader.Typeface(data, seed.Name, Cancel);
                using (var font = new PaperFont("Fuzzed", false, false, data))
                    font.Shape("Hamburgefonstiv 0123");
                break;
            case SeedKind.Form:
                reader.Form(data, seed.Name, Cancel, null);
                break;
            case SeedKind.List:
                var path = Files.Bytes($"{number}{Path.GetExtension(seed.Name)}", data);
                try
                {
                    var look = reader.Look(path, seed.Name, new(), ListCustoms.UnitedStates, Cancel);
                    using var rows = reader.List(path, seed.Name, Cancel).Rows(OptionsOf(look));
                    while (rows.Read()) { }
                }
                finally
                {
                    File.Delete(path);
                }
                break;
        }
    }
}
