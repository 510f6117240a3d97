using System.Collections.Concurrent;
using System.Globalization;
using Bandeja.Core.Mail;
using Bandeja.Store.Mail;

namespace Bandeja.Work.Mail;

/// <summary>The pace of each account: all runs that send with it share one, and what the ledger says of the last day counts.</summary>
public sealed class AccountPaces(MailAccounts accounts, TimeProvider time)
{
    readonly ConcurrentDictionary<(long Account, long PerMinute, long PerDay), SendPace> paces = [];

    /// <summary>An account's pace.</summary>
    public SendPace Of(MailAccountRow account) =>
        paces.GetOrAdd(
            (account.Id, account.PerMinute, account.PerDay),
            _ =>
            {
                var pace = new SendPace((int)account.PerMinute, (int)account.PerDay);
                pace.Count(
                    accounts
                        .TriedSince(account.Id, time.GetUtcNow().AddDays(-1))
                        .Select(at => DateTimeOffset.Parse(at, CultureInfo.InvariantCulture))
                );
                return pace;
            }
        );
}
