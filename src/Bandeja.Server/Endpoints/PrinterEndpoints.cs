using Bandeja.Store;
using Bandeja.Store.Devices;
using Bandeja.Work.Announcing;
using Bandeja.Work.Devices;
using Bandeja.Work.Hosting;

namespace Bandeja.Server.Endpoints;

/// <summary>The practice printer as one sees it standing there.</summary>
/// <param name="Trouble">What is in its way, in a sentence; null for nothing.</param>
/// <param name="Sheets">How many sheets lie in the stack.</param>
public sealed record PracticeView(
    long PrinterId,
    long SheetsAMinute,
    long JamsIn10000,
    string? Trouble,
    bool Jammed,
    IReadOnlyList<PracticeTray> Trays,
    IReadOnlyList<PracticeJob> Jobs,
    int Sheets
);

/// <summary>How fast a practice printer is, and how many sheets of ten thousand jam.</summary>
public sealed record PracticeSetting(int SheetsAMinute, int JamsIn10000);

/// <summary>How many sheets lie in a tray.</summary>
public sealed record TrayFilling(int Sheets);

/// <summary>A sheet of the stack.</summary>
/// <param name="FirstPage">The page of the job's file on its front, from 1.</param>
/// <param name="SecondPage">The page on its back; null for none.</param>
public sealed record StackSheet(long Id, long JobId, string Title, long Sheet, bool Spoiled, string At, int FirstPage, int? SecondPage);

/// <summary>A part of the stack, the newest sheet on top.</summary>
public sealed record StackView(int Total, IReadOnlyList<StackSheet> Sheets);

static class PrinterEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/print-queues", () => QueuePrinter.Queues()).WithSummary("The print queues of this machine");

        api.MapGet(
                "/printers/{id:long}/practice",
                (long id, PracticeStore practice, Database database) =>
                {
                    practice.Stack(id, 0, 0, out var total);
                    using var c = database.Open();
                    var row = PracticeStore.Get(c, id);
                    return new PracticeView(
                        id,
                        row.SheetsAMinute,
                        row.JamsIn10000,
                        PracticePrinter.Words(row.Trouble),
                        row.Trouble == "jam",
                        PracticeStore.Trays(c, id),
                        PracticeStore.Jobs(c, id),
                        total
                    );
                }
            )
            .WithSummary("A practice printer: its trays, jobs, and problems");

        api.MapPut(
                "/printers/{id:long}/practice",
                (long id, PracticeSetting setting, PracticeStore practice, Announcements announcements) =>
                {
                    if (setting.SheetsAMinute is < 1 or > 1_000_000)
                        throw new BadInputException("The speed must be 1 to 1,000,000 sheets per minute.");
                    if (setting.JamsIn10000 is < 0 or > 10_000)
                        throw new BadInputException("Jams per 10,000 sheets must be 0 to 10,000.");
                    practice.Set(id, setting.SheetsAMinute, setting.JamsIn10000);
                    return Told(announcements, id);
                }
            )
            .WithSummary("Set a practice printer's speed and how often it jams");

        api.MapPut(
                "/printers/{id:long}/practice/trays/{tray:long}",
                (long id, long tray, TrayFilling order, PracticeStore practice, Announcements announcements) =>
                {
                    practice.Fill(id, tray, order.Sheets);
                    return Told(announcements, id);
                }
            )
            .WithSummary("Fill or empty a tray");

        api.MapPost(
                "/printers/{id:long}/practice/jam",
                (long id, PracticeStore practice, Announcements announcements) =>
                {
                    practice.Jam(id, true);
                    return Told(announcements, id);
                }
            )
            .WithSummary("Simulate a jam on the next sheet");
        api.MapDelete(
                "/printers/{id:long}/practice/jam",
                (long id, PracticeStore practice, Announcements announcements) =>
                {
                    practice.Jam(id, false);
                    return Told(announcements, id);
                }
            )
            .WithSummary("Take the jammed sheet out");

        api.MapGet(
                "/printers/{id:long}/practice/stack",
                (long id, PracticeStore practice, int offset = 0, int limit = 60) =>
                {
                    if (offset < 0 || limit is < 1 or > 500)
                        throw new BadInputException("The offset must be 0 or more, the limit 1 to 500.");
                    var sheets = practice.Stack(id, offset, limit, out var total);
                    return new StackView(total, [.. sheets.Select(Sheet)]);
                }
            )
            .WithSummary("The output stack, newest sheet on top");
        api.MapDelete(
                "/printers/{id:long}/practice/stack",
                (long id, PracticeStore practice, Announcements announcements) =>
                {
                    practice.TakeAway(id);
                    return Told(announcements, id);
                }
            )
            .WithSummary("Clear the output stack");

        api.MapGet(
                "/practice-jobs/{id:long}/file",
                (long id, PracticeStore practice, ServerOptions server) =>
                {
                    var job = practice.Job(id) ?? throw new NotFoundException("This printer does not have that job.");
                    // Kept by its place in the data folder, which may have been moved.
                    var path = Path.GetFullPath(Path.Combine(server.Data, job.File));
                    return File.Exists(path)
                        ? Results.File(path, "application/pdf", enableRangeProcessing: true)
                        : throw new NotFoundException("The printed sheets are no longer kept.");
                }
            )
            .WithSummary("What a practice printer was given, as a PDF")
            .Produces(200, contentType: "application/pdf");
    }

    static StackSheet Sheet(PracticeSheet s)
    {
        var one = (int)(s.Total / Math.Max(1, s.Copies));
        var at = (int)(s.Collated ? (s.Sheet - 1) % Math.Max(1, one) : (s.Sheet - 1) / s.Copies);
        var first = s.Duplex ? at * 2 + 1 : at + 1;
        return new(s.Id, s.JobId, s.Title, s.Sheet, s.Spoiled, s.At, first, s.Duplex && first < s.Pages ? first + 1 : null);
    }

    static Microsoft.AspNetCore.Http.HttpResults.NoContent Told(Announcements announcements, long id)
    {
        announcements.Changed(Matter.Printer, id);
        return TypedResults.NoContent();
    }
}
