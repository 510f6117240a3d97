using System.Text;

namespace Bandeja.Core.Lists;

/// <summary>Recognises a column's role from its heading, in English, Spanish, German and French.</summary>
public static class RoleRecognizer
{
    static readonly Dictionary<string, Role> Known = Build(
        (Role.Key, "no|number|id|member no|member number|membership number|member id|customer no|customer number|customer id|key|account|account number|donor id|record id|socio|mitgliedsnummer|kundennummer|numero de socio|numero"),
        (Role.Title, "title|prefix|honorific|salutation title|titulo|tratamiento|anrede|titel|civilite|titre"),
        (Role.GivenName, "first|first name|given|given name|forename|firstname|fname|nombre|vorname|prenom"),
        (Role.FamilyName, "last|last name|family|family name|surname|lastname|lname|apellido|apellidos|nachname|familienname|nom|nom de famille"),
        (Role.FullName, "name|full name|fullname|recipient|contact|contact name|nombre completo|nom complet"),
        (Role.Organisation, "organisation|organization|company|company name|business|firm|org|empresa|organizacion|firma|unternehmen|societe|entreprise"),
        (Role.Street, "street|address|address 1|address line 1|address1|street address|addr1|addr|mailing address|calle|direccion|strasse|anschrift|adresse|rue"),
        (Role.Street2, "address 2|address line 2|address2|addr2|street 2|apt|unit|suite|apartment|adresszusatz|zusatz|hausnummer zusatz|complement"),
        (Role.City, "city|town|locality|place|ciudad|poblacion|ort|stadt|ville"),
        (Role.Region, "state|region|province|county|st|prov|estado|provincia|bundesland|departement"),
        (Role.PostalCode, "zip|zip code|zipcode|postal code|postcode|post code|zip4|codigo postal|cp|plz|postleitzahl|code postal"),
        (Role.Country, "country|nation|pais|land|pays"),
        (Role.Email, "email|e mail|email address|mail|correo|correo electronico|courriel"),
        (Role.Phone, "phone|telephone|tel|mobile|cell|phone number|home phone|fax|telefono|telefon|handy"),
        (Role.MiddleName, "middle|middle name|middle initial|mi|second name|segundo nombre|zweiter vorname|deuxieme prenom"),
        (Role.Suffix, "suffix|name suffix|sufijo|namenszusatz|suffixe"),
        (Role.PartnerTitle, "partner title|spouse title|second title|partner anrede|anrede partner"),
        (Role.PartnerGivenName, "partner|partner first name|partner given name|spouse|spouse first name|spouse given name|second first name|partner name|spouse name|partner vorname|vorname partner|nombre pareja|prenom conjoint"),
        (Role.PartnerFamilyName, "partner last name|partner family name|spouse last name|spouse family name|second last name|partner nachname|nachname partner"),
        (Role.Attention, "attention|attn|attention line|a la atencion|zu handen|a l attention de"),
        (Role.District, "district|neighborhood|neighbourhood|suburb|dependent locality|barrio|colonia|ortsteil|lieu dit"),
        (Role.DeliveryPoint, "delivery point|dp|dpc|dpbc"),
        (Role.AddressedTo, "addressed to"),
        (Role.OwnSalutation, "salutation|greeting|own salutation|saludo|briefanrede|formule d appel"),
        (Role.Language, "language|lang|locale|idioma|sprache|langue"));

    static Dictionary<string, Role> Build(params (Role Role, string Headings)[] rows) =>
        rows.SelectMany(r => r.Headings.Split('|').Select(h => (h, r.Role))).ToDictionary(p => p.h, p => p.Role);

    /// <summary>The role a heading stands for, or <see cref="Role.None"/>.</summary>
    public static Role FromHeading(string heading) => Known.GetValueOrDefault(Plain(heading));

    /// <summary>
    /// True where digits in such a column are a code and not a quantity, so that their leading zeros count:
    /// member numbers, postal codes, telephones.
    /// </summary>
    public static bool IsCode(string heading)
    {
        if (FromHeading(heading) is Role.Key or Role.PostalCode or Role.Phone) return true;
        var words = Plain(heading).Split(' ');
        return words.Any(w => w is "id" or "no" or "code" or "zip" or "phone" or "tel" or "telephone" or "mobile" or "fax" or "iban" or "isbn" or "sku" or "barcode");
    }

    /// <summary>Lower case, accents removed, everything but letters and digits turned into single spaces.</summary>
    static string Plain(string heading)
    {
        var plain = new StringBuilder();
        foreach (var c in SoundText.Of(heading).Normalize(NormalizationForm.FormD))
        {
            if (char.IsLetterOrDigit(c)) plain.Append(char.ToLowerInvariant(c));
            else if (char.GetUnicodeCategory(c) != System.Globalization.UnicodeCategory.NonSpacingMark && plain.Length > 0 && plain[^1] != ' ') plain.Append(' ');
        }
        return plain.ToString().TrimEnd();
    }
}
