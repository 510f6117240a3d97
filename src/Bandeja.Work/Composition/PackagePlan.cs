using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Drops;
using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Microsoft.Data.Sqlite;

namespace Bandeja.Work.Composition;

/// <summary>How the pieces of a run come out, as far as their pages and sheets go.</summary>
/// <param name="Output">one, parts, each or print.</param>
/// <param name="PartOf">Pieces of each file, for parts.</param>
/// <param name="BatchOf">Pieces of each batch, for print; 0 = one batch.</param>
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
    // Whoever adds a kind that is printed says here what it comes to.
    static readonly IReadOnlyDictionary<PieceKind, IKindPlan> kinds = new IKindPlan[]
    {
        new LetterPlan(),
        new FormPlan(),
        new EnvelopePlan(),
        new LabelPlan(),
    }.ToDictionary(k => k.Kind);

    /// <summary>The designs on paper with their counts, in the package's order, and what the whole weighs and costs.</summary>
    /// <param name="inland">The postage class for the organization's own country; null for none.</param>
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
            sheets.FirstOrDefault(s => !package.Any(p => p.Design.DesignId == s.DesignId && p.Design.Kind.Rules().SharesSheets)) is
            { } stray
        )
            throw new BadInputException($"Design {stray.DesignId} is not a label sheet in this package.");
        if (sheets.Select(s => s.DesignId).Distinct().Count() < sheets.Count)
            throw new BadInputException("A label sheet can have only one start position.");
        var prices = settings.Prices();
        PostageClass? Class(string? name) =>
            name is null
                ? null
                : prices.Postage.FirstOrDefault(p => p.Name == name)
                    ?? throw new BadInputException($"The postage class “{name}” no longer exists.");
        var grams = new decimal[plan.Pieces.Count];
        var designs = new List<PlanDesign>();
        var costs = new List<DesignCost>();
        for (var i = 0; i < package.Count; i++)
        {
            var (at, (design, bound)) = (i, package[i]);
            var (counts, cost) = kinds[design.Kind]
                .Of(
                    new(
                        design,
                        bound,
                        plan,
                        layout,
                        prices,
                        grams,
                        sheets.FirstOrDefault(s => s.DesignId == design.DesignId),
                        () => LetterPages(c, drop, package, at, plan, reprint),
                        () => Pieces(c, drop, bound, plan, reprint, at)
                    )
                );
            designs.Add(counts);
            costs.Add(cost);
        }
        var postage = RunCost.PostageOf([.. grams.Zip(plan.Pieces, (g, p) => (g, p.Abroad))], Class(inland), Class(abroad));
        return (designs, new(costs, postage, grams.Length == 0 ? 0 : grams.Min(), grams.Length == 0 ? 0 : grams.Max()));
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
        if (package.Count(p => p.Bound.Kind.Rules().HasPages) == 1)
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

    /// <summary>A design's pieces as it composes them by itself.</summary>
    IEnumerable<ComposedPiece> Pieces(SqliteConnection c, DropRow drop, IBoundDesign bound, RunPlan plan, ReprintPieces? reprint, int at)
    {
        if (reprint is not null)
            return plan.Pieces.Select(p => reprint.Compose(p.RecipientId, at));
        var composer = bound.Composer(letters.Today);
        var details = Letters.Details(c, bound);
        var rows = DropStore
            .Recipients(c, drop, bound.Setting.Columns, [.. plan.Pieces.Select(p => p.RecipientId)])
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
