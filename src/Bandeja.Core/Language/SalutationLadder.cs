using Bandeja.Core.Addressing;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Language;

/// <summary>
/// The forms in which an organization greets, by language: of each ladder the first form is taken whose parts are all there, so
/// that nobody reads “Dear  ,”. Forms are written in the field language; their names are those of <see cref="Names"/>, whatever
/// the list's headings are.
/// </summary>
/// <param name="ByLanguage">Forms in order, by the language's two letters.</param>
public sealed record SalutationLadders(IReadOnlyDictionary<string, IReadOnlyList<string>> ByLanguage)
{
    /// <summary>What forms can name, and the roles it is taken from.</summary>
    public static readonly IReadOnlyList<(string Name, Role Role)> Parts =
    [
        ("Title", Role.Title),
        ("Given name", Role.GivenName),
        ("Middle name", Role.MiddleName),
        ("Family name", Role.FamilyName),
        ("Suffix", Role.Suffix),
        ("Whole name", Role.FullName),
        ("Partner title", Role.PartnerTitle),
        ("Partner given name", Role.PartnerGivenName),
        ("Partner family name", Role.PartnerFamilyName),
        ("Partner whole name", Role.PartnerFullName),
        ("Organization", Role.Organization),
        ("City", Role.City),
        ("Addressed to", Role.AddressedTo),
    ];

    internal static readonly IReadOnlyList<Column> PartColumns =
    [
        .. Parts.Select((p, i) => new Column(i + 1, p.Name, ColumnType.Text, p.Role)),
    ];

    static IReadOnlyList<string> Plain(string greeting, string nameless, string and, bool titles = true) =>
        [
            .. titles ? [$"{greeting} {{Title}} {{Family name}} {and} {{Partner title}} {{Partner family name}}"] : Array.Empty<string>(),
            $"{greeting} {{Given name}} {and} {{Partner given name}}",
            .. titles ? [$"{greeting} {{Title}} {{Family name}}"] : Array.Empty<string>(),
            $"{greeting} {{Given name}}",
            $"{greeting} {{Whole name}} {and} {{Partner whole name}}",
            $"{greeting} {{Whole name}}",
            $"{greeting} {{Organization}}",
            nameless,
        ];

    /// <summary>The ladders that an organization begins with: greetings that need not know a person's sex.</summary>
    public static readonly SalutationLadders First = new(
        new Dictionary<string, IReadOnlyList<string>>
        {
            ["en"] = Plain("Dear", "Dear friend", "and"),
            ["es"] = Plain("Hola,", "Hola", "y"),
            ["de"] = Plain("Guten Tag", "Guten Tag", "und"),
            ["fr"] = Plain("Bonjour", "Bonjour", "et"),
            ["it"] = Plain("Buongiorno", "Buongiorno", "e"),
            ["nl"] = Plain("Beste", "Beste lezer", "en", false),
            ["pt"] = Plain("Olá,", "Olá", "e"),
            ["sv"] = Plain("Hej", "Hej", "och", false),
            ["da"] = Plain("Kære", "Kære ven", "og", false),
            ["nb"] = Plain("Kjære", "Kjære venn", "og", false),
            ["fi"] = Plain("Hyvä", "Hyvä ystävä", "ja", false),
            ["pl"] = ["Dzień dobry, {Given name}", "Dzień dobry"],
            ["cs"] = ["Dobrý den"],
            ["tr"] = ["Sayın {Given name} {Family name}", "Sayın {Whole name}", "Merhaba"],
        }
    );

    /// <summary>How a whole household is greeted, by language, where the ladder has no form that names it with <c>{Addressed
    /// to}</c>.</summary>
    internal static readonly IReadOnlyDictionary<string, string> OfHouseholds = new Dictionary<string, string>
    {
        ["en"] = "Dear {Addressed to}",
        ["es"] = "Hola, {Addressed to}",
        ["de"] = "Guten Tag {Addressed to}",
        ["fr"] = "Bonjour {Addressed to}",
        ["it"] = "Buongiorno {Addressed to}",
        ["nl"] = "Beste {Addressed to}",
        ["pt"] = "Olá, {Addressed to}",
        ["sv"] = "Hej {Addressed to}",
        ["da"] = "Kære {Addressed to}",
        ["nb"] = "Kjære {Addressed to}",
        ["fi"] = "Hyvä {Addressed to}",
        ["pl"] = "Dzień dobry, {Addressed to}",
        ["cs"] = "Dobrý den",
        ["tr"] = "Sayın {Addressed to}",
    };

