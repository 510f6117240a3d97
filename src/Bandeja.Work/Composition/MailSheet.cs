using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Mail;

namespace Bandeja.Work.Composition;

/// <summary>A message as it can be printed: its headers, what is attached, its plain text.</summary>
public sealed class MailSheet(Letters letters)
{
    /// <summary>The sheets of a message.</summary>
    public ComposedPiece Of(ComposedMail mail)
    {
        // Names and values may hold braces, which are no fields here.
        JsonObject Text(string text, bool bold = false) =>
            new()
            {
                ["type"] = "text",
                ["text"] = Template.Escape(text.Length == 0 ? " " : text),
                ["marks"] = bold ? new JsonArray(new JsonObject { ["type"] = "bold" }) : new JsonArray(),
            };
        JsonObject Line(string name, string text) =>
            new()
            {
                ["type"] = "paragraph",
                ["attrs"] = new JsonObject { ["spaceAfter"] = 1 },
                ["content"] = new JsonArray(Text($"{name}: ", true), Text(text)),
            };
        var document = new JsonObject
        {
            ["page"] = new JsonObject { ["sheet"] = letters.Sheet },
            ["type"] = new JsonObject
            {
                ["family"] = "Source Sans 3",
                ["size"] = 11,
                ["lineSpacing"] = 1.35,
                ["spaceAfter"] = 4,
            },
            ["content"] = new JsonArray(
                [
                    Line("From", $"{mail.From}"),
                    Line("To", $"{mail.To}"),
                    .. mail.Cc.Count > 0 ? new[] { Line("Copy", string.Join(", ", mail.Cc)) } : [],
                    Line("Subject", mail.Subject),
                    .. mail.Attachments.Select(a => Line("Attached", a.FileName + (a.Password is null ? "" : ", protected"))),
                    new JsonObject { ["type"] = "horizontalRule" },
                    .. mail
                        .Text.TrimEnd()
                        .Split('\n')
                        .Select(l => new JsonObject { ["type"] = "paragraph", ["content"] = new JsonArray(Text(l)) }),
                ]
            ),
        };
        return DesignReader
            .Bind(document.ToJsonString(), new LetterSetting([], OrganizationLocale.UnitedStates, letters.Fonts))
            .Composer(default)
            .Compose(new ArrayRow([]), 0);
    }
}
