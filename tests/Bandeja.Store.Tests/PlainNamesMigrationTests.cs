using Dapper;

namespace Bandeja.Store.Tests;

/// <summary>What was stored while the organization, the tray “Needs review”, and excluded messages had other names.</summary>
public sealed class PlainNamesMigrationTests
{
    [Fact]
    public void What_was_stored_under_the_old_names_is_found_under_the_new_ones()
    {
        var path = Path.Combine(Path.GetTempPath(), $"bandeja-{Guid.NewGuid():N}.sqlite");
        try
        {
            OlderDatabase.Make(
                path,
                "0024",
                """
                INSERT INTO setting VALUES ('organisation', 'Tern Island Ferry'),
                    ('salutations', '{"en":["Dear {Organisation}","Dear {Organisation | upper}, an Organisation"]}');
                INSERT INTO list (id, name, state, created_at, created_by) VALUES (1, 'Members', 'ready', '2027-03-01', 'A');
                INSERT INTO list_column (list_id, id, position, name, type, role, kind)
                    VALUES (1, 1, 1, 'Organisation', 'Text', 'Organisation', 'Source'), (1, 2, 2, 'City', 'Text', 'City', 'Source');
                INSERT INTO action (id, list_id, label, at, by) VALUES (4, 1, 'Set a column', '2027-03-01', 'A');
                INSERT INTO column_change (list_id, column_id, old_json, new_json, action_id)
                    VALUES (1, 1, '{"name":"Organisation","role":"None"}', '{"name":"Organisation","role":"Organisation"}', 4);
                INSERT INTO design (id, name, kind, list_id, created_at, created_by) VALUES (3, 'Note', 'email', 1, '2027-03-01', 'A');
                INSERT INTO design_version (id, design_id, number, document_json, created_at, updated_at, by, sealed)
                    VALUES (7, 3, 1, '{}', '2027-03-01', '2027-03-01', 'A', 1);
                INSERT INTO campaign (id, name, created_at, created_by) VALUES (1, 'Renewal', '2027-03-01', 'A');
                INSERT INTO mail_drop (id, campaign_id, number, name, list_id, created_at, created_by)
                    VALUES (5, 1, 1, 'First', 1, '2027-03-01', 'A');
                INSERT INTO drop_recipient (drop_id, recipient_id, piece_number, tray)
                    VALUES (5, 11, 1, 'NeedsALook'), (5, 12, 2, 'Ready'), (5, 13, 3, 'NeedsALook');
                INSERT INTO run (id, drop_id, number, state, pieces, pages, as_of_change, today, chosen, created_at, created_by, frozen_json)
                    VALUES (9, 5, 1, 'done', 2, 0, 0, '2027-03-02', 'all', '2027-03-02', 'A',
                        '{"Organisation":{"Name":"Tern Island Ferry","Locale":"en-US"},"Ladders":{"en":["Dear {Organisation}"]},'
                        || '"Columns":[{"Id":1,"Name":"Organisation","Expression":"{Organisation}"}]}'),
                    (10, 5, 2, 'done', 0, 0, 0, '2027-03-02', 'all', '2027-03-02', 'A', NULL);
                INSERT INTO run_mail (run_id, recipient_id, position, message_id, token, state, words)
                    VALUES (9, 11, 0, 'a@example.org', 't1', 'left out', 'Held'), (9, 12, 1, 'b@example.org', 't2', 'doubt', NULL);
                """
            );
            using var database = new Database(path);
            using var now = database.Open();
            var settings = new SettingStore(database);
            Assert.Equal("Tern Island Ferry", settings.Organization().Name);
            Assert.Equal(["Dear {Organization}", "Dear {Organization | upper}, an Organisation"], settings.Ladders().Of("en").Forms);
            // A heading is the user's own and stays as it is written.
            Assert.Equal(
                [("Organisation", "Organization"), ("City", "City")],
                now.Query<(string, string)>("SELECT name, role FROM list_column ORDER BY id")
            );
            Assert.Equal(
                ("None", "Organization", "Organisation"),
                now.QuerySingle<(string, string, string)>(
                    "SELECT old_json ->> '$.role', new_json ->> '$.role', new_json ->> '$.name' FROM column_change"
                )
            );
            Assert.Equal(
                ("Tern Island Ferry", "Dear {Organization}", "Organisation", "{Organisation}"),
                now.QuerySingle<(string, string, string, string)>(
                    "SELECT frozen_json ->> '$.Organization.Name', frozen_json ->> '$.Ladders.en[0]', frozen_json ->> '$.Columns[0].Name', "
                        + "frozen_json ->> '$.Columns[0].Expression' FROM run WHERE id = 9 AND frozen_json ->> '$.Organisation' IS NULL"
                )
            );
            Assert.Null(now.QuerySingle<string?>("SELECT frozen_json FROM run WHERE id = 10"));
            Assert.Equal(
                [(1L, "NeedsReview"), (2, "Ready"), (3, "NeedsReview")],
                now.Query<(long, string)>("SELECT piece_number, tray FROM drop_recipient ORDER BY piece_number")
            );
            // The sums are those of a recount.
            Assert.Equal(
                [("NeedsReview", 2L), ("Ready", 1)],
                now.Query<(string, long)>("SELECT what, pieces FROM drop_sum WHERE pieces > 0 ORDER BY what")
            );
            Assert.Equal(
                [("excluded", "Held"), ("doubt", null)],
                now.Query<(string, string?)>("SELECT state, words FROM run_mail ORDER BY position")
            );
            Assert.Equal(12, now.QuerySingle<long>("SELECT recipient_id FROM piece_doubt"));
            Assert.Empty(now.Query("PRAGMA foreign_key_check"));
        }
        finally
        {
            File.Delete(path);
        }
    }
}
