using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using static Bandeja.Core.Starters.Nodes;

namespace Bandeja.Core.Starters;

/// <summary>Two emails to start from.</summary>
static class EmailStarters
{
    internal static readonly IReadOnlyList<Starter> All =
    [
        new("email-news", PieceKind.Email, "News by email", "A headline, a short text, and what is coming up.", News),
        new("email-reminder", PieceKind.Email, "Reminder by email", "A short reminder with one request.", Reminder),
    ];

    static JsonObject News(StarterWords w) =>
        Email(
            w,
            w.Name.Length > 0 ? $"News from {w.Name}" : "News",
            "What is new, in two minutes",
            [
                P(T("What is new", 22, "#1e5b4a", bold: true)),
                P(F("Salutation")),
                P("Begin with the one thing that your readers should remember. Two or three sentences are enough."),
                P(T("Coming up", 15, "#1e5b4a", bold: true)),
                Bullets("the first date, and what happens", "the second date, and what happens"),
                P("Thank you for reading."),
                P(w.SignerShown),
            ]
        );

    static JsonObject Reminder(StarterWords w) =>
        Email(
            w,
            "A short reminder",
            "It takes a minute",
            [
                P(F("Salutation")),
                P("This is a short reminder. Say what it is about, and by when you would like an answer."),
                P(T("If you have already answered, thank you, and please disregard this message.", color: "#5b625e")),
                P("Kind regards,", Br(), w.SignerShown, Br(), w.NameShown),
            ]
        );

    static JsonObject Email(StarterWords w, string subject, string preview, JsonObject[] content) =>
        new()
        {
            ["kind"] = "email",
            ["subject"] = subject,
            ["preheader"] = preview,
            ["fromName"] = w.Name,
            ["fromAddress"] = w.Email,
            ["content"] = new JsonArray([.. content]),
        };
}
