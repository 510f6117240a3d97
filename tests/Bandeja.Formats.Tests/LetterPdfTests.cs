using System.Diagnostics;
using System.Globalization;
using System.Text;
using System.Text.Json;
using Bandeja.Core.Composition;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Formats.Pdf;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Tokens;
using static Bandeja.Formats.Tests.Paper;

namespace Bandeja.Formats.Tests;

/// <summary>What a letter's PDF holds beside its text: structure, links, watermark, drawings, pages of other PDFs.</summary>
public sealed class LetterPdfTests
{
    static readonly Column[] Columns = [new(1, "First", ColumnType.Text, Role.GivenName)];

    static readonly FontLibrary Fonts = FontFolder.Load(Path.Combine(Root(), "assets", "fonts"));

    static byte[] Write(string json, bool tagged, Func<string, PictureFile?>? pictures = null, params string[] people)
    {
        using var target = new MemoryStream();
        var writer = new PdfLetterWriter(
            target,
            pictures ?? (_ => null),
            new("A letter", "en-US", new(2027, 3, 5, 12, 0, 0, TimeSpan.Zero), tagged)
        );
        var composer = new LetterComposer(
            new BoundLetter(LetterReader.Read(json), Columns, OrganizationLocale.UnitedStates, Fonts),
            new(2027, 3, 5)
        );
        for (var i = 0; i < people.Length; i++)
            writer.Add(people[i], composer.Compose(new ArrayRow([people[i]]), i + 1).Pages);
        writer.Finish();
        return target.ToArray();
    }

    static object P(string text, params object[] marks) =>
        new
        {
            type = "paragraph",
            content = new[]
            {
                new
                {
                    type = "text",
                    text,
                    marks,
                },
            },
        };

    static string Letter(params object[] content) => JsonSerializer.Serialize(new { content });

    static readonly string Rich = Letter(
        new
        {
            type = "heading",
            attrs = new { level = 1 },
            content = new[] { new { type = "text", text = "A heading" } },
        },
        P("Dear {First},"),
        new
        {
            type = "picture",
            attrs = new
            {
                asset = "leaf",
                width = 10,
                aspect = 1,
                alt = "A leaf",
            },
        },
        new { type = "bulletList", content = new[] { new { type = "listItem", content = new[] { P("an item") } } } },
        new { type = "blockquote", content = new[] { P("a quotation") } },
        new
        {
            type = "table",
            content = new object[]
            {
                new
                {
                    type = "tableRow",
                    content = new object[]
                    {
                        new
                        {
                            type = "tableHeader",
                            attrs = new { colspan = 2 },
                            content = new[] { P("Head") },
                        },
                    },
                },
                new
                {
                    type = "tableRow",
                    content = new object[]
                    {
                        new { type = "tableCell", content = new[] { P("left") } },
                        new { type = "tableCell", content = new[] { P("right {First}") } },
                    },
                },
            },
        }
    );

    /// <summary>The structure as a screen reader walks it: types nested, with what each element says about itself.</summary>
    static string Tree(byte[] bytes)
    {
        using var pdf = PdfDocument.Open(bytes);
        var root = (DictionaryToken)
            pdf.Structure.GetObject(((IndirectReferenceToken)pdf.Structure.Catalog.CatalogDictionary.Data["StructTreeRoot"]).Data).Data;
        var text = new StringBuilder();
        void Walk(IToken token)
        {
            if (token is IndirectReferenceToken r)
            {
                Walk(pdf.Structure.GetObject(r.Data).Data);
                return;
            }
            if (token is ArrayToken a)
            {
                foreach (var t in a.Data)
                    Walk(t);
                return;
            }
            if (token is not DictionaryToken d || !d.Data.TryGetValue("S", out var type))
                return;
            text.Append(((NameToken)type).Data);
            if (d.Data.TryGetValue("Alt", out var alt))
                text.Append('=').Append(alt is HexToken h ? h.Data : ((StringToken)alt).Data);
            text.Append('(');
            if (d.Data.TryGetValue("K", out var kids))
                Walk(kids);
            text.Append(')');
        }
        Walk(root.Data["K"]);
        return text.ToString();
    }

