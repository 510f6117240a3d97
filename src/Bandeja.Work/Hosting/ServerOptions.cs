using System.Net;

namespace Bandeja.Work.Hosting;

/// <summary>How the server was started.</summary>
/// <param name="Data">The folder that holds the database, the uploads, the pictures and the runs' files.</param>
/// <param name="Host">The address to listen on; loopback unless told otherwise.</param>
/// <param name="Port">The port; 0 for any free one.</param>
/// <param name="Web">The folder of the built web application, or null to serve the API alone.</param>
/// <param name="SmtpPort">The port of the practice post office on the loopback; 0 for any free one.</param>
/// <param name="NameServer">Where names of domains are looked up for the test of an account; null for the machine's own name
/// servers.</param>
public sealed record ServerOptions(
    string Data,
    string Host = "127.0.0.1",
    int Port = 5280,
    string? Web = null,
    int SmtpPort = 0,
    IPEndPoint? NameServer = null
)
{
    /// <summary>The largest file that can be brought in, bytes.</summary>
    public const long MaxUpload = 100L << 20;

    /// <summary>The largest picture, bytes.</summary>
    public const long MaxPicture = 20L << 20;

    /// <summary>A folder below the data folder, created where it is missing.</summary>
    public string Folder(string name) => Directory.CreateDirectory(Path.Combine(Data, name)).FullName;
}