    /// <summary>The sign that closes a salutation in a language, where a form does not bring its own.</summary>
    public static string ClosingSign(string language) => language is "es" ? ":" : ",";

    static bool EndsItself(string form) =>
        form.TrimEnd() is { Length: > 0 } text && text[^1] is ',' or ':' or '!' or '.' or '，' or '：' or ';';

    /// <summary>A form with its closing sign.</summary>
    public static string Closed(string form, string language) => EndsItself(form) ? form.TrimEnd() : form.TrimEnd() + ClosingSign(language);

    /// <summary>The ladder of a language; the English one, or the first, where there is none.</summary>
    public (string Language, IReadOnlyList<string> Forms) Of(string language)
    {
        var two = language[..Math.Min(2, language.Length)];
        if (ByLanguage.TryGetValue(two, out var own))
            return (two, own);
        if (First.ByLanguage.TryGetValue(two, out own))
            return (two, own);
        return ByLanguage.TryGetValue("en", out own) ? ("en", own) : ("en", First.ByLanguage["en"]);
    }

    /// <summary>A sentence for each form that is wrong, empty where all are right.</summary>
    public static IReadOnlyList<string> Mistakes(IReadOnlyList<string> forms)
    {
        var names = new Names(PartColumns);
        return
        [
            .. forms
                .Select(
                    (f, i) =>
                        string.IsNullOrWhiteSpace(f)
                            ? $"Rule {i + 1} is empty."
                            : Template
                                .Parse(f, names)
                                .Errors.Select(e =>
                                    $"Rule {i + 1}: {e.Message.Replace("There is no column", "There is no name part called")}"
                                )
                                .FirstOrDefault()
                )
                .OfType<string>(),
            .. forms.Count == 0 ? ["Salutation rules need at least one rule."] : Array.Empty<string>(),
        ];
    }
}

/// <summary>Greets recipients of one list. Serves one thread.</summary>
public sealed class Salutation
{
    /// <summary>Where a recipient's salutation comes from, when it is their own.</summary>
    public const int OwnRung = -1;

    /// <summary>No form of the ladder fits.</summary>
    public const int NoRung = -2;

    /// <summary>A whole household is greeted by its name, because the ladder has no form of its own for that.</summary>
    public const int HouseholdRung = -3;

    readonly SalutationLadders ladders;
    readonly RecipientRoles roles;
    readonly PartRow parts;
    readonly Dictionary<string, (string Language, IReadOnlyList<(Template Form, bool Household)> Forms)> parsed = new(
        StringComparer.OrdinalIgnoreCase
    );
    readonly Dictionary<string, EvaluationContext> contexts = [];

    sealed class PartRow(RecipientRoles roles) : IRow
    {
        PersonName? partner;

        public IRow Row
        {
            get;
            set => (field, partner) = (value, null);
        } = new ArrayRow([]);

        PersonName Partner => partner ??= PersonName.PartnerOf(roles, Row);

        public string? this[int column]
        {
            get
            {
                var role = SalutationLadders.Parts[column].Role;
                var value = role switch
                {
                    Role.PartnerTitle => Partner.Title,
                    Role.PartnerGivenName => Partner.Given,
                    Role.PartnerFamilyName => Partner.Family,
                    Role.FullName => NameParts.WithoutResident(PersonName.WholeOf(roles, Row)),
                    Role.GivenName or Role.FamilyName => NameParts.WithoutResident(roles.Of(Row, role)),
                    Role.PartnerFullName => Partner.Whole.Length > 0 ? Partner.Whole : Partner.GivenAndFamily,
                    _ => roles.Of(Row, role),
                };
                return role switch
                {
                    Role.AddressedTo => Greeted(value),
                    Role.FullName => value.Length == 0 ? OfFamily
                    : NameParts.IsHousehold(value) ? Greeted(value)
                    : value,
                    // The family as a whole has no name of one person.
                    Role.FamilyName when OfFamily is not null => null,
                    _ => value.Length > 0 ? value : null,
                };
            }
        }

