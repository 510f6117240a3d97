using System.Net;
using System.Text.RegularExpressions;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Checks;

/// <summary>
/// Marks of the programs that a value has come through, which print as they are: codes of web pages (HTML, section 13.5, “Named character
/// references”: <c>O&amp;#39;Malley</c>), a spreadsheet's sign that a value is text (<c>'00123</c>, <c>="00123"</c>), and the decimals of a
/// number that is none (<c>5035550102.0</c>).
/// </summary>
static partial class ProgramMarks
{
    /// <summary>A value may have come through several programs; more marks than these are none.</summary>
    const int Most = 8;

    /// <summary>What is said of the value, and the value without any marks (null where nothing is left); null where it has none.</summary>
    public static (string Message, string? Clean)? Of(string value, Column column)
    {
        if (Once(value, column) is not var (says, clean))
            return null;
        for (var round = 1; round < Most && Once(clean, column) is var (_, cleaner); round++)
            clean = cleaner;
        return ($"{column.Name} is “{value}”, {says}.", clean.Length == 0 ? null : clean);
    }

    static (string Says, string Clean)? Once(string value, Column column)
    {
        if (value.Contains('&') && value.Contains(';') && Reference().IsMatch(value) && Decoded(value) is var decoded && decoded != value)
            return ("with codes of a web page", decoded);
        if (value.Length > 2 && value[0] is '\'' or '=' or '’' && AsText().Match(value) is { Success: true } text)
            return ("with a spreadsheet’s sign for text", text.Groups["text"].Value);
        return
            column is { Type: ColumnType.Text, Role: Role.Key or Role.Phone or Role.PostalCode }
            && AsNumber().Match(value) is { Success: true } number
            ? ("as a spreadsheet writes numbers", number.Groups["digits"].Value)
            : null;
    }

    static string Decoded(string value) =>
        string.Concat(WebUtility.HtmlDecode(value).Select(c => c == '\u00A0' ? ' ' : c).Where(c => !char.IsControl(c) || c is '\n' or '\r'))
            .Trim();

    [GeneratedRegex("&(?:#[0-9]{1,7}|#[xX][0-9a-fA-F]{1,6}|[a-zA-Z]{2,8}[0-9]{0,2});", RegexOptions.CultureInvariant)]
    private static partial Regex Reference();

    // A name may begin with an apostrophe ('t Hooft); a number does not.
    [GeneratedRegex("""^(?:['’](?<text>[+(]?[0-9][0-9 ()./-]*)|="(?<text>[^"]*)")$""", RegexOptions.CultureInvariant)]
    private static partial Regex AsText();

    [GeneratedRegex(@"^(?<digits>[0-9]{2,18})\.0{1,2}$", RegexOptions.CultureInvariant)]
    private static partial Regex AsNumber();
}
