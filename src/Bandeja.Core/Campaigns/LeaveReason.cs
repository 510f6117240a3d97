namespace Bandeja.Core.Campaigns;

/// <summary>Why a recipient left a campaign. The names are stored; never rename one.</summary>
public enum LeaveReason
{
    Responded,
    Paid,
    AskedNot,
    Undeliverable,
    Condition,
    OffTheList,
    ByHand,
}

/// <summary>What the reasons are called.</summary>
public static class LeaveReasons
{
    /// <summary>For people, within a sentence.</summary>
    public static string Words(this LeaveReason reason) =>
        reason switch
        {
            LeaveReason.Responded => "responded",
            LeaveReason.Paid => "paid",
            LeaveReason.AskedNot => "asked not to be mailed",
            LeaveReason.Undeliverable => "returned as undeliverable",
            LeaveReason.Condition => "the campaign’s condition is no longer true",
            LeaveReason.OffTheList => "removed from the list",
            _ => "by hand",
        };

    /// <summary>True where it follows from other data and is undone with them, not by hand.</summary>
    public static bool FollowsFromData(this LeaveReason reason) =>
        reason is LeaveReason.AskedNot or LeaveReason.Undeliverable or LeaveReason.Condition or LeaveReason.OffTheList;
}
