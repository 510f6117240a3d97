using System.Text.Json.Serialization;

namespace Bandeja.Core.Returns;

/// <summary>Why the post brought a piece back, as it stands on the label. The names are stored; never rename one.</summary>
[JsonConverter(typeof(JsonStringEnumConverter<ReturnReason>))]
public enum ReturnReason
{
    /// <summary>Moved, and nobody says where to.</summary>
    [JsonStringEnumMemberName("moved")]
    Moved,

    /// <summary>Moved, and the label has the new address.</summary>
    [JsonStringEnumMemberName("newAddress")]
    NewAddress,

    /// <summary>Nobody of that name is known there.</summary>
    [JsonStringEnumMemberName("unknown")]
    Unknown,

    /// <summary>The recipient did not take it.</summary>
    [JsonStringEnumMemberName("refused")]
    Refused,

    /// <summary>A part of the address is missing.</summary>
    [JsonStringEnumMemberName("insufficient")]
    Insufficient,

    /// <summary>Nobody lives there.</summary>
    [JsonStringEnumMemberName("vacant")]
    Vacant,

    /// <summary>The recipient has died.</summary>
    [JsonStringEnumMemberName("deceased")]
    Deceased,

    /// <summary>Something else, or nothing said.</summary>
    [JsonStringEnumMemberName("other")]
    Other,
}

/// <summary>What follows from a return. The names are stored; never rename one.</summary>
[JsonConverter(typeof(JsonStringEnumConverter<ReturnFollowUp>))]
public enum ReturnFollowUp
{
    /// <summary>It is recorded, and nothing else.</summary>
    [JsonStringEnumMemberName("record")]
    Record,

    /// <summary>Nothing more is mailed to that address: it is held in every drop until the address is another.</summary>
    [JsonStringEnumMemberName("hold")]
    Hold,

    /// <summary>Nothing more is mailed to that person.</summary>
    [JsonStringEnumMemberName("suppress")]
    Suppress,

    /// <summary>The address is corrected.</summary>
    [JsonStringEnumMemberName("correct")]
    Correct,

    /// <summary>The address is corrected, and the piece is mailed again.</summary>
    [JsonStringEnumMemberName("remail")]
    Remail,
}

/// <summary>What is known of the reasons.</summary>
public static class ReturnReasons
{
    /// <summary>All, in the order of their keys.</summary>
    public static IReadOnlyList<ReturnReason> All { get; } = Enum.GetValues<ReturnReason>();

    /// <summary>The reason in words, as the ledger has it.</summary>
    public static string Words(this ReturnReason reason) =>
        reason switch
        {
            ReturnReason.Moved => "moved, no new address",
            ReturnReason.NewAddress => "moved, new address on the label",
            ReturnReason.Unknown => "not known there",
            ReturnReason.Refused => "refused",
            ReturnReason.Insufficient => "insufficient address",
            ReturnReason.Vacant => "vacant",
            ReturnReason.Deceased => "deceased",
            ReturnReason.Other => "other reason",
        };

    // Postal Operations endorsements (USPS Domestic Mail Manual 507, exhibit 1.4.1), and how people write the same; the first that is met
    // counts, so that “moved, left no address” is not read as an insufficient address.
    static readonly (string Word, ReturnReason Reason)[] Endorsements =
    [
        ("deceased", ReturnReason.Deceased),
        ("died", ReturnReason.Deceased),
        ("vacant", ReturnReason.Vacant),
        ("refused", ReturnReason.Refused),
        ("unclaimed", ReturnReason.Refused),
        ("new address", ReturnReason.NewAddress),
        ("forwarding address", ReturnReason.NewAddress),
        ("unable to forward", ReturnReason.Moved),
        ("temporarily away", ReturnReason.Moved),
        ("moved", ReturnReason.Moved),
        ("insufficient", ReturnReason.Insufficient),
        ("incomplete", ReturnReason.Insufficient),
        ("no such number", ReturnReason.Insufficient),
        ("no such street", ReturnReason.Insufficient),
        ("not deliverable as addressed", ReturnReason.Insufficient),
        ("illegible", ReturnReason.Insufficient),
        ("no mail receptacle", ReturnReason.Insufficient),
        ("box closed", ReturnReason.Moved),
        ("not known", ReturnReason.Unknown),
        ("unknown", ReturnReason.Unknown),
        ("attempted", ReturnReason.Unknown),
        ("other", ReturnReason.Other),
    ];

    /// <summary>The reason that a text names, as a label or a file has it; null where it names none.</summary>
    public static ReturnReason? Read(string text)
    {
        var words = string.Join(
            ' ',
            text.ToLowerInvariant().Split([' ', '-', '_', ',', '.', '/', '\t'], StringSplitOptions.RemoveEmptyEntries)
        );
        foreach (var reason in All)
            if (
                words == reason.ToString().ToLowerInvariant()
                || words == string.Join(' ', reason.Words().Split([' ', ','], StringSplitOptions.RemoveEmptyEntries))
            )
                return reason;
        foreach (var (word, reason) in Endorsements)
            if (words.Contains(word, StringComparison.Ordinal))
                return reason;
        return null;
    }

    /// <summary>What follows where no rule was set.</summary>
    public static ReturnFollowUp Usual(this ReturnReason reason) =>
        reason switch
        {
            ReturnReason.NewAddress or ReturnReason.Insufficient => ReturnFollowUp.Remail,
            ReturnReason.Refused or ReturnReason.Deceased => ReturnFollowUp.Suppress,
            ReturnReason.Other => ReturnFollowUp.Record,
            ReturnReason.Moved or ReturnReason.Unknown or ReturnReason.Vacant => ReturnFollowUp.Hold,
        };

    /// <summary>True where an address is written with it.</summary>
    public static bool Corrects(this ReturnFollowUp follow) => follow is ReturnFollowUp.Correct or ReturnFollowUp.Remail;
}
