namespace Bandeja.Formats.Documents;

/// <summary>What a document may hold. The limits are far above any letter, and low enough that no file can fill the memory.</summary>
public static class DocumentLimits
{
    /// <summary>Bytes of the file.</summary>
    public const long FileSize = 64L << 20;

    /// <summary>Bytes of all its parts, unpacked.</summary>
    public const long Unpacked = 256L << 20;

    /// <summary>Parts of the archive.</summary>
    public const int Parts = 5_000;

    /// <summary>Elements of one XML part: 500 densely formatted pages.</summary>
    public const int Elements = 400_000;

    /// <summary>How deep elements may be nested.</summary>
    public const int Depth = 256;

    /// <summary>How deep tables, text boxes, and controls may be nested in one another.</summary>
    public const int Nesting = 24;

    /// <summary>How deep field codes may be nested in one another.</summary>
    public const int Codes = 20;

    /// <summary>Pictures of one document.</summary>
    public const int Pictures = 200;

    /// <summary>Bytes of one picture.</summary>
    public const int PictureSize = 32 << 20;

    /// <summary>Lines of a report; what is beyond is counted.</summary>
    public const int ReportLines = 300;
}
