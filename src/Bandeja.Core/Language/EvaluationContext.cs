using System.Globalization;
using Bandeja.Core.Addressing;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Language;

/// <summary>What an expression can see: one recipient's values, and nothing else but the day and the piece number. One context serves one
/// thread.</summary>
/// <param name="columns">The list's columns.</param>
/// <param name="locale">The organization's locale.</param>
/// <param name="today">The day of the run.</param>
/// <param name="details">The list's sets of detail rows.</param>
/// <param name="sender">The organization's name.</param>
/// <param name="addressing">How the organization writes addresses and greets.</param>
public sealed class EvaluationContext(
    IReadOnlyList<Column> columns,
    OrganizationLocale locale,
    DateOnly today,
    IReadOnlyList<DetailSet>? details = null,
    string sender = "",
    AddressingRules? addressing = null
)
{
    readonly AddressingRules rules = addressing ?? AddressingRules.First;
    DeliveryAddress? addresses;
    Salutation? salutations;
    RecipientRoles? roles;
    bool addressRead;
    (int Rung, string Language, string Text)? greeting;

    readonly int languageColumn = FirstOf(columns, Role.Language);
    readonly Dictionary<string, OrganizationLocale?> locales = new(StringComparer.OrdinalIgnoreCase);
    readonly List<(int Set, IRow Row, int Number)> rows = [];
    OrganizationLocale? own;

    static int FirstOf(IReadOnlyList<Column> columns, Role role)
    {
        for (var i = 0; i < columns.Count; i++)
            if (columns[i].Role == role)
                return i;
        return -1;
    }

    /// <summary>The list's sets of detail rows.</summary>
    public IReadOnlyList<DetailSet> Details { get; } = details ?? [];

    /// <summary>The list's columns.</summary>
    public IReadOnlyList<Column> Columns => columns;

    /// <summary>The day of the run.</summary>
    public DateOnly Today => today;

    /// <summary>The recipient's values.</summary>
    public IRow Row { get; private set; } = new ArrayRow([]);

    /// <summary>The recipient's piece number; 0 where there is none, as in a filter.</summary>
    public int PieceNumber { get; private set; }

    /// <summary>The page of a header or footer and the number of pages.</summary>
    public (int Number, int Count) Page { get; set; }

    /// <summary>Where in a letter evaluation stands; told with each problem.</summary>
    public string? Place { get; set; }

    /// <summary>What the field that is being evaluated may still cost.</summary>
    public EvaluationBudget Budget { get; } = new();

    /// <summary>What could not be computed since <see cref="For"/> was called.</summary>
    public List<Problem> Problems { get; } = [];

    /// <summary>How numbers and dates are written: as the recipient's language has it where the list has a column for it, else as the
    /// organization's.</summary>
    public OrganizationLocale Locale => own ??= OwnLocale();

    /// <summary>The organization's own formats and units, whatever the recipient's language is.</summary>
    public OrganizationLocale Organization => locale;

    OrganizationLocale OwnLocale()
    {
        if (languageColumn < 0 || Row[languageColumn] is not { } language || string.IsNullOrWhiteSpace(language))
            return locale;
        if (!locales.TryGetValue(language, out var known))
            locales[language] = known = OrganizationLocale.ForLanguage(language, locale);
        if (known is not null)
            return known;
        Report(
            ProblemKind.WrongType,
            columns[languageColumn].Name,
            language,
            $"{columns[languageColumn].Name} is “{Evaluator.Short(language)}”, which is not a known language. Numbers and "
                + "dates use the organization’s format."
        );
        return locale;
    }

    HanForm? form;

    /// <summary>Which form of Han characters the recipient reads: by their language, else by the country of their address.</summary>
    public HanForm HanForm =>
        form ??= HanForms.Of(languageColumn < 0 ? null : Row[languageColumn], Countries.Named(Roles.Of(Row, Role.Country))?.Code);

    /// <summary>The piece's serial number for a mailer identifier.</summary>
    public Func<string, long>? Serial { get; private set; }

    /// <summary>Turns to another recipient.</summary>
    public EvaluationContext For(IRow row, int pieceNumber, Func<string, long>? serial = null)
    {
        (Row, PieceNumber, own, form, Place, Serial) = (row, pieceNumber, null, null, null, serial);
        rows.Clear();
        Problems.Clear();
        Budget.Reset();
        addressRead = false;
        greeting = null;
        return this;
    }

    /// <summary>The lines of the recipient's delivery address; what is wrong about it is reported once.</summary>
    public IReadOnlyList<AddressLine> AddressLines()
    {
        addresses ??= new(columns, locale.Country, rules.CountryLine, locale.Tag);
        if (addressRead)
            return addresses.Lines;
        addressRead = true;
        var lines = addresses.Write(Row);
        foreach (var (issue, value) in addresses.Problems)
            Report(
                ProblemKind.Address,
                Heading(issue),
                value,
                issue switch
                {
                    AddressIssue.NoStreet => "The address has no street line.",
                    AddressIssue.NoPlace => "The address has no city or postal code.",
                    AddressIssue.NoAddressee => "The address has no name or organization.",
                    AddressIssue.UnknownCountry =>
                        $"“{Evaluator.Short(value)}” is not a recognized country, so the address layout may be wrong.",
                    _ => $"The city “{Evaluator.Short(value)}” ends with a country name. Move the country to its own column.",
                }
            );
        return lines;
    }

    /// <summary>The heading of the column in which a wrong address is mended; what it is called by its role where the list has
    /// none.</summary>
    string Heading(AddressIssue issue)
    {
        Role role = issue switch
        {
            AddressIssue.NoStreet => Role.Street,
            AddressIssue.UnknownCountry => Role.Country,
            AddressIssue.NoAddressee => Role.FamilyName,
            _ => Role.City,
        };
        return columns.FirstOrDefault(c => c.Role == role)?.Name ?? role.ToString();
    }

    /// <summary>The country of the recipient's address, ISO 3166-1; empty where it is not known.</summary>
    public string AddressCountry()
    {
        AddressLines();
        return addresses!.Country;
    }

    /// <summary>The postal code of the recipient's address as it is written; empty where it is blank.</summary>
    public string AddressCode()
    {
        AddressLines();
        return addresses!.Code;
    }

    RecipientRoles Roles => roles ??= new(columns);

    /// <summary>The value of a role, empty where it is blank.</summary>
    public string RoleValue(Role role) => Roles.Of(Row, role);

    Value NameValue(string text) => text.Length == 0 ? Value.Blank : Value.Of(text);

    /// <summary>How the recipient is greeted, and by which form of which language's ladder; see <see cref="Salutation"/>.</summary>
    public (int Rung, string Language, string Text) Greeting() =>
        greeting ??= (salutations ??= new(columns, rules.Ladders)).Of(Row, Locale);

    /// <summary>The forms of a language's ladder, in their order.</summary>
    public IReadOnlyList<string> GreetingForms(string language) => rules.Ladders.Of(language).Forms;

    Value SalutationValue()
    {
        var (rung, _, text) = Greeting();
        return rung == Salutation.NoRung
            ? Evaluator.Failed(this, ProblemKind.Blank, "Salutation", null, "No salutation rule fits. Add a last rule that needs no name.")
            : Value.Of(text);
    }

    /// <summary>The row that <c>each</c> over a set stands at, or null outside of it.</summary>
    internal IRow? RowOf(int set)
    {
        for (var i = rows.Count - 1; i >= 0; i--)
            if (rows[i].Set == set)
                return rows[i].Row;
        return null;
    }

    /// <summary>Does something for each of the recipient's detail rows of a set, which are then what its columns' names mean.</summary>
    public void ForEach(int set, Action act)
    {
        var number = 0;
        foreach (var row in Row.Details(set))
        {
            rows.Add((set, row, ++number));
            act();
            rows.RemoveAt(rows.Count - 1);
        }
    }

    internal Value BuiltInValue(BuiltIn which) =>
        which switch
        {
            BuiltIn.Today => Value.Of(today),
            BuiltIn.PieceNumber => Value.Of(PieceNumber.ToString("0000", CultureInfo.InvariantCulture)),
            BuiltIn.Sender => sender.Length == 0 ? Value.Blank : Value.Of(sender),
            BuiltIn.DeliveryAddress => AddressLines() is { Count: > 0 } lines
                ? Value.Of(string.Join('\n', lines.Select(l => l.Text)))
                : Value.Blank,
            BuiltIn.AddressLines => Value.Of((decimal)AddressLines().Count),
            BuiltIn.LongestAddressLine => AddressLines() is { Count: > 0 } lines
                ? Value.Of(lines.MaxBy(l => l.Text.Length).Text)
                : Value.Blank,
            BuiltIn.Salutation => SalutationValue(),
            BuiltIn.NameInFull => NameValue(PersonName.Of(Roles, Row).Full),
            BuiltIn.GivenAndFamilyName => NameValue(PersonName.Of(Roles, Row).GivenAndFamily),
            BuiltIn.TitleAndFamilyName => NameValue(PersonName.Of(Roles, Row).TitleAndFamily),
            BuiltIn.FamilyNameFirst => NameValue(PersonName.Of(Roles, Row).FamilyFirstWithComma),
            BuiltIn.HouseholdName => RoleValue(Role.AddressedTo) is { Length: > 0 } all
                ? Value.Of(all)
                : NameValue(
                    PersonName.Household(
                        PersonName.Of(Roles, Row),
                        PersonName.PartnerOf(Roles, Row),
                        RoleValue(Role.Language) is { Length: > 1 } language ? language : locale.Tag
                    )
                ),
            BuiltIn.RowNumber => rows.Count == 0 ? Value.Blank : Value.Of((decimal)rows[^1].Number),
            BuiltIn.PageNumber => Value.Of((decimal)Page.Number),
            _ => Value.Of((decimal)Page.Count),
        };

    internal void Report(ProblemKind kind, string field, string? value, string message) =>
        Problems.Add(
            new(
                kind,
                field,
                value,
                message,
                rows.Count == 0 ? Place : $"{(Place is null ? "" : Place + ", ")}row {rows[^1].Number} of {Details[rows[^1].Set].Name}"
            )
        );
}
