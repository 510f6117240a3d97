using System.Text.Json.Nodes;
using Bandeja.Acts.Drops;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Proofs;

namespace Bandeja.Server.Endpoints;

/// <summary>A letter as one recipient gets it.</summary>
/// <param name="Own">True where it was changed for them alone.</param>
/// <param name="Document">The letter that they get.</param>
/// <param name="Everybody">The design's newest version.</param>
/// <param name="IsOpen">True where the design has changed since, so that somebody must say which holds.</param>
/// <param name="Merged">The newest version with the change in it; null where both touch the same place.</param>
public sealed record OneOffView(
    long DesignId,
    string DesignName,
    bool Own,
    JsonNode Document,
    JsonNode Everybody,
    bool IsOpen,
    long? SettledVersion,
    long NewestVersion,
    JsonNode? Merged,
    string? By,
    string? At
);

/// <summary>A recipient's own letter.</summary>
public sealed record OneOffChange(JsonNode Document);

static class OneOffEndpoints
{
    const string Path = "/drops/{id:long}/recipients/{recipientId:long}/letters/{designId:long}";

    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet(
                Path,
                (long id, long recipientId, long designId, Database database) =>
                {
                    using var c = database.Open();
                    var design =
                        DropStore.Drop(c, id).Package.FirstOrDefault(p => p.DesignId == designId && p.Kind.Rules().ChangesForOne)
                        ?? throw new NotFoundException("This drop's package does not have that letter or form.");
                    var newest = DesignStore.Newest(c, designId);
                    if (OneOffs.Get(c, id, recipientId, designId) is not { } own)
                        return new OneOffView(
                            designId,
                            design.Name,
                            false,
                            Read(newest.DocumentJson),
                            Read(newest.DocumentJson),
                            false,
                            null,
                            newest.Number,
                            null,
                            null,
                            null
                        );
                    var merged = own.IsOpen
                        ? DocumentMerge.Of(DesignStore.Version(c, own.SettledVersionId).DocumentJson, own.DocumentJson, newest.DocumentJson)
                        : null;
                    return new OneOffView(
                        designId,
                        design.Name,
                        true,
                        Read(own.DocumentJson),
                        Read(newest.DocumentJson),
                        own.IsOpen,
                        own.SettledVersion,
                        newest.Number,
                        merged is null ? null : Read(merged),
                        own.By,
                        own.At
                    );
                }
            )
            .WithSummary("A letter or form as one recipient gets it, and the standard one")
            .OfRecord(Record);

        api.MapPut(
                Path,
                (long id, long recipientId, long designId, OneOffChange change, ChangeForOne act, Caller caller) =>
                    caller.Does(act, new(id, recipientId, designId, change.Document.ToJsonString()))
            )
            .WithSummary("Change a letter or form for one recipient only; also resolves it with the design's newest version")
            .OfRecord(Record);

        api.MapDelete(
                Path,
                (long id, long recipientId, long designId, RestoreStandardLetter act, Caller caller) =>
                    caller.Does(act, new(id, recipientId, designId))
            )
            .WithSummary("Return a recipient to the standard letter");
    }

    /// <summary>What a change for one recipient is based on: their own letter and the design's newest version.</summary>
    static object Record(HttpContext context)
    {
        using var c = context.Part<Database>().Open();
        var designId = context.Number("designId");
        return new
        {
            Own = OneOffs.Get(c, context.Number("id"), context.Number("recipientId"), designId)?.DocumentJson,
            DesignStore.Newest(c, designId).Number,
        };
    }

    static JsonNode Read(string json) => JsonNode.Parse(json, null, new() { MaxDepth = 512 })!;
}
