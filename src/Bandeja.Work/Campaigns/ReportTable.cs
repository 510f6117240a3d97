using System.Globalization;
using Bandeja.Core.Lists;
using Bandeja.Store.Sequences;

namespace Bandeja.Work.Campaigns;

/// <summary>A campaign's numbers as a table for spreadsheets.</summary>
public static class ReportTable
{
    static readonly (string Name, ColumnType Type)[] Headings =
    [
        ("Step", ColumnType.Text),
        ("First mailed", ColumnType.Date),
        ("Last mailed", ColumnType.Date),
        ("Mailed", ColumnType.Number),
        ("Returned", ColumnType.Number),
        ("Responded", ColumnType.Number),
        ("Response rate", ColumnType.Number),
        ("Cost", ColumnType.Number),
        ("Cost per piece", ColumnType.Number),
        ("Cost per response", ColumnType.Number),
        ("Received", ColumnType.Number),
        ("Received per 1 spent", ColumnType.Number),
    ];

    /// <summary>The columns, and a row for each step and for the whole campaign.</summary>
    public static (IReadOnlyList<Column> Columns, IEnumerable<IReadOnlyList<string?>> Rows) Of(CampaignReport report) =>
        (
            [.. Headings.Select((h, i) => new Column(i + 1, h.Name, h.Type, Role.None))],
            report.Steps.Append(report.Whole).Select(s => (IReadOnlyList<string?>)Row(s))
        );

    static string?[] Row(StepResult s) =>
        [
            s.Name,
            s.FirstMailed?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            s.LastMailed?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            Number(s.Mailed),
            Number(s.Returned),
            Number(s.Responses),
            s.Mailed == 0 ? null : Number(Math.Round((decimal)s.Responses / s.Mailed, 4)),
            s.Cents is { } cost ? Number(cost / 100m) : null,
            s.Cents is { } each && s.Mailed > 0 ? Number(Math.Round(each / 100m / s.Mailed, 4)) : null,
            s.Cents is { } per && s.Responses > 0 ? Number(Math.Round(per / 100m / s.Responses, 2)) : null,
            Number(s.Received / 100m),
            s.Cents > 0 ? Number(Math.Round((decimal)s.Received / s.Cents.Value, 2)) : null,
        ];

    static string Number(decimal n) => n.ToString(CultureInfo.InvariantCulture);
}
