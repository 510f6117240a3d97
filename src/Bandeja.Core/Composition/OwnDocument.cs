namespace Bandeja.Core.Composition;

/// <summary>A document that is kept with a recipient: a signed form, a scan, a photo.</summary>
/// <param name="File">The digest of its bytes, by which it is attached.</param>
/// <param name="Name">What it is called.</param>
/// <param name="Size">Bytes.</param>
/// <param name="Picture">How it is drawn on a page.</param>
public sealed record OwnDocument(string File, string Name, long Size, PictureFacts Picture);
