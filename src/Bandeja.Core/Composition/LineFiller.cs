namespace Bandeja.Core.Composition;

/// <summary>
/// Fills lines with shaped words. Ragged lines are filled greedily; justified ones are broken where the spaces of the whole
/// paragraph come out most even, and a space is never stretched or pressed beyond bounds, so that no rivers run through the text.
/// </summary>
sealed class LineFiller
{
    /// <summary>How much a justified line may add to or take from a space, in its own widths. Beyond it the line stays short.</summary>
    internal const double MostStretch = 1.6,
        MostShrink = 0.18;
    const double Slack = 0.01,
        ScriptSize = 0.62,
        DefaultTab = 36;

    /// <summary>A shaped word, a picture or a gap in the line.</summary>
    record struct Placed(ShapedWord? Word, LinePicture? Picture, TextStyle Style, byte Level, double Gap, TabLeader Leader = TabLeader.None)
    {
        public readonly double Size => Style.Script == Script.Normal ? Style.Size : Style.Size * ScriptSize;
        public readonly double Width => Word is not null ? Word.Advance * Size / Word.Font.UnitsPerEm : Picture?.Width ?? Gap;
        public readonly int Spaces => Word is { IsSpace: true } ? Word.Text.Length : 0;
    }

    /// <summary>What stands between two places where a line may end: first to solid end prints there, up to the end are its
    /// spaces.</summary>
    record struct Unit(int First, int SolidEnd, int End, double Solid, double Full, bool Tab);

    readonly List<Placed> placed = [];
    readonly List<Unit> units = [];
    readonly List<byte> levels = [];
    ParagraphStyle style = null!;
    TextStyle emptyStyle = null!;
    double indent,
        width,
        solid,
        spaceWidth;
    Obstacle beside;
    double top;
    int first,
        solidEnd;
    bool hasTabs,
        backwards;

    /// <summary>Begins a line as it was typed, up to its break.</summary>
    /// <param name="indent">Of its first line, points.</param>
    /// <param name="beside">What stands beside the first lines of the paragraph.</param>
    /// <param name="above">The lines of the paragraph that stand above.</param>
    public void Begin(
        ParagraphStyle style,
        double indent,
        double width,
        TextStyle emptyStyle,
        Obstacle beside,
        IReadOnlyList<TextLine> above
    )
    {
        (this.style, this.indent, this.width, this.emptyStyle) = (style, indent, width, emptyStyle);
        this.beside = beside;
        top = 0;
        if (beside.Height > 0)
            foreach (var line in above)
                top += line.Height;
        placed.Clear();
        units.Clear();
        hasTabs = backwards = false;
        spaceWidth = 0;
    }

    public void BeginUnit() => (first, solid) = (placed.Count, 0);

    public void Add(ShapedWord word, TextStyle style, byte level)
    {
        var p = new Placed(word, null, style, level, 0);
        placed.Add(p);
        solid += p.Width;
        backwards |= level != 0;
        if (spaceWidth == 0 && word.IsSpace)
            spaceWidth = p.Width / word.Text.Length;
    }

    public void Add(LinePicture picture, TextStyle style, byte level)
    {
        placed.Add(new(null, picture, style, level, 0));
        solid += picture.Width;
    }

    public bool UnitIsTooWide =>
        solid > Math.Min(width, width - indent) - (IsBeside ? beside.Cut : 0) + Slack
        && placed.Count > first
        && placed[first].Picture is null;

    public void DropUnit() => placed.RemoveRange(first, placed.Count - first);

    public void EndSolid() => (solidEnd, solidWidth) = (placed.Count, solid);

    double solidWidth;

    public void EndUnit() => units.Add(new(first, solidEnd, placed.Count, solidWidth, solid, false));

    public void AddTab(TextStyle style)
    {
        hasTabs = true;
        placed.Add(new(null, null, style, 0, 0));
        units.Add(new(placed.Count - 1, placed.Count, placed.Count, 0, 0, true));
    }

