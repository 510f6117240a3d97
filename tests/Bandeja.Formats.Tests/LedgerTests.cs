using System.Text;
using Bandeja.Formats.Ledger;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using FsCheck;
using FsCheck.Xunit;

namespace Bandeja.Formats.Tests;

public sealed class LedgerTests
{
    [Theory]
    [InlineData("=1+1", "'=1+1")]
    [InlineData("+1 541 555 0100", "'+1 541 555 0100")]
    [InlineData("@SUM(A1)", "'@SUM(A1)")]
    [InlineData("-2+3", "'-2+3")]
    [InlineData(" =cmd", "' =cmd")]
    [InlineData("\t=x", "'\t=x")]
    [InlineData("＝1+1", "'＝1+1")]
    [InlineData("-12.50", "-12.50")]
    [InlineData("Ana", "Ana")]
    [InlineData(null, "")]
    public void No_cell_starts_a_formula(string? value, string expected) => Assert.Equal(expected, SafeCell.Of(value));

    [Property(MaxTest = 500)]
    public void Whatever_the_value_the_cell_is_safe(string? value)
    {
        var cell = SafeCell.Of(value).TrimStart(' ', '\u00A0');
        if (cell.Length > 0 && cell[0] == '-')
            Assert.True(
                decimal.TryParse(
                    cell,
                    System.Globalization.NumberStyles.AllowLeadingSign | System.Globalization.NumberStyles.AllowDecimalPoint,
                    System.Globalization.CultureInfo.InvariantCulture,
                    out _
                )
            );
        else
            Assert.False(cell.Length > 0 && "=+@\t\r\n".Contains(cell[0]));
    }

    [Fact]
    public void Csv_is_quoted_by_the_rules_and_marked_as_utf8()
    {
        using var target = new MemoryStream();
        TableExport.Csv(
            target,
            ["Name", "Note"],
            [
                ["Okafor, Ana", "said \"yes\"\r\n=2"],
                ["Inês", "=HYPERLINK(\"x\")"],
            ]
        );
        var bytes = target.ToArray();
        Assert.Equal([0xEF, 0xBB, 0xBF], bytes[..3]);
        Assert.Equal(
            "Name,Note\r\n\"Okafor, Ana\",\"said \"\"yes\"\"\r\n=2\"\r\nInês,\"'=HYPERLINK(\"\"x\"\")\"\r\n",
            Encoding.UTF8.GetString(bytes[3..])
        );
    }

    [Fact]
    public void A_workbook_holds_text_and_no_formula()
    {
        using var target = new MemoryStream();
        TableExport.Xlsx(
            target,
            "Ledger",
            [
                new(1, "Piece", Bandeja.Core.Lists.ColumnType.Text, Bandeja.Core.Lists.Role.None),
                new(2, "Name", Bandeja.Core.Lists.ColumnType.Text, Bandeja.Core.Lists.Role.None),
            ],
            [
                ["0001", "=1+1"],
                ["0002", "a\u0001b"],
            ]
        );
        target.Position = 0;
        using var document = SpreadsheetDocument.Open(target, false);
        var part = document.WorkbookPart!.WorksheetParts.Single();
        Assert.Empty(part.Worksheet!.Descendants<CellFormula>());
        Assert.Equal(["Piece", "Name", "0001", "'=1+1", "0002", "ab"], part.Worksheet!.Descendants<Cell>().Select(c => c.InnerText));
        Assert.All(part.Worksheet!.Descendants<Cell>(), c => Assert.Equal(CellValues.InlineString, c.DataType!.Value));
        Assert.Equal("Ledger", document.WorkbookPart.Workbook!.Descendants<Sheet>().Single().Name!.Value);
    }
}
