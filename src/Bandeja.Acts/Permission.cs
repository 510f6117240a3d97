namespace Bandeja.Acts;

/// <summary>What somebody must be allowed to do for an act. Until there are accounts, everybody is allowed everything.</summary>
public enum Permission
{
    /// <summary>Import, edit, and clean lists.</summary>
    Lists,

    /// <summary>Write and change designs.</summary>
    Designs,

    /// <summary>Plan campaigns and drops, and decide who gets the piece.</summary>
    Drops,

    /// <summary>Review pieces and sign off.</summary>
    Proof,

    /// <summary>Produce: start, pause, resume, and cancel runs; settle what is in doubt.</summary>
    Produce,

    /// <summary>Record what was mailed and what was returned.</summary>
    Mail,

    /// <summary>Suppress people and addresses.</summary>
    Suppressions,

    /// <summary>Change settings, printers, and email accounts.</summary>
    Settings,
}