        /// <summary>What a column of family names holds where it names everybody: “The Ortega Family”.</summary>
        string? OfFamily =>
            roles.Of(Row, Role.FamilyName) is { Length: > 0 } family
            && roles.Of(Row, Role.GivenName).Length == 0
            && NameParts.IsHousehold(family)
                ? Greeted(family)
                : null;

        /// <summary>“Dear Ortega family” and not “Dear The Ortega family”.</summary>
        static string? Greeted(string name) =>
            name.Length == 0 ? null
            : name.StartsWith("The ", StringComparison.OrdinalIgnoreCase) ? name[4..]
            : name;
    }

    /// <summary>Binds ladders to a list's columns.</summary>
    public Salutation(IReadOnlyList<Column> columns, SalutationLadders ladders)
    {
        this.ladders = ladders;
        roles = new(columns);
        parts = new(roles);
    }

    /// <summary>How a recipient is greeted, and by which form of which language's ladder, counted from 0; see <see cref="OwnRung"/> and
    /// <see cref="NoRung"/>.</summary>
    public (int Rung, string Language, string Text) Of(IRow row, OrganizationLocale locale)
    {
        var language = locale.Tag[..2];
        if (!parsed.TryGetValue(language, out var ladder))
        {
            var (of, forms) = ladders.Of(language);
            var names = new Names(SalutationLadders.PartColumns);
            parsed[language] = ladder = (
                of,
                [
                    .. forms
                        .Select(f => Template.Parse(SalutationLadders.Closed(f, of), names))
                        .Select(t =>
                            (
                                t,
                                t.Parts.OfType<FieldPart>()
                                    .SelectMany(f => f.Field.Columns())
                                    .Any(c => SalutationLadders.Parts[c].Role == Role.AddressedTo)
                            )
                        ),
                ]
            );
        }
        var household = roles.Of(row, Role.AddressedTo).Length > 0;
        // The own salutation of one of them does not greet the others.
        if (!household && roles.Of(row, Role.OwnSalutation) is { Length: > 0 } own)
            return (OwnRung, ladder.Language, own);
        if (!contexts.TryGetValue(locale.Tag, out var context))
            contexts[locale.Tag] = context = new(SalutationLadders.PartColumns, locale, default);
        parts.Row = row;
        if (household)
        {
            for (var i = 0; i < ladder.Forms.Count; i++)
                if (ladder.Forms[i].Household && Printed(ladder.Forms[i].Form, context) is { } greeting)
                    return (i, ladder.Language, greeting);
            return Printed(Household(ladder.Language), context) is { } other
                ? (HouseholdRung, ladder.Language, other)
                : (NoRung, ladder.Language, "");
        }
        for (var i = 0; i < ladder.Forms.Count; i++)
        {
            if (Printed(ladder.Forms[i].Form, context) is { } text)
                return (i, ladder.Language, text);
        }
        return (NoRung, ladder.Language, "");
    }

    /// <summary>What a form gives for the row; null where a part that it names is blank.</summary>
    string? Printed(Template form, EvaluationContext context)
    {
        if (form.Errors.Count > 0)
            return null;
        context.For(parts, 0);
        var text = form.Print(context);
        // A part that is blank and says nothing for that case is reported: then the next form has its turn.
        return context.Problems.Count == 0 && text.Any(char.IsLetterOrDigit) ? text : null;
    }

    static Template Household(string language) =>
        Template.Parse(
            SalutationLadders.Closed(
                SalutationLadders.OfHouseholds.GetValueOrDefault(language) ?? SalutationLadders.OfHouseholds["en"],
                language
            ),
            new Names(SalutationLadders.PartColumns)
        );
}
