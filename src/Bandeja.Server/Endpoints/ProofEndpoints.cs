using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Server.Composition;
using Bandeja.Server.Events;
using Bandeja.Server.Jobs;
using Bandeja.Server.Web;
using Bandeja.Store;
using Microsoft.Data.Sqlite;

namespace Bandeja.Server.Endpoints;

/// <summary>A recipient of the proof set.</summary>
/// <param name="Reasons">Why they were chosen, what is odd first; empty for who was only added by hand.</param>
/// <param name="Own">True where somebody added them.</param>
/// <param name="Verdict">right, wrong, or null where nobody has looked at these very pages.</param>
/// <param name="Outdated">True where somebody looked, but the pages are others now.</param>
public sealed record ProofMemberView(
    long Id,
    int Piece,
    string Name,
    string Place,
    string Tray,
    IReadOnlyList<string> Reasons,
    bool Own,
    string? Verdict,
    string? Note,
    string? By,
    string? At,
    bool Outdated,
    IReadOnlyList<ProofPiece> Pieces
);

/// <summary>A way in which the output can come out.</summary>
/// <param name="Recipients">In how many it does; 0 where nobody has it.</param>
/// <param name="SeenIn">The member in whom it is seen.</param>
public sealed record VariationView(string Kind, string Subject, string Case, string Text, int Recipients, long? SeenIn);

/// <summary>The proof set of a drop.</summary>
/// <param name="Population">How many recipients' pieces are still in the house.</param>
public sealed record ProofSetView(
    IReadOnlyList<ProofMemberView> Members,
    IReadOnlyList<VariationView> Variations,
    int Population,
    SignOffView SignOff,
    string Subject
);

/// <summary>How a member's pages were found: right, wrong with a note, or null to forget it.</summary>
public sealed record Verdict(string? Found, string? Note = null);

/// <summary>A sign-off, with a remark where there is one.</summary>
public sealed record SigningOff(string? Note = null);

