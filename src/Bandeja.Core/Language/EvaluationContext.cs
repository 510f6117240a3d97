using System.Globalization;
using Bandeja.Core.Addressing;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Language;

/// <summary>What an expression can see: one recipient's values, and nothing else but the day and the piece number. One context serves one thread.</summary>
/// <param name="columns">The list's columns.</param>
/// <param name="locale">The organisation's locale.</param>
/// <param name="today">The day of the run.</param>
/// <param name="details">The list's sets of detail rows.</param>
/// <param name="sender">The organisation's name.</param>
public sealed class EvaluationContext(IReadOnlyList<Column> columns, OrganisationLocale locale, DateOnly today, IReadOnlyList<DetailSet>? details = null, string sender = "")
{
    readonly int languageColumn = FirstOf(columns, Role.Language);
    readonly Dictionary<string, OrganisationLocale?> locales = new(StringComparer.OrdinalIgnoreCase);
    readonly List<(int Set, IRow Row, int Number)> rows = [];
    OrganisationLocale? own;

    static int FirstOf(IReadOnlyList<Column> columns, Role role)
    {
        for (var i = 0; i < columns.Count; i++) if (columns[i].Role == role) return i;
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
    /// <summary>What could not be computed since <see cref="For"/> was called.</summary>
    public List<Problem> Problems { get; } = [];

    /// <summary>How numbers and dates are written: as the recipient's language has it where the list has a column for it, else as the organisation's.</summary>
    public OrganisationLocale Locale => own ??= OwnLocale();

    OrganisationLocale OwnLocale()
    {
        if (languageColumn < 0 || Row[languageColumn] is not { } language || string.IsNullOrWhiteSpace(language)) return locale;
        if (!locales.TryGetValue(language, out var known)) locales[language] = known = OrganisationLocale.ForLanguage(language, locale);
        if (known is not null) return known;
        Report(ProblemKind.WrongType, columns[languageColumn].Name, language, $"{columns[languageColumn].Name} is “{Evaluator.Short(language)}”, which is no language that is known here; numbers and dates are written as the organisation's.");
        return locale;
    }

    /// <summary>Turns to another recipient.</summary>
    public EvaluationContext For(IRow row, int pieceNumber)
    {
        (Row, PieceNumber, own, Place) = (row, pieceNumber, null, null);
        rows.Clear();
        Problems.Clear();
        return this;
    }

    /// <summary>The row that <c>each</c> over a set stands at, or null outside of it.</summary>
    internal IRow? RowOf(int set)
    {
        for (var i = rows.Count - 1; i >= 0; i--) if (rows[i].Set == set) return rows[i].Row;
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

    internal Value BuiltInValue(BuiltIn which) => which switch
    {
        BuiltIn.Today => Value.Of(today),
        BuiltIn.PieceNumber => Value.Of(PieceNumber.ToString("0000", CultureInfo.InvariantCulture)),
        BuiltIn.Sender => sender.Length == 0 ? Value.Blank : Value.Of(sender),
        BuiltIn.DeliveryAddress => DeliveryAddress.Of(columns, Row, locale.Country) is { Count: > 0 } lines ? Value.Of(string.Join('\n', lines)) : Value.Blank,
        BuiltIn.Salutation => Value.Of(Salutation.Of(columns, Row, Locale)),
        BuiltIn.RowNumber => rows.Count == 0 ? Value.Blank : Value.Of((decimal)rows[^1].Number),
        BuiltIn.PageNumber => Value.Of((decimal)Page.Number),
        _ => Value.Of((decimal)Page.Count),
    };

    internal void Report(ProblemKind kind, string field, string? value, string message) =>
        Problems.Add(new(kind, field, value, message, rows.Count == 0 ? Place : $"{(Place is null ? "" : Place + ", ")}row {rows[^1].Number} of {Details[rows[^1].Set].Name}"));
}
