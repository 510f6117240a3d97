using Bandeja.Acts.Drops;
using Bandeja.Acts.People;
using Bandeja.Acts.Settings;
using Bandeja.Core.Contact;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.People;
using Bandeja.Work.Hosting;
using Bandeja.Work.People;

namespace Bandeja.Server.Endpoints;

/// <summary>Which of two drops goes where a contact limit lets only one go.</summary>
public sealed record PriorityOrder(MailPriority Priority);

/// <summary>A note about a recipient.</summary>
public sealed record NoteOrder(string Text);

static class PeopleEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        const string person = "/lists/{id:long}/recipients/{recipientId:long}/person";
        api.MapGet(person, (long id, long recipientId, PeopleStore people) => people.Of(id, recipientId))
            .WithSummary("The same person on other lists, and recipients marked as different people");
        api.MapPost(
                person + "/{otherId:long}/separate",
                (long id, long recipientId, long otherId, SeparatePeople act, Caller caller) => caller.Does(act, new(recipientId, otherId))
            )
            .WithSummary("Mark two recipients as different people");
        api.MapPost(
                person + "/{otherId:long}/join",
                (long id, long recipientId, long otherId, JoinPeople act, Caller caller) => caller.Does(act, new(recipientId, otherId))
            )
            .WithSummary("Mark two recipients as the same person");
        api.MapGet(
                "/lists/{id:long}/recipients/{recipientId:long}/documents",
                (long id, long recipientId, PersonFileStore files) => files.Of(recipientId)
            )
            .WithSummary("The documents kept with a recipient, and with the same person on other lists");
        api.MapPost(
                "/lists/{id:long}/recipients/{recipientId:long}/documents",
                async (long id, long recipientId, string name, HttpContext context, KeepPersonFile act, Caller caller) =>
                    caller.Does(act, new(id, recipientId, name, await ArrivingBytes.Read(context, TooLarge)))
            )
            .WithSummary("Keep a document with a recipient: a PDF or a picture; its bytes are the request's body")
            .WithBytesAsBody()
            .Produces<long>();
        api.MapGet(
                "/documents-of-people/{fileId:long}/file",
                (long fileId, PersonFileStore files, PersonFiles kept, HttpContext context) =>
                {
                    var (row, sha) = files.Get(fileId);
                    var data = kept.Read(sha) ?? throw new NotFoundException("The file of this document is missing from the disk.");
                    context.Response.Headers.CacheControl = "private, no-store";
                    // A drawing that is opened by itself must not be a page of ours.
                    context.Response.Headers.ContentSecurityPolicy = "default-src 'none'; style-src 'unsafe-inline'; sandbox";
                    return Results.Bytes(data, row.MediaType);
                }
            )
            .WithSummary("The original bytes of a document kept with a recipient")
            .Produces(200, contentType: "application/octet-stream");
        api.MapDelete(
                "/documents-of-people/{fileId:long}",
                (long fileId, RemovePersonFile act, Caller caller) => caller.Does(act, new(fileId))
            )
            .WithSummary("Remove a document of a recipient for good");
        api.MapGet(
                "/lists/{id:long}/recipients/{recipientId:long}/notes",
                (long id, long recipientId, PersonNotes notes) => notes.Of(recipientId)
            )
            .WithSummary("The notes about a recipient, and about the same person on other lists");
        api.MapPost(
                "/lists/{id:long}/recipients/{recipientId:long}/notes",
                (long id, long recipientId, NoteOrder order, AddPersonNote act, Caller caller) =>
                    caller.Does(act, new(id, recipientId, order.Text))
            )
            .WithSummary("Note something about a recipient");
        api.MapDelete("/notes/{noteId:long}", (long noteId, RemovePersonNote act, Caller caller) => caller.Does(act, new(noteId)))
            .WithSummary("Remove a note about a recipient");
        api.MapPost("/notes/{noteId:long}/restore", (long noteId, RestorePersonNote act, Caller caller) => caller.Does(act, new(noteId)))
            .WithSummary("Put back a note about a recipient");
        api.MapGet("/people", (string text, PeopleStore people) => people.Find(text))
            .WithSummary("Recipients of all lists by words of their name, or by a part of their email address or of a document's name");
        api.MapPut(
                "/drops/{id:long}/priority",
                (long id, PriorityOrder order, SetPriority act, Caller caller) => caller.Does(act, new(id, order.Priority))
            )
            .WithSummary("Set which drop is mailed when a contact limit allows only one");
        api.MapGet("/settings/contact-limits", (SettingStore settings) => settings.ContactLimits()).WithSummary("The contact limits");
        api.MapPut(
                "/settings/contact-limits",
                (NewContactLimits order, SetContactLimits act, Caller caller, SettingStore settings) =>
                {
                    caller.Does(act, order);
                    return settings.ContactLimits();
                }
            )
            .WithSummary("Set the contact limits");
    }

    static BadInputException TooLarge() => new($"A document can have {ServerOptions.MaxPicture >> 20} MB.");
}
