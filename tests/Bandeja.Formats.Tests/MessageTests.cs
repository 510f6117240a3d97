using System.Text;
using Bandeja.Core.Barcodes;
using Bandeja.Core.Mail;
using Bandeja.Formats.Mail;
using Bandeja.Formats.Pdf;
using FsCheck.Xunit;
using MimeKit;
using SkiaSharp;

namespace Bandeja.Formats.Tests;

/// <summary>Messages as they go out, and the reports that come back.</summary>
public sealed class MessageTests
{
    static readonly DateTimeOffset At = new(2027, 3, 1, 9, 30, 0, TimeSpan.FromHours(-8));

    static ComposedMail Mail(
        string subject = "Your letter",
        string? html = "<p>Hello <img src=\"cid:picture-1@body.invalid\"></p>",
        bool unsubscribe = true
    ) =>
        new(
            subject,
            "",
            new("Garden, Fernquay", "office@example.org"),
            new("Ana \"Bo\" Okafor", "ana@example.org"),
            [new("Desk", "desk@example.org")],
            [new("", "copy@example.org")],
            [new("", "blind@example.org")],
            html,
            $"Hello\n\n-- \n{ComposedMail.UnsubscribeLink}\n",
            [new("picture-1@body.invalid", "photo", null, 40, 20)],
            [],
            unsubscribe,
            []
        );

    static byte[] Png(int width, int height)
    {
        using var bitmap = new SKBitmap(width, height);
        using var data = bitmap.Encode(SKEncodedImageFormat.Png, 100);
        return data.ToArray();
    }

    static MimeMessage Made(ComposedMail mail, bool test = false, params MessageFile[] files) =>
        MessageMaker.Make(
            mail,
            new("7.0001.ab@example.org", At, "https://mail.example.org/unsubscribe/t", test),
            _ => (Png(2, 2), "image/png"),
            files
        );

    static MimeMessage Read(MimeMessage message) => MimeMessage.Load(new MemoryStream(MessageMaker.Bytes(message)));

    [Fact]
    public void A_message_has_every_part_where_programs_look_for_it()
    {
        var read = Read(Made(Mail(), files: [new("Brief für Ana.pdf", "%PDF-1.7"u8.ToArray()), new("terms.txt", "The terms"u8.ToArray())]));
        Assert.Equal(
            ("\"Garden, Fernquay\" <office@example.org>", "\"Ana \\\"Bo\\\" Okafor\" <ana@example.org>", "Your letter", At),
            (read.From.ToString(), read.To.ToString(), read.Subject, read.Date)
        );
        Assert.Equal(("copy@example.org", "\"Desk\" <desk@example.org>"), (read.Cc.ToString(), read.ReplyTo.ToString()));
        Assert.Equal("7.0001.ab@example.org", read.MessageId);
        Assert.Equal(
            ("<https://mail.example.org/unsubscribe/t>", "List-Unsubscribe=One-Click"),
            (read.Headers["List-Unsubscribe"], read.Headers["List-Unsubscribe-Post"])
        );
        var mixed = Assert.IsType<Multipart>(read.Body, exactMatch: false);
        var alternative = Assert.IsType<MultipartAlternative>(mixed[0]);
        Assert.Equal(("text/plain", "multipart/related"), (alternative[0].ContentType.MimeType, alternative[1].ContentType.MimeType));
        Assert.Contains("https://mail.example.org/unsubscribe/t", read.TextBody);
        Assert.Equal("picture-1@body.invalid", ((MultipartRelated)alternative[1])[1].ContentId);
        Assert.Equal(["Brief für Ana.pdf", "terms.txt"], read.Attachments.Cast<MimePart>().Select(a => a.FileName));
        Assert.Equal("application/pdf", read.Attachments.First().ContentType.MimeType);
        // A blind copy stands nowhere in it; whom it is delivered to, the envelope says.
        Assert.DoesNotContain("blind@", Encoding.UTF8.GetString(MessageMaker.Bytes(Made(Mail()))));
        Assert.Equal(["ana@example.org"], MessageMaker.Envelope(Mail()).Select(m => m.Address));
        Assert.All(
            Encoding.ASCII.GetString(MessageMaker.Bytes(Made(Mail()))).Split("\r\n"),
            line => Assert.True(line.Length <= 998 && !line.Contains('\n'))
        );
    }

