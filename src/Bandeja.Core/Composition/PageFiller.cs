namespace Bandeja.Core.Composition;

/// <summary>
/// Fills pages from the top: keeps at least two lines of a paragraph together at the foot and at the head of a page (orphans and
/// widows), headings with what follows, rows of a table whole, and repeats its headings.
/// </summary>
/// <param name="frame">Upper and lower edge of the text on a page, by the page's number from 0, points from the sheet's top.</param>
sealed class PageFiller(PageSetup page, Func<int, (double Top, double Bottom)> frame)
{
    const double Slack = 0.01;
    readonly List<List<PageItem>> pages = [];
    List<PageItem> items = [];
    double y = frame(0).Top,
        bottom = frame(0).Bottom,
        after;
    bool fresh = true;

    bool Fits(double height) => y + height <= bottom + Slack;

    double Room => bottom - y;

    double FullPage
    {
        get
        {
            var (top, low) = frame(pages.Count + 1);
            return low - top;
        }
    }

    void NextPage()
    {
        pages.Add(items);
        items = [];
        (y, bottom) = frame(pages.Count);
        after = 0;
        fresh = true;
    }

    double Gap(Flow flow) => fresh ? 0 : Math.Max(after, flow.Before);

    /// <summary>Places flows one after another.</summary>
    public void Fill(IReadOnlyList<Flow> flows)
    {
        for (var i = 0; i < flows.Count; i++)
        {
            var flow = flows[i];
            switch (flow)
            {
                case BreakFlow:
                    NextPage();
                    continue;
                case PlacedFlow:
                    flow.Emit(0, 0, items);
                    continue;
                case SharedFlow { Inner.Count: > 1 } shared when !Fits(Gap(shared) + shared.Height):
                    Fill([.. shared.Divided(Room - Gap(shared)), .. flows.Skip(i + 1)]);
                    return;
                case SharedFlow { Inner: [var only] } shared when !Fits(Gap(shared) + shared.Height) && only is not ItemFlow:
                    Fill([only, .. flows.Skip(i + 1)]);
                    return;
            }
            if (flow.Keep && !fresh && KeptTogether(flows, i) is var need && !Fits(Gap(flow) + need) && need <= FullPage)
                NextPage();
            y += Gap(flow);
            switch (flow)
            {
                case LinesFlow lines:
                    Lines(lines);
                    break;
                case TableFlow table:
                    Rows(table);
                    break;
                default:
                    if (!fresh && !Fits(flow.Height))
                        NextPage();
                    flow.Emit(page.Left, y, items);
                    y += flow.Height;
                    break;
            }
            after = flow.After;
            if (flow.Height > 0)
                fresh = false;
        }
    }

    /// <summary>Height of a flow that keeps with the next, and of what must follow it.</summary>
    static double KeptTogether(IReadOnlyList<Flow> flows, int at)
    {
        double height = 0;
        for (var i = at; i < flows.Count; i++)
        {
            if (i > at)
                height += Math.Max(flows[i - 1].After, flows[i].Before);
            if (!flows[i].Keep)
                return height + flows[i].Head;
            height += flows[i].Height;
        }
        return height;
    }

    void Lines(LinesFlow flow)
    {
        var lines = flow.Lines;
        for (var next = 0; next < lines.Count; )
        {
            var take = 0;
            double height = 0;
            while (next + take < lines.Count && Fits(height + lines[next + take].Height))
                height += lines[next + take++].Height;
            var left = lines.Count - next - take;
            if (left > 0)
            {
                if (left == 1 && take > 2)
                    take--; // no widow: bring a second line along
                else if (left == 1 && take == 2)
                    take = 0; // three lines stay together
                if (next == 0 && take == 1)
                    take = 0; // no orphan
                if (take <= 0 && fresh)
                    take = 1; // a line taller than a page: better over the edge than never
            }
            for (var i = 0; i < take; i++)
            {
                y += flow.EmitLine(next + i, page.Left, y, items);
                fresh = false;
            }
            next += take;
            if (next < lines.Count)
                NextPage();
        }
    }

    void Rows(TableFlow table)
    {
        if (!fresh && !Fits(table.Head) && table.Head <= FullPage)
            NextPage();
        Headings(table, true);
        var bare = true; // nothing but headings of this table on the page since it was begun
        for (var i = table.Heads; i < table.Rows.Count; i++)
        {
            var row = table.Rows[i];
            while (!Fits(row.Height))
            {
                if (!bare)
                {
                    NextPage();
                    Headings(table, false);
                    bare = true;
                    continue;
                }
                // Taller than a whole page: it is divided after the lines that fit.
                if (row.Split(Room) is not { } parts)
                {
                    if (fresh || y <= frame(pages.Count).Top + table.HeadingHeight + Slack)
                        break; // a line taller than a page: better over the edge than never
                    NextPage();
                    Headings(table, false);
                    continue;
                }
                table.EmitRow(parts.Above, page.Left, y, false, false, items);
                y += parts.Above.Height;
                row = parts.Below;
                NextPage();
                Headings(table, false);
            }
            table.EmitRow(row, page.Left, y, i == 0, i == table.Rows.Count - 1, items);
            y += row.Height;
            fresh = bare = false;
        }
    }

    void Headings(TableFlow table, bool firstTime)
    {
        // Headings that would fill the page themselves are printed once.
        if (!firstTime && table.HeadingHeight > FullPage / 2)
            return;
        for (var i = 0; i < table.Heads; i++)
        {
            table.EmitRow(table.Rows[i], page.Left, y, i == 0, i == table.Rows.Count - 1, items);
            y += table.Rows[i].Height;
            if (firstTime)
                fresh = false;
        }
    }

    /// <summary>What stands on each page; at least one page.</summary>
    public IReadOnlyList<List<PageItem>> Finish()
    {
        if (items.Count > 0 || pages.Count == 0)
            pages.Add(items);
        return pages;
    }
}
