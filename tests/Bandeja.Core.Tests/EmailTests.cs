using System.Text.Json;
using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Drops;
using Bandeja.Core.Emails;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Mail;
using FsCheck.Xunit;
using static Bandeja.Core.Tests.Doc;

namespace Bandeja.Core.Tests;

/// <summary>Emails: headers, bodies as HTML and text, what is attached, what is wrong.</summary>
public sealed class EmailTests
{
    static readonly Column[] Members =
    [
        new(1, "First", ColumnType.Text, Role.GivenName),
        new(2, "Last", ColumnType.Text, Role.FamilyName),
        new(3, "Email", ColumnType.Text, Role.Email),
        new(4, "Member no.", ColumnType.Text, Role.Key),
        new(5, "Certificate", ColumnType.Text, Role.None),
        new(6, "Second email", ColumnType.Text, Role.None),
        new(7, "Amount", ColumnType.Number, Role.None),
    ];
    static readonly string Sha = new('a', 64);

    static JsonObject Email(IEnumerable<JsonNode> content, object? more = null)
    {
        var root = new JsonObject
        {
            ["kind"] = "email",
            ["subject"] = "Your visit, {First}",
            ["fromName"] = "Fernquay Botanic Garden",
            ["fromAddress"] = "office@example.org",
            ["content"] = new JsonArray([.. content]),
        };
        if (more is not null)
            foreach (var p in JsonSerializer.SerializeToNode(more)!.AsObject())
                root[p.Key] = p.Value?.DeepClone();
        return root;
    }

    static BoundEmail Bound(JsonObject design, IReadOnlyList<DetailSet>? details = null) =>
        (BoundEmail)
            DesignReader.Bind(
                design.ToJsonString(),
                new(
                    Members,
                    OrganizationLocale.UnitedStates,
                    TestFonts.Library,
                    details,
                    Sender: "Fernquay Botanic Garden",
                    SenderAddress: "18 Quay Road\nFernquay OR 97412",
                    Files: (folder, name) =>
                        folder == 3 && name.Equals("F-1.pdf", StringComparison.OrdinalIgnoreCase) ? new(Sha, "F-1.pdf", 4_000_000) : null,
                    Pictures: asset => new(asset, 300, 150, false, asset == "page")
                )
            );

    static ComposedPiece Compose(JsonObject design, params string?[] row) =>
        Bound(design).Composer(new(2027, 3, 1)).Compose(new ArrayRow([.. row, .. new string?[Math.Max(0, 7 - row.Length)]]), 7);

    static ComposedMail Mail(JsonObject design, params string?[] row) => Compose(design, row).Mail!;

    static readonly string?[] Ana = ["Ana", "Okafor", "ana@example.org", "F-1", "F-1.pdf"];

    [Fact]
    public void Headers_come_from_columns_and_never_end_within_a_value()
    {
        var mail = Mail(
            Email([P("Hello")], new { cc = "{Second email | else \"\"}", replyTo = "\"Front desk\" <desk@example.org>" }),
            "Ana\r\nBcc: all@example.org",
            "Okafor",
            "ana@example.org",
            null,
            null,
            "a@example.org; b@example.org"
        );
        Assert.Equal("Your visit, Ana Bcc: all@example.org", mail.Subject);
        Assert.Equal(new("Fernquay Botanic Garden", "office@example.org"), mail.From);
        Assert.Equal(new("Ana Bcc: all@example.org Okafor", "ana@example.org"), mail.To);
        Assert.Equal(["a@example.org", "b@example.org"], mail.Cc.Select(c => c.Address));
        Assert.Equal("Front desk <desk@example.org>", $"{mail.ReplyTo[0]}");
        Assert.Empty(mail.Issues);
    }

    [Theory]
    [InlineData(null, "Email is blank, so no email can be sent.")]
    [InlineData("ana(at)example.org", "“ana(at)example.org” is not an email address.")]
    [InlineData(
        "ana@example.org, bo@example.org",
        "Email has more than one address: “ana@example.org, bo@example.org”. Keep only the one to send to."
    )]
    public void Who_cannot_be_reached_is_a_issue(string? address, string said)
    {
        var composed = Compose(Email([P("Hello")]), "Ana", "Okafor", address);
        Assert.Null(composed.Mail!.To);
        var issue = Assert.Single(PieceIssue.Of(composed, null, PieceKind.Email));
        Assert.Equal((PieceIssueKind.EmailAddress, "Email", said), (issue.Kind, issue.Subject, issue.Message));
    }

