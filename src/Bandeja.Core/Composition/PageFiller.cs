namespace Bandeja.Core.Composition;

/// <summary>Fills pages from the top: keeps at least two lines of a paragraph together at the foot and at the head of a page (orphans and widows).</summary>
sealed class PageFiller(PageSetup page)
{
    const double Slack = 0.01;
    readonly List<LaidOutPage> pages = [];
    List<PageItem> items = [];
    double y = page.Top;
    bool fresh = true;

    double Bottom => page.Height - page.Bottom;

    bool Fits(double height) => y + height <= Bottom + Slack;

    void NextPage()
    {
        pages.Add(new(page.Width, page.Height, items));
        items = [];
        y = page.Top;
        fresh = true;
    }

    /// <summary>Adds a shared group: whole where it fits, else part by part, and line by line where a part must be divided.</summary>
    public void AddShared(SharedPart shared, double spaceAfter, IReadOnlyList<BoundLetter.Part> parts)
    {
        if (Fits(shared.Height))
        {
            Place(shared, spaceAfter);
            return;
        }
        foreach (var part in parts)
        {
            if (Fits(part.Shared!.Height)) Place(part.Shared, BoundLetter.SpaceAfter(part.Block));
            else if (part.Lines is not null) AddLines(part.Lines, BoundLetter.SpaceAfter(part.Block));
            else
            {
                if (!fresh) NextPage();
                Place(part.Shared, BoundLetter.SpaceAfter(part.Block));
            }
        }
    }

    void Place(SharedPart part, double spaceAfter)
    {
        if (part.Items.Count > 0) items.Add(new SharedItem(page.Left, y, part));
        y += part.Height + spaceAfter;
        fresh = false;
    }

    /// <summary>Adds the lines of one paragraph.</summary>
    public void AddLines(IReadOnlyList<TextLine> lines, double spaceAfter)
    {
        for (var next = 0; next < lines.Count;)
        {
            var take = 0;
            double height = 0;
            while (next + take < lines.Count && Fits(height + lines[next + take].Height)) height += lines[next + take++].Height;
            var left = lines.Count - next - take;
            if (left > 0)
            {
                if (left == 1 && take > 2) take--;            // no widow: bring a second line along
                else if (left == 1 && take == 2) take = 0;    // three lines stay together
                if (next == 0 && take == 1) take = 0;         // no orphan
                if (take <= 0 && fresh) take = 1;             // a line taller than a page: better over the edge than never
            }
            for (var i = 0; i < take; i++)
            {
                var line = lines[next + i];
                if (line.Runs.Count > 0) items.Add(new LineItem(page.Left, y + line.Baseline, line));
                y += line.Height;
                fresh = false;
            }
            next += take;
            if (next < lines.Count) NextPage();
        }
        y += spaceAfter;
    }

    /// <summary>The pages; at least one.</summary>
    public IReadOnlyList<LaidOutPage> Finish()
    {
        if (items.Count > 0 || pages.Count == 0) pages.Add(new(page.Width, page.Height, items));
        return pages;
    }
}
