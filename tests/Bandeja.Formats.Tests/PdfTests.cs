using System.Text;
using Bandeja.Core.Composition;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Formats.Pdf;
using UglyToad.PdfPig;
using static Bandeja.Formats.Tests.Paper;

namespace Bandeja.Formats.Tests;

public sealed class PdfTests
{
    static readonly FontLibrary Fonts = new(
        [
            Font("Source Serif 4", false, "source-serif-4/SourceSerif4-Regular"),
            Font("Source Serif 4", true, "source-serif-4/SourceSerif4-Bold"),
            Font("Source Sans 3", false, "source-sans-3/SourceSans3-Regular"),
            Font("Caveat", false, "caveat/Caveat-Regular"),
        ]
    );
    static readonly Column[] Columns = [new(1, "First", ColumnType.Text, Role.GivenName), new(2, "Amount", ColumnType.Number, Role.None)];

    const string Letter = """
        {"page":{"sheet":"letter"},"content":[
          {"type":"picture","attrs":{"asset":"emblem","width":20,"aspect":1,"align":"right"}},
          {"type":"paragraph","content":[{"type":"text","text":"Fernquay Botanic Garden","marks":[{"type":"bold"},{"type":"textStyle","attrs":{"fontSize":"17pt"}}]}]},
          {"type":"paragraph","content":[{"type":"text","text":"Dear "},{"type":"field","attrs":{"source":"First"}},{"type":"text","text":", efficient offices fill first: "},{"type":"field","attrs":{"source":"Amount | money"},"marks":[{"type":"underline"}]}]},
          {"type":"paragraph","attrs":{"textAlign":"justify"},"content":[{"type":"text","text":"The glasshouse is quieter without you; in nine years you have walked the riverside path with us, adopted two trees and — last autumn — given to the seed bank."}]},
          {"type":"paragraph","content":[{"type":"text","text":"Marisol Quint","marks":[{"type":"textStyle","attrs":{"fontFamily":"Caveat","fontSize":"24pt"}}]}]}]}
        """;

    static byte[] Write(int letters, Func<int, string> name, string json = Letter, PictureFile? picture = null)
    {
        using var target = new MemoryStream();
        var writer = new PdfLetterWriter(
            target,
            _ => picture,
            new("Second notice, run 1", "en-US", new(2027, 3, 5, 12, 0, 0, TimeSpan.Zero))
        );
        var composer = new LetterComposer(
            new BoundLetter(LetterReader.Read(json), Columns, OrganizationLocale.UnitedStates, Fonts),
            new(2027, 3, 5)
        );
        for (var i = 1; i <= letters; i++)
            writer.Add($"{i:0000} {name(i)}", composer.Compose(new ArrayRow([name(i), $"{i}.5"]), i).Pages);
        writer.Finish();
        return target.ToArray();
    }

