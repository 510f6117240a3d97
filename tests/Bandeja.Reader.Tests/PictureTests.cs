using System.Text;
using Bandeja.Formats.Pdf;

namespace Bandeja.Reader.Tests;

/// <summary>Pictures, drawings and pages that can be used come back as they would be read here.</summary>
public sealed class PictureTests : ReaderTests
{
    [Fact]
    public void What_can_be_used_comes_back_as_it_would_be_read_here()
    {
        foreach (var seed in Seed.All(Files).Where(s => s.Kind is SeedKind.Picture))
        {
            var data = seed.Parts[0].Content;
            var here = PictureFile.Accept(data);
            var (there, written) = Shared.Picture(data, seed.Name, Cancel);
            Assert.Equal(
                (here.MediaType, here.Width, here.Height, here.Gray, here.Pages, here.WrittenSize()),
                (there.MediaType, there.Width, there.Height, there.Gray, there.Pages, written)
            );
            Assert.Equal(here.Data, there.Data);
        }
        Assert.Empty(log.Lines);
    }

    [Fact]
    public void A_drawing_comes_back_without_what_runs()
    {
        var svg =
            "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"9\" height=\"9\" onload=\"x()\"><script>x()</script><rect "
            + "width=\"9\" height=\"9\"/></svg>";
        var clean = Encoding.UTF8.GetString(Shared.Picture(Encoding.UTF8.GetBytes(svg), "a.svg", Cancel).Picture.Data);
        Assert.DoesNotContain("x()", clean);
        Assert.Contains("<rect", clean);
    }
}
