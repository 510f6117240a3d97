using System.Reflection;

namespace Bandeja.Acts;

/// <summary>An act that there is.</summary>
/// <param name="Act">Its class.</param>
/// <param name="Order">What is to be done is said in this record.</param>
/// <param name="Answer">What it answers; null for nothing.</param>
public sealed record KnownAct(string Name, Permission Needs, string Log, Type Act, Type Order, Type? Answer);

/// <summary>All acts that there are. Authorization, the log, routines, and a command line read here what can be done.</summary>
public static class ActRegistry
{
    /// <summary>All acts, by name.</summary>
    public static IReadOnlyList<KnownAct> All { get; } =
    [
        .. typeof(ActRegistry)
            .Assembly.GetTypes()
            .Where(t => !t.IsAbstract)
            .Select(t => (Type: t, Kind: KindOf(t)))
            .Where(t => t.Kind is not null)
            .Select(t => Known(t.Type, t.Kind!))
            .OrderBy(a => a.Name, StringComparer.Ordinal),
    ];

    /// <summary>The act's base with its order and its answer; null for another class.</summary>
    static Type? KindOf(Type type)
    {
        for (var at = type.BaseType; at is not null; at = at.BaseType)
            if (
                at.IsGenericType
                && (at.GetGenericTypeDefinition() == typeof(Act<,>) || at.GetGenericTypeDefinition() == typeof(WaitingAct<,>))
            )
                return at;
        return null;
    }

    static KnownAct Known(Type type, Type kind)
    {
        var said =
            type.GetCustomAttribute<ActAttribute>()
            ?? throw new InvalidOperationException($"{type.Name} has no [Act(…)]: give it a name, a permission, and a text for the log.");
        var answer = kind.GenericTypeArguments[1];
        return new(said.Name, said.Needs, said.Log, type, kind.GenericTypeArguments[0], answer == typeof(Nothing) ? null : answer);
    }
}
