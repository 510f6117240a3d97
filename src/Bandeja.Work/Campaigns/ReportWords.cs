using System.Globalization;
using Bandeja.Store.Sequences;

namespace Bandeja.Work.Campaigns;

/// <summary>Says a campaign's numbers in sentences.</summary>
public static class ReportWords
{
    /// <summary>A rate in percent with one decimal place; a dash where nothing was mailed.</summary>
    public static string Rate(long part, long of) =>
        of == 0 ? "–" : string.Create(CultureInfo.InvariantCulture, $"{100m * part / of:0.0}%");

    /// <summary>Money in a currency's hundredth part.</summary>
    public static string Money(long cents, string currency) =>
        currency == "USD"
            ? string.Create(CultureInfo.InvariantCulture, $"${cents / 100m:N2}")
            : string.Create(CultureInfo.InvariantCulture, $"{cents / 100m:N2} {currency}");

    /// <summary>What it came to.</summary>
    public static string Sentence(CampaignReport r)
    {
        if (r.People == 0)
            return "Nothing has been mailed yet, so there is nothing to count.";
        var text =
            $"{r.Responded:N0} of {r.People:N0} {(r.People == 1 ? "recipient" : "recipients")} who were mailed responded, "
            + $"{Rate(r.Responded, r.People)}.";
        if (r.Whole.Cents is not { } cents || r.Whole.Mailed == 0)
            return r.Whole.Received > 0 ? $"{text} They brought {Money(r.Whole.Received, r.Currency)}." : text;
        return $"{text} Each piece cost {Money((long)Math.Round((decimal)cents / r.Whole.Mailed), r.Currency)}"
            + (
                r.Whole.Received > 0
                    ? $" and brought {Money((long)Math.Round((decimal)r.Whole.Received / r.Whole.Mailed), r.Currency)}."
                    : "."
            );
    }

    /// <summary>What was returned, and why.</summary>
    public static string Returns(CampaignReport r)
    {
        var all = r.Returns.Sum(x => x.Value);
        return all == 0
            ? "No pieces were returned."
            : $"{all:N0} {(all == 1 ? "piece was" : "pieces were")} returned: "
                + $"{string.Join(", ", r.Returns.Select(x => $"{x.Value:N0} {x.Key}"))}.";
    }
}