    /// <summary>True where the line that is filled has something beside it.</summary>
    bool IsBeside => top < beside.Height - Slack;

    double Room(bool firstLine) => width - (firstLine ? indent : 0) - (IsBeside ? beside.Cut : 0);

    /// <summary>Breaks what was added into lines.</summary>
    public void Fill(List<TextLine> lines)
    {
        // Beside something each line has its own width, so that lines are filled one after another.
        if (style.Align == TextAlign.Justify && !hasTabs && units.Count > 2 && !IsBeside)
            FillEvenly(lines);
        else
            FillGreedily(lines);
    }

    void FillGreedily(List<TextLine> lines)
    {
        var start = 0;
        double used = 0;
        var firstLine = true;
        for (var i = 0; i < units.Count; i++)
        {
            var unit = units[i];
            if (unit.Tab)
            {
                var gap = TabGap(i, used, firstLine);
                if (gap is null && i > start)
                {
                    Close(lines, start, i, false, firstLine);
                    (start, used, firstLine) = (i, 0, false);
                    gap = TabGap(i, 0, false);
                }
                placed[unit.First] = placed[unit.First] with { Gap = gap ?? DefaultTab, Leader = gap is null ? TabLeader.None : leader };
                used += gap ?? DefaultTab;
                continue;
            }
            if (used + unit.Solid > Room(firstLine) + Slack && i > start)
            {
                Close(lines, start, i, false, firstLine);
                (start, used, firstLine) = (i, 0, false);
            }
            used += unit.Full;
        }
        Close(lines, start, units.Count, true, firstLine);
    }

    /// <summary>What fills the way of the tab that was looked at last.</summary>
    TabLeader leader;

    /// <summary>How far a tab goes; null where there is no stop left on the line.</summary>
    double? TabGap(int tab, double used, bool firstLine)
    {
        var position = used + (firstLine ? indent : 0);
        var stop = new TabStop(-1, TabKind.Left);
        foreach (var s in style.Tabs ?? [])
            if (s.At - style.Indent > position + Slack)
            {
                stop = s with { At = s.At - style.Indent };
                break;
            }
        if (stop.At < 0)
            stop = new((Math.Floor((position + style.Indent) / DefaultTab + Slack) + 1) * DefaultTab - style.Indent, TabKind.Left);
        if (stop.At > width - (IsBeside ? beside.Cut : 0) + Slack)
            return null;
        leader = stop.Leader;
        if (stop.Kind == TabKind.Left)
            return stop.At - position;
        double after = 0,
            beforeSign = -1;
        for (var i = tab + 1; i < units.Count && !units[i].Tab; i++)
        {
            var last = i + 1 == units.Count || units[i + 1].Tab;
            for (var k = units[i].First; k < (last ? units[i].SolidEnd : units[i].End); k++)
            {
                if (stop.Kind == TabKind.Decimal && beforeSign < 0 && placed[k].Word is { } word && DecimalSign(word) is { } at)
                    beforeSign = after + word.Font.Shape(word.Text.AsSpan(0, at)).Advance * placed[k].Size / word.Font.UnitsPerEm;
                after += placed[k].Width;
            }
        }
        var gap =
            stop.At
            - position
            - (
                stop.Kind switch
                {
                    TabKind.Right => after,
                    TabKind.Center => after / 2,
                    _ => beforeSign < 0 ? after : beforeSign,
                }
            );
        return Math.Max(0, gap);
    }

    /// <summary>Where a number's decimal sign is: the last point or comma with no more than two digits, or the end of a number, after
    /// it.</summary>
    static int? DecimalSign(ShapedWord word)
    {
        if (!word.Text.Any(char.IsAsciiDigit))
            return null;
        var at = word.Text.LastIndexOfAny(['.', ',']);
        if (at < 0 || at == word.Text.Length - 1)
            return null;
        var digits = word.Text.AsSpan(at + 1).TrimEnd("€$£ )\u00a0");
        return digits.Length != 3 && digits.IndexOfAnyExceptInRange('0', '9') < 0 ? at : null;
    }

