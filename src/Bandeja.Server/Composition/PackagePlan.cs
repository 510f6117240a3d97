using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Core.Surfaces;
using Bandeja.Server.Endpoints;
using Bandeja.Server.Web;
using Bandeja.Store;
using Microsoft.Data.Sqlite;

namespace Bandeja.Server.Composition;

/// <summary>What each design of a package comes to in a planned run: pages, envelopes, sheets of labels; what they weigh and cost.</summary>
public sealed class PackagePlan(Database database, Letters letters, SettingStore settings)
{
    /// <summary>The designs on paper with their counts, in the package's order, and what the whole weighs and costs.</summary>
    /// <param name="duplex">True where letters are printed on both sides.</param>
    /// <param name="inland">The postage class for the organisation's own country; null for none.</param>
    /// <param name="abroad">The one for others.</param>
    /// <exception cref="BadInputException">A start is not a place of the stock, or of no design of the package.</exception>
    public (IReadOnlyList<PlanDesign> Designs, RunCost Cost) Of(long dropId, RunPlan plan, IReadOnlyList<SheetOrder> sheets, bool duplex = false, int copies = 1, string? inland = null, string? abroad = null)
    {
        using var c = database.Open();
        var drop = DropStore.Drop(c, dropId);
        var package = letters.Package(c, drop).Where(p => !p.Design.IsEmail).ToList();
        if (sheets.FirstOrDefault(s => !package.Any(p => p.Design.DesignId == s.DesignId && p.Design.Kind == "labels")) is { } stray) throw new BadInputException($"Design {stray.DesignId} is no label sheet of this package.");
        if (sheets.Select(s => s.DesignId).Distinct().Count() < sheets.Count) throw new BadInputException("A label sheet has one start.");
        var prices = settings.Prices();
        PostageClass? Class(string? name) => name is null ? null : prices.Postage.FirstOrDefault(p => p.Name == name) ?? throw new BadInputException($"There is no postage class “{name}” (any more).");
        // Pages are counted when the pieces are checked; with several letters, what the first has beyond one page a piece stands with it.
        var letterCount = package.Count(p => p.Bound.Kind == PieceKind.Letter);
        var grams = new decimal[plan.Pieces.Count];
        var designs = new List<PlanDesign>();
        var costs = new List<DesignCost>();
        var firstLetter = true;
        foreach (var (design, bound) in package)
        {
            if (bound is BoundLetter letter)
            {
                int pages = 0, paper = 0;
                var extra = firstLetter ? letterCount - 1 : int.MaxValue;
                var sheet = prices.Papers[0].GramsPerSquareMetre * (decimal)(letter.Design.Page.Width * letter.Design.Page.Height / 72 / 72 * 0.0254 * 0.0254);
                for (var i = 0; i < grams.Length; i++)
                {
                    var own = extra == int.MaxValue ? 1 : Math.Max(1, plan.Pieces[i].Pages - extra);
                    var sides = duplex ? (own + 1) / 2 : own;
                    pages += own;
                    paper += sides;
                    grams[i] += sides * sheet;
                }
                firstLetter = false;
                designs.Add(new(design.DesignId, design.Name, design.Kind, pages, null, null));
                costs.Add(new(design.Name, prices.Papers[0].Name, paper * copies, paper * copies * sheet, paper * copies * prices.Papers[0].Price));
                continue;
            }
            var surface = (BoundSurface)bound;
            if (surface.Design.Labels is not { } labels)
            {
                var format = EnvelopeFormat.All.FirstOrDefault(f => Math.Abs(f.Width * 72 / 25.4 - surface.Design.Width) < 1 && Math.Abs(f.Height * 72 / 25.4 - surface.Design.Height) < 1);
                var price = prices.Envelopes.FirstOrDefault(e => e.Format == format?.Id) ?? prices.Envelopes.FirstOrDefault(e => e.Format.Length == 0) ?? new("", "Envelope", 0, 0);
                for (var i = 0; i < grams.Length; i++) grams[i] += price.Grams;
                designs.Add(new(design.DesignId, design.Name, design.Kind, plan.Pieces.Count, null, null));
                costs.Add(new(design.Name, format?.Name ?? price.Name, plan.Pieces.Count * copies, plan.Pieces.Count * copies * price.Grams, plan.Pieces.Count * copies * price.Price));
                continue;
            }
            var order = sheets.FirstOrDefault(s => s.DesignId == design.DesignId);
            var start = order is null ? new SheetStart() : new SheetStart(order.Start, order.Spoiled);
            if (start.Objection(labels.Stock) is { } objection) throw new BadInputException(objection);
            var laid = new LabelSheets(labels, start);
            var count = 0;
            var stock = prices.Labels.FirstOrDefault(e => e.Format == labels.Stock.Id) ?? prices.Labels.FirstOrDefault(e => e.Format.Length == 0) ?? new("", "Sheet of labels", 0, 0);
            var at = 0;
            foreach (var label in Labels(c, drop, surface, labels, plan))
            {
                laid.Add(label, null);
                count += label.Copies;
                grams[at++] += stock.Grams * Math.Min(1, label.Copies);
            }
            designs.Add(new(design.DesignId, design.Name, design.Kind, laid.Sheets, count, StockView.Of(labels.Stock), labels.ByColumns));
            costs.Add(new(design.Name, labels.Stock.Name, laid.Sheets * copies, count * copies * stock.Grams, laid.Sheets * copies * stock.Price));
        }
        var postage = RunCost.PostageOf([.. grams.Zip(plan.Pieces, (g, p) => (g, p.Abroad))], Class(inland), Class(abroad));
        return (designs, new(costs, postage, grams.Length == 0 ? 0 : grams.Min(), grams.Length == 0 ? 0 : grams.Max()));
    }

    /// <summary>The labels of a run as far as their number goes: they are composed only where that depends on the recipient.</summary>
    IEnumerable<ComposedPiece> Labels(SqliteConnection c, DropRow drop, BoundSurface surface, LabelSetup labels, RunPlan plan)
    {
        var plain = new ComposedPiece([], [], new()) { Copies = labels.Copies };
        if (labels.CopiesSource is null && labels.GroupSource is null) return Enumerable.Repeat(plain, plan.Pieces.Count);
        var composer = surface.Composer(letters.Today);
        var details = Letters.Details(c, surface);
        var rows = DropStore.Recipients(c, drop, surface.Setting.Columns, [.. plan.Pieces.Select(p => p.RecipientId)]).ToDictionary(r => r.Id);
        return plan.Pieces.Select(p => rows[p.RecipientId]).Select(r => composer.Compose(Letters.Row(r.Id, r.Values, details), r.PieceNumber));
    }

    /// <summary>The mailer identifiers of a package's Intelligent Mail barcodes.</summary>
    public IReadOnlyList<string> Mailers(long dropId)
    {
        using var c = database.Open();
        return [.. letters.Package(c, DropStore.Drop(c, dropId)).SelectMany(p => p.Bound.Mailers).Where(m => m.Length is 6 or 9 && m.All(char.IsAsciiDigit)).Distinct()];
    }
}