    [Fact]
    public void A_tagged_letter_tells_its_structure()
    {
        var leaf = PictureFile.Read(File.ReadAllBytes(Path.Combine(Root(), "demo", "files", "emblem.png")));
        var bytes = Write(Rich, true, _ => leaf, "Ana");
        Sound(bytes);
        Assert.Equal("Document(Sect(H1()P()Figure=A leaf()L(LI(P()))BlockQuote(P())Table(TR(TH(P()))TR(TD(P())TD(P())))))", Tree(bytes));
        using var pdf = PdfDocument.Open(bytes);
        Assert.Contains("en-US", pdf.Structure.Catalog.CatalogDictionary.Data["Lang"].ToString());
        // Everything on the page is marked: as part of an element or as decoration.
        var marked = pdf.GetPage(1).GetMarkedContents().SelectMany(m => m.Letters).Count();
        Assert.Equal(pdf.GetPage(1).Letters.Count, marked);
        Assert.Contains("Tagged:          yes", Run("pdfinfo", "{0}", bytes));
        Assert.Contains("Dear Ana,", Run("pdfinfo", "-struct-text {0}", bytes));
    }

    [Fact]
    public void Letters_of_many_pages_and_people_are_tagged_soundly()
    {
        var json = Letter(
            [
                .. Enumerable
                    .Range(0, 60)
                    .Select(i => P($"{i} " + (i % 2 == 0 ? "{First} " : "") + string.Concat(Enumerable.Repeat("and so on ", 20)))),
            ]
        );
        var bytes = Write(json, true, null, "Ana", "Per");
        Sound(bytes);
        Assert.Equal(2, Tree(bytes).Split("Sect(").Length - 1);
        Assert.Equal(120, Tree(bytes).Split("P()").Length - 1);
    }

    [Fact]
    public void An_untagged_run_shares_what_is_the_same_also_over_many_pages()
    {
        var json = Letter(
            [.. Enumerable.Range(0, 60).Select(i => P(i == 0 ? "{First}" : $"{i} " + string.Concat(Enumerable.Repeat("and so on ", 20))))]
        );
        var one = Write(json, false, null, "Ana").Length;
        var many = Write(json, false, null, [.. Enumerable.Range(0, 101).Select(i => $"Ana{i}")]).Length;
        Assert.True((many - one) / 100 < 3000, $"{(many - one) / 100} bytes for each letter of several pages");
    }

    [Fact]
    public void Links_are_live_on_every_page_also_from_shared_parts()
    {
        var link = new { type = "link", attrs = new { href = "https://fernquay.example/renew?a=(1)&b=2" } };
        var bytes = Write(Letter(P("Renew here", link), P("Dear {First}")), false, null, "Ana", "Per");
        Sound(bytes);
        using var pdf = PdfDocument.Open(bytes);
        foreach (var page in pdf.GetPages())
        {
            var found = Assert.Single(page.GetHyperlinks());
            Assert.Equal("https://fernquay.example/renew?a=(1)&b=2", found.Uri);
            Assert.Equal("Renew here", string.Concat(found.Letters.Select(l => l.Value)));
        }
        Assert.Contains("Link(", Tree(Write(Letter(P("Renew here", link)), true, null, "Ana")));
    }

    [Fact]
    public void A_watermark_is_turned_and_faint()
    {
        var json = JsonSerializer.Serialize(
            new
            {
                content = new[] { P("text") },
                watermark = new
                {
                    text = "For {First}",
                    angle = 45,
                    size = 60,
                    strength = 0.1,
                },
            }
        );
        var bytes = Write(json, false, null, "Ana");
        Sound(bytes);
        using var pdf = PdfDocument.Open(bytes);
        var letters = pdf.GetPage(1).Letters.Where(l => l.PointSize > 40 || l.FontSize > 40).ToList();
        Assert.Equal("For Ana", string.Concat(letters.Select(l => l.Value)));
        var (first, last) = (letters[0].StartBaseLine, letters[^1].EndBaseLine);
        Assert.Equal(1, (last.Y - first.Y) / (last.X - first.X), 2);
        Assert.Equal(612, first.X + last.X, 0.15 * 612);
        Assert.Contains("/ca 0.1", Encoding.Latin1.GetString(bytes));
    }

