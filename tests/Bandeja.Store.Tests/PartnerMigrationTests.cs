using Bandeja.Core.Lists;
using Bandeja.Store.Lists;

namespace Bandeja.Store.Tests;

/// <summary>Partners' whole names in lists from before they had a role of their own.</summary>
public sealed class PartnerMigrationTests
{
    [Theory]
    [InlineData("Spouse", "Maria Lopez", "Ana van der Berg", "PartnerGivenName", Role.PartnerFullName)]
    [InlineData("OWNER 2", "OKAFOR ANA", "KLEIN PER", "PartnerGivenName", Role.PartnerFullName)]
    [InlineData("Spouse", "Maria", "Ana", "PartnerGivenName", Role.PartnerGivenName)]
    [InlineData("Spouse first name", "Mary Ann", "Lou Ann", "PartnerGivenName", Role.PartnerGivenName)]
    [InlineData("Spouse", "Maria Lopez", "Ana Klein", "None", Role.None)]
    public void A_column_of_them_gets_it(string heading, string first, string second, string before, Role now)
    {
        var path = Path.Combine(Path.GetTempPath(), $"bandeja-{Guid.NewGuid():N}.sqlite");
        try
        {
            OlderDatabase.Make(
                path,
                "0028",
                $"""
                INSERT INTO list (id, name, state, created_at, created_by) VALUES (1, 'Members', 'ready', '2027-03-01', 'A');
                INSERT INTO list_column (list_id, id, position, name, type, role, kind)
                    VALUES (1, 1, 1, 'First', 'Text', 'GivenName', 'Source'), (1, 2, 2, '{heading}', 'Text', '{before}', 'Source');
                CREATE TABLE rows_1 (id INTEGER PRIMARY KEY, n INTEGER NOT NULL, find TEXT NOT NULL, gone INTEGER, hand INTEGER, c1 TEXT,
                    c2 TEXT);
                INSERT INTO rows_1 (id, n, find, c1, c2) VALUES (1, 1, '', 'Per', '{first}'), (2, 2, '', 'Luis', '{second}'),
                    (3, 3, '', 'Kim', NULL), (4, 4, '', 'Noor', ' ');
                """
            );
            using var database = new Database(path);
            using var c = database.Open();
            Assert.Equal([Role.GivenName, now], RowTable.Columns(c, 1).Select(x => x.Role));
        }
        finally
        {
            File.Delete(path);
        }
    }

    [Fact]
    public void Where_the_family_name_has_a_column_the_given_name_keeps_its_own()
    {
        var path = Path.Combine(Path.GetTempPath(), $"bandeja-{Guid.NewGuid():N}.sqlite");
        try
        {
            OlderDatabase.Make(
                path,
                "0028",
                """
                INSERT INTO list (id, name, state, created_at, created_by) VALUES (1, 'Members', 'ready', '2027-03-01', 'A');
                INSERT INTO list_column (list_id, id, position, name, type, role, kind) VALUES
                    (1, 1, 1, 'Spouse', 'Text', 'PartnerGivenName', 'Source'),
                    (1, 2, 2, 'Spouse last', 'Text', 'PartnerFamilyName', 'Source');
                CREATE TABLE rows_1 (id INTEGER PRIMARY KEY, n INTEGER NOT NULL, find TEXT NOT NULL, gone INTEGER, hand INTEGER, c1 TEXT,
                    c2 TEXT);
                INSERT INTO rows_1 (id, n, find, c1, c2) VALUES (1, 1, '', 'Mary Ann', 'Lopez');
                """
            );
            using var database = new Database(path);
            using var c = database.Open();
            Assert.Equal([Role.PartnerGivenName, Role.PartnerFamilyName], RowTable.Columns(c, 1).Select(x => x.Role));
        }
        finally
        {
            File.Delete(path);
        }
    }
}
