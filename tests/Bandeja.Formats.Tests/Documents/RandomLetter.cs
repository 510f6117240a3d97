using System.Text.Json.Nodes;

namespace Bandeja.Formats.Tests.Documents;

/// <summary>Letters at random, in their stored form.</summary>
static class RandomLetter
{
    static readonly string[] Words =
    [
        "garden",
        "Fernquay",
        "löwe",
        "{First name}",
        "{Amount due | money 0}",
        "A & B",
        "<tag>",
        "\"quoted\"",
        "100%",
        "[note]",
        "@home",
        "{when Level = \"Patron\"}yes{otherwise}no{end}",
        "木",
        "\\{brace\\}",
        "a\tb",
        "{{",
        "«x»",
    ];

    public static JsonObject Of(Random r)
    {
        var content = new JsonArray();
        for (var i = r.Next(1, 8); i > 0; i--)
            content.Add(Block(r, 0));
        return new JsonObject
        {
            ["page"] = new JsonObject
            {
                ["sheet"] = "letter",
                ["margins"] = new JsonObject
                {
                    ["top"] = 20,
                    ["right"] = 25,
                    ["bottom"] = 20,
                    ["left"] = 25,
                },
            },
            ["type"] = new JsonObject
            {
                ["family"] = Pick(r, "Carlito", "Tinos", "Source Serif 4"),
                ["size"] = 11,
                ["lineSpacing"] = 1.3,
                ["spaceAfter"] = 8,
            },
            ["content"] = content,
        };
    }

    static T Pick<T>(Random r, params T[] of) => of[r.Next(of.Length)];

    static JsonObject Block(Random r, int depth) =>
        r.Next(depth > 1 ? 4 : 12) switch
        {
            8 => new JsonObject
            {
                ["type"] = "box",
                ["attrs"] = Placed(
                    r,
                    new JsonObject
                    {
                        ["width"] = r.Next(20, 90),
                        ["height"] = r.Next(5, 30),
                        ["padding"] = r.Next(0, 5),
                        ["shade"] = r.Next(2) == 0 ? "#f0e0d0" : null,
                        ["border"] = new JsonObject { ["width"] = 1, ["color"] = "#334455" },
                    }
                ),
                ["content"] = new JsonArray([.. Enumerable.Range(0, r.Next(0, 3)).Select(_ => Paragraph(r))]),
            },
            9 when depth == 0 => new JsonObject
            {
                ["type"] = "columns",
                ["attrs"] = new JsonObject
                {
                    ["count"] = r.Next(2, 4),
                    ["gap"] = r.Next(4, 12),
                    ["line"] = r.Next(2) == 0,
                },
                ["content"] = new JsonArray([.. Enumerable.Range(0, r.Next(1, 4)).Select(_ => Paragraph(r))]),
            },
            10 when depth == 0 => new JsonObject
            {
                ["type"] = "pageBreak",
                ["attrs"] = new JsonObject
                {
                    ["page"] = new JsonObject
                    {
                        ["sheet"] = Pick(r, "letter", "a5"),
                        ["orientation"] = Pick(r, "portrait", "landscape"),
                        ["margins"] = new JsonObject
                        {
                            ["top"] = r.Next(10, 20),
                            ["right"] = 20,
                            ["bottom"] = 20,
                            ["left"] = r.Next(20, 30),
                        },
                    },
                },
            },
            4 => List(r, depth),
            5 => Table(r, depth),
            6 => new JsonObject
            {
                ["type"] = "picture",
                ["attrs"] = Placed(
                    r,
                    new JsonObject
                    {
                        ["asset"] = "p",
                        ["width"] = r.Next(10, 60),
                        ["aspect"] = 1.5,
                        ["alt"] = "A picture",
                    }
                ),
            },
            7 when depth == 0 => new JsonObject
            {
                ["type"] = "when",
                ["content"] = new JsonArray(
                    new JsonObject
                    {
                        ["type"] = "branch",
                        ["attrs"] = new JsonObject { ["test"] = "Amount due > 5" },
                        ["content"] = new JsonArray(Paragraph(r)),
                    },
                    new JsonObject
                    {
                        ["type"] = "branch",
                        ["attrs"] = new JsonObject { ["test"] = null },
                        ["content"] = new JsonArray(Paragraph(r)),
                    }
                ),
            },
            _ => Paragraph(r),
        };

    /// <summary>In the text, beside it, or at a place of the page.</summary>
    static JsonObject Placed(Random r, JsonObject attributes)
    {
        switch (r.Next(4))
        {
            case 0:
                attributes["place"] = Pick(r, "left", "right");
                attributes["gap"] = r.Next(2, 8);
                break;
            case 1:
                (attributes["place"], attributes["x"], attributes["y"]) = ("page", r.Next(0, 150), r.Next(0, 200));
                break;
            default:
                attributes["align"] = Pick(r, "left", "center", "right");
                break;
        }
        return attributes;
    }

