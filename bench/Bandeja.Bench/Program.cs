using Bandeja.Bench;

// One line a figure: name · ours · baseline · ratio · goal · met or missed. Medians of several rounds, ours and the baseline in turn.
var all = new Dictionary<string, Action>
{
    ["import"] = ListBench.Import,
    ["page"] = ListBench.FirstPage,
    ["letters"] = LetterBench.Letters10000,
    ["long"] = LongLetterBench.ThreePages,
    ["fields"] = LongLetterBench.Fields,
    ["proof"] = ProofBench.Page,
    ["labels"] = SurfaceBench.Labels,
    ["envelopes"] = SurfaceBench.Envelopes,
    ["addresses"] = SurfaceBench.Addresses,
    ["workbook"] = DeskBench.Workbook,
    ["checks"] = DeskBench.Checks,
    ["duplicates"] = DeskBench.Duplicates,
    ["segment"] = DeskBench.Segment,
    ["million"] = DeskBench.Million,
    ["package"] = ProductionBench.Package,
    ["proofset"] = ProductionBench.ProofSet,
    ["zip"] = ProductionBench.Zip,
    ["documents"] = ProductionBench.Documents,
    ["forms"] = FormBench.All,
    ["locked"] = ProductionBench.Locked,
    ["large"] = ProductionBench.Large,
    ["mail"] = MailBench.Send,
    ["inbox"] = MailBench.Inbox,
    ["undo"] = UndoBench.Hold,
    ["collect"] = CampaignBench.Collect,
    ["campaigns"] = CampaignBench.Ledger,
    ["reader"] = ReaderBench.All,
    ["load"] = LoadBench.Crowd,
    ["importing"] = LoadBench.Import,
    ["people"] = PeopleBench.All,
    ["recognition"] = RecognitionBench.Corpora,
};

// Measured by another bench, in a process of its own.
if (args is ["peak", "mail", var messages])
{
    MailBench.PeakOf(int.Parse(messages, System.Globalization.CultureInfo.InvariantCulture));
    return 0;
}
if (args is ["peak", var output, var people])
{
    ProductionBench.Peak(output, int.Parse(people, System.Globalization.CultureInfo.InvariantCulture));
    return 0;
}

// Memory over a long time, at an office's rate: too long for a round of all.
if (args is ["office", var minutes])
{
    LoadBench.Office(int.Parse(minutes, System.Globalization.CultureInfo.InvariantCulture));
    return 0;
}
if (args is [var name])
{
    if (!all.TryGetValue(name, out var one))
    {
        Console.Error.WriteLine($"There is no bench “{name}”; there are {string.Join(", ", all.Keys)}.");
        return 2;
    }
    one();
    return 0;
}
foreach (var bench in all.Values)
    bench();
return 0;
