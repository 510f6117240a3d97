using System.Text.Json.Serialization;

namespace Bandeja.Core.Drops;

/// <summary>What a run makes.</summary>
public enum RunOutput
{
    /// <summary>One PDF of all pieces, one for each design.</summary>
    [JsonStringEnumMemberName("one")]
    One,

    /// <summary>PDFs of so many pieces each.</summary>
    [JsonStringEnumMemberName("parts")]
    Parts,

    /// <summary>A PDF for each recipient, in a ZIP archive.</summary>
    [JsonStringEnumMemberName("each")]
    Each,

    /// <summary>The letters in one word processor document, the other designs as PDFs.</summary>
    [JsonStringEnumMemberName("docx")]
    Docx,

    /// <summary>A word processor document for each recipient's letter, in a ZIP archive.</summary>
    [JsonStringEnumMemberName("docxeach")]
    DocxEach,

    /// <summary>Sheets from a printer.</summary>
    [JsonStringEnumMemberName("print")]
    Print,

    /// <summary>Messages that are sent.</summary>
    [JsonStringEnumMemberName("email")]
    Email,

    /// <summary>Messages as files (RFC 5322), in a ZIP archive.</summary>
    [JsonStringEnumMemberName("eml")]
    Eml,

    /// <summary>Messages in one mailbox file (RFC 4155).</summary>
    [JsonStringEnumMemberName("mbox")]
    Mbox,
}

/// <summary>What outputs of runs have in common.</summary>
public static class RunOutputs
{
    /// <summary>True for what makes or sends messages.</summary>
    public static bool IsMail(this RunOutput output) => output is RunOutput.Email or RunOutput.Eml or RunOutput.Mbox;

    /// <summary>True for word processor documents.</summary>
    public static bool IsDocuments(this RunOutput output) => output is RunOutput.Docx or RunOutput.DocxEach;

    /// <summary>True where each recipient has files of their own.</summary>
    public static bool IsEach(this RunOutput output) => output is RunOutput.Each or RunOutput.DocxEach;

    /// <summary>True for what makes files that are kept for a while.</summary>
    public static bool IsFiles(this RunOutput output) => output is not (RunOutput.Print or RunOutput.Email);

    /// <summary>As it is stored.</summary>
    public static string Stored(this RunOutput output) => output.ToString().ToLowerInvariant();
}
