namespace Bandeja.Acts;

/// <summary>What is known of an act before it is done: authorization, the log, routines, and a command line read it.</summary>
/// <param name="name">The act's name, an area and a verb: <c>drop.hold</c>. It is stored, and never changes.</param>
/// <param name="needs">What somebody must be allowed to do.</param>
/// <param name="log">What stands in the log, where the act itself says nothing more exact.</param>
[AttributeUsage(AttributeTargets.Class, Inherited = false)]
public sealed class ActAttribute(string name, Permission needs, string log) : Attribute
{
    /// <inheritdoc cref="ActAttribute"/>
    public string Name => name;

    /// <inheritdoc cref="ActAttribute"/>
    public Permission Needs => needs;

    /// <inheritdoc cref="ActAttribute"/>
    public string Log => log;
}
