using System.Globalization;
using Bandeja.Core.Language;
using Bandeja.Store;
using Bandeja.Work.Announcing;

namespace Bandeja.Acts.Settings;

/// <summary>The salutation rules of one language, in the order in which they are tried.</summary>
public sealed record LadderOrder(string Language, IReadOnlyList<string> Forms);

/// <summary>The salutation rules of all languages.</summary>
public sealed record Salutations(IReadOnlyList<LadderOrder> Ladders)
{
    const int MostForms = 30,
        LongestForm = 300;

    /// <summary>The rules, once they are known to be good.</summary>
    /// <exception cref="BadInputException">Something in them cannot be; the sentence says what.</exception>
    public SalutationLadders Checked()
    {
        foreach (var ladder in Ladders)
        {
            if (ladder.Language.Length != 2 || !ladder.Language.All(char.IsAsciiLetterLower))
                throw new BadInputException($"“{ladder.Language}” is not a two-letter language code.");
            if (ladder.Forms.Count > MostForms || ladder.Forms.Any(f => f.Length > LongestForm))
                throw new BadInputException($"A language can have up to {MostForms} salutation rules of {LongestForm} characters each.");
            if (SalutationLadders.Mistakes(ladder.Forms) is [var wrong, ..])
                throw new BadInputException(
                    $"{CultureInfo.GetCultureInfo(ladder.Language).EnglishName}, {char.ToLowerInvariant(wrong[0])}{wrong[1..]}"
                );
        }
        if (Ladders.Select(l => l.Language).Distinct().Count() < Ladders.Count)
            throw new BadInputException("Each language can have only one set of salutation rules.");
        return new(Ladders.ToDictionary(l => l.Language, l => (IReadOnlyList<string>)[.. l.Forms.Select(f => f.Trim())]));
    }
}

/// <summary>Sets the salutation rules.</summary>
[Act("settings.salutations", Permission.Settings, "Changed the salutation rules")]
public sealed class SetSalutations(SettingStore settings) : Act<Salutations>
{
    /// <inheritdoc/>
    protected override void Carry(Salutations order, Deed deed)
    {
        settings.SetLadders(order.Checked());
        deed.Changed(Matter.Settings);
    }
}
