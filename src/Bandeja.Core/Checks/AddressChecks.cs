using Bandeja.Core.Addressing;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;

namespace Bandeja.Core.Checks;

/// <summary>Checks on addresses by their country's rules.</summary>
static class AddressChecks
{
    public static void Check(CheckedRow row)
    {
        if (row[Role.Country] is { } name && row.Country is null)
        {
            var message = $"“{name}” is not a recognized country.";
            if (Countries.Nearest(name) is { } near)
                row.Add(CheckKind.CountryUnknown, Role.Country, message, near.Name);
            else
                row.Add(CheckKind.CountryUnknown, Role.Country, message);
        }
        // An address that is wholly blank belongs to somebody who is written to by other means, or has none: said once.
        if (
            row.Has(Role.Street)
            && NoStreet(row)
            && row[Role.City] is null
            && row[Role.PostalCode] is null
            && row[Role.WholeAddress] is null
        )
        {
            row.Add(CheckKind.MissingPart, Role.Street, "The address is blank.");
            return;
        }
        if (InOneCell(row))
            return;
        WholeAddressChecks.Check(row);
        Region? region = row.Country is { Regions.Count: > 0 } ? CheckRegion(row) : null;
        CheckPostalCode(row, region);
        Missing(row);
    }

    /// <summary>A box may stand in a column of its own.</summary>
    static bool NoStreet(CheckedRow row) => row[Role.Street] is null && row[Role.Street2] is null && row[Role.Street3] is null;

    /// <summary>False where a cell with an address, or its last line, leaves a part out for sure.</summary>
    static bool Says(string whole, Role role, Country? country)
    {
        if (AddressParts.Of(whole, country) is not { } parts)
            return role != Role.PostalCode || whole.AsSpan().ContainsAnyInRange('0', '9');
        return role != Role.Street || parts.Street is not null || parts.City?.AsSpan().ContainsAnyInRange('0', '9') == true;
    }

    static bool InOneCell(CheckedRow row)
    {
        if (
            row[Role.City] is not { } city
            || !row.Has(Role.PostalCode)
            || row[Role.PostalCode] is not null
            || !city.AsSpan().ContainsAnyInRange('0', '9')
        )
            return false;
        if (AddressParts.Of(city, row.Country) is not { PostalCode: not null } parts || parts.Street is not null)
            return false;
        var fixes = new List<CellFix> { new(row.At(Role.City), parts.City), new(row.At(Role.PostalCode), parts.PostalCode) };
        if (parts.Region is not null && row.Has(Role.Region))
            fixes.Add(new(row.At(Role.Region), parts.Region));
        row.Issues.Add(
            new(
                CheckKind.AddressInOneCell,
                row.At(Role.City),
                $"{row.Heading(Role.City)} is “{city}”, which " + "contains more than a city.",
                fixes
            )
        );
        return true;
    }

    static Region? CheckRegion(CheckedRow row)
    {
        if (row[Role.Region] is not { } value)
            return null;
        var region = row.Country!.RegionOf(value);
        if (region is null)
            row.Add(CheckKind.RegionUnknown, Role.Region, $"“{value}” is not a state, province, or region of {row.Country.InSentence}.");
        else if (region.Code != value)
            row.Add(CheckKind.RegionName, Role.Region, $"The postal abbreviation for {region.Name} is {region.Code}.", region.Code);
        return region;
    }

    static void CheckPostalCode(CheckedRow row, Region? region)
    {
        if (row.Country is { Masks.Count: > 0 } country && row[Role.PostalCode] is { } value)
            Judge(row, Role.PostalCode, country, region, value, proposal => proposal);
    }

    /// <summary>Holds a postal code against its country's rules, and against its region's where that is known.</summary>
    /// <param name="with">The cell with what is proposed in the place of the code.</param>
    internal static void Judge(CheckedRow row, Role role, Country country, Region? region, string value, Func<string, string> with)
    {
        var (state, proposal) = PostalCode.Judge(country, value.Trim());
        switch (state)
        {
            case PostalCodeState.LostZero when region?.HasCode(proposal!) != false:
                row.Add(
                    CheckKind.LeadingZero,
                    role,
                    $"“{value}” is too short for {country.InSentence}. It is missing a leading zero.",
                    with(proposal!)
                );
                break;
            case PostalCodeState.OtherForm:
                row.Add(CheckKind.PostalCodeForm, role, $"The format for {country.InSentence} is {proposal}.", with(proposal!));
                break;
            case PostalCodeState.Right when region is not null && !region.HasCode(value.Trim()):
                var belongs = string.Join(" or ", country.RegionsOfCode(value.Trim()).Select(r => r.Code));
                row.Add(
                    CheckKind.PostalCodeRegion,
                    role,
                    belongs.Length == 0
                        ? $"{value} is not used in {country.InSentence}."
                        : $"{value} belongs to {belongs}, not {region.Code}."
                );
                break;
            case PostalCodeState.Malformed or PostalCodeState.LostZero:
                row.Add(
                    CheckKind.PostalCodeMalformed,
                    role,
                    $"“{value}” is not a postal code of {country.InSentence}. The format is {country.Masks[0].Replace('9', '0')}."
                );
                break;
        }
    }

    static void Missing(CheckedRow row)
    {
        // A column with the whole address, or with its last line, says what the others do not.
        var whole = row[Role.WholeAddress];
        foreach (
            var (role, needed) in new[]
            {
                (Role.Street, true),
                (Role.City, true),
                (Role.PostalCode, row.Country is { Masks.Count: > 0 }),
                (Role.Region, row.Country is { NeedsRegion: true }),
            }
        )
        {
            if (
                !needed
                || !row.Has(role)
                || row[role] is not null
                || role == Role.Street && !NoStreet(row)
                || whole is not null && Says(whole, role, row.Country)
            )
                continue;
            var why = row.Country is null ? "" : $"; an address in {row.Country.InSentence} needs it";
            var message = $"{row.Heading(role)} is blank{why}.";
            // The first digits of the code say where it lies, where they say so for sure.
            if (role == Role.Region && row[Role.PostalCode] is { } code && row.Country!.RegionsOfCode(code).ToList() is [var only])
                row.Add(CheckKind.MissingPart, role, message, only.Code);
            else
                row.Add(CheckKind.MissingPart, role, message);
        }
    }
}
