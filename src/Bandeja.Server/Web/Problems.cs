using Bandeja.Core.Composition;
using Bandeja.Formats.Lists;
using Bandeja.Formats.Pdf;
using Bandeja.Store;
using Bandeja.Work.Hosting;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;

namespace Bandeja.Server.Web;

/// <summary>Turns what went wrong into problem details (RFC 9457) with a sentence for the user.</summary>
sealed partial class Problems(ILogger<Problems> log) : IExceptionHandler
{
    public async ValueTask<bool> TryHandleAsync(HttpContext context, Exception exception, CancellationToken cancel)
    {
        // Nobody is there to read an answer, and nothing went wrong.
        if (exception is OperationCanceledException && context.RequestAborted.IsCancellationRequested)
        {
            context.Response.StatusCode = 499;
            return true;
        }
        var (status, detail) = exception switch
        {
            NotFoundException e => (404, e.Message),
            ConflictException e => (409, e.Message),
            StaleException e => (412, e.Message),
            BadInputException e => (400, e.Message),
            ListFileException e => (422, e.Message),
            Core.Formulas.ComputedColumnException e => (422, e.Message),
            LockedPdfException e => (423, e.Message),
            PictureException e => (422, e.Message),
            FontFileException e => (422, e.Message),
            Core.Documents.DocumentException e => (422, e.Message),
            LetterFormatException e => (422, e.Message),
            _ when StorageTrouble.IsFull(exception) => (507, StorageTrouble.Refusal(exception)),
            _ when StorageTrouble.Is(exception) => (503, StorageTrouble.Refusal(exception)),
            BadHttpRequestException { StatusCode: 413 } => (413, TooLarge),
            BadHttpRequestException { InnerException: System.Text.Json.JsonException e } => (400, Unread(e)),
            // An order that is a choice of types, and does not say which.
            NotSupportedException e when e.Message.Contains("type discriminator", StringComparison.Ordinal) => (
                400,
                $"The request does not say what to produce, so nothing was done. Set “{Choice}”; the API description lists its " + "values."
            ),
            BadHttpRequestException e => (e.StatusCode, "The request could not be read: " + e.Message),
            _ => (500, "Something went wrong in Bandeja. No partial changes were saved. See the server log for details."),
        };
        if (status >= 500)
            log.LogError(exception, "{Method} {Path}", context.Request.Method, context.Request.Path);
        if (status == 503)
            context.Response.Headers.RetryAfter = "5";
        await Write(context, status, detail);
        return true;
    }

    /// <summary>What is wrong with a body: the property that is not known is named, so that a slip is found at once.</summary>
    static string Unread(System.Text.Json.JsonException e) =>
        Unknown().Match(e.Message) is { Success: true } m
            ? $"The request has a property “{m.Groups[1].Value}” that is not known here, so nothing was done. Check its name in the "
                + "API description."
        : e.Message.Contains("unrecognized type discriminator", StringComparison.Ordinal) ? Wrong(Choice)
        : Unfit().Match(e.Message) is { Success: true } v ? Wrong(v.Groups[1].Value)
        : "The request could not be read: " + e.Message;

    static string Wrong(string place) =>
        $"The request has a value at “{place}” that cannot be there, so nothing was done. The API description lists what can.";

    // The one property by which an order says which of several it is.
    const string Choice = "output";

    // A message of the platform, which names a type of ours that nobody outside knows.
    [System.Text.RegularExpressions.GeneratedRegex(@"JSON value could not be converted to .* Path: \$\.?(\S+)")]
    private static partial System.Text.RegularExpressions.Regex Unfit();

    [System.Text.RegularExpressions.GeneratedRegex(@"JSON property '([^']*)' could not be mapped")]
    private static partial System.Text.RegularExpressions.Regex Unknown();

    public static readonly string TooLarge =
        $"The file is larger than the limit of {ServerOptions.MaxUpload >> 20} MB. Split it and import " + "the parts in.";

    public static Task Write(HttpContext context, int status, string detail)
    {
        context.Response.StatusCode = status;
        return context.Response.WriteAsJsonAsync(
            new ProblemDetails
            {
                Status = status,
                Title = Title(status),
                Detail = detail,
            },
            (System.Text.Json.JsonSerializerOptions?)null,
            "application/problem+json"
        );
    }

    static string Title(int status) =>
        status switch
        {
            400 => "Invalid request",
            403 => "Refused",
            404 => "Not found",
            409 => "Not possible right now",
            412 => "Changed by someone else",
            413 => "Too large",
            422 => "Cannot be read",
            423 => "Locked",
            503 or 507 => "Not possible right now",
            _ => "Server error",
        };
}
