using System.Text.Json.Nodes;

namespace Bandeja.Demo;

/// <summary>The demo's letters, in the stored form that the editor works with.</summary>
static class LetterTexts
{
    public static JsonNode FirstNotice(string emblem) =>
        Letter(
            [
                .. Head(emblem),
                .. Address(),
                P(F("Today | date long")),
                P("Dear ", F("First | else \"friend of the garden\""), ","),
                P(
                    "Your membership in the Fernquay Botanic Garden ends on ",
                    B(F("Renewal date | date long")),
                    ". You have been with us since ",
                    F("Member since"),
                    ", and we hope you will stay."
                ),
                P(
                    "One year as a ",
                    F("Level"),
                    " is ",
                    B(F("Amount due | money")),
                    ". The slip below and the envelope that came with this letter are all it takes; renewing at the gate or by "
                        + "telephone is just as welcome."
                ),
                P(
                    "Since last spring the fernery has its new roof, the riverside path its handrail, and the seed bank eleven "
                        + "hundred more packets. None of it would have happened without members."
                ),
                .. Close(),
            ]
        );

    public static JsonNode SecondNotice(string emblem) =>
        Letter(
            [
                .. Head(emblem),
                .. Address(),
                P(F("Today | date long")),
                P("Dear ", F("First"), ","),
                P(
                    "Your membership ends on ",
                    B(F("Renewal date | date long")),
                    ", and we would miss you. Since ",
                    F("Member since"),
                    ", you have helped this garden grow."
                ),
                P(
                    "Renew by ",
                    B(F("Renewal date + 31 | date long")),
                    " at the ",
                    F("Level | lower"),
                    "’s rate of ",
                    B(F("Amount due | money 0")),
                    " and keep your number, ",
                    F("No."),
                    ". To pay quarterly, send ",
                    F("Amount due / 4 | money"),
                    " now."
                ),
                P("If you have already renewed, thank you, and please disregard this letter."),
                P("Here is what is coming up this spring:"),
                P(
                    "The titan arum, which opens for two nights in ten years, has put up a bud. Members hear of it by telephone and "
                        + "come in by the side gate, at any hour."
                ),
                P("The plant fair on the quay, with the first hour for members only, and coffee in the tea garden."),
                .. Close(),
            ]
        );

    public static JsonNode LastCall(string emblem) =>
        Letter(
            [
                .. Head(emblem),
                .. Address(),
                P(F("Today | date long")),
                P("Dear ", F("First | else \"friend of the garden\""), ","),
                P(
                    "This is the last letter about your membership, ",
                    F("No."),
                    ". It ended on ",
                    F("Renewal date | date long"),
                    ". You are still welcome at the gate through the end of the season."
                ),
                P(
                    B(F("Amount due | money | else \"The usual fee\"")),
                    " renews it for a year. If we do not hear from you, this is our last letter. We wish you well."
                ),
                .. Close(),
            ]
        );

    public static JsonNode PlantFair(string emblem) =>
        Letter(
            [
                .. Head(emblem),
                P(F("Today | date long")),
                P("Dear ", F("First | else \"neighbor\""), ","),
                P(
                    B("The spring plant fair"),
                    " returns to the quay on the second weekend of April, from 9 AM until the last tray is sold."
                ),
                P("As a ", F("Level | lower"), " you get in an hour early. Bring this letter, or just your number: ", F("No."), "."),
                .. Close(),
            ]
        );

    public static JsonNode RoofWorks(string emblem) =>
        Letter(
            [
                .. Head(emblem),
                P(F("Name | else \"To the household\""), BR(), F("Address"), BR(), F("City"), ", ", F("State"), " ", F("Zip Code")),
                P(F("Today | date long")),
                P("Dear neighbor,"),
                P(
                    "From the second week of January we renew the roof of the glasshouse. A crane will stand on Glasshouse Road for "
                        + "nine days, on weekdays from eight until four; your drive stays open throughout."
                ),
                P("If noise or dust becomes a problem, call (541) 555-0142 and we will come out and take a look."),
                .. Close(),
            ]
        );