    [Fact]
    public void The_same_message_has_the_same_bytes_and_two_never_share_a_boundary()
    {
        Assert.Equal(
            MessageMaker.Bytes(Made(Mail(), files: new MessageFile("a.pdf", [1]))),
            MessageMaker.Bytes(Made(Mail(), files: new MessageFile("a.pdf", [1])))
        );
        var other = MessageMaker.Make(Mail(), new("7.0002.cd@example.org", At, null), _ => null, [new("a.pdf", [1])]);
        Assert.NotEqual(((Multipart)Made(Mail(), files: new MessageFile("a.pdf", [1])).Body!).Boundary, ((Multipart)other.Body!).Boundary);
        Assert.Null(other.Headers["List-Unsubscribe"]);
    }

    [Fact]
    public void A_test_says_so_and_goes_to_nobody_else()
    {
        var test = Made(Mail(), test: true);
        Assert.Equal("[Test] Your letter", test.Subject);
        Assert.Empty(test.Cc);
        Assert.Single(MessageMaker.Envelope(Mail()));
        Assert.IsType<MultipartAlternative>(Made(Mail() with { Pictures = [] }).Body);
        Assert.IsType<TextPart>(Made(Mail(html: null)).Body);
        Assert.Throws<InvalidOperationException>(() => Made(Mail() with { To = null }));
    }

    [Property]
    public void No_text_ends_a_header_or_a_part(string? subject, string? name, string? body)
    {
        var mail = Mail(HeaderText.Clean(subject ?? "")) with
        {
            To = new(HeaderText.Clean(name ?? ""), "ana@example.org"),
            Html = null,
            Text = (body ?? "").Replace("\0", "", StringComparison.Ordinal),
        };
        var read = Read(Made(mail, files: new MessageFile(Core.Formulas.FileNames.Safe(name ?? "", "file") + ".pdf", [1, 2, 3])));
        Assert.Equal("ana@example.org", read.To.Mailboxes.Single().Address);
        Assert.Single(read.Attachments);
        Assert.Equal(["Bcc"], read.Headers.Select(h => h.Field).Where(f => f == "Bcc").DefaultIfEmpty("Bcc"));
        Assert.Equal(2, ((Multipart)read.Body!).Count);
    }

    [Fact]
    public void Drawings_and_barcodes_become_pictures_that_programs_show()
    {
        var svg = PictureFile.Read(
            Encoding.UTF8.GetBytes(
                "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 10 10\"><rect width=\"5\" height=\"10\" fill=\"#ff0000\"/></svg>"
            )
        );
        var drawn = MailPictures.Of(svg, 50, 50)!.Value;
        Assert.Equal("image/png", drawn.MediaType);
        using var bitmap = SKBitmap.Decode(drawn.Data);
        Assert.Equal(
            (100, 100, new SKColor(255, 0, 0), (byte)0),
            (bitmap.Width, bitmap.Height, bitmap.GetPixel(20, 50), bitmap.GetPixel(80, 50).Alpha)
        );
        var code = MailPictures.Of(Symbol.Of(Symbology.Qr, "F-00412"), 120, 120);
        using var qr = SKBitmap.Decode(code.Data);
        Assert.Equal(
            "F-00412",
            new ZXing.BarcodeReaderGeneric()
                .Decode(new ZXing.RGBLuminanceSource(qr.Bytes, qr.Width, qr.Height, ZXing.RGBLuminanceSource.BitmapFormat.RGBA32))
                .Text
        );
        Assert.Equal("image/png", MailPictures.Of(PictureFile.Read(Png(3, 3)), 3, 3)!.Value.MediaType);
    }

    static string Report(
        string status = "5.1.1",
        string action = "failed",
        string recipient = "rfc822; ana@example.org",
        string returned = "Content-Type: text/rfc822-headers\r\n\r\nMessage-ID: <7.0001.ab@example.org>\r\n"
    ) =>
        "From: postmaster@example.net\r\nTo: office@example.org\r\nMIME-Version: 1.0\r\nContent-Type: multipart/report; "
        + "report-type=delivery-status; boundary=b\r\n\r\n--b\r\nContent-Type: text/plain\r\n\r\nNo.\r\n--b\r\nContent-Type: "
        + $"message/delivery-status\r\n\r\nReporting-MTA: dns; example.net\r\n\r\nFinal-Recipient: {recipient}\r\nAction: "
        + $"{action}\r\nStatus: {status}\r\nDiagnostic-Code: smtp; 550 no such user\r\n--b\r\n{returned}--b--\r\n";

