using Bandeja.Core.Forms;

namespace Bandeja.Formats.Pdf;

/// <summary>Looks at PDFs that are to be forms.</summary>
public static class FormReading
{
    /// <summary>What is known of a PDF that is used as a form.</summary>
    /// <param name="password">What opens it where it is locked; null for none.</param>
    /// <exception cref="LockedPdfException">It opens only with a password, or with another.</exception>
    /// <exception cref="PictureException">It cannot be used; the sentence says why.</exception>
    public static FormFacts Of(byte[] data, string? password = null) =>
        data.AsSpan().StartsWith("%PDF-"u8)
            ? FormFile.Read(data, password)
            : throw new PictureException("This file is not a PDF. A form is imported from a PDF.");
}
