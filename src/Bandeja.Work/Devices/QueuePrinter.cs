using System.ComponentModel;
using System.Diagnostics;
using System.Text.RegularExpressions;
using Bandeja.Store;
using Bandeja.Store.Devices;
using Bandeja.Work.Hosting;

namespace Bandeja.Work.Devices;

/// <summary>
/// A printer of this machine, reached with the commands <c>lp</c>, <c>lpstat</c> and <c>cancel</c> (POSIX.1-2017 has the first; the options
/// are those
/// of the Internet Printing Protocol, RFC 8011). A queue does not tell sheets. A batch is out when the queue says that it was completed
/// (the reasons of RFC 8011, section 5.3.8); one that the queue no longer knows may be printed or not, and somebody is asked.
/// </summary>
public sealed partial class QueuePrinter(string queue) : IPrintDevice
{
    /// <inheritdoc/>
    public bool RemembersKeys => false;

    /// <inheritdoc/>
    public bool TellsSheets => false;

    /// <summary>How long a command of the print system may take.</summary>
    static readonly TimeSpan Patience = TimeSpan.FromSeconds(30);

    [GeneratedRegex(@"request id is (\S+)")]
    private static partial Regex RequestId();

    /// <inheritdoc/>
    public string HandOver(PrintOrder order)
    {
        var (code, output) = Run(
            "lp",
            "-d",
            queue,
            "-n",
            $"{order.Copies}",
            "-t",
            order.Title,
            "-o",
            order.Duplex ? "sides=two-sided-long-edge" : "sides=one-sided",
            "-o",
            order.Collated
                ? "multiple-document-handling=separate-documents-collated-copies"
                : "multiple-document-handling=separate-documents-uncollated-copies",
            "--",
            order.File
        );
        if (code != 0 || RequestId().Match(output) is not { Success: true } match)
            throw new ConflictException($"The queue “{queue}” did not accept the job: {output.Trim()}");
        return match.Groups[1].Value;
    }

    /// <inheritdoc/>
    public PrintReport Look(string job)
    {
        var (code, output) = Run("lpstat", "-W", "not-completed", "-o", queue);
        if (code != 0)
            return new(PrintState.Printing, 0, $"The queue “{queue}” is not responding: {output.Trim()}", []);
        if (About(output, job) is not null)
            return new(PrintState.Printing, 0, null, []);
        // It has left the queue: whether it was printed is among what the queue has finished, as long as that is kept.
        (code, output) = Run("lpstat", "-l", "-W", "completed", "-o", queue);
        if (code != 0)
            return new(PrintState.Printing, 0, $"The queue “{queue}” is not responding: {output.Trim()}", []);
        var about = About(output, job) ?? "";
        if (
            about.Contains("job-completed-successfully", StringComparison.Ordinal)
            || about.Contains("job-completed-with-warnings", StringComparison.Ordinal)
        )
            return new(PrintState.Out, int.MaxValue, null, []);
        if (GivenUp().IsMatch(about))
            return new(PrintState.GivenUp, 0, null, []);
        return new(PrintState.Lost, 0, null, []);
    }

    [GeneratedRegex("job-canceled-|aborted-by-system|job-completed-with-errors")]
    private static partial Regex GivenUp();

    /// <summary>The lines about a job: the one that begins with its name, and those set in below it; null where there are none.</summary>
    static string? About(string output, string job)
    {
        var lines = output
            .Split('\n')
            .SkipWhile(line => line.Split(' ', StringSplitOptions.RemoveEmptyEntries).FirstOrDefault() != job)
            .ToList();
        return lines.Count == 0
            ? null
            : string.Join('\n', lines.Take(1).Concat(lines.Skip(1).TakeWhile(l => l.Length > 0 && char.IsWhiteSpace(l[0]))));
    }

    /// <inheritdoc/>
    public void Hold(string job) => Run("lp", "-i", job, "-H", "hold");

    /// <inheritdoc/>
    public void Release(string job) => Run("lp", "-i", job, "-H", "resume");

    /// <inheritdoc/>
    public void GiveUp(string job) => Run("cancel", job);

    /// <summary>The queues of this machine; none where it has no print system.</summary>
    public static IReadOnlyList<string> Queues()
    {
        var (code, output) = Run("lpstat", "-e");
        return code == 0 ? [.. output.Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)] : [];
    }

    static (int Code, string Output) Run(string program, params string[] arguments)
    {
        try
        {
            using var process = Process.Start(
                new ProcessStartInfo(program, arguments)
                {
                    RedirectStandardOutput = true,
                    RedirectStandardError = true,
                    Environment = { ["LC_ALL"] = "C" },
                }
            )!;
            var (output, error) = (process.StandardOutput.ReadToEndAsync(), process.StandardError.ReadToEndAsync());
            if (!process.WaitForExit(Patience))
            {
                process.Kill(entireProcessTree: true);
                return (124, $"“{program}” has not answered in {Patience.TotalSeconds:0} seconds.");
            }
            return (process.ExitCode, output.GetAwaiter().GetResult() + error.GetAwaiter().GetResult());
        }
        catch (Win32Exception)
        {
            return (127, $"The program “{program}” is not installed on this computer.");
        }
    }
}

/// <summary>Finds the device behind a printer.</summary>
public sealed class PrintDevices(PrinterStore printers, PracticeStore practice, ServerOptions server, TimeProvider time)
{
    /// <summary>The device.</summary>
    /// <exception cref="ConflictException">Nothing stands behind it: it is only known how paper goes in.</exception>
    public IPrintDevice Of(long printerId)
    {
        var printer = printers.Get(printerId);
        return printer.Kind switch
        {
            "practice" => new PracticePrinter(printerId, practice, server, time),
            "queue" => new QueuePrinter(printer.Queue!),
            _ => throw new ConflictException($"“{printer.Name}” cannot be printed to from here. Produce files and print those instead."),
        };
    }
}
