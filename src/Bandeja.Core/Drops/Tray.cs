namespace Bandeja.Core.Drops;

/// <summary>Where a recipient of a drop is now: exactly one of these.</summary>
public enum Tray
{
    NeedsReview,
    Ready,
    Held,
    Produced,
    Mailed,
    Returned,
}
