namespace Bandeja.Work.Announcing;

/// <summary>What kinds of things change, as far as somebody else has to know of it.</summary>
public enum Matter
{
    /// <summary>A list: its rows, columns, segments, detail rows, households. Drops that depend on what changed are checked
    /// again.</summary>
    List,

    /// <summary>A drop, its recipients, or its runs.</summary>
    Drop,

    /// <summary>A campaign: its steps, who left it, responses; or the calendar of all.</summary>
    Campaign,

    /// <summary>A design's text, or what its names stand for. Drops that it is in are checked again.</summary>
    Design,

    /// <summary>A design's name or place, which no piece depends on.</summary>
    DesignCard,

    /// <summary>A suppression list. All drops are checked again.</summary>
    Suppression,

    /// <summary>Files that are attached. All drops are checked again.</summary>
    Files,

    /// <summary>What holds for all: settings that pieces depend on. All drops are checked again.</summary>
    Settings,

    /// <summary>Which recipients are one person. Drops that contact limits count for are checked again.</summary>
    People,

    /// <summary>A printer.</summary>
    Printer,

    /// <summary>An email account.</summary>
    Account,

    /// <summary>The practice post office.</summary>
    PostOffice,
}

/// <summary>A thing that changed.</summary>
public readonly record struct Change(Matter What, long Id = 0);
