using System.Text.Json.Serialization;
using Bandeja.Core.Documents;
using Bandeja.Core.Lists;
using Bandeja.Formats.Lists;
using Bandeja.Formats.Mail;

namespace Bandeja.Reader;

/// <summary>What is to be read. Bytes that an order needs follow it in a frame of their own.</summary>
/// <param name="Culture">The culture in which numbers are written in messages.</param>
[JsonDerivedType(typeof(AcceptList), "accept")]
[JsonDerivedType(typeof(LookAtList), "look")]
[JsonDerivedType(typeof(ReadRows), "rows")]
[JsonDerivedType(typeof(AcceptPicture), "picture")]
[JsonDerivedType(typeof(ReadReport), "report")]
[JsonDerivedType(typeof(ReadDocument), "document")]
[JsonDerivedType(typeof(AcceptFace), "face")]
[JsonDerivedType(typeof(LookAtForm), "form")]
public abstract record Order(string Culture);

/// <summary>Whether a list can be read from a file at all.</summary>
public sealed record AcceptList(string Path, string Name, string Culture) : Order(Culture);

/// <summary>The first rows of a file, and what is recognized in them.</summary>
/// <param name="Home">The code of the organization's country (ISO 3166-1).</param>
public sealed record LookAtList(
    string Path,
    string Name,
    SourceOptions Options,
    DateOrder Dates,
    string Home,
    string Currency,
    string Culture
) : Order(Culture);

/// <summary>All rows of a file.</summary>
public sealed record ReadRows(string Path, string Name, SourceOptions Options, string Culture) : Order(Culture);

/// <summary>A picture, a drawing, or a PDF, whose bytes follow.</summary>
/// <param name="Password">What opens a locked PDF; null for none.</param>
public sealed record AcceptPicture(string? Password, string Culture) : Order(Culture);

/// <summary>A message that came back, whose bytes follow.</summary>
/// <param name="ReturnAddress">Where bounces go; null where that is not known.</param>
public sealed record ReadReport(string? ReturnAddress, string Culture) : Order(Culture);

/// <summary>A word processor document.</summary>
/// <param name="Faces">Which faces print those that it names.</param>
public sealed record ReadDocument(string Path, string Name, FaceBook Faces, string Culture) : Order(Culture);

/// <summary>A typeface, whose bytes follow.</summary>
public sealed record AcceptFace(string Name, string Culture) : Order(Culture);

/// <summary>A PDF that is to be a form, whose bytes follow.</summary>
/// <param name="Password">What opens it where it is locked; null for none.</param>
public sealed record LookAtForm(string? Password, string Culture) : Order(Culture);

/// <summary>A document as a letter; the bytes of its pictures follow, each in a frame.</summary>
/// <param name="Pictures">What stands for each picture in the letter, and what it is called.</param>
public sealed record DocumentAnswer(BroughtDocument Document, IReadOnlyList<PictureOfDocument> Pictures);

/// <summary>A picture of a document.</summary>
public sealed record PictureOfDocument(string Key, string Name);

/// <summary>A picture that can be used; its bytes, clean and upright, follow.</summary>
/// <param name="Same">True where they are those that came.</param>
/// <param name="Written">How many bytes it adds to a PDF that shows it.</param>
public sealed record AcceptedPicture(string MediaType, int Width, int Height, bool Gray, int Pages, bool Same, long Written);

/// <summary>What a message says of deliveries.</summary>
/// <param name="IsMessage">False where the bytes are no message.</param>
/// <param name="IsReport">True where it has the form of a delivery report, or of a complaint.</param>
public sealed record ReportRead(bool IsMessage, bool IsReport, IReadOnlyList<ReportedDelivery> Said);

/// <summary>Why something was not read.</summary>
public enum RefusalKind
{
    /// <summary>No list can be read from it; the message is for the user.</summary>
    List,

    /// <summary>It cannot be used as a picture; the message is for the user.</summary>
    Picture,

    /// <summary>It is a PDF that opens only with another password; the message is for the user.</summary>
    Locked,

    /// <summary>It cannot be brought in as a document; the message is for the user.</summary>
    Document,

    /// <summary>It cannot be used as a typeface; the message is for the user.</summary>
    Typeface,

    /// <summary>Reading it took more memory than a file may take.</summary>
    Memory,

    /// <summary>Nobody foresaw this; the message is for the log.</summary>
    Unforeseen,
}

/// <summary>Why something was not read.</summary>
public sealed record Refusal(RefusalKind Kind, string Message);

/// <summary>What follows the last row.</summary>
public sealed record RowsEnd(IReadOnlyList<SourceNote> Notes);
