using System.Globalization;
using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Drops;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Surfaces;
using FsCheck;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>Envelopes, labels and their sheets: places, shrinking, clear zones, windows.</summary>
public sealed class SurfaceTests
{
    const double Mm = 72 / 25.4;
    static readonly Role[] Roles =
    [
        Role.GivenName,
        Role.FamilyName,
        Role.Organization,
        Role.Street,
        Role.Street2,
        Role.City,
        Role.Region,
        Role.PostalCode,
        Role.Country,
        Role.None,
    ];
    static readonly Column[] Columns = [.. Roles.Select((r, i) => new Column(i + 1, i == 9 ? "Copies" : r.ToString(), ColumnType.Text, r))];

    static ArrayRow Person(
        string given = "Ana",
        string? organization = null,
        string street = "14 Quay Road",
        string? copies = null,
        string zip = "97412",
        string? country = null,
        string city = "Fernquay"
    ) => new([given, "Okafor", organization, street, null, city, "OR", zip, country, copies]);

    static LetterSetting Setting => new(Columns, OrganizationLocale.UnitedStates, TestFonts.Library, Sender: "Fernquay Botanic Garden");

    static JsonObject Paragraph(string text, double? size = null, string? align = null)
    {
        var node = new JsonObject { ["type"] = "text", ["text"] = text };
        if (size is { } s)
            node["marks"] = new JsonArray(
                new JsonObject
                {
                    ["type"] = "textStyle",
                    ["attrs"] = new JsonObject { ["fontSize"] = s.ToString(CultureInfo.InvariantCulture) + "pt" },
                }
            );
        return new()
        {
            ["type"] = "paragraph",
            ["attrs"] = new JsonObject { ["textAlign"] = align ?? "left" },
            ["content"] = new JsonArray(node),
        };
    }

    static JsonObject Box(string use, double x, double y, double width, double height, params JsonNode[] content) =>
        new()
        {
            ["id"] = $"{use}{x}",
            ["use"] = use,
            ["x"] = x,
            ["y"] = y,
            ["width"] = width,
            ["height"] = height,
            ["content"] = new JsonArray(content),
        };

    static JsonObject Envelope(params JsonNode[] boxes) =>
        new()
        {
            ["kind"] = "envelope",
            ["format"] = "no10",
            ["type"] = new JsonObject { ["size"] = 11 },
            ["boxes"] = new JsonArray(boxes),
        };

    static JsonObject Labels(string stock, params JsonNode[] boxes) =>
        new()
        {
            ["kind"] = "labels",
            ["stock"] = stock,
            ["type"] = new JsonObject { ["size"] = 10 },
            ["boxes"] = new JsonArray(boxes),
        };

    static IBoundDesign Bind(JsonNode document) => DesignReader.Bind(document.ToJsonString(), Setting);

    static ComposedPiece Compose(JsonNode document, ArrayRow? row = null, int number = 7) =>
        Bind(document).Composer(new(2027, 3, 3)).Compose(row ?? Person(), number);

    static string Issues(ComposedPiece piece, PieceKind kind = PieceKind.Envelope) =>
        string.Join('|', PieceIssue.Of(piece, null, kind).Where(f => f.Kind != PieceIssueKind.Postal).Select(f => $"{f.Kind} {f.Subject}"));

    /// <summary>What the post or a printer does not take.</summary>
    static string Postal(ComposedPiece piece, PieceKind kind = PieceKind.Envelope) =>
        string.Join(
            '|',
            PieceIssue
                .Of(piece, null, kind)
                .Where(f => f.Kind == PieceIssueKind.Postal)
                .Select(f => f.Subject[..f.Subject.LastIndexOf(" of the", StringComparison.Ordinal)])
        );

    static JsonObject Imb =>
        new()
        {
            ["type"] = "barcode",
            ["attrs"] = new JsonObject
            {
                ["symbology"] = "imb",
                ["service"] = "040",
                ["mailer"] = "901234567",
            },
        };

    static JsonObject Delivery => Box("delivery", 110, 48, 100, 28, Paragraph("{Delivery address}"));

