using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using static Bandeja.Core.Starters.Nodes;

namespace Bandeja.Core.Starters;

/// <summary>Letters to start from: three letters, a notice, a thank-you, and an invitation.</summary>
static class LetterStarters
{
    const string Green = "#1e5b4a";
    const string Clay = "#9a4a1f";
    const string Gray = "#5b625e";

    internal static readonly IReadOnlyList<Starter> All =
    [
        new("letter-formal", PieceKind.Letter, "Formal letter", "A letterhead above a rule, address, date, and signature.", Formal),
        new("letter-modern", PieceKind.Letter, "Modern letter", "Sans serif, with the sender's address at the right.", Modern),
        new("letter-personal", PieceKind.Letter, "Personal letter", "A short letter with a handwritten signature.", Personal),
        new("notice", PieceKind.Letter, "Notice", "A headline, what changes, and when.", Notice),
        new("thank-you", PieceKind.Letter, "Thank-you", "Thanks for a gift, centered and warm.", ThankYou),
        new("invitation", PieceKind.Letter, "Invitation", "An event with its date, time, and place.", Invitation),
    ];

    static JsonObject Formal(StarterWords w) =>
        Letter(
            w,
            Type("Source Serif 4", 11, 1.35, 9),
            [
                P(T(w.NameShown, 18, Green, bold: true)),
                Lines(null, 9, [string.Join(" · ", w.AddressShown)], Gray),
                Rule(),
                P(F("Delivery address")),
                P(F("Today | date long")),
                P(F("Salutation")),
                P("Thank you for being part of our work this year. Write here what this letter is about, in a sentence or two."),
                P("Say in the next paragraph what you ask of your reader, and by when. Keep it to one request."),
                P("If you have a question, please call or write to us. We are glad to help."),
                .. Signed(w, "Sincerely,"),
            ]
        );

    static JsonObject Modern(StarterWords w) =>
        Letter(
            w,
            Type("Source Sans 3", 10.5, 1.4, 8),
            [
                Aligned("right", T(w.NameShown, 14, Clay, bold: true)),
                Lines("right", 9, w.AddressShown, Gray),
                P(F("Delivery address")),
                P(F("Today | date long")),
                P(T("What this letter is about, in one line", 15, Clay, bold: true)),
                P(F("Salutation")),
                P("Begin with the news. Two or three sentences are enough to say what has changed and why it matters."),
                Bullets("the first thing to know", "the second thing to know", "what to do next, and by when"),
                P("Thank you for reading this far."),
                .. Signed(w, "Kind regards,"),
            ]
        );

    static JsonObject Personal(StarterWords w) =>
        Letter(
            w,
            Type("Gelasio", 12, 1.4, 10),
            [
                Aligned("right", F("Today | date long")),
                P(F("Delivery address")),
                P(F("Salutation")),
                P("I am writing to you myself because this matters to me. Say here, as you would at a table, what you have to say."),
                P("It would mean a lot to hear from you."),
                P("Yours truly,"),
                P(T(w.SignerShown, 26, "#24332d", "Caveat")),
                .. Under(w),
            ]
        );

    static JsonObject Notice(StarterWords w) =>
        Letter(
            w,
            Type("Carlito", 11.5, 1.35, 8),
            [
                P(T(w.NameShown, 10, Gray, bold: true)),
                P(F("Delivery address")),
                P(T("Notice", 26, Green, bold: true)),
                P(F("Today | date long")),
                Rule(),
                P(F("Salutation")),
                P(T("What changes: ", bold: true), "say in one sentence what will be different."),
                P(T("When: ", bold: true), "give the date and the time."),
                P(T("What you need to do: ", bold: true), "say it plainly, or write that nothing needs to be done."),
                Rule(),
                Lines(null, 10, ["Questions? Write to us:", w.NameShown, .. w.AddressShown], Gray),
            ]
        );

    static JsonObject ThankYou(StarterWords w) =>
        Letter(
            w,
            Type("Source Serif 4", 12, 1.45, 10),
            [
                P(F("Delivery address")),
                Aligned("center", T("Thank you", 40, Clay, "Caveat", bold: true)),
                P(F("Salutation")),
                P("Your gift arrived, and it is already at work. Say here what it makes possible, with one thing your reader can picture."),
                P("We could not do this without you, and we do not take it for granted."),
                .. Signed(w, "With our warmest thanks,"),
                Lines("center", 9, [w.NameShown, .. w.AddressShown], Gray),
            ]
        );

    static JsonObject Invitation(StarterWords w) =>
        Letter(
            w,
            Type("Gelasio", 13, 1.5, 12),
            [
                P(F("Delivery address")),
                Aligned("center", T(w.NameShown, 12, Green, bold: true)),
                Aligned("center", T("invites you", 12, Gray)),
                Aligned("center", T("An evening with us", 30, Green, bold: true)),
                Rule(),
                Aligned("center", T("Saturday, the date you choose", 15, bold: true), Br(), T("at 6 PM")),
                Lines("center", 12, w.AddressShown),
                Rule(),
                P(F("Salutation")),
                P("We would be happy to see you there. Bring this letter, and please let us know whether you can come."),
                .. Signed(w, "We hope to see you,"),
            ]
        );

    static JsonObject[] Signed(StarterWords w, string closing) =>
        [P(closing), P(T(w.SignerShown, 22, "#24332d", "Caveat")), P([w.SignerShown, .. Titled(w)])];

    static object[] Titled(StarterWords w) => w.SignerTitle.Length > 0 ? [Br(), w.SignerTitle] : [];

    static JsonObject[] Under(StarterWords w) => w.SignerTitle.Length > 0 ? [P($"{w.SignerTitle}, {w.NameShown}")] : [P(w.NameShown)];

    static JsonObject Letter(StarterWords w, JsonObject type, JsonObject[] content) =>
        new()
        {
            ["page"] = new JsonObject
            {
                ["sheet"] = w.Sheet,
                ["margins"] = new JsonObject
                {
                    ["top"] = 22,
                    ["right"] = 26,
                    ["bottom"] = 20,
                    ["left"] = 26,
                },
            },
            ["type"] = type,
            ["maxPages"] = 1,
            ["content"] = new JsonArray([.. content]),
        };
}
