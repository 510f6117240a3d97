using Bandeja.Core.Lists;
using Bandeja.Core.Places;

namespace Bandeja.Core.Recognition;

/// <summary>A role that a column seems to have.</summary>
/// <param name="Role">The role.</param>
/// <param name="Confidence">How sure that is, in percent.</param>
/// <param name="Why">What it was taken from.</param>
public sealed record RoleGuess(Role Role, int Confidence, string Why)
{
    /// <summary>Nothing is known.</summary>
    public static readonly RoleGuess None = new(Role.None, 0, "");
}

/// <summary>
/// Recognizes the roles of all columns of a list together, from headings and values: what a column called Name, or one that begins
/// with numbers, is depends on what stands beside it.
/// </summary>
public static class RoleEvidence
{
    /// <summary>The roles of all columns; each role is given once, to the column that is surest of it.</summary>
    public static IReadOnlyList<RoleGuess> Of(IReadOnlyList<string> headings, Func<int, IEnumerable<string?>> values, Country home)
    {
        var columns = headings.Select((heading, i) => new Candidate(i, RoleRecognizer.Candidates(heading), new(values(i), home))).ToList();
        // Agent email is the agent's, unless it is a list of agents.
        var namesRecipients = columns.Any(c => Names.Any(c.Can) && !RoleRecognizer.IsOfOther(headings[c.At]));
        bool IsOfOther(int at) => namesRecipients && RoleRecognizer.IsOfOther(headings[at]);
        for (var i = 0; i < columns.Count; i++)
            if (IsOfOther(i) && RoleRecognizer.IsByEnd(headings[i]))
                columns[i] = columns[i] with { Roles = [] };
        var beside = new Neighbors(columns);
        var getTheMail = GetTheMail(columns, headings);
        var guesses = columns.Select(c => ByHeading(c, beside, getTheMail[c.At])).ToList();
        // Values speak where headings are silent, and only for what no heading claims.
        var claimed = guesses.Select(g => g.Role).ToHashSet();
        foreach (var c in columns)
            if (guesses[c.At].Role == Role.None && c.Roles.Count == 0 && !IsOfOther(c.At))
                guesses[c.At] = ByValues(c.Facts, role => claimed.Contains(role), beside);
        foreach (
            var rivals in guesses
                .Select((g, i) => (g, i))
                .Where(x => x.g.Role != Role.None)
                .GroupBy(x => x.g.Role)
                .Where(g => g.Count() > 1 && g.Key is not (Role.DoNotMail or Role.MayMail))
                .ToList()
        )
        foreach (
            var (_, i) in rivals
                .OrderByDescending(x => x.g.Confidence)
                .ThenByDescending(x => getTheMail[x.i])
                .ThenBy(x => RoleRecognizer.IsOfPlace(headings[x.i]))
                .ThenBy(x => RoleRecognizer.IsByEnd(headings[x.i]))
                .ThenBy(x => x.i)
                .Skip(1)
        )
            guesses[i] = RoleGuess.None;
        WithoutWhomItIsAbout(guesses, headings, getTheMail);
        for (var i = 0; i < guesses.Count; i++)
            if (guesses[i].Role == Role.Email && RoleRecognizer.IsByEnd(headings[i]) && columns[i].Facts.Repeats)
                guesses[i] = RoleGuess.None;
        // The bare number of a box is no line of an address.
        for (var i = 0; i < guesses.Count; i++)
            if (guesses[i].Role is Role.Street or Role.Street2 && RoleRecognizer.IsBox(headings[i]) && columns[i].Facts.DigitsOnly > 0.5)
                guesses[i] = RoleGuess.None;
        if (!guesses.Any(g => g.Role == Role.Key))
            foreach (var c in columns)
                if (guesses[c.At].Role == Role.None && c.Facts.IsKey && RoleRecognizer.MayBeKey(headings[c.At]))
                {
                    guesses[c.At] = new(Role.Key, 60, "the heading and the values: each occurs once");
                    break;
                }
        WithoutWhereItIs(guesses, columns, headings, getTheMail);
        WithoutNicknames(guesses, columns);
        WithoutLosses(guesses, columns);
        return guesses;
    }