    public static TheoryData<string, JsonObject, string?> Envelopes =>
        new()
        {
            { "", Envelope(Delivery, Box("barcode", 132, 91.5, 82, 6, Imb)), null },
            { "", Envelope(Delivery, Box("barcode", 110, 76, 82, 6, Imb)), null },
            { "the barcode's place", Envelope(Delivery, Box("barcode", 60, 91.5, 82, 6, Imb)), null },
            { "the barcode's place", Envelope(Delivery, Box("barcode", 132, 86, 82, 6, Imb)), null },
            {
                "a text over a barcode",
                Envelope(Delivery, Box("barcode", 132, 91.5, 82, 6, Imb), Box("text", 140, 89, 40, 5, Paragraph("for {GivenName}"))),
                null
            },
            { "the delivery address over a text", Envelope(Delivery, Box("text", 112, 50, 40, 8, Paragraph("Inside: seeds"))), null },
            { "the teaser at the edge", Envelope(Delivery, Box("teaser", 1, 40, 60, 8, Paragraph("Inside: seeds"))), null },
            { "no delivery address", Envelope(Box("return", 10, 8, 60, 12, Paragraph("Fernquay Botanic Garden"))), null },
            { "", Envelope(Box("delivery", 110, 48, 100, 28, Paragraph("{GivenName} {FamilyName}"), Paragraph("{Street}, {City}"))), null },
            { "", Envelope(Delivery, Box("indicia", 205, 8, 28, 20, Paragraph("Permit no. 12"))), null },
            {
                "a domestic permit on international mail",
                Envelope(Delivery, Box("indicia", 205, 8, 28, 20, Paragraph("Permit no. 12"))),
                "Germany"
            },
            {
                "a domestic permit on international mail",
                Envelope(Delivery, Box("indicia", 205, 8, 28, 20, Paragraph("Permit no. 12"))),
                "Atlantis"
            },
            { "", Envelope(Delivery, Box("indicia", 205, 8, 28, 20, Paragraph("{when Country is blank}Permit no. 12{end}"))), "Germany" },
        };

    [Theory, MemberData(nameof(Envelopes))]
    public void What_the_post_or_a_printer_does_not_take_is_told(string told, JsonObject document, string? country) =>
        Assert.Equal(told, Postal(Compose(document, Person(country: country))));

    [Theory]
    [InlineData("US", 241.3, 104.8, null)]
    [InlineData("US", 120, 80, "accept")]
    [InlineData("US", 150, 150, "machines cannot sort")]
    [InlineData("US", 280, 100, "2.80 times")]
    [InlineData("US", 305, 229, null)]
    [InlineData("US", 400, 320, "as a parcel")]
    [InlineData("DE", 220, 110, null)]
    [InlineData("DE", 130, 85, "accept")]
    [InlineData("DE", 140, 115, "machines sort letters")]
    [InlineData(null, 60, 60, null)]
    public void Sizes_that_the_post_refuses_are_told(string? zones, double width, double height, string? told)
    {
        var said = PostalCheck.OfSize(zones, width * Mm, height * Mm);
        if (told is null)
            Assert.Null(said);
        else
            Assert.Contains(told, said);
    }

    [Theory]
    [InlineData("123456", "040", null)]
    [InlineData("901234567", "040", null)]
    [InlineData("912345", "040", "starts with 0 to 8")]
    [InlineData("123456789", "040", "starts with 9")]
    [InlineData("000000", "040", "all zeros")]
    [InlineData("123456", "000", "not a service")]
    [InlineData("123456", "4", "three digits")]
    public void Impossible_numbers_of_a_barcode_are_told(string mailer, string service, string? told)
    {
        var code = Imb;
        (code["attrs"]!["mailer"], code["attrs"]!["service"]) = (mailer, service);
        var errors = Bind(Envelope(Delivery, Box("barcode", 132, 91.5, 82, 6, code))).Errors;
        if (told is null)
            Assert.Empty(errors);
        else
            Assert.Contains(told, Assert.Single(errors).Error.Message);
    }

    [Fact]
    public void An_envelope_has_its_boxes_at_their_places()
    {
        var piece = Compose(
            Envelope(
                Box("return", 10, 8, 70, 18, Paragraph("Fernquay Botanic Garden")),
                Box("delivery", 110, 48, 100, 28, Paragraph("{Delivery address}")),
                Box("number", 10, 96, 20, 4, Paragraph("{Piece number}", 6.5))
            )
        );
        var page = Assert.Single(piece.Pages);
        Assert.Equal((9.5 * 72, 4.125 * 72), (page.Width, page.Height));
        Assert.Equal("Fernquay Botanic Garden\nAna Okafor\n14 Quay Road\nFernquay OR 97412\n0007", page.Text());
        var address = Ink.Of(page.Items).Where(i => i.IsAddress).ToList();
        Assert.Equal(3, address.Count);
        Assert.All(address, i => Assert.Equal(110 * Mm, i.Place.X, 1));
        Assert.InRange(address[0].Place.Y, 48 * Mm, 50 * Mm);
        // What is the same for everyone is shared.
        Assert.Single(page.Items.OfType<SharedItem>());
        Assert.Equal("", Issues(piece));
    }

