using System.Globalization;
using Bandeja.Core.Formulas;
using Bandeja.Store.Drops;
using Bandeja.Store.Runs;
using Bandeja.Work.Hosting;

namespace Bandeja.Work.Production;

/// <summary>Where runs' files are, and what they are called for people.</summary>
public static class RunFolder
{
    /// <summary>A run's folder.</summary>
    public static string Of(ServerOptions server, long runId) =>
        Path.Combine(server.Folder("runs"), runId.ToString(CultureInfo.InvariantCulture));

    /// <summary>Where a file is. Runs of earlier versions have theirs beside the folders.</summary>
    public static string FileOf(ServerOptions server, RunFile file)
    {
        var path = Path.Combine(Of(server, file.RunId), $"{file.Number}{Path.GetExtension(file.Name)}");
        var former = Path.Combine(
            server.Folder("runs"),
            file.Number == 1 ? $"run-{file.RunId}.pdf" : $"run-{file.RunId}-{file.Number}.pdf"
        );
        return !File.Exists(path) && File.Exists(former) ? former : path;
    }

    /// <summary>Removes a run's files, whether the run itself is still there or not.</summary>
    public static void Remove(ServerOptions server, long runId)
    {
        foreach (var former in Directory.EnumerateFiles(server.Folder("runs"), $"run-{runId}*.pdf"))
            if (
                Path.GetFileNameWithoutExtension(former) is var name
                && (name == $"run-{runId}" || name.StartsWith($"run-{runId}-", StringComparison.Ordinal))
            )
                File.Delete(former);
        if (Directory.Exists(Of(server, runId)))
            Directory.Delete(Of(server, runId), recursive: true);
    }

    /// <summary>The beginning of a run's files' names.</summary>
    public static string Stem(DropRow drop, RunRow run) => $"{Plain(drop.CampaignName)}-{Plain(drop.Name)}-run-{run.Number}";

    /// <summary>A folder's name with date and time, for what is taken away.</summary>
    public static string Dated(DropRow drop, RunRow run, TimeZoneInfo zone)
    {
        var begun = TimeZoneInfo.ConvertTime(DateTimeOffset.Parse(run.CreatedAt, CultureInfo.InvariantCulture), zone);
        return string.Create(CultureInfo.InvariantCulture, $"{Plain(drop.CampaignName)}-{Plain(drop.Name)}-{begun:yyyy-MM-dd-HHmm}");
    }

    static string Plain(string name)
    {
        var safe = string.Join(
            '-',
            FileNames.Safe(name.ToLowerInvariant(), "drop", 60).Split([' ', '.', ','], StringSplitOptions.RemoveEmptyEntries)
        );
        return safe.Length == 0 ? "drop" : safe;
    }
}
