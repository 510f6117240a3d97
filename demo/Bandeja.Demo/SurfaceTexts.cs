using System.Text.Json.Nodes;

namespace Bandeja.Demo;

/// <summary>The demo's envelopes and label sheets, in the stored form that the editor works with.</summary>
static class SurfaceTexts
{
    /// <summary>A No. 10 with return address and emblem, indicia, endorsement, teaser, Intelligent Mail barcode and piece number.</summary>
    public static JsonNode Envelope(string emblem) =>
        new JsonObject
        {
            ["kind"] = "envelope",
            ["format"] = "no10",
            ["orientation"] = "landscape",
            ["zones"] = "US",
            ["type"] = Type(11, 1.25),
            ["boxes"] = new JsonArray(
                Box(
                    "emblem",
                    "picture",
                    9,
                    8,
                    15,
                    15,
                    new JsonObject
                    {
                        ["type"] = "picture",
                        ["attrs"] = new JsonObject
                        {
                            ["asset"] = emblem,
                            ["width"] = 15,
                            ["aspect"] = 1,
                            ["alt"] = "Garden logo",
                        },
                    }
                ),
                Box(
                    "return",
                    "return",
                    27,
                    8,
                    70,
                    16,
                    P("", F("Sender", 9.5, true)),
                    P("", T("14 Quay Road", 9)),
                    P("", T("Fernquay, OR 97412", 9))
                ),
                Box("endorsement", "endorsement", 27, 27, 70, 5, P("", T("Return Service Requested", 8))),
                Indicia(),
                Box(
                    "teaser",
                    "teaser",
                    10,
                    60,
                    80,
                    14,
                    P("", T("The plant fair is back", 14, true)),
                    P("", T("Members get in an hour early", 10.5))
                ),
                With(Box("delivery", "delivery", 112, 46, 105, 28, P("", F("Delivery address", 11))), "smallest", 8),
                Box(
                    "barcode",
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
                            ["barcodeId"] = "00",
                            ["service"] = "040",
                            ["mailer"] = "901234567",
                        },
                    }
                ),
                Box("number", "number", 10, 96, 20, 4, P("", F("Piece number", 6.5)))
            ),
        };

    /// <summary>Address labels, 3 × 10 on US Letter.</summary>
    public static JsonNode AddressLabels() =>
        new JsonObject
        {
            ["kind"] = "labels",
            ["stock"] = "letter-3x10",
            ["fill"] = "rows",
            ["copies"] = 1,
            ["type"] = Type(10, 1.2),
            ["boxes"] = new JsonArray(
                With(
                    With(
                        With(Box("delivery", "delivery", 0, 0, 66.6, 25.4, P("", F("Delivery address", 10))), "padding", 3),
                        "valign",
                        "middle"
                    ),
                    "smallest",
                    7
                ),
                Box("number", "number", 53.5, 21.4, 11, 3, P("right", F("Piece number", 5.5)))
            ),
        };

    /// <summary>Name badges for the fair, with a code that the gate reads.</summary>
    public static JsonNode Badges() =>
        new JsonObject
        {
            ["kind"] = "labels",
            ["stock"] = "letter-2x4-badge",
            ["fill"] = "rows",
            ["copies"] = 1,
            ["type"] = Type(12, 1.15),
            ["boxes"] = new JsonArray(
                With(
                    With(Box("name", "text", 4, 12, 55, 26, P("", F("First", 26, true)), P("", F("Last | else \"\"", 15))), "smallest", 7),
                    "valign",
                    "middle"
                ),
                Box("level", "text", 4, 4, 50, 6, P("", F("Level | else \"guest\"", 9))),
                Box(
                    "code",
                    "barcode",
                    61,
                    35,
                    20,
                    20,
                    new JsonObject
                    {
                        ["type"] = "barcode",
                        ["attrs"] = new JsonObject
                        {
                            ["symbology"] = "qr",
                            ["source"] = "`No.`",
                            ["width"] = 20,
                            ["height"] = 20,
                        },
                    }
                ),
                Box("garden", "text", 4, 50, 55, 6, P("", F("Sender", 8)))
            ),
        };

    static JsonObject Indicia()
    {
        var box = Box(
            "indicia",
            "indicia",
            205,
            8,
            28,
            20,
            P("center", T("Nonprofit Org.", 7.5)),
            P("center", T("U.S. Postage Paid", 7.5)),
            P("center", T("Fernquay, OR", 7.5)),
            P("center", T("Permit No. 14", 7.5))
        );
        box["border"] = new JsonObject
        {
            ["width"] = 0.75,
            ["color"] = "#000000",
            ["radius"] = 0,
        };
        return With(With(box, "padding", 1), "valign", "middle");
    }

    static JsonObject Type(double size, double spacing) =>
        new()
        {
            ["family"] = "Source Sans 3",
            ["size"] = size,
            ["lineSpacing"] = spacing,
        };

    static JsonObject Box(string id, string use, double x, double y, double width, double height, params JsonNode[] content) =>
        new()
        {
            ["id"] = id,
            ["use"] = use,
            ["x"] = x,
            ["y"] = y,
            ["width"] = width,
            ["height"] = height,
            ["content"] = new JsonArray(content),
        };

    static JsonObject With(JsonObject node, string name, JsonNode value)
    {
        node[name] = value;
        return node;
    }

    static JsonObject P(string align, params JsonNode[] parts) =>
        new()
        {
            ["type"] = "paragraph",
            ["attrs"] = new JsonObject { ["textAlign"] = align.Length == 0 ? "left" : align },
            ["content"] = new JsonArray(parts),
        };

    static JsonObject T(string text, double size, bool bold = false) =>
        new()
        {
            ["type"] = "text",
            ["text"] = text,
            ["marks"] = Marks(size, bold),
        };

    static JsonObject F(string source, double size, bool bold = false) =>
        new()
        {
            ["type"] = "field",
            ["attrs"] = new JsonObject { ["source"] = source },
            ["marks"] = Marks(size, bold),
        };

    static JsonArray Marks(double size, bool bold)
    {
        var marks = new JsonArray(
            new JsonObject
            {
                ["type"] = "textStyle",
                ["attrs"] = new JsonObject { ["fontSize"] = FormattableString.Invariant($"{size}pt") },
            }
        );
        if (bold)
            marks.Add(new JsonObject { ["type"] = "bold" });
        return marks;
    }
}
