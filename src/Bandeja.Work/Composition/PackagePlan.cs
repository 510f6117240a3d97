using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Core.Surfaces;
using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Microsoft.Data.Sqlite;

namespace Bandeja.Work.Composition;

/// <summary>How the pieces of a run come out, as far as their pages and sheets go.</summary>
/// <param name="Output">one, parts, each or print.</param>
/// <param name="PartOf">Pieces of each file, for parts.</param>
/// <param name="BatchOf">Pieces of each batch, for print; 0 for all in one.</param>
/// <param name="Separators">True where a separator sheet stands before each batch of letters.</param>
/// <param name="Duplex">True where letters are printed on both sides: each begins on a sheet of its own.</param>
public sealed record PlanLayout(
    RunOutput Output = RunOutput.One,
    int PartOf = 500,
    int BatchOf = 0,
    bool Separators = false,
    bool Duplex = false,
    int Copies = 1
)
{
    /// <summary>Pages of a letter as they stand in the file: with a blank back after the last page where that is needed.</summary>
    public int PagesOf(int own) => Duplex ? own + own % 2 : own;

    /// <summary>Sheets of paper that a letter takes.</summary>
    public int SheetsOf(int own) => Duplex ? (own + 1) / 2 : own;

    /// <summary>How many separator sheets a letter of the package gets, and how many pages of the file each is.</summary>
    public (int Sheets, int Pages) SeparatorsOf(int pieces)
    {
        if (Output != RunOutput.Print || !Separators || pieces == 0)
            return (0, 0);
        var batches = BatchOf <= 0 ? 1 : (pieces + BatchOf - 1) / BatchOf;
        return (batches, batches * (Duplex ? 2 : 1));
    }
}

/// <summary>The pieces of a planned reprint.</summary>
/// <param name="Designs">What it prints, bound as it will be.</param>
/// <param name="Compose">A recipient's piece of a design, by its position.</param>
public sealed record ReprintPieces(
    IReadOnlyList<(PackageDesign Design, IBoundDesign Bound)> Designs,
    Func<long, int, ComposedPiece> Compose
);