    [Fact]
    public void Mistakes_are_told_before_any_recipient_is_touched()
    {
        string[] Errors(object more) => [.. Bound(Email([P("Hello")], more)).Errors.Select(e => e.Error.Message)];
        Assert.Contains("The email has no subject yet.", Errors(new { subject = "" }));
        Assert.Contains("“desk” is not a valid sender address.", Errors(new { fromAddress = "desk" }));
        Assert.Contains("“nobody” in the Cc is not an email address.", Errors(new { cc = "nobody" }));
        Assert.StartsWith(
            "The attachment password must use a field",
            Errors(
                new
                {
                    attachments = new object[]
                    {
                        new
                        {
                            kind = "design",
                            designId = 4,
                            name = "",
                            password = "secret",
                        },
                    },
                }
            )[0]
        );
        Assert.Contains(Errors(new { subject = "{Frist}" }), e => e.EndsWith("Location: the subject.", StringComparison.Ordinal));
        Assert.Empty(
            Errors(
                new
                {
                    attachments = new object[]
                    {
                        new
                        {
                            kind = "design",
                            designId = 4,
                            name = "",
                            password = "{Member no.}",
                        },
                    },
                }
            )
        );
        Assert.Throws<LetterFormatException>(() =>
            DesignReader.Validate("""{"kind":"email","attachments":[{"kind":"file","file":"../../etc/passwd"}]}""")
        );
    }

    [Fact]
    public void A_body_becomes_html_and_text_alike()
    {
        var golden = Path.Combine(Root(), "tests", "Bandeja.Core.Tests", "golden");
        var details = new DetailSet[]
        {
            new(1, "Gifts", [new(1, "Plant", ColumnType.Text, Role.None), new(2, "Gift", ColumnType.Number, Role.None)]),
        };
        var design = Email(
            [
                H(1, "Thank you, {First}"),
                P("Dear {First} {Last}, see you at <the> gate & bring “friends”."),
                P("{Amount | money | else \"\"}"),
                Node(
                    "paragraph",
                    new { textAlign = "center" },
                    T("bold", "bold"),
                    T(" and "),
                    T("slanted", "italic"),
                    Node("hardBreak"),
                    new JsonObject
                    {
                        ["type"] = "text",
                        ["text"] = "our page",
                        ["marks"] = new JsonArray(Node("link", new { href = "https://example.org/visit?m={Member no.}" })),
                    }
                ),
                Node(
                    "bulletList",
                    null,
                    Node("listItem", null, P("Seeds")),
                    Node("listItem", null, P("{Second email | else \"\"}")),
                    Node(
                        "listItem",
                        null,
                        P("Coffee"),
                        Node("orderedList", null, Node("listItem", null, P("black")), Node("listItem", null, P("white")))
                    )
                ),
                Node("blockquote", null, P("Gardens are slow news.")),
                Node("horizontalRule"),
                Node(
                    "table",
                    new { lines = "rows" },
                    Row(Cell("Plant", true), Cell("Gift", true)),
                    RowIn("each Gifts", Cell("{Plant}"), Cell("{Gift | money | else \"a tree\"}"))
                ),
                Node(
                    "when",
                    null,
                    Node("branch", new { test = "Amount > 50" }, P("A great help.")),
                    Node("branch", new { test = (string?)null }, P("Every dollar helps."))
                ),
                Node(
                    "picture",
                    new
                    {
                        asset = "map",
                        width = 60,
                        aspect = 2,
                        alt = "The way from the quay",
                    }
                ),
                Node(
                    "barcode",
                    new
                    {
                        symbology = "qr",
                        source = "`Member no.`",
                        width = 25,
                    }
                ),
            ],
            new { preheader = "Gates open at ten" }
        );
        var bound = (BoundEmail)
            DesignReader.Bind(
                design.ToJsonString(),
                new(
                    Members,
                    OrganizationLocale.UnitedStates,
                    TestFonts.Library,
                    details,
                    Sender: "Fernquay Botanic Garden",
                    SenderAddress: "18 Quay Road\nFernquay OR 97412",
                    Pictures: a => new(a, 300, 150, false)
                )
            );
        Assert.Empty(bound.Errors);
        var mail = bound
            .Composer(new(2027, 3, 1))
            .Compose(
                new ArrayRow(
                    ["Ana", "Okafor", "ana@example.org", "F-1", null, null, "75"],
                    _ => [new ArrayRow(["Ginkgo", "40"]), new ArrayRow(["Fern <b>", null])]
                ),
                7
            )
            .Mail!;
        Held(Path.Combine(golden, "email.html"), mail.Html!);
        Held(Path.Combine(golden, "email.txt"), mail.Text);
        Assert.Equal(["map", null], mail.Pictures.Select(p => p.Asset));
        Assert.All(mail.Pictures, p => Assert.Contains($"src=\"cid:{p.ContentId}\"", mail.Html));
        Assert.DoesNotContain("<script", mail.Html);
    }