    /// <summary>A letter with all that a letter can have: letterhead, watermark, brackets, a table of detail rows with its total.</summary>
    public static JsonNode Adopters(string emblem)
    {
        static JsonObject Cell(bool heading, string? align, params object[] parts)
        {
            var paragraph = P(parts);
            if (align is not null)
                paragraph["attrs"] = new JsonObject { ["textAlign"] = align };
            return new() { ["type"] = heading ? "tableHeader" : "tableCell", ["content"] = new JsonArray(paragraph) };
        }
        static JsonObject Row(string? bracket, params JsonObject[] cells) =>
            new()
            {
                ["type"] = "tableRow",
                ["attrs"] = new JsonObject { ["bracket"] = bracket },
                ["content"] = new JsonArray([.. cells]),
            };
        static JsonObject Branch(string? test, params JsonObject[] content) =>
            new()
            {
                ["type"] = "branch",
                ["attrs"] = new JsonObject { ["test"] = test },
                ["content"] = new JsonArray([.. content]),
            };
        var letter = (JsonObject)Letter(
            [
                P(F("Delivery address")),
                P(F("Today | date long")),
                P(F("Salutation")),
                P("Thank you for helping the garden grow. Here is how your adopted plants came through the winter."),
                new()
                {
                    ["type"] = "when",
                    ["content"] = new JsonArray(
                        Branch(
                            "count(Plants) > 0",
                            P(
                                "You look after ",
                                F("count(Plants) | words"),
                                " of our plants, the first of them since ",
                                F("first(Plants.Since) | date \"MMMM yyyy\""),
                                ":"
                            ),
                            new JsonObject
                            {
                                ["type"] = "table",
                                ["attrs"] = new JsonObject { ["lines"] = "rows", ["vanishes"] = true },
                                ["content"] = new JsonArray(
                                    Row(
                                        null,
                                        Cell(true, null, B("Adopted plant")),
                                        Cell(true, "right", B("Since")),
                                        Cell(true, "right", B("Gift"))
                                    ),
                                    Row(
                                        "each Plants",
                                        Cell(false, null, F("Plant")),
                                        Cell(false, "right", F("Since | date \"MMMM yyyy\"")),
                                        Cell(false, "right", F("Gift | money 0 | else \"\""))
                                    ),
                                    Row(
                                        null,
                                        Cell(false, null, B("Total")),
                                        Cell(false, null),
                                        Cell(false, "right", B(F("sum(Plants.Gift) | money 0 | else \"\"")))
                                    )
                                ),
                            }
                        ),
                        Branch(
                            null,
                            P(
                                "No plant carries your name yet. The blue poppy in the alpine bed is looking for somebody, and so "
                                    + "is the camellia by the tea garden."
                            )
                        )
                    ),
                },
                P(
                    "The plant fair returns to the quay on the second weekend of April. As a ",
                    F("Level | lower"),
                    " you get in an hour early."
                ),
                .. Close(),
            ]
        );
        letter["header"] = new JsonArray([.. Head(emblem)]);
        letter["footer"] = new JsonArray(
            new JsonObject
            {
                ["type"] = "paragraph",
                ["attrs"] = new JsonObject { ["tabs"] = new JsonArray(new JsonObject { ["at"] = 159.9, ["kind"] = "right" }) },
                ["content"] = new JsonArray(
                    S("Piece ", 8),
                    Small(F("Piece number")),
                    S("\tpage ", 8),
                    Small(F("Page number")),
                    S(" of ", 8),
                    Small(F("Page count"))
                ),
            }
        );
        letter["page"]!["margins"]!["top"] = 42;
        letter["watermark"] = new JsonObject
        {
            ["text"] = "Fernquay",
            ["angle"] = 35,
            ["size"] = 110,
            ["strength"] = 0.05,
            ["color"] = "#1e5b4a",
        };
        return letter;
    }

