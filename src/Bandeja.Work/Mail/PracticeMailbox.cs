using System.Globalization;
using System.Net;
using System.Net.Sockets;
using System.Text;
using System.Text.RegularExpressions;
using Bandeja.Store;
using Bandeja.Store.Devices;

namespace Bandeja.Work.Mail;

/// <summary>
/// The practice post office's mailbox for what comes back, on the loopback: as much of IMAP4rev1 (RFC 3501) as a program needs that reads
/// new messages and changes nothing. User and password may be anything.
/// </summary>
public sealed partial class PracticeMailbox(PostOfficeStore store, ILogger<PracticeMailbox> log) : IHostedService, IDisposable
{
    /// <summary>The longest line that it reads, bytes.</summary>
    const int LongestLine = 64_000;
    const int UidValidity = 1;
    readonly CancellationTokenSource stop = new();
    TcpListener? listener;
    Task running = Task.CompletedTask;

    /// <summary>Its port on the loopback; 0 while it is not open.</summary>
    public int Port { get; private set; }

    /// <inheritdoc/>
    public Task StartAsync(CancellationToken cancellationToken)
    {
        listener = new(IPAddress.Loopback, 0);
        listener.Start();
        Port = ((IPEndPoint)listener.LocalEndpoint).Port;
        running = Accept(listener);
        return Task.CompletedTask;
    }

    /// <inheritdoc/>
    public async Task StopAsync(CancellationToken cancellationToken)
    {
        try
        {
            await stop.CancelAsync();
        }
        catch (ObjectDisposedException)
        {
            return;
        } // closed before
        listener?.Stop();
        await running;
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        listener?.Dispose();
        stop.Dispose();
    }

    async Task Accept(TcpListener from)
    {
        var open = new List<Task>();
        try
        {
            while (true)
            {
                var client = await from.AcceptTcpClientAsync(stop.Token);
                open.RemoveAll(t => t.IsCompleted);
                open.Add(Serve(client));
            }
        }
        catch (Exception e) when (e is OperationCanceledException or SocketException or ObjectDisposedException) { } // it is closed
        await Task.WhenAll(open);
    }

    async Task Serve(TcpClient client)
    {
        using (client)
        {
            client.NoDelay = true;
            try
            {
                await new Session(store, client.GetStream(), stop.Token).Run();
            }
            catch (Exception e) when (e is IOException or OperationCanceledException or ObjectDisposedException or FormatException)
            {
                log.LogDebug(e, "A connection to the practice mailbox ended");
            }
        }
    }

    /// <summary>One connection.</summary>
    sealed partial class Session(PostOfficeStore store, NetworkStream stream, CancellationToken stop)
    {
        readonly BufferedStream buffered = new(stream);
        bool known,
            selected;

        public async Task Run()
        {
            await Say("* OK [CAPABILITY IMAP4rev1 AUTH=PLAIN] the practice mailbox is ready");
            while (await Command() is { } line)
            {
                var parts = line.Split(' ', 3);
                var (tag, name, rest) = (parts[0], parts.Length > 1 ? parts[1].ToUpperInvariant() : "", parts.Length > 2 ? parts[2] : "");
                if (name == "UID" && rest.Split(' ', 2) is [var verb, var tail])
                    (name, rest) = ($"UID {verb.ToUpperInvariant()}", tail);
                await Say(await Answer(tag, name, rest));
                if (name == "LOGOUT")
                    return;
            }
        }

        async Task<string> Answer(string tag, string name, string rest)
        {
            switch (name)
            {
                case "CAPABILITY":
                    await Say("* CAPABILITY IMAP4rev1 AUTH=PLAIN");
                    return $"{tag} OK said";
                case "NOOP":
                case "CLOSE":
                    return $"{tag} OK done";
                case "LOGOUT":
                    await Say("* BYE until the next time");
                    return $"{tag} OK done";
                case "LOGIN":
                    known = true;
                    return $"{tag} OK signed in";
                case "AUTHENTICATE" when rest.StartsWith("PLAIN", StringComparison.OrdinalIgnoreCase):
                    if (rest.Trim().Length == 5)
                    {
                        await Say("+ ");
                        await Line();
                    }
                    known = true;
                    return $"{tag} OK signed in";
                case var _ when !known:
                    return $"{tag} NO sign in first";
                case "LIST":
                    await Say(
                        rest.EndsWith("\"\"", StringComparison.Ordinal) && !rest.Contains("INBOX", StringComparison.OrdinalIgnoreCase)
                            ? "* LIST (\\Noselect) \"/\" \"\""
                            : "* LIST () \"/\" INBOX"
                    );
                    return $"{tag} OK listed";
                case "SELECT" or "EXAMINE":
                    if (!rest.Trim('"').Equals("INBOX", StringComparison.OrdinalIgnoreCase))
                        return $"{tag} NO there is only INBOX here";
                    selected = true;
                    var all = store.Mailbox();
                    await Say(
                        $"* {all.Count} EXISTS\r\n* 0 RECENT\r\n* FLAGS ()\r\n* OK [PERMANENTFLAGS ()] nothing is changed here\r\n* "
                            + $"OK [UIDVALIDITY {UidValidity}] always\r\n* OK [UIDNEXT {(all.Count == 0 ? 1 : all[^1].Id + 1)}] the next"
                    );
                    return $"{tag} OK [READ-ONLY] open";
                case var _ when !selected:
                    return $"{tag} BAD open a mailbox first, or ask for something that is known here";
                case "UID SEARCH":
                    await Say("* SEARCH " + string.Join(' ', Found(rest)));
                    return $"{tag} OK searched";
                case "UID FETCH" when FetchForm().Match(rest) is { Success: true } m:
                    foreach (var (number, id) in Numbered(m.Groups[1].Value))
                        await Fetch(number, id, m.Groups[2].Value.ToUpperInvariant());
                    return $"{tag} OK fetched";
                default:
                    return $"{tag} BAD that is not known here";
            }
        }

