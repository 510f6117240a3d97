using System.Diagnostics;
using System.Globalization;

namespace Bandeja.Bench;

/// <summary>Measures ours and the baseline in turn within one run, and prints medians as a ratio.</summary>
static class Bench
{
    /// <summary>Rounds that count; one more goes before them.</summary>
    public const int Rounds = 5;

    /// <summary>Seconds of both, in turn, the medians.</summary>
    public static (double Ours, double Baseline) InTurn(Action ours, Action baseline, int rounds = Rounds)
    {
        var (a, b) = (new List<double>(), new List<double>());
        for (var i = 0; i <= rounds; i++)
        {
            var (x, y) = (Seconds(ours), Seconds(baseline));
            if (i == 0)
                continue; // compiling and filling of caches
            a.Add(x);
            b.Add(y);
        }
        return (Median(a), Median(b));
    }

    public static double Seconds(Action act)
    {
        GC.Collect();
        var watch = Stopwatch.StartNew();
        act();
        return watch.Elapsed.TotalSeconds;
    }

    public static double Median(IEnumerable<double> values)
    {
        var sorted = values.Order().ToList();
        return sorted[sorted.Count / 2];
    }

    public static void Line(string name, string ours, string baseline, string ratio, string goal, bool met) =>
        Console.WriteLine($"{name} · {ours} · {baseline} · {ratio} · {goal} · {(met ? "met" : "missed")}");

    public static string Time(double seconds) =>
        seconds >= 1
            ? $"{seconds.ToString("0.00", CultureInfo.InvariantCulture)} s"
            : $"{(seconds * 1000).ToString("0.0", CultureInfo.InvariantCulture)} ms";

    public static string Ratio(double ratio) => ratio.ToString("0.00", CultureInfo.InvariantCulture) + "×";

    /// <summary>Gives back what nobody holds any more, so that only what follows is counted.</summary>
    public static void GiveBack() => GC.Collect(GC.MaxGeneration, GCCollectionMode.Aggressive, blocking: true, compacting: true);

    /// <summary>The process's own memory, megabytes (proc(5), status, RssAnon). Pages of the database that are mapped from its file are not
    /// counted: the system takes them back whenever it needs them.</summary>
    public static double OwnMegabytes() =>
        File.ReadLines("/proc/self/status")
            .Where(l => l.StartsWith("RssAnon:", StringComparison.Ordinal))
            .Select(l => double.Parse(l.Split(' ', StringSplitOptions.RemoveEmptyEntries)[1], CultureInfo.InvariantCulture) / 1024)
            .First();

    /// <summary>The process's largest resident memory so far, megabytes.</summary>
    public static double PeakMegabytes()
    {
        using var process = Process.GetCurrentProcess();
        return process.PeakWorkingSet64 / 1048576.0;
    }
}