    /// <summary>The invitation as an email, with the letter attached for the gate.</summary>
    public static JsonNode FairByEmail(string emblem, long letter) =>
        new JsonObject
        {
            ["kind"] = "email",
            ["subject"] = "{First | else \"Dear friend\"}, the plant fair is back",
            ["preheader"] = "Members get in an hour early",
            ["fromName"] = "Fernquay Botanic Garden",
            ["fromAddress"] = "members@example.org",
            ["replyTo"] = "Marisol Quint <marisol@example.org>",
            ["content"] = new JsonArray(
                new JsonObject
                {
                    ["type"] = "picture",
                    ["attrs"] = new JsonObject
                    {
                        ["asset"] = emblem,
                        ["width"] = 18,
                        ["aspect"] = 1,
                        ["alt"] = "Garden logo: a leaf in a ring",
                    },
                },
                P(F("Salutation")),
                P(
                    B("The spring plant fair"),
                    " returns to the quay on the second weekend of April, from 9 AM until the last tray is sold. As a ",
                    F("Level | lower"),
                    " you get in an hour early."
                ),
                new JsonObject
                {
                    ["type"] = "when",
                    ["content"] = new JsonArray(
                        new JsonObject
                        {
                            ["type"] = "branch",
                            ["attrs"] = new JsonObject { ["test"] = "count(Plants) > 0" },
                            ["content"] = new JsonArray(P("Come and see how ", F("first(Plants.Plant)"), " came through the winter.")),
                        },
                        new JsonObject
                        {
                            ["type"] = "branch",
                            ["attrs"] = new JsonObject { ["test"] = (string?)null },
                            ["content"] = new JsonArray(P("Some plants are still waiting to be adopted. Ask at the tea garden.")),
                        }
                    ),
                },
                P("The letter for the gate is attached. It opens with your number, ", F("No."), "."),
                P("With warm regards,"),
                P("Marisol Quint, Keeper of Members")
            ),
            ["attachments"] = new JsonArray(
                new JsonObject
                {
                    ["kind"] = "design",
                    ["designId"] = letter,
                    ["name"] = "Plant fair {No.}",
                    ["password"] = "{No.}",
                }
            ),
        };

    static JsonObject Small(JsonObject node)
    {
        node["marks"] = new JsonArray(
            new JsonObject
            {
                ["type"] = "textStyle",
                ["attrs"] = new JsonObject { ["fontSize"] = "8pt" },
            }
        );
        return node;
    }

    static JsonObject[] Head(string emblem) =>
        [
            new()
            {
                ["type"] = "picture",
                ["attrs"] = new JsonObject
                {
                    ["asset"] = emblem,
                    ["width"] = 16,
                    ["aspect"] = 1,
                    ["align"] = "right",
                    ["alt"] = "Garden logo: a leaf in a ring",
                },
            },
            P(S("Fernquay Botanic Garden", 17, bold: true), BR(), S("14 Quay Road, Fernquay, OR 97412", 9)),
        ];

    static JsonObject[] Address() =>
        [
            P(
                F("First"),
                " ",
                F("Last"),
                BR(),
                F("Organization | else \"\""),
                BR(),
                F("Street"),
                BR(),
                F("Street 2 | else \"\""),
                BR(),
                F("City"),
                ", ",
                F("State | else \"\""),
                " ",
                F("ZIP"),
                BR(),
                F("Country | else \"\"")
            ),
        ];

    static JsonObject[] Close() =>
        [P("With warm regards,"), P(S("Marisol Quint", 24, family: "Caveat")), P("Marisol Quint, Keeper of Members")];

    static JsonNode Letter(JsonObject[] content) =>
        new JsonObject
        {
            ["page"] = new JsonObject
            {
                ["sheet"] = "letter",
                ["margins"] = new JsonObject
                {
                    ["top"] = 20,
                    ["right"] = 28,
                    ["bottom"] = 22,
                    ["left"] = 28,
                },
            },
            ["type"] = new JsonObject
            {
                ["family"] = "Source Serif 4",
                ["size"] = 11,
                ["lineSpacing"] = 1.35,
                ["spaceAfter"] = 9,
            },
            ["maxPages"] = 1,
            ["content"] = new JsonArray([.. content]),
        };

    static JsonObject P(params object[] parts) =>
        new() { ["type"] = "paragraph", ["content"] = new JsonArray([.. parts.Select(p => p is string s ? T(s) : (JsonNode)p)]) };

    static JsonObject T(string text) => new() { ["type"] = "text", ["text"] = text };

    static JsonObject F(string source) =>
        new()
        {
            ["type"] = "field",
            ["attrs"] = new JsonObject { ["source"] = source },
        };

    static JsonObject BR() => new() { ["type"] = "hardBreak" };

    static JsonObject B(JsonObject node)
    {
        node["marks"] = new JsonArray(new JsonObject { ["type"] = "bold" });
        return node;
    }

    static JsonObject B(string text) => B(T(text));

    static JsonObject S(string text, int size, bool bold = false, string? family = null)
    {
        var style = new JsonObject { ["fontSize"] = $"{size}pt" };
        if (family is not null)
            style["fontFamily"] = family;
        var marks = new JsonArray(new JsonObject { ["type"] = "textStyle", ["attrs"] = style });
        if (bold)
            marks.Insert(0, new JsonObject { ["type"] = "bold" });
        var node = T(text);
        node["marks"] = marks;
        return node;
    }
}