        /// <summary>The messages that a search finds: by their numbers, and by the day since which they came (RFC 3501, section
        /// 6.4.4).</summary>
        IEnumerable<long> Found(string criteria)
        {
            var since =
                SinceForm().Match(criteria) is { Success: true } s
                && DateTime.TryParseExact(s.Groups[1].Value, "d-MMM-yyyy", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)
                    ? day
                    : DateTime.MinValue;
            var within = UidForm().Match(criteria) is { Success: true } u
                ? Numbered(u.Groups[1].Value).Select(n => n.Id).ToHashSet()
                : null;
            return store
                .Mailbox()
                .Where(m =>
                    (within is null || within.Contains(m.Id))
                    && DateTimeOffset.Parse(m.At, CultureInfo.InvariantCulture).UtcDateTime.Date >= since
                )
                .Select(m => m.Id);
        }

        /// <summary>The messages of a set such as 3,7:* with their places in the mailbox.</summary>
        IEnumerable<(int Number, long Id)> Numbered(string set)
        {
            var all = store.Mailbox();
            var last = all.Count == 0 ? 0 : all[^1].Id;
            long Of(string text) =>
                text == "*" ? last
                : long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n
                : 0;
            var ranges = set.Split(',')
                .Select(r => r.Split(':'))
                .Select(r => (From: Math.Min(Of(r[0]), Of(r[^1])), To: Math.Max(Of(r[0]), Of(r[^1]))))
                .ToList();
            return all.Select((m, i) => (Number: i + 1, m.Id)).Where(m => ranges.Any(r => m.Id >= r.From && m.Id <= r.To));
        }

        async Task Fetch(int number, long id, string items)
        {
            byte[] raw;
            try
            {
                raw = store.Get(id).Raw;
            }
            catch (NotFoundException)
            {
                return;
            } // taken out meanwhile
            var head = raw.AsSpan().IndexOf("\r\n\r\n"u8) is >= 0 and var at ? at + 4 : raw.Length;
            var (section, bytes) = items.Contains("[HEADER]", StringComparison.Ordinal)
                ? ("HEADER", raw.AsMemory(0, head))
                : ("", raw.AsMemory());
            var size = items.Contains("RFC822.SIZE", StringComparison.Ordinal) ? $" RFC822.SIZE {raw.Length}" : "";
            if (!items.Contains("BODY", StringComparison.Ordinal))
            {
                await Say($"* {number} FETCH (UID {id}{size})");
                return;
            }
            await stream.WriteAsync(
                Encoding.ASCII.GetBytes($"* {number} FETCH (UID {id}{size} BODY[{section}] {{{bytes.Length}}}\r\n"),
                stop
            );
            await stream.WriteAsync(bytes, stop);
            await Say(")");
        }

        Task Say(string text) => stream.WriteAsync(Encoding.ASCII.GetBytes(text + "\r\n"), stop).AsTask();

        /// <summary>A command with its literals (RFC 3501, section 4.3) put in as words; null where the connection has ended.</summary>
        async Task<string?> Command()
        {
            var whole = "";
            while (true)
            {
                if (await Line() is not { } line)
                    return null;
                if (LiteralForm().Match(line) is not { Success: true } m)
                    return whole + line;
                var length = int.Parse(m.Groups[1].Value, CultureInfo.InvariantCulture);
                if (whole.Length + length > LongestLine)
                    throw new FormatException("too long");
                if (m.Groups[2].Length == 0)
                    await Say("+ go on");
                var literal = new byte[length];
                await buffered.ReadExactlyAsync(literal, stop);
                whole += line[..m.Index] + "\"" + Encoding.UTF8.GetString(literal) + "\"";
            }
        }

        async Task<string?> Line()
        {
            var bytes = new List<byte>();
            var one = new byte[1];
            while (await buffered.ReadAsync(one, stop) == 1)
            {
                if (one[0] == '\n')
                    return Encoding.UTF8.GetString([.. bytes]).TrimEnd('\r');
                if (bytes.Count >= LongestLine)
                    throw new FormatException("too long");
                bytes.Add(one[0]);
            }
            return null;
        }

        [GeneratedRegex(@"^(\S+) \(?(.*?)\)?$")]
        private static partial Regex FetchForm();

        [GeneratedRegex(@"\bSINCE (\S+)", RegexOptions.IgnoreCase)]
        private static partial Regex SinceForm();

        [GeneratedRegex(@"\bUID ([\d:,*]+)", RegexOptions.IgnoreCase)]
        private static partial Regex UidForm();

        [GeneratedRegex(@"\{(\d{1,6})(\+?)\}$")]
        private static partial Regex LiteralForm();
    }
}
