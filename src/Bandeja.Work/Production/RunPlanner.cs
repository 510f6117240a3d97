using System.Text.Json;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Drops;
using Bandeja.Core.Formulas;
using Bandeja.Core.Language;
using Bandeja.Core.Surfaces;
using Bandeja.Formats.Pdf;
using Bandeja.Store;
using Bandeja.Store.Devices;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Store.Mail;
using Bandeja.Store.Runs;
using Bandeja.Work.Composition;
using Bandeja.Work.Devices;
using Bandeja.Work.Freezing;
using Bandeja.Work.Mail;

namespace Bandeja.Work.Production;

/// <summary>From what somebody asks for to a plan, and from the plan to a run: both read the order in the same way.</summary>
public sealed class RunPlanner(
    Database database,
    RunStore runs,
    RunFreezing freezing,
    RunPlanning planning,
    ListStore lists,
    DropStore drops,
    PackagePlan packages,
    Letters letters,
    SettingStore settings,
    PrinterStore printers,
    PrintDevices devices,
    RunSecrets secrets,
    SegmentStore segments,
    Surroundings surroundings,
    MailPlan mailPlan,
    MailAccounts accounts,
    DropDependencies dependencies,
    Reprints reprints,
    TimeProvider time
)
{
    const int NamesShown = 6;

    /// <summary>What a run would make, who is left out and why, what it costs.</summary>
    public PlanView Plan(long dropId, RunOrder order)
    {
        Check(order);
        var (chosen, notChosen, _) = Choice(dropId, order);
        var plan = planning.Plan(
            dropId,
            chosen,
            notChosen,
            order.Sort ?? "piece",
            order.IsReprint,
            settings.Organization().ToLocale().Country,
            order is MessageOrder
        );
        using var c = database.Open();
        var drop = DropStore.Drop(c, dropId);
        if (order.Output.IsDocuments() && !drop.Package.Any(p => p.Kind.Rules().IsText))
            throw new BadInputException(
                "Only letters can be produced as word processor documents, and " + "this package has none. Produce PDFs instead."
            );
        var blocked = order.IsReprint ? null : dependencies.Objection(c, drop, p => order is PaperOrder && !p.IsEmail);
        var inDoubt = plan.Excluded.Where(l => l.Reason.StartsWith(RunPlan.InDoubt, StringComparison.Ordinal)).Sum(l => l.Count);
        var (names, numbered) = Names(dropId, order, plan);
        int? first = plan.Pieces.Count == 0 ? null : plan.Pieces.Min(p => p.PieceNumber),
            last = plan.Pieces.Count == 0 ? null : plan.Pieces.Max(p => p.PieceNumber);
        var currency = settings.Organization().Currency;
        var duplicates = order.IsReprint ? null : PossibleDuplicates.Of(c, drop, plan);
        if (order is not PaperOrder paper)
            return new(
                plan.Pieces.Count,
                0,
                first,
                last,
                plan.Excluded,
                plan.OnTheList,
                [],
                new([], [], 0, 0, 0, currency),
                [.. names.Take(NamesShown)],
                numbered,
                [],
                [],
                mailPlan.Of(dropId, plan, IsReal(order)),
                blocked,
                0,
                inDoubt,
                duplicates
            );
        var source = paper.Reprints ? Source(plan) : null;
        var corrected = source is null ? [] : reprints.CorrectedSince(c, source, [.. plan.Pieces.Select(p => p.RecipientId)]);
        var (designs, cost) = packages.Of(
            dropId,
            plan,
            paper.Sheets ?? [],
            paper.Layout,
            paper.Postage,
            paper.PostageAbroad,
            reprints.Pieces(c, source, paper.Corrected == true, paper.Designs)
        );
        if (paper.Designs is not null)
            cost = cost with { Postage = [] };
        var postageMissing = cost.Postage.Sum(p => p.TooHeavy);
        var unpriced = cost.Postage.Where(p => p.Class == RunCost.NoClassAbroad).Sum(p => p.Pieces);
        List<string> remarks = [];
        if (postageMissing > 0)
            remarks.Add(
                $"{(postageMissing == 1 ? "1 piece is" : $"{postageMissing:N0} pieces are")} heavier than the postage class takes; "
                    + $"what {(postageMissing == 1 ? "it costs" : "they cost")} is not in the sum."
            );
        if (unpriced > 0)
            remarks.Add(
                $"{(unpriced == 1 ? "1 piece is international or has" : $"{unpriced:N0} pieces are international or have")} an unknown "
                    + "country, and no postage class is chosen for that; "
                    + $"what {(unpriced == 1 ? "it costs" : "they cost")} is not in the sum."
            );
        return new(
            plan.Pieces.Count,
            designs.Sum(d => d.Pages),
            first,
            last,
            plan.Excluded,
            plan.OnTheList,
            designs,
            new(cost.Designs, cost.Postage, cost.Lightest, cost.Heaviest, cost.Total, currency),
            [.. names.Take(NamesShown)],
            numbered,
            BlankPasswords(dropId, order, plan),
            remarks,
            null,
            blocked,
            corrected.Count,
            inDoubt,
            duplicates
        );
    }

    /// <summary>The run that produced the pieces of a planned reprint; null where several did, or none.</summary>
    RunRow? Source(RunPlan plan) => plan.Pieces.Select(p => p.RunId).Distinct().ToList() is [{ } one] ? runs.Get(one) : null;

    /// <summary>Begins a run.</summary>
    public RunRow Begin(long dropId, RunOrder order, Actor actor)
    {
        Check(order);
        var (chosen, notChosen, text) = Choice(dropId, order);
        var drop = drops.Drop(dropId);
        var (paper, pdf, print, send) = (order as PaperOrder, order as PdfOrder, order as PrintOrder, order as SendOrder);
        var email = order is MessageOrder;
        if (print is not null)
            devices.Of(print.PrinterId!.Value);
        if (send is not null)
            accounts.Get(send.AccountId!.Value);
        using var c = database.Open();
        // Said before anything else: with a mistake in the design nobody is Ready, and that alone would not say why. Asked again once
        // nothing can change.
        var sealing = email ? mailPlan.Sealing(c, drop, IsReal(order)) : null;
        if (!order.IsReprint && (dependencies.Objection(c, drop, p => !email && !p.IsEmail) ?? sealing?.Objection) is { } early)
            throw new ConflictException(early);
        var naming = Naming(c, drop, order);
        var package = letters.Package(c, drop);
        return freezing.Begin(
            dropId,
            chosen,
            notChosen,
            text,
            order.Expected,
            letters.Today,
            actor,
            new()
            {
                Starts = (paper?.Sheets ?? []).ToDictionary(
                    s => s.DesignId,
                    s => JsonSerializer.Serialize(new SheetStart(s.Start, s.Spoiled))
                ),
                PrinterJson = paper?.PrinterId is { } printer ? new FeedOrder(printers.Get(printer)).ToJson() : null,
                Mailers = email ? [] : packages.Mailers(dropId),
                Counted = paper is null or { Reprints: true }
                    ? null
                    : plan =>
                    {
                        var (designs, cost) = packages.Of(
                            dropId,
                            plan,
                            paper.Sheets ?? [],
                            paper.Layout,
                            paper.Postage,
                            paper.PostageAbroad
                        );
                        return (designs.ToDictionary(d => d.DesignId, d => d.Pages), cost.Total);
                    },
                Refuse = plan =>
                {
                    if (BlankPasswords(dropId, order, plan) is { Count: > 0 } blank)
                        throw new ConflictException(
                            $"The password is blank for {(blank.Count == 1 ? "1 recipient" : $"{blank.Count:N0} recipients")}: "
                                + $"piece {string.Join(", ", blank.Take(5).Select(p => $"{p:0000}"))}{(blank.Count > 5 ? " …" : "")}. "
                                + "Hold them, or fill in the values the password uses."
                        );
                },
                Output = order.Output,
                Sort = order.Sort ?? "piece",
                SettingsJson = new RunSettings(
                    (order as PartsOrder)?.PartOf,
                    order is INamedFiles named ? NameBy(named) : null,
                    print?.BatchOf ?? 0,
                    print?.BreakSheets ?? false,
                    paper?.Duplex ?? false,
                    print?.Copies ?? 1,
                    print?.Collated ?? true,
                    paper?.Postage,
                    paper?.PostageAbroad,
                    (order as EachOrder)?.Fields
                ).ToJson(),
                Secret = email
                    ? sealing!.HasPasswords
                        ? secrets.Seal(new())
                        : null
                    : pdf?.Passwords is { } p
                        ? secrets.Seal(p)
                        : null,
                AccountId = send?.AccountId,
                NotBefore = send?.NotBefore,
                Makes = sealing?.Designs,
                MessageIdOf = sealing is null ? null : _ => sealing.Domain,
                FrozenJson = letters.Freeze(c, drop).ToJson(),
                Reprints = order.IsReprint,
                Corrected = paper?.Corrected,
                CorrectedSince = reprints.CorrectedSince,
                AddresseeOf = Reprints.Addressees(package[0].Bound.Setting, email),
                Details = [.. Reprints.SetsOf(package.Select(p => p.Bound)).Select(i => (i, package[0].Bound.Setting.Details![i]))],
                Only = paper?.Designs,
                DeviceId = print?.PrinterId,
                NameOf = naming?.Of,
                // Asked within the transaction: nobody changes anything between the question and the run.
                Guard = w =>
                {
                    var now = DropStore.Drop(w, dropId);
                    if (order.IsReprint)
                        return;
                    // What is wrong with an email and what it attaches, its own plan says.
                    if (dependencies.Objection(w, now, p => !email && !p.IsEmail) is { } stale)
                        throw new ConflictException(stale);
                    if (!now.NeedsSignOff)
                        return;
                    var sign = SignOffView.Of(w, now, letters.Rules(w, now));
                    if (sign.State == SignOffState.None)
                        throw new ConflictException("Sign off this drop before you produce it. Review its proof set.");
                    if (sign.State == SignOffState.Lapsed)
                        throw new ConflictException($"The sign-off by {sign.By} has lapsed: {sign.Changes[0]} Review the proof set again.");
                },
            }
        );
    }

    /// <summary>True where messages leave this machine.</summary>
    bool IsReal(RunOrder o) => o is SendOrder { AccountId: { } id } && accounts.Get(id).Kind != "practice";

    void Check(RunOrder order)
    {
        if (order.Objection(time.GetUtcNow()) is { } objection)
            throw new BadInputException(objection);
    }

    (Func<PlanCandidate, bool> Chosen, string NotChosen, string Text) Choice(long dropId, RunOrder order)
    {
        if (order.Pieces is { } text)
        {
            var range = PieceRange.Parse(text, out var error) ?? throw new BadInputException(error!);
            return (
                c => range.Contains(c.PieceNumber),
                "Not in this range",
                $"{(order.IsReprint ? "reprint of " : "")}pieces {text.Trim()}"
            );
        }
        if (order.SegmentId is { } segment)
        {
            var (list, name) = (drops.Drop(dropId).ListId, segments.Get(segment).Name);
            var (filter, search) = AskedRows.Of(database, surroundings, segments, list, new(SegmentId: segment));
            var ids = lists.Ids(list, search, filter).ToHashSet();
            return (x => ids.Contains(x.RecipientId), $"Not in “{name}”", $"segment “{name}”");
        }
        if (order.Recipients is { } recipients)
        {
            var selected = recipients.ToHashSet();
            return (
                c => selected.Contains(c.RecipientId),
                "Not selected",
                $"{(order.IsReprint ? "reprint of " : "")}{selected.Count:N0} selected"
            );
        }
        return order.IsReprint
            ? throw new BadInputException("Enter the pieces to reprint, such as 118-123.")
            : (_ => true, "", "all Ready");
    }

    static string NameBy(INamedFiles order) =>
        string.IsNullOrWhiteSpace(order.NameBy) ? "{Piece number} {Name in full}" : order.NameBy.Trim();

    (Func<DropRecipient, string> Of, FileNames Names)? Naming(Microsoft.Data.Sqlite.SqliteConnection c, DropRow drop, RunOrder order)
    {
        if (order is not INamedFiles named)
            return null;
        var bound = letters.Package(c, drop)[0].Bound;
        var template = Template.Parse(NameBy(named), bound.Setting.Names);
        if (template.Errors.Count > 0)
            throw new BadInputException($"The files' name: {template.Errors[0].Message}");
        var details = Letters.Details(c, bound);
        var names = new FileNames(template, bound.NewContext(letters.Today), named.Ending);
        return (r => names.Of(Letters.Row(r.Id, r.Values, details), r.PieceNumber), names);
    }

    /// <summary>What the files will be called, and how many of the names are numbered.</summary>
    (IReadOnlyList<string> Names, int Numbered) Names(long dropId, RunOrder order, RunPlan plan)
    {
        if (order is not INamedFiles || plan.Pieces.Count == 0)
            return ([], 0);
        using var c = database.Open();
        var drop = DropStore.Drop(c, dropId);
        var (of, names) = Naming(c, drop, order)!.Value;
        var rows = DropStore
            .Recipients(c, drop, RowTable.Columns(c, drop.ListId), [.. plan.Pieces.Select(p => p.RecipientId)])
            .ToDictionary(r => r.Id);
        return ([.. plan.Pieces.Select(p => of(rows[p.RecipientId]))], names.Numbered);
    }

    /// <summary>The numbers of the pieces whose password comes out blank.</summary>
    List<int> BlankPasswords(long dropId, RunOrder order, RunPlan plan)
    {
        if (order is not EachOrder { Passwords: { } p })
            return [];
        var expressions = new[] { (p.Open, p.OpenBy), (p.Owner, p.OwnerBy) }
            .Where(x => x.Item2 && !string.IsNullOrWhiteSpace(x.Item1))
            .Select(x => x.Item1!)
            .ToList();
        if (expressions.Count == 0)
            return [];
        using var c = database.Open();
        var drop = DropStore.Drop(c, dropId);
        var bound = letters.Package(c, drop)[0].Bound;
        var names = bound.Setting.Names;
        var templates = expressions.Select(e => Template.Parse(e, names)).ToList();
        if (templates.SelectMany(t => t.Errors).FirstOrDefault() is { } error)
            throw new BadInputException($"The password: {error.Message}");
        var context = bound.NewContext(letters.Today);
        var details = Letters.Details(c, bound);
        var rows = DropStore
            .Recipients(c, drop, bound.Setting.Columns, [.. plan.Pieces.Select(x => x.RecipientId)])
            .ToDictionary(r => r.Id);
        return
        [
            .. plan
                .Pieces.Where(x =>
                    templates.Any(t =>
                        string.IsNullOrWhiteSpace(
                            t.PrintPlain(context.For(Letters.Row(x.RecipientId, rows[x.RecipientId].Values, details), x.PieceNumber))
                        )
                    )
                )
                .Select(x => x.PieceNumber),
        ];
    }
}
