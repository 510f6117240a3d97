using Bandeja.Core.Composition;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Formats.Pdf;
using PdfSharp.Pdf.IO;
using UglyToad.PdfPig;

namespace Bandeja.Formats.Tests;

/// <summary>Protected PDFs, opened by programs that did not write them.</summary>
public sealed class ProtectionTests
{
    static readonly FontLibrary Fonts = new([Paper.Font("Source Serif 4", false, "source-serif-4/SourceSerif4-Regular")]);
    static readonly byte[] Seed = [.. Enumerable.Range(1, 32).Select(i => (byte)i)];

    static byte[] Made(PdfLock? how, byte[]? seed = null, FontPrograms? programs = null, string name = "Ana (the elder) \\ <Okafor>")
    {
        var target = new MemoryStream();
        var writer = new PdfLetterWriter(
            target,
            _ => null,
            new("Letter to " + name, "en-US", DateTimeOffset.UnixEpoch),
            how is null ? null : new PdfProtection(how, seed ?? Seed),
            programs
        );
        var letter = new BoundLetter(
            LetterReader.Read(
                """{"content":[{"type":"paragraph","content":[{"type":"text","text":"Dear {First}, see "},{"type":"text","text":"here","marks":[{"type":"link","attrs":{"href":"https://example.org/a(b)"}}]}]}]}"""
            ),
            [new(1, "First", ColumnType.Text, Role.GivenName)],
            OrganizationLocale.UnitedStates,
            Fonts
        );
        writer.Add("0001 " + name, new LetterComposer(letter, new(2027, 3, 1)).Compose(new ArrayRow([name]), 1).Pages);
        writer.Finish();
        return target.ToArray();
    }

    static string Qpdf(byte[] pdf, string arguments) => Paper.Run("qpdf", arguments + " {0}", pdf);

    [Theory]
    [InlineData("fern", "quay")]
    [InlineData("", "quay")]
    [InlineData("pässword with spaces and ß", "")]
    [InlineData(
        "a",
        "a very long password that goes on and on until it has more than one hundred and twenty-seven bytes in UTF-8, which is "
            + "where the standard cuts it off"
    )]
    public void A_protected_file_opens_with_its_password_and_no_other(string open, string owner)
    {
        var pdf = Made(new(open, owner, new()));
        using (var read = PdfDocument.Open(pdf, new ParsingOptions { Password = open }))
        {
            Assert.Contains("Dear Ana (the elder)", read.GetPage(1).Text);
            Assert.Equal("Letter to Ana (the elder) \\ <Okafor>", read.Information.Title);
        }
        if (owner.Length is > 0 and < 100)
        {
            using var sharp = PdfReader.Open(new MemoryStream(pdf), owner, PdfDocumentOpenMode.Modify);
            Assert.Equal(1, sharp.PageCount);
        }
        if (open.Length > 0)
            Assert.ThrowsAny<Exception>(() => PdfDocument.Open(pdf, new ParsingOptions { Password = "wrong" }).GetPage(1));
        var output = Qpdf(pdf, $"--check \"--password={open}\"");
        Assert.Contains("No syntax or stream encoding errors found", output);
        Assert.Contains("R = 6", output);
        Assert.Contains("AESv3", output);
        if (open.Length > 0)
            Assert.Contains("invalid password", Qpdf(pdf, "--check --password=wrong"));
    }

    [Theory]
    [InlineData(true, true, false)]
    [InlineData(false, false, false)]
    [InlineData(true, false, true)]
    public void Permissions_are_what_was_said(bool print, bool copy, bool change)
    {
        var output = Qpdf(Made(new("fern", "quay", new(print, copy, change))), "--show-encryption --password=fern");
        string Is(bool yes) => yes ? "allowed" : "not allowed";
        Assert.Contains($"print high resolution: {Is(print)}", output);
        Assert.Contains($"extract for any purpose: {Is(copy)}", output);
        Assert.Contains($"modify anything: {Is(change)}", output);
        Assert.Contains("extract for accessibility: allowed", output);
    }

    [Fact]
    public void Nothing_of_the_letter_stands_in_the_file_in_clear_and_the_same_seed_makes_the_same_bytes()
    {
        var pdf = Made(new("fern", "", new()));
        var raw = System.Text.Encoding.Latin1.GetString(pdf);
        Assert.DoesNotContain("example.org", raw);
        Assert.DoesNotContain(Convert.ToHexString(System.Text.Encoding.BigEndianUnicode.GetBytes("Okafor")), raw);
        Assert.DoesNotContain("fern", raw);
        Assert.Equal(pdf, Made(new("fern", "", new())));
        Assert.NotEqual(pdf, Made(new("fern", "", new()), [.. Seed.Reverse()]));
    }

    [Fact]
    public void Files_share_cut_fonts_and_each_still_has_the_glyphs_it_prints()
    {
        var programs = new FontPrograms();
        string[] names = ["Ana", "Bartholomew", "Zoë", "Xquv", "Œdipe", "Ana"];
        for (var i = 0; i < 90; i++)
        {
            var name = names[i % names.Length];
            var pdf = Made(null, null, programs, name);
            using var read = PdfDocument.Open(pdf);
            Assert.Contains($"Dear {name}, see here", read.GetPage(1).Text);
            if (i is not (0 or 70 or 73))
                continue;
            Paper.Sound(pdf);
            Assert.InRange(pdf.Length, 2_000, 24_000);
        }
    }
}
