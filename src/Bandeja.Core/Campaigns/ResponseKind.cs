namespace Bandeja.Core.Campaigns;

/// <summary>What came in after a mailing. The names are stored; never rename one.</summary>
public enum ResponseKind
{
    /// <summary>An answer: a form sent back, a call, a renewal without money.</summary>
    Responded,

    /// <summary>Money: a payment or a gift.</summary>
    Paid,
}
