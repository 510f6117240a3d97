using Bandeja.Store;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts;

/// <summary>One doing of an act: by whom, to what, and what it changed.</summary>
public sealed class Deed(Actor actor, Announcements announcements, CancellationToken cancel = default)
{
    readonly HashSet<Change> changes = [];

    /// <summary>Who does it.</summary>
    public Actor Actor => actor;

    /// <summary>Canceled where nobody waits for it anymore: reading a file of somebody's ends then. What is written is written.</summary>
    public CancellationToken Cancel => cancel;

    /// <summary>What changed so far.</summary>
    public IReadOnlyCollection<Change> Changes => changes;

    /// <summary>What the log says; null for what it says of every such act.</summary>
    public string? Text { get; private set; }

    /// <summary>What it was done to: the first thing that changed, unless the act says otherwise.</summary>
    public Change? About { get; private set; }

    /// <summary>Says that something changed. Everybody is told once it is committed, and once only.</summary>
    public void Changed(Matter what, long id = 0)
    {
        About ??= new(what, id);
        if (changes.Add(new(what, id)))
            announcements.Changed(what, id);
    }

    /// <summary>Says what it is done to, where nobody has to be told of a change.</summary>
    public void To(Matter what, long id) => About ??= new(what, id);

    /// <summary>Says for the log what was done, more exactly than the act's name does.</summary>
    public void Says(string text) => Text = text;
}
