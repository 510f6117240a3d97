using Bandeja.Store;

namespace Bandeja.Server.Mail;

/// <summary>Where recipients find our page: under the address that the settings name, else under our own, which only this machine reaches.</summary>
public sealed class PublicAddress(SettingStore settings, ServerOptions options)
{
    /// <summary>The port that the server listens on, once it does.</summary>
    public int Port { get; set; } = options.Port;

    /// <summary>The address without a slash at its end.</summary>
    public string Root => settings.Organisation().PublicAddress is { Length: > 0 } set ? set.TrimEnd('/') : $"http://127.0.0.1:{Port}";

    /// <summary>The address before a recipient's token.</summary>
    public string Unsubscribe => $"{Root}/unsubscribe/";

    /// <summary>The name under which recipients ask for our page; null where none is set.</summary>
    public string? Host => Uri.TryCreate(settings.Organisation().PublicAddress, UriKind.Absolute, out var uri) ? uri.Host : null;

    /// <summary>What keeps a link from working for recipients; null where nothing does.</summary>
    public string? Remark => settings.Organisation().PublicAddress is not { Length: > 0 } set ? "The link that ends further mail leads to this machine, which recipients cannot reach. Set the public address in Settings."
        : set.StartsWith("https://", StringComparison.OrdinalIgnoreCase) ? null : "The public address does not begin with https://, and mail programs end mail with one click only through https (RFC 8058).";
}
