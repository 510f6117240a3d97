using Bandeja.Core.Forms;
using Bandeja.Formats.Pdf;
using SkiaSharp;

namespace Bandeja.Formats.Tests;

/// <summary>A form is the page that it was: whatever is filled in, nothing outside its fields looks otherwise.</summary>
public sealed class FormPixelTests
{
    const int Dpi = 100;

    /// <summary>A page full of drawing: colors, hairlines, text in two sizes, fields across the middle.</summary>
    static byte[] Busy(string entries)
    {
        var drawing = new System.Text.StringBuilder();
        for (var i = 0; i < 24; i++)
            drawing
                .Append(FormattableString.Invariant($"{i / 24.0} 0.6 {1 - i / 24.0} rg {20 + i * 23} {30 + i * 11} 19 40 re f\n"))
                .Append(FormattableString.Invariant($"0.3 w {10 + i * 25} 10 m {590 - i * 20} 780 l S\n"));
        drawing.Append(MadeForm.Text(60, 745, "Application for a plot", 18)).Append(MadeForm.Text(60, 725, "in capitals, please", 8));
        return new MadeForm()
            .Page(drawing.ToString(), entries)
            .Field("person.name", "60 660 320 684", "/FT/Tx/DA(/Helv 11 Tf 0 g)")
            .Field("person.zip", "60 610 200 634", "/FT/Tx/Ff 16777216/MaxLen 5/DA(/Helv 12 Tf 0 g)")
            .Field("agree", "60 570 76 586", "/FT/Btn/AP<</N<</Sure 1 0 R/Off 1 0 R>>>>/MK<</BC[0]/CA(8)>>")
            .Field("city", "60 520 240 544", "/FT/Ch/Ff 131072/Opt[[(al)(Alder Point)](Fernquay)]/DA(/Helv 11 Tf 0 g)")
            .File();
    }

    [Theory]
    [InlineData("printed", "/MediaBox[0 0 612 792]")]
    [InlineData("fillable", "/MediaBox[0 0 612 792]")]
    [InlineData("readonly", "/MediaBox[0 0 612 792]")]
    [InlineData("printed", "/MediaBox[0 0 612 792]/CropBox[20 30 590 770]")]
    [InlineData("fillable", "/MediaBox[0 0 612 792]/CropBox[20 30 590 770]/Rotate 180")]
    [InlineData("printed", "/MediaBox[0 0 612 792]/CropBox[20 30 590 770]/Rotate 90")]
    [InlineData("fillable", "/MediaBox[0 0 612 792]/Rotate 270")]
    public void Outside_its_fields_nothing_changes(string output, string entries)
    {
        var made = Busy(entries);
        var answers = new Dictionary<string, string>
        {
            ["person.name"] = "{C1}",
            ["person.zip"] = "{C2}",
            ["agree"] = "{C3}",
            ["city"] = "{C4}",
        };
        var (file, _) = FillableTests.Filled(output, made, answers, ["Ελένη Żółć", "97412", "yes", "Alder Point"]);
        using var before = Seen(made);
        using var after = Seen(file);
        Assert.Equal((before.Width, before.Height), (after.Width, after.Height));
        var fields = FormReading.Of(made).Fields.SelectMany(f => f.Widgets).Select(Pixels).ToList();
        Assert.Equal(4, fields.Count);
        var (changed, within) = (0, 0);
        for (var y = 0; y < before.Height; y++)
        for (var x = 0; x < before.Width; x++)
        {
            var (one, other) = (before.GetPixel(x, y), after.GetPixel(x, y));
            if (fields.Any(f => f.Contains(x, y)))
                within += one == other ? 0 : 1;
            // What is drawn through a matrix may be rounded to the pixel beside it; nothing may come or go.
            else if (!IsNear(one, after, x, y) || !IsNear(other, before, x, y))
                changed++;
        }
        // Where hairlines cross edges, more than one pixel is rounded; a letter of a value would be many more.
        Assert.InRange(changed, 0, before.Width * before.Height / 10_000);
        // The values are there: the comparison is not one of two empty pages.
        Assert.InRange(within, 200, 100_000);
    }

    /// <summary>Whether a color is there at a place of a picture, or right beside it.</summary>
    static bool IsNear(SKColor color, SKBitmap picture, int x, int y)
    {
        for (var v = Math.Max(0, y - 1); v <= Math.Min(picture.Height - 1, y + 1); v++)
        for (var u = Math.Max(0, x - 1); u <= Math.Min(picture.Width - 1, x + 1); u++)
        {
            var c = picture.GetPixel(u, v);
            if (Math.Abs(c.Red - color.Red) + Math.Abs(c.Green - color.Green) + Math.Abs(c.Blue - color.Blue) <= 72)
                return true;
        }
        return false;
    }

    /// <summary>Where a field stands in the picture, with the width of its border around it.</summary>
    static SKRectI Pixels(FormWidget w) =>
        new(
            (int)Math.Floor(w.X * Dpi / 72) - 2,
            (int)Math.Floor(w.Y * Dpi / 72) - 2,
            (int)Math.Ceiling((w.X + w.Width) * Dpi / 72) + 2,
            (int)Math.Ceiling((w.Y + w.Height) * Dpi / 72) + 2
        );

    /// <summary>The first page as it is shown, cut to its crop box.</summary>
    static SKBitmap Seen(byte[] pdf)
    {
        var target = Path.Combine(Path.GetTempPath(), Guid.NewGuid().ToString("N"));
        try
        {
            Paper.Run("pdftoppm", $"-cropbox -r {Dpi} -png -singlefile {{0}} {target}", pdf);
            return SKBitmap.Decode(target + ".png");
        }
        finally
        {
            File.Delete(target + ".png");
        }
    }
}
