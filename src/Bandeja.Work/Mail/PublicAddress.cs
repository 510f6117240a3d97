using System.Net;
using Bandeja.Store;
using Bandeja.Work.Hosting;

namespace Bandeja.Work.Mail;

/// <summary>Where recipients find our page: under the address that the settings name, else under our own, which only this machine
/// reaches.</summary>
public sealed class PublicAddress(SettingStore settings, ServerOptions options)
{
    /// <summary>The port that the server listens on, once it does.</summary>
    public int Port { get; set; } = options.Port;

    /// <summary>The address without a slash at its end.</summary>
    public string Root => RootOf(settings.Organization());

    /// <summary>The address before a recipient's token.</summary>
    public string Unsubscribe => $"{Root}/unsubscribe/";

    /// <summary>The address before a recipient's token, as the settings named it at another time.</summary>
    public string UnsubscribeOf(Organization then) => $"{RootOf(then)}/unsubscribe/";

    string RootOf(Organization organization) =>
        organization.PublicAddress is { Length: > 0 } set ? set.TrimEnd('/') : $"http://127.0.0.1:{Port}";

    /// <summary>The name under which recipients ask for our page; null where none is set.</summary>
    public string? Host => Uri.TryCreate(settings.Organization().PublicAddress, UriKind.Absolute, out var uri) ? uri.Host : null;

    /// <summary>The name by which mail servers are greeted: the public one, else this machine's own.</summary>
    public string Greeting =>
        Host is { } known && IsReachable ? known
        : Dns.GetHostName() is { Length: > 0 } own ? own
        : "localhost";

    /// <summary>True where the settings name an address that others can reach.</summary>
    public bool IsReachable => Uri.TryCreate(settings.Organization().PublicAddress, UriKind.Absolute, out var uri) && !uri.IsLoopback;

    /// <summary>Why nothing may be sent to recipients with the link; null where it may. Tests and the practice post office are no
    /// recipients.</summary>
    public string? Objection =>
        IsReachable
            ? null
            : "The email has a link that ends further mail, and recipients could not reach it: this server has no public address. "
                + "Set it in Settings, or take the link off the email. Tests and the practice account work without.";

    /// <summary>What keeps a link from working for recipients; null where nothing does.</summary>
    public string? Remark =>
        settings.Organization().PublicAddress is not { Length: > 0 } set || !IsReachable
            ? "The unsubscribe link points to this computer, which recipients cannot reach. Set the public address in Settings."
        : set.StartsWith("https://", StringComparison.OrdinalIgnoreCase) ? null
        : "The public address does not start with https://. One-click unsubscribe works only over https (RFC 8058).";
}
