using Bandeja.Acts.Checks;
using Bandeja.Core.Checks;
using Bandeja.Server.Web;
using Bandeja.Store.Editing;

namespace Bandeja.Server.Endpoints;

/// <summary>A check that found something.</summary>
public sealed record CheckView(CheckKind Kind, string Title, string Hint, int Cells, int Recipients, int Fixable);

/// <summary>Recipients whose issues are meant; all of the check where there are none.</summary>
public sealed record CheckIssueOrder(IReadOnlyList<long>? Recipients = null);

static class CheckIssueEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet(
                "/lists/{id:long}/checks",
                (long id, CheckIssues issues) =>
                    issues
                        .Groups(id)
                        .Select(g => new CheckView(
                            g.Kind,
                            CheckText.Of(g.Kind).Title,
                            CheckText.Of(g.Kind).Hint,
                            g.Cells,
                            g.Recipients,
                            g.Fixable
                        ))
                        .OrderByDescending(g => g.Fixable > 0)
                        .ThenByDescending(g => g.Cells)
                        .ToList()
            )
            .WithSummary("The checks that found something in a list");
        api.MapGet(
                "/lists/{id:long}/checks/{kind}",
                (long id, CheckKind kind, CheckIssues issues, int offset = 0, int limit = 50) =>
                    issues.Rows(id, kind, offset, Math.Clamp(limit, 1, 500))
            )
            .WithSummary("What a check found, with before and after");
        api.MapPost(
                "/lists/{id:long}/checks/{kind}/fix",
                (long id, CheckKind kind, CheckIssueOrder order, FixIssues act, Caller caller) =>
                    caller.Does(act, new(id, kind, order.Recipients))
            )
            .WithSummary("Apply the proposed fixes, for some or for all");
        api.MapPost(
                "/lists/{id:long}/checks/{kind}/leave",
                (long id, CheckKind kind, CheckIssueOrder order, AcceptIssues act, Caller caller) =>
                    caller.Does(act, new(id, kind, order.Recipients))
            )
            .WithSummary("Accept issues as they are");
        api.MapPost("/lists/{id:long}/checks", (long id, CheckList act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Check the whole list again");
    }
}
