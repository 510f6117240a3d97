using Bandeja.Acts.Campaigns;
using Bandeja.Core.Campaigns;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Store.Sequences;
using Bandeja.Work.Composition;

namespace Bandeja.Server.Endpoints;

/// <summary>What is to be looked at before it is done: one of them.</summary>
/// <param name="Add">A step to add.</param>
/// <param name="Change">A step to change.</param>
/// <param name="Move">A step to mail on another day.</param>
/// <param name="Skip">A step to skip or take up again.</param>
/// <param name="Remove">A step to remove.</param>
public sealed record StepLook(
    NewStep? Add = null,
    ChangedStep? Change = null,
    MovedStep? Move = null,
    SkippedStep? Skip = null,
    StepOfCampaign? Remove = null
);

/// <summary>A recipient's place in a campaign.</summary>
public sealed record PlaceInCampaign(long CampaignId, string Campaign, CampaignMode Mode, CampaignPerson Person);

/// <summary>What a condition comes to.</summary>
/// <param name="Error">What is wrong with it; null where nothing is.</param>
public sealed record ConditionLook(string? Error);

/// <summary>A condition of a step, to be checked.</summary>
/// <param name="Position">The step's place, from 1; conditions can ask about the steps before it.</param>
public sealed record ConditionToCheck(string Condition, long Position);

static class CampaignEndpoints
{
    const int MostPeople = 500;

    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/campaigns/{id:long}", (long id, CampaignSight sight) => sight.Of(id))
            .WithSummary("A campaign with its steps, dates, trays, and who left");
        api.MapPost("/campaigns/plan", (SequenceOrder order, PlanSequence act, Caller caller) => caller.Does(act, order))
            .WithSummary("Start a campaign with steps, or change how its recipients go through them; returns its ID");
        api.MapPost(
                "/campaigns/{id:long}/steps",
                (long id, NewStep order, AddStep act, Caller caller) => caller.Does(act, order with { CampaignId = id })
            )
            .WithSummary("Add a step; returns its ID");
        api.MapPut(
                "/campaigns/{id:long}/steps/{stepId:long}",
                (long id, long stepId, StepPlan step, ChangeStep act, Caller caller) => caller.Does(act, new(id, stepId, step))
            )
            .WithSummary("Change a step");
        api.MapPost(
                "/campaigns/{id:long}/steps/{stepId:long}/move",
                (long id, long stepId, MovedStep order, MoveStep act, Caller caller) =>
                    caller.Does(act, order with { CampaignId = id, StepId = stepId })
            )
            .WithSummary("Mail a step on another day");
        api.MapPost(
                "/campaigns/{id:long}/steps/{stepId:long}/skip",
                (long id, long stepId, SkippedStep order, SkipStep act, Caller caller) =>
                    caller.Does(act, order with { CampaignId = id, StepId = stepId })
            )
            .WithSummary("Skip a step, or take it up again");
        api.MapDelete(
                "/campaigns/{id:long}/steps/{stepId:long}",
                (long id, long stepId, RemoveStep act, Caller caller) => caller.Does(act, new(id, stepId))
            )
            .WithSummary("Remove a step of which nothing was produced");
        api.MapPost("/campaigns/{id:long}/steps/look", Look)
            .WithSummary("What a change of steps would change, and for whom; nothing is changed");
        api.MapPost(
                "/campaigns/{id:long}/condition",
                (long id, ConditionToCheck typed, Database database, Surroundings surroundings) =>
                {
                    using var c = database.Open();
                    var list = CampaignStore.Get(c, id).ListId ?? throw new ConflictException("This campaign has no list of its own.");
                    try
                    {
                        StepRule.Check(
                            typed.Condition,
                            ListShape.Of(c, list, surroundings.Now),
                            CampaignStore.Steps(c, id),
                            typed.Position
                        );
                        return new ConditionLook(null);
                    }
                    catch (BadInputException e)
                    {
                        return new ConditionLook(e.Message);
                    }
                }
            )
            .WithSummary("What is wrong with a step's condition, where anything is");
        api.MapGet(
                "/campaigns/{id:long}/people",
                (long id, CampaignSight sight, string? search = null, PeopleOf which = PeopleOf.All, int offset = 0, int limit = 100) =>
                    offset < 0 || limit is < 1 or > MostPeople
                        ? throw new BadInputException($"The offset must be 0 or more, the limit 1 to {MostPeople}.")
                        : sight.People(id, search, which, offset, limit)
            )
            .WithSummary("Each recipient’s progress in a campaign");
        api.MapGet(
                "/lists/{id:long}/recipients/{recipientId:long}/campaigns",
                (long id, long recipientId, CampaignSight sight) =>
                    sight
                        .OfRecipient(id, recipientId)
                        .Select(p => new PlaceInCampaign(p.Campaign.Id, p.Campaign.Name, p.Campaign.Goes, p.Person))
                        .ToList()
            )
            .WithSummary("A recipient’s progress in the campaigns of their list");
        api.MapPost(
                "/campaigns/{id:long}/enter",
                (long id, Entering order, EnterCampaign act, Caller caller) => caller.Does(act, order with { CampaignId = id })
            )
            .WithSummary("Add recipients to a campaign; returns how many entered");
        api.MapPost(
                "/campaigns/{id:long}/leave",
                (long id, Leaving order, LeaveCampaign act, Caller caller) => caller.Does(act, order with { CampaignId = id })
            )
            .WithSummary("Remove recipients from a campaign; returns how many left");
        api.MapPost(
                "/campaigns/{id:long}/return",
                (long id, OfCampaign order, ReturnToCampaign act, Caller caller) => caller.Does(act, order with { CampaignId = id })
            )
            .WithSummary("Return recipients who left to a campaign; returns how many");
        api.MapGet("/patterns", (Patterns patterns) => patterns.All()).WithSummary("Sequences of steps that are kept for reuse");
        api.MapPost("/patterns", (KeptPattern order, SavePattern act, Caller caller) => caller.Does(act, order))
            .WithSummary("Save a campaign's steps as a pattern; returns its ID");
        api.MapDelete("/patterns/{id:long}", (long id, RemovePattern act, Caller caller) => caller.Does(act, new(id)))
            .WithSummary("Remove a pattern");
    }

    /// <summary>The acts are done without the performer, in a transaction that is rolled back: nothing is logged or told.</summary>
    static StepConsequences Look(long id, StepLook look, StepPreview preview, StepEdits edits, Caller caller) =>
        preview.Of(
            id,
            () =>
            {
                if (look.Add is { } add)
                    edits.Add(id, add.Step, add.BeforeStepId, caller.Actor);
                else if (look.Change is { } change)
                    edits.Change(change.StepId, change.Step);
                else if (look.Move is { } move)
                    edits.Move(move.StepId, move.MailOn);
                else if (look.Skip is { } skip)
                    edits.Skip(skip.StepId, skip.Skipped);
                else if (look.Remove is { } remove)
                    edits.Remove(remove.StepId);
                else
                    throw new BadInputException("Choose the change to preview.");
            }
        );
}
