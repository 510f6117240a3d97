using System.Globalization;

namespace Bandeja.Core.Language;

/// <summary>What a value is.</summary>
public enum ValueKind
{
    Blank,
    Text,
    Number,
    Date,
    YesNo,
}

/// <summary>A typed value. Numbers are decimal, never binary floating point.</summary>
public readonly record struct Value
{
    /// <summary>Nothing: prints nothing, and is never taken for zero.</summary>
    public static readonly Value Blank = default;

    /// <summary>Its kind.</summary>
    public ValueKind Kind { get; private init; }

    /// <summary>The text, where <see cref="Kind"/> is text.</summary>
    public string Text
    {
        get => field ?? "";
        private init;
    }

    /// <summary>The number, where <see cref="Kind"/> is number.</summary>
    public decimal Number { get; private init; }

    /// <summary>The date, where <see cref="Kind"/> is date.</summary>
    public DateOnly Date { get; private init; }

    /// <summary>Yes is true, where <see cref="Kind"/> is yes/no.</summary>
    public bool Bool { get; private init; }

    /// <summary>True for nothing and for text of nothing but spaces.</summary>
    public bool IsBlank => Kind == ValueKind.Blank || Kind == ValueKind.Text && string.IsNullOrWhiteSpace(Text);

    /// <summary>A text value.</summary>
    public static Value Of(string text) => new() { Kind = ValueKind.Text, Text = text };

    /// <summary>A number.</summary>
    public static Value Of(decimal number) => new() { Kind = ValueKind.Number, Number = number };

    /// <summary>A date.</summary>
    public static Value Of(DateOnly date) => new() { Kind = ValueKind.Date, Date = date };

    /// <summary>Yes or no.</summary>
    public static Value Of(bool yes) => new() { Kind = ValueKind.YesNo, Bool = yes };

    /// <summary>How the value prints where no format is given: numbers without grouping and with the decimals they have, dates in the
    /// locale's middle length.</summary>
    public string Print(OrganizationLocale locale) =>
        Kind switch
        {
            ValueKind.Text => Text,
            ValueKind.Number => Number.ToString("0.############################", locale.Culture),
            ValueKind.Date => DatePattern.Format(Date, locale.DateMedium, locale.Culture),
            ValueKind.YesNo => Bool ? locale.Yes : locale.No,
            _ => "",
        };

    /// <inheritdoc/>
    public override string ToString() =>
        Kind switch
        {
            ValueKind.Number => Number.ToString(CultureInfo.InvariantCulture),
            ValueKind.Date => Date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            ValueKind.YesNo => Bool ? "yes" : "no",
            _ => Text,
        };
}