    [Theory]
    [InlineData("no10", "landscape", 684, 297)]
    [InlineData("no9", "landscape", 639, 279)]
    [InlineData("no634", "landscape", 468, 261)]
    [InlineData("6x9", "landscape", 648, 432)]
    [InlineData("9x12", "portrait", 648, 864)]
    [InlineData("a7", "landscape", 522, 378)]
    [InlineData("dl", "landscape", 623.62, 311.81)]
    [InlineData("c6", "portrait", 323.15, 459.21)]
    [InlineData("c5", "landscape", 649.13, 459.21)]
    [InlineData("c4", "landscape", 918.43, 649.13)]
    [InlineData("b5", "landscape", 708.66, 498.90)]
    public void Envelopes_have_their_standard_sizes(string format, string held, double width, double height)
    {
        var page = Compose(
            new JsonObject
            {
                ["kind"] = "envelope",
                ["format"] = format,
                ["orientation"] = held,
                ["boxes"] = new JsonArray(),
            }
        ).Pages[0];
        Assert.Equal(width, page.Width, 2);
        Assert.Equal(height, page.Height, 2);
    }

    [Theory]
    [InlineData(true, " in wide here; under 0.")]
    [InlineData(false, " mm wide here; under 0.")]
    public void A_barcode_too_small_to_be_read_is_told_in_the_organizations_unit_and_known_in_either(bool inInches, string said)
    {
        var code = new JsonObject
        {
            ["type"] = "barcode",
            ["attrs"] = new JsonObject
            {
                ["symbology"] = "code128",
                ["source"] = "Organization",
                ["width"] = 12,
                ["height"] = 6,
            },
        };
        var setting = Setting with { Locale = new("en-US", "USD") { InInches = inInches } };
        var bound = DesignReader.Bind(Envelope(Box("text", 60, 40, 80, 12, code)).ToJsonString(), setting);
        var piece = bound.Composer(new(2027, 3, 3)).Compose(Person(organization: "Fernquay Botanic Garden, plant nursery"), 7);
        var issue = Assert.Single(PieceIssue.Of(piece, null, PieceKind.Envelope), i => i.Kind == PieceIssueKind.Barcode);
        Assert.Contains(said, issue.Message, StringComparison.Ordinal);
        // An accepted issue stays accepted when the unit is changed.
        Assert.Contains(" mm wide here", issue.Detail, StringComparison.Ordinal);
    }

    [Theory]
    // The zones of the United States' post on a No. 10: 4¾ × ⅝ in at the lower right, the postage's corner.
    [InlineData("teaser", 130, 95, 60, 6, "InClearZone the teaser in the barcode clear zone")]
    [InlineData("teaser", 10, 95, 60, 6, "")]
    [InlineData("barcode", 132, 91.5, 84, 6, "")]
    [InlineData("return", 200, 8, 38, 16, "InClearZone the return address in the postage area")]
    [InlineData("indicia", 205, 8, 28, 20, "")]
    [InlineData("text", 236, 50, 60, 10, "InClearZone a text in the edge of the envelope")]
    public void What_enters_a_clear_zone_is_told(string use, double x, double y, double width, double height, string issue)
    {
        var content =
            use == "barcode"
                ? new JsonObject
                {
                    ["type"] = "barcode",
                    ["attrs"] = new JsonObject
                    {
                        ["symbology"] = "imb",
                        ["service"] = "040",
                        ["mailer"] = "901234567",
                    },
                }
                : Paragraph("Inside: seeds for spring");
        Assert.Equal(issue, Issues(Compose(Envelope(Box(use, x, y, width, height, content)))));
        // The same where it depends on the recipient.
        if (use is "teaser" or "return")
            Assert.Equal(issue, Issues(Compose(Envelope(Box(use, x, y, width, height, Paragraph("For {GivenName}: seeds for spring"))))));
    }

    [Theory]
    [InlineData("letter-3x10", 0, 0, 66, 25, "")]
    [InlineData("letter-3x10", 50, 5, 60, 10, "InClearZone a text in the edge of the label")]
    [InlineData("letter-3x10", -5, 5, 40, 10, "InClearZone a text in the edge of the label")]
    [InlineData("letter-3x4-round", 12, 25, 40, 10, "")]
    [InlineData("letter-3x4-round", 2, 2, 40, 10, "InClearZone a text in the edge of the label")]
    public void What_reaches_over_the_edge_of_a_label_is_told(string stock, double x, double y, double width, double height, string issue)
    {
        Assert.Equal(
            issue,
            Issues(Compose(Labels(stock, Box("text", x, y, width, height, Paragraph("Spring plant fair")))), PieceKind.Labels)
        );
        Assert.Equal(
            issue,
            Issues(Compose(Labels(stock, Box("text", x, y, width, height, Paragraph("{GivenName} and Spring plant")))), PieceKind.Labels)
        );
    }

