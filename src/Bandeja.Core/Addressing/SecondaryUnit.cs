namespace Bandeja.Core.Addressing;

/// <summary>Secondary units of North American addresses: apartments, suites, floors (USPS Publication 28, section 213 and appendix C2).</summary>
public static class SecondaryUnit
{
    static readonly HashSet<string> Designators = new(StringComparer.OrdinalIgnoreCase)
    {
        "apartment", "apt", "basement", "bsmt", "building", "bldg", "department", "dept", "floor", "fl", "front", "frnt", "hangar", "hngr", "key", "lobby", "lbby", "lot", "lower", "lowr",
        "office", "ofc", "penthouse", "ph", "pier", "rear", "room", "rm", "side", "slip", "space", "spc", "stop", "suite", "ste", "trailer", "trlr", "unit", "upper", "uppr", "no",
    };

    /// <summary>True where a line is a unit of a building: <c>Apt 3</c>, <c>Suite 500</c>, <c># 12</c>, <c>2nd Floor</c>.</summary>
    public static bool IsUnit(string line)
    {
        if (line.StartsWith('#')) return true;
        var space = line.IndexOf(' ');
        var first = (space < 0 ? line : line[..space]).TrimEnd('.', ',');
        if (Designators.Contains(first)) return line.Length <= 30;
        return space > 0 && Designators.Contains(line[(line.LastIndexOf(' ') + 1)..].TrimEnd('.')) && char.IsAsciiDigit(line[0]);
    }
}
