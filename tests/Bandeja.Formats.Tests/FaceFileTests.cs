using System.Text;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Formats.Documents;
using Bandeja.Formats.Pdf;
using Bandeja.Formats.Tests.Documents;
using PdfSharp.Pdf.IO;

namespace Bandeja.Formats.Tests;

/// <summary>Typefaces that somebody brings.</summary>
public sealed class FaceFileTests
{
    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void A_font_says_what_it_is(bool postScript)
    {
        var facts = FaceFile.Accept(MadeFont.File(postScript: postScript, bold: true), "blocks");
        Assert.Equal(("Fernquay Blocks", true, false, "Bold"), (facts.Family, facts.Bold, facts.Italic, facts.Style));
        Assert.Equal(1.09, facts.LineHeight, 0.001);
    }

    [Theory]
    [InlineData(0x0002, "does not allow it to be embedded")]
    [InlineData(0x0100, "only as a whole")]
    [InlineData(0x0200, "only its bitmaps")]
    [InlineData(0x0004, null)] // preview and print
    [InlineData(0x0008, null)] // editable
    [InlineData(0x000A, null)] // of two rights the weaker restriction holds
    public void What_its_maker_allows_is_respected(int rights, string? refused)
    {
        var file = MadeFont.File(rights: rights);
        if (refused is null)
            Assert.Equal("Fernquay Blocks", FaceFile.Accept(file, "x.ttf").Family);
        else
            Assert.Contains(refused, Assert.Throws<FontFileException>(() => FaceFile.Accept(file, "x.ttf")).Message);
    }

    [Fact]
    public void What_is_no_font_or_is_damaged_is_refused_with_what_to_do()
    {
        var font = MadeFont.File();
        string Of(byte[] data) => Assert.Throws<FontFileException>(() => FaceFile.Accept(data, "x")).Message;
        Assert.Contains("not a font", Of([]));
        Assert.Contains("not a font", Of("PK and more than twelve bytes"u8.ToArray()));
        Assert.Contains("web font", Of([.. "wOF2"u8, .. font]));
        Assert.Contains("collection", Of([.. "ttcf"u8, .. font]));
        Assert.Contains("numbers its characters", Of(MadeFont.File(postScript: true, byCharacter: true)));
        for (var cut = 12; cut < font.Length - 4; cut += 97)
            Assert.Contains("damaged", Of(font[..cut]));
        var random = new Random(16);
        for (var n = 0; n < 400; n++)
        {
            var bad = MadeFont.File(postScript: n % 2 == 0);
            bad[random.Next(12, bad.Length)] ^= (byte)(1 << random.Next(8));
            // A table of another name, or bytes that nobody reads, may be no damage: but nothing else than a sentence comes of it.
            try
            {
                FaceFile.Accept(bad, "x");
            }
            catch (FontFileException e)
            {
                Assert.EndsWith(".", e.Message);
            }
        }
    }

    static (BoundLetter Letter, FontLibrary Fonts) Set(string text, bool postScript)
    {
        var fonts = FontFolder.Load(Path.Combine(Root(), "assets", "fonts"));
        fonts.Add(new("Fernquay Blocks", false, false, MadeFont.File(postScript: postScript)));
        var json =
            "{\"type\":{\"family\":\"Fernquay Blocks\"},\"content\":[{\"type\":\"paragraph\",\"content\":[{\"type\":\"text\",\"text\":\""
            + text
            + "\"}]}]}";
        return (
            new(LetterReader.Read(json), new Column[] { new(1, "A", ColumnType.Text, Role.None) }, OrganizationLocale.UnitedStates, fonts),
            fonts
        );
    }

    static string Root()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "Bandeja.slnx")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void A_letter_is_printed_with_it_and_its_text_can_be_read(bool postScript)
    {
        // A character that it lacks is lent by a face that ships; the hyphen stands for another text than it is.
        var (letter, fonts) = Set("Blocks of Löwe {A} fi-fi", postScript);
        Assert.Contains("Fernquay Blocks", fonts.Families);
        var piece = new LetterComposer(letter, default).Compose(new ArrayRow(["x-1"]), 1);
        var runs = piece.Pages[0].Flat().OfType<LineItem>().SelectMany(l => l.Line.Runs).ToList();
        Assert.Contains(runs, r => r.Font.Family == "Fernquay Blocks");
        Assert.Contains(runs, r => r.Font.Family != "Fernquay Blocks" && string.Concat(r.Words.Select(w => w.Text)).Contains('ö'));
        using var memory = new MemoryStream();
        var writer = new PdfLetterWriter(memory, _ => null, new("Paper", "en-US", DateTimeOffset.UnixEpoch));
        writer.Add(null, piece.Pages);
        writer.Finish();
        var bytes = memory.ToArray();
        using var document = PdfReader.Open(new MemoryStream(bytes), PdfDocumentOpenMode.Import);
        Assert.Equal(1, document.PageCount);
        Assert.Contains(postScript ? "CIDFontType0C" : "FontFile2", Encoding.Latin1.GetString(bytes));
        Assert.Contains("Blocks of Löwe x-1 fi-fi", Paper.Run("pdftotext", "{0} -", bytes));
        Paper.Sound(bytes);
    }

    [Fact]
    public void A_face_that_is_taken_away_gives_way_to_the_first()
    {
        var (_, fonts) = Set("x", false);
        var before = fonts.Version;
        fonts.Remove("Fernquay Blocks", false, false);
        Assert.NotEqual(before, fonts.Version);
        Assert.DoesNotContain("Fernquay Blocks", fonts.Families);
        Assert.Equal(fonts.Families[0], fonts.Find("Fernquay Blocks", false, false).Family);
    }

    [Fact]
    public void Documents_are_printed_with_what_was_chosen_then_own_faces_then_those_that_ship()
    {
        var book = new FaceBook(
            [new("Fernquay Blocks", 1.5)],
            new Dictionary<string, string>
            {
                ["Comic Neue"] = "Fernquay Blocks",
                ["Arial"] = "Tinos",
                ["Gone"] = "No Such Face",
            }
        );
        Assert.Equal(("Fernquay Blocks", true), (book.Of("fernquay blocks").Printed, book.Of("fernquay blocks").SameWidths));
        Assert.Equal("Fernquay Blocks", book.Of("COMIC NEUE").Printed);
        Assert.Equal(("Tinos", false), (book.Of("Arial").Printed, book.Of("Arial").SameWidths));
        Assert.Equal(("Carlito", true), (book.Of("Calibri").Printed, book.Of("Calibri").SameWidths));
        Assert.Equal(FaceTable.Of("Gone").Printed, book.Of("Gone").Printed);
        Assert.Equal((1.5, FaceTable.LineHeight("Tinos")), (book.LineHeight("Fernquay Blocks"), book.LineHeight("Tinos")));
        var path = Path.Combine(Path.GetTempPath(), $"bandeja-{Guid.NewGuid():N}.docx");
        try
        {
            File.WriteAllBytes(
                path,
                new MadeDocx().Body(MadeDocx.P(MadeDocx.R("x", "<w:rFonts w:ascii=\"Comic Neue\" w:hAnsi=\"Comic Neue\"/>"))).File()
            );
            var read = DocumentFile.Read(path, "x.docx", book);
            Assert.Contains("Fernquay Blocks", read.Document.Letter);
            Assert.Contains(
                read.Document.Report,
                l => l.Text.StartsWith("Comic Neue is replaced with Fernquay Blocks", StringComparison.Ordinal)
            );
        }
        finally
        {
            File.Delete(path);
        }
    }
}
