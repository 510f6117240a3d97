namespace Bandeja.Demo;

/// <summary>Made-up people and places of the demo's world. Nobody here exists.</summary>
static class Names
{
    /// <summary>Given and family names that go together, by culture.</summary>
    public static readonly (string[] Given, string[] Family)[] Cultures =
    [
        (
            ["Mary", "James", "Linda", "Robert", "Susan", "Walter", "Ruth", "Harold", "Rowan", "Beatrice", "Persephone", "Declan"],
            ["Abernathy", "Halloway", "Whitcombe", "McKay", "O'Neill", "Thackeray", "Fairweather", "Lockridge", "Pemberton", "Stonehouse"]
        ),
        (
            ["Ana", "Luis", "José", "Beatriz", "Carmen", "Inés", "Rafael", "Dolores"],
            ["Ortega", "Muñoz", "Fernández", "de la Cruz", "Castañeda", "Villanueva", "Quint"]
        ),
        (["Chidi", "Ngozi", "Amara", "Emeka", "Adaeze"], ["Okafor", "Okonkwo", "Nwosu", "Eze", "Adeyemi"]),
        (["Meera", "Arjun", "Kavya", "Rohan", "Lakshmi"], ["Gupta", "Rao", "Iyer", "Banerjee", "Nair"]),
        (["Wei", "Mei", "Jun", "Li", "Xin"], ["Zhang", "Chen", "Liu", "Wang", "Huang"]),
        (["Emi", "Kenji", "Haruka", "Takumi", "Yuki"], ["Nakagawa", "Sato", "Fujimoto", "Yamada", "Mori"]),
        (["Thị Ánh", "Minh", "Hương", "Quốc", "Lan"], ["Nguyễn", "Trần", "Phạm", "Lê", "Đặng"]),
        (["Sigrid", "Per", "Ingrid", "Bjørn", "Åsa"], ["Halvorsen", "Lindqvist", "Sørensen", "Ångström", "Nyström"]),
        (["Jürg", "Ursula", "Heinz", "Käthe", "Björn"], ["Meier", "Müller", "von der Heide", "Schäfer", "Weiß"]),
        (["Dmitri", "Olga", "Piotr", "Zofia", "Łukasz"], ["Petrov", "Kowalski", "Wójcik", "Ivanova", "Żak"]),
        (["Inès", "Étienne", "Chloé", "Jérôme"], ["Duval", "Lefèvre", "d'Aubigny", "Moreau"]),
        (["Ελένη", "Νίκος", "Σοφία"], ["Παπαδοπούλου", "Γεωργίου", "Νικολαΐδης"]),
        (["Layla", "Omar", "Yasmin", "Karim"], ["Haddad", "al-Masri", "Nasser", "Khoury"]),
        (["Inês", "João", "Conceição"], ["Fernandes", "Gonçalves", "Magalhães"]),
    ];

    /// <summary>Invented towns with postal codes that agree with their region.</summary>
    public static readonly (string City, string Region, string Code, int Weight)[] Towns =
    [
        ("Fernquay", "OR", "97412", 46),
        ("Tide Hollow", "OR", "97415", 12),
        ("Saltmarsh", "OR", "97420", 11),
        ("Alder Point", "OR", "97413", 9),
        ("Gull Harbor", "OR", "97424", 5),
        ("Larkspur Gap", "WA", "98112", 4),
        ("Port Ansel", "CA", "94110", 4),
        ("Millbrook Ferry", "MA", "02139", 3),
        ("Cedar Landing", "NJ", "07030", 2),
        ("Quarry Bend", "CT", "06510", 2),
        ("Juniper Wells", "AZ", "85004", 2),
    ];

    /// <summary>Streets of the towns.</summary>
    public static readonly string[] Streets =
    [
        "Lantern Row",
        "Quay Road",
        "Mill Lane",
        "Heron Court",
        "Tide Street",
        "Bell Street",
        "Gull Walk",
        "Abbey Lane",
        "Orchard Terrace",
        "Kelp Avenue",
        "Foundry Street",
        "Glasshouse Road",
    ];

    /// <summary>Places abroad: street, city, region, code, country.</summary>
    public static readonly (string Street, string City, string Region, string Code, string Country)[] Abroad =
    [
        ("3 Abbey Lane", "Cork", "", "T12 X4P8", "Ireland"),
        ("Ekgatan 4", "Malmö", "", "211 19", "Sweden"),
        ("2-1 Kita 3-jo Nishi, Chuo-ku", "Sapporo", "", "060-0042", "Japan"),
        ("Lindenstrasse 12", "Zürich", "", "8005", "Switzerland"),
        ("88 Rue des Tilleuls", "Nantes", "", "44000", "France"),
        ("17 Maple Crescent", "Nelson", "BC", "V1L 4B3", "Canada"),
    ];

    /// <summary>Organizations that are members.</summary>
    public static readonly string[] Organizations =
    [
        "Okafor Ceramics",
        "Tide Hollow School",
        "Fernquay Rotary Kitchen",
        "Saltmarsh Bird Society",
        "Harbor Light Books",
        "Thistle & Co.",
        "Alder Point Ferry",
        "Lantern Row Bakery",
        "The Cooperative Society of Coastal Orchardists, Beekeepers and Seed Savers of Fernquay and Saltmarsh",
    ];

    /// <summary>Membership levels and their yearly fee in dollars.</summary>
    public static readonly (string Name, decimal Fee)[] Levels =
    [
        ("Friend", 64m),
        ("Household", 96m),
        ("Student", 28m),
        ("Patron", 250m),
        ("Guardian", 1250m),
    ];

    /// <summary>Plants that can be adopted.</summary>
    public static readonly string[] Plants =
    [
        "Handkerchief tree, west lawn",
        "Monkey puzzle, quay wall",
        "Titan arum, glasshouse",
        "Coast redwood, north gate",
        "Tree fern, fernery",
        "Ginkgo, riverside path",
        "Blue poppy, alpine bed",
        "Camellia, tea garden",
    ];
}
