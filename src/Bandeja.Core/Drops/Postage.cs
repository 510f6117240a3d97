namespace Bandeja.Core.Drops;

/// <summary>A sheet of paper as it is bought.</summary>
/// <param name="Name">For people, for instance “Letter, 24 lb bond”.</param>
/// <param name="GramsPerSquareMetre">Its weight.</param>
/// <param name="Price">Of one sheet, in the organization's currency.</param>
public sealed record PaperPrice(string Name, decimal GramsPerSquareMetre, decimal Price);

/// <summary>An envelope or a sheet of labels as it is bought.</summary>
/// <param name="Format">The format's or stock's key; empty for all that have no line of their own.</param>
/// <param name="Grams">Weight of one envelope, or of one label.</param>
/// <param name="Price">Of one envelope, or of one sheet of labels.</param>
public sealed record StockPrice(string Format, string Name, decimal Grams, decimal Price);

/// <summary>A step of a postage class: up to and with so many grams it costs so much.</summary>
public sealed record PostageStep(decimal UpToGrams, decimal Price);

/// <summary>A class of mail with its weight steps.</summary>
/// <param name="Abroad">True for mail to other countries.</param>
public sealed record PostageClass(string Name, bool Abroad, IReadOnlyList<PostageStep> Steps)
{
    /// <summary>What a piece costs; null where it is heavier than the class takes.</summary>
    public decimal? Of(decimal grams) => Steps.Where(s => grams <= s.UpToGrams).OrderBy(s => s.UpToGrams).FirstOrDefault()?.Price;
}

/// <summary>What a coordinator pays: kept in the settings, used in every plan.</summary>
/// <param name="Papers">The first is what letters are printed on.</param>
public sealed record PriceTable(
    IReadOnlyList<PaperPrice> Papers,
    IReadOnlyList<StockPrice> Envelopes,
    IReadOnlyList<StockPrice> Labels,
    IReadOnlyList<PostageClass> Postage
)
{
    /// <summary>What an organization begins with. The figures are made up; whoever uses them enters their own.</summary>
    public static readonly PriceTable First = new(
        [new("Letter paper, 90 g/m²", 90, 0.018m)],
        [new("", "Envelope", 6.8m, 0.052m)],
        [new("", "Sheet of labels", 0.4m, 0.21m)],
        [
            new("Presorted letters", false, [new(99.2m, 0.412m)]),
            new("Single letters", false, [new(28.35m, 0.73m), new(56.7m, 1.01m), new(85.05m, 1.29m), new(99.2m, 1.57m)]),
            new("International letters", true, [new(28.35m, 1.65m), new(56.7m, 3.15m), new(99.2m, 4.65m)]),
        ]
    );

    /// <summary>What is wrong with it, a sentence each; empty where all is well.</summary>
    public IReadOnlyList<string> Mistakes()
    {
        var wrong = new List<string>();
        if (Papers.Count == 0)
            wrong.Add("Add at least one paper. Letters print on the first one.");
        foreach (var p in Papers)
            if (string.IsNullOrWhiteSpace(p.Name) || p.GramsPerSquareMetre is <= 0 or > 1000 || p.Price is < 0 or > 10_000)
                wrong.Add($"The paper “{p.Name}” needs a name, a weight of up to 1,000 g/m² and a price.");
        foreach (var s in Envelopes.Concat(Labels))
            if (string.IsNullOrWhiteSpace(s.Name) || s.Grams is < 0 or > 5000 || s.Price is < 0 or > 10_000)
                wrong.Add($"“{s.Name}” needs a name, a weight and a price.");
        foreach (var c in Postage)
        {
            if (string.IsNullOrWhiteSpace(c.Name))
                wrong.Add("A postage class has no name.");
            if (c.Steps.Count == 0)
                wrong.Add($"{c.Name} has no weight step.");
            if (c.Steps.Any(s => s.UpToGrams <= 0 || s.Price is < 0 or > 10_000))
                wrong.Add($"{c.Name} has a step without a weight or a price.");
            if (c.Steps.Select(s => s.UpToGrams).Distinct().Count() < c.Steps.Count)
                wrong.Add($"{c.Name} has two steps of the same weight.");
        }
        if (Postage.Select(c => c.Name.Trim().ToLowerInvariant()).Distinct().Count() < Postage.Count)
            wrong.Add("Two postage classes have the same name.");
        return wrong;
    }
}

/// <summary>What a design of the package takes for a run.</summary>
/// <param name="Sheets">Sheets of paper, envelopes, or sheets of labels.</param>
/// <param name="Grams">Weight of all that goes out with the pieces.</param>
public sealed record DesignCost(string Name, string On, int Sheets, decimal Grams, decimal Price);

/// <summary>What postage a run takes, by class.</summary>
/// <param name="TooHeavy">How many pieces are heavier than the class takes: they are not in the price.</param>
public sealed record PostageCost(string Class, int Pieces, int TooHeavy, decimal Price);

/// <summary>What a run weighs and costs.</summary>
/// <param name="Lightest">Grams.</param>
/// <param name="Heaviest">Grams.</param>
public sealed record RunCost(IReadOnlyList<DesignCost> Designs, IReadOnlyList<PostageCost> Postage, decimal Lightest, decimal Heaviest)
{
    /// <summary>Paper, envelopes and postage together.</summary>
    public decimal Total => Designs.Sum(d => d.Price) + Postage.Sum(p => p.Price);

    /// <summary>What stands for a class where pieces go abroad and none was chosen for them.</summary>
    public const string NoClassAbroad = "abroad";

    /// <summary>Postage of pieces.</summary>
    /// <param name="weights">Each piece's weight, and whether it goes abroad.</param>
    /// <param name="inland">The class for the organization's own country; null for none.</param>
    /// <param name="abroad">The class for others; without one those pieces are told apart, and nothing is reckoned for them.</param>
    public static IReadOnlyList<PostageCost> PostageOf(
        IReadOnlyList<(decimal Grams, bool Abroad)> weights,
        PostageClass? inland,
        PostageClass? abroad
    )
    {
        var costs = new List<PostageCost>();
        foreach (var (of, pieces) in new[] { (inland, weights.Where(w => !w.Abroad)), (abroad, weights.Where(w => w.Abroad)) })
        {
            // Mail abroad is never reckoned as if it stayed at home.
            if (of is null && inland is not null && pieces.Count() is var unpriced and > 0)
                costs.Add(new(NoClassAbroad, unpriced, 0, 0));
            if (of is null)
                continue;
            int count = 0,
                heavy = 0;
            decimal sum = 0;
            foreach (var (grams, _) in pieces)
            {
                if (of.Of(grams) is { } price)
                    sum += price;
                else
                    heavy++;
                count++;
            }
            if (count > 0)
                costs.Add(new(of.Name, count, heavy, sum));
        }
        return costs;
    }
}
