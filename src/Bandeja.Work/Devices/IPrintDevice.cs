namespace Bandeja.Work.Devices;

/// <summary>Something to be printed.</summary>
/// <param name="Key">The same for the same thing: a device that remembers keys takes it once, however often it is handed over.</param>
/// <param name="File">A PDF whose pages are in the order in which they come out.</param>
/// <param name="Paper">letter, envelope or labels.</param>
/// <param name="Pages">How many pages the file has.</param>
/// <param name="Sheets">How many sheets come out, copies counted.</param>
public sealed record PrintOrder(
    string Key,
    string Title,
    string File,
    string Paper,
    bool Duplex,
    int Copies,
    bool Collated,
    int Pages,
    int Sheets
);

/// <summary>How far a device is with something.</summary>
public enum PrintState
{
    /// <summary>Others are before it.</summary>
    Waiting,

    /// <summary>Sheets are coming out, or something is in their way.</summary>
    Printing,

    /// <summary>All of it is out.</summary>
    Out,

    /// <summary>It was given up, here or at the device.</summary>
    GivenUp,

    /// <summary>The device no longer knows it, and does not say what became of it.</summary>
    Lost,
}

/// <summary>What a device says of something that it was given.</summary>
/// <param name="SheetsOut">Sheets that came out well, counted in their order.</param>
/// <param name="Trouble">A sentence on what is in the way; null for nothing.</param>
/// <param name="Spoiled">Sheets that jammed and came out again, by their number.</param>
public sealed record PrintReport(PrintState State, int SheetsOut, string? Trouble, IReadOnlyList<int> Spoiled);

/// <summary>A printer. Everything that production needs of one is here, so that a real queue can stand behind it.</summary>
public interface IPrintDevice
{
    /// <summary>True where the same key handed over twice is one job: then nothing is ever in doubt after a crash.</summary>
    bool RemembersKeys { get; }

    /// <summary>True where the device tells which sheets are out: then what was given up half-way is in no doubt.</summary>
    bool TellsSheets { get; }

    /// <summary>Hands something over; answers what the device calls it.</summary>
    /// <exception cref="Bandeja.Store.ConflictException">The device refuses, with its words.</exception>
    string HandOver(PrintOrder order);

    /// <summary>Asks how far it is.</summary>
    PrintReport Look(string job);

    /// <summary>Stops it between two sheets, for a while.</summary>
    void Hold(string job);

    /// <summary>Lets it go on.</summary>
    void Release(string job);

    /// <summary>Gives it up: no further sheet of it comes out.</summary>
    void GiveUp(string job);
}