    [Fact]
    public void Other_posts_have_other_zones()
    {
        JsonObject Of(string? zones, double x, double y)
        {
            var envelope = Envelope(Box("teaser", x, y, 50, 6, Paragraph("Inside: seeds")));
            envelope["format"] = "dl";
            envelope["zones"] = zones;
            return envelope;
        }
        Assert.Equal("InClearZone the teaser in the coding zone", Issues(Compose(Of("UPU", 85, 98))));
        Assert.Equal("InClearZone the teaser in the franking zone", Issues(Compose(Of("UPU", 150, 30))));
        Assert.Equal("", Issues(Compose(Of(null, 150, 30))));
        Assert.Equal("", Issues(Compose(Of("UPU", 20, 98))));
    }

    static JsonObject Label(double smallest = 6)
    {
        var box = Box("delivery", 0, 0, 66.675, 25.4, Paragraph("{Delivery address}"));
        (box["padding"], box["smallest"], box["valign"]) = (3, smallest, "middle");
        return Labels("letter-3x10", box);
    }

    static double SizeOf(ComposedPiece piece) => piece.Pages[0].Items.OfType<LineItem>().SelectMany(l => l.Line.Runs).Max(r => r.Size);

    [Fact]
    public void Text_shrinks_to_fit_down_to_its_smallest_size()
    {
        Assert.Equal(10, SizeOf(Compose(Label())));
        var longer = Compose(
            Label(),
            Person(organization: "Okafor Ceramics and Garden Pottery", street: "12400 Northeast Glasshouse Boulevard", country: "France")
        );
        Assert.InRange(SizeOf(longer), 6, 9.5);
        Assert.Equal("", Issues(longer, PieceKind.Labels));
        foreach (var item in longer.Pages[0].Items.OfType<LineItem>())
            Assert.InRange(item.Y, 3 * Mm, 22.5 * Mm);
        var name = string.Join(' ', Enumerable.Repeat("Constantinopolitana", 5));
        var tooLong = Compose(Label(8), Person(organization: name));
        Assert.Contains("AddressTooLong address of the label", Issues(tooLong, PieceKind.Labels));
        Assert.Equal(8, SizeOf(tooLong), 2);
    }

    [Fact]
    public void Organization_and_street_are_abbreviated_before_they_shrink_when_they_must_be()
    {
        var piece = Compose(
            Label(10),
            Person(organization: "Fernquay Horticultural and Botanical Association", street: "12400 Northeast Boulevard")
        );
        Assert.StartsWith("Ana Okafor\nFernquay Horticultural and", piece.Pages[0].Text());
        Assert.Contains(" Assn\n", piece.Pages[0].Text());
        Assert.Contains("12400 Northeast Boulevard", piece.Pages[0].Text());
        Assert.Equal("", Issues(piece, PieceKind.Labels));
    }

    [Fact]
    public void A_box_that_is_too_small_is_told()
    {
        Assert.Equal(
            "DoesNotFit a text of the envelope",
            Issues(Compose(Envelope(Box("text", 10, 40, 60, 5, Paragraph("One"), Paragraph("Two"), Paragraph("Three")))))
        );
        var blank = Compose(Envelope(Box("text", 10, 40, 60, 15, Paragraph("For {Organization}"))));
        Assert.Equal("Blank Organization", Issues(blank));
        var shrinking = Box(
            "text",
            10,
            40,
            60,
            5,
            Paragraph("For {Organization}, a line that is far longer than the box is wide, so that it must shrink and shrink")
        );
        shrinking["smallest"] = 4;
        Assert.Single(Compose(Envelope(shrinking)).Problems);
    }

    [Theory]
    [InlineData("12345", "Barcode barcode of the envelope")]
    [InlineData("", "Barcode barcode of the envelope")]
    [InlineData("901234567", "")]
    [InlineData("123456", "")]
    public void A_mailer_identifier_of_a_wrong_length_is_told(string mailer, string issue)
    {
        var document = Envelope(
            Box(
                "barcode",
                132,
                91.5,
                82,
                6,
                new JsonObject
                {
                    ["type"] = "barcode",
                    ["attrs"] = new JsonObject
                    {
                        ["symbology"] = "imb",
                        ["service"] = "040",
                        ["mailer"] = mailer,
                    },
                }
            )
        );
        var bound = Bind(document);
        Assert.Equal(issue.Length > 0, bound.Errors.Count > 0);
        Assert.Equal(issue, Issues(bound.Composer(default).Compose(Person(), 1)));
    }

