using Bandeja.Acts.Proofs;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Work.Composition;

namespace Bandeja.Server.Endpoints;

/// <summary>How a member's pages were found: right, wrong with a note, or null to forget it.</summary>
public sealed record Verdict(string? Found, string? Note = null);

/// <summary>A sign-off, with a remark where there is one.</summary>
public sealed record SigningOff(string? Note = null);

static class ProofEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/drops/{id:long}/proof-set", (long id, ProofReview review) => review.Of(id))
            .WithSummary("The smallest set of recipients that shows every variation, each with its reasons");

        api.MapPut(
                "/drops/{id:long}/proof-set/{recipientId:long}",
                (long id, long recipientId, Verdict verdict, MarkProof act, Caller caller) =>
                    caller.Does(act, new(id, recipientId, verdict.Found, verdict.Note))
            )
            .WithSummary("Mark a recipient’s pages as right or wrong");

        api.MapPost(
                "/drops/{id:long}/proof-set/own/{recipientId:long}",
                (long id, long recipientId, ChooseForProofSet act, Caller caller) => caller.Does(act, new(id, recipientId, true))
            )
            .WithSummary("Add a recipient to the proof set");
        api.MapDelete(
                "/drops/{id:long}/proof-set/own/{recipientId:long}",
                (long id, long recipientId, ChooseForProofSet act, Caller caller) => caller.Does(act, new(id, recipientId, false))
            )
            .WithSummary("Remove an added recipient from the proof set");

        api.MapPost(
                "/drops/{id:long}/sign-off",
                (long id, SigningOff order, SignOffDrop act, Caller caller) => caller.Does(act, new(id, order.Note))
            )
            .WithSummary("Sign off a drop exactly as it is now");

        api.MapDelete("/drops/{id:long}/sign-off", (long id, WithdrawSignOff act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Withdraw sign-off");

        api.MapGet(
                "/drops/{id:long}/proofs.pdf",
                (long id, ProofPdf proofs, HttpContext context, string? recipients = null) =>
                {
                    context.Response.Headers.CacheControl = "no-store";
                    IReadOnlyList<long>? ids = recipients
                        ?.Split(',', StringSplitOptions.RemoveEmptyEntries)
                        .Select(x => long.TryParse(x, out var one) ? one : throw new BadInputException($"“{x}” is not a recipient number."))
                        .ToList();
                    if (ids?.Count > 500)
                        throw new BadInputException("You can produce proofs for up to 500 recipients at a time.");
                    return Results.File(proofs.Of(id, ids), "application/pdf", $"proof-{id}.pdf");
                }
            )
            .WithSummary("The proof set as a PDF with a mark across each page and a cover to sign")
            .Produces(200, contentType: "application/pdf");

        api.MapGet(
                "/drops/{id:long}/longest.pdf",
                (long id, ProofPdf proofs, HttpContext context) =>
                {
                    context.Response.Headers.CacheControl = "no-store";
                    return Results.Bytes(proofs.Longest(id), "application/pdf");
                }
            )
            .WithSummary("A test piece with the longest value of every column")
            .Produces(200, contentType: "application/pdf");
    }
}
