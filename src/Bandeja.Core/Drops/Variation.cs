using Bandeja.Core.Language;

namespace Bandeja.Core.Drops;

/// <summary>In which way pieces of one package can differ from each other.</summary>
public enum VariationKind
{
    Condition,
    Field,
    Extreme,
    Salutation,
    Country,
    Pages,
    Issue,
    Character,
    Picture,
    Rows,
    OneOff,
    Channel,
}

/// <summary>One way in which the output can come out, such as “Amount due is blank” or “an address in Japan”.</summary>
/// <param name="Subject">What varies: a condition, a field, the salutation.</param>
/// <param name="Case">How it came out.</param>
/// <param name="Text">A few words for the coordinator: why a recipient was chosen who shows this.</param>
public sealed record Variation(VariationKind Kind, string Subject, string Case, string Text)
{
    /// <summary>Identity.</summary>
    public string Key => $"{Kind}|{Subject}|{Case}";

    /// <inheritdoc/>
    public bool Equals(Variation? other) => other is not null && Kind == other.Kind && Subject == other.Subject && Case == other.Case;

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Kind, Subject, Case);

    internal static Variation Of(VariationKind kind, string subject, string @case, string text) => new(kind, subject, @case, text);

    internal static Variation Met(string condition, bool met) =>
        Of(VariationKind.Condition, condition, met ? "met" : "not met", met ? $"“{condition}” is met" : $"“{condition}” is not met");

    internal static Variation Blank(string field, string name) => Of(VariationKind.Field, field, "blank", $"no {name}");

    internal static Variation Filled(string field, string name) => Of(VariationKind.Field, field, "filled", $"{name} filled in");

    internal static Variation Longest(string field, string name) => Of(VariationKind.Extreme, field, "longest", $"longest {name}");

    internal static Variation Shortest(string field, string name) => Of(VariationKind.Extreme, field, "shortest", $"shortest {name}");

    internal static Variation Country(string code, string name) =>
        Of(VariationKind.Country, "country", code, code.Length == 0 ? "address with an unknown country" : name);

    internal static Variation Pages(int pages) => Of(VariationKind.Pages, "pages", $"{pages}", pages == 1 ? "1 page" : $"{pages} pages");

    internal static Variation Of(PieceIssueKind kind, string subject) =>
        Of(VariationKind.Issue, subject, kind.ToString(), PieceIssue.Title(kind, subject));

    internal static Variation Picture(string name) => Of(VariationKind.Picture, "picture", name, $"picture {name}");

    internal static Variation Rows(string set, string @case, string text) => Of(VariationKind.Rows, set, @case, text);

    internal static Variation OneOff(string design) =>
        Of(VariationKind.OneOff, design, "changed", $"{design} changed for this recipient only");

    internal static Variation GoesBy(Mail.Channel channel) =>
        Of(
            VariationKind.Channel,
            "channel",
            $"{channel}",
            channel switch
            {
                Mail.Channel.Email => "sent by email",
                Mail.Channel.Paper => "sent on paper",
                _ => "sent on paper and by email",
            }
        );

    internal static Variation Greeting(string language, int rung, IReadOnlyList<string> forms) =>
        rung switch
        {
            Salutation.OwnRung => Of(VariationKind.Salutation, language, "own", "personal salutation"),
            Salutation.HouseholdRung => Of(VariationKind.Salutation, language, "household", "a whole household is greeted"),
            Salutation.NoRung => Of(VariationKind.Salutation, language, "none", "no salutation rule fits"),
            _ => Of(VariationKind.Salutation, language, $"{rung}", $"salutation “{forms[rung]}”"),
        };

    internal static Variation Character(string character, string? face) =>
        Of(
            VariationKind.Character,
            face ?? "none",
            character,
            face is null ? $"“{character}”, not in any font"
                : character.Length == 0 ? $"more characters from {face}"
                : $"“{character}” from {face}"
        );
}
