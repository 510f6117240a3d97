using System.Text.Json;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Formats.Lists;
using Bandeja.Server.Hosting;
using Bandeja.Server.Jobs;
using Bandeja.Server.Web;
using Bandeja.Store;
using Dapper;

namespace Bandeja.Server.Endpoints;

/// <summary>A file that was brought to the server and is not a list yet.</summary>
public sealed record UploadView(string Id, string Name, long Size);

/// <summary>What to make of an upload.</summary>
/// <param name="LeaveOut">Numbers of rows that are none of the list: totals at its end.</param>
public sealed record ListOrder(
    string Name,
    SourceOptions Options,
    int Width,
    IReadOnlyList<ImportColumn> Columns,
    IReadOnlyList<int>? LeaveOut = null
);

/// <summary>How an upload would be read.</summary>
public sealed record SurveyQuestion(SourceOptions Options, int Width, IReadOnlyList<ImportColumn> Columns);

/// <summary>The id of the work that was begun.</summary>
public sealed record JobBegun(long JobId);

static class ImportEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapPost("/uploads", Upload)
            .WithSummary("Bring a file to the server; its bytes are the request's body")
            .WithBytesAsBody()
            .Produces<UploadView>();

        api.MapPost(
                "/uploads/{id}/look",
                (string id, SourceOptions options, Database database, ServerOptions server, SettingStore settings) =>
                {
                    var upload = Get(database, id);
                    return Look(server, settings, upload, options);
                }
            )
            .WithSummary("See the first rows of a file as they would be read, before anything is stored");

        api.MapPost(
                "/uploads/{id}/survey",
                (string id, SurveyQuestion question, Database database, ServerOptions server, HttpContext context) =>
                {
                    var upload = Get(database, id);
                    Check(new("Survey", question.Options, question.Width, question.Columns));
                    return ImportSurvey.Of(
                        SourceFile.Open(PathOf(server, id), upload.Name),
                        question.Options,
                        question.Columns,
                        context.RequestAborted
                    );
                }
            )
            .WithSummary(
                "Check a whole file before it is imported: the number of recipients, values that do not match the type of their "
                    + "column, and totals rows"
            );

        api.MapPost(
                "/uploads/{id}/list",
                (string id, ListOrder order, Database database, JobStore jobs, JobRunner runner, HttpContext context) =>
                {
                    var upload = Get(database, id);
                    Check(order);
                    if (string.IsNullOrWhiteSpace(order.Name))
                        throw new BadInputException("Give the list a name.");
                    var payload = JsonSerializer.Serialize(
                        new ImportOrder(id, upload.Name, order.Name.Trim(), order.Options, order.Width, order.Columns, order.LeaveOut)
                    );
                    var job = jobs.Add(ImportJob.Name, 0, $"Bringing in {order.Name.Trim()}", payload, 0, context.Actor());
                    runner.Ring(ImportJob.Name);
                    return new JobBegun(job);
                }
            )
            .WithSummary("Bring a file in as a list");
    }

    /// <summary>The first rows of an upload as they would be read.</summary>
    internal static SourceLook Look(ServerOptions server, SettingStore settings, UploadView upload, SourceOptions options)
    {
        var locale = settings.Organisation().ToLocale();
        return SourceFile
            .Open(PathOf(server, upload.Id), upload.Name)
            .Look(
                options,
                TypedValue.DateOrderOf(locale) is DateOrder.MonthDayYear ? DateOrder.MonthDayYear : DateOrder.DayMonthYear,
                Countries.Named(locale.Country)!
            );
    }

    /// <summary>Refuses an order that cannot be carried out.</summary>
    internal static void Check(ListOrder order)
    {
        if (order.Columns.Count == 0)
            throw new BadInputException("Choose at least one column.");
        if (order.Columns.Count > SourceFile.MaxColumns)
            throw new BadInputException($"A list can have {SourceFile.MaxColumns:N0} columns.");
        if (order.Columns.Any(c => string.IsNullOrWhiteSpace(c.Name) || c.Name.Length > Headings.MaxLength))
            throw new BadInputException($"Every column needs a heading of at most {Headings.MaxLength} characters.");
        if (order.Columns.Any(c => c.Position < 0 || c.Position >= order.Width) || order.Width > SourceFile.MaxColumns)
            throw new BadInputException("A column is named that the file does not have.");
        if (order.Columns.Any(c => c.Name.IndexOfAny(['{', '}', '`']) >= 0))
            throw new BadInputException("A heading cannot hold braces or backticks: the field language uses them.");
        if (order.Columns.Any(c => c.Divide && CellParts.RolesOf(c.Role).Count == 0))
            throw new BadInputException("Only a whole name or a whole address can be divided.");
        if (order.Columns.GroupBy(c => c.Name, StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } twice)
            throw new BadInputException($"Two columns are called “{twice.Key}”. Give one of them another heading.");
    }

    static string PathOf(ServerOptions server, string id) => Path.Combine(server.Folder("uploads"), id);

    internal static UploadView Get(Database database, string id)
    {
        using var c = database.Open();
        var row = c.QuerySingleOrDefault<(string Id, string Name, long Size)>(
            "SELECT id, name, size FROM upload WHERE id = @id",
            new { id }
        );
        return row.Id is null
            ? throw new NotFoundException("This file is not there any more. Bring it in again.")
            : new(row.Id, row.Name, row.Size);
    }

    static async Task<UploadView> Upload(string name, HttpContext context, Database database, ServerOptions server)
    {
        if (context.Request.ContentLength > ServerOptions.MaxUpload)
            throw new BadHttpRequestException("", 413);
        var id = Guid.NewGuid().ToString("N");
        var path = PathOf(server, id);
        try
        {
            long size;
            await using (var file = File.Create(path))
            {
                await context.Request.Body.CopyToAsync(file, context.RequestAborted);
                size = file.Length;
            }
            name = Path.GetFileName(name.Replace('\\', '/'));
            if (name.Length > 200)
                name = name[^200..];
            SourceFile.Open(path, name);
            var actor = context.Actor();
            database.Write(c =>
                c.Execute(
                    "INSERT INTO upload (id, name, size, at, by) VALUES (@id, @name, @size, @Stamp, @Name)",
                    new
                    {
                        id,
                        name,
                        size,
                        actor.Stamp,
                        actor.Name,
                    }
                )
            );
            return new(id, name, size);
        }
        catch
        {
            File.Delete(path);
            throw;
        }
    }
}
