using System.Net;
using System.Net.Sockets;
using Bandeja.Store;
using Bandeja.Work.Hosting;

namespace Bandeja.Work.Mail;

/// <summary>
/// Where mail servers may be. An account names any host, and what a connection to it says tells what answers there: unless whoever
/// started the server allowed it, hosts of the network behind it are therefore left alone, whatever name leads to them.
/// </summary>
public sealed class MailHosts(ServerOptions options)
{
    static readonly IPNetwork[] Behind =
    [
        // Private, shared, link-local and loopback addresses, and those that name no host at all (RFC 6890, tables 1 to 18; RFC 4193).
        IPNetwork.Parse("0.0.0.0/8"),
        IPNetwork.Parse("10.0.0.0/8"),
        IPNetwork.Parse("100.64.0.0/10"),
        IPNetwork.Parse("127.0.0.0/8"),
        IPNetwork.Parse("169.254.0.0/16"),
        IPNetwork.Parse("172.16.0.0/12"),
        IPNetwork.Parse("192.0.0.0/24"),
        IPNetwork.Parse("192.168.0.0/16"),
        IPNetwork.Parse("198.18.0.0/15"),
        IPNetwork.Parse("224.0.0.0/3"),
        IPNetwork.Parse("::/127"),
        IPNetwork.Parse("fc00::/7"),
        IPNetwork.Parse("fe80::/10"),
        IPNetwork.Parse("ff00::/8"),
    ];

    /// <summary>True for an address of the network behind the server.</summary>
    public static bool IsBehind(IPAddress address)
    {
        var plain = address.IsIPv4MappedToIPv6 ? address.MapToIPv4() : address;
        return Behind.Any(n => n.BaseAddress.AddressFamily == plain.AddressFamily && n.Contains(plain));
    }

    /// <summary>What is said of such a host.</summary>
    public static string Refusal(string host) =>
        $"{host} is on this server's private network. Mail accounts can use only public mail servers. To allow private ones, start the "
        + "server with --private-mail.";

    /// <summary>The addresses of a mail server. Connect to one of these, and not to the name again: it may lead elsewhere by
    /// then.</summary>
    /// <exception cref="ConflictException">It is behind the server, and that is not allowed.</exception>
    /// <exception cref="SocketException">The name is not found.</exception>
    public async Task<IPAddress[]> Of(string host, CancellationToken cancel)
    {
        var addresses = await Dns.GetHostAddressesAsync(host, cancel);
        return options.PrivateMail || !addresses.Any(IsBehind) ? addresses : throw new ConflictException(Refusal(host));
    }
}