    static void Held(string path, string now)
    {
        if (Environment.GetEnvironmentVariable("BANDEJA_GOLDEN") == "write")
            File.WriteAllText(path, now);
        Assert.Equal(File.ReadAllText(path).ReplaceLineEndings("\n"), now.ReplaceLineEndings("\n"));
    }

    static string Root()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "bandeja")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    [Fact]
    public void A_blank_closes_up_and_a_line_of_nothing_but_blanks_is_excluded()
    {
        var mail = Mail(
            Email(
                [
                    P("Dear {First | else \"\"} {Last | else \"\"}, hello"),
                    P("{First | else \"\"}"),
                    Node("paragraph", null, F("First | else \"\""), Node("hardBreak"), T("Second line")),
                    P(""),
                ]
            ),
            null,
            null,
            "ana@example.org"
        );
        Assert.StartsWith("Dear, hello\n\nSecond line\n", mail.Text);
        Assert.Contains(">Dear, hello</p>", mail.Html);
        Assert.Contains(">Second line</p>", mail.Html);
        Assert.Contains("&nbsp;</p>", mail.Html);
    }

    [Fact]
    public void Plain_text_alone_has_no_html_and_its_foot_is_set_off()
    {
        var mail = Mail(Email([P("Hello {First}")], new { format = "text" }), Ana);
        Assert.Null(mail.Html);
        Assert.Equal(
            "Hello Ana\n\n-- \nFernquay Botanic Garden\n18 Quay Road\nFernquay OR 97412\nUnsubscribe: "
                + $"{ComposedMail.UnsubscribeLink}\n",
            mail.Text
        );
        Assert.DoesNotContain("--", Mail(Email([P("Hello")], new { unsubscribe = false }), Ana).Text);
    }

    [Fact]
    public void Values_are_text_and_never_markup()
    {
        var mail = Mail(Email([P("{First}")]), "<img src=x onerror=alert(1)>", "\"'&", "ana@example.org");
        Assert.Contains("&lt;img src=x onerror=alert(1)&gt;", mail.Html);
        Assert.DoesNotContain("<img", mail.Html);
    }

    [Fact]
    public void What_is_attached_has_a_safe_name_of_the_recipients_own()
    {
        var attached = new object[]
        {
            new
            {
                kind = "design",
                designId = 4,
                name = "../../{Last} renewal",
                password = "{Member no.}",
            },
            new
            {
                kind = "design",
                designId = 5,
                name = "",
            },
            new
            {
                kind = "file",
                file = Sha,
                name = "a/b\\terms.pdf",
                size = 1000,
            },
            new
            {
                kind = "folder",
                folderId = 3,
                source = "Certificate",
                name = "",
            },
            new
            {
                kind = "folder",
                folderId = 3,
                source = "Certificate",
                name = "Certificate of {Last}",
            },
        };
        var mail = Mail(
            Email([P("Hello")], new { attachments = attached }),
            "Ana",
            "Okafor",
            "ana@example.org",
            "F-1",
            "C:\\scans\\..\\f-1.PDF"
        );
        Assert.Equal(
            ["Okafor renewal.pdf", "0007.pdf", "a-b-terms.pdf", "F-1.pdf", "Certificate of Okafor.pdf"],
            mail.Attachments.Select(a => a.FileName.TrimStart('-'))
        );
        Assert.Equal(("F-1", 4L), (mail.Attachments[0].Password, mail.Attachments[0].DesignId));
        Assert.Equal((Sha, 4_000_000), (mail.Attachments[3].File, mail.Attachments[3].Size));
        // Eight megabytes make more than ten of what a message holds them in.
        Assert.Equal(MailIssueKind.TooLarge, Assert.Single(mail.Issues).Kind);
    }

    [Fact]
    public void Who_lacks_a_file_or_a_password_is_a_issue()
    {
        var design = Email(
            [P("Hello")],
            new
            {
                attachments = new object[]
                {
                    new
                    {
                        kind = "folder",
                        folderId = 3,
                        source = "Certificate",
                        name = "",
                    },
                    new
                    {
                        kind = "design",
                        designId = 4,
                        name = "",
                        password = "{Member no. | else \"\"}",
                    },
                },
            }
        );
        Assert.Equal(
            ["Certificate is blank, so there is no file to attach.", "The attachment password is blank, so the file cannot be protected."],
            Mail(design, "Ana", "Okafor", "ana@example.org").Issues.Select(d => d.Message)
        );
        Assert.Equal(
            "The file “F-2.pdf” is not in the attachment folder.",
            Mail(design, "Ana", "Okafor", "ana@example.org", "F-2", "F-2.pdf").Issues[0].Message
        );
        Assert.Contains(
            Mail(
                Email(
                    [
                        Node(
                            "picture",
                            new
                            {
                                asset = "page",
                                width = 60,
                                aspect = 2,
                            }
                        ),
                    ]
                ),
                Ana
            ).Issues,
            d => d.Kind == MailIssueKind.Picture
        );
    }

    [Fact]
    public void A_file_of_their_own_may_be_named_by_an_expression()
    {
        var design = Email(
            [P("Hello")],
            new
            {
                attachments = new object[]
                {
                    new
                    {
                        kind = "folder",
                        folderId = 3,
                        source = "Member no. & \".pdf\"",
                        name = "",
                    },
                },
            }
        );
        Assert.Equal("F-1.pdf", Assert.Single(Mail(design, "Ana", "Okafor", "ana@example.org", "F-1").Attachments).FileName);
        Assert.Equal(
            "The file “F-2.pdf” is not in the attachment folder.",
            Assert.Single(Mail(design, "Ana", "Okafor", "ana@example.org", "F-2").Issues).Message
        );
        // The ending alone names nothing: what is missing is the number.
        var blank = Mail(design, "Ana", "Okafor", "ana@example.org", " ");
        Assert.Equal("Member no. is blank, so there is no file to attach.", Assert.Single(blank.Issues).Message);
        Assert.Empty(blank.Attachments);
    }

    [Fact]
    public void An_email_is_compared_by_its_texts_and_known_by_its_mark()
    {
        Assert.Equal(
            ["[subject] Your visit, {First}", "[sender's name] Fernquay Botanic Garden", "[sender's address] office@example.org", "Hello"],
            LetterText.Lines(DesignReader.AsText(Email([P("Hello")]).ToJsonString()))
        );
        Assert.Equal(Mail(Email([P("Hello")]), Ana).Mark, Mail(Email([P("Hello")]), Ana).Mark);
        Assert.NotEqual(Mail(Email([P("Hello")]), Ana).Mark, Mail(Email([P("Hello")], new { preheader = "x" }), Ana).Mark);
    }

    [Property]
    public void No_value_breaks_out_of_the_body_or_the_names(string? first, string? last, string? certificate)
    {
        var mail = Mail(
            Email(
                [P("Dear {First | else \"\"} {Last | else \"\"}!")],
                new
                {
                    attachments = new object[]
                    {
                        new
                        {
                            kind = "design",
                            designId = 4,
                            name = "{First | else \"\"}",
                        },
                    },
                }
            ),
            first,
            last,
            "ana@example.org",
            null,
            certificate
        );
        Assert.Equal(4, mail.Html!.Split("<table").Length + mail.Html.Split("<script").Length);
        Assert.DoesNotContain(mail.Attachments[0].FileName, c => char.IsControl(c) || "/\\:".Contains(c));
    }

    static JsonNode Button(string says, string? href, string color = "1d5a44", string align = "left") =>
        new JsonObject
        {
            ["type"] = "paragraph",
            ["attrs"] = new JsonObject { ["button"] = color, ["textAlign"] = align },
            ["content"] = new JsonArray(
                new JsonObject
                {
                    ["type"] = "text",
                    ["text"] = says,
                    ["marks"] = href is null ? null : new JsonArray(Node("link", new { href })),
                }
            ),
        };

    [Fact]
    public void A_button_is_a_colored_cell_with_a_link_of_its_own_for_everyone()
    {
        var design = Email([Button("Renew, {First}", "https://example.org/renew?m={Member no.}", align: "center")]);
        var mail = Mail(design, Ana);
        Assert.Contains("<td align=\"center\"", mail.Html);
        Assert.Contains("bgcolor=\"#1d5a44\"", mail.Html);
        Assert.Contains("<a href=\"https://example.org/renew?m=F-1\"", mail.Html);
        Assert.Contains(">Renew, Ana</a>", mail.Html);
        Assert.Contains("Renew, Ana: https://example.org/renew?m=F-1\n", mail.Text);
        Assert.Empty(mail.Issues);
        Assert.Equal([0, 3], Bound(design).UsedColumns.Where(i => i is 0 or 3).Order());
    }

    [Theory]
    [InlineData(null)]
    [InlineData("https://")]
    [InlineData("https://{Second email}")]
    [InlineData("{Second email}")]
    public void A_button_that_leads_nowhere_is_told_and_not_shown(string? href)
    {
        var mail = Mail(Email([P("Hello"), Button("Give now", href)]), Ana);
        Assert.DoesNotContain("bgcolor=\"#1d5a44\"", mail.Html);
        Assert.DoesNotContain("Give now", mail.Text);
        var issue = Assert.Single(mail.Issues, i => i.Kind == MailIssueKind.Link);
        Assert.Contains("“Give now”", issue.Message);
        Assert.Equal("Button without a link", PieceIssue.Title(PieceIssueKind.ButtonLink, "button"));
    }

    [Fact]
    public void The_whole_address_may_stand_in_a_column_and_a_blank_one_is_no_link()
    {
        var text = new JsonObject
        {
            ["type"] = "text",
            ["text"] = "our page",
            ["marks"] = new JsonArray(Node("link", new { href = "{Certificate}" })),
        };
        var design = Email([Node("paragraph", null, text), Button("Give {Second email | else \"\"}, please", "{Certificate}")]);
        var mail = Mail(design, "Ana", "Okafor", "ana@example.org", "F-1", "https://give.example/a?b=1");
        Assert.Equal(2, mail.Html!.Split("href=\"https://give.example/a?b=1\"").Length - 1);
        // What stands around a blank closes up, as in every paragraph.
        Assert.Contains(">Give, please</a>", mail.Html);
        var blank = Mail(design, "Ana", "Okafor", "ana@example.org", "F-1", null);
        Assert.DoesNotContain("our page</a>", blank.Html);
        Assert.Contains("our page", blank.Html);
        Assert.DoesNotContain("javascript", Mail(design, "Ana", "Okafor", "ana@example.org", "F-1", "javascript:alert(1)").Html);
    }

    [Theory]
    [InlineData("1d5a44", "#ffffff")]
    [InlineData("ffd94d", "#1d1c18")]
    [InlineData("ffffff", "#1d1c18")]
    [InlineData("000000", "#ffffff")]
    public void A_buttons_text_can_be_read_on_its_color(string color, string ink) =>
        Assert.Contains($"color:{ink};text-decoration:none", Mail(Email([Button("Go", "https://example.org", color)]), Ana).Html);

    [Fact]
    public void A_button_breaks_out_of_nothing()
    {
        var mail = Mail(Email([Button("{First}", "https://example.org/?q={First}")]), "\"><script>alert(1)</script>", "x", "a@example.org");
        Assert.DoesNotContain("<script", mail.Html);
        Assert.Throws<LetterFormatException>(() => Mail(Email([Button("Go", "javascript:alert(1)")]), Ana));
        Assert.Throws<LetterFormatException>(() => Mail(Email([Button("Go", "https://example.org", "red;x:y")]), Ana));
    }

    [Fact]
    public void A_picture_may_lead_somewhere()
    {
        JsonNode Picture(string? href) =>
            Node(
                "picture",
                new
                {
                    asset = "leaf",
                    width = 40,
                    aspect = 2,
                    alt = "A leaf",
                    href,
                }
            );
        var mail = Mail(Email([Picture("https://example.org/leaf?m={Member no.}")]), Ana);
        Assert.Matches("<a href=\"https://example.org/leaf\\?m=F-1\" style=\"text-decoration:none\"><img [^>]*alt=\"A leaf\"", mail.Html);
        Assert.Contains("[A leaf] https://example.org/leaf?m=F-1", mail.Text);
        Assert.DoesNotContain("<a href=\"https://example.org", Mail(Email([Picture(null)]), Ana).Html);
        Assert.Throws<LetterFormatException>(() => Mail(Email([Picture("file:///etc/passwd")]), Ana));
        Assert.NotEmpty(Bound(Email([Picture("https://example.org/{Nobody}")])).Errors);
    }
}
