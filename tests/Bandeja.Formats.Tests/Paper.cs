using System.Diagnostics;
using Bandeja.Core.Composition;

namespace Bandeja.Formats.Tests;

/// <summary>The fonts that ship, and other programs that look at what we wrote.</summary>
static class Paper
{
    /// <summary>The checkout.</summary>
    public static string Root()
    {
        var folder = AppContext.BaseDirectory;
        while (!Directory.Exists(Path.Combine(folder, "assets")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    /// <summary>A font from the assets.</summary>
    public static PaperFont Font(string family, bool bold, string file) =>
        new(family, bold, false, File.ReadAllBytes(Path.Combine(Root(), "assets", "fonts", file + ".ttf")));

    /// <summary>What a program says of a PDF. Where it is not installed, the test is skipped, and counted as that.</summary>
    public static string Run(string program, string arguments, byte[] pdf)
    {
        var path = Path.GetTempFileName();
        try
        {
            File.WriteAllBytes(path, pdf);
            using var process = Process.Start(
                new ProcessStartInfo(program, string.Format(System.Globalization.CultureInfo.InvariantCulture, arguments, path))
                {
                    RedirectStandardOutput = true,
                    RedirectStandardError = true,
                }
            )!;
            var text = process.StandardOutput.ReadToEnd() + process.StandardError.ReadToEnd();
            process.WaitForExit();
            return text;
        }
        catch (System.ComponentModel.Win32Exception)
        {
            throw Missing(program);
        }
        finally
        {
            File.Delete(path);
        }
    }

    /// <summary>What a test ends with whose program is not installed.</summary>
    public static Exception Missing(string program) => Xunit.Sdk.SkipException.ForSkip($"{program} is not installed on this machine");

    /// <summary>Holds a PDF against qpdf.</summary>
    public static void Sound(byte[] pdf) => Assert.Contains("No syntax or stream encoding errors found", Run("qpdf", "--check {0}", pdf));
}