    [Theory]
    [InlineData("97412", null, "", 1)]
    [InlineData("7412", null, "Barcode barcode of the envelope", 0)]
    [InlineData("69002", "France", "", 0)]
    public void A_mail_barcode_needs_a_zip_code_and_addresses_abroad_get_none(string zip, string? country, string issue, int count)
    {
        var document = Envelope(
            Box(
                "barcode",
                132,
                91.5,
                82,
                6,
                new JsonObject
                {
                    ["type"] = "barcode",
                    ["attrs"] = new JsonObject
                    {
                        ["symbology"] = "imb",
                        ["service"] = "040",
                        ["mailer"] = "901234567",
                    },
                }
            )
        );
        var piece = Compose(document, Person(zip: zip, country: country));
        Assert.Equal(issue, Issues(piece));
        Assert.Equal(count, piece.Pages[0].Items.OfType<BarsItem>().Count());
        Assert.All(piece.Pages[0].Items.OfType<BarsItem>(), b => Assert.Equal(65, b.Bars.Count));
    }

    [Theory]
    [InlineData("qr", "Piece number", 25, "")]
    [InlineData("qr", "Piece number", 4, "Barcode barcode of the label")]
    [InlineData("code128", "\"Łódź\"", 60, "Barcode barcode of the label")]
    [InlineData("code128", "Piece number", 60, "")]
    [InlineData("datamatrix", "FamilyName & Piece number", 20, "")]
    [InlineData("qr", "Organization", 25, "Blank Organization")]
    [InlineData("qr", "", 25, "Barcode barcode of the label")]
    [InlineData("qr", "Frist", 25, "UnknownField Frist")]
    public void A_barcode_that_cannot_be_made_or_read_is_told(string symbology, string source, double width, string issue)
    {
        var barcode = new JsonObject
        {
            ["type"] = "barcode",
            ["attrs"] = new JsonObject
            {
                ["symbology"] = symbology,
                ["source"] = source,
                ["width"] = width,
                ["height"] = symbology == "code128" ? 12 : width,
            },
        };
        Assert.Equal(issue, Issues(Compose(Labels("a4-2x4", Box("barcode", 5, 5, 80, 40, barcode))), PieceKind.Labels));
    }

    static JsonObject Letter(double top, double left, params JsonNode[] content) =>
        new()
        {
            ["page"] = new JsonObject
            {
                ["sheet"] = "letter",
                ["margins"] = new JsonObject
                {
                    ["top"] = top,
                    ["left"] = left,
                    ["right"] = 20,
                    ["bottom"] = 20,
                },
            },
            ["type"] = new JsonObject
            {
                ["family"] = "Source Sans 3",
                ["size"] = 11,
                ["lineSpacing"] = 1.2,
                ["spaceAfter"] = 0,
            },
            ["content"] = new JsonArray(content),
        };

    // A No. 10 with its standard window: 4½ × 1⅛ in, ⅞ in from the left, ½ in from the foot. The letter lies in the middle: 12.7 mm in, 5.8
    // mm down.
    static EnvelopeWindow Window(double shift = 3) => new(new(22.2 * Mm, 63.5 * Mm, 114.3 * Mm, 28.6 * Mm), LetterFold.Thirds, shift * Mm);

    static string WindowIssues(JsonObject letter, ArrayRow row, double shift = 3) =>
        string.Join(
            '|',
            WindowCheck
                .Of(
                    Bind(letter).Composer(default).Compose(row, 1).Pages[0],
                    Window(shift),
                    241.3 * Mm,
                    104.775 * Mm,
                    OrganizationLocale.UnitedStates
                )
                .Select(f => f.Message)
        );

    [Fact]
    public void What_shows_in_a_window_is_worded_in_the_organizations_unit_and_stays_accepted_when_that_changes()
    {
        var page = Bind(Letter(52, 52, Paragraph("{Delivery address}"))).Composer(default).Compose(Person(), 1).Pages[0];
        IReadOnlyList<PieceIssue> Issues(bool inInches) =>
            PieceIssue.OfWindow(WindowCheck.Of(page, Window(), 241.3 * Mm, 104.775 * Mm, new("en-US", "USD") { InInches = inInches }));
        var (metric, inches) = (Issues(false), Issues(true));
        Assert.Contains(metric, i => i.Message.Contains("slips by 3 mm", StringComparison.Ordinal));
        Assert.Contains(inches, i => i.Message.Contains("slips by 0.118 in", StringComparison.Ordinal));
        Assert.Equal(metric.Select(i => i.Key), inches.Select(i => i.Key));
    }