    [Theory]
    [InlineData("To {First}, with thanks for nine years", "مريم الخوري", "مريم الخوري")]
    [InlineData("{First}", "السيدة ليلى بنت الحلاق الأحمد", "السيدة ليلى بنت الحلاق الأحمد")]
    [InlineData("{First}", "السيّدة ليلى محمّدٌ الحلّاق", "السيّدة|ليلى|محمّدٌ|الحلّاق")]
    [InlineData("{First}", "شارع الملك 12، الطابق 3", "شارع الملك|12|الطابق|3")]
    [InlineData("{First}", "שלום (עולם) 5%", "שלום|עולם|5%")]
    [InlineData("Hello {First} world", "שלום 12", "Hello|שלום|12|world")]
    [InlineData("{First}", "רחוב הרצל 12, תל אביב 6423902", "רחוב הרצל|12|תל אביב|6423902")]
    public void Right_to_left_text_is_found_as_it_was_typed(string text, string value, string found)
    {
        var bytes = Write(Letter(P(text)), true, null, value);
        var typed = Squeezed(text.Replace("{First}", value));
        // Three readers that know nothing of each other; one takes every move for a space.
        using (var pdf = PdfDocument.Open(bytes))
            Assert.Equal(typed, Squeezed(string.Concat(pdf.GetPage(1).Letters.Select(l => l.Value))));
        var lines = Run("mutool", "draw -q -F txt {0}", bytes);
        Assert.Equal(typed, Squeezed(lines.Replace("warning: ICC support is not available", "")));
        var taken = Run(
            "/usr/bin/python3",
            "-W ignore -c \"import PyPDF2,sys;print(PyPDF2.PdfReader(sys.argv[1]).pages[0].extract_text())\" {0}",
            bytes
        );
        Assert.Equal(typed.Replace(" ", ""), Squeezed(taken).Replace(" ", ""));
        // A fourth goes by where letters stand and puts the parts of a line in the order of the page: its words are right.
        var read = Run("pdftotext", "{0} -", bytes);
        Assert.All(
            found.Split('|'),
            part => Assert.Contains(part, string.Concat(read.Where(c => CharUnicodeInfo.GetUnicodeCategory(c) != UnicodeCategory.Format)))
        );
    }