    static readonly Role[] Names = [Role.FullName, Role.GivenName, Role.FamilyName, Role.MiddleName, Role.Suffix, Role.Title];

    /// <summary>Of several addresses and names in a list those that mail goes to: the mailing address; the parents and whoever pays, where
    /// nearly everybody has such a person.</summary>
    static bool[] GetTheMail(List<Candidate> columns, IReadOnlyList<string> headings)
    {
        var most = columns.Where(c => Names.Any(c.Can)).Select(c => c.Facts.Values.Count).DefaultIfEmpty().Max();
        return
        [
            .. columns.Select(c =>
                RoleRecognizer.Plain(headings[c.At]).Split(' ')[0] is var first
                && (
                    first.StartsWith("mail", StringComparison.Ordinal)
                    || first is "parent" or "parents" or "guardian" or "responsible" or "resp" or "guarantor"
                        && c.Facts.Values.Count * 5 >= most * 4
                )
            ),
        ];
    }

    /// <summary>Where mail goes to a parent or to whoever pays, the names of the student or the patient are only fields: as names of the
    /// recipient they would take the place of the other's.</summary>
    static void WithoutWhomItIsAbout(List<RoleGuess> guesses, IReadOnlyList<string> headings, bool[] getTheMail)
    {
        if (!guesses.Where((g, i) => Names.Contains(g.Role) && getTheMail[i]).Any())
            return;
        for (var i = 0; i < guesses.Count; i++)
            if (
                Names.Contains(guesses[i].Role)
                && RoleRecognizer.Plain(headings[i]).Split(' ')[0] is "student" or "pupil" or "child" or "patient" or "camper" or "player"
            )
                guesses[i] = RoleGuess.None;
    }

    /// <summary>Where mail goes to another address than the property's that a list is about, no part of the property's is left among the
    /// parts of the other's: its postal code below a city elsewhere would send the piece astray. Where the mailing address stands in one
    /// column, no other column is a part of it.</summary>
    static void WithoutWhereItIs(List<RoleGuess> guesses, List<Candidate> columns, IReadOnlyList<string> headings, bool[] getTheMail)
    {
        bool[] isPlace = [.. headings.Select(RoleRecognizer.IsOfPlace)];
        bool Has(Func<int, bool> which, params Role[] roles) => guesses.Where((g, i) => which(i) && roles.Contains(g.Role)).Any();
        // Property address, City, State, ZIP are one address: only another street says that there are two.
        var elsewhere = Has(i => !isPlace[i], Role.Street, Role.WholeAddress);
        var whole = Has(i => getTheMail[i] && columns[i].Facts.StreetWithPlace > 0.5, Role.WholeAddress);
        for (var i = 0; i < guesses.Count; i++)
        {
            var role = guesses[i].Role;
            if (RoleRecognizer.OfAddress.Contains(role) && (elsewhere && isPlace[i] || whole && !getTheMail[i] && role != Role.Country))
                guesses[i] = RoleGuess.None;
        }
    }

    /// <summary>What only a few are called, beside everybody's whole name, is a field: as the given name it would leave all others
    /// without one.</summary>
    static void WithoutNicknames(List<RoleGuess> guesses, List<Candidate> columns)
    {
        var (given, whole) = (guesses.FindIndex(g => g.Role == Role.GivenName), guesses.FindIndex(g => g.Role == Role.FullName));
        if (
            given >= 0
            && whole >= 0
            && !guesses.Any(g => g.Role == Role.FamilyName)
            && columns[given].Facts.Values.Count * 2 < columns[whole].Facts.Values.Count
        )
            guesses[given] = RoleGuess.None;
    }

    sealed record Candidate(int At, IReadOnlyList<Role> Roles, ColumnFacts Facts)
    {
        public bool Can(Role role) => Roles.Contains(role);

