using Bandeja.Core.Composition;
using Bandeja.Core.Language;

namespace Bandeja.Core.Drops;

/// <summary>A part of a design whose outcome varies. Parts are looked at as the composition goes through them, but nothing is laid
/// out.</summary>
abstract class ProofWatch
{
    public abstract void Look(ProofSetMaker maker);
}

/// <summary>A field: blank or filled, how long.</summary>
sealed class FieldWatch(Expression field, PaperFont font, int blank, int filled, Measure width) : ProofWatch
{
    readonly Expression? otherwise = Otherwise(field);
    int seen = -1;

    /// <summary>What stands before the innermost <c>else</c>, where there is one: a field that prints its substitute is blank.</summary>
    static Expression? Otherwise(Expression e) =>
        e is not Formatted f ? null : Otherwise(f.Inner) ?? (f.Format == Format.Else ? f.Inner : null);

    public override void Look(ProofSetMaker maker)
    {
        // The same field in letter, envelope and label is looked at once; within each it has another value for each row.
        if (seen == maker.At && !maker.InRows)
            return;
        seen = maker.At;
        var isBlank = otherwise is not null && Evaluator.Evaluate(otherwise, maker.Context).IsBlank;
        var text = Evaluator.Print(field, maker.Context);
        if (text.Length == 0)
            isBlank = true;
        maker.Set(isBlank ? blank : filled);
        if (text.Length == 0)
            return;
        width.Take(maker.At, font.RoughAdvance(text));
        maker.Characters(text, font);
    }
}

/// <summary>The delivery address: how many lines, how wide, which country.</summary>
sealed class AddressWatch(PaperFont font, Measure lines, Measure width) : ProofWatch
{
    int seen = -1;

    public override void Look(ProofSetMaker maker)
    {
        if (seen == maker.At)
            return;
        seen = maker.At;
        var written = maker.Context.AddressLines();
        maker.CountryOf(maker.Context.AddressCountry());
        if (written.Count == 0)
            return;
        lines.Take(maker.At, written.Count);
        foreach (var line in written)
        {
            width.Take(maker.At, font.RoughAdvance(line.Text));
            maker.Characters(line.Text, font);
        }
    }
}

sealed class GreetingWatch : ProofWatch
{
    int seen = -1;

    public override void Look(ProofSetMaker maker)
    {
        if (seen == maker.At)
            return;
        seen = maker.At;
        var (rung, language, text) = maker.Context.Greeting();
        maker.Greeted(language, rung);
    }
}

/// <summary><c>when … or when … otherwise</c>: which tests were met, and what stands in the branch that was taken.</summary>
sealed class WhenWatch(IReadOnlyList<(Expression? Test, int Met, int NotMet, IReadOnlyList<ProofWatch> Inside)> branches) : ProofWatch
{
    public override void Look(ProofSetMaker maker)
    {
        foreach (var (test, met, notMet, inside) in branches)
        {
            var yes = test is null || Evaluator.IsYes(Evaluator.Evaluate(test, maker.Context));
            if (test is not null)
                maker.Set(yes ? met : notMet);
            if (!yes)
                continue;
            foreach (var watch in inside)
                watch.Look(maker);
            return;
        }
    }
}

/// <summary><c>if(condition, …)</c> within a field, or a condition of the design.</summary>
sealed class IfWatch(DesignTest test, int met, int notMet) : ProofWatch
{
    public override void Look(ProofSetMaker maker) => maker.Set(test.Holds(Evaluator.Evaluate(test.When, maker.Context)) ? met : notMet);
}

/// <summary><c>each</c>: no row, one, the most.</summary>
sealed class EachWatch(int set, int none, int one, Measure most, IReadOnlyList<ProofWatch> inside) : ProofWatch
{
    public override void Look(ProofSetMaker maker)
    {
        var rows = 0;
        maker.Each(
            set,
            () =>
            {
                rows++;
                foreach (var watch in inside)
                    watch.Look(maker);
            }
        );
        if (rows == 0)
            maker.Set(none);
        else if (rows == 1)
            maker.Set(one);
        if (rows > 0)
            most.Take(maker.At, rows);
    }
}

/// <summary>A picture that is chosen by a recipient's value.</summary>
sealed class PictureWatch(Expression source, int blank) : ProofWatch
{
    public override void Look(ProofSetMaker maker)
    {
        var value = Evaluator.Evaluate(source, maker.Context);
        if (value.IsBlank)
            maker.Set(blank);
        else
            maker.Pictured(value.Print(maker.Context.Locale).Trim());
    }
}

/// <summary>A measure of what each recipient's piece prints: its largest and smallest values make two variations.</summary>
sealed class Measure(Func<int, Variation> most, Func<int, Variation>? least)
{
    readonly List<int> largest = [],
        smallest = [];

    public Variation Most(int value) => most(value);

    public Variation? Least(int value) => least?.Invoke(value);

    /// <summary>Takes a value of the recipient at a place; of several the largest and the smallest count.</summary>
    public void Take(int at, int value)
    {
        Reach(at);
        if (value > largest[at])
            largest[at] = value;
        if (value < smallest[at])
            smallest[at] = value;
    }

    void Reach(int at)
    {
        while (largest.Count <= at)
        {
            largest.Add(int.MinValue);
            smallest.Add(int.MaxValue);
        }
    }

    /// <summary>The largest and the smallest of all; null where nobody prints it or all print it alike.</summary>
    public (int Largest, int Smallest)? Range
    {
        get
        {
            var (most, least) = (int.MinValue, int.MaxValue);
            for (var i = 0; i < largest.Count; i++)
            {
                if (largest[i] > most)
                    most = largest[i];
                if (smallest[i] < least)
                    least = smallest[i];
            }
            return most > least ? (most, least) : null;
        }
    }

    public bool IsLargest(int at, int value) => at < largest.Count && largest[at] == value;

    public bool IsSmallest(int at, int value) => at < smallest.Count && smallest[at] == value;
}
