using Bandeja.Formats.Pdf;

namespace Bandeja.Formats.Tests;

/// <summary>PDFs that open only with a password, in every way in which they are locked.</summary>
public sealed class LockedFormTests
{
    static byte[] Locked(string password, string how)
    {
        var pdf = new MadeForm().Page(MadeForm.Text(50, 706, "Family name:")).Field("a", "120 700 280 720", "/FT/Tx/TU(Name)").File();
        var target = Path.GetTempFileName();
        try
        {
            Assert.Equal("", Paper.Run("qpdf", $"--allow-weak-crypto --encrypt \"{password}\" {how} -- {{0}} {target}", pdf));
            return File.ReadAllBytes(target);
        }
        finally
        {
            File.Delete(target);
        }
    }

    /// <summary>ISO 32000-2, 7.6: RC4 with 40 and 128 bits, AES with 128 and 256.</summary>
    public static TheoryData<string, string> Ways =>
        new()
        {
            { "søøt", "owner 40" },
            { "soot", "owner 128" },
            { "soot", "owner 128 --use-aes=y" },
            { "søøt-Ω", "owner 256" },
        };

    [Theory, MemberData(nameof(Ways))]
    public void A_locked_pdf_is_asked_for_its_password_and_read_with_it(string password, string how)
    {
        var pdf = Locked(password, how);
        Assert.Contains("opens only with a password", Assert.Throws<LockedPdfException>(() => FormReading.Of(pdf)).Message);
        Assert.Contains("does not open", Assert.Throws<LockedPdfException>(() => FormReading.Of(pdf, "wrong")).Message);
        Assert.Contains("does not open", Assert.Throws<LockedPdfException>(() => PictureFile.Accept(pdf, "wrong")).Message);
        var facts = FormReading.Of(pdf, password);
        Assert.Equal(("a", "Name", "Family name"), (facts.Fields[0].Name, facts.Fields[0].Label, facts.Fields[0].Beside));
        var picture = PictureFile.Read(pdf, password);
        Assert.Equal(pdf, picture.Data);
        Assert.True(picture.WrittenSize() > 0);
    }

    [Fact]
    public void A_pdf_locked_against_changes_alone_opens_without_a_password()
    {
        var pdf = Locked("", "owner 256 --modify=none");
        Assert.Single(FormReading.Of(pdf).Fields);
        Assert.Single(FormReading.Of(pdf, "anything").Fields);
    }
}
