namespace Bandeja.Core.Checks;

/// <summary>What can be wrong about a recipient's data. The names are stored; never rename one.</summary>
public enum CheckKind
{
    Spaces,
    Capitals,
    Garbled,
    Placeholder,
    NoName,
    MissingPart,
    AddressInOneCell,
    CountryUnknown,
    RegionName,
    RegionUnknown,
    LeadingZero,
    PostalCodeForm,
    PostalCodeMalformed,
    PostalCodeRegion,
    EmailMalformed,
    EmailTypo,
    RoleAccount,
    Phone,
    NotADate,
    AmbiguousDate,
    DateFar,
    NotANumber,
    NotYesNo,
    NamesInOneCell,
    NamesSwapped,
    SeveralPeople,
    TitleContradicts,
    TooLong,
    NoGlyph,
    Computed,
    SameEmail,
}

/// <summary>A value that a fix would set.</summary>
/// <param name="Column">Position of the column.</param>
/// <param name="Value">The new value; null is blank.</param>
public sealed record CellFix(int Column, string? Value);

/// <summary>Something wrong about one recipient.</summary>
/// <param name="Kind">The check.</param>
/// <param name="Column">Position of the column that is meant.</param>
/// <param name="Message">What is wrong, for people.</param>
/// <param name="Fixes">The change that is proposed; empty where none can be.</param>
public sealed record CheckIssue(CheckKind Kind, int Column, string Message, IReadOnlyList<CellFix> Fixes)
{
    /// <summary>An issue that proposes another value for its own cell.</summary>
    public static CheckIssue With(CheckKind kind, int column, string message, string? value) =>
        new(kind, column, message, [new(column, value)]);

    /// <summary>An issue without a proposal.</summary>
    public static CheckIssue Of(CheckKind kind, int column, string message) => new(kind, column, message, []);
}

/// <summary>What a check is called.</summary>
/// <param name="Title">Its name.</param>
/// <param name="Hint">What it looks for, in a few words.</param>
/// <param name="Why">The reason that the log gives for its fixes.</param>
public sealed record CheckText(string Title, string Hint, string Why)
{
    /// <summary>The words for a check. One without words does not compile.</summary>
    public static CheckText Of(CheckKind kind) =>
        kind switch
        {
            CheckKind.Spaces => new("Doubled or stray spaces", "around or within a value", "Took stray spaces out of"),
            CheckKind.Capitals => new("All capitals or all small", "names, streets and cities", "Set capitals right in"),
            CheckKind.Garbled => new("Letters garbled on the way", "Ã± and its kin", "Restored garbled letters in"),
            CheckKind.Placeholder => new("Placeholder instead of a value", "N/A, none, -", "Blanked placeholders in"),
            CheckKind.NoName => new("No name to write to", "no given name or organization", "Filled names in"),
            CheckKind.MissingPart => new("Address not whole", "a part that its country needs", "Filled address parts in"),
            CheckKind.AddressInOneCell => new(
                "Several address parts in one cell",
                "city, region and postal code together",
                "Divided addresses of"
            ),
            CheckKind.CountryUnknown => new("Country not known", "neither a code nor a name", "Corrected the country of"),
            CheckKind.RegionName => new("Region spelled out", "Oregon → OR", "Abbreviated the region of"),
            CheckKind.RegionUnknown => new("Region not of its country", "not among its states or provinces", "Corrected the region of"),
            CheckKind.LeadingZero => new("Postal code too short", "a leading zero was lost", "Restored leading zeros of"),
            CheckKind.PostalCodeForm => new(
                "Postal code in another form",
                "spaces, hyphens, small letters",
                "Set the form of postal codes of"
            ),
            CheckKind.PostalCodeMalformed => new("Postal code not of its country", "the form does not fit", "Corrected postal codes of"),
            CheckKind.PostalCodeRegion => new(
                "Postal code not in its region",
                "its first characters belong elsewhere",
                "Corrected postal codes of"
            ),
            CheckKind.EmailMalformed => new("Email that cannot be right", "no @, spaces, a comma", "Corrected email addresses of"),
            CheckKind.EmailTypo => new("Email: likely typing error", "exmaple.org", "Corrected email addresses of"),
            CheckKind.RoleAccount => new("Email of a desk, not a person", "info@, office@", "Corrected email addresses of"),
            CheckKind.Phone => new("Phone that cannot be right", "too short, too long, not of its country", "Corrected phones of"),
            CheckKind.NotADate => new("Date that is none", "February 31, a word", "Corrected dates of"),
            CheckKind.AmbiguousDate => new("Date that can be read two ways", "03/04: March 4 or April 3", "Settled dates of"),
            CheckKind.DateFar => new("Date far away", "long past, or not to come", "Corrected dates of"),
            CheckKind.NotANumber => new("Number written as text", "1.250,00 or 50 USD", "Turned text into numbers for"),
            CheckKind.NotYesNo => new("Neither yes nor no", "x, 1, true", "Turned marks into yes and no for"),
            CheckKind.NamesInOneCell => new("Given and family name in one cell", "divide them", "Divided names of"),
            CheckKind.NamesSwapped => new(
                "Given and family name swapped",
                "they seem to stand in each other's place",
                "Exchanged names of"
            ),
            CheckKind.SeveralPeople => new("More than one person in a cell", "Ana & Luis", "Divided people of"),
            CheckKind.TitleContradicts => new("Title does not fit", "Mr and female", "Corrected titles of"),
            CheckKind.TooLong => new("Longer than fits an address", "more than stands in a line on the envelope", "Shortened values of"),
            CheckKind.SameEmail => new(
                "Recipients who share an email address",
                "one mailbox would get two messages",
                "Changed shared email addresses of"
            ),
            CheckKind.NoGlyph => new("Characters that cannot be printed", "no typeface here has them", "Replaced characters of"),
            CheckKind.Computed => new("Could not be computed", "a computed column is blank for a reason", "Recomputed"),
        };
}
