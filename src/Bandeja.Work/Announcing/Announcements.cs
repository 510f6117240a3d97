using Bandeja.Store;

namespace Bandeja.Work.Announcing;

/// <summary>
/// The one way in which a change is made known: to open browsers, and to what has to be checked because of it. Who changes something
/// says so within the transaction; everything follows once that is committed, and nothing where it is not.
/// </summary>
public sealed class Announcements(Database database, EventHub hub, CheckRequests checks, ILogger<Announcements> log)
{
    /// <summary>Makes a change known.</summary>
    public void Changed(Matter what, long id = 0) => database.AfterCommit(() => Deliver(new(what, id)));

    void Deliver(Change change)
    {
        if (Name(change.What) is { } name)
            hub.Tell(name, new { change.Id });
        try
        {
            Check(change);
        }
        catch (Exception e)
        {
            // What was done is done, and must not be reported as failed. A drop is asked for its check again when it is opened.
            log.LogError(e, "Asking for what follows from a change of {Matter} {Id} failed", change.What, change.Id);
        }
    }

    void Check(Change change)
    {
        switch (change.What)
        {
            case Matter.List:
                checks.List(change.Id);
                break;
            case Matter.Design:
                checks.Design(change.Id);
                break;
            case Matter.Suppression:
            case Matter.Files:
            case Matter.Settings:
                checks.All();
                break;
            case Matter.Drop:
                checks.After(change.Id);
                break;
            case Matter.People:
            case Matter.Campaign:
                checks.Limits();
                break;
            case Matter.DesignCard:
            case Matter.Printer:
            case Matter.Account:
            case Matter.PostOffice:
                break;
        }
    }

    /// <summary>What the event is called for browsers; null where none needs to know.</summary>
    static string? Name(Matter what) =>
        what switch
        {
            Matter.List or Matter.People => "list",
            Matter.Drop or Matter.Campaign => "drop",
            Matter.Design or Matter.DesignCard => "design",
            Matter.Suppression => "suppression",
            Matter.Files or Matter.Settings => null,
            Matter.Printer => "printer",
            Matter.Account => "accounts",
            Matter.PostOffice => "post-office",
        };
}