/// <summary>What each design of a package comes to in a planned run: pages, envelopes, sheets of labels; what they weigh and cost. The
/// files that are produced have exactly these pages.</summary>
public sealed class PackagePlan(Database database, Letters letters, SettingStore settings)
{
    /// <summary>The designs on paper with their counts, in the package's order, and what the whole weighs and costs.</summary>
    /// <param name="inland">The postage class for the organisation's own country; null for none.</param>
    /// <param name="abroad">The one for others.</param>
    /// <param name="reprint">For a reprint: its designs as they were bound then, and each piece of the plan as it will be composed; null
    /// for a run of the package as it is now.</param>
    /// <exception cref="BadInputException">A start is not a place of the stock, or of no design of the package.</exception>
    public (IReadOnlyList<PlanDesign> Designs, RunCost Cost) Of(
        long dropId,
        RunPlan plan,
        IReadOnlyList<SheetOrder> sheets,
        PlanLayout layout,
        string? inland = null,
        string? abroad = null,
        ReprintPieces? reprint = null
    )
    {
        using var c = database.Open();
        var drop = DropStore.Drop(c, dropId);
        var package = reprint?.Designs ?? [.. letters.Package(c, drop).Where(p => !p.Design.IsEmail)];
        if (
            sheets.FirstOrDefault(s => !package.Any(p => p.Design.DesignId == s.DesignId && p.Design.Kind == PieceKind.Labels)) is { } stray
        )
            throw new BadInputException($"Design {stray.DesignId} is no label sheet of this package.");
        if (sheets.Select(s => s.DesignId).Distinct().Count() < sheets.Count)
            throw new BadInputException("A label sheet has one start.");
        var prices = settings.Prices();
        PostageClass? Class(string? name) =>
            name is null
                ? null
                : prices.Postage.FirstOrDefault(p => p.Name == name)
                    ?? throw new BadInputException($"There is no postage class “{name}” (any more).");
        var grams = new decimal[plan.Pieces.Count];
        var designs = new List<PlanDesign>();
        var costs = new List<DesignCost>();
        var copies = layout.Copies;
        for (var at = 0; at < package.Count; at++)
        {
            var (design, bound) = package[at];
            if (bound is BoundLetter letter)
            {
                var (separators, pages) = layout.SeparatorsOf(plan.Pieces.Count);
                var paper = separators;
                var sheet =
                    prices.Papers[0].GramsPerSquareMetre
                    * (decimal)(letter.Design.Page.Width * letter.Design.Page.Height / 72 / 72 * 0.0254 * 0.0254);
                var i = 0;
                foreach (var own in LetterPages(c, drop, package, at, plan, reprint))
                {
                    pages += layout.PagesOf(own);
                    paper += layout.SheetsOf(own);
                    grams[i++] += layout.SheetsOf(own) * sheet;
                }
                designs.Add(new(design.DesignId, design.Name, design.Kind, pages, null, null));
                costs.Add(
                    new(design.Name, prices.Papers[0].Name, paper * copies, paper * copies * sheet, paper * copies * prices.Papers[0].Price)
                );
                continue;
            }
            var surface = (BoundSurface)bound;
            if (surface.Design.Labels is not { } labels)
            {
                var format = EnvelopeFormat.All.FirstOrDefault(f =>
                    Math.Abs(f.Width * 72 / 25.4 - surface.Design.Width) < 1 && Math.Abs(f.Height * 72 / 25.4 - surface.Design.Height) < 1
                );
                var price =
                    prices.Envelopes.FirstOrDefault(e => e.Format == format?.Id)
                    ?? prices.Envelopes.FirstOrDefault(e => e.Format.Length == 0)
                    ?? new("", "Envelope", 0, 0);
                for (var i = 0; i < grams.Length; i++)
                    grams[i] += price.Grams;
                designs.Add(new(design.DesignId, design.Name, design.Kind, plan.Pieces.Count, null, null));
                costs.Add(
                    new(
                        design.Name,
                        format?.Name ?? price.Name,
                        plan.Pieces.Count * copies,
                        plan.Pieces.Count * copies * price.Grams,
                        plan.Pieces.Count * copies * price.Price
                    )
                );
                continue;
            }
            var order = sheets.FirstOrDefault(s => s.DesignId == design.DesignId);
            var start = order is null ? new SheetStart() : new SheetStart(order.Start, order.Spoiled);
            if (start.Objection(labels.Stock) is { } objection)
                throw new BadInputException(objection);
            var stock =
                prices.Labels.FirstOrDefault(e => e.Format == labels.Stock.Id)
                ?? prices.Labels.FirstOrDefault(e => e.Format.Length == 0)
                ?? new("", "Sheet of labels", 0, 0);
            var (sheetCount, count) = LabelPages(
                Labels(c, drop, surface, labels, plan, reprint, at),
                labels,
                start,
                layout,
                (i, label) => grams[i] += stock.Grams * Math.Min(1, label.Copies)
            );
            designs.Add(
                new(
                    design.DesignId,
                    design.Name,
                    design.Kind,
                    sheetCount,
                    count,
                    layout.Output == RunOutput.Each ? null : StockView.Of(labels.Stock),
                    labels.ByColumns
                )
            );
            costs.Add(
                new(design.Name, labels.Stock.Name, sheetCount * copies, count * copies * stock.Grams, sheetCount * copies * stock.Price)
            );
        }
        var postage = RunCost.PostageOf([.. grams.Zip(plan.Pieces, (g, p) => (g, p.Abroad))], Class(inland), Class(abroad));
        return (designs, new(costs, postage, grams.Length == 0 ? 0 : grams.Min(), grams.Length == 0 ? 0 : grams.Max()));
    }

