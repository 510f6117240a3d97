using Bandeja.Core.Documents;

namespace Bandeja.Formats.Documents;

/// <summary>Collects what is to be said of a document. The same line is said once for each place, and not more often than fits.</summary>
sealed class DocumentReport
{
    readonly List<ReportLine> lines = [];
    readonly HashSet<(Carried, string, int?)> said = [];
    int beyond;

    /// <summary>The block of the text that is being read; null outside of it.</summary>
    public int? Block { get; set; }

    public void Say(Carried carried, string text) => Say(carried, text, Block);

    public void Say(Carried carried, string text, int? block)
    {
        if (!said.Add((carried, text, block)))
            return;
        if (lines.Count >= DocumentLimits.ReportLines)
            beyond++;
        else
            lines.Add(new(carried, text, block));
    }

    /// <summary>Blocks from one on have become one: what was said of them is said of it.</summary>
    public void Fold(int block)
    {
        for (var i = 0; i < lines.Count; i++)
            if (lines[i].Block > block)
                lines[i] = lines[i] with { Block = block };
    }

    /// <summary>The lines, what came over whole first.</summary>
    public IReadOnlyList<ReportLine> Lines =>
        [
            .. lines.OrderBy(l => l.Carried),
            .. beyond > 0 ? [new ReportLine(Carried.Different, $"{beyond:N0} more of the same kinds.")] : Array.Empty<ReportLine>(),
        ];
}
