using Dapper;

namespace Bandeja.Store.Tests;

/// <summary>What was stored before households had members of their own, and before issues outlived their run.</summary>
public sealed class TrustMigrationTests
{
    [Fact]
    public void Households_and_issues_of_an_older_database_are_still_there()
    {
        var path = Path.Combine(Path.GetTempPath(), $"bandeja-{Guid.NewGuid():N}.sqlite");
        try
        {
            OlderDatabase.Make(
                path,
                "0008",
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
                INSERT INTO drop_recipient (drop_id, recipient_id, piece_number, tray) VALUES (5, 11, 1, 'Ready');
                INSERT INTO finding VALUES (5, 11, 'Blank|First|', 'Blank|First', 'Blank', 'First', '', 'First is blank.');
                INSERT INTO doubt VALUES (1, 12, 'Spaces', 1, 'Stray spaces.', NULL);
                INSERT INTO doubt_left VALUES (1, 13, 'Spaces', 1, ' Ana', '2027-03-01', 'A', 4);
                INSERT INTO twin VALUES (1, 11, 12, 'SameEmail', 100);
                INSERT INTO twin_different VALUES (1, 21, 22, 4);
                UPDATE list SET twins_mark = 'as of then' WHERE id = 1;
                INSERT INTO job (kind, subject_id, state, label, created_at, created_by)
                    VALUES ('twins', 1, 'queued', 'Duplicates', '2027-03-01', 'A');
                """
            );
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
            // What has another name by now has lost nothing.
            Assert.Equal("First is blank.", now.QuerySingle<string>("SELECT message FROM piece_issue WHERE drop_id = 5"));
            Assert.Equal("Stray spaces.", now.QuerySingle<string>("SELECT message FROM check_issue WHERE recipient_id = 12"));
            Assert.Equal(" Ana", now.QuerySingle<string>("SELECT value FROM accepted_issue WHERE recipient_id = 13"));
            Assert.Equal((11L, 12L), now.QuerySingle<(long, long)>("SELECT a, b FROM duplicate"));
            Assert.Equal((21L, 22L), now.QuerySingle<(long, long)>("SELECT a, b FROM not_duplicate"));
            Assert.Equal("as of then", now.QuerySingle<string>("SELECT duplicates_mark FROM list WHERE id = 1"));
            Assert.Equal("duplicates", now.QuerySingle<string>("SELECT kind FROM job"));
            Assert.Equal(1, now.QuerySingle<long>("SELECT revision FROM design_version WHERE id = 7"));
        }
        finally
        {
            File.Delete(path);
        }
    }
}