static class ProofEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/drops/{id:long}/proof-set", Show)
            .WithSummary("The few recipients in whom every way the output can vary is seen, each with the reasons");

        api.MapPut(
                "/drops/{id:long}/proof-set/{recipientId:long}",
                (
                    long id,
                    long recipientId,
                    Verdict verdict,
                    Database database,
                    ProofSets sets,
                    ProofStore proofs,
                    EventHub hub,
                    HttpContext context
                ) =>
                {
                    if (verdict.Found is not (null or "right" or "wrong"))
                        throw new BadInputException("A proof is found right or wrong.");
                    if (verdict.Note?.Length > 500)
                        throw new BadInputException("A note can have 500 characters.");
                    using (var c = database.Open())
                    {
                        var drop = DropStore.Drop(c, id);
                        var recipient =
                            DropStore.Recipients(c, drop, RowTable.Columns(c, drop.ListId), [recipientId]).FirstOrDefault()
                            ?? throw new NotFoundException("This recipient is not in the drop.");
                        proofs.Look(
                            id,
                            recipientId,
                            verdict.Found,
                            string.IsNullOrWhiteSpace(verdict.Note) ? null : verdict.Note.Trim(),
                            sets.Marks(c, drop, [recipient])[recipientId],
                            context.Actor()
                        );
                    }
                    hub.Tell("drop", new { Id = id });
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Say how a member's pages were found");

        api.MapPost(
                "/drops/{id:long}/proof-set/own/{recipientId:long}",
                (long id, long recipientId, ProofStore proofs, EventHub hub, HttpContext context) =>
                    SetOwn(id, recipientId, true, proofs, hub, context)
            )
            .WithSummary("Add a recipient to the proof set");
        api.MapDelete(
                "/drops/{id:long}/proof-set/own/{recipientId:long}",
                (long id, long recipientId, ProofStore proofs, EventHub hub, HttpContext context) =>
                    SetOwn(id, recipientId, false, proofs, hub, context)
            )
            .WithSummary("Take a recipient that was added out of the proof set");

        api.MapPost(
                "/drops/{id:long}/sign-off",
                (
                    long id,
                    SigningOff order,
                    Database database,
                    ProofSets sets,
                    ProofStore proofs,
                    Letters letters,
                    CheckRequests checks,
                    EventHub hub,
                    HttpContext context
                ) =>
                {
                    if (context.Actor().Name == Person.Nobody)
                        throw new ConflictException("Say who you are first: a sign-off stands under a name.");
                    if (checks.Freshness(id) is { Fresh: false } stale)
                        throw new ConflictException(
                            stale.Error is { } error
                                ? $"The pieces cannot be checked, so the drop cannot be signed off: {error}"
                                : "The pieces are still being checked after a change. Try again in a moment."
                        );
                    var view = Show(id, database, sets, letters);
                    var wrong = view.Members.Count(m => m.Verdict == "wrong");
                    var open = view.Members.Count(m => m.Verdict is null);
                    if (view.Population == 0)
                        throw new ConflictException("There is nobody to sign off for: everybody is held, or mailed already.");
                    if (wrong + open > 0)
                        throw new ConflictException(
                            (wrong > 0 ? $"{Pieces(wrong)} marked wrong. " : "")
                                + (open > 0 ? $"{Pieces(open)} not looked at." : "")
                                + " Look at all of the proof set before you sign it off."
                        );
                    using (var c = database.Open())
                    {
                        var drop = DropStore.Drop(c, id);
                        proofs.SignOff(
                            id,
                            ProofStore.Subject(c, drop, letters.Rules(c, drop)),
                            [.. ProofStore.Looks(c, id).Values.Where(l => view.Members.Any(m => m.Id == l.RecipientId))],
                            string.IsNullOrWhiteSpace(order.Note) ? null : order.Note.Trim(),
                            context.Actor()
                        );
                    }
                    hub.Tell("drop", new { Id = id });
                    return TypedResults.NoContent();
                }
            )
            .WithSummary("Sign a drop off, exactly as it is now");

        api.MapDelete(
                "/drops/{id:long}/sign-off",
                (long id, ProofStore proofs, EventHub hub, HttpContext context) =>
                {
                    proofs.Withdraw(id, context.Actor());
                    hub.Tell("drop", new { Id = id });
                    return TypedResults.NoContent();
                }
            )
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

    static string Pieces(int n) => n == 1 ? "1 piece is" : $"{n} pieces are";

    static Microsoft.AspNetCore.Http.HttpResults.NoContent SetOwn(
        long id,
        long recipientId,
        bool there,
        ProofStore proofs,
        EventHub hub,
        HttpContext context
    )
    {
        proofs.SetOwn(id, [recipientId], there, context.Actor());
        hub.Tell("drop", new { Id = id });
        return TypedResults.NoContent();
    }

    static ProofSetView Show(long id, Database database, ProofSets sets, Letters letters)
    {
        var chosen = sets.Of(id);
        using var c = database.Open();
        var drop = DropStore.Drop(c, id);
        var columns = RowTable.Columns(c, drop.ListId);
        var own = ProofStore.Own(c, id);
        var reasons = chosen.Set.Members.ToDictionary(m => m.RecipientId, m => m.Reasons);
        var ids = chosen.Set.Members.Select(m => m.RecipientId).Union(own).ToList();
        var people = DropStore.Recipients(c, drop, columns, ids).ToDictionary(r => r.Id);
        var marks = sets.Marks(c, drop, [.. people.Values]);
        var looks = ProofStore.Looks(c, id);
        var composer = new PackageComposer(c, letters, drop);
        var members = ids.Where(people.ContainsKey)
            .Select(i => people[i])
            .Select(r =>
            {
                var label = RecipientLabel.Of(columns, i => r.Values[i]);
                var look = looks.GetValueOrDefault(r.Id);
                var same = look?.PagesMark == marks[r.Id];
                var composed = composer.Compose(r);
                var pieces = ProofPiece.Of(composed, PackagePieces.WindowOnLetter(composed.Bound));
                return new ProofMemberView(
                    r.Id,
                    r.PieceNumber,
                    label.Name,
                    label.Place,
                    r.Tray.ToString(),
                    [.. (reasons.GetValueOrDefault(r.Id) ?? []).Select(v => v.Text)],
                    own.Contains(r.Id),
                    same ? look!.Verdict : null,
                    look?.Note,
                    look?.By,
                    look?.At,
                    look is not null && !same,
                    pieces
                );
            })
            .ToList();
        return new(
            members,
            [
                .. chosen.Set.Variations.Select(v => new VariationView(
                    v.Variation.Kind.ToString(),
                    v.Variation.Subject,
                    v.Variation.Case,
                    v.Variation.Text,
                    v.Recipients,
                    v.SeenIn
                )),
            ],
            chosen.Set.Population,
            SignOffView.Of(c, drop, letters.Rules(c, drop)),
            string.Join(", ", ProofStore.Subject(c, drop, "").Designs.Select(d => $"{d.Name} (version {d.Number})"))
        );
    }
}