        /// <summary>True where the heading means this and nothing else.</summary>
        public bool IsOnly(Role role) => Roles is [var only] && only == role;
    }

    /// <summary>What the headings of the whole list say for sure.</summary>
    sealed class Neighbors(IReadOnlyList<Candidate> all)
    {
        readonly bool[] sure = [.. Enum.GetValues<Role>().Select(role => all.Any(c => c.IsOnly(role)))];

        public bool Sure(Role role) => sure[(int)role];

        public bool AnySure(params Role[] roles) => roles.Any(Sure);

        public Candidate? Before(Candidate c) => c.At > 0 ? all[c.At - 1] : null;

        public bool OtherCan(Candidate c, Role role) => all.Any(o => o.At != c.At && o.Can(role));

        /// <summary>True where another column is a city or a postal code, by its heading or, where that is silent, by its values.</summary>
        public bool HasPlace(ColumnFacts facts) =>
            all.Any(o =>
                o.Facts != facts
                && (
                    o.Can(Role.City)
                    || o.Can(Role.PostalCode)
                    || o.Can(Role.WholeAddress)
                    || o.Roles.Count == 0
                        && o.Facts.Values.Count > 2
                        && (o.Facts.HomeCode >= 0.8 && !o.Facts.Counts || o.Facts.PlaceWithCode >= 0.7 && o.Facts.StreetWithPlace < 0.3)
                )
            );
    }

    static RoleGuess ByHeading(Candidate c, Neighbors beside, bool getsTheMail)
    {
        if (c.Roles.Count == 0)
            return RoleGuess.None;
        var role = Settled(c, beside);
        return role == Role.None ? RoleGuess.None : Confirmed(role, c, beside, getsTheMail);
    }

    /// <summary>Which of several meanings a heading has in this list.</summary>
    static Role Settled(Candidate c, Neighbors beside)
    {
        if (c.Roles.Count == 1)
            return c.Roles[0];
        var names = c.Roles.Where(r => r is Role.FullName or Role.GivenName or Role.FamilyName).ToList();
        if (names.Count > 1)
        {
            // Vorname and Name, Prénom and Nom; Nombre and Apellidos, Nome and Cognome.
            if (c.Can(Role.FamilyName) && beside.Sure(Role.GivenName) && !beside.Sure(Role.FamilyName))
            {
                // But “Okafor, Ana” beside a preferred name is a whole name.
                var whole = c.Facts.Commas > 0.5 || c.Facts.SeveralWords > 0.5 && c.Facts.GivenFirst > 0.3;
                return whole && c.Can(Role.FullName) ? Role.FullName : Role.FamilyName;
            }
            if (c.Can(Role.GivenName) && beside.Sure(Role.FamilyName) && !beside.Sure(Role.GivenName))
                return Role.GivenName;
            return c.Can(Role.FullName) ? Role.FullName : c.Roles[0];
        }
        // Numbers that stand beside a street and are short belong to it.
        if (c.Can(Role.HouseNumber) && c.Can(Role.PostalCode) && (c.Facts.IsBlank || c.Facts.HomeCode > 0.5))
            return Role.PostalCode;
        if (c.Can(Role.HouseNumber))
            return
                beside.Before(c) is { } street
                && street.Can(Role.Street)
                && (c.Facts.IsBlank || c.Facts.ShortNumber > 0.7 && !c.Facts.Counts)
                ? Role.HouseNumber
                : c.Roles.First(r => r != Role.HouseNumber);
        foreach (var part in (Role[])[Role.District, Role.Locality])
            if (c.Can(Role.City) && c.Can(part))
                return beside.Sure(Role.City) ? part : Role.City;
        return c.Roles.FirstOrDefault(r => !beside.Sure(r), c.Roles[0]);
    }