    /// <summary>The breaks with the least unevenness over all lines (after Knuth and Plass, “Breaking Paragraphs into Lines”,
    /// 1981).</summary>
    void FillEvenly(List<TextLine> lines)
    {
        var n = units.Count;
        var cost = new double[n + 1];
        var from = new int[n + 1];
        var full = new double[n + 1];
        var spaces = new int[n + 1];
        for (var i = 0; i < n; i++)
        {
            full[i + 1] = full[i] + units[i].Full;
            spaces[i + 1] = spaces[i];
            for (var k = units[i].First; k < units[i].End; k++)
                spaces[i + 1] += placed[k].Spaces;
            cost[i + 1] = double.PositiveInfinity;
        }
        for (var end = 1; end <= n; end++)
        {
            for (var start = end - 1; start >= 0; start--)
            {
                var room = Room(start == 0);
                var content = full[end - 1] - full[start] + units[end - 1].Solid;
                var gaps = spaces[end - 1] - spaces[start];
                if (content - gaps * spaceWidth * MostShrink > room + Slack && start < end - 1)
                    break;
                if (double.IsInfinity(cost[start]))
                    continue;
                var free = room - content;
                double line;
                if (end == n && free >= -Slack)
                    line = 0;
                else if (gaps == 0)
                    line = 50 + free * free / 100;
                else
                {
                    var r = free / gaps / Math.Max(spaceWidth, 0.1);
                    line =
                        r < 0 ? Math.Pow(r / MostShrink, 2)
                        : r <= MostStretch ? Math.Pow(r / MostStretch, 3) * 10
                        : 100 + 100 * (r - MostStretch);
                }
                if (cost[start] + line + 0.01 < cost[end])
                    (cost[end], from[end]) = (cost[start] + line + 0.01, start);
            }
            // A unit that fits nowhere stands alone.
            if (double.IsInfinity(cost[end]))
                (cost[end], from[end]) = (cost[end - 1] + 1000, end - 1);
        }
        var breaks = new List<int>();
        for (var at = n; at > 0; at = from[at])
            breaks.Add(at);
        breaks.Reverse();
        var begin = 0;
        foreach (var end in breaks)
        {
            Close(lines, begin, end, end == n, begin == 0);
            begin = end;
        }
    }

