using System.Text.Json;
using System.Text.Json.Nodes;
using Bandeja.Core.Composition;

namespace Bandeja.Core.Emails;

/// <summary>Reads the stored form of an email: its headers, its content in the letters' own form, what is attached. <c>docs/email.md</c>
/// describes it.</summary>
public static class EmailReader
{
    /// <summary>The most that is attached.</summary>
    public const int MostAttachments = 20;
    const int MaxNodes = 20_000,
        LongestHeader = 2000;
    const double TextWidth = 552 * 0.75; // 600 CSS pixels less 24 on each side

    /// <summary>Reads an email.</summary>
    /// <exception cref="LetterFormatException">It is none, or a measure is out of range.</exception>
    public static EmailDesign Read(JsonObject root)
    {
        try
        {
            var type = root["type"]?.AsObject();
            var style = new TextStyle(
                (string?)type?["family"] ?? "Source Sans 3",
                LetterReader.Within((double?)type?["size"] ?? 12, 4, 144, "type size")
            );
            var page = new PageSetup(TextWidth, 20_000, 0, 0, 0, 0);
            var reader = new BlockReader(
                style,
                LetterReader.Within((double?)type?["lineSpacing"] ?? 1.45, 0.8, 4, "line spacing"),
                LetterReader.Within((double?)type?["spaceAfter"] ?? 10, 0, 200, "space after a paragraph"),
                page,
                "email"
            );
            var blocks = reader.Blocks(root["content"]);
            if (reader.Count > MaxNodes)
                throw new LetterFormatException($"The email has more than {MaxNodes:N0} parts.");
            string Header(string name) =>
                (string?)root[name] is { } text
                    ? text.Length <= LongestHeader
                        ? text.Trim()
                        : throw new LetterFormatException($"The {name} has more than {LongestHeader:N0} characters.")
                    : "";
            var attachments = (root["attachments"]?.AsArray() ?? []).Select(a => Attachment(a!.AsObject())).ToList();
            if (attachments.Count > MostAttachments)
                throw new LetterFormatException($"An email can have {MostAttachments} attachments; this one has {attachments.Count}.");
            return new(
                TextWidth,
                Header("subject"),
                Header("preheader"),
                Header("fromName"),
                Header("fromAddress"),
                Header("replyTo"),
                Header("to"),
                Header("cc"),
                Header("bcc"),
                (string?)root["format"] == "text",
                (bool?)root["unsubscribe"] ?? true,
                (long)(LetterReader.Within((double?)root["sizeLimit"] ?? 10, 0.1, 50, "size limit in megabytes") * 1_000_000),
                style,
                blocks,
                attachments,
                (bool?)root["copiesWhole"] ?? false
            );
        }
        catch (Exception e)
            when (e is JsonException or InvalidOperationException or NullReferenceException or FormatException or OverflowException)
        {
            throw new LetterFormatException("The email could not be read because its format is not valid.");
        }
    }

    static MailAttach Attachment(JsonObject a)
    {
        var name = (string?)a["name"] ?? "";
        switch ((string?)a["kind"])
        {
            case "design":
                var asDocument = (string?)a["as"] switch
                {
                    "docx" => true,
                    "pdf" or null => false,
                    var other => throw new LetterFormatException($"A design is attached as PDF or as DOCX, not as “{other}”."),
                };
                var password = (string?)a["password"] is { } p && !string.IsNullOrWhiteSpace(p) ? p : null;
                if (asDocument && password is not null)
                    throw new LetterFormatException("A DOCX has no password. Attach the design as PDF, or take the password away.");
                return new DesignAttach(
                    (long?)a["designId"] ?? throw new LetterFormatException("An attachment has no design."),
                    name,
                    password,
                    asDocument
                );
            case "file":
                var file = (string?)a["file"] ?? "";
                if (file.Length != 64 || !file.All(char.IsAsciiHexDigitLower))
                    throw new LetterFormatException("An attachment has no valid file.");
                return new FileAttach(file, name, (long?)a["size"] ?? 0);
            case "folder":
                return new FolderAttach(
                    (long?)a["folderId"] ?? throw new LetterFormatException("An attachment has no folder."),
                    (string?)a["source"] ?? "",
                    name
                );
            default:
                throw new LetterFormatException($"“{(string?)a["kind"]}” is not a known kind of attachment.");
        }
    }
}
