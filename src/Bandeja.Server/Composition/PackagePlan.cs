using Bandeja.Core.Composition;
using Bandeja.Core.Drops;
using Bandeja.Core.Surfaces;
using Bandeja.Server.Endpoints;
using Bandeja.Server.Web;
using Bandeja.Store;
using Microsoft.Data.Sqlite;

namespace Bandeja.Server.Composition;

/// <summary>What each design of a package comes to in a planned run: pages, envelopes, sheets of labels.</summary>
public sealed class PackagePlan(Database database, Letters letters)
{
    /// <summary>The designs with their counts, in the package's order.</summary>
    /// <exception cref="BadInputException">A start is not a place of the stock, or of no design of the package.</exception>
    public IReadOnlyList<PlanDesign> Of(long dropId, RunPlan plan, IReadOnlyList<SheetOrder> sheets)
    {
        using var c = database.Open();
        var drop = DropStore.Drop(c, dropId);
        var package = letters.Package(c, drop);
        if (sheets.FirstOrDefault(s => !package.Any(p => p.Design.DesignId == s.DesignId && p.Design.Kind == "labels")) is { } stray) throw new BadInputException($"Design {stray.DesignId} is no label sheet of this package.");
        if (sheets.Select(s => s.DesignId).Distinct().Count() < sheets.Count) throw new BadInputException("A label sheet has one start.");
        // Pages are counted when the pieces are checked; with several letters, what the first has beyond one page a piece stands with it.
        var letterPages = plan.Pages;
        var letterCount = package.Count(p => p.Bound.Kind == PieceKind.Letter);
        return [.. package.Select(p =>
        {
            if (p.Bound is not BoundSurface { Design.Labels: { } labels } surface)
            {
                var pages = plan.Pieces.Count;
                if (p.Bound.Kind == PieceKind.Letter)
                {
                    pages = letterPages - plan.Pieces.Count * (letterCount - 1);
                    letterPages = plan.Pieces.Count * letterCount;
                }
                return new PlanDesign(p.Design.DesignId, p.Design.Name, p.Design.Kind, pages, null, null);
            }
            var order = sheets.FirstOrDefault(s => s.DesignId == p.Design.DesignId);
            var start = order is null ? new SheetStart() : new SheetStart(order.Start, order.Spoiled);
            if (start.Objection(labels.Stock) is { } objection) throw new BadInputException(objection);
            var laid = new LabelSheets(labels, start);
            var count = 0;
            foreach (var label in Labels(c, drop, surface, labels, plan))
            {
                laid.Add(label, null);
                count += label.Copies;
            }
            return new PlanDesign(p.Design.DesignId, p.Design.Name, p.Design.Kind, laid.Sheets, count, StockView.Of(labels.Stock), labels.ByColumns);
        })];
    }

    /// <summary>The labels of a run as far as their number goes: they are composed only where that depends on the recipient.</summary>
    IEnumerable<ComposedPiece> Labels(SqliteConnection c, DropRow drop, BoundSurface surface, LabelSetup labels, RunPlan plan)
    {
        var plain = new ComposedPiece([], [], new()) { Copies = labels.Copies };
        if (labels.CopiesSource is null && labels.GroupSource is null) return Enumerable.Repeat(plain, plan.Pieces.Count);
        var composer = surface.Composer(letters.Today);
        var details = Letters.Details(c, surface);
        var rows = DropStore.Recipients(c, drop, surface.Setting.Columns, [.. plan.Pieces.Select(p => p.RecipientId)]);
        return rows.Select(r => composer.Compose(Letters.Row(r.Id, r.Values, details), r.PieceNumber));
    }

    /// <summary>The mailer identifiers of a package's Intelligent Mail barcodes.</summary>
    public IReadOnlyList<string> Mailers(long dropId)
    {
        using var c = database.Open();
        return [.. letters.Package(c, DropStore.Drop(c, dropId)).SelectMany(p => p.Bound.Mailers).Where(m => m.Length is 6 or 9 && m.All(char.IsAsciiDigit)).Distinct()];
    }
}