    static JsonObject Paragraph(Random r, bool noted = false)
    {
        var content = new JsonArray();
        for (var i = r.Next(1, 5); i > 0; i--)
        {
            // In the stored form a brace that is no field is written with a backslash.
            var word = Pick(r, Words).Replace("{{", "\\{\\{");
            var node = new JsonObject { ["type"] = "text", ["text"] = word + " " };
            var marks = new JsonArray();
            foreach (var mark in (string[])["bold", "italic", "underline", "strike"])
                if (r.Next(6) == 0)
                    marks.Add(new JsonObject { ["type"] = mark });
            if (r.Next(5) == 0)
                marks.Add(
                    new JsonObject
                    {
                        ["type"] = "textStyle",
                        ["attrs"] = new JsonObject
                        {
                            ["fontSize"] = $"{r.Next(8, 20)}pt",
                            ["color"] = "#1e5b4a",
                            ["fontFamily"] = Pick(r, "Arimo", "Gelasio"),
                        },
                    }
                );
            if (marks.Count > 0)
                node["marks"] = marks;
            content.Add(node);
            if (!noted && r.Next(10) == 0)
                content.Add(
                    new JsonObject
                    {
                        ["type"] = "footnote",
                        ["attrs"] = new JsonObject
                        {
                            ["content"] = new JsonArray([.. Enumerable.Range(0, r.Next(1, 3)).Select(_ => Paragraph(r, noted: true))]),
                        },
                    }
                );
            if (r.Next(8) == 0)
                content.Add(new JsonObject { ["type"] = "hardBreak" });
        }
        // A line end at the very end of a paragraph is nothing in a file.
        if ((string?)content[^1]!["type"] == "hardBreak")
            content.RemoveAt(content.Count - 1);
        var a = new JsonObject();
        if (r.Next(3) == 0)
            a["textAlign"] = Pick(r, "center", "right", "justify");
        if (r.Next(3) == 0)
            a["spaceAfter"] = r.Next(0, 30);
        if (r.Next(4) == 0)
            (a["indent"], a["firstLine"]) = (r.Next(5, 20), r.Next(0, 5));
        if (r.Next(3) == 0)
            a["named"] = Pick(r, "Body Text", "Quote & more", "Signature");
        if (r.Next(6) == 0)
            a["shade"] = "#f0e0d0";
        if (r.Next(6) == 0)
            a["keep"] = true;
        if (r.Next(6) == 0)
            a["border"] = new JsonObject
            {
                ["sides"] = Pick(r, "top", "top bottom", "left"),
                ["width"] = 1,
                ["color"] = "#334455",
            };
        return new JsonObject
        {
            ["type"] = "paragraph",
            ["attrs"] = a,
            ["content"] = content,
        };
    }

    static JsonObject Plain(Random r) =>
        new()
        {
            ["type"] = "paragraph",
            ["content"] = new JsonArray(
                new JsonObject { ["type"] = "text", ["text"] = Pick(r, Words).Replace("{{", "x").Replace("\t", " ") }
            ),
        };

    static JsonObject List(Random r, int depth)
    {
        var items = new JsonArray();
        for (var i = r.Next(1, 4); i > 0; i--)
        {
            var item = new JsonArray(Plain(r));
            if (depth == 0 && r.Next(3) == 0)
                item.Add(List(r, depth + 1));
            items.Add(new JsonObject { ["type"] = "listItem", ["content"] = item });
        }
        var numbered = r.Next(2) == 0;
        var a = new JsonObject { ["indent"] = 10, ["hang"] = 6 };
        if (numbered && r.Next(2) == 0)
            a["style"] = Pick(r, "lower-alpha", "upper-roman");
        if (numbered)
            a["start"] = r.Next(1, 4);
        return new JsonObject
        {
            ["type"] = numbered ? "orderedList" : "bulletList",
            ["attrs"] = a,
            ["content"] = items,
        };
    }

    static JsonObject Table(Random r, int depth)
    {
        var columns = r.Next(1, 4);
        var rows = new JsonArray();
        for (var i = r.Next(1, 4); i > 0; i--)
        {
            var cells = new JsonArray();
            for (var c = 0; c < columns; c++)
            {
                var attributes = new JsonObject { ["colwidth"] = new JsonArray(r.Next(60, 140)) };
                if (r.Next(4) == 0)
                    attributes["shade"] = "#ddeeff";
                if (r.Next(3) == 0)
                {
                    var lines = new JsonObject();
                    foreach (var side in (string[])["top", "right", "bottom", "left"])
                        if (r.Next(2) == 0)
                            lines[side] = new JsonObject { ["width"] = Pick(r, 0.5, 1, 3), ["color"] = Pick(r, "#000000", "#aa3322") };
                    attributes["lines"] = lines;
                }
                cells.Add(
                    new JsonObject
                    {
                        ["type"] = "tableCell",
                        ["attrs"] = attributes,
                        ["content"] = new JsonArray(Plain(r)),
                    }
                );
            }
            rows.Add(new JsonObject { ["type"] = "tableRow", ["content"] = cells });
        }
        return new JsonObject
        {
            ["type"] = "table",
            ["attrs"] = new JsonObject { ["lines"] = Pick(r, "none", "rows", "all", "outside") },
            ["content"] = rows,
        };
    }
}
