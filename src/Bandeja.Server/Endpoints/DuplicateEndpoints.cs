using Bandeja.Acts.Duplicates;
using Bandeja.Core.Matching;
using Bandeja.Server.Web;
using Bandeja.Store.Editing;

namespace Bandeja.Server.Endpoints;

/// <summary>Which of two to keep.</summary>
/// <param name="Join">True to fill the kept one's blanks from the other.</param>
public sealed record Keeping(long Keep, long Other, bool Join = true);

/// <summary>Two who are different people.</summary>
public sealed record Difference(long A, long B);

/// <summary>Households to address.</summary>
/// <param name="Households">The members of each, the addressee first; all that were found where there are none.</param>
public sealed record Addressing(HouseholdForm Form, IReadOnlyList<IReadOnlyList<long>>? Households = null);

/// <summary>Who belongs to a household, in order, and how it is addressed.</summary>
public sealed record HouseholdOrder(IReadOnlyList<long> Members, HouseholdForm Form = HouseholdForm.GivenNames);

static class DuplicateEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/lists/{id:long}/duplicates", (long id, DuplicateStore duplicates) => duplicates.Counts(id))
            .WithSummary("Number of possible duplicates and households");
        api.MapPost("/lists/{id:long}/duplicates", (long id, FindDuplicates act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Look for duplicates and households");
        api.MapGet(
                "/lists/{id:long}/duplicates/pairs",
                (long id, DuplicateStore duplicates, int offset = 0, int limit = 20) =>
                    duplicates.Pairs(id, offset, Math.Clamp(limit, 1, 200))
            )
            .WithSummary("Possible duplicates, side by side");
        api.MapPost(
                "/lists/{id:long}/duplicates/keep",
                (long id, Keeping order, KeepOne act, Caller caller) => caller.Does(act, new(id, order.Keep, order.Other, order.Join))
            )
            .WithSummary("Keep one of two duplicates");
        api.MapPost("/lists/{id:long}/duplicates/keep-sure", (long id, KeepCertainMatches act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Keep the first of each certain match");
        api.MapPost(
                "/lists/{id:long}/duplicates/different",
                (long id, Difference order, MarkNotDuplicates act, Caller caller) => caller.Does(act, new(id, order.A, order.B))
            )
            .WithSummary("Mark two recipients as not duplicates");
        api.MapGet(
                "/lists/{id:long}/households",
                (long id, HouseholdStore households, int offset = 0, int limit = 20) =>
                    households.Page(id, offset, Math.Clamp(limit, 1, 200))
            )
            .WithSummary("Recipients at the same address, and who of them belongs to a household");
        api.MapPost(
                "/lists/{id:long}/households",
                (long id, Addressing order, AddressHouseholds act, Caller caller) => caller.Does(act, new(id, order.Form, order.Households))
            )
            .WithSummary("Combine households into one piece");
        api.MapPut(
                "/lists/{id:long}/households/{household:long}",
                (long id, long household, HouseholdOrder order, ChangeHousehold act, Caller caller) =>
                    caller.Does(act, new(id, household, order.Members, order.Form))
            )
            .WithSummary("Say who belongs to a household, in order; with fewer than two members it is dissolved");
        api.MapGet("/drops/{id:long}/households-without", (long id, HouseholdStore households) => households.Without(id))
            .WithSummary("Households where no member gets a piece of the drop, and why");
    }
}
