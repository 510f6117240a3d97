namespace Bandeja.Core.Composition;

/// <summary>Where the text stands on a page: its left, upper, and lower edges, points from the sheet's.</summary>
readonly record struct PageFrame(double Left, double Top, double Bottom);

/// <summary>A page that was filled.</summary>
/// <param name="Height">How much of its height is taken, points.</param>
/// <param name="Setup">Its sheet; null for the letter's own.</param>
sealed record FilledPage(double Height, List<PageItem> Items, PageSetup? Setup);

/// <summary>
/// Fills pages from the top: keeps at least two lines of a paragraph together at the foot and at the head of a page (orphans and
/// widows), headings with what follows, rows of a table whole, and repeats its headings.
/// </summary>
/// <param name="frame">Where the text stands on a page, by the page's number from 0 and its sheet; null for the letter's own.</param>
sealed class PageFiller(Func<int, PageSetup?, PageFrame> frame)
{
    const double Slack = 0.01;

    /// <summary>What divides the footnotes from the text: room, and a thin line across some of it; points.</summary>
    const double AboveNotes = 8,
        NoteLine = 0.5,
        NoteLineWidth = 96;
    const string NoteLineColor = "8a8577";
    readonly List<FilledPage> pages = [];
    readonly List<LaidNote> notes = [];
    List<PageItem> items = [];
    PageSetup? setup;
    double y = frame(0, null).Top,
        bottom = frame(0, null).Bottom,
        left = frame(0, null).Left,
        used = frame(0, null).Top, // down to where something stands
        after;
    bool fresh = true;

    bool Fits(double height) => y + height <= bottom + Slack;

    /// <summary>The room that footnotes take besides those of the page.</summary>
    double NoteRoom(IReadOnlyList<LaidNote> more) => more.Count == 0 ? 0 : LaidNote.Sum(more) + (notes.Count == 0 ? AboveNotes : 0);

    /// <summary>Keeps room for footnotes at the foot of the page.</summary>
    void Keep(IReadOnlyList<LaidNote> more)
    {
        if (more.Count == 0)
            return;
        bottom -= NoteRoom(more);
        notes.AddRange(more);
    }

    /// <summary>Ends a page: its footnotes stand at its foot.</summary>
    void Close()
    {
        var top = frame(pages.Count, setup).Top;
        var height = used - top;
        if (notes.Count > 0)
        {
            // Of a note longer than a page what is below its edge is better than text under it.
            var at = Math.Max(used, bottom) + AboveNotes - NoteLine - LaidNote.Between;
            items.Add(new RectangleItem(left, at, NoteLineWidth, NoteLine, NoteLineColor));
            at += NoteLine + LaidNote.Between;
            foreach (var note in notes)
            {
                at += LaidNote.Between;
                foreach (var item in note.Items)
                    items.Add(item with { X = item.X + left, Y = item.Y + at });
                at += note.Height;
            }
            height = at - top;
            notes.Clear();
        }
        pages.Add(new(height, items, setup));
    }

    double Room => bottom - y;

    double FullPage
    {
        get
        {
            var next = frame(pages.Count + 1, setup);
            return next.Bottom - next.Top;
        }
    }

    void NextPage()
    {
        Close();
        Open();
    }

    void Open()
    {
        items = [];
        (left, y, bottom) = frame(pages.Count, setup);
        used = y;
        after = 0;
        fresh = true;
    }

    /// <summary>What follows begins a page. A new sheet leaves no blank page before it: it may follow the end of what was kept or
    /// repeated.</summary>
    void Turn(PageSetup? page)
    {
        if (page is null)
        {
            NextPage();
            return;
        }
        if (!fresh || items.Count > 0)
            Close();
        setup = page;
        Open();
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
                case BreakFlow turn:
                    Turn(turn.Page);
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
            if (flow is BesideFlow beside && !fresh && !Fits(Gap(beside) + beside.Tall) && beside.Tall <= FullPage)
                NextPage();
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
                case ColumnsFlow columns:
                    Columns(columns);
                    break;
                default:
                    if (!fresh && !Fits(flow.Height + NoteRoom(flow.Notes)))
                        NextPage();
                    Keep(flow.Notes);
                    flow.Emit(left, y, items);
                    used = y += flow.Height;
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
            IReadOnlyList<LaidNote> feet = [];
            while (next + take < lines.Count)
            {
                if (flow.NotesOf(next + take) is { Count: > 0 } own)
                    feet = [.. feet, .. own];
                if (!Fits(height + lines[next + take].Height + NoteRoom(feet)))
                    break;
                height += lines[next + take++].Height;
            }
            var rest = lines.Count - next - take;
            if (rest > 0)
            {
                if (rest == 1 && take > 2)
                    take--; // no widow: bring a second line along
                else if (rest == 1 && take == 2)
                    take = 0; // three lines stay together
                if (next == 0 && take == 1)
                    take = 0; // no orphan
                if (take <= 0 && fresh)
                    take = 1; // a line taller than a page: better over the edge than never
            }
            for (var i = 0; i < take; i++)
            {
                Keep(flow.NotesOf(next + i));
                used = y += flow.EmitLine(next + i, left, y, items);
                fresh = false;
            }
            next += take;
            if (next < lines.Count)
                NextPage();
        }
    }

    void Columns(ColumnsFlow columns)
    {
        if (!fresh && !Fits(columns.Head))
            NextPage();
        foreach (var placed in columns.Placed)
            placed.Emit(0, 0, items);
        var parts = columns.Divided(p => p == 0 ? Room : FullPage);
        for (var i = 0; i < parts.Count; i++)
        {
            if (i > 0)
                NextPage();
            columns.Emit(parts[i], left, y, items);
            used = y += parts[i].Height;
        }
        fresh = false;
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
            while (!Fits(row.Height + NoteRoom(row.Notes)))
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
                    if (fresh || y <= frame(pages.Count, setup).Top + table.HeadingHeight + Slack)
                        break; // a line taller than a page: better over the edge than never
                    NextPage();
                    Headings(table, false);
                    continue;
                }
                table.EmitRow(parts.Above, left, y, false, false, items);
                used = y += parts.Above.Height;
                row = parts.Below;
                NextPage();
                Headings(table, false);
            }
            Keep(row.Notes);
            table.EmitRow(row, left, y, i == 0, i == table.Rows.Count - 1, items);
            used = y += row.Height;
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
            table.EmitRow(table.Rows[i], left, y, i == 0, i == table.Rows.Count - 1, items);
            used = y += table.Rows[i].Height;
            if (!firstTime)
                continue;
            Keep(table.Rows[i].Notes);
            fresh = false;
        }
    }

    /// <summary>What stands on each page; at least one page.</summary>
    public IReadOnlyList<FilledPage> Finish()
    {
        if (items.Count > 0 || pages.Count == 0)
            Close();
        return pages;
    }
}
