using System.ComponentModel;
using System.Diagnostics;
using System.Text.RegularExpressions;
using Bandeja.Store;

namespace Bandeja.Server.Devices;

/// <summary>
/// A printer of this machine, reached with the commands <c>lp</c>, <c>lpstat</c> and <c>cancel</c> (POSIX.1-2017 has the first; the options are those
/// of the Internet Printing Protocol, RFC 8011). A queue does not tell sheets: a batch is out when the queue no longer has it.
/// </summary>
public sealed partial class QueuePrinter(string queue) : IPrintDevice
{
    /// <inheritdoc/>
    public bool RemembersKeys => false;

    [GeneratedRegex(@"request id is (\S+)")]
    private static partial Regex RequestId();

    /// <inheritdoc/>
    public string HandOver(PrintOrder order)
    {
        var (code, output) = Run("lp", "-d", queue, "-n", $"{order.Copies}", "-t", order.Title, "-o", order.Duplex ? "sides=two-sided-long-edge" : "sides=one-sided", "-o", order.Collated ? "multiple-document-handling=separate-documents-collated-copies" : "multiple-document-handling=separate-documents-uncollated-copies", "--", order.File);
        if (code != 0 || RequestId().Match(output) is not { Success: true } match) throw new ConflictException($"The queue “{queue}” did not take it: {output.Trim()}");
        return match.Groups[1].Value;
    }

    /// <inheritdoc/>
    public PrintReport Look(string job)
    {
        var (code, output) = Run("lpstat", "-W", "not-completed", "-o", queue);
        if (code != 0) return new(PrintState.Printing, 0, $"The queue “{queue}” does not answer: {output.Trim()}", []);
        var there = output.Split('\n').Any(line => line.Split(' ', StringSplitOptions.RemoveEmptyEntries).FirstOrDefault() == job);
        return new(there ? PrintState.Printing : PrintState.Out, there ? 0 : int.MaxValue, null, []);
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
            using var process = Process.Start(new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true, Environment = { ["LC_ALL"] = "C" } })!;
            var error = process.StandardError.ReadToEndAsync();
            var output = process.StandardOutput.ReadToEnd();
            process.WaitForExit();
            return (process.ExitCode, output + error.Result);
        }
        catch (Win32Exception) { return (127, $"This machine has no program “{program}”."); }
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
            _ => throw new ConflictException($"“{printer.Name}” is no printer that can be printed to from here. Make files instead, and print those."),
        };
    }
}
