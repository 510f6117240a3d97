using System.Text.Json;
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
        var email = order.Output.IsMail();
        var (chosen, notChosen, _) = Choice(dropId, order);
        var plan = planning.Plan(
            dropId,
            chosen,
            notChosen,
            order.Sort ?? "piece",
            order.Reprints,
            settings.Organisation().ToLocale().Country,
            email
        );
        using var c = database.Open();
        var drop = DropStore.Drop(c, dropId);
        var blocked = order.Reprints ? null : dependencies.Objection(c, drop, p => !email && !p.IsEmail);
        var inDoubt = plan.LeftOut.Where(l => l.Reason.StartsWith("In doubt", StringComparison.Ordinal)).Sum(l => l.Count);
        var (names, numbered) = Names(dropId, order, plan);
        int? first = plan.Pieces.Count == 0 ? null : plan.Pieces.Min(p => p.PieceNumber),
            last = plan.Pieces.Count == 0 ? null : plan.Pieces.Max(p => p.PieceNumber);
        var currency = settings.Organisation().Currency;
        if (email)
            return new(
                plan.Pieces.Count,
                0,
                first,
                last,
                plan.LeftOut,
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
                inDoubt
            );
        var source = order.Reprints ? Source(plan) : null;
        var corrected = source is null ? [] : reprints.CorrectedSince(c, source, [.. plan.Pieces.Select(p => p.RecipientId)]);
        var (designs, cost) = packages.Of(
            dropId,
            plan,
            order.Sheets ?? [],
            LayoutOf(order),
            order.Postage,
            order.PostageAbroad,
            reprints.Pieces(c, source, order.Corrected == true, order.Designs)
        );
        if (order.Designs is not null)
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
                $"{(unpriced == 1 ? "1 piece goes" : $"{unpriced:N0} pieces go")} abroad, or to a country that is not known, and no "
                    + $"postage class is chosen for that; what {(unpriced == 1 ? "it costs" : "they cost")} is not in the sum."
            );
        return new(
            plan.Pieces.Count,
            designs.Sum(d => d.Pages),
            first,
            last,
            plan.LeftOut,
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
            inDoubt
        );
    }

    /// <summary>The run that produced the pieces of a planned reprint; null where several did, or none.</summary>
    RunRow? Source(RunPlan plan) => plan.Pieces.Select(p => p.RunId).Distinct().ToList() is [{ } one] ? runs.Get(one) : null;

    static PlanLayout LayoutOf(RunOrder o) => new(o.Output, o.PartOf ?? 500, o.BatchOf, o.BreakSheets, o.Duplex, o.Copies);

    /// <summary>Begins a run.</summary>
    public RunRow Begin(long dropId, RunOrder order, Actor actor)
    {
        Check(order);
        var (chosen, notChosen, text) = Choice(dropId, order);
        var drop = drops.Drop(dropId);
        if (order.Output == RunOutput.Print)
            devices.Of(order.PrinterId!.Value);
        var email = order.Output.IsMail();
        if (order.Output == RunOutput.Email)
            accounts.Get(order.AccountId!.Value);
        using var c = database.Open();
        // Said before anything else: with a mistake in the design nobody is Ready, and that alone would not say why. Asked again once
        // nothing can change.
        var sealing = email ? mailPlan.Sealing(c, drop, IsReal(order)) : null;
        if (!order.Reprints && (dependencies.Objection(c, drop, p => !email && !p.IsEmail) ?? sealing?.Objection) is { } early)
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
                Starts = (order.Sheets ?? []).ToDictionary(
                    s => s.DesignId,
                    s => JsonSerializer.Serialize(new SheetStart(s.Start, s.Spoiled))
                ),
                PrinterJson = order.PrinterId is { } printer ? new FeedOrder(printers.Get(printer)).ToJson() : null,
                Mailers = email ? [] : packages.Mailers(dropId),
                PagesOf =
                    email || order.Reprints
                        ? null
                        : plan =>
                            packages
                                .Of(dropId, plan, order.Sheets ?? [], LayoutOf(order))
                                .Designs.ToDictionary(d => d.DesignId, d => d.Pages),
                Refuse = plan =>
                {
                    if (BlankPasswords(dropId, order, plan) is { Count: > 0 } blank)
                        throw new ConflictException(
                            $"The password comes out blank for {(blank.Count == 1 ? "1 recipient" : $"{blank.Count:N0} recipients")}: "
                                + $"piece {string.Join(", ", blank.Take(5).Select(p => $"{p:0000}"))}{(blank.Count > 5 ? " …" : "")}. "
                                + "Hold them, or fill in what it is made of."
                        );
                },
                Output = order.Output,
                Sort = order.Sort ?? "piece",
                SettingsJson = new RunSettings(
                    order.Output == RunOutput.Parts ? order.PartOf : null,
                    order.Output.IsNamed() ? NameBy(order) : null,
                    order.BatchOf,
                    order.BreakSheets,
                    order.Duplex,
                    order.Copies,
                    order.Collated,
                    order.Postage,
                    order.PostageAbroad
                ).ToJson(),
                Secret = email
                    ? sealing!.HasPasswords
                        ? secrets.Seal(new())
                        : null
                    : order.Passwords is { } p && order.Output != RunOutput.Print
                        ? secrets.Seal(p)
                        : null,
                AccountId = order.Output == RunOutput.Email ? order.AccountId : null,
                NotBefore = order.Output == RunOutput.Email ? order.NotBefore : null,
                Makes = sealing?.Designs,
                MessageIdOf = sealing is null ? null : _ => sealing.Domain,
                FrozenJson = letters.Freeze(c, drop).ToJson(),
                Reprints = order.Reprints,
                Corrected = order.Corrected,
                CorrectedSince = reprints.CorrectedSince,
                AddresseeOf = Reprints.Addressees(package[0].Bound.Setting, email),
                Details = [.. Reprints.SetsOf(package.Select(p => p.Bound)).Select(i => (i, package[0].Bound.Setting.Details![i]))],
                Only = order.Reprints ? order.Designs : null,
                DeviceId = order.Output == RunOutput.Print ? order.PrinterId : null,
                NameOf = naming?.Of,
                // Asked within the transaction: nobody changes anything between the question and the run.
                Guard = w =>
                {
                    var now = DropStore.Drop(w, dropId);
                    if (order.Reprints)
                        return;
                    // What is wrong with an email and what it attaches, its own plan says.
                    if (dependencies.Objection(w, now, p => !email && !p.IsEmail) is { } stale)
                        throw new ConflictException(stale);
                    if (!now.NeedsSignOff)
                        return;
                    var sign = SignOffView.Of(w, now, letters.Rules(w, now));
                    if (sign.State == "none")
                        throw new ConflictException("This drop must be signed off before it is produced. Look at its proof set.");
                    if (sign.State == "lapsed")
                        throw new ConflictException(
                            $"The sign-off by {sign.By} has lapsed: {sign.Changes[0]} Look at the proof set again."
                        );
                },
            }
        );
    }

    /// <summary>True where messages leave this machine.</summary>
    bool IsReal(RunOrder o) => o.Output == RunOutput.Email && o.AccountId is { } id && accounts.Get(id).Kind != "practice";

    void Check(RunOrder o)
    {
        if (o.Output.IsMail() && o.Reprints)
            throw new BadInputException("Only what is on paper is reprinted. Who lost an email can be sent a test of it.");
        if (o.Output == RunOutput.Email && o.AccountId is null)
            throw new BadInputException("Choose the account to send with.");
        if (o.NotBefore is not null && o.Output != RunOutput.Email)
            throw new BadInputException("Only email can be sent at a later time.");
        if (o.NotBefore is { } when && (when < time.GetUtcNow().AddMinutes(-2) || when > time.GetUtcNow().AddDays(366)))
            throw new BadInputException("The time to send is in the past, or more than a year ahead.");
        if (o.Output == RunOutput.Parts && o.PartOf is not (>= 1 and <= 100_000))
            throw new BadInputException("Say how many pieces a file is to hold: 1 to 100,000.");
        if (o.Output == RunOutput.Print && o.PrinterId is null)
            throw new BadInputException("Choose the printer.");
        if (o.Corrected is not null && !o.Reprints)
            throw new BadInputException(
                "Only a reprint chooses between pieces as they were and with corrections; a run takes the values of now."
            );
        if (o.Designs is not null && !o.Reprints)
            throw new BadInputException("A run makes the whole package; only reprints can be of single designs.");
        if (o.Copies is < 1 or > 100)
            throw new BadInputException("Copies are 1 to 100.");
        if (o.BatchOf is < 0 or > 100_000)
            throw new BadInputException("A batch has at most 100,000 pieces; 0 is all in one.");
        if (o.Passwords is { } none && string.IsNullOrEmpty(none.Open) && string.IsNullOrEmpty(none.Owner))
            throw new BadInputException("Write a password to open or one to change, or leave the files unlocked.");
        foreach (
            var (password, by) in new[]
            {
                (o.Passwords?.Open, o.Passwords?.OpenBy ?? false),
                (o.Passwords?.Owner, o.Passwords?.OwnerBy ?? false),
            }
        )
        {
            if (!by && System.Text.Encoding.UTF8.GetByteCount(password ?? "") > PdfProtection.MostPasswordBytes)
                throw new BadInputException($"A password has at most {PdfProtection.MostPasswordBytes} bytes; this one is longer.");
            if (by && password!.Length > 500)
                throw new BadInputException("What a password is made of is too long: at most 500 characters.");
            if (by && o.Output != RunOutput.Each)
                throw new BadInputException("A password by recipient needs a file for each recipient.");
        }
        if (o.Passwords is { } p && !string.IsNullOrEmpty(p.Open) && p.Open == p.Owner && p.OpenBy == p.OwnerBy)
            throw new BadInputException(
                "The password to open and the one to change are the same: then whoever opens a file may do everything with it."
            );
    }

    (Func<PlanCandidate, bool> Chosen, string NotChosen, string Text) Choice(long dropId, RunOrder order)
    {
        if (new[] { order.Pieces is not null, order.Recipients is not null, order.SegmentId is not null }.Count(x => x) > 1)
            throw new BadInputException("Choose a range of pieces, the selected recipients, or a segment, not several of these.");
        if (order.Pieces is { } text)
        {
            var range = PieceRange.Parse(text, out var error) ?? throw new BadInputException(error!);
            return (
                c => range.Contains(c.PieceNumber),
                "Not in this range",
                $"{(order.Reprints ? "reprint of " : "")}pieces {text.Trim()}"
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
                $"{(order.Reprints ? "reprint of " : "")}{selected.Count:N0} selected"
            );
        }
        return order.Reprints
            ? throw new BadInputException("Say which pieces to reprint, for instance 118-123.")
            : (_ => true, "", "everyone Ready");
    }

    static string NameBy(RunOrder order) => string.IsNullOrWhiteSpace(order.NameBy) ? "{Piece number} {Name in full}" : order.NameBy.Trim();

    (Func<DropRecipient, string> Of, FileNames Names)? Naming(Microsoft.Data.Sqlite.SqliteConnection c, DropRow drop, RunOrder order)
    {
        if (!order.Output.IsNamed())
            return null;
        var bound = letters.Package(c, drop)[0].Bound;
        var template = Template.Parse(NameBy(order), bound.Setting.Names);
        if (template.Errors.Count > 0)
            throw new BadInputException($"The files' name: {template.Errors[0].Message}");
        var details = Letters.Details(c, bound);
        var names = new FileNames(template, bound.NewContext(letters.Today), order.Output == RunOutput.Eml ? ".eml" : ".pdf");
        return (r => names.Of(Letters.Row(r.Id, r.Values, details), r.PieceNumber), names);
    }

    /// <summary>What the files will be called, and how many of the names are numbered.</summary>
    (IReadOnlyList<string> Names, int Numbered) Names(long dropId, RunOrder order, RunPlan plan)
    {
        if (!order.Output.IsNamed() || plan.Pieces.Count == 0)
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
        if (order.Output != RunOutput.Each || order.Passwords is not { } p)
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
                            t.Print(context.For(Letters.Row(x.RecipientId, rows[x.RecipientId].Values, details), x.PieceNumber))
                        )
                    )
                )
                .Select(x => x.PieceNumber),
        ];
    }
}
