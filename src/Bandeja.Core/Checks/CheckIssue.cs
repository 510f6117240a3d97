namespace Bandeja.Core.Checks;

/// <summary>What can be wrong about a recipient's data. The names are stored; never rename one.</summary>
public enum CheckKind
{
    Spaces,
    Capitals,
    Garbled,
    Placeholder,
    DigitsLost,
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
    FamilyNameFirst,
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
    /// <summary>True for a check of how a value is written and not of what it says: the piece arrives all the same.</summary>
    public static bool IsOfForm(CheckKind kind) =>
        kind is CheckKind.Spaces or CheckKind.Capitals or CheckKind.RegionName or CheckKind.PostalCodeForm;

    /// <summary>The words for a check. One without words does not compile.</summary>
    public static CheckText Of(CheckKind kind) =>
        kind switch
        {
            CheckKind.Spaces => new("Extra spaces", "Before, after, or inside a value", "Removed extra spaces for"),
            CheckKind.Capitals => new("All uppercase or all lowercase", "Names, streets, and cities", "Fixed capitalization for"),
            CheckKind.Garbled => new("Garbled characters", "Such as Ã± for ñ, or &amp; for &", "Fixed garbled characters for"),
            CheckKind.Placeholder => new("Placeholder value", "N/A, none, -, same", "Cleared placeholder values for"),
            CheckKind.DigitsLost => new("Digits lost", "1.23457E+12, rounded by a spreadsheet", "Completed numbers for"),
            CheckKind.NoName => new("No name", "No given name or organization", "Filled in names for"),
            CheckKind.MissingPart => new("Incomplete address", "Missing a part its country requires", "Completed addresses for"),
            CheckKind.AddressInOneCell => new(
                "Several address parts in one cell",
                "City, region, and postal code together",
                "Split addresses for"
            ),
            CheckKind.CountryUnknown => new("Unknown country", "Not a country code or name", "Corrected country for"),
            CheckKind.RegionName => new("Region spelled out", "Oregon → OR", "Abbreviated region for"),
            CheckKind.RegionUnknown => new("Region not in country", "Not a state or province of the country", "Corrected region for"),
            CheckKind.LeadingZero => new("Postal code too short", "Missing leading zero", "Restored leading zeros for"),
            CheckKind.PostalCodeForm => new("Postal code format", "Spaces, hyphens, or lowercase letters", "Formatted postal codes for"),
            CheckKind.PostalCodeMalformed => new(
                "Invalid postal code",
                "Does not match the country’s format",
                "Corrected postal codes for"
            ),
            CheckKind.PostalCodeRegion => new(
                "Postal code not in region",
                "Starts with digits of another region",
                "Corrected postal codes for"
            ),
            CheckKind.EmailMalformed => new("Invalid email address", "No @, or has spaces or a comma", "Corrected email addresses for"),
            CheckKind.EmailTypo => new("Likely email typo", "exmaple.org", "Corrected email addresses for"),
            CheckKind.RoleAccount => new("Shared mailbox", "info@, office@", "Corrected email addresses for"),
            CheckKind.Phone => new("Invalid phone number", "Too short, too long, or wrong for its country", "Corrected phone numbers for"),
            CheckKind.NotADate => new("Invalid date", "Such as February 31", "Corrected dates for"),
            CheckKind.AmbiguousDate => new("Ambiguous date", "03/04: March 4 or April 3", "Resolved dates for"),
            CheckKind.DateFar => new("Unlikely date", "Far in the past or future", "Corrected dates for"),
            CheckKind.NotANumber => new("Number written as text", "1.250,00 or 50 USD", "Converted text to numbers for"),
            CheckKind.NotYesNo => new("Not yes or no", "x, 1, true", "Converted marks to yes or no for"),
            CheckKind.NamesInOneCell => new("Given and family name in one cell", "Can be split", "Split names for"),
            CheckKind.NamesSwapped => new("Given and family name swapped", "They appear to be in the wrong columns", "Swapped names for"),
            CheckKind.FamilyNameFirst => new("Family name first", "“Okafor, Ana” prints that way", "Put the given name first for"),
            CheckKind.SeveralPeople => new("More than one person in a cell", "Ana & Luis", "Split people for"),
            CheckKind.TitleContradicts => new("Title does not match", "Such as Mr. and female", "Corrected titles for"),
            CheckKind.TooLong => new("Too long for an address line", "Longer than one line on the envelope", "Shortened values for"),
            CheckKind.SameEmail => new(
                "Recipients who share an email address",
                "One mailbox would get two messages",
                "Changed shared email addresses of"
            ),
            CheckKind.NoGlyph => new("Characters that cannot be printed", "Not in any available font", "Replaced characters for"),
            CheckKind.Computed => new("Cannot be computed", "A computed column is blank because of an error", "Recomputed"),
        };
}
