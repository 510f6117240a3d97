using System.Net;
using System.Security.Cryptography.X509Certificates;

namespace Bandeja.Work.Hosting;

/// <summary>How the server was started.</summary>
/// <param name="Data">The folder that holds the database, the uploads, the pictures and the runs' files.</param>
/// <param name="Listen">The address to listen on: of this machine alone, as long as nobody has to sign in.</param>
/// <param name="Port">The port; 0 for any free one.</param>
/// <param name="Web">The folder of the built web application, or null to serve the API alone.</param>
/// <param name="SmtpPort">The port of the practice post office on the loopback; 0 for any free one.</param>
/// <param name="NameServer">Where names of domains are looked up for the test of an account; null for the machine's own name
/// servers.</param>
public sealed record ServerOptions(
    string Data,
    string Listen = "127.0.0.1",
    int Port = 5280,
    string? Web = null,
    int SmtpPort = 0,
    IPEndPoint? NameServer = null
)
{
    /// <summary>Names, beside those of this machine, under which it answers: the ones that a proxy in front of it is asked by.</summary>
    public IReadOnlyList<string> Names { get; init; } = [];

    /// <summary>Proxies whose word is taken on whom a request comes from and whether it came encrypted (X-Forwarded-For and
    /// -Proto).</summary>
    public IReadOnlyList<IPAddress> Proxies { get; init; } = [];

    /// <summary>True where mail accounts may name servers of the private network behind this one.</summary>
    public bool PrivateMail { get; init; }

    /// <summary>A certificate with its key, to speak TLS with; null for none.</summary>
    public X509Certificate2? Certificate { get; init; }

    /// <summary>Why an address cannot be listened on; null where it can.</summary>
    public static string? Objection(string listen) =>
        !IPAddress.TryParse(listen, out var address) ? "The address to listen on must be an IP address such as 127.0.0.1 or ::1."
        : !IPAddress.IsLoopback(address)
            ? "Until Bandeja has user accounts, it listens on this computer only (127.0.0.1 or ::1), because anyone who can reach it can "
                + "read and change everything. To let others in, put a proxy that asks them to sign in in front of it, and use --proxy and "
                + "--name to tell Bandeja about it."
        : null;

    /// <summary>The largest file that can be brought in, bytes.</summary>
    public const long MaxUpload = 100L << 20;

    /// <summary>The largest picture, bytes.</summary>
    public const long MaxPicture = 20L << 20;

    /// <summary>A folder below the data folder, created where it is missing.</summary>
    public string Folder(string name) => Directory.CreateDirectory(Path.Combine(Data, name)).FullName;
}
