using System.Text;
using Bandeja.Core.Composition;
using static Bandeja.Formats.Documents.DocxWriter;

namespace Bandeja.Formats.Documents;

/// <summary>The sections of a letter (ECMA-376 part 1, section 17.6): one, two more around each of its columns, and one for each change of
/// the sheet. Text before a section's properties belongs to it.</summary>
/// <param name="references">The headers and footers, as elements.</param>
/// <param name="first">The sheet of the first page.</param>
/// <param name="edge">From the edge of the sheet to header and footer, points.</param>
/// <param name="many">True for a file of several letters.</param>
/// <param name="firstDiffers">True where the letter's first page has headers of its own.</param>
sealed class DocxSections(string references, PageSetup first, double edge, bool many, bool firstDiffers)
{
    bool begun,
        turned;

    /// <summary>The sheet of what is written now.</summary>
    public PageSetup Page { get; private set; } = first;

    /// <summary>What follows stands on another sheet, from its first page on.</summary>
    public void Turn(PageSetup page) => (Page, turned) = (page, true);

    /// <summary>Ends a section.</summary>
    /// <param name="columns">The columns of its text; null for none.</param>
    public string End(Columns? columns)
    {
        var (s, opens) = (new StringBuilder("<w:sectPr>"), !begun);
        s.Append(references);
        if (many && opens)
            s.Append("<w:footnotePr><w:numRestart w:val=\"eachSect\"/></w:footnotePr>");
        if (!opens && !turned)
            s.Append("<w:type w:val=\"continuous\"/>");
        else if (many || turned)
            s.Append("<w:type w:val=\"nextPage\"/>");
        (begun, turned) = (true, false);
        var landscape = Page.Width > Page.Height ? " w:orient=\"landscape\"" : "";
        s.Append($"<w:pgSz w:w=\"{Twips(Page.Width)}\" w:h=\"{Twips(Page.Height)}\"{landscape}/>");
        s.Append(
            $"<w:pgMar w:top=\"{Twips(Page.Top)}\" w:right=\"{Twips(Page.Right)}\" w:bottom=\"{Twips(Page.Bottom)}\" "
                + $"w:left=\"{Twips(Page.Left)}\" w:header=\"{Twips(edge)}\" w:footer=\"{Twips(edge)}\" w:gutter=\"0\"/>"
        );
        if (many && opens)
            s.Append("<w:pgNumType w:start=\"1\"/>");
        if (columns is not null)
            s.Append($"<w:cols w:num=\"{columns.Count}\" w:space=\"{Twips(columns.Gap)}\"{(columns.Line ? " w:sep=\"1\"" : "")}/>");
        if (opens && firstDiffers)
            s.Append("<w:titlePg/>");
        return s.Append("</w:sectPr>").ToString();
    }
}