    [Fact]
    public void A_letter_is_held_against_its_window()
    {
        var place = WindowCheck.OnLetter(Window(), 241.3 * Mm, 104.775 * Mm, 612, 792)!.Value;
        Assert.Equal(22.2 - 12.7, place.X / Mm, 2);
        Assert.Equal(63.5 - (104.775 - 93.133) / 2, place.Y / Mm, 2);
        // Right: within the window also when it slips by 3 mm, and nothing else near it.
        Assert.Equal("", WindowIssues(Letter(62, 14, Paragraph("{Delivery address}")), Person()));
        // Too near to the window's upper edge: hidden when it slips.
        Assert.Contains(
            "must be in the window, also when the letter slips by 3 mm",
            WindowIssues(Letter(57.5, 14, Paragraph("{Delivery address}")), Person())
        );
        Assert.Equal("", WindowIssues(Letter(58.5, 14, Paragraph("{Delivery address}")), Person(), 0));
        Assert.Contains("is not behind the window", WindowIssues(Letter(20, 14, Paragraph("{Delivery address}")), Person()));
        Assert.Contains("has no delivery address", WindowIssues(Letter(62, 14, Paragraph("Dear Ana,")), Person()));
        // Six lines do not fit its height.
        Assert.Contains(
            "must be in the window",
            WindowIssues(
                Letter(62, 14, Paragraph("{Delivery address}")),
                Person(organization: "Okafor Ceramics", street: "Apt 3", country: "United Kingdom")
            )
        );
        // Something else shows.
        Assert.Contains(
            "“Fernquay Botanic Garden” shows in the window along with the address.",
            WindowIssues(Letter(56, 14, Paragraph("Fernquay Botanic Garden"), Paragraph("{Delivery address}")), Person())
        );
        Assert.Contains(
            "“Fernquay Botanic Garden” shows in the window if the letter shifts by 3 mm.",
            WindowIssues(Letter(52, 14, Paragraph("Fernquay Botanic Garden"), Paragraph("{Delivery address}")), Person())
        );
        Assert.DoesNotContain(
            "Garden",
            WindowIssues(Letter(52, 14, Paragraph("Fernquay Botanic Garden"), Paragraph("{Delivery address}")), Person(), 0)
        );
        Assert.Equal(
            ["The folded letter is larger than its envelope."],
            WindowCheck
                .Of(
                    Bind(Letter(62, 14)).Composer(default).Compose(Person(), 1).Pages[0],
                    Window() with
                    {
                        Fold = LetterFold.Flat,
                    },
                    241.3 * Mm,
                    104.775 * Mm,
                    OrganizationLocale.UnitedStates
                )
                .Select(f => f.Message)
        );
    }

