namespace Bandeja.Core.Drops;

/// <summary>The rules that hold recipients by themselves, where other code has to know which one it was. The names are stored; never
/// change one.</summary>
public static class HoldRules
{
    /// <summary>Another of the household gets the piece.</summary>
    public const string Household = "household";

    /// <summary>One more piece would be more than a contact limit allows.</summary>
    public const string Contact = "contact";

    /// <summary>They left the campaign.</summary>
    public const string Left = "left";

    /// <summary>The step does not come next for them, or is not for them.</summary>
    public const string Step = "step";

    /// <summary>What a hold is counted under beside others of its kind: its reason without what differs from person to person, such as the
    /// day somebody left, or the mail that counts for a limit. A reason that somebody gave is left as it is.</summary>
    /// <param name="rule">The rule that holds; null where a person does.</param>
    /// <param name="reason">The reason as it stands on the recipient.</param>
    public static string Together(string? rule, string reason) =>
        (rule, reason.IndexOf(": ", StringComparison.Ordinal)) switch
        {
            (Household, _) => "Household piece goes to another member",
            (Contact, > 0 and var end) => reason[..end],
            (Left, > 0 and var end) => $"Left the campaign{reason[end..]}",
            _ => reason,
        };
}