    /// <summary>Pages of a design's labels, and how many labels there are: sheets in a file of many, label by label in a file for each
    /// recipient.</summary>
    static (int Pages, int Labels) LabelPages(
        IEnumerable<ComposedPiece> labels,
        LabelSetup setup,
        SheetStart start,
        PlanLayout layout,
        Action<int, ComposedPiece> each
    )
    {
        var (pages, count, i) = (0, 0, 0);
        LabelSheets? laid = null;
        foreach (var label in labels)
        {
            // Each file begins a sheet; only the first of them lies on the one that is partly used.
            if (layout.Output == RunOutput.Parts && i % layout.PartOf == 0)
            {
                pages += laid?.Sheets ?? 0;
                laid = null;
            }
            laid ??= new(setup, i == 0 ? start : null);
            if (layout.Output == RunOutput.Each)
                pages += label.Copies;
            else
                laid.Add(label, null);
            count += label.Copies;
            each(i++, label);
        }
        return (layout.Output == RunOutput.Each ? pages : pages + (laid?.Sheets ?? 0), count);
    }

    /// <summary>The pages of a package's letter for each piece of a plan, in its order.</summary>
    IEnumerable<int> LetterPages(
        SqliteConnection c,
        DropRow drop,
        IReadOnlyList<(PackageDesign Design, IBoundDesign Bound)> package,
        int at,
        RunPlan plan,
        ReprintPieces? reprint
    )
    {
        if (reprint is not null)
            return plan.Pieces.Select(p => reprint.Compose(p.RecipientId, at).Pages.Count);
        // Pages are counted when the pieces are checked. Which of several letters has more than one, composing it tells.
        if (package.Count(p => p.Bound.Kind == PieceKind.Letter) == 1)
            return plan.Pieces.Select(p => p.Pages);
        return Composed(c, drop, plan, package[at].Design).Select(p => p.Pages.Count);
    }

    IEnumerable<ComposedPiece> Composed(SqliteConnection c, DropRow drop, RunPlan plan, PackageDesign design)
    {
        var composer = new PackageComposer(c, letters, drop);
        foreach (var batch in plan.Pieces.Chunk(1000))
        {
            var rows = DropStore
                .Recipients(c, drop, RowTable.Columns(c, drop.ListId), [.. batch.Select(p => p.RecipientId)])
                .ToDictionary(r => r.Id);
            foreach (var piece in batch)
            {
                var composed = composer.Compose(rows[piece.RecipientId]);
                yield return composed.Pieces[composed.Bound.ToList().FindIndex(b => b.Design.DesignId == design.DesignId)];
            }
        }
    }

    /// <summary>The labels of a run as far as their number goes: they are composed only where that depends on the recipient.</summary>
    IEnumerable<ComposedPiece> Labels(
        SqliteConnection c,
        DropRow drop,
        BoundSurface surface,
        LabelSetup labels,
        RunPlan plan,
        ReprintPieces? reprint,
        int at
    )
    {
        var plain = new ComposedPiece([], [], new()) { Copies = labels.Copies };
        if (labels.CopiesSource is null && labels.GroupSource is null)
            return Enumerable.Repeat(plain, plan.Pieces.Count);
        if (reprint is not null)
            return plan.Pieces.Select(p => reprint.Compose(p.RecipientId, at));
        var composer = surface.Composer(letters.Today);
        var details = Letters.Details(c, surface);
        var rows = DropStore
            .Recipients(c, drop, surface.Setting.Columns, [.. plan.Pieces.Select(p => p.RecipientId)])
            .ToDictionary(r => r.Id);
        return plan
            .Pieces.Select(p => rows[p.RecipientId])
            .Select(r => composer.Compose(Letters.Row(r.Id, r.Values, details), r.PieceNumber));
    }

    /// <summary>The mailer identifiers of a package's Intelligent Mail barcodes.</summary>
    public IReadOnlyList<string> Mailers(long dropId)
    {
        using var c = database.Open();
        return
        [
            .. letters
                .Package(c, DropStore.Drop(c, dropId))
                .SelectMany(p => p.Bound.Mailers)
                .Where(m => m.Length is 6 or 9 && m.All(char.IsAsciiDigit))
                .Distinct(),
        ];
    }
}