    static IReadOnlyList<ReportedDelivery> Said(string text)
    {
        var raw = Encoding.UTF8.GetBytes(text);
        return DeliveryReport.Read(MimeMessage.Load(new MemoryStream(raw)), raw);
    }

    [Fact]
    public void A_report_tells_whom_and_why()
    {
        var said = Assert.Single(Said(Report()));
        Assert.Equal(
            ("7.0001.ab@example.org", "ana@example.org", "failed", "5.1.1", "550 no such user"),
            (said.MessageId, said.Address, said.Action, said.Status, said.Words)
        );
        Assert.Equal(
            "7.0001.ab@example.org",
            Assert
                .Single(
                    Said(
                        Report(
                            returned: "Content-Type: message/rfc822\r\n\r\nMessage-ID: <7.0001.ab@example.org>\r\nSubject: "
                                + "x\r\n\r\nHello\r\n"
                        )
                    )
                )
                .MessageId
        );
        Assert.Null(Assert.Single(Said(Report(returned: "Content-Type: text/plain\r\n\r\nnothing\r\n"))).MessageId);
        Assert.Equal("5.0.0", Assert.Single(Said(Report(status: "bad"))).Status);
        Assert.Empty(Said(Report(action: "exploded")));
        Assert.Empty(Said(Report(recipient: "rfc822;")));
        Assert.False(DeliveryReport.Is(Made(Mail())));
        // What we write ourselves is read by the same reader.
        var own = DeliveryReport.Write(Made(Mail()), "ana@example.org", "4.4.1", "421 gone fishing", "practice", At);
        Assert.Equal(
            ("delayed", "4.4.1", "421 gone fishing", "7.0001.ab@example.org"),
            Assert.Single(DeliveryReport.Read(Read(own), [])) is var r ? (r.Action, r.Status, r.Words, r.MessageId) : default
        );
    }

    [Fact]
    public void A_copy_carries_nothing_of_the_recipients_own()
    {
        var mail = Mail() with
        {
            Cc = [new("", "board@example.org")],
            Bcc = [new("", "BOARD@example.org"), new("", "archive@example.org")],
            Attachments = [new("own.pdf", 7, null, null, 0, true), new("map.pdf", null, null, new string('a', 64), 10)],
        };
        Assert.Equal(["board@example.org", "archive@example.org"], MessageMaker.Copies(mail).Select(m => m.Address));
        Assert.Equal("ana@example.org", Assert.Single(MessageMaker.Envelope(mail)).Address);
        Assert.Equal(["map.pdf"], mail.Copy!.Attachments.Select(a => a.FileName));
        Assert.False(mail.Copy.Unsubscribe);
        var copy = MessageMaker.Make(mail.Copy, new("7.0001.ab@example.org", At, null), _ => null, []);
        Assert.Null(copy.Headers["List-Unsubscribe"]);
        var whole = mail with { CopiesWhole = true };
        Assert.Same(whole, whole.Copy);
        Assert.Null((Mail() with { Cc = [], Bcc = [] }).Copy);
    }

    [Fact]
    public void No_header_leads_a_mail_program_to_its_own_machine()
    {
        foreach (
            var (link, stands) in new[]
            {
                ("http://127.0.0.1:5280/unsubscribe/x", false),
                ("http://localhost/unsubscribe/x", false),
                ("http://[::1]/x", false),
                ("https://mail.example.org/unsubscribe/x", true),
            }
        )
            Assert.Equal(
                stands,
                MessageMaker.Make(Mail(), new("7.0001.ab@example.org", At, link), _ => null, []).Headers["List-Unsubscribe"] is not null
            );
    }

