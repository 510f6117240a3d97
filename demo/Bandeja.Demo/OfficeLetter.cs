using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Wordprocessing;

namespace Bandeja.Demo;

/// <summary>A letter as the garden's office wrote it before: a word processor's file with placeholders in three forms.</summary>
static class OfficeLetter
{
    public static void Write(string path)
    {
        using var document = WordprocessingDocument.Create(path, WordprocessingDocumentType.Document);
        var main = document.AddMainDocumentPart();
        main.AddNewPart<StyleDefinitionsPart>("styles").Styles = Styles();
        main.AddNewPart<NumberingDefinitionsPart>("numbers").Numbering = Numbering();
        main.Document = new Document(
            new Body(
                Line("Fernquay Botanic Garden", "Heading1"),
                Line("Jordan Sample"),
                Line("123 Any Street"),
                Line("Anytown, OR 97000"),
                Line("Dear {{FName}},"),
                new Paragraph(
                    Text("You have been with us since «Member since» as a member of the kind "),
                    Code("MERGEFIELD Level", "Friend"),
                    Text(", and on {{Renewal Date, MMMM d, yyyy}} your year ends. "),
                    Code("MERGEFIELD Amount_due \\# \"$#,##0.00\"", "$64.00"),
                    Text(" keeps your number.")
                ),
                Line("{{#if Level == 'Patron'}}"),
                Line("As a patron you are invited to the evening in the glasshouse."),
                Line("{{/if}}"),
                Line("What you can do today:"),
                Item("Send the card back in the envelope."),
                Item("Or come to the gate, Tuesday to Sunday."),
                new Table(
                    new TableProperties(
                        new TableBorders(
                            new TopBorder { Val = BorderValues.Single, Size = 4 },
                            new BottomBorder { Val = BorderValues.Single, Size = 4 },
                            new InsideHorizontalBorder { Val = BorderValues.Single, Size = 4 }
                        )
                    ),
                    new TableGrid(new GridColumn { Width = "6000" }, new GridColumn { Width = "3000" }),
                    new TableRow(new TableRowProperties(new TableHeader()), Cell("Plant in your name"), Cell("Since")),
                    new TableRow(Cell("{{#each plants}}{{Plant}}"), Cell("{{Since|else:\"\"}}{{/each}}"))
                ),
                Line("With warm regards,"),
                Line("[Signer]")
            )
        );
    }

    static Paragraph Line(string text, string? style = null) =>
        style is null ? new(Text(text)) : new(new ParagraphProperties(new ParagraphStyleId { Val = style }), Text(text));

    static Run Text(string text) => new(new Text(text) { Space = SpaceProcessingModeValues.Preserve });

    static SimpleField Code(string instruction, string shown) => new(Text(shown)) { Instruction = instruction };

    static Paragraph Item(string text) =>
        new(
            new ParagraphProperties(new NumberingProperties(new NumberingLevelReference { Val = 0 }, new NumberingId { Val = 1 })),
            Text(text)
        );

    static TableCell Cell(string text) => new(Line(text));

    static Styles Styles() =>
        new(
            new DocDefaults(
                new RunPropertiesDefault(
                    new RunPropertiesBaseStyle(new RunFonts { Ascii = "Cambria", HighAnsi = "Cambria" }, new FontSize { Val = "23" })
                ),
                new ParagraphPropertiesDefault(
                    new ParagraphPropertiesBaseStyle(
                        new SpacingBetweenLines
                        {
                            After = "160",
                            Line = "276",
                            LineRule = LineSpacingRuleValues.Auto,
                        }
                    )
                )
            ),
            new Style(
                new StyleName { Val = "heading 1" },
                new StyleRunProperties(new Color { Val = "1E5B4A" }, new FontSize { Val = "34" })
            )
            {
                Type = StyleValues.Paragraph,
                StyleId = "Heading1",
            }
        );

    static Numbering Numbering() =>
        new(
            new AbstractNum(
                new Level(
                    new StartNumberingValue { Val = 1 },
                    new NumberingFormat { Val = NumberFormatValues.Decimal },
                    new LevelText { Val = "%1." },
                    new PreviousParagraphProperties(new Indentation { Left = "720", Hanging = "360" })
                )
                {
                    LevelIndex = 0,
                }
            )
            {
                AbstractNumberId = 0,
            },
            new NumberingInstance(new AbstractNumId { Val = 0 }) { NumberID = 1 }
        );
}
