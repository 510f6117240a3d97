using System.Reflection;
using Bandeja.Acts;
using Bandeja.Store;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Bandeja.Server.Web;

/// <summary>Who makes a request, and can have acts performed. An endpoint binds what comes, has the act done, and answers.</summary>
sealed class Caller(Performer performer, Actor actor, CancellationToken cancel) : IBindableFromHttpContext<Caller>
{
    /// <summary>Who asks.</summary>
    public Actor Actor => actor;

    /// <summary>Has an act done.</summary>
    public TAnswer Does<TOrder, TAnswer>(Act<TOrder, TAnswer> act, TOrder order) => performer.Perform(act, order, actor, cancel);

    /// <summary>Has an act done that answers nothing.</summary>
    public NoContent Does<TOrder>(Act<TOrder> act, TOrder order)
    {
        performer.Perform(act, order, actor, cancel);
        return TypedResults.NoContent();
    }

    /// <summary>Has an act done that waits for others.</summary>
    public Task<TAnswer> Does<TOrder, TAnswer>(WaitingAct<TOrder, TAnswer> act, TOrder order) =>
        performer.Perform(act, order, actor, cancel);

    /// <inheritdoc/>
    public static ValueTask<Caller?> BindAsync(HttpContext context, ParameterInfo parameter) =>
        ValueTask.FromResult<Caller?>(new(context.Part<Performer>(), context.Actor(), context.RequestAborted));
}
