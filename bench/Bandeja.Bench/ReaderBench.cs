using System.Text;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Formats.Lists;
using Bandeja.Formats.Pdf;
using Bandeja.Reader;
using Bandeja.Work.Reading;
using Microsoft.Extensions.Logging.Abstractions;
using SkiaSharp;

namespace Bandeja.Bench;

/// <summary>What it costs to read a file in a process of its own instead of here: small files, where the way there counts, and the rows of
/// a large
/// one.</summary>
static class ReaderBench
{
    const int Looks = 50,
        Rows = 100_000;

    public static void All()
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-reader").FullName;
        using var pool = new ReaderPool(Limits.Usual, 4);
        pool.Warm();
        var reader = new FileReader(pool, NullLogger<FileReader>.Instance);
        var home = Countries.Named("US")!;
        var small = Path.Combine(folder, "small.csv");
        File.WriteAllText(small, "First,Last,ZIP\n" + string.Concat(Enumerable.Range(0, 40).Select(i => $"Ana {i},Reyes,0{2000 + i}\n")));
        Small(
            "a list of 40 rows",
            () => reader.Look(small, "small.csv", new(), ListCustoms.UnitedStates, default),
            () => SourceFile.Open(small, "small.csv").Look(new(), ListCustoms.UnitedStates)
        );
        var svg = Encoding.UTF8.GetBytes(
            "<svg xmlns='http://www.w3.org/2000/svg' width='20' height='10'><rect width='20' height='10' fill='teal'/></svg>"
        );
        Small("a drawing", () => reader.Picture(svg, "leaf.svg", default), () => PictureFile.Accept(svg).WrittenSize());
        using var bitmap = new SKBitmap(200, 150);
        var png = bitmap.Encode(SKEncodedImageFormat.Png, 80).ToArray();
        Small("a picture", () => reader.Picture(png, "leaf.png", default), () => PictureFile.Accept(png).WrittenSize());

        var large = Path.Combine(folder, "large.csv");
        File.WriteAllText(
            large,
            "No.,First,Last,Street,City,ZIP\n"
                + string.Concat(Enumerable.Range(0, Rows).Select(i => $"F-{i},Ana {i},Reyes,{i} Lantern Row,Fernquay,0{2000 + i % 7000}\n"))
        );
        var options = new SourceOptions(HeadingRow: 0, Encoding: "utf-8", Delimiter: ",");
        void Read(IListFile file)
        {
            using var rows = file.Rows(options);
            while (rows.Read())
                rows.Cells();
        }
        var (there, here) = Bench.InTurn(
            () => Read(reader.List(large, "large.csv", default)),
            () => Read(SourceFile.Open(large, "large.csv"))
        );
        Bench.Line(
            $"reader: {Rows:N0} rows",
            Bench.Time(there),
            $"in this process {Bench.Time(here)}",
            Bench.Ratio(there / here),
            "2.00×",
            there / here < 2
        );
        Directory.Delete(folder, true);
    }

    static void Small(string what, Action there, Action here)
    {
        void Times(Action act)
        {
            for (var i = 0; i < Looks; i++)
                act();
        }
        var (a, b) = Bench.InTurn(() => Times(there), () => Times(here));
        var added = (a - b) / Looks;
        Bench.Line(
            $"reader: {what}, added",
            Bench.Time(added),
            $"in this process {Bench.Time(b / Looks)}",
            Bench.Ratio(a / b),
            "20 ms",
            added < 0.02
        );
    }
}
