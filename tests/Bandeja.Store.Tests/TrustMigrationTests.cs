using Dapper;
using DbUp;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Tests;

/// <summary>What was stored before households had members of their own, and before issues outlived their run.</summary>
public sealed class TrustMigrationTests
{
    [Fact]
    public void Households_and_issues_of_an_older_database_are_still_there()
    {
        var path = Path.Combine(Path.GetTempPath(), $"bandeja-{Guid.NewGuid():N}.sqlite");
        var connection = $"Data Source={path};Foreign Keys=True;Pooling=False";
        try
        {
            var before = DeployChanges
                .To.SqliteDatabase(connection)
                .WithScriptsEmbeddedInAssembly(
                    typeof(Database).Assembly,
                    n =>
                        n.Contains(".Migrations.", StringComparison.Ordinal)
                        && n.EndsWith(".sql", StringComparison.Ordinal)
                        && string.CompareOrdinal(n, n.IndexOf(".000", StringComparison.Ordinal) + 1, "0008", 0, 4) < 0
                )
                .WithTransactionPerScript()
                .LogToNowhere()
                .Build()
                .PerformUpgrade();
            Assert.True(before.Successful, before.Error?.ToString());
            using (var c = new SqliteConnection(connection))
            {
                c.Open();
                c.Execute(
                    """
                    INSERT INTO list (id, name, state, created_at, created_by) VALUES (1, 'Members', 'ready', '2027-03-01', 'A');
                    INSERT INTO list_column (list_id, id, position, name, type, role, kind)
                        VALUES (1, 1, 1, 'First', 'Text', 'GivenName', 'Source'), (1, 2, 2, 'Addressed to', 'Text', 'None', 'Hand');
                    INSERT INTO action (id, list_id, label, at, by) VALUES (4, 1, 'Addressed one piece to a household', '2027-03-01', 'A');
                    INSERT INTO household_member (list_id, recipient_id, addressee_id, action_id)
                        VALUES (1, 11, 11, 4), (1, 13, 11, 4), (1, 12, 11, 4), (1, 22, 21, 4);
                    INSERT INTO design (id, name, kind, list_id, created_at, created_by) VALUES (3, 'Note', 'email', 1, '2027-03-01', 'A');
                    INSERT INTO design_version (id, design_id, number, document_json, created_at, updated_at, by, sealed)
                        VALUES (7, 3, 1, '{}', '2027-03-01', '2027-03-01', 'A', 1);
                    INSERT INTO campaign (id, name, created_at, created_by) VALUES (1, 'Renewal', '2027-03-01', 'A');
                    INSERT INTO mail_drop (id, campaign_id, number, name, list_id, created_at, created_by)
                        VALUES (5, 1, 1, 'First', 1, '2027-03-01', 'A');
                    """
                );
            }
            using var database = new Database(path);
            using var now = database.Open();
            Assert.Equal(
                [(11L, 11L), (12, 11), (13, 11), (21, 21), (22, 21)],
                now.Query<(long, long)>("SELECT recipient_id, household_id FROM household_person ORDER BY household_id, position")
            );
            Assert.Equal("AddressedTo", now.QuerySingle<string>("SELECT role FROM list_column WHERE id = 2"));
            // The act that made them is still there to be undone, with what it made.
            Assert.Equal(
                2,
                now.Query(
                        "SELECT * FROM household_change WHERE action_id = 4 AND old_json IS NULL AND new_json LIKE '%11,12,13%' OR "
                            + "new_json LIKE '%21,22%'"
                    )
                    .Count()
            );
            Assert.Empty(now.Query("SELECT * FROM piece_doubt"));
            Assert.Equal(1, now.QuerySingle<long>("SELECT revision FROM design_version WHERE id = 7"));
        }
        finally
        {
            File.Delete(path);
        }
    }
}
