namespace Bandeja.Formats.Lists;

/// <summary>A workbook (ECMA-376, or the older binary kind).</summary>
sealed class WorkbookSource(string path) : PartedSource
{
    public override string Kind => "workbook";

    public override IReadOnlyList<SheetInfo> Parts() => WorkbookRowReader.Sheets(path);

    public override IRowReader Rows(SourceOptions complete) => new WorkbookRowReader(path, complete.Sheet, int.MaxValue);

    public override IRowReader FirstRows(SourceOptions complete, int rows) => new WorkbookRowReader(path, complete.Sheet, rows);
}
