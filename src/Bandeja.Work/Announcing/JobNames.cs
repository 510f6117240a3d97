namespace Bandeja.Work.Announcing;

/// <summary>What the kinds of long work are called in the queue.</summary>
static class JobNames
{
    public const string Check = "check";
    public const string Collect = "collect";
    public const string Compute = "compute";
    public const string Details = "details";
    public const string Import = "import";
    public const string ListCheck = "listcheck";
    public const string People = "people";
    public const string Print = "print";
    public const string Reload = "reload";
    public const string Remake = "remake";
    public const string Run = "run";
    public const string Send = "send";
    public const string Suppress = "suppress";
    public const string Duplicates = "duplicates";
}