    static string Squeezed(string text) => string.Join(' ', text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));

    [Theory]
    [InlineData("王小明 北京市朝阳区")]
    [InlineData("東京都千代田区 ひらがな")]
    [InlineData("서울특별시 김민준")]
    [InlineData("กรุงเทพมหานคร สวัสดีครับ")]
    [InlineData("नई दिल्ली किताब श्री")]
    [InlineData("Thanks 😀 👍🏽")]
    public void Every_script_is_printed_and_found_as_it_was_typed(string value)
    {
        var bytes = Write(Letter(P("{First}")), true, null, value);
        var read = Run("pdftotext", "{0} -", bytes);
        Assert.Contains(value.Replace(" ", ""), read.Replace(" ", ""));
        using var pdf = PdfDocument.Open(bytes);
        Assert.Equal(value.Replace(" ", ""), string.Concat(pdf.GetPage(1).Letters.Select(l => l.Value)).Replace(" ", ""));
    }

    const string Drawing = """
        <?xml version="1.0"?><!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://www.w3.org/Graphics/SVG/1.1/DTD/svg11.dtd" [<!ENTITY x "&#120;">]>
        <svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="40mm" height="20mm" viewBox="0 0 80 40" onload="alert(1)">
          <script>alert(2)</script><style>@import url(http://outside.example/x.css);</style><image href="http://outside.example/pixel.png" width="5" height="5"/>
          <defs><linearGradient id="g"><stop offset="0" stop-color="#1e5b4a"/><stop offset="100%" stop-color="white" stop-opacity=".5"/></linearGradient><circle id="dot" r="4"/></defs>
          <g transform="translate(4 4) rotate(10)" fill="url(#g)" stroke="rgb(20,40,60)" stroke-width=".5"><path d="M0 0h20v20q-10 8 -20 0z"/><rect x="30" width="10" height="8" rx="2"/></g>
          <use href="#dot" x="60" y="20" fill="tomato"/><use xlink:href="http://outside.example/a.svg#b"/><foreignObject><p xmlns="http://www.w3.org/1999/xhtml" onclick="x()">hi</p></foreignObject>
          <a href="javascript:alert(3)"><ellipse cx="70" cy="30" rx="5" ry="3" style="fill:none;stroke:#b4541f;stroke-dasharray:1 2"/></a><polygon points="1,1 2,2 3,1" fill="url(http://outside.example/#x)"/>
        </svg>
        """;

    [Fact]
    public void A_drawing_is_neutralised_and_drawn_as_shapes()
    {
        var picture = PictureFile.Read(Encoding.UTF8.GetBytes(Drawing));
        Assert.Equal(("image/svg+xml", 151, 76), (picture.MediaType, picture.Width, picture.Height));
        var clean = Encoding.UTF8.GetString(picture.Data);
        foreach (
            var bad in (string[])["script", "outside", "onload", "onclick", "foreignObject", "javascript", "<image", "DOCTYPE", "@import"]
        )
            Assert.DoesNotContain(bad, clean, StringComparison.OrdinalIgnoreCase);
        var bytes = Write(
            Letter(
                new
                {
                    type = "picture",
                    attrs = new
                    {
                        asset = "x",
                        width = 40,
                        aspect = 2,
                    },
                },
                P("{First}")
            ),
            true,
            _ => picture,
            "Ana"
        );
        Sound(bytes);
        // Drawn, not photographed: shapes in the file and no image.
        Assert.DoesNotContain("/Subtype/Image", Encoding.Latin1.GetString(bytes));
        var pixels = Render(bytes);
        Assert.True(pixels.Distinct().Count() > 10, "the drawing's colors are on the page");
    }

    static byte[] Render(byte[] pdf)
    {
        var path = Path.GetTempFileName();
        try
        {
            File.WriteAllBytes(path, pdf);
            using var process = Process.Start(new ProcessStartInfo("pdftoppm", ["-r", "40", path]) { RedirectStandardOutput = true })!;
            using var all = new MemoryStream();
            process.StandardOutput.BaseStream.CopyTo(all);
            process.WaitForExit();
            return all.ToArray();
        }
        catch (System.ComponentModel.Win32Exception)
        {
            throw Missing("pdftoppm");
        }
        finally
        {
            File.Delete(path);
        }
    }

    [Theory]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'><text>Hello</text></svg>", "Convert the text to outlines")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'><g>", "damaged")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg' width='0' height='-3'/>", "no valid size")]
    [InlineData("<html><svg/></html>", "not an SVG drawing")]
    [InlineData("%PDF-1.4 nothing", "damaged")]
    public void Drawings_and_pages_that_cannot_be_used_are_refused(string content, string why) =>
        Assert.Contains(why, Assert.Throws<PictureException>(() => PictureFile.Read(Encoding.UTF8.GetBytes(content))).Message);

    [Fact]
    public void A_drawing_of_endless_reuse_ends()
    {
        var bomb =
            "<svg xmlns='http://www.w3.org/2000/svg'><defs>"
            + string.Concat(Enumerable.Range(0, 30).Select(i => $"<g id='a{i}'><use href='#a{i + 1}'/><use href='#a{i + 1}'/></g>"))
            + "<g id='a30'><use href='#a0'/><circle r='1'/></g></defs><use href='#a0'/></svg>";
        var picture = PictureFile.Read(Encoding.UTF8.GetBytes(bomb));
        Sound(Write(Letter(new { type = "picture", attrs = new { asset = "x" } }), false, _ => picture, "Ana"));
    }

    [Fact]
    public void The_page_of_a_pdf_lies_behind_the_text_turned_as_it_says()
    {
        var paper = Write(Letter(P("Letterhead of {First}")), false, null, "the garden");
        var picture = PictureFile.Read(paper);
        Assert.Equal(("application/pdf", 612, 792), (picture.MediaType, picture.Width, picture.Height));
        var json = JsonSerializer.Serialize(
            new
            {
                content = new[] { P("Dear {First}"), new { type = "pageBreak" } as object, P("second") },
                background = new { asset = "paper", pages = "first" },
            }
        );
        var bytes = Write(json, true, _ => picture, "Ana");
        Sound(bytes);
        using var pdf = PdfDocument.Open(bytes);
        string Text(int page) => string.Concat(pdf.GetPage(page).Letters.Select(l => l.Value));
        Assert.Contains("Letterhead of the garden", Text(1));
        Assert.Contains("Dear Ana", Text(1));
        Assert.DoesNotContain("Letterhead", Text(2));
        // It lies where it lay: the first letter of the letterhead stands at the same place as in its own file.
        using var own = PdfDocument.Open(paper);
        var (was, now) = (own.GetPage(1).Letters[0].StartBaseLine, pdf.GetPage(1).Letters.First(l => l.Value == "L").StartBaseLine);
        Assert.Equal((was.X, was.Y), (now.X, now.Y), (a, b) => Math.Abs(a.X - b.X) < 0.5 && Math.Abs(a.Y - b.Y) < 0.5);
    }

    [Theory]
    [InlineData(0)]
    [InlineData(90)]
    [InlineData(180)]
    [InlineData(270)]
    public void A_page_that_says_it_is_turned_is_drawn_as_it_is_seen(int turn)
    {
        // Shapes, because small type is drawn a little otherwise when it is turned.
        using var paper = new MemoryStream();
        var writer = new PdfLetterWriter(paper, _ => null, new("Paper", "en-US", DateTimeOffset.UnixEpoch));
        writer.Add(
            null,
            [new LaidOutPage(612, 792, [new RectangleItem(72, 72, 200, 50, "102010"), new RectangleItem(72, 300, 40, 300, "201010")])]
        );
        writer.Finish();
        using var document = PdfSharp.Pdf.IO.PdfReader.Open(new MemoryStream(paper.ToArray()), PdfSharp.Pdf.IO.PdfDocumentOpenMode.Modify);
        document.Pages[0].Rotate = turn;
        using var turned = new MemoryStream();
        document.Save(turned, false);
        var picture = PictureFile.Read(turned.ToArray());
        var lying = turn is 90 or 270;
        Assert.Equal(lying ? (792, 612) : (612, 792), (picture.Width, picture.Height));
        var json = JsonSerializer.Serialize(
            new
            {
                page = new { sheet = "letter", orientation = lying ? "landscape" : "portrait" },
                content = Array.Empty<object>(),
                background = new { asset = "paper" },
            }
        );
        var ours = Write(json, false, _ => picture, "Ana");
        Sound(ours);
        var (expected, got) = (Render(turned.ToArray()), Render(ours));
        Assert.Equal(expected.Length, got.Length);
        // The same picture but for the edges; an empty or otherwise turned page would differ in every dark pixel.
        var dark = expected.Count(b => b < 100);
        Assert.True(dark > 50);
        Assert.True(expected.Zip(got).Count(x => Math.Abs(x.First - x.Second) > 90) < dark / 5);
    }

    [Fact]
    public void A_picture_of_forty_megapixels_is_taken_and_one_beyond_the_limit_refused()
    {
        byte[] Png(int width, int height)
        {
            using var bitmap = new SkiaSharp.SKBitmap(new SkiaSharp.SKImageInfo(width, height, SkiaSharp.SKColorType.Gray8));
            using var data = bitmap.Encode(SkiaSharp.SKEncodedImageFormat.Png, 1);
            return data.ToArray();
        }
        var large = PictureFile.Read(Png(8000, 5000));
        Assert.Equal((8000, 5000), (large.Width, large.Height));
        Assert.Contains("the limit is 60 million", Assert.Throws<PictureException>(() => PictureFile.Read(Png(10_000, 6_100))).Message);
    }

    [Fact]
    public void The_same_letters_give_the_same_bytes() =>
        Assert.Equal(Write(Rich, true, null, "Ana", "Per"), Write(Rich, true, null, "Ana", "Per"));
}