    static RoleGuess Confirmed(Role role, Candidate c, Neighbors beside, bool getsTheMail)
    {
        var facts = c.Facts;
        if (facts.IsBlank)
            return new(role, 80, "the heading");
        // What a heading promises and the values plainly are not.
        if (role is Role.Title && facts.Greeting > 0.5)
            return new(Role.OwnSalutation, 90, "the values: greetings");
        if (role is Role.OwnSalutation && facts.Title > 0.5 && !beside.Sure(Role.Title))
            return new(Role.Title, 90, "the values: titles");
        if (role is Role.DoNotMail)
            return facts.Values.All(v => v.Length <= 40) && facts.Email < 0.5 ? new(role, 90, "the heading") : RoleGuess.None;
        // Mail?
        if (c.Can(Role.MayMail))
            return facts.YesNo >= 0.8 ? new(Role.MayMail, 90, "the heading")
                : c.IsOnly(Role.MayMail) ? RoleGuess.None
                : Confirmed(role, c with { Roles = [role] }, beside, getsTheMail);
        if (role is Role.Title or Role.PartnerTitle && facts.Title < 0.3)
            return RoleGuess.None; // a title of a job
        if (role is Role.FullName or Role.Street && facts.Email > 0.5)
            return new(Role.Email, 90, "the values");
        // Patron, Donor, Member: the person, or the number that they have.
        if (role is Role.FullName && (facts.Lettered < 0.2 || facts.Record > 0.8))
            return facts.Distinct && facts.Record > 0.8 ? new(Role.Key, 70, "the heading and the values") : RoleGuess.None;
        // Amt is a county in Danish and an amount in English.
        if (role is Role.Region or Role.District && facts.Lettered < 0.5)
            return RoleGuess.None;
        if (
            role is Role.PartnerGivenName or Role.PartnerFullName
            && facts.Values.Any(v => v.StartsWith("c/o", StringComparison.OrdinalIgnoreCase))
        )
            return RoleGuess.None;
        // Spouse: Maria, or Maria Lopez.
        if (role is Role.PartnerFullName && facts.SeveralWords < 0.5)
            return new(Role.PartnerGivenName, 90, "the heading and the values");
        if (role is Role.PostalCodeAddOn)
            return facts.AddOn >= 0.8 ? new(role, 97, "the heading")
                : facts.CodeLike >= 0.5 && !beside.Sure(Role.PostalCode) ? new(Role.PostalCode, 97, "the heading")
                : RoleGuess.None;
        if (role is Role.Email && facts.Email < 0.3 && facts.Street > 0.7)
            return new(Role.Street, 70, "the values");
        if (
            role is not (Role.Key or Role.Email or Role.Phone or Role.HouseNumber or Role.Unit)
            && facts.Date + facts.Amount + facts.Email >= 0.8
        )
            return RoleGuess.None;
        if (
            role
                is not (
                    Role.Key
                    or Role.PostalCode
                    or Role.Phone
                    or Role.HouseNumber
                    or Role.Unit
                    or Role.Street2
                    or Role.Street3
                    or Role.DeliveryPoint
                )
            && facts.DigitsOnly >= 0.8
        )
            return role == Role.Street && facts.ShortNumber > 0.8 && beside.OtherCan(c, Role.Street)
                ? new(Role.HouseNumber, 70, "the values")
                : RoleGuess.None;
        if (
            role is not Role.Language
            && facts.YesNo >= 0.9
            && facts.Values.Count > 2
            && role is not (Role.Region or Role.Country or Role.GivenName or Role.FamilyName)
        )
            return RoleGuess.None;
        if (role is Role.Key && (facts.Amount >= 0.5 || facts.Date >= 0.8))
            return RoleGuess.None;
        // A column called Address may hold the whole of it, one called City its postal code too.
        if (
            role is Role.Street or Role.City or Role.WholeAddress
            && (!beside.AnySure(Role.PostalCode) || getsTheMail && facts.StreetWithPlace > 0.7)
            && facts.PlaceWithCode > 0.7
            && (role != Role.Street || facts.StreetWithPlace > 0.7)
        )
            return new(
                Role.WholeAddress,
                85,
                facts.StreetWithPlace > 0.7
                    ? "the values: street, city and postal code together"
                    : "the values: city and postal code together"
            );
        if (role is Role.WholeAddress && facts.StreetWithPlace < 0.5 && facts.PlaceWithCode < 0.5 && beside.AnySure(Role.City))
            return beside.OtherCan(c, Role.Street) ? RoleGuess.None : new(Role.Street, 70, "the values");
        var fits = role switch
        {
            Role.Email => facts.Email,
            Role.PostalCode => facts.CodeLike,
            Role.Phone => facts.Phone,
            Role.Country => facts.CountryNamed,
            Role.Language => facts.Language,
            _ => 1,
        };
        if (role is Role.Language && fits < 0.3)
            return RoleGuess.None;
        return fits >= 0.5 ? new(role, 97, "the heading") : new(role, 60, "the heading, though the values look different");
    }

