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
            .WithSummary("The few recipients in whom every way the output can vary is seen, each with the reasons");

        api.MapPut(
                "/drops/{id:long}/proof-set/{recipientId:long}",
                (long id, long recipientId, Verdict verdict, MarkProof act, Caller caller) =>
                    caller.Does(act, new(id, recipientId, verdict.Found, verdict.Note))
            )
            .WithSummary("Say how a member's pages were found");

        api.MapPost(
                "/drops/{id:long}/proof-set/own/{recipientId:long}",
                (long id, long recipientId, ChooseForProofSet act, Caller caller) => caller.Does(act, new(id, recipientId, true))
            )
            .WithSummary("Add a recipient to the proof set");
        api.MapDelete(
                "/drops/{id:long}/proof-set/own/{recipientId:long}",
                (long id, long recipientId, ChooseForProofSet act, Caller caller) => caller.Does(act, new(id, recipientId, false))
            )
            .WithSummary("Take a recipient that was added out of the proof set");

        api.MapPost(
                "/drops/{id:long}/sign-off",
                (long id, SigningOff order, SignOffDrop act, Caller caller) => caller.Does(act, new(id, order.Note))
            )
            .WithSummary("Sign a drop off, exactly as it is now");

        api.MapDelete("/drops/{id:long}/sign-off", (long id, WithdrawSignOff act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Take the sign-off back");

        api.MapGet(
                "/drops/{id:long}/proofs.pdf",
                (long id, ProofPdf proofs, HttpContext context, string? recipients = null) =>
                {
                    context.Response.Headers.CacheControl = "no-store";
                    IReadOnlyList<long>? ids = recipients
                        ?.Split(',', StringSplitOptions.RemoveEmptyEntries)
                        .Select(x => long.TryParse(x, out var one) ? one : throw new BadInputException($"“{x}” is no recipient's number."))
                        .ToList();
                    if (ids?.Count > 500)
                        throw new BadInputException("Proofs are made for at most 500 recipients at once.");
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
            .WithSummary("A made-up piece in which every column has its longest value")
            .Produces(200, contentType: "application/pdf");
    }
}