    [Fact]
    public void A_bounce_of_plain_text_is_read()
    {
        const string text =
            "From: MAILER-DAEMON@mx.example.net\r\nTo: office@example.org\r\nDate: Thu, 4 Mar 2027 10:00:00 +0000\r\nSubject: "
            + "failure notice\r\n\r\nHi. This is the qmail-send program at mx.example.net.\r\nI'm afraid I wasn't able to deliver "
            + "your message to the following addresses.\r\nThis is a permanent error; I've given up. Sorry it didn't work "
            + "out.\r\n\r\n<ana@example.org>:\r\nSorry, no mailbox here by that name. "
            + "(#5.1.1)\r\n\r\n<per@example.org>:\r\n192.0.2.9 does not like recipient.\r\nRemote host said: 550 no "
            + "such user\r\n\r\n--- Below this line is a copy of the message.\r\n\r\nReturn-Path: "
            + "<office@example.org>\r\nMessage-ID: <7.0001.ab@example.org>\r\nTo: "
            + "<someone@example.org>\r\n\r\n<not@an.address>:\r\n";
        var said = Said(text);
        Assert.Equal(
            [("ana@example.org", "5.1.1", "7.0001.ab@example.org"), ("per@example.org", "5.0.0", "7.0001.ab@example.org")],
            said.Select(r => (r.Address, r.Status, r.MessageId))
        );
        Assert.All(said, r => Assert.Equal("failed", r.Action));
        Assert.Equal(new DateTimeOffset(2027, 3, 4, 10, 0, 0, TimeSpan.Zero), said[0].At);
        // Without the returned message there is the address and the time.
        Assert.All(Said(text[..text.IndexOf("--- Below")]), r => Assert.Null(r.MessageId));
        Assert.True(DeliveryReport.Is(MimeMessage.Load(new MemoryStream(Encoding.UTF8.GetBytes(text)))));
        Assert.False(
            DeliveryReport.Is(
                MimeMessage.Load(new MemoryStream(Encoding.UTF8.GetBytes("From: a@example.org\r\n\r\nHi. Thanks for the letter!\r\n")))
            )
        );
    }

    [Fact]
    public void A_complaint_is_read()
    {
        const string text =
            "From: fbl@example.net\r\nTo: office@example.org\r\nMIME-Version: 1.0\r\nContent-Type: multipart/report; "
            + "report-type=feedback-report; boundary=b\r\n\r\n--b\r\nContent-Type: text/plain\r\n\r\nThis is an abuse "
            + "report.\r\n--b\r\nContent-Type: message/feedback-report\r\n\r\nFeedback-Type: abuse\r\nUser-Agent: "
            + "Some/1.0\r\nVersion: 1\r\nOriginal-Rcpt-To: <ana@example.org>\r\n\r\n--b\r\nContent-Type: "
            + "message/rfc822\r\n\r\nMessage-ID: <7.0001.ab@example.org>\r\nTo: ana@example.org\r\nSubject: "
            + "x\r\n\r\nHello\r\n--b--\r\n";
        var said = Assert.Single(Said(text));
        Assert.Equal(("ana@example.org", "complained", "7.0001.ab@example.org"), (said.Address, said.Action, said.MessageId));
        // Some leave the recipient out: then it stands in the returned message.
        Assert.Equal("ana@example.org", Assert.Single(Said(text.Replace("Original-Rcpt-To: <ana@example.org>\r\n", ""))).Address);
    }

    [Property]
    public void Nothing_that_arrives_breaks_the_reader(string? a, string? b, string? c)
    {
        var text = Report(a ?? "", b ?? "", c ?? "", $"Content-Type: text/rfc822-headers\r\n\r\n{a}{b}\r\n");
        try
        {
            Said(text);
        }
        catch (FormatException) { } // no message at all
    }

    [Theory]
    [InlineData("Return-Path: <>\r\nFrom: someone@example.net\r\n", true)]
    [InlineData("From: Mail Delivery <MAILER-DAEMON@mx.example.net>\r\n", true)]
    [InlineData("From: x@example.net\r\nContent-Type: multipart/report; report-type=feedback-report; boundary=b\r\n", true)]
    [InlineData("From: x@example.net\r\nTo: bounces+7.1.ab@example.org\r\n", true)]
    [InlineData("From: x@example.net\r\nDelivered-To: bounces+7.1.ab@example.org\r\n", true)]
    [InlineData("From: x@example.net\r\nTo: bounces@example.org\r\nSubject: Undelivered mail?\r\n", false)]
    [InlineData("From: ana@example.org\r\nTo: office@example.org\r\nContent-Type: text/plain\r\n", false)]
    [InlineData("From:\r\nTo: <<<>>>\r\nContent-Type: ;;;\r\n", false)]
    public void Only_what_may_be_a_bounce_is_fetched(string headers, bool may) =>
        Assert.Equal(
            may,
            DeliveryReport.MayBe(HeaderList.Load(new MemoryStream(Encoding.ASCII.GetBytes(headers + "\r\n"))), "bounces@example.org")
        );
}