    static RoleGuess ByValues(ColumnFacts facts, Func<Role, bool> claimed, Neighbors beside)
    {
        if (facts.Values.Count < 3)
            return RoleGuess.None;
        foreach (var (role, confidence, share) in Tests(facts, beside))
        {
            if (share() is var found && found >= 0.8 && !claimed(role))
                return new(role, (int)(confidence * found), "the values");
        }
        // Given names repeat, and enough of them are well known.
        if (facts.GivenName > 0.3 && !claimed(Role.FullName))
        {
            if (facts.SeveralWords > 0.7)
                return claimed(Role.GivenName) ? RoleGuess.None : new(Role.FullName, 60, "the values");
            return claimed(Role.GivenName) ? RoleGuess.None : new(Role.GivenName, 65, "the values");
        }
        if (!claimed(Role.Key) && facts.Distinct && facts.Values.Count > 20 && facts.Record > 0.98 && facts.Date < 0.5)
            return new(Role.Key, 60, "the values: each occurs once");
        return RoleGuess.None;
    }

    static IEnumerable<(Role, int, Func<double>)> Tests(ColumnFacts facts, Neighbors beside)
    {
        yield return (Role.Email, 95, () => facts.Email);
        // A whole address beside a city or a postal code is none: it is a street.
        yield return (Role.WholeAddress, 85, () => beside.HasPlace(facts) ? 0 : facts.PlaceWithCode);
        yield return (Role.Title, 90, () => facts.Title);
        yield return (Role.Country, 90, () => facts.Country);
        yield return (Role.Region, 85, () => facts.HomeRegion);
        yield return (Role.Language, 80, () => facts.Language);
        // Nine digits and more: a date has eight.
        yield return (Role.Phone, 80, () => facts.SurePhone);
        // A code that lost its zero looks like a year; values alone do not make it a postal code. Nor do numbers that somebody counted.
        yield return (Role.PostalCode, 70, () => facts.Counts || facts.Amount > 0.2 ? 0 : facts.HomeCode);
        yield return (Role.Street, 80, () => facts.Lettered < 0.8 ? 0 : facts.Street);
    }

    /// <summary>A role that would drop a part of the address is taken back: a whole address beside its parts, a second line without a
    /// first.</summary>
    static void WithoutLosses(List<RoleGuess> guesses, List<Candidate> columns)
    {
        int At(Role role) => guesses.FindIndex(g => g.Role == role);
        if (At(Role.WholeAddress) is var whole and >= 0 && At(Role.City) >= 0 && At(Role.PostalCode) >= 0)
            guesses[whole] =
                At(Role.Street) < 0 && columns[whole].Facts.StreetWithPlace < 0.5 ? new(Role.Street, 70, "the values") : RoleGuess.None;
        foreach (var (role, instead) in new[] { (Role.Street2, Role.Street), (Role.Street3, Role.Street2) })
            if (At(instead) < 0 && At(role) is var only and >= 0 && At(Role.WholeAddress) < 0 && At(Role.Street) < 0)
                guesses[only] = guesses[only] with { Role = instead };
    }
}
