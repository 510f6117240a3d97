using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Runs;

/// <summary>Serial numbers of the pieces of a mailer: none twice within <see cref="SerialDays"/> days.</summary>
public static class MailerSerials
{
    /// <summary>Days for which a serial number is not given out again (USPS-B-3200, section 2.1.4; Domestic Mail Manual 204.1.2).</summary>
    public const int SerialDays = 45;

    /// <summary>Gives a run the next stretch of a mailer's serial numbers; they go round, and none comes again within <see
    /// cref="SerialDays"/> days.</summary>
    internal static void Give(SqliteConnection c, string mailer, int count, long runId, Actor actor)
    {
        var all = mailer.Length == 6 ? 1_000_000_000L : 1_000_000L;
        var last = c.QueryFirstOrDefault<(long First, long Count)>(
            "SELECT first, count FROM mail_serial WHERE mailer = @mailer ORDER BY id DESC LIMIT 1",
            new { mailer }
        );
        var since = (actor with { At = actor.At.AddDays(-SerialDays) }).Stamp;
        var taken = c.QuerySingle<long>(
            "SELECT coalesce(sum(count), 0) FROM mail_serial WHERE mailer = @mailer AND at > @since",
            new { mailer, since }
        );
        if (taken + count > all)
            throw new ConflictException(
                $"The mailer identifier {mailer} has {all:N0} serial numbers, and {taken:N0} of them were given out in the last "
                    + $"{SerialDays} days; {count:N0} more would repeat some."
            );
        c.Execute(
            "INSERT INTO mail_serial (mailer, first, count, run_id, at) VALUES (@mailer, @first, @count, @runId, @Stamp)",
            new
            {
                mailer,
                first = (last.First + last.Count) % all,
                count,
                runId,
                actor.Stamp,
            }
        );
    }

    /// <summary>The first serial number of a run for each mailer identifier, and how many there are before they go round.</summary>
    public static IReadOnlyDictionary<string, (long First, long All)> Of(SqliteConnection c, long runId)
    {
        // A reprint has the numbers of the run that it repeats: it is the same piece of mail.
        return c.Query<(string Mailer, long First)>(
                "SELECT mailer, first FROM mail_serial WHERE run_id = (SELECT coalesce(reprint_of, id) FROM run WHERE id = @runId)",
                new { runId }
            )
            .ToDictionary(s => s.Mailer, s => (s.First, s.Mailer.Length == 6 ? 1_000_000_000L : 1_000_000L));
    }
}