    void Close(List<TextLine> lines, int fromUnit, int toUnit, bool last, bool firstLine)
    {
        if (fromUnit >= toUnit)
            return;
        int from = units[fromUnit].First,
            to = units[toUnit - 1].End;
        // Spaces at the end of a line take no room, and at its start there are none: they end the line before.
        while (to > from && placed[to - 1].Word is { IsSpace: true })
            to--;
        double content = 0;
        var gaps = 0;
        for (var i = from; i < to; i++)
        {
            content += placed[i].Width;
            gaps += placed[i].Spaces;
        }
        var free = Room(firstLine) - content;
        var extra = 0.0;
        if (style.Align == TextAlign.Justify && gaps > 0 && !hasTabs)
        {
            var space = free / gaps;
            if (free < 0)
                extra = Math.Max(space, -MostShrink * spaceWidth);
            else if (!last)
                extra = Math.Min(space, MostStretch * spaceWidth);
        }
        var x =
            (firstLine ? indent : 0)
            + (IsBeside ? beside.Shift : 0)
            + (
                hasTabs
                    ? 0
                    : style.Align switch
                    {
                        TextAlign.Center => free / 2,
                        TextAlign.Right => free,
                        _ => 0,
                    }
            );
        var runs = new List<WordRun>();
        List<LinePicture>? pictures = null;
        var order = backwards ? Ordered(from, to) : null;
        var places = order is null ? null : new (int Run, int Word)[to - from];
        Placed At(int i) => placed[order is null ? i : order[i - from] + from];
        for (var i = from; i < to; )
        {
            var head = At(i);
            if (head.Word is null)
            {
                if (head.Picture is not null)
                    (pictures ??= []).Add(head.Picture with { X = x });
                else if (head.Leader != TabLeader.None && LeaderRun(head, x, runs, i + 1 < to ? At(i + 1).Word?.Font : null) is { } filled)
                    runs.Add(filled);
                x += head.Width;
                i++;
                continue;
            }
            var j = i + 1;
            while (j < to && At(j) is { Word: not null } next && next.Style.Equals(head.Style) && next.Word!.Font == head.Word.Font)
                j++;
            var words = new ShapedWord[j - i];
            for (var k = i; k < j; k++)
                words[k - i] = At(k).Word!;
            for (var k = i; places is not null && k < j; k++)
                places[order![k - from]] = (runs.Count + 1, k - i);
            var run = new WordRun(
                x,
                head.Word.Font,
                head.Size,
                head.Style,
                words,
                extra,
                head.Style.Script switch
                {
                    Script.Superscript => head.Style.Size * 0.34,
                    Script.Subscript => head.Style.Size * -0.15,
                    _ => 0,
                }
            );
            runs.Add(run);
            x += run.Width;
            i = j;
        }
        var box = Box(runs, pictures, from < placed.Count ? placed[from].Style : emptyStyle, style.LineSpacing);
        if (IsBeside)
            box = box with { Beside = (beside.Shift, beside.Cut) };
        top += box.Height;
        // Pictures and tabs are no words: their places stayed empty.
        lines.Add(places is null ? box : box with { Reading = [.. places.Where(p => p.Run > 0).Select(p => (p.Run - 1, p.Word))] });
    }

    /// <summary>The signs that fill the way of a tab. They end where the way ends, so that those of several lines stand below one
    /// another.</summary>
    static WordRun? LeaderRun(Placed tab, double x, List<WordRun> before, PaperFont? next)
    {
        if ((before.Count > 0 ? before[^1].Font : next) is not { } font)
            return null;
        var sign = tab.Leader switch
        {
            TabLeader.Dots => ".",
            TabLeader.Dashes => "-",
            _ => "_",
        };
        var one = font.Shape(sign);
        var width = one.Advance * tab.Size / font.UnitsPerEm;
        var count = width <= 0 ? 0 : (int)((tab.Gap - Slack) / width);
        if (count == 0)
            return null;
        var style = tab.Style with { Underline = false, Strike = false, Link = null };
        return new(x + tab.Gap - count * width, font, tab.Size, style, [.. Enumerable.Repeat(one, count)], 0);
    }

    int[] Ordered(int from, int to)
    {
        levels.Clear();
        for (var i = from; i < to; i++)
            levels.Add(placed[i].Level);
        return Bidi.VisualOrder(System.Runtime.InteropServices.CollectionsMarshal.AsSpan(levels));
    }

    /// <summary>A line around its runs, with half of the leading above and below each (CSS 2.2, 10.8).</summary>
    internal static TextLine Box(IReadOnlyList<WordRun> runs, List<LinePicture>? pictures, TextStyle empty, double lineSpacing)
    {
        if (runs.Count == 0 && pictures is null)
        {
            var height = empty.Size * lineSpacing;
            return new(height, height * 0.75, runs);
        }
        double above = 0,
            below = 0;
        foreach (var run in runs)
        {
            // What is raised or lowered stands in the line of its neighbors and does not push it apart.
            var unit = run.Style.Size / run.Font.UnitsPerEm;
            double ascent = run.Font.Ascender * unit,
                descent = run.Font.Descender * unit;
            var half = (run.Style.Size * lineSpacing - ascent - descent) / 2;
            above = Math.Max(above, ascent + half);
            below = Math.Max(below, descent + half);
        }
        foreach (var picture in pictures ?? [])
            above = Math.Max(above, picture.Height + 1);
        return new(above + below, above, runs, pictures);
    }
}
