using System.Net.Sockets;
using Bandeja.Core.Mail;
using Bandeja.Work.Hosting;
using DnsClient;
using DnsClient.Protocol;

namespace Bandeja.Work.Mail;

/// <summary>Looks up the records in which a domain says which servers may send its email.</summary>
public sealed class DomainRecords(ServerOptions options)
{
    /// <summary>The names of the steps.</summary>
    public static IReadOnlyList<string> Names { get; } = ["SPF", "DKIM", "DMARC"];

    static readonly TimeSpan Patience = TimeSpan.FromSeconds(3);

    /// <summary>Does the three steps. Never throws where the DNS cannot be reached: it says so.</summary>
    /// <param name="sender">The address that is sent from.</param>
    public async Task<IReadOnlyList<TestStep>> Look(string sender, CancellationToken cancel)
    {
        var domain = sender[(sender.LastIndexOf('@') + 1)..].TrimEnd('.').ToLowerInvariant();
        try
        {
            var client = Client();
            var (_, texts) = await Texts(client, domain, cancel);
            var steps = new List<TestStep> { Step(Names[0], SenderRecords.Spf(domain, texts)) };
            // If this name does not exist, no name below it does (RFC 8020), and keys are stored below it (RFC 6376, section 3.6.2.1).
            var (exists, _) = await Texts(client, $"_domainkey.{domain}", cancel);
            steps.Add(
                exists
                    ? new(
                        Names[1],
                        TestStep.NotTried,
                        $"{domain} can hold DKIM keys. To find out whether this mail server signs messages, open the test message "
                            + "where it arrives: its headers must say dkim=pass.",
                        null
                    )
                    : Step(
                        Names[1],
                        new(
                            false,
                            $"{domain} publishes no DKIM keys, so no message can be signed for it.",
                            "Turn on DKIM signing at your email provider and add the records it shows you to the domain."
                        )
                    )
            );
            RecordVerdict? dmarc = null;
            foreach (var place in SenderRecords.DmarcPlaces(domain))
                if ((dmarc = SenderRecords.Dmarc(domain, place, (await Texts(client, place, cancel)).Texts)) is not null)
                    break;
            steps.Add(Step(Names[2], dmarc ?? SenderRecords.NoDmarc(domain)));
            return steps;
        }
        catch (Exception e)
            when (e is DnsResponseException or SocketException or InvalidOperationException or OperationCanceledException
                && !cancel.IsCancellationRequested
            )
        {
            return NotTried(
                "The DNS cannot be reached from this server, so these records were not checked. Try again with a network connection."
            );
        }
    }

    /// <summary>The three steps where they are not done.</summary>
    public static IReadOnlyList<TestStep> NotTried(string why) =>
        [.. Names.Select((n, i) => new TestStep(n, TestStep.NotTried, i == 0 ? why : "", null))];

    LookupClient Client()
    {
        // No cache: after a record is corrected, the next test must see the new one.
        var how = options.NameServer is { } server ? new LookupClientOptions(server) : new LookupClientOptions();
        how.Timeout = Patience;
        how.Retries = 1;
        how.UseCache = false;
        return new(how);
    }

    static async Task<(bool Exists, IReadOnlyList<string> Texts)> Texts(LookupClient client, string name, CancellationToken cancel)
    {
        var answer = await client.QueryAsync(name, QueryType.TXT, cancellationToken: cancel);
        return answer.Header.ResponseCode switch
        {
            DnsHeaderResponseCode.NoError => (true, [.. answer.Answers.OfType<TxtRecord>().Select(t => string.Concat(t.Text))]),
            DnsHeaderResponseCode.NotExistentDomain => (false, []),
            // A name server that fails says nothing about the domain.
            _ => throw new InvalidOperationException(answer.ErrorMessage),
        };
    }

    static TestStep Step(string name, RecordVerdict verdict) => new(name, verdict.Right ? "right" : "wrong", verdict.Words, verdict.Help);
}