    [Fact]
    public void The_ready_stocks_can_all_be_made()
    {
        Assert.True(LabelStock.Ready.Count >= 24);
        Assert.Equal(LabelStock.Ready.Count, LabelStock.Ready.Select(s => s.Id).Distinct().Count());
        Assert.All(LabelStock.Ready, s => Assert.Empty(s.Mistakes()));
        Assert.Equal(LabelStock.Ready.Count, LabelStock.Ready.Select(s => (s.Name, s.SheetWidth, s.Corner)).Distinct().Count());
        string Of(string id) => LabelStock.Ready.Single(s => s.Id == id).Name;
        Assert.Equal("3 × 10 · 2⅝ × 1 in", Of("letter-3x10"));
        Assert.Equal("2 × 7 · 4 × 1⅓ in", Of("letter-2x7"));
        Assert.Equal("3 × 7 · 63.5 × 38.1 mm", Of("a4-3x7"));
        Assert.Equal("3 × 4 · ⌀ 2½ in", Of("letter-3x4-round"));
        Assert.Equal("2 × 15 · 3 7⁄16 × ⅔ in", Of("letter-2x15-file"));
        foreach (var grid in (string[])["3 × 10", "2 × 10", "2 × 7", "2 × 5", "3 × 7", "3 × 8", "2 × 4", "4 × 16", "4 × 17"])
            Assert.Contains(LabelStock.Ready, s => s.Name.StartsWith(grid, StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("labelWidth", 0, "greater than zero")]
    [InlineData("labelHeight", -3, "greater than zero")]
    [InlineData("labelWidth", 80, "columns overlap")]
    [InlineData("labelHeight", 40, "rows overlap")]
    [InlineData("pitchX", 90, "mm wide")]
    [InlineData("pitchY", 45, "mm tall")]
    [InlineData("columns", 0, "1 to 40 columns")]
    [InlineData("rows", 4000, "1 to 40 columns")]
    [InlineData("left", -1, "outside the sheet")]
    [InlineData("sheetWidth", 0, "Sheet width and height must be")]
    [InlineData("radius", 30, "radius")]
    public void What_a_stock_cannot_be_is_told(string measure, double value, string message)
    {
        var stock = new JsonObject
        {
            ["sheetWidth"] = 210,
            ["sheetHeight"] = 297,
            ["columns"] = 3,
            ["rows"] = 7,
            ["labelWidth"] = 63.5,
            ["labelHeight"] = 38.1,
            ["left"] = 7.25,
            ["top"] = 15.15,
            ["pitchX"] = 66,
            ["pitchY"] = 38.1,
            ["corner"] = "rounded",
            ["radius"] = 2,
        };
        LabelStock Read() => SurfaceReader.Stock(JsonNode.Parse(stock.ToJsonString()));
        Assert.Empty(Read().Mistakes());
        stock[measure] = value;
        Assert.Contains(Read().Mistakes(), m => m.Contains(message, StringComparison.Ordinal));
        var document = Labels("x");
        document["stock"] = stock;
        Assert.Throws<LetterFormatException>(() => Bind(document));
    }

    [Theory]
    [InlineData("""{"kind":"envelope","format":"no99"}""", "not a known envelope size")]
    [InlineData("""{"kind":"envelope","format":"custom","width":5,"height":100}""", "width of the envelope")]
    [InlineData("""{"kind":"labels","stock":"none"}""", "no label stock")]
    [InlineData("""{"kind":"labels"}""", "has no label stock")]
    [InlineData("""{"kind":"labels","stock":"letter-3x10","copies":0}""", "number of copies")]
    [InlineData("""{"kind":"envelope","boxes":[{"x":"a"}]}""", "could not be read")]
    [InlineData("""{"kind":"envelope","window":{"x":200,"y":10,"width":100,"height":20}}""", "past the edge")]
    [InlineData(
        """{"kind":"envelope","boxes":[{"content":[{"type":"barcode","attrs":{"symbology":"runes"}}]}]}""",
        "not a known barcode type"
    )]
    [InlineData("""{"kind":"envelope","boxes":[{"x":0,"y":0,"width":0,"height":5}]}""", "width of the box")]
    public void A_wrong_document_is_told(string json, string message) =>
        Assert.Contains(message, Assert.Throws<LetterFormatException>(() => DesignReader.Validate(json)).Message);

    static LabelSetup Setup(string id = "letter-3x10", bool byColumns = false) =>
        new(LabelStock.Ready.Single(s => s.Id == id), byColumns, 1, null, null);

    static ComposedPiece Piece(int copies = 1, string? group = null) =>
        new([new(10, 10, [])], [], new()) { Copies = copies, Group = group };

    static string Places(LabelSheets sheets, params ComposedPiece[] pieces) =>
        string.Join(' ', pieces.SelectMany(p => sheets.Add(p, [])).Select(p => $"{p.Sheet}:{p.Position}"));

    [Fact]
    public void Labels_fill_a_sheet_from_any_place_and_pass_over_spoiled_ones()
    {
        Assert.Equal("1:1 1:2 1:3", Places(new(Setup()), Piece(), Piece(), Piece()));
        Assert.Equal("1:29 1:30 2:1", Places(new(Setup(), new(29)), Piece(), Piece(), Piece()));
        Assert.Equal("1:8 1:10 1:11 1:13", Places(new(Setup(), new(8, [9, 12])), Piece(), Piece(), Piece(), Piece()));
        Assert.Equal("1:30 2:1 2:2", Places(new(Setup(), new(28, [28, 29])), Piece(), Piece(), Piece()));
        // Spoiled places are those of the first sheet only.
        Assert.Equal("1:30 2:1 2:2 2:3", Places(new(Setup(), new(30, [2])), Piece(), Piece(3)));
        Assert.Equal("1:1 1:4 1:7", Places(new(Setup(byColumns: true)), Piece(), Piece(), Piece()));
        Assert.Equal("1:28 1:2 1:5", Places(new(Setup(byColumns: true), new(28)), Piece(), Piece(), Piece()));
        Assert.Equal("1:1 1:2 1:3 1:4", Places(new(Setup()), Piece(3), Piece(0), Piece()));
        Assert.Equal("1:1 1:2 1:4 1:6", Places(new(Setup()), Piece(1, "A"), Piece(1, "A"), Piece(1, "B"), Piece(1, "C")));
        Assert.Equal(23, new SheetStart(8).FreeOn(Setup()));
        Assert.Equal(21, new SheetStart(8, [9, 12, 3]).FreeOn(Setup()));
        Assert.Null(new LabelSheets(Setup()).Finish());
    }

    [Theory]
    [InlineData(0, null, "no position 0")]
    [InlineData(31, null, "no position 31")]
    [InlineData(1, 31, "no position 31")]
    [InlineData(1, 0, "no position 0")]
    [InlineData(30, 30, null)]
    public void A_start_outside_of_the_sheet_is_told(int start, int? spoiled, string? message)
    {
        var objection = new SheetStart(start, spoiled is { } s ? [s] : null).Objection(Setup().Stock);
        if (message is null)
            Assert.Null(objection);
        else
            Assert.Contains(message, objection);
    }

    [Property(MaxTest = 300)]
    public void Every_label_gets_a_free_place_and_no_two_the_same(
        PositiveInt start,
        int[] spoiled,
        byte[] copies,
        bool byColumns,
        byte stock
    )
    {
        var setup = new LabelSetup(LabelStock.Ready[stock % LabelStock.Ready.Count], byColumns, 1, null, null);
        var places = setup.Stock.Count;
        var bad = (spoiled ?? []).Select(s => Math.Abs(s % places) + 1).ToList();
        var first = new SheetStart((start.Get - 1) % places + 1, bad);
        var sheets = new LabelSheets(setup, first);
        var full = new List<LaidOutPage>();
        var got = (copies ?? []).SelectMany(c => sheets.Add(Piece(c % 9), full)).ToList();
        Assert.Equal((copies ?? []).Sum(c => c % 9), got.Count);
        Assert.Equal(got.Count, got.Distinct().Count());
        Assert.All(got, p => Assert.InRange(p.Position, 1, places));
        int Rank(int position) =>
            byColumns ? (position - 1) % setup.Stock.Columns * setup.Stock.Rows + (position - 1) / setup.Stock.Columns : position;
        // On the first sheet nothing stands before the start or at a spoiled place, unless no position was left on it and it was taken
        // fresh.
        if (Enumerable.Range(1, places).Any(p => Rank(p) >= Rank(first.Start) && !bad.Contains(p)))
            Assert.All(got.Where(p => p.Sheet == 1), p => Assert.True(Rank(p.Position) >= Rank(first.Start) && !bad.Contains(p.Position)));
        Assert.Equal(got.Select(p => p.Sheet).DefaultIfEmpty(0).Max(), sheets.Sheets);
        Assert.Equal(Math.Max(0, sheets.Sheets - 1), full.Count);
    }

    [Theory]
    [InlineData("3", 3, "")]
    [InlineData("0", 0, "")]
    [InlineData(null, 2, "")]
    [InlineData("many", 2, "OutOfRange Copies")]
    [InlineData("2.5", 2, "OutOfRange Copies")]
    [InlineData("100000", 2, "OutOfRange Copies")]
    [InlineData("-1", 2, "OutOfRange Copies")]
    public void Copies_come_from_a_column(string? value, int copies, string issue)
    {
        var document = Label();
        (document["copies"], document["copiesBy"], document["blankBetween"]) = (2, "Copies", "City");
        var piece = Compose(document, Person(copies: value));
        Assert.Equal((copies, "Fernquay"), (piece.Copies, piece.Group));
        Assert.Equal(issue, Issues(piece, PieceKind.Labels));
    }

    [Property(MaxTest = 200)]
    public void Any_values_compose_and_what_does_not_fit_is_told(string?[] values)
    {
        var row = new ArrayRow([.. Enumerable.Range(0, Columns.Length).Select(i => i < (values ?? []).Length ? values![i] : null)]);
        var piece = Compose(Label(7), row);
        var issues = Issues(piece, PieceKind.Labels);
        if (issues.Contains("DoesNotFit") || issues.Contains("TooLong") || issues.Contains("TooWide") || issues.Contains("MissingGlyph"))
            return;
        // What is not told lies within the label.
        foreach (var ink in Ink.Of(piece.Pages[0].Items))
            Assert.True(new Area(0, 0, 66.675 * Mm, 25.4 * Mm).Grown(1).Holds(ink.Place), $"{ink.Text} {ink.Place}");
    }
}
