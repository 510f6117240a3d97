using System.Net;
using System.Text;
using Bandeja.Core.Composition;
using Bandeja.Core.Mail;

namespace Bandeja.Core.Emails;

/// <summary>
/// What stands around every HTML body: 600 CSS pixels at most and the window's width on a phone, text that can be read by day and by
/// night, and nothing that is fetched from anywhere.
/// </summary>
static class MailFrame
{
    /// <summary>Room after the preheader that shows nothing, so that an inbox does not go on with the first words of the body.</summary>
    static readonly string Padding = string.Concat(Enumerable.Repeat("&#847;&zwnj;&nbsp;", 90));

    /// <summary>The HTML of a message.</summary>
    /// <param name="preheader">What an inbox shows beside the subject; hidden in the message itself.</param>
    /// <param name="language">A language tag (RFC 5646).</param>
    public static string Of(string subject, string preheader, string body, MailFootLines? foot, string language, TextStyle type)
    {
        var html = new StringBuilder();
        html.Append("<!DOCTYPE html>\n<html lang=\"")
            .Append(WebUtility.HtmlEncode(language))
            .Append(
                $"\" dir=\"{(IsRightToLeft(language) ? "rtl" : "ltr")}\">\n<head>\n<meta charset=\"utf-8\">\n<meta "
                    + "name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n<meta name=\"color-scheme\" "
                    + "content=\"light dark\">\n<meta name=\"supported-color-schemes\" content=\"light dark\">\n<title>"
            )
            .Append(WebUtility.HtmlEncode(subject))
            .Append(
                "</title>\n<style>\n@media (prefers-color-scheme: dark) { body, .bd-ground { background:#191b1a !important } "
                    + ".bd-page { background:#222624 !important } .bd { color:#e8e6df !important } .bd-link { color:#8fc7ad "
                    + "!important } }\n@media (max-width: 480px) { .bd-pad { padding:16px !important } "
                    + "}\n</style>\n</head>\n<body style=\"margin:0;padding:0;background:#f4f2ec\">\n"
            );
        if (preheader.Length > 0)
            html.Append("<div style=\"display:none;max-height:0;overflow:hidden\">")
                .Append(WebUtility.HtmlEncode(preheader))
                .Append(Padding)
                .Append("</div>\n");
        html.Append(
                "<table role=\"presentation\" class=\"bd-ground\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\" width=\"100%\" "
                    + "style=\"background:#f4f2ec\"><tr><td align=\"center\" style=\"padding:16px 0\">\n<table role=\"presentation\" "
                    + "class=\"bd-page\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\" width=\"600\" "
                    + "style=\"width:100%;max-width:600px;background:#ffffff\"><tr><td class=\"bd-pad\" style=\"padding:24px\">\n"
            )
            .Append(body);
        if (foot is not null)
        {
            html.Append(
                    "<p class=\"bd\" "
                        + $"style=\"font-family:{Family(type.Family)};font-size:12px;line-height:1.5;color:#5f5b50;margin:24px 0 0 "
                        + "0;padding:12px 0 0 0;border-top:1px solid #d8d3c5\">"
                )
                .Append(string.Join("<br>", foot.Lines.Select(WebUtility.HtmlEncode)))
                .Append(
                    $"<br><a class=\"bd-link\" href=\"{ComposedMail.UnsubscribeLink}\" "
                        + $"style=\"color:#1d5a44\">{WebUtility.HtmlEncode(MailFoot.LinkText)}</a></p>\n"
                );
        }
        return html.Append("</td></tr></table>\n</td></tr></table>\n</body>\n</html>\n").ToString();
    }

    /// <summary>The faces of a paper family as a mail program may have them: the family itself, then what every system has.</summary>
    public static string Family(string family)
    {
        bool Has(string part) => family.Contains(part, StringComparison.OrdinalIgnoreCase);
        var everywhere =
            Has("Mono") || Has("Courier") ? "'Courier New',monospace"
            : Has("Serif") ? "Georgia,'Times New Roman',serif"
            : Has("Caveat") ? "cursive"
            : "Helvetica,Arial,sans-serif";
        return $"'{family.Replace("'", "", StringComparison.Ordinal).Replace("\"", "", StringComparison.Ordinal)}',{everywhere}";
    }

    static bool IsRightToLeft(string language) => language.Split('-')[0] is "ar" or "he" or "fa" or "ur";
}

/// <summary>The foot of a message.</summary>
/// <param name="Lines">The sender's name and postal address.</param>
sealed record MailFootLines(IReadOnlyList<string> Lines);

/// <summary>Who sent it, from which postal address (15 U.S.C. 7704(a)(5)), and how to end it.</summary>
static class MailFoot
{
    /// <summary>What the link says.</summary>
    public const string LinkText = "Unsubscribe";

    /// <summary>The foot of an organization's messages.</summary>
    public static MailFootLines Of(LetterSetting setting) =>
        new([.. new[] { setting.Sender }.Concat(setting.SenderAddress.Split('\n')).Select(l => l.Trim()).Where(l => l.Length > 0)]);

    /// <summary>The foot in plain text; the line before it is the sign that what follows is no text of the message (RFC 3676, section
    /// 4.3).</summary>
    public static string Plain(MailFootLines foot) =>
        $"\n-- \n{string.Join('\n', foot.Lines)}\n{LinkText}: {ComposedMail.UnsubscribeLink}\n";
}