    /// <summary>The text of a page, its spaces and line ends all one space.</summary>
    static string Text(UglyToad.PdfPig.Content.Page page) =>
        string.Join(
            ' ',
            UglyToad
                .PdfPig.DocumentLayoutAnalysis.TextExtractor.ContentOrderTextExtractor.GetText(page)
                .Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)
        );

    [Fact]
    public void Each_page_has_its_recipients_text_and_an_outline_entry()
    {
        using var pdf = PdfDocument.Open(Write(250, i => $"Ana{i}"));
        Assert.Equal(250, pdf.NumberOfPages);
        Assert.Equal("Second notice, run 1", pdf.Information.Title);
        Assert.True(pdf.TryGetBookmarks(out var bookmarks));
        var roots = bookmarks.Roots.OfType<UglyToad.PdfPig.Outline.DocumentBookmarkNode>().ToList();
        Assert.Equal(Enumerable.Range(1, 250).Select(i => ($"{i:0000} Ana{i}", i)), roots.Select(r => (r.Title, r.PageNumber)));
        foreach (var i in (int[])[1, 99, 100, 101, 250])
        {
            var text = Text(pdf.GetPage(i));
            Assert.Contains($"Dear Ana{i}, efficient offices fill first: ${i}.50", text);
            Assert.Contains("Fernquay Botanic Garden", text);
            Assert.Contains("Marisol Quint", text);
        }
    }

    [Theory]
    [InlineData("Ελένη Παπαδοπούλου")]
    [InlineData("Nguyễn Thị Ánh")]
    [InlineData("Łukasz Żak")]
    [InlineData("O’Neill – “Ferry”")]
    public void Names_of_many_scripts_can_be_copied_out(string name)
    {
        using var pdf = PdfDocument.Open(Write(1, _ => name));
        Assert.Contains(name, Text(pdf.GetPage(1)).Normalize());
    }

    [Fact]
    public void Marks_that_are_set_apart_from_their_letter_are_raised_and_still_copied()
    {
        using var pdf = PdfDocument.Open(Write(1, _ => "x\u0301\u0323y"));
        Assert.Contains("x\u0323\u0301", Text(pdf.GetPage(1)).Normalize());
    }

    [Fact]
    public void Fonts_are_embedded_cut_and_mapped_to_unicode()
    {
        var bytes = Write(3, i => $"Ana{i}");
        using var pdf = PdfDocument.Open(bytes);
        var fonts = pdf.GetPage(1).Letters.Select(l => l.FontName).Distinct().ToList();
        Assert.Equal(3, fonts.Count);
        Assert.All(fonts, f => Assert.Matches("^[A-Z]{6}\\+", f));
        Assert.True(bytes.Length < 90_000, $"{bytes.Length} bytes for fonts that have 1 MB");
    }

    [Fact]
    public void What_is_the_same_for_everyone_is_written_once()
    {
        var (ten, hundred) = (Write(10, i => $"Ana{i}").Length, Write(110, i => $"Ana{i}").Length);
        Assert.InRange((hundred - ten) / 100, 100, 1200);
    }

    [Fact]
    public void The_same_letters_give_the_same_file() => Assert.Equal(Write(5, i => $"Per{i}"), Write(5, i => $"Per{i}"));

    [Fact]
    public void A_file_without_letters_is_still_sound()
    {
        using var pdf = PdfDocument.Open(Write(0, _ => ""));
        Assert.Equal(0, pdf.NumberOfPages);
    }

    [Fact]
    public void A_picture_with_transparency_is_placed_with_its_mask()
    {
        var emblem = PictureFile.Read(File.ReadAllBytes(Path.Combine(Root(), "demo", "files", "emblem.png")));
        Assert.Equal((240, 240, "image/png"), (emblem.Width, emblem.Height, emblem.MediaType));
        using var pdf = PdfDocument.Open(Write(2, i => "Ana", picture: emblem));
        var image = Assert.Single(pdf.GetPage(2).GetImages());
        Assert.Equal(20 * 72 / 25.4, image.BoundingBox.Width, 1);
        Assert.Equal(612 - 25 * 72 / 25.4, image.BoundingBox.Right, 1);
    }

    [Theory]
    [InlineData("not a picture at all", "not a PNG, JPEG, SVG, or PDF")]
    [InlineData("\u0089PNG\r\n\u001a\nbroken", "damaged")]
    [InlineData("\u00ff\u00d8\u00ff\u00e0broken", "damaged")]
    public void What_is_no_picture_is_refused(string content, string why) =>
        Assert.Contains(why, Assert.Throws<PictureException>(() => PictureFile.Read(Encoding.Latin1.GetBytes(content))).Message);

    [Fact]
    public void Other_readers_find_the_file_sound() => Sound(Write(120, i => $"Zoë{i}"));

    [Fact]
    public void Text_sits_where_the_layout_put_it()
    {
        using var pdf = PdfDocument.Open(Write(1, _ => "Ana"));
        var page = pdf.GetPage(1);
        var margin = 25 * 72 / 25.4;
        var left = page.Letters.Where(l => l.Value == "T").Min(l => l.StartBaseLine.X);
        Assert.Equal(margin, left, 1);
        // The justified paragraph's first line ends at the right margin.
        var first = page.Letters.First(l => l.Value == "T" && l.PointSize < 12);
        var line = page.Letters.Where(l => Math.Abs(l.StartBaseLine.Y - first.StartBaseLine.Y) < 0.5).Max(l => l.EndBaseLine.X);
        Assert.Equal(612 - margin, line, 0);
    }
}
