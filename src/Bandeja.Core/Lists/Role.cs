namespace Bandeja.Core.Lists;

/// <summary>
/// What a column means to the trade. Names and addresses are composed from roles, never from headings. The names are stored; never
/// rename one. <see cref="District"/> is a part of a city, <see cref="Locality"/> a village within a post town, <see cref="Unit"/> a part
/// of a
/// building, <see cref="HouseNumber"/> what belongs to a street that stands without it; <see cref="DoNotMail"/> says of whom no drop may
/// have a piece,
/// and several columns may; <see cref="DeliveryPoint"/> the last two
/// digits of a United States delivery point; <see cref="OwnSalutation"/> a greeting that wins over every other; <see cref="AddressedTo"/>
/// the name of a whole household, where one piece goes to all of it; <see cref="PartnerFullName"/> the whole name of the second of two
/// people; <see cref="PostalCodeAddOn"/> the four digits that a United States ZIP+4 code adds to a ZIP Code in another column;
/// <see cref="MayMail"/> says of whom a drop may have a piece: whoever has a no there gets none.
/// </summary>
public enum Role
{
    None,
    Key,
    Title,
    GivenName,
    FamilyName,
    FullName,
    Organization,
    Street,
    Street2,
    City,
    Region,
    PostalCode,
    Country,
    Email,
    Phone,
    Language,
    WholeAddress,
    MiddleName,
    Suffix,
    PartnerTitle,
    PartnerGivenName,
    PartnerFamilyName,
    Attention,
    District,
    DeliveryPoint,
    OwnSalutation,
    AddressedTo,
    Street3,
    Locality,
    Unit,
    HouseNumber,
    DoNotMail,
    PartnerFullName,
    PostalCodeAddOn,
    MayMail,
}
