using Bandeja.Acts.Returns;
using Bandeja.Core.Returns;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.Returns;

namespace Bandeja.Server.Endpoints;

/// <summary>The address as it is typed at the returns desk, by the columns' ids.</summary>
public sealed record TypedAddress(long ListId, long RecipientId, IReadOnlyDictionary<int, string?> Address);

/// <summary>The returns entered last.</summary>
/// <param name="Today">How many were entered today.</param>
public sealed record ReturnsView(IReadOnlyList<ReturnRow> Rows, long Today);

/// <summary>A reason, and what follows from it.</summary>
public sealed record ReturnRule(ReturnReason Reason, string Words, ReturnFollowUp FollowUp);

static class ReturnEndpoints
{
    const int Shown = 30;

    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet(
                "/returns",
                (ReturnStore returns, TimeProvider time) =>
                {
                    // Moments are stored in universal time; the day is the office's.
                    var midnight = new DateTimeOffset(time.GetLocalNow().Date, time.GetLocalNow().Offset)
                        .ToUniversalTime()
                        .ToString("yyyy-MM-ddTHH:mm:ss", System.Globalization.CultureInfo.InvariantCulture);
                    return new ReturnsView(returns.Last(Shown), returns.CountSince(midnight));
                }
            )
            .WithSummary("The returns entered last, the newest first");
        api.MapGet(
                "/returns/find",
                (string code, long? dropId, PieceFinder pieces) =>
                    PieceCode.Read(code) is { } read
                        ? pieces.Find(read, dropId)
                        : throw new BadInputException("Type or scan the number on the piece, or one of its barcodes.")
            )
            .WithSummary("The produced pieces with a number or a barcode, last mailed first");
        api.MapPost(
                "/returns/check",
                (TypedAddress typed, PieceFinder pieces) => pieces.Check(typed.ListId, typed.RecipientId, typed.Address)
            )
            .WithSummary("What the checks say of a recipient's address with other values, in sentences");
        api.MapPost("/returns", (ReturnedPiece order, RecordReturn act, Caller caller) => caller.Does(act, order))
            .WithSummary("Record a returned piece, and apply the rule for its reason");
        api.MapPost("/returns/{id:long}/undo", (long id, UndoReturn act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Take a return back, with all that followed from it");
        api.MapPost("/returns/import", (ReturnsToImport order, ImportReturns act, Caller caller) => caller.Does(act, order))
            .WithSummary("Record the returns and corrected addresses of a file, and do what follows from each");
        api.MapPost(
                "/returns/imports/{batch:long}/undo",
                (long batch, UndoImportedReturns act, Caller caller) => caller.Does(act, new(batch))
            )
            .WithSummary("Undo all returns of one file; returns how many, and why others were kept");
        api.MapGet("/returns/rules", (SettingStore settings) => Rules(settings))
            .WithSummary("The reasons for returns, in the order of their keys, and what follows from each");
        api.MapPut(
                "/returns/rules",
                (ReturnRules order, SetReturnRules act, Caller caller, SettingStore settings) =>
                {
                    caller.Does(act, order);
                    return Rules(settings);
                }
            )
            .WithSummary("Say what follows from a return, by its reason");
    }

    static IReadOnlyList<ReturnRule> Rules(SettingStore settings) =>
        [.. settings.ReturnRules().Select(r => new ReturnRule(r.Key, r.Key.Words(), r.Value))];
}
