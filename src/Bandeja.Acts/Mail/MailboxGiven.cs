using Bandeja.Core.Mail;
using Bandeja.Store;

namespace Bandeja.Acts.Mail;

static class MailboxGiven
{
    /// <summary>True for the name or the address of a server.</summary>
    public static bool IsHost(string host) => !string.IsNullOrWhiteSpace(host) && Uri.CheckHostName(host.Trim()) != UriHostNameType.Unknown;

    /// <summary>An email address.</summary>
    /// <param name="whose">Whose it is, for the sentence that asks for it.</param>
    public static string Address(string? text, string whose) =>
        MailAddresses.One(text ?? "")?.Address ?? throw new BadInputException($"“{text}” is not an email address. Enter the {whose}’s.");
}
